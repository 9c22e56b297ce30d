// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "Cluster.h"

#include <functional>
#include <optional>

namespace kiln::cli
{

/// An array of tasks that is handed to a workload manager and goes on whoever waits for it: a folder holds its number,
/// how many tasks it has, what it was handed in for, and how each of them ended.
class ClusterJob
{
public:
  using Said = std::function<void(const std::string&)>;

  /// \param folder   its own, on a disk that all machines see
  /// \param purpose  a fingerprint: a job that was handed in for something else is none
  /// \param said     told how the tasks stand, when that has changed
  ClusterJob(std::filesystem::path folder, std::string purpose, Said said);

  [[nodiscard]] const std::filesystem::path& folder() const { return folder_; }
  /// The number of a job that was handed in before for the same purpose.
  [[nodiscard]] std::optional<std::string> handedIn() const;

  /// \param fill     writes into the empty folder what the tasks read
  /// \param command  of a task, as the shell takes it: $t is its number, from 1 to \p tasks
  [[nodiscard]] Expected<void> handIn(const std::string& name, int tasks, const std::string& command,
                                      const std::function<Expected<void>()>& fill);
  /// Until all tasks are over, or it is interrupted.
  /// \param look  called every now and then
  [[nodiscard]] Expected<void> wait(const std::function<bool()>& interrupted,
                                    const std::function<Expected<void>()>& look) const;
  /// Ends what was handed in. Fails where nothing was.
  [[nodiscard]] Expected<void> cancel(const std::string& what) const;
  /// What a task has said: the last sentence that names an error, else its first line.
  [[nodiscard]] std::string wordsOf(int task) const;
  void forget() const;

private:
  [[nodiscard]] int tasks() const;
  [[nodiscard]] std::filesystem::path exitFile(int task) const;

  std::filesystem::path folder_;
  std::string purpose_;
  Said said_;
};

/// From now on an interrupt is noted instead of ending the process. \return which one came; 0: none
[[nodiscard]] std::function<int()> notedSignals();

/// This program, as a shell takes it.
[[nodiscard]] std::string ownProgram();

} // namespace kiln::cli
