// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "document/Document.h"
#include "document/SolverJob.h"
#include "run/JobQueue.h"

#include <QObject>
#include <QTimer>
#include <map>
#include <memory>
#include <optional>
#include <string>

namespace kiln
{

struct RefineRecord;

/// What the window has the solver do, in order, as much at a time as was asked for and memory allows; hands progress,
/// results and failures to the document. One that fails holds up only what starts from it.
class SolverQueue : public QObject
{
  Q_OBJECT

public:
  explicit SolverQueue(Document& document, QObject* parent = nullptr);
  ~SolverQueue() override;

  [[nodiscard]] bool isRunning() const { return !jobs_.empty(); }
  /// Is a transient case running: the shown one, or any?
  [[nodiscard]] bool isRunningTransient() const { return runningTransient() != nullptr; }
  [[nodiscard]] QString program() const { return manner_.program; }
  void setProgram(const QString& program) { manner_.program = program; } ///< for tests
  void setMostElements(double count) { manner_.mostElements = count; }
  void setNice(bool nice) { manner_.nice = nice; }
  void setAtATime(int most);
  [[nodiscard]] int atATime() const { return manner_.atATime; }
  /// From now on cases are handed to a workload manager, whatever is solved here meanwhile.
  void setCluster(bool cluster);
  [[nodiscard]] bool isCluster() const { return manner_.cluster; }
  /// Names of cases that an earlier window has handed to a workload manager and not taken up.
  [[nodiscard]] QStringList handedIn() const;
  [[nodiscard]] qint64 processId() const; ///< of one that runs

  [[nodiscard]] const JobQueue& queue() const { return queue_; }
  [[nodiscard]] const SolverWork* work(const std::string& jobId) const;
  /// The process at it; nullptr where it does not run.
  [[nodiscard]] SolverJob* running(const std::string& jobId) const;
  /// How long one that is over took, s; nothing: it has not run.
  [[nodiscard]] std::optional<double> lasted(const std::string& jobId) const;

public slots:
  void solve(const std::vector<std::string>& caseIds);
  /// A transient case goes on from where its last run stopped.
  void goOn(const std::string& caseId);
  /// Solves a steady case on three meshes.
  void askHowSure(const std::string& caseId);
  /// Solves the points of a question that are not known yet, here or on a cluster.
  void ask(const std::string& questionId, bool cluster = false);
  /// Solves with smaller elements where it matters, until the hottest place moves by less than \p within ("2 K").
  void refine(const std::string& caseId, const QString& within);
  /// Ends the running transient case and keeps what it has.
  void endRun();
  /// Fuses and meshes only, so that there is something to see and to check before the first solve.
  void prepare();
  /// Does what was refused as too large, now that it is allowed.
  void doLarge();
  /// Ends what runs and forgets what waits.
  void cancel();
  /// The same, but what was handed to a workload manager goes on there.
  void letGo();
  /// Ends one that runs, takes out one that waits.
  void cancelOne(const std::string& jobId);
  void moveBefore(const std::string& jobId, const std::string& before);
  /// Nothing more starts; what runs goes on.
  void pause(bool paused);
  /// What waits is forgotten, what runs goes on.
  void stopAfterThis();
  void clearOver();

signals:
  void runningChanged();
  void queueChanged(); ///< its jobs, their order or state
  void progressed();
  void asked(const std::string& questionId); ///< its answer lies in the folder
  void failed(const QString& sentence);
  void told(const QString& sentence);     ///< what a job has found out
  void tooLarge(const QString& sentence); ///< a job would need more than usual: see doLarge()
  void jobEnded(const QString& what, bool good, double seconds);

private:
  void add(SolverWork work, std::vector<std::string> after = {});
  void startMore();
  void begin(const std::string& jobId);
  void measure();
  void ended(SolverJob& job, bool good);
  void takeFailure(SolverJob& job);
  /// It is over, its outcome taken.
  void leave(const std::string& jobId, bool good, const QString& reason);
  [[nodiscard]] SolverJob* runningTransient() const;
  void sendLimits();
  void takeRefinement(const RefineRecord& record);
  void readRuns();
  void showStoredRun(const std::string& caseId);
  void loadOutcome(const SolverWork& work);
  [[nodiscard]] Expected<std::filesystem::path> writeSnapshot(const std::string& jobId);

  Document& document_;
  SolverManner manner_;
  JobQueue queue_;
  std::map<std::string, SolverWork> works_;                ///< by id, of all jobs of the queue
  std::map<std::string, std::unique_ptr<SolverJob>> jobs_; ///< those that run
  std::map<std::string, double> lasted_;                   ///< s, by job
  std::map<std::string, TransientRun> limits_;             ///< of running cases, as the child knows them
  std::optional<SolverWork> refused_;                      ///< as too large
  bool wasRunning_ = false;
  QTimer grow_;  ///< looks for what running cases have stored
  QTimer watch_; ///< measures memory
};

} // namespace kiln
