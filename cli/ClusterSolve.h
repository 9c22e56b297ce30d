// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "Asked.h"
#include "ClusterJob.h"

#include "model/Project.h"

namespace kiln::cli
{

/// Has cases solved by a workload manager, each of its tasks one of them, into the folder of results, which is on a
/// disk that all machines see. Cases that wait for others are handed in when those are solved. A job that was handed in
/// before is waited for; it goes on when this process ends.
class ClusterSolve
{
public:
  /// \param cases  in an order in which each comes after what it waits for
  ClusterSolve(const Request& request, const Project& project, std::vector<Case> cases, ClusterJob::Said said);

  /// A case that was not solved, and why.
  struct Lost {
    Case one;
    std::string reason;
  };
  /// \param solved  told of every case as soon as its result is there, with the project as it was solved from
  [[nodiscard]] Expected<std::vector<Lost>> run(const std::function<bool()>& interrupted,
                                                const std::function<void(const Project&, const Case&)>& solved);
  /// Ends what was handed in.
  [[nodiscard]] Expected<void> cancel();

private:
  [[nodiscard]] std::vector<Case> next() const;
  [[nodiscard]] bool isSolved(const Case& one) const;
  [[nodiscard]] Expected<void> handIn(const std::vector<Case>& wave);
  [[nodiscard]] int taskOf(const Case& one) const;
  void leaveOutAfter(std::vector<Lost>& lost);

  const Request& request_;
  Project project_;
  std::vector<Case> open_;
  ClusterJob::Said said_;
  std::filesystem::path results_;
  ClusterJob job_;
};

} // namespace kiln::cli
