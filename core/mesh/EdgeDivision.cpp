// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "mesh/EdgeDivision.h"

#include "base/At.h"

#include <BRepAdaptor_Curve.hxx>
#include <BRepAdaptor_Surface.hxx>
#include <BRepLProp_SLProps.hxx>
#include <BRep_Tool.hxx>
#include <GCPnts_AbscissaPoint.hxx>
#include <TopExp.hxx>
#include <TopoDS.hxx>
#include <TopoDS_Iterator.hxx>
#include <TopoDS_Vertex.hxx>
#include <algorithm>
#include <cmath>
#include <gp_Pnt2d.hxx>
#include <limits>
#include <optional>
#include <set>

namespace kiln
{
namespace
{

constexpr int samplesAlongEdge = 24;
constexpr int mostSamples = 2000;

Vec3 vec(const gp_Pnt& p) { return {p.X(), p.Y(), p.Z()}; }

TopTools_IndexedDataMapOfShapeListOfShape facesByEdge(const Brep& brep)
{
  TopTools_IndexedDataMapOfShapeListOfShape map;
  for (const TopoDS_Face& face : brep.faces)
    TopExp::MapShapesAndAncestors(face, TopAbs_EDGE, TopAbs_FACE, map);
  return map;
}

/// Finest size that the faces beside an edge want at one of its parameters.
double sizeBesideEdge(const TopTools_IndexedMapOfShape& faceIndex, const TopoDS_Edge& edge,
                      const TopTools_ListOfShape& faces, double parameter, const MeshSizes& sizes)
{
  double size = std::numeric_limits<double>::infinity();
  for (const TopoDS_Shape& shape : faces) {
    const TopoDS_Face face = TopoDS::Face(shape);
    double first = 0, last = 0;
    const Handle(Geom2d_Curve) curve = BRep_Tool::CurveOnSurface(edge, face, first, last);
    const double limit = sizes.face[static_cast<std::size_t>(faceIndex.FindIndex(face) - 1)];
    if (curve.IsNull()) {
      size = std::min(size, limit);
      continue;
    }
    const gp_Pnt2d uv = curve->Value(std::clamp(parameter, first, last));
    size = std::min(size, curvatureSize(face, uv.X(), uv.Y(), limit, sizes));
  }
  return size;
}

DividedEdge divide(const TopoDS_Edge& edge, const SizeField& field, double most)
{
  constexpr int steps = 200;
  const BRepAdaptor_Curve curve(edge);
  const double first = curve.FirstParameter();
  const double last = curve.LastParameter();
  std::vector<double> sum{0};
  Vec3 before = vec(curve.Value(first));
  for (int i = 1; i <= steps; ++i) {
    const Vec3 here = vec(curve.Value(first + (last - first) * i / steps));
    sum.push_back(sum.back() + (here - before).norm() / field.at((here + before) / 2, most));
    before = here;
  }
  const bool closed = vec(curve.Value(first)).isApprox(before, 1e-12) || edge.Closed();
  const int least = closed ? 3 : 1;
  const int count = std::max(least, static_cast<int>(std::lround(sum.back())));
  DividedEdge divided;
  divided.parameters.push_back(first);
  int at = 1;
  for (int k = 1; k < count; ++k) {
    const double target = sum.back() * k / count;
    while (sum[static_cast<std::size_t>(at)] < target)
      ++at;
    const double low = sum[static_cast<std::size_t>(at - 1)];
    const double part = (target - low) / (sum[static_cast<std::size_t>(at)] - low);
    divided.parameters.push_back(first + (last - first) * (at - 1 + part) / steps);
  }
  divided.parameters.push_back(last);
  return divided;
}

/// A straight edge as the skin of a part that keeps its elements has it.
/// \param places  its nodes, without the ends, m
std::optional<DividedEdge> divideAsKept(const BRepAdaptor_Curve& curve, const KeptSkins& kept,
                                        std::vector<Vec3>& places)
{
  if (curve.GetType() != GeomAbs_Line)
    return std::nullopt;
  const Vec3 from = vec(curve.Value(curve.FirstParameter()));
  const Vec3 to = vec(curve.Value(curve.LastParameter()));
  auto between = kept.along(from, to);
  if (!between)
    return std::nullopt;
  places = std::move(*between);
  DividedEdge divided;
  divided.parameters.push_back(curve.FirstParameter());
  for (const Vec3& place : places) // the parameter of a line is a length
    divided.parameters.push_back(curve.FirstParameter() + (place - from).dot((to - from).normalized()));
  divided.parameters.push_back(curve.LastParameter());
  return divided;
}

} // namespace

double curvatureSize(const TopoDS_Face& face, double u, double v, double most, const MeshSizes& sizes)
{
  const BRepAdaptor_Surface surface(face, false);
  if (surface.GetType() == GeomAbs_Plane)
    return most;
  constexpr double smallestShare = 0.1; // of the face's limit; keeps cone tips from refining without end
  BRepLProp_SLProps properties(surface, u, v, 2, 1e-9);
  if (!properties.IsCurvatureDefined())
    return std::max(most * smallestShare, std::min(most, sizes.smallest));
  const double curvature = std::max(std::abs(properties.MaxCurvature()), std::abs(properties.MinCurvature()));
  if (curvature * most < sizes.chordAngle)
    return most;
  return std::max({sizes.chordAngle / curvature, smallestShare * most, std::min(most, sizes.smallest)});
}

namespace
{

/// Where three or more exposed faces meet, elements are smaller: heat leaves a corner on all sides at once, and a
/// single large element there would follow neither its temperature nor its flux.
class CornerSizes
{
public:
  explicit CornerSizes(const std::vector<bool>& exposed) : exposed_(exposed) {}

