// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "mesh/SurfaceMesh.h"

#include "base/InParallel.h"
#include "geometry/Brep.h"
#include "geometry/SurfaceFaces.h"
#include "mesh/EdgeDivision.h"
#include "mesh/KeptSkins.h"
#include "mesh/PatchMesh.h"
#include "units/Quantity.h"

#include <BRepAdaptor_Surface.hxx>
#include <BRepTools.hxx>
#include <BRep_Tool.hxx>
#include <Geom_Surface.hxx>
#include <TopExp_Explorer.hxx>
#include <TopoDS.hxx>
#include <TopoDS_Vertex.hxx>
#include <algorithm>
#include <cmath>
#include <limits>
#include <map>
#include <numbers>
#include <optional>
#include <set>

namespace kiln
{
namespace
{

/// Builds the border of one face in its parameters from the divided edges.
class BorderBuilder
{
public:
  BorderBuilder(const TopoDS_Face& face, const EdgeDivision& division) : face_(face), division_(division)
  {
    BRepTools::UVBounds(face, u0_, u1_, v0_, v1_);
    const BRepAdaptor_Surface surface(face, false);
    gp_Pnt p;
    gp_Vec du, dv;
    Vec2 sum = Vec2::Zero();
    constexpr int samples = 4;
    for (int i = 0; i < samples; ++i)
      for (int j = 0; j < samples; ++j) {
        surface.D1(u0_ + (u1_ - u0_) * (i + 0.5) / samples, v0_ + (v1_ - v0_) * (j + 0.5) / samples, p, du, dv);
        sum += Vec2(du.Magnitude(), dv.Magnitude());
      }
    border_.scale = (sum / (samples * samples)).cwiseMax(1e-12);
  }

  PatchBorder build()
  {
    for (TopExp_Explorer edges(face_, TopAbs_EDGE); edges.More(); edges.Next())
      addEdge(TopoDS::Edge(edges.Current()));
    return std::move(border_);
  }

  [[nodiscard]] bool hasPole() const { return hasPole_; }

private:
  void addEdge(const TopoDS_Edge& edge)
  {
    double first = 0, last = 0;
    const Handle(Geom2d_Curve) curve = BRep_Tool::CurveOnSurface(edge, face_, first, last);
    const DividedEdge& divided = division_.divided[static_cast<std::size_t>(division_.edges.FindIndex(edge) - 1)];
    int before = -1;
    const auto add = [&](double parameter, int node) {
      const gp_Pnt2d uv = curve->Value(parameter);
      const int here = vertexAt(node, Vec2(uv.X(), uv.Y()));
      if (before >= 0 && before != here)
        border_.segments.push_back({before, here});
      before = here;
    };
    if (divided.poleNode >= 0) {
      hasPole_ = true;
      constexpr int poleSegments = 6;
      for (int i = 0; i <= poleSegments; ++i) {
        add(first + (last - first) * i / poleSegments, divided.poleNode);
        border_.vertices[static_cast<std::size_t>(before)].pole = true;
      }
      return;
    }
    for (std::size_t i = 0; i < divided.nodes.size(); ++i)
      add(divided.parameters[i], divided.nodes[i]);
  }

  int vertexAt(int node, const Vec2& uv)
  {
    const double near = 1e-5 * Vec2(u1_ - u0_, v1_ - v0_).cwiseProduct(border_.scale).norm();
    for (const int v : byNode_[node]) {
      const Vec2 away = (border_.vertices[static_cast<std::size_t>(v)].uv - uv).cwiseProduct(border_.scale);
      if (away.norm() < near)
        return v;
    }
    const int v = static_cast<int>(border_.vertices.size());
    border_.vertices.push_back({uv, division_.nodes[static_cast<std::size_t>(node)], node, true});
    byNode_[node].push_back(v);
    return v;
  }

