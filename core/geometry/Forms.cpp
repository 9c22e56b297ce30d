// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "geometry/Forms.h"

#include "geometry/FaceSampling.h"

#include <BRepAdaptor_Surface.hxx>
#include <BRepAlgoAPI_Cut.hxx>
#include <BRepBndLib.hxx>
#include <BRepBuilderAPI_MakeEdge.hxx>
#include <BRepBuilderAPI_MakeFace.hxx>
#include <BRepBuilderAPI_MakePolygon.hxx>
#include <BRepBuilderAPI_MakeWire.hxx>
#include <BRepGProp.hxx>
#include <BRepPrimAPI_MakeBox.hxx>
#include <BRepPrimAPI_MakeCone.hxx>
#include <BRepPrimAPI_MakeCylinder.hxx>
#include <BRepPrimAPI_MakePrism.hxx>
#include <BRepPrimAPI_MakeRevol.hxx>
#include <BRepPrimAPI_MakeSphere.hxx>
#include <BRepPrimAPI_MakeTorus.hxx>
#include <Bnd_Box.hxx>
#include <GC_MakeArcOfCircle.hxx>
#include <GProp_GProps.hxx>
#include <Standard_Failure.hxx>
#include <TopExp.hxx>
#include <TopExp_Explorer.hxx>
#include <TopTools_IndexedMapOfShape.hxx>
#include <TopoDS.hxx>
#include <algorithm>
#include <cmath>
#include <functional>
#include <gp_Ax1.hxx>
#include <gp_Trsf.hxx>
#include <numbers>

