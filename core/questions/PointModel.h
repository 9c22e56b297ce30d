// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "questions/Sampling.h"

namespace kiln
{

/// The case of a question with the values of one point, and the project that it belongs to.
struct PointModel {
  Project project;
  Case oneCase;
  Project seen; ///< as that case sees it
};

/// Fails where the base case is gone, a value cannot be taken, or something else sets the field afterwards.
/// \param project  with the materials that are asked for (\ref readAxes)
[[nodiscard]] Expected<PointModel> modelAt(const Project& project, const Question& question,
                                           const std::vector<AskedAxis>& axes, const AskedPoint& point);

/// The point as changes of a case: by field.
[[nodiscard]] std::vector<Change> changesAt(const std::vector<AskedAxis>& axes, const AskedPoint& point);

/// Adds the point to the project as a case of its own, with the materials of the library that it names. \return its id
[[nodiscard]] Expected<std::string> keepAsCase(Project& project, const Question& question,
                                               const std::vector<AskedAxis>& axes, const AskedPoint& point);

/// "Coils, Power 2.4 kW, Lining, Material Fire brick"
[[nodiscard]] std::string pointWords(const Project& project, const std::vector<AskedAxis>& axes,
                                     const AskedPoint& point);

} // namespace kiln
