// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "geometry/DividedFace.h"

#include "geometry/FaceSampling.h"
#include "geometry/NamedFaces.h"
#include "geometry/RolledCone.h"

#include <BRepAdaptor_Surface.hxx>
#include <BRepAlgoAPI_Splitter.hxx>
#include <BRepBndLib.hxx>
#include <BRepBuilderAPI_MakeEdge.hxx>
#include <BRepBuilderAPI_MakeFace.hxx>
#include <BRepBuilderAPI_MakeWire.hxx>
#include <BRepClass_FaceClassifier.hxx>
#include <BRepGProp.hxx>
#include <BRepLib.hxx>
#include <BRepTools.hxx>
#include <BRep_Tool.hxx>
#include <Bnd_Box.hxx>
#include <ElSLib.hxx>
#include <GProp_GProps.hxx>
#include <Geom2d_BSplineCurve.hxx>
#include <GeomConvert.hxx>
#include <Geom_BSplineCurve.hxx>
#include <Geom_CylindricalSurface.hxx>
#include <Geom_TrimmedCurve.hxx>
#include <TColStd_Array1OfInteger.hxx>
#include <TColStd_Array1OfReal.hxx>
#include <TColgp_Array1OfPnt2d.hxx>
#include <TopExp_Explorer.hxx>
#include <TopTools_ListOfShape.hxx>
#include <TopoDS.hxx>
#include <cmath>
#include <functional>
#include <gp_Ax3.hxx>
#include <gp_Circ.hxx>
#include <numbers>
#include <optional>

namespace kiln
{
namespace
{

/// Where a line is drawn on a flat face: origin in the middle of the face, third axis along its normal.
gp_Ax3 frameOn(const TopoDS_Face& face, const gp_Dir& normal)
{
  GProp_GProps properties;
  BRepGProp::SurfaceProperties(face, properties);
  constexpr double alongX = 0.9; // the face looks along x
  const gp_Dir along = std::abs(normal.X()) > alongX ? gp_Dir(0, 1, 0) : gp_Dir(1, 0, 0);
  return gp_Ax3(properties.CentreOfMass(), normal, along);
}

struct SplitTool {
  TopoDS_Shape shape;                              ///< a face for a closed line, an edge for an open one
  std::optional<std::pair<gp_Pnt, gp_Dir>> leftOf; ///< of an open line: a point on it and the direction to its left
};

gp_Pnt placeIn(const gp_Ax3& frame, double a, double b)
{
  return frame.Location().Translated(gp_Vec(frame.XDirection()) * a + gp_Vec(frame.YDirection()) * b);
}

TopoDS_Face outlineOn(const gp_Ax3& frame, const std::vector<OutlinePoint>& outline)
{
  gp_Trsf place;
  place.SetTransformation(frame, gp_Ax3());
  return TopoDS::Face(outlineFace(outline, false).Moved(TopLoc_Location(place)));
}

SplitTool toolOf(const SplitByLine& line, const gp_Ax3& frame, double reach)
{
  const gp_Pnt from = placeIn(frame, line.fromA.si, line.fromB.si);
  const gp_Pnt to = placeIn(frame, line.toA.si, line.toB.si);
  const gp_Vec along = gp_Vec(from, to).Normalized() * reach;
  return {BRepBuilderAPI_MakeEdge(from.Translated(-along), to.Translated(along)).Edge(),
          std::pair(from, gp_Dir(gp_Vec(frame.Direction()).Crossed(along)))};
}
SplitTool toolOf(const SplitByRectangle& r, const gp_Ax3& frame, double /*reach*/)
{
  const auto corner = [&](double a, double b) {
    return OutlinePoint{{r.centreA.si + a * r.sizeA.si / 2, {}}, {r.centreB.si + b * r.sizeB.si / 2, {}}, {}};
  };
  return {outlineOn(frame, {corner(-1, -1), corner(1, -1), corner(1, 1), corner(-1, 1)}), {}};
}
SplitTool toolOf(const SplitByCircle& c, const gp_Ax3& frame, double /*reach*/)
{
  const gp_Circ circle(gp_Ax2(placeIn(frame, c.centreA.si, c.centreB.si), frame.Direction()), c.radius.si);
  return {BRepBuilderAPI_MakeFace(BRepBuilderAPI_MakeWire(BRepBuilderAPI_MakeEdge(circle).Edge()).Wire(), true).Face(),
          {}};
}
SplitTool toolOf(const SplitByOutline& o, const gp_Ax3& frame, double /*reach*/)
{
  return {outlineOn(frame, o.outline), {}};
}

bool isInside(const SplitTool& tool, const gp_Pnt& place)
{
  if (tool.leftOf)
    return gp_Vec(tool.leftOf->first, place).Dot(gp_Vec(tool.leftOf->second)) > 0;
  constexpr double tolerance = 1e-7; // m
  BRepClass_FaceClassifier classifier(TopoDS::Face(tool.shape), place, tolerance);
  return classifier.State() == TopAbs_IN;
}

/// What divides a face, and which places of it lie inside.
struct Division {
  TopTools_ListOfShape tools;
  std::function<bool(const gp_Pnt&)> inside;
};

Division flatDivision(const SplitFace& split, const TopoDS_Face& face, const gp_Dir& normal)
{
  Bnd_Box box;
  BRepBndLib::Add(face, box);
  const SplitTool tool = std::visit(
      [&](const auto& line) { return toolOf(line, frameOn(face, normal), std::sqrt(box.SquareExtent())); }, split.line);
  Division division;
  division.tools.Append(tool.shape);
  division.inside = [tool](const gp_Pnt& place) { return isInside(tool, place); };
  return division;
}

/// A cylinder rolled out flat: a runs around it, b along its axis, both in m from the middle.
class RolledOut
{
public:
  RolledOut(const TopoDS_Face& face, const gp_Cylinder& cylinder)
      : cylinder_(cylinder), surface_(new Geom_CylindricalSurface(cylinder))
  {
    double uLow = 0, uHigh = 0, vLow = 0, vHigh = 0;
    BRepTools::UVBounds(face, uLow, uHigh, vLow, vHigh);
    full_ = uHigh - uLow > 2 * std::numbers::pi - 1e-9;
    u_ = full_ ? 0 : (uLow + uHigh) / 2;
    v_ = (vLow + vHigh) / 2;
    const double beyond = 0.55; // of its size: a line ends beyond the face
    a_ = beyond * (uHigh - uLow) * cylinder.Radius();
    b_ = beyond * (vHigh - vLow);
  }

