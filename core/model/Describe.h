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
  a.text(KeySpec{"name", Stage::Nothing}, p.name);
  a.optionalText(KeySpec{"comment", Stage::Nothing}, p.comment);
  a.list(KeySpec{"parameters", Stage::AsUsed}, p.parameters);
  a.list(KeySpec{"materials", Stage::AsUsed}, p.materials);
  a.list(KeySpec{"finishes", Stage::Solution}, p.finishes);
  a.list(KeySpec{"files", Stage::AsUsed}, p.files);
  a.list(KeySpec{"groups", Stage::Nothing}, p.groups);
  a.list(KeySpec{"parts", Stage::Geometry}, p.parts);
  a.list(KeySpec{"surfaces", Stage::AsUsed}, p.surfaces);
  a.list(KeySpec{"sources", Stage::Solution}, p.sources);
  a.list(KeySpec{"boundaries", Stage::Solution}, p.boundaries);
  a.list(KeySpec{"contacts", Stage::Solution}, p.contacts);
  a.list(KeySpec{"enclosures", Stage::Solution}, p.enclosures);
  a.list(KeySpec{"nodes", Stage::Solution}, p.nodes);
  a.list(KeySpec{"links", Stage::Solution}, p.links);
  a.list(KeySpec{"network", Stage::Nothing}, p.network);
  a.list(KeySpec{"cases", Stage::Course}, p.cases);
  a.list(KeySpec{"watches", Stage::AsUsed}, p.watches);
  a.list(KeySpec{"lines", Stage::Nothing}, p.lines);
  a.nested(KeySpec{"section", Stage::Geometry}, p.section);
  a.nested(KeySpec{"shapes", Stage::Geometry}, p.shapes);
  a.nested(KeySpec{"mesh", Stage::Mesh}, p.mesh);
  a.nested(KeySpec{"environment", Stage::Solution}, p.environment);
  a.unknown(p.unknown);
}

} // namespace kiln
