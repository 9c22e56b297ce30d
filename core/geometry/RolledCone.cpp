// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "geometry/RolledCone.h"

#include <BRepBuilderAPI_MakeEdge.hxx>
#include <BRepTools.hxx>
#include <BRep_Tool.hxx>
#include <ElSLib.hxx>
#include <GeomAPI_Interpolate.hxx>
#include <Geom_BSplineCurve.hxx>
#include <Geom_Curve.hxx>
#include <Standard_Failure.hxx>
#include <TColgp_HArray1OfPnt.hxx>
#include <cmath>
#include <gp_Circ.hxx>
#include <numbers>

namespace kiln
{

RolledCone::RolledCone(const TopoDS_Face& face, const gp_Cone& cone) : cone_(cone)
{
  double uLow = 0, uHigh = 0;
  BRepTools::UVBounds(face, uLow, uHigh, vLow_, vHigh_);
  full_ = uHigh - uLow > 2 * std::numbers::pi - 1e-9;
  u_ = full_ ? 0 : (uLow + uHigh) / 2;
  uHalf_ = (uHigh - uLow) / 2;
  v_ = (vLow_ + vHigh_) / 2;
  steep_ = std::abs(std::sin(cone.SemiAngle()));
  sign_ = cone.SemiAngle() < 0 ? -1 : 1;
  slant_ = radiusAt(v_) / steep_;
}

double RolledCone::radiusAt(double v) const { return cone_.RefRadius() + v * std::sin(cone_.SemiAngle()); }

gp_Pnt RolledCone::flat(const gp_Pnt& place) const
{
  double u = 0, v = 0;
  ElSLib::Parameters(cone_, place, u, v);
  const double turn = std::remainder(u - u_, 2 * std::numbers::pi) * steep_;
  const double fromTip = radiusAt(v) / steep_;
  return {fromTip * std::sin(turn), sign_ * (fromTip * std::cos(turn) - slant_), 0};
}

gp_Pnt RolledCone::flatForLines(const gp_Pnt& place) const
{
  double u = 0, v = 0;
  ElSLib::Parameters(cone_, place, u, v);
  return {std::remainder(u - u_, 2 * std::numbers::pi) * radiusAt(v_), v - v_, 0};
}

gp_Pnt2d RolledCone::parameters(const gp_Pnt& flat) const
{
  const double away = sign_ * flat.Y() + slant_;
  const double turn = std::atan2(flat.X(), away) / steep_;
  const double fromTip = std::hypot(flat.X(), away);
  if (std::abs(turn) > std::numbers::pi)
    throw Standard_Failure("a line reaches farther than once around the cone");
  return {u_ + turn, sign_ * (fromTip - cone_.RefRadius() / steep_)};
}

TopoDS_Edge RolledCone::wrapped(const TopoDS_Edge& edge) const
{
  double from = 0, to = 0;
  const Handle(Geom_Curve) curve = BRep_Tool::Curve(edge, from, to);
  constexpr int pieces = 48; // between them it lies off the cone by less than the kernel can see
  const Handle(TColgp_HArray1OfPnt) points = new TColgp_HArray1OfPnt(1, pieces + 1);
  for (int i = 0; i <= pieces; ++i) {
    const gp_Pnt2d at = parameters(curve->Value(from + (to - from) * i / pieces));
    points->SetValue(i + 1, ElSLib::Value(at.X(), at.Y(), cone_));
  }
  constexpr double tolerance = 1e-9; // m
  GeomAPI_Interpolate through(points, false, tolerance);
  through.Perform();
  if (!through.IsDone())
    throw Standard_Failure("a line cannot be wrapped");
  return BRepBuilderAPI_MakeEdge(through.Curve()).Edge();
}

TopoDS_Edge RolledCone::across(const SplitByLine& line) const
{
  const double along = line.toA.si - line.fromA.si;
  const double up = line.toB.si - line.fromB.si;
  constexpr double none = 1e-9; // m
  if (std::abs(up) < none) {
    const double v = v_ + line.fromB.si;
    if (v <= vLow_ || v >= vHigh_)
      throw Standard_Failure("the line misses the face");
    gp_Ax2 frame = cone_.Position().Ax2();
    frame.Translate(gp_Vec(frame.Direction()) * (v * std::cos(cone_.SemiAngle())));
    const gp_Circ circle(frame, radiusAt(v));
    if (full_)
      return BRepBuilderAPI_MakeEdge(circle).Edge();
    constexpr double beyond = 1.1; // a line ends beyond the face
    const double reach = std::min(beyond * uHalf_, std::numbers::pi);
    return BRepBuilderAPI_MakeEdge(circle, u_ - reach, u_ + reach).Edge();
  }
  if (std::abs(along) < none) {
    const double u = u_ + line.fromA.si / radiusAt(v_);
    return BRepBuilderAPI_MakeEdge(ElSLib::Value(u, vLow_, cone_), ElSLib::Value(u, vHigh_, cone_)).Edge();
  }
  throw Standard_Failure("on a cone, a line runs around it or along it");
}

} // namespace kiln
