// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include <QElapsedTimer>
#include <QJsonObject>
#include <QObject>
#include <QProcess>
#include <filesystem>
#include <string>
#include <vector>

namespace kiln
{

/// What a process of its own is asked to do.
struct SolverWork {
  enum class Kind { Prepare, Solve, GoOn, Sure, Refine, Ask };
  Kind kind = Kind::Prepare;
  std::string caseId, caseName; ///< empty: prepare only
  QString within{};             ///< of a refinement
  bool large = false;           ///< whatever it needs
  std::string questionId{};     ///< of a question, which has no case; its name is in caseName
  bool cluster = false;         ///< it is handed to a workload manager

  /// Unlike that of any other work in the queue: the case, with what else is done than solving it.
  [[nodiscard]] std::string id() const;
};

/// How all work is done.
struct SolverManner {
  QString program;
  double mostElements = 0; ///< more are asked about first; 0: as many as fit into half of this machine's memory
  bool nice = false;       ///< other programs come first
  int atATime = 1;         ///< they share the processors
  bool cluster = false;    ///< cases are handed to a workload manager
};

/// One `ukiln` at work on a snapshot of the project. A crash or cancel in there touches neither the open project nor
/// older results.
class SolverJob : public QObject
{
  Q_OBJECT

public:
  /// \param snapshot  file of the project; removed with the job
  SolverJob(SolverWork work, std::filesystem::path snapshot, std::filesystem::path folder, QObject* parent = nullptr);
  ~SolverJob() override;

  void start(const SolverManner& manner);
  void cancel();
  /// Ends here; what was handed to a workload manager goes on there.
  void letGo();

  [[nodiscard]] const SolverWork& work() const { return work_; }
  [[nodiscard]] qint64 processId() const { return process_.processId(); }
  [[nodiscard]] double seconds() const { return static_cast<double>(clock_.elapsed()) / 1000; }
  [[nodiscard]] double fraction() const { return fraction_; }
  [[nodiscard]] const QString& message() const { return message_; }
  /// s until it ends, by what is done; negative: not to be told yet.
  [[nodiscard]] double secondsLeft() const;
  /// B, the most it has needed so far.
  [[nodiscard]] double peak();

  /// Why it failed; what was cancelled has no reason.
  [[nodiscard]] const QString& failure() const { return failure_; }
  [[nodiscard]] bool wasCancelled() const { return cancelled_; }
  /// Of a question, what it has said of its points: a JSON object each.
  [[nodiscard]] const std::vector<QJsonObject>& points() const { return points_; }
  [[nodiscard]] bool isTooLarge() const { return tooLarge_; }
  [[nodiscard]] bool neverStarted() const { return process_.error() == QProcess::FailedToStart; }

signals:
  void progressed();
  void ended(bool good);

private:
  [[nodiscard]] QStringList arguments(const SolverManner& manner) const;
  void readProgress();
  void finished(int exitCode, QProcess::ExitStatus status);

  SolverWork work_;
  std::filesystem::path snapshot_, folder_;
  QProcess process_;
  QElapsedTimer clock_;
  double fraction_ = 0, peak_ = 0;
  QString message_, failure_;
  std::vector<QJsonObject> points_;
  bool cancelled_ = false, tooLarge_ = false;
};

} // namespace kiln
