// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "run/JobQueue.h"

#include <algorithm>

namespace kiln
{
namespace
{

bool comesAfter(const QueuedJob& job, const std::string& id)
{
  return std::find(job.after.begin(), job.after.end(), id) != job.after.end();
}

} // namespace

QueuedJob* JobQueue::own(const std::string& id)
{
  const auto at = std::find_if(jobs_.begin(), jobs_.end(), [&](const QueuedJob& job) { return job.id == id; });
  return at != jobs_.end() ? &*at : nullptr;
}

const QueuedJob* JobQueue::find(const std::string& id) const { return const_cast<JobQueue*>(this)->own(id); }

void JobQueue::add(QueuedJob job)
{
  if (const QueuedJob* known = find(job.id);
      known != nullptr && (known->state == QueuedJob::State::Waiting || known->state == QueuedJob::State::Running))
    return;
  std::erase_if(jobs_, [&](const QueuedJob& old) { return old.id == job.id; });
  job.state = QueuedJob::State::Waiting;
  job.reason.clear();
  jobs_.push_back(std::move(job));
}

bool JobQueue::remove(const std::string& id)
{
  const QueuedJob* job = find(id);
  if (job == nullptr || job->state == QueuedJob::State::Running)
    return false;
  if (job->state == QueuedJob::State::Waiting)
    leaveOutAfter(id, "what it starts from was taken out of the queue");
  std::erase_if(jobs_, [&](const QueuedJob& old) { return old.id == id; });
  return true;
}

bool JobQueue::moveBefore(const std::string& id, const std::string& before)
{
  const QueuedJob* found = find(id);
  if (found == nullptr || found->state != QueuedJob::State::Waiting || id == before ||
      (!before.empty() && find(before) == nullptr))
    return false;
  const auto placeOf = [&](const std::string& one) {
    const auto at = std::find_if(jobs_.begin(), jobs_.end(), [&](const QueuedJob& job) { return job.id == one; });
    return one.empty() ? jobs_.size() : static_cast<std::size_t>(at - jobs_.begin());
  };
  const QueuedJob job = *found;
  const std::size_t from = placeOf(id);
  const std::size_t to = placeOf(before);
  for (std::size_t i = 0; i < jobs_.size(); ++i) { // whom it would pass on its way
    const bool passes = from < to ? i > from && i < to : i >= to && i < from;
    const bool must = from < to ? comesAfter(jobs_[i], id) : comesAfter(job, jobs_[i].id);
    if (passes && must && jobs_[i].state != QueuedJob::State::Done)
      return false;
  }
  jobs_.erase(jobs_.begin() + static_cast<std::ptrdiff_t>(from));
  jobs_.insert(jobs_.begin() + static_cast<std::ptrdiff_t>(to > from ? to - 1 : to), job);
  return true;
}

void JobQueue::clearWaiting()
{
  std::erase_if(jobs_, [](const QueuedJob& job) { return job.state == QueuedJob::State::Waiting; });
}

void JobQueue::clearOver()
{
  std::erase_if(jobs_, [](const QueuedJob& job) {
    return job.state != QueuedJob::State::Waiting && job.state != QueuedJob::State::Running;
  });
}

bool JobQueue::isHeldUp(const QueuedJob& job) const
{
  return std::any_of(job.after.begin(), job.after.end(), [&](const std::string& id) {
    const QueuedJob* before = find(id);
    return before != nullptr &&
           (before->state == QueuedJob::State::Waiting || before->state == QueuedJob::State::Running);
  });
}

/// The most that any was seen to need; 0: none was measured.
double JobQueue::expectedMemory() const
{
  double most = 0;
  for (const QueuedJob& job : jobs_)
    most = std::max(most, job.peak);
  return most;
}

std::optional<std::string> JobQueue::startNext(const QueueCapacity& capacity)
{
  const int running = count(QueuedJob::State::Running);
  if (paused_ || running >= std::max(1, capacity.most))
    return std::nullopt;
  constexpr double spare = 1.2; // what runs may still grow
  const double expected = expectedMemory();
  if (running > 0 && (expected <= 0 || spare * expected > capacity.freeMemory))
    return std::nullopt;
  for (QueuedJob& job : jobs_)
    if (job.state == QueuedJob::State::Waiting && !isHeldUp(job)) {
      job.state = QueuedJob::State::Running;
      return job.id;
    }
  return std::nullopt;
}

void JobQueue::measure(const std::string& id, double bytes)
{
  if (QueuedJob* job = own(id))
    job->peak = std::max(job->peak, bytes);
}

void JobQueue::finish(const std::string& id)
{
  if (QueuedJob* job = own(id))
    job->state = QueuedJob::State::Done;
}

void JobQueue::fail(const std::string& id, const std::string& reason, const std::string& name)
{
  QueuedJob* job = own(id);
  if (job == nullptr)
    return;
  job->state = QueuedJob::State::Failed;
  job->reason = reason;
  leaveOutAfter(id, "it starts from " + name + ", which failed");
}

void JobQueue::leaveOutAfter(const std::string& id, const std::string& reason)
{
  for (QueuedJob& job : jobs_)
    if (job.state == QueuedJob::State::Waiting && comesAfter(job, id)) {
      job.state = QueuedJob::State::LeftOut;
      job.reason = reason;
      leaveOutAfter(job.id, reason);
    }
}

int JobQueue::count(QueuedJob::State state) const
{
  return static_cast<int>(
      std::count_if(jobs_.begin(), jobs_.end(), [&](const QueuedJob& job) { return job.state == state; }));
}

bool JobQueue::isBusy() const { return count(QueuedJob::State::Waiting) > 0 || count(QueuedJob::State::Running) > 0; }

} // namespace kiln
