// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "model/Values.h"

#include <variant>

/// Kinds of figures that are watched. Each says by `quantity` what kind of number it is.
namespace kiln
{

enum class Extreme { Hottest, Coldest, Mean, Spread };
/// What differences of such a quantity are.
[[nodiscard]] constexpr Quantity differenceOf(Quantity quantity)
{
  return quantity == Quantity::Temperature ? Quantity::TemperatureStep : quantity;
}
[[nodiscard]] constexpr Quantity quantityOf(Extreme kind)
{
  return kind == Extreme::Spread ? Quantity::TemperatureStep : Quantity::Temperature;
}
namespace describing
{
inline constexpr KindSpecs<4> extremeKinds{{{"hottest", "hottest"},
                                            {"coldest", "coldest"},
                                            {"mean", "mean"},
                                            {"spread", "spread", "From the coldest to the hottest."}}};
inline constexpr ReferenceSpec watchedParts{"parts", "Of", "Parts and groups, as one.", Refers::Part | Refers::Group,
                                            Need::Must};
inline constexpr ReferenceSpec watchedSurface{"surface", "Of", "", Refers::Surface, Need::Must};
} // namespace describing

struct PartFigure {
  using Kind = Extreme;
  Kind kind = Kind::Hottest;
  std::vector<std::string> parts;
  bool operator==(const PartFigure&) const = default;
  [[nodiscard]] Quantity quantity() const { return quantityOf(kind); }
};
template <class A>
void describe(A& a, PartFigure& f)
{
  a.choice({"figure", "Figure", ""}, f.kind, describing::extremeKinds);
  a.references(describing::watchedParts, f.parts);
}

struct SurfaceFigure {
  Extreme kind = Extreme::Hottest;
  std::string surface;
  bool operator==(const SurfaceFigure&) const = default;
  [[nodiscard]] Quantity quantity() const { return quantityOf(kind); }
};
template <class A>
void describe(A& a, SurfaceFigure& f)
{
  a.choice({"figure", "Figure", ""}, f.kind, describing::extremeKinds);
  a.reference(describing::watchedSurface, f.surface);
}

struct PointFigure {
  Number3 place;
  bool operator==(const PointFigure&) const = default;
  [[nodiscard]] static Quantity quantity() { return Quantity::Temperature; }
};
template <class A>
void describe(A& a, PointFigure& f)
{
  a.number3({"place", "Place", "", Quantity::Length}, f.place);
}

/// Heat into the solid through a surface, W.
struct SurfaceHeat {
  std::string surface;
  bool operator==(const SurfaceHeat&) const = default;
  [[nodiscard]] static Quantity quantity() { return Quantity::Power; }
};
template <class A>
void describe(A& a, SurfaceHeat& f)
{
  a.reference(describing::watchedSurface, f.surface);
}

/// Heat from part A to part B through their contact, W.
struct ContactHeat {
  std::string partA, partB;
  bool operator==(const ContactHeat&) const = default;
  [[nodiscard]] static Quantity quantity() { return Quantity::Power; }
};
template <class A>
void describe(A& a, ContactHeat& f)
{
  a.reference({"partA", "From", "", Refers::Part, Need::Must}, f.partA);
  a.reference({"partB", "To", "", Refers::Part, Need::Must}, f.partB);
}

struct NodeFigure {
  std::string node; ///< or a flow passage: its outlet
  bool operator==(const NodeFigure&) const = default;
  [[nodiscard]] static Quantity quantity() { return Quantity::Temperature; }
};
template <class A>
void describe(A& a, NodeFigure& f)
{
  a.reference(
      {"node", "Of", "A lumped node, or a flow passage: its outlet.", Refers::Node | Refers::Boundary, Need::Must},
      f.node);
}

/// Heat through a link, from A to B, W.
struct LinkHeat {
  std::string link;
  bool operator==(const LinkHeat&) const = default;
  [[nodiscard]] static Quantity quantity() { return Quantity::Power; }
};
template <class A>
void describe(A& a, LinkHeat& f)
{
  a.reference({"link", "Through", "", Refers::Link, Need::Must}, f.link);
}

/// Share of the parts' material that is molten.
struct MoltenShare {
  std::vector<std::string> parts;
  bool operator==(const MoltenShare&) const = default;
  [[nodiscard]] static Quantity quantity() { return Quantity::Plain; }
};
template <class A>
void describe(A& a, MoltenShare& f)
{
  a.references(describing::watchedParts, f.parts);
}

/// Difference of two temperature watches over a heat watch, K/W.
struct BetweenWatches {
  std::string hot, cold, heat; ///< watch ids
  bool operator==(const BetweenWatches&) const = default;
  [[nodiscard]] static Quantity quantity() { return Quantity::Resistance; }
};
template <class A>
void describe(A& a, BetweenWatches& f)
{
  a.reference({"hot", "Warm end", "", Refers::Watch, Need::Must}, f.hot);
  a.reference({"cold", "Cold end", "", Refers::Watch, Need::Must}, f.cold);
  a.reference({"heat", "Heat between", "", Refers::Watch, Need::Must}, f.heat);
}

/// Largest heat flux in the parts, recovered from the temperatures, W/m².
struct LargestFlux {
  std::vector<std::string> parts;
  bool operator==(const LargestFlux&) const = default;
  [[nodiscard]] static Quantity quantity() { return Quantity::HeatFlux; }
};
template <class A>
void describe(A& a, LargestFlux& f)
{
  a.references(describing::watchedParts, f.parts);
}

/// Heat flux of a surface, W/m².
struct SurfaceFluxFigure {
  enum class Of { Mean, Largest };
  Of kind = Of::Mean;
  std::string surface;
  bool operator==(const SurfaceFluxFigure&) const = default;
  [[nodiscard]] static Quantity quantity() { return Quantity::HeatFlux; }
};
namespace describing
{
inline constexpr KindSpecs<2> surfaceFluxKinds{
    {{"mean", "mean", "Heat into the solid over the area."}, {"largest", "largest", "Recovered at the nodes."}}};
} // namespace describing
template <class A>
void describe(A& a, SurfaceFluxFigure& f)
{
  a.choice({"flux", "Flux", ""}, f.kind, describing::surfaceFluxKinds);
  a.reference(describing::watchedSurface, f.surface);
}

/// Volume of the parts that is hotter than a temperature, m³.
struct HotVolume {
  std::vector<std::string> parts;
  Number above; // K
  bool operator==(const HotVolume&) const = default;
  [[nodiscard]] static Quantity quantity() { return Quantity::Volume; }
};
template <class A>
void describe(A& a, HotVolume& f)
{
  a.references(describing::watchedParts, f.parts);
  a.number({"above", "Above", "", Quantity::Temperature, Range::NonNegative, Usually{"100 °C"}}, f.above);
}

/// A formula of other watches, which it calls a, b, c … in their order, and of parameters.
struct FormulaFigure {
  Quantity is = Quantity::TemperatureStep;
  std::vector<std::string> watches; ///< ids
  std::string formula;
  bool operator==(const FormulaFigure&) const = default;
  [[nodiscard]] Quantity quantity() const { return is; }
};
template <class A>
void describe(A& a, FormulaFigure& f)
{
  a.choice({"quantity", "Quantity", "What kind of number the formula gives."}, f.is, describing::quantityKinds);
  a.references({"watches", "Of", "Watches: the first is called a in the formula, the second b, and so on.",
                Refers::Watch, Need::Must},
               f.watches);
  a.formula({"formula", "Formula", "Of a, b, c … and parameters: “(a - b) / c”."}, f.formula);
}

/// Thermal transmittance: heat through a surface over an area and the difference of two ambients, W/(m²·K).
struct Transmittance {
  std::string surface;
  Number warm, cold;          // K
  std::optional<Number> area; // m², nothing: that of the surface
  bool operator==(const Transmittance&) const = default;
  [[nodiscard]] static Quantity quantity() { return Quantity::AreaConductance; }
};
template <class A>
void describe(A& a, Transmittance& f)
{
  a.reference(describing::watchedSurface, f.surface);
  a.number({"warm", "Warm ambient", "", Quantity::Temperature, Range::NonNegative, Usually{"20 °C"}}, f.warm);
  a.number({"cold", "Cold ambient", "", Quantity::Temperature, Range::NonNegative, Usually{"0 °C"}}, f.cold);
  a.optionalNumber({"area", "Reference area", "", Quantity::Area, Range::Positive, Usually{"that of the surface"}},
                   f.area);
}

struct Watch : Object {
  std::variant<PartFigure, SurfaceFigure, PointFigure, SurfaceHeat, ContactHeat, NodeFigure, LinkHeat, MoltenShare,
               BetweenWatches, LargestFlux, Transmittance, SurfaceFluxFigure, HotVolume, FormulaFigure>
      figure;
  std::optional<Number> upper, lower; // in its quantity
  std::optional<Number> reference;    // likewise: a value to compare with
  std::string referenceCase;          ///< id of the case whose value that is, instead
  std::optional<Number> tolerance;    // the value may differ from the reference by it
  std::string referenceFrom;          ///< where the reference comes from
  bool operator==(const Watch&) const = default;
};
namespace describing
{
/// In the names {figure} stands for the chosen one.
inline constexpr KindSpecs<14> figureKinds{
    {{"part", "temperature of parts", "", "{of}, {figure}"},
     {"surface", "temperature of a surface", "", "{of}, {figure}"},
     {"point", "temperature at a place", "Also an end of a link.", "Temperature at a place"},
     {"surfaceHeat", "heat through a surface", "Into the solid.", "Heat through {of}"},
     {"contactHeat", "heat through a contact", "From the first part to the second.", "Heat {of}"},
     {"node", "temperature of a node", "A lumped one, or the outlet of a flow passage.", "{of}"},
     {"linkHeat", "heat through a link", "From its first end to its second.", "Heat through {of}"},
     {"moltenShare", "molten share", "Of the material of parts.", "{of}, molten share"},
     {"resistance", "thermal resistance", "Difference of two temperatures over a heat.", "Thermal resistance"},
     {"largestFlux", "largest heat flux", "In parts, recovered at the nodes.", "{of}, largest heat flux"},
     {"transmittance", "thermal transmittance",
      "Heat through a surface over an area and the difference of two ambients.", "Transmittance of {of}"},
     {"surfaceFlux", "heat flux of a surface", "Its mean, or the largest.", "{of}, {figure} heat flux"},
     {"hotVolume", "volume above a temperature", "And which parts it lies in.", "{of}, volume above"},
     {"formula", "formula of watches", "With checked units, at every instant of a run.", "Formula"}}};
} // namespace describing

[[nodiscard]] Quantity quantityOf(const Watch& watch); ///< of its figure

template <class A>
void describe(A& a, Watch& w)
{
  describeObject(a, w);
  a.choice({"kind", "Kind", ""}, w.figure, describing::figureKinds);
  const Quantity quantity = quantityOf(w);
  a.optionalNumber({"upper", "Upper limit", "", quantity, Stage::Figures, Usually{"none"}}, w.upper);
  a.optionalNumber({"lower", "Lower limit", "", quantity, Stage::Figures, Usually{"none"}}, w.lower);
  a.optionalNumber({"reference", "Reference value", "A hand value, a published or a measured one.", quantity,
                    Stage::Figures, Usually{"none"}},
                   w.reference);
  a.reference({"referenceCase", "or its value in", "Another case.", Refers::Case, Stage::Figures}, w.referenceCase);
  a.optionalNumber({"tolerance", "It may differ by", "Up or down; more than that fails.", differenceOf(quantity),
                    Range::NonNegative, Stage::Figures, Usually{"not asked"}},
                   w.tolerance);
  a.optionalText({"referenceFrom", "Reference from", "Where it comes from.", Stage::Nothing}, w.referenceFrom);
  a.unknown(w.unknown);
}

/// A straight line through the model along which temperatures are read, or an edge of it.
struct Line : Object {
  Number3 from, to;               // m
  std::vector<std::string> faces; ///< names of two faces: along the edge where they meet, from its end nearer `from`
  bool operator==(const Line&) const = default;
};
template <class A>
void describe(A& a, Line& l)
{
  describeObject(a, l);
  a.number3({"from", "From", "", Quantity::Length}, l.from);
  a.number3({"to", "To", "", Quantity::Length}, l.to);
  a.references(
      {"faces", "Along the edge of", "Two faces that meet there, from the end nearer to “from”.", Refers::Face},
      l.faces);
  a.unknown(l.unknown);
}

} // namespace kiln
