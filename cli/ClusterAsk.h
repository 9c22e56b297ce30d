// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "Asked.h"
#include "ClusterJob.h"

#include "questions/PointStore.h"
#include "questions/QuestionAnswer.h"

namespace kiln::cli
{

/// Has the points of a sweep solved by a workload manager, each of its tasks a stretch of them, and takes them into the
/// store as they come. A job that was handed in before is waited for; it goes on when this process ends.
class ClusterAsk
{
public:
  /// \param said  told how the tasks stand, when that has changed
  ClusterAsk(const Request& request, const PreparedQuestion& prepared, PointStore& store, ClusterJob::Said said);

  /// Hands in what is not known yet, or waits for what was handed in. \return after all tasks are over
  [[nodiscard]] Expected<void> run(const std::vector<AskedPoint>& points, const std::function<bool()>& interrupted);
  /// Ends what was handed in.
  [[nodiscard]] Expected<void> cancel();

private:
  [[nodiscard]] Expected<void> handIn(std::size_t points);
  [[nodiscard]] Expected<void> takePoints();
  void takeFields() const;

  const Request& request_;
  const PreparedQuestion& prepared_;
  PointStore& store_;
  ClusterJob::Said said_;
  ClusterJob job_;
};

} // namespace kiln::cli
