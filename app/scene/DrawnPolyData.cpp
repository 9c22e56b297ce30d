// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "scene/DrawnPolyData.h"

#include "base/At.h"

#include <vtkCellArray.h>
#include <vtkFloatArray.h>
#include <vtkNew.h>
#include <vtkPointData.h>
#include <vtkPoints.h>

namespace kiln
{
namespace
{

vtkSmartPointer<vtkPoints> pointsOf(const DrawnSurface& surface)
{
  auto points = vtkSmartPointer<vtkPoints>::New();
  points->SetDataTypeToDouble();
  points->SetNumberOfPoints(static_cast<vtkIdType>(surface.points.size()));
  for (std::size_t i = 0; i < surface.points.size(); ++i)
    points->SetPoint(static_cast<vtkIdType>(i), surface.points[i].data());
  return points;
}

} // namespace

vtkSmartPointer<vtkPolyData> trianglesAsPolyData(const DrawnSurface& surface)
{
  auto data = vtkSmartPointer<vtkPolyData>::New();
  data->SetPoints(pointsOf(surface));
  vtkNew<vtkCellArray> cells;
  cells->AllocateExact(static_cast<vtkIdType>(surface.triangles.size()),
                       static_cast<vtkIdType>(surface.triangles.size() * 3));
  for (const Triangle& t : surface.triangles)
    cells->InsertNextCell({t[0], t[1], t[2]});
  data->SetPolys(cells);
  setTemperatures(*data, surface);
  return data;
}

void setTemperatures(vtkPolyData& data, const DrawnSurface& surface)
{
  const std::vector<double>& mapped = surface.mapped();
  if (mapped.empty())
    return;
  vtkNew<vtkFloatArray> values;
  values->SetName("temperature");
  values->SetNumberOfValues(static_cast<vtkIdType>(mapped.size()));
  for (std::size_t i = 0; i < mapped.size(); ++i)
    values->SetValue(static_cast<vtkIdType>(i), static_cast<float>(mapped[i]));
  data.GetPointData()->SetScalars(values);
}

vtkSmartPointer<vtkPolyData> linesAsPolyData(const std::vector<Vec3>& points,
                                             const std::vector<std::array<int, 2>>& ends)
{
  auto data = vtkSmartPointer<vtkPolyData>::New();
  vtkNew<vtkPoints> used;
  used->SetDataTypeToDouble();
  vtkNew<vtkCellArray> lines;
  lines->AllocateExact(static_cast<vtkIdType>(ends.size()), static_cast<vtkIdType>(ends.size() * 2));
  std::vector<vtkIdType> drawnAs(points.size(), -1);
  const auto drawn = [&](int point) {
    vtkIdType& own = drawnAs[at(point)];
    if (own < 0)
      own = used->InsertNextPoint(points[at(point)].data());
    return own;
  };
  for (const auto& [a, b] : ends) {
    const vtkIdType from = drawn(a);
    lines->InsertNextCell({from, drawn(b)});
  }
  data->SetPoints(used);
  data->SetLines(lines);
  return data;
}

} // namespace kiln
