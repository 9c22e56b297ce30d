// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "Commands.h"
#include "model/Project.h"
#include "run/JobQueue.h"

#include <functional>
#include <string>

namespace kiln::cli
{

/// Solves a case in a process of its own.
using SolveAlone = std::function<ExitCode(const Case& one, Reporter& reporter)>;
/// Called when a case is over, with what stood in its way.
using CaseOver = std::function<void(const Case& one, const std::string& reason, ExitCode code)>;

/// Solves the cases of a queue in processes of their own, as many at a time as were asked for and memory allows. Each
/// is a copy of this one, which has loaded its libraries and the project already, and must not have started threads by
/// then. What they say comes out case by case, as they end. One that is killed fails alone.
void solveAtOnce(const Request& request, const Project& project, JobQueue& queue, Reporter& reporter,
                 const SolveAlone& solve, const CaseOver& over);

/// From now on this process, and those it starts, take processors and disks only when nobody else wants them.
void giveWay();

} // namespace kiln::cli
