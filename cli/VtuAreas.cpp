// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
//
// A mesh of triangles and quads as a section model.
#include "VtuGrid.h"
#include "VtuImport.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <map>
#include <vtkCellType.h>

namespace kiln
{
namespace
{

using Corner = std::array<double, 2>; // m, in the plane
using Edge = std::array<vtkIdType, 2>;

/// Makes flat parts of the regions of a grid whose cells lie in one plane.
class AreaReader
{
public:
  AreaReader(vtkUnstructuredGrid& grid, std::filesystem::path path, double unit)
      : grid_(grid), path_(std::move(path)), unit_(unit)
  {
  }

  Expected<Project> read()
  {
    if (!findPlane())
      return unreadableGrid(path_, "Its cells lie in no plane across x, y or z.");
    const auto borders = bordersOfRegions();
    if (borders.empty())
      return unreadableGrid(path_, "It has neither cells that fill space nor triangles and quads.");
    Project project;
    project.name = path_.stem().string();
    project.section = Section{PlaneSection{}, {}};
    project.mesh.secondOrder = true;
    Case steady;
    steady.id = "steady";
    steady.name = "Steady";
    project.cases = {steady};
    for (const auto& [region, border] : borders) {
      auto part = partOf(region, border);
      if (!part)
        return tl::unexpected(part.error());
      project.parts.push_back(std::move(*part));
    }
    return project;
  }

private:
  bool findPlane()
  {
    std::array<double, 6> box{};
    grid_.GetBounds(box.data());
    const auto extent = [&](int axis) {
      return box[static_cast<std::size_t>(2 * axis + 1)] - box[static_cast<std::size_t>(2 * axis)];
    };
    const double size = std::max({extent(0), extent(1), extent(2)});
    for (int across = 2; across >= 0; --across)
      if (extent(across) < 1e-9 * size) {
        first_ = across == 0 ? 1 : 0;
        second_ = across == 2 ? 1 : 2;
        return true;
      }
    return false;
  }

  [[nodiscard]] Corner placeOf(vtkIdType point) const
  {
    std::array<double, 3> p{};
    grid_.GetPoint(point, p.data());
    return {unit_ * p[static_cast<std::size_t>(first_)], unit_ * p[static_cast<std::size_t>(second_)]};
  }

  [[nodiscard]] double doubledArea(const std::vector<vtkIdType>& loop) const
  {
    double doubled = 0;
    for (std::size_t i = 0; i < loop.size(); ++i) {
      const Corner a = placeOf(loop[i]);
      const Corner b = placeOf(loop[(i + 1) % loop.size()]);
      doubled += a[0] * b[1] - b[0] * a[1];
    }
    return doubled;
  }

  /// Edges that only one cell of a region has, with the region on their left.
  [[nodiscard]] std::map<int, std::map<Edge, int>> bordersOfRegions()
  {
    const std::vector<int> regions = regionsOf(grid_);
    std::map<int, std::map<Edge, int>> borders;
    for (vtkIdType c = 0; c < grid_.GetNumberOfCells(); ++c) {
      const int type = grid_.GetCellType(c);
      const bool triangle = type == VTK_TRIANGLE || type == VTK_QUADRATIC_TRIANGLE;
      if (!triangle && type != VTK_QUAD && type != VTK_QUADRATIC_QUAD)
        continue;
      vtkIdType count = 0;
      const vtkIdType* points = nullptr;
      grid_.GetCellPoints(c, count, points);
      std::vector<vtkIdType> cell(points, points + (triangle ? 3 : 4));
      if (doubledArea(cell) < 0)
        std::reverse(cell.begin(), cell.end());
      auto& own = borders[regions[static_cast<std::size_t>(c)]];
      for (std::size_t i = 0; i < cell.size(); ++i) {
        const Edge edge{cell[i], cell[(i + 1) % cell.size()]};
        if (own.erase({edge[1], edge[0]}) == 0)
          own[edge] = 1;
      }
    }
    return borders;
  }

  Expected<Part> partOf(int region, const std::map<Edge, int>& border)
  {
    std::map<vtkIdType, vtkIdType> next;
    for (const auto& [edge, once] : border)
      if (!next.emplace(edge[0], edge[1]).second)
        return unreadableGrid(path_, "The border of region " + std::to_string(region) + " touches itself at a point.");
    Part part;
    part.id = "region-" + std::to_string(region);
    part.name = nameOfRegion(grid_, region);
    bool begun = false;
    while (!next.empty()) {
      std::vector<vtkIdType> loop;
      for (vtkIdType at = next.begin()->first; next.contains(at);) {
        loop.push_back(at);
        const vtkIdType after = next.at(at);
        next.erase(at);
        at = after;
      }
      const std::string step = std::to_string(part.steps.size() + 1);
      if (doubledArea(loop) < 0)
        part.steps.push_back({"hole" + step, Cut{{outlineOf(loop), {}}}, {}});
      else if (begun)
        part.steps.insert(part.steps.begin(), {"piece" + step, Join{{outlineOf(loop), {}}}, {}});
      else
        part.shape.form = outlineOf(loop);
      begun = begun || doubledArea(loop) > 0;
    }
    return part;
  }

  /// Points on a straight border are no corners.
  [[nodiscard]] FlatOutline outlineOf(const std::vector<vtkIdType>& loop) const
  {
    FlatOutline outline;
    for (std::size_t i = 0; i < loop.size(); ++i) {
      const Corner before = placeOf(loop[(i + loop.size() - 1) % loop.size()]);
      const Corner here = placeOf(loop[i]);
      const Corner after = placeOf(loop[(i + 1) % loop.size()]);
      const double bend = (here[0] - before[0]) * (after[1] - here[1]) - (after[0] - here[0]) * (here[1] - before[1]);
      const double size = std::hypot(after[0] - before[0], after[1] - before[1]);
      if (std::abs(bend) > 1e-9 * size * size)
        outline.outline.push_back({Number{here[0], {}, false}, Number{here[1], {}, false}, {}});
    }
    return outline;
  }

  vtkUnstructuredGrid& grid_;
  std::filesystem::path path_;
  double unit_;
  int first_ = 0, second_ = 1;
};

} // namespace

Expected<std::optional<Project>> readAreas(const std::filesystem::path& path, double unit)
{
  const auto grid = gridOf(path);
  if (!grid)
    return tl::unexpected(grid.error());
  for (vtkIdType c = 0; c < (*grid)->GetNumberOfCells(); ++c)
    if (cornersOf(linearTypeOf((*grid)->GetCellType(c))) > 0)
      return std::optional<Project>();
  auto project = AreaReader(**grid, path, unit).read();
  if (!project)
    return tl::unexpected(project.error());
  return std::optional(std::move(*project));
}

} // namespace kiln
