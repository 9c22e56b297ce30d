// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "geometry/FaceSampling.h"

#include <BRepAdaptor_Surface.hxx>
#include <BRepBndLib.hxx>
#include <BRepBuilderAPI_MakeVertex.hxx>
#include <BRepExtrema_DistShapeShape.hxx>
#include <BRepTools.hxx>
#include <BRepTopAdaptor_FClass2d.hxx>
#include <Bnd_Box.hxx>
#include <IntCurvesFace_ShapeIntersector.hxx>
#include <TopoDS_Vertex.hxx>
#include <algorithm>
#include <cmath>
#include <gp_Lin.hxx>
#include <limits>
#include <set>

namespace kiln
{
namespace
{

constexpr double infinite = std::numeric_limits<double>::infinity();

gp_Pnt pnt(const Vec3& v) { return {v.x(), v.y(), v.z()}; }

/// Length of the ray from a face's sample into one of its solids until it leaves the solid.
double depthBehind(IntCurvesFace_ShapeIntersector& solid, const FaceSample& sample, double inwardSign)
{
  constexpr double startOffset = 1e-7; // m, to leave the face the ray starts on
  constexpr double farAway = 1e3;      // m
  const Vec3 inward = inwardSign * sample.normal;
  solid.Perform(gp_Lin(pnt(sample.place), gp_Dir(inward.x(), inward.y(), inward.z())), startOffset, farAway);
  double nearest = infinite;
  for (int i = 1; solid.IsDone() && i <= solid.NbPnt(); ++i)
    nearest = std::min(nearest, solid.WParameter(i));
  return nearest;
}

} // namespace

std::vector<FaceSample> samplesOn(const TopoDS_Face& face, int perDirection)
{
  double u0 = 0, u1 = 0, v0 = 0, v1 = 0;
  BRepTools::UVBounds(face, u0, u1, v0, v1);
  const BRepAdaptor_Surface surface(face);
  BRepTopAdaptor_FClass2d borders(face, 1e-9);
  std::vector<FaceSample> samples;
  for (int refine = 1; samples.empty() && refine <= 16; refine *= 4) {
    const int n = perDirection * refine;
    for (int i = 0; i < n; ++i)
      for (int j = 0; j < n; ++j) {
        const gp_Pnt2d uv(u0 + (u1 - u0) * (i + 0.5) / n, v0 + (v1 - v0) * (j + 0.5) / n);
        if (borders.Perform(uv) != TopAbs_IN)
          continue;
        gp_Pnt p;
        gp_Vec du, dv;
        surface.D1(uv.X(), uv.Y(), p, du, dv);
        const gp_Vec normal = du.Crossed(dv);
        if (normal.Magnitude() > 0)
          samples.push_back({Vec3(p.X(), p.Y(), p.Z()), Vec3(normal.X(), normal.Y(), normal.Z()).normalized()});
      }
  }
  return samples;
}

FaceNormals sampleNormals(const TopoDS_Face& face)
{
  FaceNormals result;
  result.planar = BRepAdaptor_Surface(face).GetType() == GeomAbs_Plane;
  constexpr int perDirection = 8;
  const std::vector<FaceSample> samples = samplesOn(face, result.planar ? 2 : perDirection);
  Vec3 sum = Vec3::Zero();
  for (const FaceSample& sample : samples)
    sum += sample.normal;
  const double cancelled = 1e-3 * static_cast<double>(samples.size());
  if (sum.norm() > cancelled)
    result.mean = sum.normalized();
  for (const FaceSample& sample : samples)
    result.spread = std::max(result.spread, std::acos(std::clamp(result.mean.dot(sample.normal), -1.0, 1.0)));
  if (result.planar)
    result.spread = 0;
  return result;
}

std::vector<double> wallThickness(const Brep& brep, const FaceTable& table)
{
  constexpr int perDirection = 3;
  std::vector<double> thickness(table.faces.size(), infinite);
  for (std::size_t s = 0; s < brep.solids.size(); ++s) {
    IntCurvesFace_ShapeIntersector solid;
    solid.Load(brep.solids[s], 1e-7);
    for (std::size_t f = 0; f < table.faces.size(); ++f) {
      const Face& face = table.faces[f];
      if (!face.touches(brep.solidPart[s]))
        continue;
      for (const FaceSample& sample : samplesOn(brep.faces[f], perDirection))
        for (std::size_t side = 0; side < 2; ++side) {
          if (face.parts[side] != brep.solidPart[s])
            continue;
          const double outOfSide = (side == 0) != brep.reversed[f] ? 1 : -1;
          thickness[f] = std::min(thickness[f], depthBehind(solid, sample, -outOfSide));
        }
    }
  }
  return thickness;
}

std::vector<NearMiss> findNearMisses(const Brep& brep, const FaceTable& table)
{
  std::vector<Bnd_Box> boxes(table.faces.size());
  for (std::size_t f = 0; f < table.faces.size(); ++f)
    if (table.faces[f].exposed() && !table.faces[f].aside) {
      BRepBndLib::Add(brep.faces[f], boxes[f], false);
      boxes[f].Enlarge(nearMissGap);
    }
  std::vector<NearMiss> found;
  std::set<std::pair<PartId, PartId>> known; // pairs that are reported, or that touch somewhere: those were not missed
  for (const Face& face : table.faces)
    if (face.contact())
      known.insert(std::minmax(face.parts[0], face.parts[1]));
  for (std::size_t a = 0; a < table.faces.size(); ++a) {
    if (!table.faces[a].exposed() || table.faces[a].aside)
      continue;
    const std::vector<FaceSample> samples = samplesOn(brep.faces[a], 3);
    for (std::size_t b = 0; b < table.faces.size(); ++b) {
      const PartId partA = table.faces[a].parts[0];
      const PartId partB = table.faces[b].parts[0];
      if (!table.faces[b].exposed() || table.faces[b].aside || partA == partB || boxes[a].IsOut(boxes[b]) ||
          known.contains(std::minmax(partA, partB)))
        continue;
      for (const FaceSample& sample : samples) {
        const BRepExtrema_DistShapeShape distance(BRepBuilderAPI_MakeVertex(pnt(sample.place)).Vertex(), brep.faces[b]);
        if (distance.IsDone() && distance.Value() < nearMissGap) {
          found.push_back({partA, partB, distance.Value(), sample.place});
          known.insert(std::minmax(partA, partB));
          break;
        }
      }
    }
  }
  return found;
}

} // namespace kiln
