// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "model/Parts.h"

namespace kiln
{

/// Faces whose normals all lie within an angle of a direction.
struct Facing {
  Number3 direction;
  Number within; // rad
  bool operator==(const Facing&) const = default;
};
template <class A>
void describe(A& a, Facing& f)
{
  a.number3({"direction", "Direction", "", Quantity::Plain}, f.direction);
  a.number({"within", "Within", "Angle of its whole face to that direction.", Quantity::Angle, Range::NonNegative},
           f.within);
}

/// Faces whose middle lies between two corners; a missing bound leaves that side open.
struct Within {
  std::optional<Number> lowX, highX, lowY, highY, lowZ, highZ; // m
  bool operator==(const Within&) const = default;
};
template <class A>
void describe(A& a, Within& w)
{
  a.optionalNumber({"lowX", "x from", "Of the middle of the face.", Quantity::Length, Usually{"open"}}, w.lowX);
  a.optionalNumber({"highX", "x to", "Of the middle of the face.", Quantity::Length, Usually{"open"}}, w.highX);
  a.optionalNumber({"lowY", "y from", "Of the middle of the face.", Quantity::Length, Usually{"open"}}, w.lowY);
  a.optionalNumber({"highY", "y to", "Of the middle of the face.", Quantity::Length, Usually{"open"}}, w.highY);
  a.optionalNumber({"lowZ", "z from", "Of the middle of the face.", Quantity::Length, Usually{"open"}}, w.lowZ);
  a.optionalNumber({"highZ", "z to", "Of the middle of the face.", Quantity::Length, Usually{"open"}}, w.highZ);
}

/// Faces whose middle lies no farther than a distance from a place.
struct Near {
  Number3 place;
  Number distance;
  bool operator==(const Near&) const = default;
};
template <class A>
void describe(A& a, Near& n)
{
  a.number3({"place", "Place", "", Quantity::Length}, n.place);
  a.number({"distance", "Within", "Of the middle of the face to that place.", Quantity::Length, Range::NonNegative},
           n.distance);
}

/// A rule: exposed faces of parts and named faces, kept where they face a direction, lie within a box and near a
/// place, minus other surfaces; then faces picked by hand are added and left out.
struct Surface : Object {
  std::vector<std::string> exposedOf; // part or part group ids
  std::vector<std::string> faces;     // lasting names, "shell.top" or, for every face of a part, "shell.*"
  std::optional<Facing> facing;
  std::optional<Within> within;
  std::optional<Near> near;
  std::vector<std::string> except;  // surface ids
  std::optional<Number> meshSize;   // m, of its faces
  std::vector<std::string> added;   // lasting names, picked by hand, whatever the rest of the rule says
  std::vector<std::string> without; // lasting names, left out by hand
  bool operator==(const Surface&) const = default;
};
template <class A>
void describe(A& a, Surface& s)
{
  describeObject(a, s);
  a.references({"exposedOf", "Exposed faces of", "All faces of them that touch nothing.", Refers::Part | Refers::Group},
               s.exposedOf);
  a.references({"faces", "Faces", "By their lasting names; shell.* means every face of Shell.", Refers::Face}, s.faces);
  a.nested({"facing", "Facing", "Of all these, only those that face a direction."}, s.facing);
  a.nested({"within", "Within", "Of all these, only those whose middle lies in a box."}, s.within);
  a.nested({"near", "Near", "Of all these, only those whose middle lies near a place."}, s.near);
  a.references({"except", "Except", "Faces of these are taken out.", Refers::Surface}, s.except);
  a.optionalNumber({"meshSize", "Mesh size", "Largest edge of elements on its faces.", Quantity::Length,
                    Range::Positive, Stage::Mesh, UsesItself{}},
                   s.meshSize);
  a.references({"added", "Picked by hand", "Whatever the rest of the rule says.", Refers::Face}, s.added);
  a.references({"without", "Without these faces", "Whatever the rest of the rule says.", Refers::Face}, s.without);
  a.unknown(s.unknown);
}

} // namespace kiln
