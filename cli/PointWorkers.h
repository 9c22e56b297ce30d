// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "questions/PointSolver.h"
#include "questions/QuestionAnswer.h"

#include <filesystem>
#include <memory>

namespace kiln::cli
{

/// Told of every point as soon as it is over, with its place among those that were handed in.
using PointOver = std::function<void(std::size_t place, const PointAnswer& answer)>;

/// Processes that solve points of one question, each one point after the other, with what it keeps from one to the
/// next. They are copies of this process, which must not have started threads by then. One that is killed loses its
/// point alone, and another takes its place.
class PointWorkers
{
public:
  /// \param folder  of results: meshes and view factors that lie there are used
  PointWorkers(const PreparedQuestion& prepared, std::filesystem::path folder, int count);
  ~PointWorkers();
  PointWorkers(const PointWorkers&) = delete;
  PointWorkers& operator=(const PointWorkers&) = delete;

  /// Answers in the order of the points; fewer, where it was interrupted: those up to the first that is missing.
  [[nodiscard]] std::vector<PointAnswer> solve(const std::vector<AskedPoint>& points, const PointOver& over);
  /// Was it told to stop?
  [[nodiscard]] bool interrupted() const;

private:
  struct Worker;
  void start(Worker& worker);
  void end(Worker& worker);
  void give(Worker& worker, const AskedPoint& point, std::size_t place);
  [[nodiscard]] std::optional<PointAnswer> take(Worker& worker);
  [[noreturn]] void beWorker(int in, int out, const std::filesystem::path& own) const;
  [[nodiscard]] std::filesystem::path folderFor(std::size_t index) const;

  const PreparedQuestion& prepared_;
  std::filesystem::path folder_;
  std::vector<std::unique_ptr<Worker>> workers_;
};

} // namespace kiln::cli
