// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "base/Failure.h"
#include "model/Project.h"

#include <vector>

namespace kiln
{

/// Which value counts where one jumps: the one that ends there, or the one that begins.
enum class Moment { Before, After };

/// Value of a schedule at an instant, SI.
/// Fails where it is refused outside its points.
[[nodiscard]] Expected<double> valueAt(const Schedule& schedule, double time, Moment moment = Moment::After);

/// Integral of a schedule from one instant to another, SI·s, by Simpson's rule between its breakpoints (exact).
[[nodiscard]] double integralOf(const Schedule& schedule, double from, double to);

/// Instants after \p from and before \p to at which a schedule bends or jumps, in order.
[[nodiscard]] std::vector<double> breakpoints(const Schedule& schedule, double from, double to);

/// All instants between two times at which the project's schedules and windows bend or jump, in order, each once.
[[nodiscard]] std::vector<double> breakpoints(const Project& project, double from, double to);

/// Does anything in the project depend on time?
[[nodiscard]] bool variesInTime(const Project& project);

/// Does this number depend on time: does its formula use, directly or through parameters, one with a schedule?
[[nodiscard]] bool variesInTime(const Project& project, const Number& number);

/// The project as it is at one instant: schedules are numbers, what its window leaves out is muted.
[[nodiscard]] Expected<Project> projectAt(const Project& project, double time, Moment moment = Moment::After);

} // namespace kiln
