// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "mesh/CurvedEdges.h"

#include "base/At.h"
#include "geometry/Brep.h"
#include "mesh/SecondOrder.h"

#include <BRepAdaptor_Surface.hxx>
#include <BRepTools.hxx>
#include <BRep_Tool.hxx>
#include <GeomAPI_ProjectPointOnCurve.hxx>
#include <GeomAPI_ProjectPointOnSurf.hxx>
#include <TopExp.hxx>
#include <TopTools_IndexedMapOfShape.hxx>
#include <TopoDS.hxx>
#include <TopoDS_Edge.hxx>
#include <algorithm>
#include <cmath>
#include <map>
#include <memory>
#include <optional>
#include <set>

namespace kiln
{
namespace
{

gp_Pnt pnt(const Vec3& p) { return {p.x(), p.y(), p.z()}; }
Vec3 vec(const gp_Pnt& p) { return {p.X(), p.Y(), p.Z()}; }

/// A node in the middle of an edge on the skin, with the faces that meet there.
struct Middle {
  std::array<NodeId, 2> ends{};
  std::set<FaceId> faces;
};

std::map<NodeId, Middle> middlesOnSkin(const Mesh& mesh)
{
  constexpr std::array<std::array<std::size_t, 2>, 3> edges{{{0, 1}, {1, 2}, {0, 2}}};
  std::map<NodeId, Middle> middles;
  for (std::size_t e = 0; e < triangleElements(mesh); ++e) {
    const FaceId face = mesh.triangleFace[4 * e];
    if (mesh.geometry.faces[at(face)].aside)
      continue; // the flat side of a section
    const auto six = sixOf(e, [&](std::size_t piece) -> const NodeTriangle& { return mesh.triangles[piece]; });
    for (std::size_t i = 0; i < 3; ++i) {
      Middle& middle = middles[six[3 + i]];
      middle.ends = {six[edges[i][0]], six[edges[i][1]]};
      middle.faces.insert(face);
    }
  }
  return middles;
}

/// The true place of nodes: on a curve where faces meet, else on the one face.
class TruePlaces
{
public:
  explicit TruePlaces(const Brep& brep) : brep_(brep), projectors_(brep.faces.size()) {}

  std::optional<Vec3> of(const Middle& middle, const Vec3& chord, double length)
  {
    if (middle.faces.size() > 1)
      return onSharedEdge(middle, chord, length);
    const FaceId face = *middle.faces.begin();
    return isFlat(face) ? std::nullopt : onFace(face, chord, length);
  }

private:
  [[nodiscard]] bool isFlat(FaceId face) const
  {
    return BRepAdaptor_Surface(brep_.faces[at(face)], false).GetType() == GeomAbs_Plane;
  }

  std::optional<Vec3> onFace(FaceId face, const Vec3& chord, double length)
  {
    auto& projector = projectors_[at(face)];
    if (!projector) {
      projector = std::make_unique<GeomAPI_ProjectPointOnSurf>();
      double u0 = 0, u1 = 0, v0 = 0, v1 = 0;
      BRepTools::UVBounds(brep_.faces[at(face)], u0, u1, v0, v1);
      projector->Init(BRep_Tool::Surface(brep_.faces[at(face)]), u0, u1, v0, v1, 1e-10);
    }
    projector->Perform(pnt(chord));
    if (projector->NbPoints() == 0 || projector->LowerDistance() > length / 2)
      return std::nullopt;
    return vec(projector->NearestPoint());
  }

  std::optional<Vec3> onSharedEdge(const Middle& middle, const Vec3& chord, double length)
  {
    std::optional<Vec3> best;
    double nearest = length / 2;
    for (const TopoDS_Edge& edge : sharedEdges(middle.faces)) {
      double first = 0, last = 0;
      const Handle(Geom_Curve) curve = BRep_Tool::Curve(edge, first, last);
      if (curve.IsNull())
        continue;
      const GeomAPI_ProjectPointOnCurve projector(pnt(chord), curve, first, last);
      if (projector.NbPoints() > 0 && projector.LowerDistance() < nearest) {
        nearest = projector.LowerDistance();
        best = vec(projector.NearestPoint());
      }
    }
    return best;
  }

  const std::vector<TopoDS_Edge>& sharedEdges(const std::set<FaceId>& faces)
  {
    const auto [found, isNew] = shared_.try_emplace(faces);
    if (!isNew)
      return found->second;
    TopTools_IndexedMapOfShape edges;
    TopExp::MapShapes(brep_.faces[at(*faces.begin())], TopAbs_EDGE, edges);
    for (int e = 1; e <= edges.Extent(); ++e)
      if (std::all_of(faces.begin(), faces.end(), [&](FaceId face) {
            TopTools_IndexedMapOfShape own;
            TopExp::MapShapes(brep_.faces[at(face)], TopAbs_EDGE, own);
            return own.Contains(edges(e));
          }))
        found->second.push_back(TopoDS::Edge(edges(e)));
    return found->second;
  }

