// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "model/Values.h"

/// How the model is looked at: what of it is kept with the project.
namespace kiln
{

/// What the colours of a picture stand for.
enum class Shown {
  Temperature,
  Material,
  Conductivity,
  Condition,
  HeatFlux,
  ElementFlux,
  FluxError,
  MoltenShare,
  Patches,
  MeshQuality,
  Part,
  Difference,
  FluxX,
  FluxY,
  FluxZ,
  Gradient,
  FaceFlow
};

/// In which order and how bright.
enum class Palette { Glow, Even, Split, Grey };

/// What is drawn of a level.
enum class LevelLook { Surface, Above, Below };

/// How the heat flux is drawn besides the colours.
enum class FluxLook { None, Arrows, Streamlines };

enum class Axis { X, Y, Z };

namespace describing
{
inline constexpr KindSpecs<17> shownKinds{
    {{"temperature", "Temperature"},
     {"material", "Material"},
     {"conductivity", "Conductivity"},
     {"condition", "Condition"},
     {"heatFlux", "Heat flux", "Recovered at the nodes."},
     {"rawHeatFlux", "Raw heat flux", "Of each element by itself."},
     {"fluxError", "Flux error", "What the recovered flux differs by from that of the elements."},
     {"moltenShare", "Molten share"},
     {"patches", "Patches", "Of enclosures."},
     {"meshQuality", "Mesh quality", "Smallest angle of each element."},
     {"part", "Part"},
     {"difference", "Difference", "To the compared case."},
     {"heatFluxX", "Heat flux along x"},
     {"heatFluxY", "Heat flux along y"},
     {"heatFluxZ", "Heat flux along z"},
     {"gradient", "Temperature gradient", "How steeply the temperature changes from place to place."},
     {"faceFlow", "Heat through faces", "Of each face as a whole."}}};
inline constexpr KindSpecs<4> palettes{
    {{"glow", "kiln glow", "Dark through ember to near white."},
     {"even", "even", "Blue through grey-green to yellow: the same to colour-blind eyes."},
     {"split", "split at zero", "Blue below, ember above."},
     {"grey", "grey", "For print."}}};
inline constexpr KindSpecs<3> levelLooks{{{"surface", "the surface where it is", "Inside the parts."},
                                          {"above", "what is above", "As a solid."},
                                          {"below", "what is below", "As a solid."}}};
inline constexpr KindSpecs<3> fluxLooks{{{"none", "colours alone"},
                                         {"arrows", "arrows", "As long as the heat flux is large."},
                                         {"streamlines", "streamlines", "The ways that heat takes."}}};
inline constexpr KindSpecs<3> axes{{{"x", "x"}, {"y", "y"}, {"z", "z"}}};
} // namespace describing

/// Of what it shows, where that is a number with a scale.
[[nodiscard]] constexpr std::optional<Quantity> quantityOf(Shown shown)
{
  switch (shown) {
  case Shown::Temperature:
    return Quantity::Temperature;
  case Shown::HeatFlux:
  case Shown::ElementFlux:
  case Shown::FluxError:
  case Shown::FluxX:
  case Shown::FluxY:
  case Shown::FluxZ:
    return Quantity::HeatFlux;
  case Shown::MoltenShare:
    return Quantity::Plain;
  case Shown::MeshQuality:
    return Quantity::Angle;
  case Shown::Difference:
    return Quantity::TemperatureStep;
  case Shown::Gradient:
    return Quantity::TemperatureGradient;
  case Shown::FaceFlow:
    return Quantity::Power;
  case Shown::Material:
  case Shown::Conductivity:
  case Shown::Condition:
  case Shown::Patches:
  case Shown::Part:
    break;
  }
  return std::nullopt;
}

/// A plane that takes away what lies on the side that its normal points to.
struct CutPlane {
  std::string id;
  Number3 through; // m
  Number3 normal;
  bool operator==(const CutPlane&) const = default;
};
template <class A>
void describe(A& a, CutPlane& c)
{
  a.text({"id", "", "Of its own within the view."}, c.id);
  a.number3({"through", "Through", "A place of the plane.", Quantity::Length}, c.through);
  a.number3({"normal", "Away", "Direction of what is taken away.", Quantity::Plain, Usually{"1 0 0"}}, c.normal);
}

/// A camera with what it sees and how that is drawn, kept under a name.
struct View : Object {
  Number3 eye, towards, up;
  std::vector<CutPlane> cuts;
  std::vector<std::string> hidden, seeThrough; ///< part ids
  Shown shown = Shown::Temperature;
  std::optional<Number> low, high; // ends of the colours, in the quantity of what is shown; nothing: what is visible
  Palette palette = Palette::Glow;
  std::optional<Number> steps, digits;
  bool logarithmic = false;
  std::optional<Number> lines; // how many lines of equal value
  std::optional<Number> level; // in the quantity of what is shown
  LevelLook levelLook = LevelLook::Surface;
  FluxLook flux = FluxLook::None;
  std::optional<Number> density; // of arrows and streamlines, 1 … 100
  bool sameLength = false;       // of arrows: their colour says how large the flux is
  bool raw = false;              // the flux of each element by itself
  bool materialAxes = false;     // components are along those of each part's material
  std::optional<Number> clear;   // of see-through parts: 0 as the others, 1 not to be seen
  std::optional<Number> height;  // of a section model: the value, as a share of the model's size
  bool elementLines = false;
  std::optional<Number> apart; // of the model's size
  Axis apartAlong = Axis::Z;
  bool operator==(const View&) const = default;
};
template <class A>
void describe(A& a, View& v)
{
  describeObject(a, v);
  a.number3({"eye", "Eye", "Where one looks from.", Quantity::Length}, v.eye);
  a.number3({"towards", "Towards", "What one looks at.", Quantity::Length}, v.towards);
  a.number3({"up", "Up", "Its direction.", Quantity::Plain, Usually{"0 0 1"}}, v.up);
  a.list({"cuts", "Cuts", "Planes that open the model."}, v.cuts);
  a.references({"hidden", "Hidden", "", Refers::Part}, v.hidden);
  a.references({"seeThrough", "See-through", "", Refers::Part}, v.seeThrough);
  a.choice({"shown", "Colours", "What they stand for."}, v.shown, describing::shownKinds);
  const Quantity quantity = quantityOf(v.shown).value_or(Quantity::Plain);
  a.optionalNumber({"low", "From", "Lower end of the colours.", quantity, Usually{"what is visible"}}, v.low);
  a.optionalNumber({"high", "To", "Upper end of the colours.", quantity, Usually{"what is visible"}}, v.high);
  a.choice({"palette", "Palette", ""}, v.palette, describing::palettes);
  a.optionalNumber({"steps", "Steps", "So many colours.", Quantity::Plain, Range::Count, Usually{"smooth"}}, v.steps);
  a.optionalNumber({"digits", "Digits", "Of the numbers at the colours.", Quantity::Plain, Range::Count,
                    Usually{"as many as differ"}},
                   v.digits);
  a.flag({"logarithmic", "Logarithmic", "Equal ratios take equal room; of positive quantities."}, v.logarithmic);
  a.optionalNumber({"lines", "Lines of equal value", "So many.", Quantity::Plain, Range::Count, Usually{"none"}},
                   v.lines);
  a.optionalNumber({"level", "Level", "", quantity, Usually{"none"}}, v.level);
  a.choice({"levelLook", "Of the level", ""}, v.levelLook, describing::levelLooks);
  a.choice({"flux", "Heat flux", ""}, v.flux, describing::fluxLooks);
  a.optionalNumber({"density", "How many", "Arrows or streamlines.", Quantity::Plain, Range::Count, Usually{"25"}},
                   v.density);
  a.flag({"sameLength", "Arrows of one length", "Their colour says how large the flux is."}, v.sameLength);
  a.flag({"raw", "Flux of each element", "By itself; else recovered at the nodes."}, v.raw);
  a.flag({"materialAxes", "Along the material's axes", "Components of the flux in each part."}, v.materialAxes);
  a.optionalNumber({"clear", "How clear", "See-through parts are.", Quantity::Plain, Range::Share, Usually{"0.86"}},
                   v.clear);
  a.optionalNumber({"height", "As height", "Of a section model: the value, as a share of its size.", Quantity::Plain,
                    Range::Share, Usually{"flat"}},
                   v.height);
  a.flag({"elementLines", "Element lines", "Edges of the mesh."}, v.elementLines);
  a.optionalNumber({"apart", "Pulled apart", "Parts move away from the middle by this share of the model's size.",
                    Quantity::Plain, Range::NonNegative, Usually{"not"}},
                   v.apart);
  a.choice({"apartAlong", "Pulled apart along", ""}, v.apartAlong, describing::axes);
  a.unknown(v.unknown);
}

/// A value pinned to a place of the model.
struct Label : Object {
  Number3 place; // m
  Shown shown = Shown::Temperature;
  bool operator==(const Label&) const = default;
};
template <class A>
void describe(A& a, Label& l)
{
  describeObject(a, l);
  a.number3({"place", "Place", "", Quantity::Length}, l.place);
  a.choice({"shown", "Shows", ""}, l.shown, describing::shownKinds);
  a.unknown(l.unknown);
}

} // namespace kiln
