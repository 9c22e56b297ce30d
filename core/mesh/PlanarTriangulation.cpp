// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "mesh/PlanarTriangulation.h"

#include <CGAL/Constrained_Delaunay_triangulation_2.h>
#include <CGAL/Exact_predicates_inexact_constructions_kernel.h>
#include <CGAL/Triangulation_face_base_with_info_2.h>
#include <CGAL/Triangulation_vertex_base_with_info_2.h>

namespace kiln
{
namespace
{

using Kernel = CGAL::Exact_predicates_inexact_constructions_kernel;
using VertexBase = CGAL::Triangulation_vertex_base_with_info_2<int, Kernel>;
using PlainFaceBase = CGAL::Triangulation_face_base_with_info_2<int, Kernel>; // info: borders crossed from outside
using FaceBase = CGAL::Constrained_triangulation_face_base_2<Kernel, PlainFaceBase>;
using Structure = CGAL::Triangulation_data_structure_2<VertexBase, FaceBase>;
using Triangulation =
    CGAL::Constrained_Delaunay_triangulation_2<Kernel, Structure, CGAL::No_constraint_intersection_tag>;

constexpr int unvisited = -1;

/// Marks every face with the number of borders between it and the outside.
void markNesting(Triangulation& triangulation)
{
  for (auto face : triangulation.all_face_handles())
    face->info() = unvisited;
  std::vector<std::pair<Triangulation::Face_handle, int>> open{{triangulation.infinite_face(), 0}};
  std::vector<std::pair<Triangulation::Face_handle, int>> beyond;
  while (!open.empty() || !beyond.empty()) {
    if (open.empty())
      open.swap(beyond);
    auto [start, level] = open.back();
    open.pop_back();
    if (start->info() != unvisited)
      continue;
    std::vector<Triangulation::Face_handle> region{start};
    while (!region.empty()) {
      const auto face = region.back();
      region.pop_back();
      if (face->info() != unvisited)
        continue;
      face->info() = level;
      for (int i = 0; i < 3; ++i) {
        const auto neighbour = face->neighbor(i);
        if (neighbour->info() != unvisited)
          continue;
        if (triangulation.is_constrained({face, i}))
          beyond.emplace_back(neighbour, level + 1);
        else
          region.push_back(neighbour);
      }
    }
  }
}

} // namespace

std::optional<std::vector<Triangle>> triangulateRegion(const std::vector<Vec2>& points,
                                                       const std::vector<std::array<int, 2>>& segments)
{
  Triangulation triangulation;
  std::vector<Triangulation::Vertex_handle> handles;
  handles.reserve(points.size());
  for (const Vec2& point : points) {
    const auto handle = triangulation.insert(Kernel::Point_2(point.x(), point.y()));
    handle->info() = static_cast<int>(handles.size());
    handles.push_back(handle);
  }
  try {
    for (const auto& [a, b] : segments)
      if (handles[static_cast<std::size_t>(a)] != handles[static_cast<std::size_t>(b)])
        triangulation.insert_constraint(handles[static_cast<std::size_t>(a)], handles[static_cast<std::size_t>(b)]);
  } catch (const Triangulation::Intersection_of_constraints_exception&) {
    return std::nullopt;
  }
  if (triangulation.dimension() < 2)
    return std::nullopt;
  markNesting(triangulation);
  std::vector<Triangle> triangles;
  for (const auto face : triangulation.finite_face_handles())
    if (face->info() % 2 == 1)
      triangles.push_back({face->vertex(0)->info(), face->vertex(1)->info(), face->vertex(2)->info()});
  return triangles;
}

} // namespace kiln