  const Brep& brep_;
  std::vector<std::unique_ptr<GeomAPI_ProjectPointOnSurf>> projectors_;
  std::map<std::set<FaceId>, std::vector<TopoDS_Edge>> shared_;
};

/// How much larger than in the reference element a volume is at a place of a bent one, as a share of the straight
/// one's. \param x  ten places, corners first, then the edges 01 12 02 03 13 23 \param l  barycentric coordinates
double swelling(const std::array<Vec3, 10>& x, const std::array<double, 4>& l)
{
  constexpr std::array<std::array<std::size_t, 2>, 6> ends{{{0, 1}, {1, 2}, {0, 2}, {0, 3}, {1, 3}, {2, 3}}};
  std::array<Vec3, 4> slope; // d(place)/d(l_i)
  for (std::size_t i = 0; i < 4; ++i)
    slope[i] = (4 * l[i] - 1) * x[i];
  for (std::size_t e = 0; e < ends.size(); ++e) {
    slope[ends[e][0]] += 4 * l[ends[e][1]] * x[4 + e];
    slope[ends[e][1]] += 4 * l[ends[e][0]] * x[4 + e];
  }
  const auto sixVolumes = [](const Vec3& a, const Vec3& b, const Vec3& c) { return a.cross(b).dot(c); };
  return sixVolumes(slope[1] - slope[0], slope[2] - slope[0], slope[3] - slope[0]) /
         sixVolumes(x[1] - x[0], x[2] - x[0], x[3] - x[0]);
}

/// Is an element folded, or nearly so, against the straight one: any of its eight pieces, or the whole where it is
/// integrated over or at a corner?
bool folded(const Mesh& mesh, std::size_t element)
{
  constexpr double least = 0.05;                                                // of the straight piece
  constexpr double near = 0.13819660112501051518, far = 0.58541019662496845446; // the four points of the rule
  std::array<Vec3, 10> ten;
  const auto own = tenOf(mesh.tets, element);
  for (std::size_t i = 0; i < ten.size(); ++i)
    ten[i] = mesh.nodes[at(own[i])];
  for (std::size_t p = 0; p < 4; ++p)
    for (const auto& [here, there] : {std::pair{far, near}, {1.0, 0.0}}) {
      std::array<double, 4> l{there, there, there, there};
      l[p] = here;
      if (!(swelling(ten, l) > least))
        return true;
    }
  const auto place = [&](NodeId n) -> const Vec3& { return mesh.nodes[at(n)]; };
  std::array<NodeId, 4> corner{};
  for (std::size_t i = 0; i < 4; ++i)
    corner[i] = mesh.tets[8 * element + i][i];
  const double straight = (place(corner[1]) - place(corner[0]))
                              .cross(place(corner[2]) - place(corner[0]))
                              .dot(place(corner[3]) - place(corner[0])) /
                          6 / 8;
  for (std::size_t i = 0; i < 8; ++i)
    if (tetVolume(mesh, 8 * element + i) < least * straight)
      return true;
  return false;
}

/// Draws moved nodes of folded elements half back, and at last all the way.
void unfold(Mesh& mesh, std::map<NodeId, Vec3>& chords)
{
  constexpr int tries = 4;
  for (int attempt = 0; attempt <= tries && !chords.empty(); ++attempt) {
    std::set<NodeId> back;
    for (std::size_t e = 0; e < tetElements(mesh); ++e) {
      const auto ten = tenOf(mesh.tets, e);
      const bool moved = std::any_of(ten.begin() + 4, ten.end(), [&](NodeId n) { return chords.contains(n); });
      if (moved && folded(mesh, e))
        back.insert(ten.begin() + 4, ten.end());
    }
    if (back.empty())
      return;
    for (const NodeId node : back)
      if (const auto chord = chords.find(node); chord != chords.end())
        mesh.nodes[at(node)] = attempt == tries ? chord->second : Vec3((mesh.nodes[at(node)] + chord->second) / 2);
  }
}

} // namespace

std::size_t bendEdges(const Geometry& geometry, Mesh& mesh)
{
  const SectionFrame& frame = mesh.geometry.section;
  TruePlaces places(*geometry.brep);
  std::map<NodeId, Vec3> shift; // by node, or by column of a section
  for (const auto& [node, middle] : middlesOnSkin(mesh)) {
    const NodeId key = frame.is() ? mesh.column[at(node)] : node;
    if (shift.contains(key) || (frame.is() && (key == mesh.column[at(middle.ends[0])])))
      continue;
    const Vec3 chord = mesh.placeOf(node);
    const double length = (mesh.placeOf(middle.ends[0]) - mesh.placeOf(middle.ends[1])).norm();
    if (const auto place = places.of(middle, chord, length); place && (*place - chord).norm() > 1e-12 * length)
      shift[key] = frame.flat(*place) - chord;
  }
  std::map<NodeId, Vec3> chords; // places before
  for (std::size_t n = 0; n < mesh.nodes.size(); ++n) {
    const NodeId node(n);
    const auto found = shift.find(frame.is() ? mesh.column[n] : node);
    if (found == shift.end())
      continue;
    chords[node] = mesh.nodes[n];
    const double halfBefore = frame.halfLayer(mesh.nodes[n]);
    mesh.nodes[n] += found->second;
    if (frame.turned && halfBefore > 0) // the two sides stay as far apart as the radius says
      mesh.nodes[n][frame.across] =
          frame.at + (mesh.nodes[n][frame.across] - frame.at) * frame.halfLayer(mesh.nodes[n]) / halfBefore;
  }
  unfold(mesh, chords);
  return chords.size();
}

} // namespace kiln
