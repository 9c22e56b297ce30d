// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "geometry/SurfaceSoup.h"

#include <CGAL/Exact_predicates_inexact_constructions_kernel.h>
#include <CGAL/IO/OBJ.h>
#include <CGAL/IO/PLY.h>
#include <CGAL/IO/STL.h>
#include <CGAL/Polygon_mesh_processing/connected_components.h>
#include <CGAL/Polygon_mesh_processing/detect_features.h>
#include <CGAL/Polygon_mesh_processing/orient_polygon_soup.h>
#include <CGAL/Polygon_mesh_processing/orientation.h>
#include <CGAL/Polygon_mesh_processing/polygon_soup_to_polygon_mesh.h>
#include <CGAL/Polygon_mesh_processing/repair_polygon_soup.h>
#include <CGAL/Polygon_mesh_processing/self_intersections.h>
#include <CGAL/Polygon_mesh_processing/triangulate_faces.h>
#include <CGAL/Surface_mesh.h>
#include <fstream>
#include <iterator>
#include <map>
#include <numbers>
#include <sstream>

namespace kiln
{
namespace
{

using Kernel = CGAL::Exact_predicates_inexact_constructions_kernel;
using Point = Kernel::Point_3;
using Skin = CGAL::Surface_mesh<Point>;
namespace processing = CGAL::Polygon_mesh_processing;

Vec3 vec(const Point& p) { return {p.x(), p.y(), p.z()}; }

struct Piece {
  std::string name, text;
};

/// A text of triangles may hold several named solids; any other file is one piece.
std::vector<Piece> piecesOf(const std::filesystem::path& path, const std::string& kind)
{
  std::ifstream in(path, std::ios::binary);
  const std::string all((std::istreambuf_iterator<char>(in)), std::istreambuf_iterator<char>());
  std::vector<Piece> pieces;
  const bool isText = kind == ".stl" && all.starts_with("solid") && all.find("facet") != std::string::npos &&
                      all.find("endsolid") != std::string::npos;
  for (std::size_t from = 0; isText && (from = all.find("solid", from)) != std::string::npos;) {
    const std::size_t end = all.find("endsolid", from);
    if (end == std::string::npos)
      break;
    const std::size_t line = all.find('\n', from);
    std::string name = all.substr(from + 5, line - from - 5);
    while (!name.empty() && std::isspace(static_cast<unsigned char>(name.back())) != 0)
      name.pop_back();
    name.erase(0, std::min(name.size(), name.find_first_not_of(' ')));
    pieces.push_back({name, "solid x" + all.substr(line, end - line) + "endsolid x\n"});
    const std::size_t next = all.find('\n', end);
    from = next == std::string::npos ? all.size() : next;
  }
  if (pieces.empty())
    pieces.push_back({{}, all});
  return pieces;
}

bool readSoup(const std::string& text, const std::string& kind, std::vector<Point>& points,
              std::vector<std::vector<std::size_t>>& polygons)
{
  std::istringstream in(text, std::ios::binary);
  if (kind == ".stl")
    return CGAL::IO::read_STL(in, points, polygons);
  if (kind == ".obj")
    return CGAL::IO::read_OBJ(in, points, polygons);
  return CGAL::IO::read_PLY(in, points, polygons);
}

Vec3 middleOf(const Skin& skin, Skin::Edge_index edge)
{
  const auto half = skin.halfedge(edge);
  return (vec(skin.point(skin.source(half))) + vec(skin.point(skin.target(half)))) / 2;
}

TriangleShell shellOf(Skin skin, double featureAngle)
{
  TriangleShell shell;
  for (const auto edge : skin.edges())
    if (skin.is_border(edge)) {
      if (shell.openEdges++ == 0)
        shell.faultAt = middleOf(skin, edge);
    }
  if (shell.openEdges == 0) {
    std::vector<std::pair<Skin::Face_index, Skin::Face_index>> cuts;
    processing::self_intersections(skin, std::back_inserter(cuts));
    shell.crossings = static_cast<int>(cuts.size());
    if (!cuts.empty())
      shell.faultAt = vec(skin.point(skin.target(skin.halfedge(cuts.front().first))));
    shell.inward = cuts.empty() && !processing::is_outward_oriented(skin);
    if (shell.inward)
      processing::reverse_face_orientations(skin);
  }
  auto sharp = skin.add_property_map<Skin::Edge_index, bool>("e:sharp", false).first;
  auto patch = skin.add_property_map<Skin::Face_index, int>("f:patch", 0).first;
  processing::sharp_edges_segmentation(skin, featureAngle * 180 / std::numbers::pi, sharp, patch);
  std::vector<int> number(skin.number_of_vertices() + skin.number_of_removed_vertices());
  for (const auto vertex : skin.vertices()) {
    number[vertex] = static_cast<int>(shell.points.size());
    shell.points.push_back(vec(skin.point(vertex)));
  }
  std::map<int, int> faces;
  for (const auto triangle : skin.faces()) {
    std::array<int, 3> corners{};
    std::size_t i = 0;
    for (const auto vertex : skin.vertices_around_face(skin.halfedge(triangle)))
      corners[i++] = number[vertex];
    shell.triangles.push_back(corners);
    shell.face.push_back(faces.emplace(patch[triangle], static_cast<int>(faces.size())).first->second);
  }
  return shell;
}

} // namespace

Expected<std::vector<TriangleShell>> readShells(const std::filesystem::path& path, double featureAngle)
{
  const auto refused = [&](const std::string& problem) {
    return failure(Failure::Kind::Unreadable, "file " + path.filename().string(), problem,
                   "Write it again as a closed surface of triangles (STL, OBJ or PLY).");
  };
  std::string kind = path.extension().string();
  for (char& letter : kind)
    letter = static_cast<char>(std::tolower(static_cast<unsigned char>(letter)));
  std::vector<TriangleShell> shells;
  try {
    for (const Piece& piece : piecesOf(path, kind)) {
      std::vector<Point> points;
      std::vector<std::vector<std::size_t>> polygons;
      if (!readSoup(piece.text, kind, points, polygons) || polygons.empty())
        return refused("It holds no triangles that can be read.");
      for (const Point& point : points)
        if (!std::isfinite(point.x()) || !std::isfinite(point.y()) || !std::isfinite(point.z()))
          return refused("It holds a point that is not a number.");
      for (const auto& polygon : polygons)
        for (const std::size_t corner : polygon)
          if (corner >= points.size())
            return refused("A triangle names a point that is not there.");
      processing::repair_polygon_soup(points, polygons);
      processing::orient_polygon_soup(points, polygons);
      if (polygons.empty() || !processing::is_polygon_soup_a_polygon_mesh(polygons))
        return refused("Its triangles do not make a surface.");
      Skin skin;
      processing::polygon_soup_to_polygon_mesh(points, polygons, skin);
      processing::triangulate_faces(skin);
      std::vector<Skin> components;
      processing::split_connected_components(skin, components);
      for (Skin& component : components) {
        shells.push_back(shellOf(std::move(component), featureAngle));
        shells.back().name = piece.name;
      }
    }
    return shells;
  } catch (const std::exception&) { // what the library says helps nobody
    return refused("Its triangles could not be joined to a surface.");
  }
}

} // namespace kiln
