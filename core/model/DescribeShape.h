// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "model/Schema.h"
#include "model/Shape.h"

#include <array>

namespace kiln
{

namespace describing
{
inline constexpr ReferenceSpec::Need Must = ReferenceSpec::Need::Must;
inline constexpr ReferenceSpec::Need Whole = ReferenceSpec::Need::Whole;
inline constexpr std::array<std::string_view, 12> formKinds{"block",    "cylinder",  "tube",  "sphere",
                                                            "cone",     "torus",     "prism", "turnedProfile",
                                                            "fileBody", "rectangle", "disc",  "flatOutline"};
inline constexpr std::array<std::string_view, 9> stepActions{"join", "cut",   "round",  "bevel",  "push",
                                                             "tilt", "split", "remove", "thicken"};
inline constexpr std::array<std::string_view, 3> repeatKinds{"once", "row", "ring"};
inline constexpr std::array<std::string_view, 4> splitKinds{"line", "rectangle", "circle", "outline"};
} // namespace describing

template <class A>
void describe(A& a, Block& b)
{
  a.number({"sizeX", "Size x", Quantity::Length, Range::Positive}, b.sizeX);
  a.number({"sizeY", "Size y", Quantity::Length, Range::Positive}, b.sizeY);
  a.number({"sizeZ", "Size z", Quantity::Length, Range::Positive}, b.sizeZ);
}
template <class A>
void describe(A& a, Cylinder& c)
{
  a.number({"radius", "Radius", Quantity::Length, Range::Positive}, c.radius);
  a.number({"height", "Height", Quantity::Length, Range::Positive}, c.height);
}
template <class A>
void describe(A& a, Tube& t)
{
  a.number({"outerRadius", "Outer radius", Quantity::Length, Range::Positive}, t.outerRadius);
  a.number({"innerRadius", "Inner radius", Quantity::Length, Range::Positive}, t.innerRadius);
  a.number({"height", "Height", Quantity::Length, Range::Positive}, t.height);
}
template <class A>
void describe(A& a, Sphere& s)
{
  a.number({"radius", "Radius", Quantity::Length, Range::Positive}, s.radius);
}
template <class A>
void describe(A& a, Cone& c)
{
  a.number({"bottomRadius", "Bottom radius", Quantity::Length, Range::NonNegative}, c.bottomRadius);
  a.number({"topRadius", "Top radius", Quantity::Length, Range::NonNegative}, c.topRadius);
  a.number({"height", "Height", Quantity::Length, Range::Positive}, c.height);
}
template <class A>
void describe(A& a, Torus& t)
{
  a.number({"ringRadius", "Ring radius", Quantity::Length, Range::Positive}, t.ringRadius);
  a.number({"tubeRadius", "Tube radius", Quantity::Length, Range::Positive}, t.tubeRadius);
}
template <class A>
void describe(A& a, Prism& p)
{
  a.outline("outline", p.outline);
  a.number({"height", "Height", Quantity::Length, Range::Positive}, p.height);
  a.reference({"upTo", Refers::Face}, p.upTo);
}
template <class A>
void describe(A& a, TurnedProfile& t)
{
  a.outline("outline", t.outline);
  a.number({"angle", "Angle", Quantity::Angle, Range::Positive}, t.angle);
}
template <class A>
void describe(A& a, FileBody& b)
{
  a.reference({"file", Refers::File, describing::Must}, b.file);
  a.text("body", b.body);
  a.flag("meshAnew", b.meshAnew);
}
template <class A>
void describe(A& a, Rectangle& r)
{
  a.number({"width", "Width", Quantity::Length, Range::Positive}, r.width);
  a.number({"height", "Height", Quantity::Length, Range::Positive}, r.height);
}
template <class A>
void describe(A& a, Disc& d)
{
  a.number({"outerRadius", "Outer radius", Quantity::Length, Range::Positive}, d.outerRadius);
  a.number({"innerRadius", "Inner radius", Quantity::Length, Range::NonNegative}, d.innerRadius);
}
template <class A>
void describe(A& a, FlatOutline& f)
{
  a.outline("outline", f.outline);
}
template <class A>
void describe(A& a, PlacedForm& s)
{
  a.choice("kind", s.form, describing::formKinds);
  a.number3({"position", "Position", Quantity::Length}, s.placement.position);
  a.number3({"rotation", "Rotation", Quantity::Angle}, s.placement.rotation);
}
template <class A>
void describe(A&, Once&)
{
}
template <class A>
void describe(A& a, Row& r)
{
  a.number({"count", "Copies", Quantity::Plain, Range::Count}, r.count);
  a.number3({"pitch", "Pitch", Quantity::Length}, r.pitch);
  a.unknown(r.unknown);
}
template <class A>
void describe(A& a, Ring& r)
{
  a.number({"count", "Copies", Quantity::Plain, Range::Count}, r.count);
  a.number({"angle", "Spacing angle", Quantity::Angle}, r.angle);
  a.number3({"centre", "Ring centre", Quantity::Length}, r.centre);
  a.number3({"axis", "Ring axis", Quantity::Plain}, r.axis);
  a.unknown(r.unknown);
}
template <class A>
void describe(A& a, Join& j)
{
  describe(a, j.shape);
  a.nestedChoice("repeat", j.repeat, describing::repeatKinds);
}
template <class A>
void describe(A& a, Cut& c)
{
  describe(a, c.shape);
  a.nestedChoice("repeat", c.repeat, describing::repeatKinds);
}
template <class A>
void describe(A& a, RoundEdges& r)
{
  a.references({"faces", Refers::Face, describing::Must}, r.faces);
  a.number({"radius", "Radius", Quantity::Length, Range::Positive}, r.radius);
}
template <class A>
void describe(A& a, BevelEdges& b)
{
  a.references({"faces", Refers::Face, describing::Must}, b.faces);
  a.number({"distance", "Distance", Quantity::Length, Range::Positive}, b.distance);
}
template <class A>
void describe(A& a, PushFace& p)
{
  a.reference({"face", Refers::Face, describing::Must}, p.face);
  a.number({"distance", "Outwards by", Quantity::Length}, p.distance);
}
template <class A>
void describe(A& a, ThickenFace& t)
{
  a.reference({"face", Refers::Face, describing::Must}, t.face);
  a.number({"thickness", "Thicker by", Quantity::Length}, t.thickness);
}
template <class A>
void describe(A& a, TiltFace& t)
{
  a.reference({"face", Refers::Face, describing::Must}, t.face);
  a.number({"angle", "Lean outwards", Quantity::Angle}, t.angle);
}
template <class A>
void describe(A& a, SplitByLine& l)
{
  a.number({"fromA", "From, along", Quantity::Length}, l.fromA);
  a.number({"fromB", "From, across", Quantity::Length}, l.fromB);
  a.number({"toA", "To, along", Quantity::Length}, l.toA);
  a.number({"toB", "To, across", Quantity::Length}, l.toB);
}
template <class A>
void describe(A& a, SplitByRectangle& r)
{
  a.number({"centreA", "Centre, along", Quantity::Length}, r.centreA);
  a.number({"centreB", "Centre, across", Quantity::Length}, r.centreB);
  a.number({"sizeA", "Size, along", Quantity::Length, Range::Positive}, r.sizeA);
  a.number({"sizeB", "Size, across", Quantity::Length, Range::Positive}, r.sizeB);
}
template <class A>
void describe(A& a, SplitByCircle& c)
{
  a.number({"centreA", "Centre, along", Quantity::Length}, c.centreA);
  a.number({"centreB", "Centre, across", Quantity::Length}, c.centreB);
  a.number({"radius", "Radius", Quantity::Length, Range::Positive}, c.radius);
}
template <class A>
void describe(A& a, SplitByOutline& o)
{
  a.outline("outline", o.outline);
}
template <class A>
void describe(A& a, SplitFace& s)
{
  a.reference({"face", Refers::Face, describing::Must}, s.face);
  a.choice("line", s.line, describing::splitKinds);
}
template <class A>
void describe(A& a, RemoveFaces& r)
{
  a.references({"faces", Refers::Face}, r.faces);
  a.number({"roundBelow", "Round faces with a radius below", Quantity::Length, Range::NonNegative}, r.roundBelow);
}
template <class A>
void describe(A& a, ShapeStep& s)
{
  a.text("id", s.id);
  a.choice("do", s.action, describing::stepActions);
  a.unknown(s.unknown);
}

} // namespace kiln
