// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "mesh/VolumeMesh.h"

#include "mesh/CurvedEdges.h"
#include "mesh/MeshQuality.h"
#include "mesh/SecondOrder.h"
#include "mesh/SectionMesh.h"
#include "mesh/TetGenErrors.h"

#include <algorithm>
#include <cmath>
#include <limits>
#include <map>
#include <memory>
#include <numbers>
#include <set>
#include <string>
#include <tetgen.h>

namespace kiln
{
namespace
{

constexpr int unknownRegion = -1; // our own number: a tetrahedron outside every part

Vec3 nodeOf(const SurfaceMesh& skin, int n) { return skin.nodes[static_cast<std::size_t>(n)]; }

/// A place well inside a solid region: from a triangle's centre along its inward normal, the middle of the way to the
/// next triangle of the same part; the longest of several tries. Source: STACK notes on region seeds.
class SeedFinder
{
public:
  SeedFinder(const FaceTable& geometry, const SurfaceMesh& skin) : geometry_(geometry), skin_(skin)
  {
    for (std::size_t t = 0; t < skin.triangles.size(); ++t)
      for (const int part : geometry.faces[static_cast<std::size_t>(skin.triangleFace[t])].parts)
        if (part != noPart)
          ofPart_[part].push_back(t);
  }

  /// Seeds for each connected skin of the part (a part of several bodies has several).
  [[nodiscard]] std::vector<Vec3> seeds(int part) const
  {
    std::vector<Vec3> found;
    for (const std::vector<std::size_t>& skin : connectedSkins(part))
      if (const auto seed = longestInside(part, skin))
        found.push_back(*seed);
    return found;
  }

private:
  [[nodiscard]] std::vector<std::vector<std::size_t>> connectedSkins(int part) const
  {
    const std::vector<std::size_t>& all = ofPart_.at(part);
    std::map<int, std::vector<std::size_t>> byNode;
    for (const std::size_t t : all)
      for (const int n : skin_.triangles[t])
        byNode[n].push_back(t);
    std::set<std::size_t> left(all.begin(), all.end());
    std::vector<std::vector<std::size_t>> skins;
    while (!left.empty()) {
      std::vector<std::size_t> open{*left.begin()};
      left.erase(left.begin());
      std::vector<std::size_t>& skin = skins.emplace_back();
      while (!open.empty()) {
        const std::size_t t = open.back();
        open.pop_back();
        skin.push_back(t);
        for (const int n : skin_.triangles[t])
          for (const std::size_t other : byNode[n])
            if (left.erase(other) > 0)
              open.push_back(other);
      }
    }
    return skins;
  }

  [[nodiscard]] std::optional<Vec3> longestInside(int part, const std::vector<std::size_t>& skin) const
  {
    constexpr std::size_t tries = 40;
    double longest = 0;
    std::optional<Vec3> best;
    for (std::size_t i = 0; i < tries; ++i) {
      const std::size_t t = skin[i * skin.size() / tries];
      const Triangle& corners = skin_.triangles[t];
      const Vec3 a = nodeOf(skin_, corners[0]);
      const Vec3 b = nodeOf(skin_, corners[1]);
      const Vec3 c = nodeOf(skin_, corners[2]);
      Vec3 inward = -(b - a).cross(c - a).normalized();
      if (geometry_.faces[static_cast<std::size_t>(skin_.triangleFace[t])].parts[0] != part)
        inward = -inward;
      const Vec3 start = (a + b + c) / 3;
      const double depth = firstHit(part, t, start, inward);
      if (std::isfinite(depth) && depth > longest) {
        longest = depth;
        best = start + inward * depth / 2;
      }
    }
    return best;
  }

