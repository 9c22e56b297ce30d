// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "base/Failure.h"

#include <filesystem>
#include <map>
#include <string>

namespace kiln::cli
{

/// A workload manager that is already there (Slurm), by its public commands. Every call ends within three seconds.
class Cluster
{
public:
  /// Fails saying what is missing: commands, configuration, a daemon that answers.
  [[nodiscard]] static Expected<Cluster> find();

  /// Hands in a script as an array of tasks, numbered from one. \return the number of the job
  /// \param folder  where it runs and writes what it says; on a disk that all machines see
  [[nodiscard]] Expected<std::string> submit(const std::filesystem::path& script, const std::filesystem::path& folder,
                                             const std::string& name, int tasks) const;
  /// State of every task that is still known, by number: "PENDING", "RUNNING", … Empty: the job is gone.
  [[nodiscard]] std::map<int, std::string> states(const std::string& job) const;
  void cancel(const std::string& job) const;
};

/// A word as a shell takes it, whatever is in it.
[[nodiscard]] std::string shellWord(const std::string& text);

} // namespace kiln::cli
