// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "geometry/StepFile.h"

namespace kiln
{

/// Solids of a file of triangles: flat neighbours are merged; triangles that meet at less than the feature angle share
/// a face name. A shell that the file turns inwards is a cavity of the one around it.
/// \param unit          m, length of one unit of the file
/// \param featureAngle  rad
[[nodiscard]] Expected<std::vector<NamedShape>> readTriangles(const std::filesystem::path& path, double unit,
                                                              double featureAngle);
[[nodiscard]] Expected<void> writeTriangles(const std::vector<NamedShape>& shapes, const std::filesystem::path& path);

} // namespace kiln