  [[nodiscard]] double firstHit(int part, std::size_t from, const Vec3& start, const Vec3& direction) const
  {
    double nearest = std::numeric_limits<double>::infinity();
    for (const std::size_t t : ofPart_.at(part)) {
      if (t == from)
        continue;
      const Triangle& corners = skin_.triangles[t];
      const Vec3 a = nodeOf(skin_, corners[0]);
      const Vec3 e1 = nodeOf(skin_, corners[1]) - a;
      const Vec3 e2 = nodeOf(skin_, corners[2]) - a;
      const Vec3 p = direction.cross(e2);
      const double determinant = e1.dot(p);
      if (std::abs(determinant) < 1e-300)
        continue;
      const Vec3 s = start - a;
      const double u = s.dot(p) / determinant;
      const Vec3 q = s.cross(e1);
      const double v = direction.dot(q) / determinant;
      const double distance = e2.dot(q) / determinant;
      if (u >= 0 && v >= 0 && u + v <= 1 && distance > 0)
        nearest = std::min(nearest, distance);
    }
    return nearest;
  }

  const FaceTable& geometry_;
  const SurfaceMesh& skin_;
  std::map<int, std::vector<std::size_t>> ofPart_;
};

struct Seed {
  Vec3 place;
  int part;
};

void fillInput(const SurfaceMesh& skin, tetgenio& in)
{
  in.firstnumber = 0;
  in.numberofpoints = static_cast<int>(skin.nodes.size());
  in.pointlist = new REAL[skin.nodes.size() * 3]; // owned and deleted by tetgenio
  for (std::size_t i = 0; i < skin.nodes.size(); ++i)
    for (std::size_t d = 0; d < 3; ++d)
      in.pointlist[3 * i + d] = skin.nodes[i][static_cast<Eigen::Index>(d)];
  in.numberoffacets = static_cast<int>(skin.triangles.size());
  in.facetlist = new tetgenio::facet[skin.triangles.size()];
  in.facetmarkerlist = new int[skin.triangles.size()];
  for (std::size_t t = 0; t < skin.triangles.size(); ++t) {
    tetgenio::facet& facet = in.facetlist[t];
    tetgenio::init(&facet);
    facet.numberofpolygons = 1;
    facet.polygonlist = new tetgenio::polygon[1];
    tetgenio::init(facet.polygonlist);
    facet.polygonlist[0].numberofvertices = 3;
    facet.polygonlist[0].vertexlist = new int[3];
    std::copy(skin.triangles[t].begin(), skin.triangles[t].end(), facet.polygonlist[0].vertexlist);
    in.facetmarkerlist[t] = skin.triangleFace[t] + 1;
  }
}

void addRegions(const std::vector<Seed>& seeds, const std::vector<double>& sizes, tetgenio& in)
{
  in.numberofregions = static_cast<int>(seeds.size());
  in.regionlist = new REAL[seeds.size() * 5];
  for (std::size_t i = 0; i < seeds.size(); ++i) {
    const double h = sizes[static_cast<std::size_t>(seeds[i].part)];
    REAL* region = in.regionlist + 5 * i;
    for (int d = 0; d < 3; ++d)
      region[d] = seeds[i].place[d];
    region[3] = seeds[i].part + 1;
    region[4] = 1.5 * h * h * h / (6 * std::numbers::sqrt2); // a regular tetrahedron of edge h, with some slack
  }
}

/// Places inside closed spaces that no seed reaches, from a coarse division without refinement.
struct EmptySpace {
  Vec3 place;
  double volume = 0;
  double largest = 0;
  std::set<int> nodes;
};

std::vector<EmptySpace> emptySpaces(tetgenio& coarse, const std::vector<Seed>& seeds)
{
  std::map<int, EmptySpace> byRegion;
  const auto point = [&](int n) {
    return Vec3(coarse.pointlist[3 * n], coarse.pointlist[3 * n + 1], coarse.pointlist[3 * n + 2]);
  };
  for (int t = 0; t < coarse.numberoftetrahedra; ++t) {
    const int region = static_cast<int>(std::lround(coarse.tetrahedronattributelist[t]));
    if (region >= 1 && region <= static_cast<int>(seeds.size()))
      continue;
    const int* n = coarse.tetrahedronlist + static_cast<std::ptrdiff_t>(4) * t;
    const Vec3 a = point(n[0]);
    const double volume = std::abs((point(n[1]) - a).cross(point(n[2]) - a).dot(point(n[3]) - a)) / 6;
    EmptySpace& space = byRegion[region];
    space.volume += volume;
    space.nodes.insert(n, n + 4);
    if (volume > space.largest) {
      space.largest = volume;
      space.place = (a + point(n[1]) + point(n[2]) + point(n[3])) / 4;
    }
  }
  std::vector<EmptySpace> spaces;
  for (auto& [region, space] : byRegion)
    spaces.push_back(std::move(space));
  return spaces;
}

/// Runs the mesher; \return its error number, 0 when it succeeded.
int run(const std::string& switches, tetgenio& in, tetgenio& out)
{
  std::string text = "Q" + switches;
  try {
    tetrahedralize(text.data(), &in, &out);
  } catch (int error) {
    return error;
  } catch (const std::exception&) {
    return 1;
  }
  return 0;
}

std::string namesOfCrossingFaces(const FaceTable& geometry, const SurfaceMesh& skin)
{
  tetgenio in;
  tetgenio out;
  fillInput(skin, in);
  if (run("pd", in, out) != 0)
    return "unknown faces";
  std::set<std::string> names;
  for (int i = 0; i < out.numberoftrifaces && out.trifacemarkerlist != nullptr; ++i) {
    const int f = out.trifacemarkerlist[i] - 1;
    if (f >= 0 && f < static_cast<int>(geometry.faces.size()) &&
        !geometry.faces[static_cast<std::size_t>(f)].names.empty())
      names.insert(geometry.faces[static_cast<std::size_t>(f)].names.front());
  }
  std::string text;
  for (const std::string& name : names)
    text += (text.empty() ? "" : ", ") + name;
  return text.empty() ? "unknown faces" : text;
}

tl::unexpected<Failure> mesherFailure(int error, const FaceTable& geometry, const SurfaceMesh& skin)
{
  if (error == tetgen::selfIntersection)
    return failure(Failure::Kind::Solver, "faces " + namesOfCrossingFaces(geometry, skin),
                   "Their meshes cross each other.", "Give the parts beside them a smaller mesh size.");
  return failure(Failure::Kind::Solver, "mesh",
                 "The parts could not be filled with tetrahedra (reason " + std::to_string(error) + ").",
                 "Change the mesh size a little, or mute parts to find the one that stands in the way.");
}

void takeTets(const tetgenio& out, Mesh& mesh)
{
  for (int i = 0; i < out.numberofpoints; ++i)
    mesh.nodes.emplace_back(out.pointlist[3 * i], out.pointlist[3 * i + 1], out.pointlist[3 * i + 2]);
  for (int t = 0; t < out.numberoftetrahedra; ++t) {
    const int* n = out.tetrahedronlist + static_cast<std::ptrdiff_t>(4) * t;
    mesh.tets.push_back({n[0], n[1], n[2], n[3]});
    mesh.tetPart.push_back(static_cast<int>(std::lround(out.tetrahedronattributelist[t])) - 1);
    if (tetVolume(mesh, mesh.tets.size() - 1) < 0)
      std::swap(mesh.tets.back()[0], mesh.tets.back()[1]);
  }
}

double smallestDihedralDegrees(const Mesh& mesh)
{
  double smallest = std::numbers::pi;
  for (std::size_t t = 0; t < mesh.tets.size(); ++t)
    smallest = std::min(smallest, smallestDihedral(mesh, t));
  return smallest * 180 / std::numbers::pi;
}

/// Faces all of whose nodes lie on the empty space and that have a free side.
std::vector<int> facesAround(const EmptySpace& space, const FaceTable& geometry, const SurfaceMesh& skin)
{
  std::set<int> faces;
  for (std::size_t t = 0; t < skin.triangles.size(); ++t) {
    const Triangle& corners = skin.triangles[t];
    const auto inside = [&](int n) { return space.nodes.contains(n); };
    if (geometry.faces[static_cast<std::size_t>(skin.triangleFace[t])].exposed() &&
        std::all_of(corners.begin(), corners.end(), inside))
      faces.insert(skin.triangleFace[t]);
  }
  return {faces.begin(), faces.end()};
}

Expected<std::vector<Seed>> seedsOf(const FaceTable& geometry, const SurfaceMesh& skin)
{
  const SeedFinder finder(geometry, skin);
  std::vector<Seed> seeds;
  for (std::size_t p = 0; p < geometry.parts.size(); ++p) {
    const std::vector<Vec3> places = finder.seeds(static_cast<int>(p));
    if (places.empty())
      return failure(Failure::Kind::Solver, "part " + geometry.parts[p].name, "No place inside it could be found.",
                     "Check that its shape encloses a volume.");
    for (const Vec3& place : places)
      seeds.push_back({place, static_cast<int>(p)});
  }
  return seeds;
}

} // namespace

Expected<Mesh> meshVolume(const FaceTable& geometry, const SurfaceMesh& skin, const MeshSizes& sizes)
{
  const Expected<std::vector<Seed>> seeds = seedsOf(geometry, skin);
  if (!seeds)
    return tl::unexpected(seeds.error());

  // First without refinement, each seed its own region: what no seed reaches is empty space.
  tetgenio coarseIn;
  tetgenio coarse;
  fillInput(skin, coarseIn);
  std::vector<Seed> numbered = *seeds;
  for (std::size_t i = 0; i < numbered.size(); ++i)
    numbered[i].part = static_cast<int>(i);
  addRegions(numbered, std::vector<double>(numbered.size(), 1.0), coarseIn);
  if (const int error = run("pYA", coarseIn, coarse); error != 0)
    return mesherFailure(error, geometry, skin);
  const std::vector<EmptySpace> spaces = emptySpaces(coarse, numbered);

  tetgenio in;
  tetgenio out;
  fillInput(skin, in);
  addRegions(*seeds, sizes.part, in);
  in.numberofholes = static_cast<int>(spaces.size());
  in.holelist = spaces.empty() ? nullptr : new REAL[spaces.size() * 3];
  for (std::size_t i = 0; i < spaces.size(); ++i)
    for (std::size_t d = 0; d < 3; ++d)
      in.holelist[3 * i + d] = spaces[i].place[static_cast<Eigen::Index>(d)];
  if (const int error = run("pYq1.4aAo/150", in, out); error != 0)
    return mesherFailure(error, geometry, skin);

  Mesh mesh;
  mesh.geometry = geometry;
  takeTets(out, mesh);
  mesh.triangles = skin.triangles;
  mesh.triangleFace.assign(skin.triangleFace.begin(), skin.triangleFace.end());
  for (const EmptySpace& space : spaces)
    mesh.voids.push_back({space.volume, facesAround(space, geometry, skin)});
  std::vector<bool> filled(geometry.parts.size());
  for (const int part : mesh.tetPart) {
    if (part < 0 || part >= static_cast<int>(filled.size()))
      return mesherFailure(unknownRegion, geometry, skin);
    filled[static_cast<std::size_t>(part)] = true;
  }
  for (std::size_t p = 0; p < filled.size(); ++p)
    if (!filled[p])
      return failure(Failure::Kind::Solver, "part " + geometry.parts[p].name, "It was not filled with tetrahedra.",
                     "Check that its shape is closed.");
  mesh.smallestDihedral = smallestDihedralDegrees(mesh);
  return mesh;
}

namespace
{

/// Does a place lie on a triangle, to a millionth of its size?
bool liesOn(const SurfaceMesh& mesh, const Triangle& triangle, const Vec3& place)
{
  const auto corner = [&](std::size_t i) -> const Vec3& { return mesh.nodes[static_cast<std::size_t>(triangle[i])]; };
  const Vec3 normal = (corner(1) - corner(0)).cross(corner(2) - corner(0));
  constexpr double near = 1e-6;
  const double size = std::sqrt(normal.norm());
  if (std::abs((place - corner(0)).dot(normal)) > near * size * normal.norm())
    return false;
  for (std::size_t i = 0; i < 3; ++i)
    if ((corner((i + 1) % 3) - corner(i)).cross(place - corner(i)).dot(normal) < 0)
      return false;
  return true;
}

/// Why a triangle of the skin has nothing behind it: a node of something else lies on it.
tl::unexpected<Failure> loneTriangle(const FaceTable& geometry, const SurfaceMesh& mesh)
{
  std::set<int> skin;
  for (const Triangle& triangle : mesh.triangles)
    skin.insert(triangle.begin(), triangle.end());
  for (std::size_t t = 0; t < mesh.triangles.size(); ++t)
    for (const int node : skin) {
      const Triangle& own = mesh.triangles[t];
      const Vec3& place = mesh.nodes[static_cast<std::size_t>(node)];
      if (std::find(own.begin(), own.end(), node) != own.end() || !liesOn(mesh, own, place))
        continue;
      const Face& face = geometry.faces[static_cast<std::size_t>(mesh.triangleFace[t])];
      const auto length = [](double metres) {
        constexpr double nothing = 1e-9; // m
        return formatQuantity(std::abs(metres) < nothing ? 0 : metres, Quantity::Length, {}, 4);
      };
      auto failed = failure(Failure::Kind::Solver,
                            "part " + geometry.parts[static_cast<std::size_t>(face.parts[0])].name + ", face " +
                                (face.names.empty() ? "?" : face.names.front()),
                            "Something touches it at a point or along a line only, around (" + length(place.x()) +
                                ", " + length(place.y()) + ", " + length(place.z()) + "): that cannot be meshed.",
                            "Move the two apart a little, or let them touch on a face.");
      failed.value().place = {place.x(), place.y(), place.z()};
      return failed;
    }
  return failure(Failure::Kind::Solver, "mesh", "A surface triangle has no tetrahedron behind it.",
                 "Change the mesh size a little.");
}

/// Numbers a mesh, gives it its order and ties its triangles to what is behind them. \return false: not all
bool finish(const Project& project, const Geometry& geometry, Mesh& mesh)
{
  renumber(mesh);
  if (project.mesh.secondOrder) {
    makeSecondOrder(mesh);
    bendEdges(geometry, mesh);
    renumber(mesh);
  }
  return connectTriangles(mesh);
}

} // namespace

Expected<Mesh> buildMesh(const Project& project, const Geometry& geometry, const Progress& progress)
{
  const MeshSizes sizes = chooseSizes(project, geometry);
  progress("skin", 0.1, "dividing surfaces");
  if (geometry.table.section.is()) {
    const Expected<AreaMesh> areas = meshAreas(geometry, sizes);
    if (!areas)
      return tl::unexpected(areas.error());
    Mesh mesh = layerOver(geometry.table, *areas);
    if (!finish(project, geometry, mesh))
      return failure(Failure::Kind::Solver, "mesh", "A border of the section has no triangle beside it.",
                     "Change the mesh size a little.");
    return mesh;
  }
  const Expected<SurfaceMesh> skin = meshSurface(geometry, sizes);
  if (!skin)
    return tl::unexpected(skin.error());
  progress("mesh", 0.3, "filling parts with tetrahedra");
  Expected<Mesh> mesh = meshVolume(geometry.table, *skin, sizes);
  if (!mesh)
    return mesh;
  if (!finish(project, geometry, *mesh))
    return loneTriangle(geometry.table, *skin);
  return mesh;
}

} // namespace kiln
