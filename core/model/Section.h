// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "model/Values.h"

#include <variant>

namespace kiln
{

enum class Across { X, Y, Z };

namespace describing
{
inline constexpr KindSpecs<2> sectionKinds{
    {{"plane", "plane", "Heat flows in a plane; everything goes on unchanged across it."},
     {"turned", "turned", "Everything is turned about an axis along z; what lies at larger x counts."}}};
inline constexpr KindSpecs<3> acrossKinds{{{"x", "x"}, {"y", "y"}, {"z", "z"}}};
} // namespace describing

/// Heat flows in a plane across one of the axes; everything goes on unchanged along it.
struct PlaneSection {
  Across across = Across::Y;
  Number at;                   // m, where the plane stands on its axis
  std::optional<Number> depth; // m; nothing: heat is per metre
  bool operator==(const PlaneSection&) const = default;
};
template <class A>
void describe(A& a, PlaneSection& p)
{
  a.choice({"across", "Across", "The axis it stands across."}, p.across, describing::acrossKinds);
  a.number({"at", "Section at", "Where it stands on that axis.", Quantity::Length}, p.at);
  a.optionalNumber({"depth", "Depth", "Along the axis.", Quantity::Length, Range::Positive, Usually{"per metre"}},
                   p.depth);
}

/// Heat flows in the half plane to the right (+x) of an axis along z; everything is turned about it.
struct TurnedSection {
  Number axisX, axisY; // m
  bool operator==(const TurnedSection&) const = default;
};
template <class A>
void describe(A& a, TurnedSection& t)
{
  a.number({"axisX", "Axis, x", "", Quantity::Length}, t.axisX);
  a.number({"axisY", "Axis, y", "", Quantity::Length}, t.axisY);
}

/// Makes a project a section model: its parts are cut by a plane and solved in it.
struct Section {
  std::variant<PlaneSection, TurnedSection> cut;
  UnknownKeys unknown;
  bool operator==(const Section&) const = default;
};
template <class A>
void describe(A& a, Section& s)
{
  a.choice({"kind", "Section", ""}, s.cut, describing::sectionKinds);
  a.unknown(s.unknown);
}

} // namespace kiln
