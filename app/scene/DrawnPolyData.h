// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "scene/SceneModel.h"

#include <vtkPolyData.h>
#include <vtkSmartPointer.h>

namespace kiln
{

/// Triangles of a drawn surface with its temperatures as point scalars.
[[nodiscard]] vtkSmartPointer<vtkPolyData> trianglesAsPolyData(const DrawnSurface& surface);

/// Gives points already made the present temperatures.
void setTemperatures(vtkPolyData& data, const DrawnSurface& surface);

/// Lines between points; what no line ends at is left out.
/// \param ends  indices of points, by line
[[nodiscard]] vtkSmartPointer<vtkPolyData> linesAsPolyData(const std::vector<Vec3>& points,
                                                           const std::vector<std::array<int, 2>>& ends);

} // namespace kiln
