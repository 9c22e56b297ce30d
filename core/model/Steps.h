// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "model/Forms.h"

namespace kiln
{

namespace describing
{
inline constexpr KindSpecs<4> splitKinds{
    {{"line", "a line"}, {"rectangle", "a rectangle"}, {"circle", "a circle"}, {"outline", "an outline"}}};
inline constexpr KindSpecs<9> stepActions{
    {{"join", "Join", "A further form is joined to the part."},
     {"cut", "Cut", "A form is cut from the part."},
     {"round", "Round edges", "Edges between faces are made round."},
     {"bevel", "Bevel edges", "Edges between faces are cut off."},
     {"push", "Push a face", "A flat face is moved along its normal; its neighbours follow straight."},
     {"tilt", "Tilt a face", "A face is turned about the line where it meets the base of the part."},
     {"divide",
      "Divide a face",
      "A line on it divides it; the piece inside is part.step.inside, the rest part.step.outside.",
      {},
      "split"},
     {"remove", "Remove features", "Faces are taken away, their neighbours close the place."},
     {"thicken", "Thicken a face", "A layer of even thickness is laid on a face."}}};
} // namespace describing

/// A further form joined to the part, in the part's frame.
struct Join {
  PlacedForm shape;
  Repeat repeat{};
  bool operator==(const Join&) const = default;
};
template <class A>
void describe(A& a, Join& j)
{
  describe(a, j.shape);
  a.nestedChoice({"repeat", "Repeated", ""}, j.repeat, describing::repeatKinds);
}
/// A form cut from the part, in the part's frame.
struct Cut {
  PlacedForm shape;
  Repeat repeat{};
  bool operator==(const Cut&) const = default;
};
template <class A>
void describe(A& a, Cut& c)
{
  describe(a, c.shape);
  a.nestedChoice({"repeat", "Repeated", ""}, c.repeat, describing::repeatKinds);
}
/// Edges between the named faces made round; one face alone: all its edges.
struct RoundEdges {
  std::vector<std::string> faces;
  Number radius;
  bool operator==(const RoundEdges&) const = default;
};
template <class A>
void describe(A& a, RoundEdges& r)
{
  a.references({"faces", "Faces", "Edges between them; one alone: all its edges.", Refers::Face, Need::Must}, r.faces);
  a.number({"radius", "Radius", "", Quantity::Length, Range::Positive}, r.radius);
}
/// The same edges cut off at equal distances.
struct BevelEdges {
  std::vector<std::string> faces;
  Number distance;
  bool operator==(const BevelEdges&) const = default;
};
template <class A>
void describe(A& a, BevelEdges& b)
{
  a.references({"faces", "Faces", "Edges between them; one alone: all its edges.", Refers::Face, Need::Must}, b.faces);
  a.number({"distance", "Distance", "From the edge, on both faces.", Quantity::Length, Range::Positive}, b.distance);
}
/// A flat face moved along its normal, outwards when positive; its neighbours follow straight.
struct PushFace {
  std::string face;
  Number distance;
  bool operator==(const PushFace&) const = default;
};
template <class A>
void describe(A& a, PushFace& p)
{
  a.reference({"face", "Face", "A flat one.", Refers::Face, Need::Must}, p.face);
  a.number({"distance", "Outwards by", "Inwards when negative.", Quantity::Length}, p.distance);
}
/// A layer of even thickness laid on a face, flat or round; taken off when negative.
struct ThickenFace {
  std::string face;
  Number thickness;
  bool operator==(const ThickenFace&) const = default;
};
template <class A>
void describe(A& a, ThickenFace& t)
{
  a.reference({"face", "Face", "Flat or round.", Refers::Face, Need::Must}, t.face);
  a.number({"thickness", "Thicker by", "Of the layer laid on it; taken off when negative.", Quantity::Length},
           t.thickness);
}
/// A face turned about the line where it meets the base of the part (lowest z), leaning outwards when positive.
struct TiltFace {
  std::string face;
  Number angle;
  bool operator==(const TiltFace&) const = default;
};
template <class A>
void describe(A& a, TiltFace& t)
{
  a.reference({"face", "Face", "A flat one.", Refers::Face, Need::Must}, t.face);
  a.number({"angle", "Lean outwards", "About its lowest line.", Quantity::Angle}, t.angle);
}

/// Small features taken away, their neighbours closing the place: named faces, and round ones of a small radius.
struct RemoveFaces {
  std::vector<std::string> faces;
  Number roundBelow; ///< m; 0: none by radius
  bool operator==(const RemoveFaces&) const = default;
};
template <class A>
void describe(A& a, RemoveFaces& r)
{
  a.references({"faces", "Faces", "They go, and their neighbours close the place.", Refers::Face}, r.faces);
  a.number(
      {"roundBelow", "Round faces with a radius below", "They go too; 0: none.", Quantity::Length, Range::NonNegative},
      r.roundBelow);
}

/// Outlines on a flat face, from its middle; a runs along the part's x (y where the face looks along x), b across. On a
/// cylinder or cone they are wrapped around it: a runs around, counterclockwise about the axis, from the middle of the
/// face or, where it goes all around, from the x of its form; b along the axis from its middle.
struct SplitByLine {
  Number fromA, fromB, toA, toB;
  bool operator==(const SplitByLine&) const = default;
};
template <class A>
void describe(A& a, SplitByLine& l)
{
  a.number(
      {"fromA", "From, along",
       "From the middle of the face; along the part's x, or y where the face looks along x; around a cylinder or cone.",
       Quantity::Length},
      l.fromA);
  a.number({"fromB", "From, across", "Along a cylinder or cone.", Quantity::Length}, l.fromB);
  a.number({"toA", "To, along", "", Quantity::Length}, l.toA);
  a.number({"toB", "To, across", "", Quantity::Length}, l.toB);
}
struct SplitByRectangle {
  Number centreA, centreB, sizeA, sizeB;
  bool operator==(const SplitByRectangle&) const = default;
};
template <class A>
void describe(A& a, SplitByRectangle& r)
{
  a.number(
      {"centreA", "Centre, along",
       "From the middle of the face; along the part's x, or y where the face looks along x; around a cylinder or cone.",
       Quantity::Length},
      r.centreA);
  a.number({"centreB", "Centre, across", "", Quantity::Length}, r.centreB);
  a.number({"sizeA", "Size, along", "", Quantity::Length, Range::Positive}, r.sizeA);
  a.number({"sizeB", "Size, across", "", Quantity::Length, Range::Positive}, r.sizeB);
}
struct SplitByCircle {
  Number centreA, centreB, radius;
  bool operator==(const SplitByCircle&) const = default;
};
template <class A>
void describe(A& a, SplitByCircle& c)
{
  a.number(
      {"centreA", "Centre, along",
       "From the middle of the face; along the part's x, or y where the face looks along x; around a cylinder or cone.",
       Quantity::Length},
      c.centreA);
  a.number({"centreB", "Centre, across", "", Quantity::Length}, c.centreB);
  a.number({"radius", "Radius", "", Quantity::Length, Range::Positive}, c.radius);
}
struct SplitByOutline {
  std::vector<OutlinePoint> outline;
  bool operator==(const SplitByOutline&) const = default;
};
template <class A>
void describe(A& a, SplitByOutline& o)
{
  a.outline({"outline", "Outline", "Corners along and across, from the middle of the face."}, o.outline);
}
/// A dividing line. The piece inside is also called part.step.inside, the rest part.step.outside.
struct SplitFace {
  std::string face;
  std::variant<SplitByLine, SplitByRectangle, SplitByCircle, SplitByOutline> line;
  bool operator==(const SplitFace&) const = default;
};
template <class A>
void describe(A& a, SplitFace& s)
{
  a.reference(
      {"face", "Face", "A flat one, or a cylinder or cone: then it is wrapped around.", Refers::Face, Need::Must},
      s.face);
  a.choice({"line", "Along", ""}, s.line, describing::splitKinds);
}

/// One change of a part's shape; the steps act in the listed order, in the part's frame.
struct ShapeStep {
  std::string id; ///< gives its faces their lasting names: part.step.face
  std::variant<Join, Cut, RoundEdges, BevelEdges, PushFace, TiltFace, SplitFace, RemoveFaces, ThickenFace> action =
      Cut{};
  UnknownKeys unknown;
  bool muted = false; ///< left out: the shape is as if it were not there
  bool operator==(const ShapeStep&) const = default;
};
template <class A>
void describe(A& a, ShapeStep& s)
{
  a.text({"id", "", "Names its faces: part.step.face."}, s.id);
  a.choice({"do", "Does", ""}, s.action, describing::stepActions);
  a.flag({"muted", "Switched off", "The shape is as if the step were not there."}, s.muted);
  a.unknown(s.unknown);
}

} // namespace kiln