  /// Where a place of the face lies when it is rolled out, in z = 0.
  [[nodiscard]] gp_Pnt flat(const gp_Pnt& place) const
  {
    double u = 0, v = 0;
    ElSLib::Parameters(cylinder_, place, u, v);
    const double turn = std::remainder(u - u_, 2 * std::numbers::pi);
    return {turn * cylinder_.Radius(), v - v_, 0};
  }
  /// An edge in z = 0, wrapped.
  [[nodiscard]] TopoDS_Edge wrapped(const TopoDS_Edge& edge) const
  {
    double from = 0, to = 0;
    const Handle(Geom_Curve) curve = BRep_Tool::Curve(edge, from, to);
    const Handle(Geom_BSplineCurve) flat = GeomConvert::CurveToBSplineCurve(new Geom_TrimmedCurve(curve, from, to));
    return flat->Degree() == 1 && flat->NbPoles() == 2 ? straight(flat->Pole(1), flat->Pole(2)) : bent(*flat);
  }
  /// The part of an endless line that goes across the face, or once around it.
  [[nodiscard]] TopoDS_Edge across(const SplitByLine& line) const
  {
    const gp_Pnt from(line.fromA.si, line.fromB.si, 0);
    const gp_Vec along(line.toA.si - line.fromA.si, line.toB.si - line.fromB.si, 0);
    constexpr double none = 1e-9; // m
    if (full_ && std::abs(along.Y()) < none) {
      gp_Ax2 frame = cylinder_.Position().Ax2();
      frame.Translate(gp_Vec(frame.Direction()) * (v_ + from.Y()));
      return BRepBuilderAPI_MakeEdge(gp_Circ(frame, cylinder_.Radius())).Edge();
    }
    double low = -1e30, high = 1e30;
    const auto within = [&](double start, double step, double most) {
      if (std::abs(step) < none)
        return;
      const double one = (-most - start) / step;
      const double other = (most - start) / step;
      low = std::max(low, std::min(one, other));
      high = std::min(high, std::max(one, other));
    };
    within(from.Y(), along.Y(), b_);
    if (!full_)
      within(from.X(), along.X(), a_);
    if (low >= high)
      throw Standard_Failure("the line misses the face");
    return straight(from.Translated(along * low), from.Translated(along * high));
  }

private:
  [[nodiscard]] gp_Pnt2d parameters(const gp_Pnt& flat) const
  {
    return {u_ + flat.X() / cylinder_.Radius(), v_ + flat.Y()};
  }
  /// A line along the axis, an arc around it, or a helix: the first two as what they are.
  [[nodiscard]] TopoDS_Edge straight(const gp_Pnt& from, const gp_Pnt& to) const
  {
    const gp_Pnt2d a = parameters(from);
    const gp_Pnt2d b = parameters(to);
    constexpr double none = 1e-9; // m
    if (std::abs(to.X() - from.X()) < none)
      return BRepBuilderAPI_MakeEdge(ElSLib::Value(a.X(), a.Y(), cylinder_), ElSLib::Value(b.X(), b.Y(), cylinder_))
          .Edge();
    if (std::abs(to.Y() - from.Y()) < none) {
      gp_Ax2 frame = cylinder_.Position().Ax2();
      frame.Translate(gp_Vec(frame.Direction()) * a.Y());
      return BRepBuilderAPI_MakeEdge(gp_Circ(frame, cylinder_.Radius()), std::min(a.X(), b.X()), std::max(a.X(), b.X()))
          .Edge();
    }
    TColgp_Array1OfPnt2d poles(1, 2);
    poles(1) = a;
    poles(2) = b;
    TColStd_Array1OfReal knots(1, 2);
    knots(1) = 0;
    knots(2) = 1;
    TColStd_Array1OfInteger times(1, 2);
    times.Init(2);
    return onSurface(new Geom2d_BSplineCurve(poles, knots, times, 1));
  }
  /// Rolling is affine in the parameters, so that the poles tell it all.
  [[nodiscard]] TopoDS_Edge bent(const Geom_BSplineCurve& flat) const
  {
    TColgp_Array1OfPnt2d poles(1, flat.NbPoles());
    TColStd_Array1OfReal weights(1, flat.NbPoles());
    for (int i = 1; i <= flat.NbPoles(); ++i) {
      poles(i) = parameters(flat.Pole(i));
      weights(i) = flat.Weight(i);
    }
    return onSurface(new Geom2d_BSplineCurve(poles, weights, flat.Knots(), flat.Multiplicities(), flat.Degree()));
  }
  [[nodiscard]] TopoDS_Edge onSurface(const Handle(Geom2d_Curve) & curve) const
  {
    TopoDS_Edge edge = BRepBuilderAPI_MakeEdge(curve, surface_).Edge();
    constexpr double tolerance = 1e-7; // m
    if (!BRepLib::BuildCurve3d(edge, tolerance))
      throw Standard_Failure("a line cannot be wrapped");
    return edge;
  }

