// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "model/Number.h"
#include "model/Schema.h"

#include <array>
#include <map>
#include <optional>
#include <string>
#include <vector>

namespace kiln
{

/// Keys of the file that this version does not know, kept as JSON text and written back.
using UnknownKeys = std::map<std::string, std::string>;

/// What every named object has. The id never changes and is what others refer to; the name is free.
struct Object {
  std::string id;
  std::string name;
  std::string comment;
  UnknownKeys unknown;
  bool operator==(const Object&) const = default;
};
template <class A>
void describeObject(A& a, Object& o, Stage ofName = Stage::Nothing)
{
  a.text({"id", "", "Unique in the file; what others refer to. Never changes."}, o.id);
  a.text({"name", "Name", "What people call it; free.", ofName}, o.name);
  a.optionalText({"comment", "Comment", "", Stage::Nothing}, o.comment);
}

namespace describing
{
inline constexpr KindSpecs<30> quantityKinds{{{"number", "plain number"},
                                              {"length", "length"},
                                              {"area", "area"},
                                              {"angle", "angle"},
                                              {"temperature", "temperature"},
                                              {"temperatureDifference", "temperature difference"},
                                              {"power", "power"},
                                              {"heatFlux", "heat flux"},
                                              {"heatDensity", "volumetric heat source"},
                                              {"conductivity", "conductivity"},
                                              {"density", "density"},
                                              {"specificHeat", "specific heat"},
                                              {"areaConductance", "area conductance"},
                                              {"areaResistance", "area resistance"},
                                              {"resistance", "resistance"},
                                              {"speed", "speed"},
                                              {"pressure", "pressure"},
                                              {"time", "time"},
                                              {"volume", "volume"},
                                              {"mass", "mass"},
                                              {"massFlow", "mass flow"},
                                              {"heatCapacity", "heat capacity"},
                                              {"conductance", "conductance"},
                                              {"latentHeat", "latent heat"},
                                              {"temperatureRate", "temperature rate"},
                                              {"energy", "energy"},
                                              {"voltage", "voltage"},
                                              {"current", "current"},
                                              {"electricConductivity", "electric conductivity"},
                                              {"electricAreaResistance", "electric area resistance"}}};
inline constexpr KindSpecs<2> betweenKinds{{{"lines", "joined by lines"}, {"steps", "holds until the next"}}};
inline constexpr KindSpecs<4> beyondKinds{
    {{"holds", "the last value holds"}, {"zero", "zero"}, {"repeats", "it repeats"}, {"refused", "a run is refused"}}};
} // namespace describing

/// A value measured at a place.
struct PlacedPoint {
  std::array<double, 3> place{}; ///< m
  double value = 0;              ///< SI
  bool operator==(const PlacedPoint&) const = default;
};

/// A value against time. Its points lie at increasing times, s after the start of the run.
struct Schedule {
  enum class Between { Lines, Steps };
  enum class Beyond { Holds, Zero, Repeats, Refused };
  std::vector<TablePoint> points; ///< s, SI of the parameter's quantity
  Between between = Between::Lines;
  Beyond beyond = Beyond::Holds;
  std::optional<Number> shift; // s later
  std::optional<Number> scale; // times
  std::string from;            ///< the file the points were read from
  UnknownKeys unknown;
  bool operator==(const Schedule&) const = default;
};
template <class A>
void describe(A& a, Schedule& s)
{
  a.schedule({"points", "Points", "Time in s and value, times increasing."}, s.points);
  a.choice({"between", "Between points", ""}, s.between, describing::betweenKinds);
  a.choice({"beyond", "Beyond the last point", ""}, s.beyond, describing::beyondKinds);
  a.optionalNumber({"shift", "Later by", "Moves all points in time.", Quantity::Time, Usually{"0 s"}}, s.shift);
  a.optionalNumber({"scale", "Times", "Multiplies all values.", Quantity::Plain, Usually{"1"}}, s.scale);
  a.optionalText({"from", "Read from", "The file its points come from.", Stage::Nothing}, s.from);
  a.unknown(s.unknown);
}

/// Which number of a watch counts.
enum class AskedFigure { AtEnd, Peak, Trough, TimeToLimit };
namespace describing
{
inline constexpr KindSpecs<4> askedFigures{{{"end", "at the end", "Or in the steady state."},
                                            {"peak", "highest of the run"},
                                            {"trough", "lowest of the run"},
                                            {"time", "time to its limit", "Until it is first met."}}};
} // namespace describing

/// A figure of another case, once that is solved.
struct TakenFigure {
  std::string ofCase, watch; ///< ids
  AskedFigure figure = AskedFigure::AtEnd;
  UnknownKeys unknown;
  bool operator==(const TakenFigure&) const = default;
};
template <class A>
void describe(A& a, TakenFigure& t)
{
  a.reference({"case", "Of case", "The one that is solved first.", Refers::Case, Need::Whole}, t.ofCase);
  a.reference({"watch", "Figure", "The watch whose figure it is.", Refers::Watch, Need::Whole}, t.watch);
  a.choice({"figure", "Which counts", ""}, t.figure, describing::askedFigures);
  a.unknown(t.unknown);
}

/// A named value, used by its name in the formulas of any field.
struct Parameter : Object {
  Quantity quantity = Quantity::Plain;
  Number value;
  std::optional<Number> low, high;  ///< ends of its slider
  std::vector<PlacedPoint> points;  ///< where there are any, it varies in place and its value is their mean
  std::string pointsFrom;           ///< the file they were read from
  std::optional<Schedule> schedule; ///< where there is one, it varies in time and its value is the first
  std::optional<TakenFigure> taken; ///< what its value was taken from, and will be again
  bool operator==(const Parameter&) const = default;
};
template <class A>
void describe(A& a, Parameter& p)
{
  describeObject(a, p, Stage::AsUsed); // formulas go by it
  a.choice({"quantity", "Quantity", "What kind of number it is."}, p.quantity, describing::quantityKinds);
  a.number({"value", "Value", "", p.quantity}, p.value);
  a.optionalNumber({"low", "Slider from", "", p.quantity, Stage::Nothing}, p.low);
  a.optionalNumber({"high", "Slider to", "", p.quantity, Stage::Nothing}, p.high);
  a.points({"points", "Points", "x, y, z in m and the value in SI: it varies in place, its value is their mean."},
           p.points);
  a.optionalText({"pointsFrom", "Points read from", "The file its points come from.", Stage::Nothing}, p.pointsFrom);
  a.nested({"schedule", "Schedule", "It varies in time, its value is the first."}, p.schedule);
  a.nested(
      {"taken", "Taken from", "Its value is a figure of another case, taken whenever that is solved.", Stage::Nothing},
      p.taken);
  a.unknown(p.unknown);
}

} // namespace kiln
