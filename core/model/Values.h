// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "model/Shape.h"
#include "units/Quantity.h"

#include <array>
#include <optional>
#include <string>
#include <vector>

namespace kiln
{

/// What every named object has. The id never changes and is what others refer to; the name is free.
struct Object {
  std::string id;
  std::string name;
  std::string comment;
  UnknownKeys unknown;
  bool operator==(const Object&) const = default;
};

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

/// A named value, used by its name in the formulas of any field.
struct Parameter : Object {
  Quantity quantity = Quantity::Plain;
  Number value;
  std::optional<Number> low, high;  ///< ends of its slider
  std::vector<PlacedPoint> points;  ///< where there are any, it varies in place and its value is their mean
  std::string pointsFrom;           ///< the file they were read from
  std::optional<Schedule> schedule; ///< where there is one, it varies in time and its value is the first
  bool operator==(const Parameter&) const = default;
};

} // namespace kiln