  gp_Cylinder cylinder_;
  Handle(Geom_CylindricalSurface) surface_;
  bool full_ = false;
  double u_ = 0, v_ = 0; ///< parameters of the middle
  double a_ = 0, b_ = 0; ///< m: farther out there is no face
};

/// What lines see of a face that is rolled out.
gp_Pnt flatForLines(const RolledOut& rolled, const gp_Pnt& place) { return rolled.flat(place); }
gp_Pnt flatForLines(const RolledCone& rolled, const gp_Pnt& place) { return rolled.flatForLines(place); }

template <class Rolled>
Division roundDivision(const SplitFace& split, const Rolled& rolled)
{
  const SplitTool flat = std::visit([&](const auto& line) { return toolOf(line, gp_Ax3(), 1); }, split.line);
  Division division;
  if (const auto* line = std::get_if<SplitByLine>(&split.line))
    division.tools.Append(rolled.across(*line));
  else
    for (TopExp_Explorer edges(flat.shape, TopAbs_EDGE); edges.More(); edges.Next())
      division.tools.Append(rolled.wrapped(TopoDS::Edge(edges.Current())));
  division.inside = [rolled, flat](const gp_Pnt& place) {
    return isInside(flat, flat.leftOf ? flatForLines(rolled, place) : rolled.flat(place));
  };
  return division;
}

} // namespace

Outcome after(const NamedBody& body, const SplitFace& split, const std::string& prefix)
{
  const std::vector<TopoDS_Face> faces = facesNamed(body, split.face);
  if (faces.empty())
    return noFace(split.face);
  const TopoDS_Face face = orientedIn(body.shape, faces.front());
  const auto normal = flatNormal(face);
  const BRepAdaptor_Surface surface(face);
  const bool isCone = surface.GetType() == GeomAbs_Cone;
  if (!normal && !isCone && surface.GetType() != GeomAbs_Cylinder)
    return tl::unexpected(StepProblem{"Only flat faces, cylinders and cones can be divided", "Name another face."});
  const auto* line = std::get_if<SplitByLine>(&split.line);
  constexpr double none = 1e-9; // m
  if (isCone && line != nullptr && std::abs(line->toA.si - line->fromA.si) > none &&
      std::abs(line->toB.si - line->fromB.si) > none)
    return tl::unexpected(
        StepProblem{"On a cone, a line runs around it or along it", "Let one of its ends' coordinates be equal."});
  if (const auto* outline = std::get_if<SplitByOutline>(&split.line))
    if (const auto problem = problemOf(Prism{outline->outline, {1, {}}, {}}))
      return tl::unexpected(StepProblem{*problem, "Correct the outline."});
  const Division division = normal   ? flatDivision(split, face, *normal)
                            : isCone ? roundDivision(split, RolledCone(face, surface.Cone()))
                                     : roundDivision(split, RolledOut(face, surface.Cylinder()));
  BRepAlgoAPI_Splitter operation;
  TopTools_ListOfShape arguments;
  arguments.Append(body.shape);
  operation.SetArguments(arguments);
  operation.SetTools(division.tools);
  operation.SetNonDestructive(true);
  operation.Build();
  if (!operation.IsDone() || operation.Modified(face).Extent() < 2)
    return tl::unexpected(
        StepProblem{"The line does not divide the face", "Move it onto the face, or make it larger."});
  NamedBody result{operation.Shape(), {}};
  carryNames(operation, body, result);
  for (const TopoDS_Shape& piece : operation.Modified(face)) {
    const std::vector<FaceSample> samples = samplesOn(TopoDS::Face(piece), 3);
    const bool inside = !samples.empty() && division.inside(gp_Pnt(samples.front().place.x(), samples.front().place.y(),
                                                                   samples.front().place.z()));
    result.names.emplace_back(TopoDS::Face(piece), prefix + (inside ? ".inside" : ".outside"));
  }
  return result;
}

} // namespace kiln
