// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "document/SolverProgram.h"

#include <QCoreApplication>
#include <QFileInfo>
#include <QProcess>

namespace kiln
{

QString solverProgram()
{
  const QString here = QCoreApplication::applicationDirPath();
  for (const char* place : {"/ukiln", "/../bin/ukiln"})
    if (const QFileInfo program(here + place); program.isExecutable())
      return program.canonicalFilePath();
  return here + "/ukiln";
}

bool isReadableRun(const std::filesystem::path& file)
{
  QProcess process;
  process.setStandardOutputFile(QProcess::nullDevice());
  process.setStandardErrorFile(QProcess::nullDevice());
  process.start(solverProgram(), {"readable", QString::fromStdString(file.string())});
  constexpr int patience = 4000; // ms
  const bool ended = process.waitForFinished(patience);
  if (!ended) {
    process.kill();
    process.waitForFinished();
  }
  return ended && process.exitStatus() == QProcess::NormalExit && process.exitCode() == 0;
}

} // namespace kiln
