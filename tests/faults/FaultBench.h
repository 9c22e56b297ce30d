// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "TransientProjects.h"
#include "Trials.h"
#include "io/CaseStore.h"
#include "io/ProjectFile.h"
#include "run/CaseRun.h"

#include <QElapsedTimer>
#include <QFile>
#include <QProcess>
#include <filesystem>

/// `ukiln` run with faults injected, and what it left behind.
namespace kiln::test
{

struct FaultOutcome {
  int code = -1;
  bool killed = false, hung = false;
  QString said;
};

/// When and how `ukiln` fails.
struct Fault {
  QString mode;  ///< "kill", "full", "denied", or empty: none
  long at = 0;   ///< the change of a file at which it happens
  int after = 0; ///< ms after its start at which it is killed; 0: not by time
};

/// A fault at any of a run's changes of files, or at any time while it lasts (ms).
inline Fault anyFault(const QString& mode, long changes, long lasts, Random& random)
{
  if (mode == "time")
    return {{}, 0, static_cast<int>(1 + below(random, lasts))};
  return {mode, 1 + below(random, changes), 0};
}

class FaultBench
{
public:
  FaultBench() { std::filesystem::create_directories(path("base")); }
  [[nodiscard]] std::filesystem::path path(const std::string& name) const
  {
    return std::filesystem::path(folder_.path().toStdString()) / name;
  }
  void write(const Project& project, const std::string& name = "p.kiln") const
  {
    if (!saveProject(project, path(name)))
      throw std::runtime_error("test project not written");
  }

  /// Runs `ukiln` on the project with its results in \p results.
  [[nodiscard]] FaultOutcome run(const QStringList& arguments, const std::string& results,
                                 const Fault& fault = {}) const
  {
    return start(QStringList(arguments) << QString::fromStdString(path("p.kiln").string()) << "--out"
                                        << QString::fromStdString(path(results).string()),
                 results, fault);
  }

  /// The same for a command that has no folder of results; faults strike in \p folder.
  [[nodiscard]] FaultOutcome runPlain(const QStringList& arguments, const std::string& folder,
                                      const Fault& fault = {}) const
  {
    return start(QStringList(arguments) << QString::fromStdString(path("p.kiln").string()), folder, fault);
  }

  /// How many changes of files a run makes.
  [[nodiscard]] long changesOf(const QStringList& arguments, const std::string& results)
  {
    tell_ = true;
    static_cast<void>(run(arguments, results));
    tell_ = false;
    QFile count(QString::fromStdString(path("count").string()));
    return count.open(QIODevice::ReadOnly) ? count.readAll().trimmed().toLong() : 0;
  }

  /// A fresh copy of a folder of results.
  void copy(const std::string& from, const std::string& to) const
  {
    std::filesystem::remove_all(path(to));
    std::filesystem::copy(path(from), path(to), std::filesystem::copy_options::recursive);
  }

private:
  [[nodiscard]] FaultOutcome start(const QStringList& arguments, const std::string& results, const Fault& fault) const
  {
    QProcess process;
    QProcessEnvironment environment = QProcessEnvironment::systemEnvironment();
    environment.insert("OPENBLAS_NUM_THREADS", "1");
    if (!fault.mode.isEmpty() || tell_) {
      environment.insert("LD_PRELOAD", KILN_FAULT_SHIM);
      environment.insert("ASAN_OPTIONS",
                         "detect_leaks=0:verify_asan_link_order=0"); // the shim comes before checked code
      environment.insert("KILN_FAULT_FOLDER", QString::fromStdString(path(results).string()));
      environment.insert("KILN_FAULT_MODE", fault.mode);
      environment.insert("KILN_FAULT_AT", QString::number(fault.at));
      environment.insert("KILN_FAULT_TELL", QString::fromStdString(path("count").string()));
    }
    process.setProcessEnvironment(environment);
    process.setProcessChannelMode(QProcess::MergedChannels);
    process.start(UKILN, arguments);
    if (fault.after > 0) {
      if (!process.waitForFinished(fault.after))
        process.kill();
      process.waitForFinished();
    }
    FaultOutcome outcome;
    constexpr int patience = 60'000; // ms
    outcome.hung = !process.waitForFinished(patience) && process.state() != QProcess::NotRunning;
    if (outcome.hung)
      process.kill();
    process.waitForFinished();
    outcome.killed = process.exitStatus() == QProcess::CrashExit;
    outcome.code = process.exitCode();
    outcome.said = QString::fromUtf8(process.readAll());
    return outcome;
  }

  QTemporaryDir folder_;
  bool tell_ = false;
};

} // namespace kiln::test