namespace kiln
{
namespace
{

constexpr double smallestLength = 1e-9; // m

using FaceName = std::function<std::string(const gp_Pnt& centre)>;

gp_Pnt centreOf(const TopoDS_Shape& shape)
{
  GProp_GProps properties;
  BRepGProp::SurfaceProperties(shape, properties);
  return properties.CentreOfMass();
}

NamedBody named(const TopoDS_Shape& shape, const FaceName& nameOf)
{
  NamedBody body{shape, {}};
  for (TopExp_Explorer faces(shape, TopAbs_FACE); faces.More(); faces.Next())
    body.names.emplace_back(TopoDS::Face(faces.Current()), nameOf(centreOf(faces.Current())));
  return body;
}

/// Ends of a body of the given height are called top and bottom, the rest \p side.
FaceName endsAndSide(double height, const std::string& side)
{
  return [height, side](const gp_Pnt& centre) {
    const double tolerance = 1e-6 * height;
    if (std::abs(centre.Z() - height) < tolerance)
      return std::string("top");
    return std::abs(centre.Z()) < tolerance ? std::string("bottom") : side;
  };
}

NamedBody make(const Block& b)
{
  const double x = b.sizeX.si;
  const double y = b.sizeY.si;
  const double z = b.sizeZ.si;
  return named(BRepPrimAPI_MakeBox(gp_Pnt(-x / 2, -y / 2, 0), x, y, z).Shape(), [=](const gp_Pnt& c) -> std::string {
    if (std::abs(c.X()) > 0.49 * x)
      return c.X() > 0 ? "right" : "left";
    if (std::abs(c.Y()) > 0.49 * y)
      return c.Y() > 0 ? "back" : "front";
    return c.Z() > z / 2 ? "top" : "bottom";
  });
}

NamedBody make(const Cylinder& c)
{
  return named(BRepPrimAPI_MakeCylinder(c.radius.si, c.height.si).Shape(), endsAndSide(c.height.si, "side"));
}

gp_Pnt placeOf(const Vec2& p, bool turned) { return turned ? gp_Pnt(p.x(), 0, p.y()) : gp_Pnt(p.x(), p.y(), 0); }

/// Middle of the arc (or line) from one outline point to the next.
Vec2 middleOfEdge(const OutlinePoint& from, const OutlinePoint& to)
{
  const Vec2 a(from.a.si, from.b.si);
  const Vec2 b(to.a.si, to.b.si);
  const Vec2 along = b - a;
  const Vec2 right = Vec2(along.y(), -along.x()) / std::max(along.norm(), 1e-300);
  return (a + b) / 2 + from.bulge.si * right;
}

TopoDS_Edge outlineEdge(const OutlinePoint& from, const OutlinePoint& to, bool turned)
{
  const gp_Pnt a = placeOf({from.a.si, from.b.si}, turned);
  const gp_Pnt b = placeOf({to.a.si, to.b.si}, turned);
  if (std::abs(from.bulge.si) < smallestLength)
    return BRepBuilderAPI_MakeEdge(a, b).Edge();
  return BRepBuilderAPI_MakeEdge(GC_MakeArcOfCircle(a, placeOf(middleOfEdge(from, to), turned), b).Value()).Edge();
}

/// Names the faces an outline's edges sweep out side1, side2, … and whatever else by \p rest.
template <class Sweep>
NamedBody namedSweep(Sweep& sweep, const TopoDS_Face& outline, const FaceName& rest)
{
  NamedBody body = named(sweep.Shape(), rest);
  int index = 0;
  for (TopExp_Explorer edges(outline, TopAbs_EDGE); edges.More(); edges.Next()) {
    ++index;
    for (const TopoDS_Shape& made : sweep.Generated(edges.Current()))
      for (auto& [face, name] : body.names)
        if (face.IsSame(made))
          name = "side" + std::to_string(index);
  }
  return body;
}

NamedBody make(const Tube& t)
{
  const TopoDS_Shape outer = BRepPrimAPI_MakeCylinder(t.outerRadius.si, t.height.si).Shape();
  const TopoDS_Shape inner = BRepPrimAPI_MakeCylinder(t.innerRadius.si, t.height.si).Shape();
  NamedBody body = named(BRepAlgoAPI_Cut(outer, inner).Shape(), endsAndSide(t.height.si, "outside"));
  const double middle = std::numbers::pi * (t.outerRadius.si + t.innerRadius.si) * t.height.si;
  for (auto& [face, name] : body.names) {
    GProp_GProps properties;
    BRepGProp::SurfaceProperties(face, properties);
    if (name == "outside" && properties.Mass() < middle)
      name = "inside";
  }
  return body;
}

NamedBody make(const Sphere& s)
{
  return named(BRepPrimAPI_MakeSphere(s.radius.si).Shape(), [](const gp_Pnt&) { return "outside"; });
}

NamedBody make(const Cone& c)
{
  const TopoDS_Shape shape = std::abs(c.bottomRadius.si - c.topRadius.si) < smallestLength
                                 ? BRepPrimAPI_MakeCylinder(c.bottomRadius.si, c.height.si).Shape()
                                 : BRepPrimAPI_MakeCone(c.bottomRadius.si, c.topRadius.si, c.height.si).Shape();
  return named(shape, endsAndSide(c.height.si, "side"));
}

NamedBody make(const Torus& t)
{
  return named(BRepPrimAPI_MakeTorus(t.ringRadius.si, t.tubeRadius.si).Shape(),
               [](const gp_Pnt&) { return "outside"; });
}

NamedBody make(const Prism& p)
{
  const TopoDS_Face outline = outlineFace(p.outline, false);
  BRepPrimAPI_MakePrism sweep(outline, gp_Vec(0, 0, p.height.si));
  return namedSweep(sweep, outline, endsAndSide(p.height.si, "side"));
}

/// Distance of a place in the r–z plane to one edge of an outline.
double distanceToEdge(const Vec2& place, const OutlinePoint& from, const OutlinePoint& to)
{
  const Vec2 a(from.a.si, from.b.si);
  const Vec2 along = Vec2(to.a.si, to.b.si) - a;
  if (std::abs(from.bulge.si) > smallestLength) { // an arc through its two ends and its middle
    const double half = along.norm() / 2;
    const double radius = (half * half + from.bulge.si * from.bulge.si) / (2 * std::abs(from.bulge.si));
    const Vec2 middle = middleOfEdge(from, to);
    const Vec2 inwards = (a + along / 2 - middle).normalized();
    return std::abs((place - (middle + radius * inwards)).norm() - radius);
  }
  const double share = std::clamp((place - a).dot(along) / std::max(along.squaredNorm(), 1e-300), 0.0, 1.0);
  return (place - a - share * along).norm();
}

/// side1, side2, … by the outline's edge that swept the face; the flat ends of a part turn are start and end.
std::string nameOfTurnedFace(const TopoDS_Face& face, const std::vector<OutlinePoint>& outline)
{
  const std::vector<FaceSample> samples = samplesOn(face, 3);
  if (samples.empty())
    return "side";
  const Vec3& place = samples.front().place;
  const Vec2 flat(std::hypot(place.x(), place.y()), place.z());
  for (std::size_t i = 0; i < outline.size(); ++i)
    if (distanceToEdge(flat, outline[i], outline[(i + 1) % outline.size()]) < 1e-7)
      return "side" + std::to_string(i + 1);
  return std::abs(place.y()) < 1e-9 && place.x() > 0 ? "start" : "end";
}

NamedBody make(const TurnedProfile& t)
{
  const TopoDS_Face outline = outlineFace(t.outline, true);
  const gp_Ax1 axis(gp_Pnt(0, 0, 0), gp_Dir(0, 0, 1));
  const bool full = t.angle.si > 2 * std::numbers::pi - 1e-9;
  BRepPrimAPI_MakeRevol sweep =
      full ? BRepPrimAPI_MakeRevol(outline, axis) : BRepPrimAPI_MakeRevol(outline, axis, t.angle.si);
  NamedBody body{sweep.Shape(), {}};
  for (TopExp_Explorer faces(body.shape, TopAbs_FACE); faces.More(); faces.Next())
    body.names.emplace_back(TopoDS::Face(faces.Current()), nameOfTurnedFace(TopoDS::Face(faces.Current()), t.outline));
  return body;
}

/// A face in the plane y = 0 drawn out on both sides, far beyond its own size: an endless body for sections.
NamedBody makeFlat(const TopoDS_Face& area, const FaceName& name)
{
  Bnd_Box box;
  BRepBndLib::Add(area, box);
  const double reach = std::sqrt(box.SquareExtent());
  gp_Trsf back;
  back.SetTranslation(gp_Vec(0, -reach, 0));
  BRepPrimAPI_MakePrism sweep(area.Moved(TopLoc_Location(back)), gp_Vec(0, 2 * reach, 0));
  return named(sweep.Shape(), [&](const gp_Pnt& c) -> std::string {
    if (std::abs(c.Y()) > reach / 2)
      return c.Y() > 0 ? "back" : "front";
    return name(c);
  });
}

NamedBody make(const Rectangle& r)
{
  const double x = r.width.si / 2;
  const double z = r.height.si;
  BRepBuilderAPI_MakePolygon border(gp_Pnt(-x, 0, 0), gp_Pnt(x, 0, 0), gp_Pnt(x, 0, z), gp_Pnt(-x, 0, z), true);
  return makeFlat(BRepBuilderAPI_MakeFace(border.Wire(), true).Face(), [=](const gp_Pnt& c) -> std::string {
    if (std::abs(c.X()) > 0.49 * 2 * x)
      return c.X() > 0 ? "right" : "left";
    return c.Z() > z / 2 ? "top" : "bottom";
  });
}

NamedBody make(const Disc& d)
{
  const gp_Ax2 frame(gp_Pnt(0, 0, 0), gp_Dir(0, -1, 0), gp_Dir(1, 0, 0));
  const auto circle = [&](double radius) {
    return BRepBuilderAPI_MakeWire(BRepBuilderAPI_MakeEdge(gp_Circ(frame, radius)).Edge()).Wire();
  };
  BRepBuilderAPI_MakeFace area(circle(d.outerRadius.si), true);
  if (d.innerRadius.si > 0)
    area.Add(TopoDS::Wire(circle(d.innerRadius.si).Reversed()));
  NamedBody body = makeFlat(area.Face(), [](const gp_Pnt&) { return "outside"; });
  for (auto& [face, name] : body.names)
    if (name == "outside" && d.innerRadius.si > 0) {
      const BRepAdaptor_Surface surface(face);
      if (surface.GetType() == GeomAbs_Cylinder &&
          surface.Cylinder().Radius() < (d.innerRadius.si + d.outerRadius.si) / 2)
        name = "inside";
    }
  return body;
}

NamedBody make(const FlatOutline& f)
{
  NamedBody body = makeFlat(outlineFace(f.outline, true), [](const gp_Pnt&) { return "side"; });
  for (auto& [face, name] : body.names)
    if (name == "side") {
      const std::vector<FaceSample> samples = samplesOn(face, 2);
      const Vec2 flat = samples.empty() ? Vec2::Zero() : Vec2(samples.front().place.x(), samples.front().place.z());
      for (std::size_t i = 0; i < f.outline.size(); ++i)
        if (distanceToEdge(flat, f.outline[i], f.outline[(i + 1) % f.outline.size()]) < 1e-7)
          name = "side" + std::to_string(i + 1);
    }
  return body;
}

NamedBody make(const FileBody&) { throw Standard_Failure("a body from a file needs its file"); }

/// Area between an arc and its chord, positive where it adds to an outline that runs counterclockwise.
double segmentArea(const OutlinePoint& from, const OutlinePoint& to)
{
  const double h = from.bulge.si;
  const double chord = std::hypot(to.a.si - from.a.si, to.b.si - from.b.si);
  if (std::abs(h) < smallestLength || chord < smallestLength)
    return 0;
  const double radius = (chord * chord / 4 + h * h) / (2 * std::abs(h));
  const double half = 2 * std::atan(2 * std::abs(h) / chord);
  return std::copysign(radius * radius * (half - std::sin(half) * std::cos(half)), h);
}

double signedOutlineArea(const std::vector<OutlinePoint>& outline)
{
  double doubled = 0;
  for (std::size_t i = 0; i < outline.size(); ++i) {
    const OutlinePoint& p = outline[i];
    const OutlinePoint& q = outline[(i + 1) % outline.size()];
    doubled += p.a.si * q.b.si - q.a.si * p.b.si + 2 * segmentArea(p, q);
  }
  return doubled / 2;
}

std::optional<std::string> outlineProblem(const std::vector<OutlinePoint>& outline)
{
  if (outline.size() < 3)
    return "Its outline has fewer than three points";
  if (std::abs(signedOutlineArea(outline)) < smallestLength * smallestLength)
    return "Its outline encloses no area";
  return std::nullopt;
}

} // namespace

TopoDS_Face outlineFace(const std::vector<OutlinePoint>& outline, bool turned)
{
  BRepBuilderAPI_MakeWire wire;
  for (std::size_t i = 0; i < outline.size(); ++i)
    wire.Add(outlineEdge(outline[i], outline[(i + 1) % outline.size()], turned));
  return BRepBuilderAPI_MakeFace(wire.Wire(), true).Face();
}

std::optional<std::string> problemOf(const Form& form)
{
  if (const auto* t = std::get_if<Tube>(&form); t != nullptr && t->innerRadius.si >= t->outerRadius.si)
    return "Its inner radius is not smaller than its outer radius";
  if (const auto* d = std::get_if<Disc>(&form); d != nullptr && d->innerRadius.si >= d->outerRadius.si)
    return "Its inner radius is not smaller than its outer radius";
  if (const auto* f = std::get_if<FlatOutline>(&form))
    return outlineProblem(f->outline);
  if (const auto* t = std::get_if<Torus>(&form); t != nullptr && t->tubeRadius.si >= t->ringRadius.si)
    return "Its tube radius is not smaller than its ring radius";
  if (const auto* c = std::get_if<Cone>(&form); c != nullptr && c->bottomRadius.si + c->topRadius.si < smallestLength)
    return "Both its radii are zero";
  if (const auto* p = std::get_if<Prism>(&form))
    return outlineProblem(p->outline);
  if (const auto* t = std::get_if<TurnedProfile>(&form)) {
    for (const OutlinePoint& point : t->outline)
      if (point.a.si < 0)
        return "Its outline crosses the axis (a radius is negative)";
    if (t->angle.si > 2 * std::numbers::pi + 1e-9)
      return "Its angle is more than a full turn";
    return outlineProblem(t->outline);
  }
  return std::nullopt;
}

bool isFlat(const Form& form)
{
  return std::holds_alternative<Rectangle>(form) || std::holds_alternative<Disc>(form) ||
         std::holds_alternative<FlatOutline>(form);
}

gp_Trsf transformOf(const Placement& placement)
{
  const gp_Pnt origin(0, 0, 0);
  gp_Trsf x, y, z, move;
  x.SetRotation(gp_Ax1(origin, gp_Dir(1, 0, 0)), placement.rotation.x.si);
  y.SetRotation(gp_Ax1(origin, gp_Dir(0, 1, 0)), placement.rotation.y.si);
  z.SetRotation(gp_Ax1(origin, gp_Dir(0, 0, 1)), placement.rotation.z.si);
  move.SetTranslation(gp_Vec(placement.position.x.si, placement.position.y.si, placement.position.z.si));
  return move * z * y * x;
}

NamedBody moved(NamedBody body, const gp_Trsf& transform)
{
  const TopLoc_Location location(transform);
  body.shape.Move(location);
  for (auto& [face, name] : body.names)
    face.Move(location);
  return body;
}

NamedBody makePlaced(const PlacedForm& form, const std::string& prefix)
{
  NamedBody body = std::visit([](const auto& kind) { return make(kind); }, form.form);
  for (auto& [face, name] : body.names)
    name.insert(0, prefix + ".");
  return form.placement == Placement{} ? body : moved(std::move(body), transformOf(form.placement));
}

} // namespace kiln
