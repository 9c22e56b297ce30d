// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "mesh/VolumeMesh.h"

#include "base/InParallel.h"
#include "base/InProcesses.h"
#include "mesh/CurvedEdges.h"
#include "mesh/MeshQuality.h"
#include "mesh/SecondOrder.h"
#include "mesh/SectionMesh.h"
#include "mesh/SkinShells.h"
#include "mesh/TetGenErrors.h"

#include <algorithm>
#include <cmath>
#include <cstring>
#include <limits>
#include <memory>
#include <numbers>
#include <numeric>
#include <set>
#include <string>
#include <tetgen.h>
#include <unordered_map>

namespace kiln
{
namespace
{

/// What TetGen is given of one part: its skin with nodes of its own, places inside it and in its cavities.
struct PartInput {
  PartId part{};
  std::vector<int> nodes;   ///< of the model's skin
  std::vector<Vec3> places; ///< of these
  std::vector<SkinTriangle> triangles;
  std::vector<Vec3> seeds, holes;
};

/// Triangles of the skin by part, each part's turned out of it.
std::vector<std::vector<std::size_t>> trianglesOfParts(const FaceTable& geometry, const SurfaceMesh& skin)
{
  std::vector<std::vector<std::size_t>> triangles(geometry.parts.size());
  for (std::size_t t = 0; t < skin.triangles.size(); ++t)
    for (const PartId part : geometry.faces[static_cast<std::size_t>(skin.triangleFace[t])].parts)
      if (part != noPart &&
          (triangles[static_cast<std::size_t>(part)].empty() || triangles[static_cast<std::size_t>(part)].back() != t))
        triangles[static_cast<std::size_t>(part)].push_back(t);
  return triangles;
}

SkinTriangle outOf(const FaceTable& geometry, const SurfaceMesh& skin, std::size_t t, PartId part)
{
  SkinTriangle triangle{skin.triangles[t], skin.triangleFace[t]};
  if (geometry.faces[static_cast<std::size_t>(triangle.face)].parts[0] != part)
    std::swap(triangle.corners[1], triangle.corners[2]);
  return triangle;
}

void fillInput(const std::vector<Vec3>& places, const std::vector<SkinTriangle>& triangles, tetgenio& in)
{
  in.firstnumber = 0;
  in.numberofpoints = static_cast<int>(places.size());
  in.pointlist = new REAL[places.size() * 3]; // owned and deleted by tetgenio
  for (std::size_t i = 0; i < places.size(); ++i)
    for (std::size_t d = 0; d < 3; ++d)
      in.pointlist[3 * i + d] = places[i][static_cast<Eigen::Index>(d)];
  in.numberoffacets = static_cast<int>(triangles.size());
  in.facetlist = new tetgenio::facet[triangles.size()];
  in.facetmarkerlist = new int[triangles.size()];
  for (std::size_t t = 0; t < triangles.size(); ++t) {
    tetgenio::facet& facet = in.facetlist[t];
    tetgenio::init(&facet);
    facet.numberofpolygons = 1;
    facet.polygonlist = new tetgenio::polygon[1];
    tetgenio::init(facet.polygonlist);
    facet.polygonlist[0].numberofvertices = 3;
    facet.polygonlist[0].vertexlist = new int[3];
    std::copy(triangles[t].corners.begin(), triangles[t].corners.end(), facet.polygonlist[0].vertexlist);
    in.facetmarkerlist[t] = triangles[t].face + 1;
  }
}

constexpr int inside = 1; // region of the part; others are cavities that no hole was found for

void addRegions(const PartInput& part, double size, tetgenio& in)
{
  in.numberofregions = static_cast<int>(part.seeds.size());
  in.regionlist = new REAL[part.seeds.size() * 5];
  for (std::size_t i = 0; i < part.seeds.size(); ++i) {
    REAL* region = in.regionlist + 5 * i;
    for (int d = 0; d < 3; ++d)
      region[d] = part.seeds[i][d];
    region[3] = inside;
    region[4] = 1.5 * size * size * size / (6 * std::numbers::sqrt2); // a regular tetrahedron, with some slack
  }
  in.numberofholes = static_cast<int>(part.holes.size());
  if (part.holes.empty())
    return;
  in.holelist = new REAL[part.holes.size() * 3];
  for (std::size_t i = 0; i < part.holes.size(); ++i)
    for (std::size_t d = 0; d < 3; ++d)
      in.holelist[3 * i + d] = part.holes[i][static_cast<Eigen::Index>(d)];
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

std::string namesOfCrossingFaces(const FaceTable& geometry, const std::vector<Vec3>& places,
                                 const std::vector<SkinTriangle>& triangles)
{
  tetgenio in;
  tetgenio out;
  fillInput(places, triangles, in);
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

/// Names of those that a part's skin has, the narrowest first.
std::string narrowestFaces(const FaceTable& geometry, const std::vector<SkinTriangle>& triangles)
{
  std::set<FaceId> all;
  for (const SkinTriangle& triangle : triangles)
    all.insert(triangle.face);
  std::vector<FaceId> byWidth(all.begin(), all.end());
  std::sort(byWidth.begin(), byWidth.end(), [&](FaceId a, FaceId b) {
    return geometry.faces[static_cast<std::size_t>(a)].width < geometry.faces[static_cast<std::size_t>(b)].width;
  });
  constexpr std::size_t most = 3;
  std::string text;
  for (std::size_t i = 0; i < std::min(most, byWidth.size()); ++i)
    if (const Face& face = geometry.faces[static_cast<std::size_t>(byWidth[i])]; !face.names.empty())
      text += (text.empty() ? "" : ", ") + face.names.front();
  return text.empty() ? "unknown" : text;
}

tl::unexpected<Failure> mesherFailure(int error, const FaceTable& geometry, const std::string& part,
                                      const std::vector<Vec3>& places, const std::vector<SkinTriangle>& triangles)
{
  if (error == tetgen::selfIntersection)
    return failure(Failure::Kind::Solver, "faces " + namesOfCrossingFaces(geometry, places, triangles),
                   "Their meshes cross each other.", "Give the parts beside them a smaller mesh size.");
  if (error == tetgen::noMemory)
    return failure(Failure::Kind::Solver, "part " + part, "There is not enough memory to fill it with tetrahedra.",
                   "Give it a larger mesh size, or close other programs.");
  return failure(Failure::Kind::Solver, "part " + part,
                 "It could not be filled with tetrahedra. Its narrowest faces, where that mostly comes from: " +
                     narrowestFaces(geometry, triangles) + ".",
                 "Remove these features, or change the mesh size of the part a little.");
}

PartInput inputOf(const FaceTable& geometry, const SurfaceMesh& skin, const std::vector<std::size_t>& triangles,
                  PartId part)
{
  PartInput input;
  input.part = part;
  std::unordered_map<int, int> own; // node of the skin: here
  for (const std::size_t t : triangles) {
    SkinTriangle triangle = outOf(geometry, skin, t, part);
    for (int& node : triangle.corners) {
      const auto [found, isNew] = own.try_emplace(node, static_cast<int>(input.nodes.size()));
      if (isNew) {
        input.nodes.push_back(node);
        input.places.push_back(skin.nodes[static_cast<std::size_t>(node)]);
      }
      node = found->second;
    }
    input.triangles.push_back(triangle);
  }
  const SkinShells shells(input.places, input.triangles);
  input.seeds = shells.seeds();
  if (const auto cavities = shells.cavities())
    for (const Cavity& cavity : *cavities)
      input.holes.push_back(cavity.place);
  return input;
}

/// Fills one part. Its skin stays as it is, so that neighbours filled by themselves fit.
/// \param skinNodes  of the whole model
/// \return or the mesher's number of an error
tl::expected<PartMesh, int> fill(const PartInput& input, std::size_t skinNodes, double size)
{
  tetgenio in;
  tetgenio out;
  fillInput(input.places, input.triangles, in);
  addRegions(input, size, in);
  if (const int error = run("pYq1.4aAo/150", in, out); error != 0)
    return tl::unexpected(error);
  PartMesh mesh;
  const auto first = static_cast<std::int32_t>(skinNodes);
  const auto ownNodes = static_cast<int>(input.nodes.size());
  for (int i = ownNodes; i < out.numberofpoints; ++i)
    mesh.inner.push_back(Eigen::Map<const Vec3>(out.pointlist + static_cast<std::ptrdiff_t>(3) * i));
  for (int t = 0; t < out.numberoftetrahedra; ++t) {
    if (std::lround(out.tetrahedronattributelist[t]) != inside)
      continue;
    const int* n = out.tetrahedronlist + static_cast<std::ptrdiff_t>(4) * t;
    PartMesh::Corners tet{};
    for (std::size_t i = 0; i < 4; ++i)
      tet[i] = n[i] < ownNodes ? input.nodes[static_cast<std::size_t>(n[i])] : first + n[i] - ownNodes;
    mesh.tets.push_back(tet);
  }
  return mesh;
}

/// As bytes for another process: an error's number or 0, how many nodes, nodes, tetrahedra.
std::string packed(const tl::expected<PartMesh, int>& filled)
{
  std::string bytes;
  const auto add = [&](const void* from, std::size_t size) { bytes.append(static_cast<const char*>(from), size); };
  const int error = filled ? 0 : filled.error();
  add(&error, sizeof error);
  if (!filled)
    return bytes;
  const std::size_t nodes = filled->inner.size();
  add(&nodes, sizeof nodes);
  for (const Vec3& node : filled->inner)
    add(node.data(), 3 * sizeof(double));
  add(filled->tets.data(), filled->tets.size() * sizeof(PartMesh::Corners));
  return bytes;
}

tl::expected<PartMesh, int> unpacked(const std::string& bytes)
{
  std::size_t at = 0;
  const auto take = [&](void* to, std::size_t size) {
    std::memcpy(to, bytes.data() + at, size);
    at += size;
  };
  int error = 0;
  take(&error, sizeof error);
  if (error != 0)
    return tl::unexpected(error);
  PartMesh mesh;
  std::size_t nodes = 0;
  take(&nodes, sizeof nodes);
  mesh.inner.resize(nodes);
  for (Vec3& node : mesh.inner)
    take(node.data(), 3 * sizeof(double));
  mesh.tets.resize((bytes.size() - at) / sizeof(PartMesh::Corners));
  if (!mesh.tets.empty())
    take(mesh.tets.data(), mesh.tets.size() * sizeof(PartMesh::Corners));
  return mesh;
}

/// Fills parts side by side, each in a process of its own: TetGen keeps state of its own, and some inputs end it.
std::vector<tl::expected<PartMesh, int>> fillApart(const std::vector<PartInput>& inputs, std::size_t skinNodes,
                                                   const MeshSizes& sizes)
{
  const auto sizeOf = [&](const PartInput& input) { return sizes.part[static_cast<std::size_t>(input.part)]; };
  std::vector<tl::expected<PartMesh, int>> meshes(inputs.size(), tl::unexpected(0));
  if (inputs.size() == 1) {
    meshes[0] = fill(inputs[0], skinNodes, sizeOf(inputs[0]));
    return meshes;
  }
  std::vector<std::size_t> order(inputs.size());
  std::iota(order.begin(), order.end(), std::size_t{0});
  std::stable_sort(order.begin(), order.end(), [&](std::size_t a, std::size_t b) {
    return inputs[a].triangles.size() > inputs[b].triangles.size(); // what takes long begins early
  });
  const auto answers = inProcesses(order.size(), [&](std::size_t i) {
    const PartInput& input = inputs[order[i]];
    return packed(fill(input, skinNodes, sizeOf(input)));
  });
  for (std::size_t i = 0; i < order.size(); ++i)
    meshes[order[i]] = answers[i] && !answers[i]->empty() ? unpacked(*answers[i]) : tl::unexpected(tetgen::endedByIt);
  return meshes;
}

/// Adds a part's tetrahedra, whose inner nodes come after those of the skin, to the mesh.
void append(const PartMesh& own, PartId part, std::size_t skinNodes, Mesh& mesh)
{
  const std::size_t shift = mesh.nodes.size() - skinNodes;
  mesh.nodes.insert(mesh.nodes.end(), own.inner.begin(), own.inner.end());
  for (const PartMesh::Corners& corners : own.tets) {
    Tet& tet = mesh.tets.emplace_back();
    for (std::size_t i = 0; i < tet.size(); ++i) {
      const auto node = static_cast<std::size_t>(corners[i]);
      tet[i] = NodeId(node < skinNodes ? node : node + shift);
    }
    mesh.tetPart.push_back(part);
    if (tetVolume(mesh, mesh.tets.size() - 1) < 0)
      std::swap(mesh.tets.back()[0], mesh.tets.back()[1]);
  }
}

/// Closed spaces between the parts. Where their skins cannot be told apart none is listed.
std::vector<Void> voidsBetween(const FaceTable& geometry, const SurfaceMesh& skin)
{
  std::vector<SkinTriangle> exposed;
  for (std::size_t t = 0; t < skin.triangles.size(); ++t)
    if (const Face& face = geometry.faces[static_cast<std::size_t>(skin.triangleFace[t])]; face.exposed())
      exposed.push_back(outOf(geometry, skin, t, face.parts[0]));
  std::vector<Void> voids;
  if (const auto cavities = SkinShells(skin.nodes, std::move(exposed)).cavities())
    for (const Cavity& cavity : *cavities)
      voids.push_back({cavity.volume, cavity.faces});
  return voids;
}

tl::unexpected<Failure> keptMisfit(const GeometryPart& part)
{
  auto failed = failure(Failure::Kind::Solver, "part " + part.name,
                        "The elements of its file do not fit: something touches it across their sides.",
                        "Move what touches it, or let it be meshed anew (untick Keep the elements of the file).");
  failed.value().ids = {part.id};
  return failed;
}

/// By part: as it is kept, as it was, or filled anew.
Expected<std::vector<PartMesh>> meshParts(const FaceTable& geometry, const SurfaceMesh& skin, const MeshSizes& sizes,
                                          const PartMeshes* known, const KeptSkins* kept)
{
  const std::vector<std::vector<std::size_t>> triangles = trianglesOfParts(geometry, skin);
  std::vector<PartMesh> meshes(geometry.parts.size());
  std::vector<PartInput> unfilled;
  for (std::size_t p = 0; p < geometry.parts.size(); ++p) {
    if (kept != nullptr && kept->has(PartId(p))) {
      auto own = kept->fill(PartId(p), skin, triangles[p]);
      if (!own)
        return keptMisfit(geometry.parts[p]);
      meshes[p] = std::move(*own);
    } else if (auto same = known != nullptr ? known->find(geometry.parts[p].id, skin, triangles[p]) : std::nullopt) {
      meshes[p] = std::move(*same);
    } else {
      unfilled.emplace_back().part = PartId(p);
    }
  }
  inParallel(unfilled.size(), [&](std::size_t i) {
    const PartId part = unfilled[i].part;
    unfilled[i] = inputOf(geometry, skin, triangles[static_cast<std::size_t>(part)], part);
  });
  const auto named = [&](PartId part) -> const std::string& {
    return geometry.parts[static_cast<std::size_t>(part)].name;
  };
  for (const PartInput& input : unfilled)
    if (input.seeds.empty())
      return failure(Failure::Kind::Solver, "part " + named(input.part), "No place inside it could be found.",
                     "Check that its shape encloses a volume.");
  auto filled = fillApart(unfilled, skin.nodes.size(), sizes);
  for (std::size_t i = 0; i < filled.size(); ++i) {
    const PartInput& input = unfilled[i];
    if (!filled[i])
      return mesherFailure(filled[i].error(), geometry, named(input.part), input.places, input.triangles);
    if (filled[i]->tets.empty())
      return failure(Failure::Kind::Solver, "part " + named(input.part), "It was not filled with tetrahedra.",
                     "Check that its shape is closed.");
    meshes[static_cast<std::size_t>(input.part)] = std::move(*filled[i]);
  }
  return meshes;
}

double smallestDihedralDegrees(const Mesh& mesh)
{
  double smallest = std::numbers::pi;
  for (std::size_t t = 0; t < mesh.tets.size(); ++t)
    smallest = std::min(smallest, smallestDihedral(mesh, t));
  return smallest * 180 / std::numbers::pi;
}

} // namespace

Expected<Mesh> meshVolume(const FaceTable& geometry, const SurfaceMesh& skin, const MeshSizes& sizes,
                          const PartMeshes* known, const KeptSkins* kept)
{
  Mesh mesh;
  mesh.geometry = geometry;
  mesh.nodes = skin.nodes;
  for (const Triangle& own : skin.triangles)
    mesh.triangles.push_back({NodeId(own[0]), NodeId(own[1]), NodeId(own[2])});
  mesh.triangleFace.assign(skin.triangleFace.begin(), skin.triangleFace.end());
  auto parts = meshParts(geometry, skin, sizes, known, kept);
  if (!parts)
    return tl::unexpected(parts.error());
  for (std::size_t p = 0; p < parts->size(); ++p)
    append((*parts)[p], PartId(p), skin.nodes.size(), mesh);
  mesh.voids = voidsBetween(geometry, skin);
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

Expected<Mesh> buildMesh(const Project& project, const Geometry& geometry, const Progress& progress, const Mesh* before)
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
  auto elements = keptElements(project, geometry.table);
  if (!elements)
    return tl::unexpected(elements.error());
  KeptSkins kept(std::move(*elements));
  const Expected<SurfaceMesh> skin = meshSurface(geometry, sizes, kept.empty() ? nullptr : &kept);
  if (!skin)
    return tl::unexpected(skin.error());
  progress("mesh", 0.3, "filling parts with tetrahedra");
  std::optional<PartMeshes> known;
  if (before != nullptr && !before->geometry.section.is() && !before->tets.empty())
    known.emplace(*before);
  Expected<Mesh> mesh = meshVolume(geometry.table, *skin, sizes, known ? &*known : nullptr, &kept);
  if (!mesh)
    return mesh;
  if (!finish(project, geometry, *mesh))
    return loneTriangle(geometry.table, *skin);
  return mesh;
}

} // namespace kiln