  const TopoDS_Face& face_;
  const EdgeDivision& division_;
  double u0_ = 0, u1_ = 0, v0_ = 0, v1_ = 0;
  PatchBorder border_;
  std::map<int, std::vector<int>> byNode_;
  bool hasPole_ = false;
};

/// Rings of free points around a pole, so that the tip of a slender cone keeps a few sides.
void addRings(PatchBorder& border, double u0, double u1)
{
  constexpr int sides = 6;
  const std::size_t count = border.vertices.size();
  for (std::size_t i = 0; i < count; ++i) {
    const PatchVertex seam = border.vertices[i];
    if (std::abs(seam.uv.x() - u0) > 1e-9)
      continue;
    const Vec3 opposite = border.placeAt(Vec2((u0 + u1) / 2, seam.uv.y()));
    const double around = std::numbers::pi * (opposite - seam.place).norm();
    if (around < 1e-9 || around > sides * border.sizeAt(seam))
      continue;
    for (int k = 1; k < sides; ++k) {
      const Vec2 uv(u0 + (u1 - u0) * k / sides, seam.uv.y());
      border.vertices.push_back({uv, border.placeAt(uv), newNode, true});
    }
  }
}

/// Every directed edge of a closed skin has its opposite; \return a place where it has not.
std::optional<Vec3> leakOf(const SurfaceMesh& mesh, const FaceTable& table, PartId part)
{
  std::map<std::pair<int, int>, int> balance;
  for (std::size_t t = 0; t < mesh.triangles.size(); ++t) {
    const Face& face = table.faces[static_cast<std::size_t>(mesh.triangleFace[t])];
    const int sign = (face.parts[0] == part ? 1 : 0) - (face.parts[1] == part ? 1 : 0);
    if (sign == 0)
      continue;
    for (std::size_t i = 0; i < 3; ++i) {
      const int a = mesh.triangles[t][i];
      const int b = mesh.triangles[t][(i + 1) % 3];
      balance[std::minmax(a, b)] += a < b ? sign : -sign;
    }
  }
  for (const auto& [edge, sum] : balance)
    if (sum != 0)
      return mesh.nodes[static_cast<std::size_t>(edge.first)];
  return std::nullopt;
}

tl::unexpected<Failure> unmeshable(const FaceTable& table, const Face& face, const std::string& why)
{
  return failure(Failure::Kind::Solver,
                 "part " + table.parts[static_cast<std::size_t>(face.parts[0])].name +
                     (face.names.empty() ? "" : ", face " + face.names.front()),
                 why, "Give the part a smaller mesh size, or simplify its shape there.");
}

/// Triangles of one face. Their nodes are those of the divided edges, and after them, numbered on, its own.
/// \param index     that they carry
/// \param reversed  turns them
/// \return nothing where its border crosses itself
std::optional<SurfaceMesh> meshFace(const TopoDS_Face& face, FaceId index, bool reversed, double most,
                                    const EdgeDivision& division, const SizeField& field, const MeshSizes& sizes)
{
  BorderBuilder builder(face, division);
  PatchBorder border = builder.build();
  const BRepAdaptor_Surface surface(face, false);
  border.placeAt = [&surface](const Vec2& uv) {
    const gp_Pnt p = surface.Value(uv.x(), uv.y());
    return Vec3(p.X(), p.Y(), p.Z());
  };
  const bool plane = surface.GetType() == GeomAbs_Plane;
  const bool unrolls = plane || surface.GetType() == GeomAbs_Cylinder;
  border.scaleAt = [&surface, unrolls, typical = border.scale](const Vec2& uv) -> Vec2 {
    if (unrolls)
      return typical;
    gp_Pnt p;
    gp_Vec du, dv;
    surface.D1(uv.x(), uv.y(), p, du, dv);
    return {du.Magnitude(), dv.Magnitude()};
  };
  border.sizeAt = [&](const PatchVertex& v) {
    return field.at(v.place, plane ? most : curvatureSize(face, v.uv.x(), v.uv.y(), most, sizes));
  };
  if (builder.hasPole())
    addRings(border, surface.FirstUParameter(), surface.LastUParameter());
  PatchMesh patch(std::move(border));
  if (!patch.build())
    return std::nullopt;
  SurfaceMesh mesh;
  std::vector<int> nodes;
  for (const PatchVertex& v : patch.vertices()) {
    nodes.push_back(v.node == newNode ? static_cast<int>(division.nodes.size() + mesh.nodes.size()) : v.node);
    if (v.node == newNode)
      mesh.nodes.push_back(v.place);
  }
  for (const Triangle& t : patch.triangles()) {
    Triangle mapped{};
    for (std::size_t i = 0; i < 3; ++i)
      mapped[i] = nodes[static_cast<std::size_t>(t[i])];
    if (reversed)
      std::swap(mapped[1], mapped[2]);
    mesh.triangles.push_back(mapped);
    mesh.triangleFace.push_back(index);
  }
  return mesh;
}

/// \param divided  nodes of the divided edges, which the mesh has first
void append(const SurfaceMesh& patch, std::size_t divided, SurfaceMesh& mesh)
{
  const auto shift = static_cast<int>(mesh.nodes.size() - divided);
  mesh.nodes.insert(mesh.nodes.end(), patch.nodes.begin(), patch.nodes.end());
  for (Triangle corners : patch.triangles) {
    for (int& corner : corners)
      corner += corner < static_cast<int>(divided) ? 0 : shift;
    mesh.triangles.push_back(corners);
  }
  mesh.triangleFace.insert(mesh.triangleFace.end(), patch.triangleFace.begin(), patch.triangleFace.end());
}

void addPieces(const DividedEdge& edge, std::vector<KeptSkins::Piece>& pieces)
{
  for (std::size_t i = 0; i + 1 < edge.nodes.size(); ++i)
    pieces.emplace_back(std::minmax(edge.nodes[i], edge.nodes[i + 1]));
}

std::vector<KeptSkins::Piece> allPieces(const EdgeDivision& division)
{
  std::vector<KeptSkins::Piece> pieces;
  for (const DividedEdge& edge : division.divided)
    addPieces(edge, pieces);
  return pieces;
}

/// Pieces of the edges around a face.
std::vector<KeptSkins::Piece> borderOf(const TopoDS_Face& face, const EdgeDivision& division)
{
  std::vector<KeptSkins::Piece> pieces;
  for (TopExp_Explorer edges(face, TopAbs_EDGE); edges.More(); edges.Next())
    addPieces(division.divided[static_cast<std::size_t>(division.edges.FindIndex(edges.Current()) - 1)], pieces);
  return pieces;
}

} // namespace

MeshSizes chooseSizes(const Project& project, const Geometry& geometry)
{
  return chooseSizes(project, geometry.table, geometry.brep->thickness);
}

Expected<SurfaceMesh> meshSurface(const Geometry& geometry, const MeshSizes& chosen, KeptSkins* kept)
{
  MeshSizes sizes = chosen;
  if (kept != nullptr)
    for (const SizeSource& source : kept->sizes())
      sizes.finer.push_back(source);
  const Brep& brep = *geometry.brep;
  const FaceTable& table = geometry.table;
  const SizeField field = sizesAlongEdges(brep, sizes);
  const EdgeDivision division = divideEdges(brep, sizes, field, kept);
  if (kept != nullptr)
    kept->tie(division.nodes, allPieces(division));
  SurfaceMesh mesh;
  mesh.nodes = division.nodes;
  std::vector<std::optional<SurfaceMesh>> patches(brep.faces.size());
  const auto meshOne = [&](std::size_t f) {
    patches[f] = meshFace(brep.faces[f], FaceId(f), brep.reversed[f], sizes.face[f], division, field, sizes);
  };
  if (kept == nullptr)
    inParallel(patches.size(), meshOne);
  for (std::size_t f = 0; f < patches.size(); ++f) {
    if (kept != nullptr) {
      if (kept->addFace(table.faces[f], FaceId(f), borderOf(brep.faces[f], division), mesh))
        continue;
      meshOne(f);
    }
    if (!patches[f])
      return unmeshable(table, table.faces[f], "The border of this face crosses itself when it is divided.");
    append(*patches[f], division.nodes.size(), mesh);
  }
  for (std::size_t p = 0; p < table.parts.size(); ++p)
    if (const auto leak = leakOf(mesh, table, PartId(p)))
      return failure(Failure::Kind::Solver, "part " + table.parts[p].name,
                     "Its skin does not close near (" + formatQuantity(leak->x(), Quantity::Length) + ", " +
                         formatQuantity(leak->y(), Quantity::Length) + ", " +
                         formatQuantity(leak->z(), Quantity::Length) + ").",
                     "Give it a smaller mesh size, or simplify its shape there.");
  return mesh;
}

Expected<AreaMesh> meshAreas(const Geometry& geometry, const MeshSizes& chosen)
{
  const Brep& brep = *geometry.brep;
  const SectionFrame& frame = geometry.table.section;
  MeshSizes sizes = chosen;
  if (!brep.areas.empty()) { // the areas lie on the near side of what was drawn out
    TopExp_Explorer corner(brep.areas.front().face, TopAbs_VERTEX);
    const gp_Pnt near = BRep_Tool::Pnt(TopoDS::Vertex(corner.Current()));
    for (SizeSource& source : sizes.finer)
      source.place[frame.across] = near.Coord(frame.across + 1);
  }
  const SizeField field = sizesAlongEdges(brep, sizes);
  const EdgeDivision division = divideEdges(brep, sizes, field);
  SurfaceMesh skin;
  skin.nodes = division.nodes;
  AreaMesh mesh;
  for (const SectionArea& area : brep.areas) {
    const auto part = static_cast<std::size_t>(area.part);
    const auto patch = meshFace(area.face, area.front, false, sizes.part[part], division, field, sizes);
    if (!patch)
      return unmeshable(geometry.table, geometry.table.faces[static_cast<std::size_t>(area.front)],
                        "The border of its area crosses itself when it is divided.");
    append(*patch, division.nodes.size(), skin);
    mesh.trianglePart.resize(skin.triangles.size(), area.part);
    mesh.triangleFront.resize(skin.triangles.size(), area.front);
    mesh.triangleBack.resize(skin.triangles.size(), area.back);
  }
  std::set<int> used;
  for (const Triangle& t : skin.triangles)
    used.insert(t.begin(), t.end());
  for (std::size_t f = 0; f < brep.faces.size(); ++f) {
    if (geometry.table.faces[f].aside)
      continue;
    for (TopExp_Explorer edges(brep.faces[f], TopAbs_EDGE); edges.More(); edges.Next()) {
      const DividedEdge& divided =
          division.divided[static_cast<std::size_t>(division.edges.FindIndex(edges.Current()) - 1)];
      if (std::all_of(divided.nodes.begin(), divided.nodes.end(), [&](int n) { return used.contains(n); }))
        for (std::size_t i = 0; i + 1 < divided.nodes.size(); ++i)
          mesh.borders.push_back({{divided.nodes[i], divided.nodes[i + 1]}, FaceId(f)});
    }
  }
  for (const Vec3& place : skin.nodes)
    mesh.nodes.push_back(frame.flat(place));
  mesh.triangles = std::move(skin.triangles);
  return mesh;
}

} // namespace kiln
