// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "VtuTets.h"

#include "VtuGrid.h"
#include "base/Joining.h"

#include <algorithm>
#include <map>
#include <vtkCellData.h>
#include <vtkDataSetTriangleFilter.h>
#include <vtkIntArray.h>
#include <vtkNew.h>
#include <vtkPoints.h>

namespace kiln
{
namespace
{

constexpr const char* regionName = "region";
using Corners = std::array<std::int32_t, 4>;

/// The cells that fill space without their mid nodes, their points merged.
vtkSmartPointer<vtkUnstructuredGrid> linearOf(vtkUnstructuredGrid& grid)
{
  const std::vector<int> regions = regionsOf(grid);
  auto linear = vtkSmartPointer<vtkUnstructuredGrid>::New();
  vtkNew<vtkPoints> points;
  points->SetDataTypeToDouble();
  vtkNew<vtkIntArray> own;
  own->SetName(regionName);
  std::map<std::array<double, 3>, vtkIdType> known;
  linear->Allocate(grid.GetNumberOfCells());
  for (vtkIdType c = 0; c < grid.GetNumberOfCells(); ++c) {
    const int type = linearTypeOf(grid.GetCellType(c));
    const int corners = cornersOf(type);
    if (corners == 0)
      continue;
    vtkIdType count = 0;
    const vtkIdType* ids = nullptr;
    grid.GetCellPoints(c, count, ids);
    std::vector<vtkIdType> cell;
    for (int i = 0; i < corners && i < count; ++i) {
      std::array<double, 3> place{};
      grid.GetPoint(ids[i], place.data());
      const auto [found, isNew] = known.try_emplace(place, points->GetNumberOfPoints());
      if (isNew)
        points->InsertNextPoint(place.data());
      cell.push_back(found->second);
    }
    if (static_cast<int>(cell.size()) < corners)
      continue;
    linear->InsertNextCell(type, corners, cell.data());
    own->InsertNextValue(regions[static_cast<std::size_t>(c)]);
  }
  linear->SetPoints(points);
  linear->GetCellData()->AddArray(own);
  return linear;
}

/// Tetrahedra that share a side, by piece.
std::vector<std::vector<Corners>> connected(const std::vector<Corners>& tets)
{
  Joining joining(tets.size());
  std::map<std::array<std::int32_t, 3>, std::size_t> sides;
  for (std::size_t t = 0; t < tets.size(); ++t)
    for (std::size_t left = 0; left < 4; ++left) {
      std::array<std::int32_t, 3> side{tets[t][(left + 1) % 4], tets[t][(left + 2) % 4], tets[t][(left + 3) % 4]};
      std::sort(side.begin(), side.end());
      joining.join(t, sides.try_emplace(side, t).first->second);
    }
  std::map<std::size_t, std::vector<Corners>> pieces;
  for (std::size_t t = 0; t < tets.size(); ++t)
    pieces[joining.find(t)].push_back(tets[t]);
  std::vector<std::vector<Corners>> list;
  for (auto& [first, piece] : pieces)
    list.push_back(std::move(piece));
  return list;
}

/// Tetrahedra with their own nodes, turned the right way.
TakenElements elementsOf(vtkUnstructuredGrid& grid, const std::vector<Corners>& tets)
{
  TakenElements elements;
  std::map<std::int32_t, std::int32_t> own;
  for (Corners tet : tets) {
    for (std::int32_t& node : tet) {
      const auto [found, isNew] = own.try_emplace(node, static_cast<std::int32_t>(elements.nodes.size()));
      if (isNew) {
        Vec3 place;
        grid.GetPoint(node, place.data());
        elements.nodes.push_back(place);
      }
      node = found->second;
    }
    if (volumeOf(elements, tet) < 0)
      std::swap(tet[0], tet[1]);
    elements.tets.push_back(tet);
  }
  return elements;
}

} // namespace

std::vector<RegionPiece> piecesOf(vtkUnstructuredGrid& grid)
{
  const vtkSmartPointer<vtkUnstructuredGrid> linear = linearOf(grid);
  if (linear->GetNumberOfCells() == 0)
    return {};
  vtkNew<vtkDataSetTriangleFilter> divide;
  divide->SetInputData(linear);
  divide->TetrahedraOnlyOn();
  divide->Update();
  vtkUnstructuredGrid& divided = *divide->GetOutput();
  vtkDataArray* regions = divided.GetCellData()->GetArray(regionName);
  std::map<int, std::vector<Corners>> ofRegion;
  for (vtkIdType c = 0; c < divided.GetNumberOfCells(); ++c) {
    vtkIdType count = 0;
    const vtkIdType* ids = nullptr;
    divided.GetCellPoints(c, count, ids);
    Corners tet{};
    for (std::size_t i = 0; i < 4; ++i)
      tet[i] = static_cast<std::int32_t>(ids[i]);
    ofRegion[static_cast<int>(regions->GetTuple1(c))].push_back(tet);
  }
  std::vector<RegionPiece> pieces;
  for (const auto& [region, tets] : ofRegion)
    for (const std::vector<Corners>& piece : connected(tets))
      pieces.push_back({region, elementsOf(divided, piece)});
  return pieces;
}

} // namespace kiln
