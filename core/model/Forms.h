// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "model/Values.h"

#include <variant>

namespace kiln
{

/// Of a form whose height can follow a flat face: of another part, or (in a step) of its own.
template <class A>
void describeUpTo(A& a, std::string& upTo)
{
  a.reference({"upTo", "Up to", "A flat face that the height follows instead.", Refers::Face, Nothing{"its height"}},
              upTo);
}

/// Own frame of every form: the base lies in z = 0 and is centred on the z axis, unless said otherwise.
struct Block {
  Number sizeX, sizeY, sizeZ;
  std::string upTo{}; ///< size z follows this face when it is named
  bool operator==(const Block&) const = default;
};
template <class A>
void describe(A& a, Block& b)
{
  a.number({"sizeX", "Size x", "Along x, centred.", Quantity::Length, Range::Positive, Usually{"100 mm"}}, b.sizeX);
  a.number({"sizeY", "Size y", "Along y, centred.", Quantity::Length, Range::Positive, Usually{"100 mm"}}, b.sizeY);
  a.number({"sizeZ", "Size z", "Along z, from 0.", Quantity::Length, Range::Positive, Usually{"20 mm"}}, b.sizeZ);
  describeUpTo(a, b.upTo);
}
struct Cylinder {
  Number radius, height;
  std::string upTo{}; ///< the height follows this face when it is named
  bool operator==(const Cylinder&) const = default;
};
template <class A>
void describe(A& a, Cylinder& c)
{
  a.number({"radius", "Radius", "", Quantity::Length, Range::Positive, Usually{"25 mm"}}, c.radius);
  a.number({"height", "Height", "Along z, from 0.", Quantity::Length, Range::Positive, Usually{"50 mm"}}, c.height);
  describeUpTo(a, c.upTo);
}
struct Tube {
  Number outerRadius, innerRadius, height;
  bool operator==(const Tube&) const = default;
};
template <class A>
void describe(A& a, Tube& t)
{
  a.number({"outerRadius", "Outer radius", "", Quantity::Length, Range::Positive, Usually{"25 mm"}}, t.outerRadius);
  a.number({"innerRadius", "Inner radius", "Smaller than the outer one.", Quantity::Length, Range::Positive,
            Usually{"20 mm"}},
           t.innerRadius);
  a.number({"height", "Height", "Along z, from 0.", Quantity::Length, Range::Positive, Usually{"50 mm"}}, t.height);
}
/// Centred on the origin.
struct Sphere {
  Number radius;
  bool operator==(const Sphere&) const = default;
};
template <class A>
void describe(A& a, Sphere& s)
{
  a.number({"radius", "Radius", "", Quantity::Length, Range::Positive, Usually{"25 mm"}}, s.radius);
}
/// A zero top radius makes a point.
struct Cone {
  Number bottomRadius, topRadius, height;
  bool operator==(const Cone&) const = default;
};
template <class A>
void describe(A& a, Cone& c)
{
  a.number(
      {"bottomRadius", "Bottom radius", "0 makes a point.", Quantity::Length, Range::NonNegative, Usually{"25 mm"}},
      c.bottomRadius);
  a.number({"topRadius", "Top radius", "0 makes a point.", Quantity::Length, Range::NonNegative, Usually{"10 mm"}},
           c.topRadius);
  a.number({"height", "Height", "Along z, from 0.", Quantity::Length, Range::Positive, Usually{"40 mm"}}, c.height);
}
/// Centred on the origin, its axis along z.
struct Torus {
  Number ringRadius, tubeRadius;
  bool operator==(const Torus&) const = default;
};
template <class A>
void describe(A& a, Torus& t)
{
  a.number({"ringRadius", "Ring radius", "From the axis to the middle of the tube.", Quantity::Length, Range::Positive,
            Usually{"30 mm"}},
           t.ringRadius);
  a.number({"tubeRadius", "Tube radius", "", Quantity::Length, Range::Positive, Usually{"8 mm"}}, t.tubeRadius);
}
struct OutlinePoint {
  Number a, b;    ///< x, y of a prism; r, z of a turned profile
  Number bulge{}; ///< height of the arc to the next point over its chord, to the right of it; 0 is a straight line
  bool operator==(const OutlinePoint&) const = default;
};
/// Outline in x, y, drawn out along z: by a height, or up to a flat face of another part ("lid.bottom").
struct Prism {
  std::vector<OutlinePoint> outline;
  Number height;
  std::string upTo{}; ///< the height follows this face when it is named
  bool operator==(const Prism&) const = default;
};
template <class A>
void describe(A& a, Prism& p)
{
  a.outline({"outline", "Outline",
             "Corners x, y in order; a third number is the height of the arc to the next, to the right."},
            p.outline);
  a.number({"height", "Height", "Along z, from 0.", Quantity::Length, Range::Positive, Usually{"40 mm"}}, p.height);
  describeUpTo(a, p.upTo);
}
/// Outline in r, z, turned about z.
struct TurnedProfile {
  std::vector<OutlinePoint> outline;
  Number angle;
  bool operator==(const TurnedProfile&) const = default;
};
template <class A>
void describe(A& a, TurnedProfile& t)
{
  a.outline({"outline", "Outline", "Corners r, z in order; a third number is the height of the arc to the next."},
            t.outline);
  a.number({"angle", "Angle", "How far it is turned about z.", Quantity::Angle, Range::Positive, Usually{"360 deg"}},
           t.angle);
}

/// A body taken from a file, in the file's own frame.
struct FileBody {
  std::string file, body; ///< ids of the file and of the body in it
  bool meshAnew = false;  ///< though the file has elements of its own
  bool operator==(const FileBody&) const = default;
};
template <class A>
void describe(A& a, FileBody& b)
{
  a.reference({"file", "File", "Geometry that was taken in.", Refers::File, Need::Must}, b.file);
  a.text({"body", "", "Its id in the file."}, b.body);
  a.flag({"meshAnew", "Meshed anew", "Not with the elements that its file has."}, b.meshAnew);
}

/// Flat forms, for section models: drawn in the x–z plane (r and z where it is turned), endless along y.
struct Rectangle {
  Number width, height; ///< along x, centred on the z axis; along z, from 0
  bool operator==(const Rectangle&) const = default;
};
template <class A>
void describe(A& a, Rectangle& r)
{
  a.number({"width", "Width", "Along x, centred.", Quantity::Length, Range::Positive, Usually{"100 mm"}}, r.width);
  a.number({"height", "Height", "Along z, from 0.", Quantity::Length, Range::Positive, Usually{"50 mm"}}, r.height);
}
/// A circle, or a ring when it has an inner radius, centred on the origin.
struct Disc {
  Number outerRadius, innerRadius;
  bool operator==(const Disc&) const = default;
};
template <class A>
void describe(A& a, Disc& d)
{
  a.number({"outerRadius", "Outer radius", "", Quantity::Length, Range::Positive, Usually{"25 mm"}}, d.outerRadius);
  a.number({"innerRadius", "Inner radius", "0: no hole.", Quantity::Length, Range::NonNegative, Usually{"0 mm"}},
           d.innerRadius);
}
/// Outline in x, z.
struct FlatOutline {
  std::vector<OutlinePoint> outline;
  bool operator==(const FlatOutline&) const = default;
};
template <class A>
void describe(A& a, FlatOutline& f)
{
  a.outline({"outline", "Outline", "Corners x, z in order; a third number is the height of the arc to the next."},
            f.outline);
}

using Form = std::variant<Block, Cylinder, Tube, Sphere, Cone, Torus, Prism, TurnedProfile, FileBody, Rectangle, Disc,
                          FlatOutline>;

namespace describing
{
inline constexpr KindSpecs<12> formKinds{
    {{"block", "Block", "Base in z = 0, centred; faces top, bottom, left (-x), right (+x), front (-y), back (+y)."},
     {"cylinder", "Cylinder", "Base in z = 0; faces top, bottom, side."},
     {"tube", "Tube", "Base in z = 0; faces top, bottom, outside, inside."},
     {"sphere", "Sphere", "Centred on the origin; face outside."},
     {"cone", "Cone", "Base in z = 0; faces top, bottom, side."},
     {"torus", "Torus", "Centred, its axis along z; face outside."},
     {"prism", "Prism", "An outline in z = 0 drawn out along z; faces top, bottom and, by edge, side1, side2, …"},
     {"turnedProfile", "Turned profile",
      "An outline in r, z turned about z; faces side1, …, and start, end where it is no full turn."},
     {"fileBody", "Body of a file", "In the file's frame; faces f1, f2, …"},
     {"rectangle", "Rectangle", "Of a section: x and z, base on z = 0, centred; faces left, right, top, bottom."},
     {"disc", "Circle or ring", "Of a section, centred; faces outside, inside."},
     {"flatOutline", "Outline", "Of a section, x and z; faces side1, …"}}};
inline constexpr KindSpecs<3> repeatKinds{{{"once", "once"}, {"row", "in a row"}, {"ring", "in a ring"}}};
} // namespace describing

/// The height of a form and the face that it follows instead where one is named.
struct Reach {
  Number* height;
  std::string* upTo;
};
/// Nothing for forms that cannot reach up to a face.
[[nodiscard]] inline std::optional<Reach> reachOf(Form& form)
{
  if (auto* block = std::get_if<Block>(&form))
    return Reach{&block->sizeZ, &block->upTo};
  if (auto* cylinder = std::get_if<Cylinder>(&form))
    return Reach{&cylinder->height, &cylinder->upTo};
  if (auto* prism = std::get_if<Prism>(&form))
    return Reach{&prism->height, &prism->upTo};
  return std::nullopt;
}

/// Rotated about x, then y, then z (fixed axes), then moved.
struct Placement {
  Number3 position, rotation;
  bool operator==(const Placement&) const = default;
};

struct PlacedForm {
  Form form;
  Placement placement;
  bool operator==(const PlacedForm&) const = default;
};
template <class A>
void describe(A& a, PlacedForm& s)
{
  a.choice({"kind", "Form", ""}, s.form, describing::formKinds);
  a.number3({"position", "Position", "Of its own origin.", Quantity::Length}, s.placement.position);
  a.number3({"rotation", "Rotation", "About x, then y, then z, fixed axes.", Quantity::Angle}, s.placement.rotation);
}

struct Once {
  bool operator==(const Once&) const = default;
};
template <class A>
void describe(A&, Once&)
{
}
/// Copies along a line.
struct Row {
  Number count{2, "2"};
  Number3 pitch;
  UnknownKeys unknown{};
  bool operator==(const Row&) const = default;
};
template <class A>
void describe(A& a, Row& r)
{
  a.number({"count", "Copies", "With the first.", Quantity::Plain, Range::Count}, r.count);
  a.number3({"pitch", "Pitch", "From one to the next.", Quantity::Length}, r.pitch);
  a.unknown(r.unknown);
}
/// Copies around an axis, both in the part's frame.
struct Ring {
  Number count{2, "2"};
  Number angle{}; ///< from one to the next; 0 spreads them over a full turn
  Number3 centre{};
  Number3 axis{{0, {}}, {0, {}}, {1, {}}}; ///< direction
  UnknownKeys unknown{};
  bool operator==(const Ring&) const = default;
};
template <class A>
void describe(A& a, Ring& r)
{
  a.number({"count", "Copies", "With the first.", Quantity::Plain, Range::Count}, r.count);
  a.number({"angle", "Spacing angle", "From one to the next; 0 shares a full turn.", Quantity::Angle}, r.angle);
  a.number3({"centre", "Ring centre", "A place on the axis, in the frame of the part.", Quantity::Length}, r.centre);
  a.number3({"axis", "Ring axis", "Direction of the axis.", Quantity::Plain, Usually{"0 0 1"}}, r.axis);
  a.unknown(r.unknown);
}
using Repeat = std::variant<Once, Row, Ring>;

} // namespace kiln
