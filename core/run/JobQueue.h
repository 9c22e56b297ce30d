// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include <optional>
#include <string>
#include <vector>

namespace kiln
{

/// One thing to be done: a case that is solved, or what else a process of its own does.
struct QueuedJob {
  enum class State { Waiting, Running, Done, Failed, LeftOut };
  std::string id;                 ///< unlike that of any other job in the queue
  std::vector<std::string> after; ///< ids of jobs that must be done before, where they are in the queue
  State state = State::Waiting;
  double peak = 0;    ///< B, the most memory it was seen to need so far
  std::string reason; ///< why it failed or was left out
};

/// What the machine can bear.
struct QueueCapacity {
  int most = 1;          ///< jobs at a time
  double freeMemory = 0; ///< B
};

/// Jobs in the order in which they are to be done, and which of them may start now. It starts nothing itself: the
/// window and the command line do, with processes of their own kind. What a job needs of memory is taken to be what the
/// others were seen to need: before any was measured, one runs alone.
class JobQueue
{
public:
  /// At the end. One that waits or runs already is left as it is; one that is over is done again.
  void add(QueuedJob job);
  /// Takes out one that does not run, and leaves out what comes after it. \return false when it runs or is not there
  bool remove(const std::string& id);
  /// Before another one, or to the end when \p before is empty. Nothing moves before what it must come after.
  bool moveBefore(const std::string& id, const std::string& before);
  /// Nothing waits any more; what runs goes on.
  void clearWaiting();
  /// Forgets what is over.
  void clearOver();

  /// Nothing starts while it is paused; what runs goes on.
  void pause(bool paused) { paused_ = paused; }
  [[nodiscard]] bool isPaused() const { return paused_; }

  /// The next one that may start, which counts as running from now on; nothing: not now.
  [[nodiscard]] std::optional<std::string> startNext(const QueueCapacity& capacity);
  void measure(const std::string& id, double bytes);
  void finish(const std::string& id);
  /// What comes after it is left out, saying so.
  /// \param name  of it, for what is left out
  void fail(const std::string& id, const std::string& reason, const std::string& name);

  [[nodiscard]] const std::vector<QueuedJob>& jobs() const { return jobs_; }
  [[nodiscard]] const QueuedJob* find(const std::string& id) const;
  [[nodiscard]] int count(QueuedJob::State state) const;
  /// Does anything wait or run?
  [[nodiscard]] bool isBusy() const;

private:
  [[nodiscard]] QueuedJob* own(const std::string& id);
  [[nodiscard]] bool isHeldUp(const QueuedJob& job) const;
  [[nodiscard]] double expectedMemory() const;
  void leaveOutAfter(const std::string& id, const std::string& reason);

  std::vector<QueuedJob> jobs_;
  bool paused_ = false;
};

} // namespace kiln
