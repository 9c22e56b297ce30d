// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include <QProcess>
#include <QStringList>
#include <functional>

/// `ukiln` run as a user runs it.
namespace kiln::test
{

struct Outcome {
  int code = -1;
  QString out, error;
  bool crashed = false;
};

/// \param inChild  called in the child before it becomes `ukiln`, as to limit what it may take
inline Outcome run(const QStringList& arguments, const std::function<void()>& inChild = {})
{
  constexpr int patience = 300'000; // ms
  QProcess process;
  if (inChild)
    process.setChildProcessModifier(inChild);
  process.start(UKILN, arguments);
  process.waitForFinished(patience);
  return {process.exitCode(), QString::fromUtf8(process.readAllStandardOutput()),
          QString::fromUtf8(process.readAllStandardError()), process.exitStatus() == QProcess::CrashExit};
}

} // namespace kiln::test
