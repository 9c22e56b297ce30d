// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "model/DescribeParts.h"
#include "model/Project.h"

namespace kiln
{

namespace describing
{
inline constexpr std::array<std::string_view, 11> figureKinds{
    "part",     "surface",     "point",      "surfaceHeat", "contactHeat",  "node",
    "linkHeat", "moltenShare", "resistance", "largestFlux", "transmittance"};
inline constexpr std::array<std::string_view, 4> extremeKinds{"hottest", "coldest", "mean", "spread"};
} // namespace describing

template <class A>
void describe(A& a, PartFigure& f)
{
  a.choice("figure", f.kind, describing::extremeKinds);
  a.references({"parts", Refers::Part | Refers::Group, describing::Must}, f.parts);
}
template <class A>
void describe(A& a, SurfaceFigure& f)
{
  a.choice("figure", f.kind, describing::extremeKinds);
  a.reference({"surface", Refers::Surface, describing::Must}, f.surface);
}
template <class A>
void describe(A& a, PointFigure& f)
{
  a.number3({"place", "Place", Quantity::Length}, f.place);
}
template <class A>
void describe(A& a, SurfaceHeat& f)
{
  a.reference({"surface", Refers::Surface, describing::Must}, f.surface);
}
template <class A>
void describe(A& a, ContactHeat& f)
{
  a.reference({"partA", Refers::Part, describing::Must}, f.partA);
  a.reference({"partB", Refers::Part, describing::Must}, f.partB);
}
template <class A>
void describe(A& a, NodeFigure& f)
{
  a.reference({"node", Refers::Node | Refers::Boundary, describing::Must}, f.node); // or a flow passage
}
template <class A>
void describe(A& a, LinkHeat& f)
{
  a.reference({"link", Refers::Link, describing::Must}, f.link);
}
template <class A>
void describe(A& a, MoltenShare& f)
{
  a.references({"parts", Refers::Part | Refers::Group, describing::Must}, f.parts);
}
template <class A>
void describe(A& a, BetweenWatches& f)
{
  a.reference({"hot", Refers::Watch, describing::Must}, f.hot);
  a.reference({"cold", Refers::Watch, describing::Must}, f.cold);
  a.reference({"heat", Refers::Watch, describing::Must}, f.heat);
}
template <class A>
void describe(A& a, LargestFlux& f)
{
  a.references({"parts", Refers::Part | Refers::Group, describing::Must}, f.parts);
}
template <class A>
void describe(A& a, Transmittance& f)
{
  a.reference({"surface", Refers::Surface, describing::Must}, f.surface);
  a.number({"warm", "Warm ambient", Quantity::Temperature, Range::NonNegative}, f.warm);
  a.number({"cold", "Cold ambient", Quantity::Temperature, Range::NonNegative}, f.cold);
  a.optionalNumber({"area", "Reference area", Quantity::Area, Range::Positive}, f.area);
}
template <class A>
void describe(A& a, Watch& w)
{
  describeObject(a, w);
  a.choice("kind", w.figure, describing::figureKinds);
  const Quantity quantity = quantityOf(w);
  a.optionalNumber(NumberSpec{"upper", "Upper limit", quantity}.at(Stage::Figures), w.upper);
  a.optionalNumber(NumberSpec{"lower", "Lower limit", quantity}.at(Stage::Figures), w.lower);
  a.unknown(w.unknown);
}
template <class A>
void describe(A& a, Line& l)
{
  describeObject(a, l);
  a.number3({"from", "From", Quantity::Length}, l.from);
  a.number3({"to", "To", Quantity::Length}, l.to);
  a.references({"faces", Refers::Face}, l.faces);
  a.unknown(l.unknown);
}

} // namespace kiln
