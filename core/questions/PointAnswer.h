// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "questions/Sampling.h"

#include <functional>
#include <optional>
#include <string>
#include <vector>

namespace kiln
{

/// Numbers of one watch at a point, SI.
struct AnsweredFigure {
  std::string watch;           ///< id
  std::optional<double> value; ///< steady, or at the end of the run
  std::optional<double> peak, trough;
  std::optional<double> time; ///< s after the start, until its limit is first met
  bool operator==(const AnsweredFigure&) const = default;
};

/// What came out at a point.
struct PointAnswer {
  std::string key; ///< fingerprint of all that it depends on
  std::vector<AnsweredFigure> figures;
  std::string failure; ///< sentence; empty where it was solved
  double seconds = 0;
  bool known = false; ///< it was solved before

  [[nodiscard]] bool solved() const { return failure.empty(); }
  [[nodiscard]] std::optional<double> figure(const std::string& watch, AskedFigure which) const;
};

/// Solves points, however many at a time: one answer for each, in their order. Fewer: it was stopped.
using SolvePoints = std::function<std::vector<PointAnswer>(const std::vector<AskedPoint>&)>;

} // namespace kiln