  /// \param size, length  m, wanted at the edge's ends, of the edge
  void add(const TopoDS_Edge& edge, const TopTools_IndexedMapOfShape& faceIndex, const TopTools_ListOfShape& beside,
           double size, double length)
  {
    for (TopoDS_Iterator ends(edge); ends.More(); ends.Next()) {
      const int v = vertices_.Add(ends.Value());
      corners_.resize(static_cast<std::size_t>(vertices_.Extent()));
      Corner& corner = corners_[static_cast<std::size_t>(v - 1)];
      corner.size = std::min(corner.size, size);
      corner.thin = corner.thin || length <= size;
      for (const TopoDS_Shape& shape : beside) {
        const FaceId face(faceIndex.FindIndex(shape) - 1);
        corner.faces.insert(face);
        corner.exposed = corner.exposed && exposed_[at(face)];
      }
    }
  }

  void give(std::vector<SizeSource>& sources) const
  {
    constexpr double share = 0.25;
    for (std::size_t v = 0; v < corners_.size(); ++v)
      if (const Corner& corner = corners_[v]; corner.exposed && !corner.thin && corner.faces.size() >= 3)
        sources.push_back(
            {vec(BRep_Tool::Pnt(TopoDS::Vertex(vertices_(static_cast<int>(v) + 1)))), share * corner.size});
  }

private:
  struct Corner {
    double size = std::numeric_limits<double>::infinity();
    bool exposed = true, thin = false;
    std::set<FaceId> faces;
  };
  const std::vector<bool>& exposed_;
  TopTools_IndexedMapOfShape vertices_;
  std::vector<Corner> corners_;
};

} // namespace

SizeField sizesAlongEdges(const Brep& brep, const MeshSizes& sizes)
{
  TopTools_IndexedMapOfShape faceIndex;
  for (const TopoDS_Face& face : brep.faces)
    faceIndex.Add(face);
  const TopTools_IndexedDataMapOfShapeListOfShape beside = facesByEdge(brep);
  std::vector<SizeSource> sources;
  CornerSizes corners(sizes.exposed);
  for (int e = 1; e <= beside.Extent(); ++e) {
    const TopoDS_Edge edge = TopoDS::Edge(beside.FindKey(e));
    if (BRep_Tool::Degenerated(edge))
      continue;
    const BRepAdaptor_Curve curve(edge);
    const double length = GCPnts_AbscissaPoint::Length(curve);
    const auto sample = [&](int i, int count) {
      const double t = curve.FirstParameter() + (curve.LastParameter() - curve.FirstParameter()) * i / count;
      const double size = sizeBesideEdge(faceIndex, edge, beside.FindFromIndex(e), t, sizes);
      return SizeSource{vec(curve.Value(t)), std::min(size, length)};
    };
    double finest = length;
    for (int i = 0; i <= samplesAlongEdge; ++i)
      finest = std::min(finest, sample(i, samplesAlongEdge).size);
    corners.add(edge, faceIndex, beside.FindFromIndex(e), std::max(sample(0, 1).size, sample(1, 1).size), length);
    // As dense as the size itself, else the size would swell between the sources.
    const int count = std::clamp(static_cast<int>(std::ceil(length / finest)), samplesAlongEdge, mostSamples);
    for (int i = 0; i <= count; ++i)
      sources.push_back(sample(i, count));
  }
  corners.give(sources);
  sources.insert(sources.end(), sizes.finer.begin(), sizes.finer.end());
  return SizeField(std::move(sources));
}

EdgeDivision divideEdges(const Brep& brep, const MeshSizes& sizes, const SizeField& field, const KeptSkins* kept)
{
  EdgeDivision division;
  for (const TopoDS_Face& face : brep.faces) {
    TopExp::MapShapes(face, TopAbs_EDGE, division.edges);
    TopExp::MapShapes(face, TopAbs_VERTEX, division.vertices);
  }
  for (int v = 1; v <= division.vertices.Extent(); ++v)
    division.nodes.push_back(vec(BRep_Tool::Pnt(TopoDS::Vertex(division.vertices(v)))));
  const double most = *std::max_element(sizes.face.begin(), sizes.face.end());
  for (int e = 1; e <= division.edges.Extent(); ++e) {
    const TopoDS_Edge edge = TopoDS::Edge(division.edges(e).Oriented(TopAbs_FORWARD));
    const int startNode = division.vertices.FindIndex(TopExp::FirstVertex(edge)) - 1;
    const int endNode = division.vertices.FindIndex(TopExp::LastVertex(edge)) - 1;
    if (BRep_Tool::Degenerated(edge)) {
      division.divided.push_back({{}, {}, startNode});
      continue;
    }
    const BRepAdaptor_Curve curve(edge);
    std::vector<Vec3> places;
    DividedEdge divided;
    if (const auto own = kept != nullptr ? divideAsKept(curve, *kept, places) : std::nullopt)
      divided = *own;
    else {
      divided = divide(edge, field, most);
      for (std::size_t i = 1; i + 1 < divided.parameters.size(); ++i)
        places.push_back(vec(curve.Value(divided.parameters[i])));
    }
    divided.nodes.push_back(startNode);
    for (const Vec3& place : places) {
      divided.nodes.push_back(static_cast<int>(division.nodes.size()));
      division.nodes.push_back(place);
    }
    divided.nodes.push_back(endNode);
    division.divided.push_back(std::move(divided));
  }
  return division;
}

} // namespace kiln
