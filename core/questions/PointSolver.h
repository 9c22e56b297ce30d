// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "questions/PointAnswer.h"
#include "questions/PointModel.h"
#include "run/CaseRun.h"

#include <filesystem>

namespace kiln
{

/// Solves points of one question one after the other: each takes over from the one before what it can. Its files lie in
/// a folder of its own, so that several can be at work beside each other.
class PointSolver
{
public:
  /// \param project  with the materials that are asked for (\ref readAxes)
  /// \param folder   for meshes, view factors and runs; made when it is needed
  /// \param kept     where the temperatures of every point are kept (\ref keepFields); empty: nowhere
  PointSolver(Project project, Question question, std::vector<AskedAxis> axes, std::filesystem::path folder,
              std::filesystem::path kept = {});

  /// Fingerprint of all that the answer at a point depends on; a failure of its model.
  [[nodiscard]] Expected<std::string> keyOf(const AskedPoint& point) const;
  /// Are the temperatures at a point kept already? True where none are to be.
  [[nodiscard]] bool hasKept(const AskedPoint& point) const;
  /// Whatever goes wrong stands in the answer.
  [[nodiscard]] PointAnswer solve(const AskedPoint& point, const Progress& progress);

  [[nodiscard]] const std::vector<AskedAxis>& axes() const { return axes_; }

private:
  [[nodiscard]] Expected<std::string> keyOf(const PointModel& model) const;
  void solveSteadily(const PointModel& model, PointAnswer& answer, const Progress& progress);
  void keep(const CaseResult& result, const std::filesystem::path& run, PointAnswer& answer) const;
  void solveInTime(const PointModel& model, PointAnswer& answer, const Progress& progress);

  Project project_;
  Question question_;
  std::vector<AskedAxis> axes_;
  std::filesystem::path folder_, kept_;
  SharedSolve shared_;
};

} // namespace kiln
