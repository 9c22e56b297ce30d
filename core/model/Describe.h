// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "model/DescribeCases.h"
#include "model/DescribeNetwork.h"
#include "model/DescribeWatches.h"
#include "model/Project.h"

namespace kiln
{

template <class A>
void describe(A& a, MeshSettings& m)
{
  a.optionalNumber({"size", "Mesh size", Quantity::Length, Range::Positive}, m.size);
  a.optionalNumber({"fineness", "Finer by", Quantity::Plain, Range::Positive}, m.fineness);
  a.optionalNumber({"acrossWalls", "Elements through walls", Quantity::Plain, Range::Count}, m.acrossWalls);
  a.flag("secondOrder", m.secondOrder);
  a.longText("finerAt", m.finerAt);
  a.unknown(m.unknown);
}
namespace describing
{
inline constexpr std::array<std::string_view, 2> sectionKinds{"plane", "turned"};
inline constexpr std::array<std::string_view, 3> acrossKinds{"x", "y", "z"};
} // namespace describing

template <class A>
void describe(A& a, PlaneSection& p)
{
  a.choice("across", p.across, describing::acrossKinds);
  a.number({"at", "Section at", Quantity::Length}, p.at);
  a.optionalNumber({"depth", "Depth", Quantity::Length, Range::Positive}, p.depth);
}
template <class A>
void describe(A& a, TurnedSection& t)
{
  a.number({"axisX", "Axis, x", Quantity::Length}, t.axisX);
  a.number({"axisY", "Axis, y", Quantity::Length}, t.axisY);
}
template <class A>
void describe(A& a, Section& s)
{
  a.choice("kind", s.cut, describing::sectionKinds);
  a.unknown(s.unknown);
}
template <class A>
void describe(A& a, Environment& e)
{
  a.number3({"gravity", "Gravity", Quantity::Plain}, e.gravity);
  a.number({"airPressure", "Air pressure", Quantity::Pressure, Range::Positive}, e.airPressure);
  a.unknown(e.unknown);
}
template <class A>
void describe(A& a, ShapeSettings& s)
{
  a.optionalNumber({"tolerance", "Parts closer than this touch", Quantity::Length, Range::Positive}, s.tolerance);
  a.unknown(s.unknown);
}
template <class A>
void describe(A& a, Project& p)
{
  a.text("name", p.name);
  a.optionalText("comment", p.comment);
  a.list("parameters", p.parameters);
  a.list("materials", p.materials);
  a.list("finishes", p.finishes);
  a.list("files", p.files);
  a.list("groups", p.groups);
  a.list("parts", p.parts);
  a.list("surfaces", p.surfaces);
  a.list("sources", p.sources);
  a.list("boundaries", p.boundaries);
  a.list("contacts", p.contacts);
  a.list("enclosures", p.enclosures);
  a.list("nodes", p.nodes);
  a.list("links", p.links);
  a.list("network", p.network);
  a.list("cases", p.cases);
  a.list("watches", p.watches);
  a.list("lines", p.lines);
  a.nested("section", p.section);
  a.nested("shapes", p.shapes);
  a.nested("mesh", p.mesh);
  a.nested("environment", p.environment);
  a.unknown(p.unknown);
}

} // namespace kiln
