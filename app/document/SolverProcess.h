// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "document/Document.h"

#include <QObject>
#include <QProcess>
#include <QTimer>
#include <deque>
#include <string>

namespace kiln
{

struct RefineRecord;

/// Runs `ukiln` as a child process on a snapshot of the project, one case after the other, and hands its progress,
/// results and failures to the document. A crash or cancel in there touches neither the open project nor older results.
class SolverProcess : public QObject
{
  Q_OBJECT

public:
  explicit SolverProcess(Document& document, QObject* parent = nullptr);
  ~SolverProcess() override;

  [[nodiscard]] bool isRunningTransient() const;
  [[nodiscard]] bool isRunning() const { return process_.state() != QProcess::NotRunning; }
  [[nodiscard]] QString program() const { return program_; }
  void setProgram(const QString& program) { program_ = program; } ///< for tests
  /// More than these are asked about first; 0: as many as fit into half of this machine's memory.
  void setMostElements(double count) { mostElements_ = count; }
  [[nodiscard]] qint64 processId() const { return process_.processId(); }

public slots:
  void solve(const std::vector<std::string>& caseIds);
  /// A transient case goes on from where its last run stopped.
  void goOn(const std::string& caseId);
  /// Solves a steady case on three meshes.
  void askHowSure(const std::string& caseId);
  /// Solves with smaller elements where it matters, until the hottest place moves by less than \p within ("2 K").
  void refine(const std::string& caseId, const QString& within);
  /// Ends the running transient case and keeps what it has.
  void endRun();
  /// Fuses and meshes only, so that there is something to see and to check before the first solve.
  void prepare();
  /// Does what was refused as too large, now that it is allowed.
  void doLarge();
  void cancel();

signals:
  void runningChanged();
  void failed(const QString& sentence);
  void told(const QString& sentence);     ///< what a job has found out
  void tooLarge(const QString& sentence); ///< a job would need more than usual: see doLarge()

private:
  struct Job {
    enum class Kind { Prepare, Solve, GoOn, Sure, Refine };
    Kind kind = Kind::Prepare;
    std::string caseId, caseName; ///< empty: prepare only
    QString within{};             ///< of a refinement
    bool large = false;           ///< whatever it needs
  };

  void start(const std::string& caseId, Job::Kind kind, const QString& within = {});
  void sendLimits();
  void takeRefinement(const RefineRecord& record);

  void startNext();
  void dropFollowers(const std::string& failedCase);
  void readProgress();
  void readRun();
  void showStoredRun(const std::string& caseId);
  void finished(int exitCode, QProcess::ExitStatus status);
  void loadOutcome(const Job& job);
  [[nodiscard]] bool writeSnapshot();

  Document& document_;
  QProcess process_;
  QString program_;
  std::deque<Job> waiting_;
  Job current_;
  std::optional<TransientRun> limits_; ///< of the running case, as the child knows them
  QString failure_;                    ///< sentence from the child
  bool cancelled_ = false, tooLarge_ = false;
  double mostElements_ = 0;
  QTimer grow_; ///< looks for what a running case has stored
};

} // namespace kiln
