// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include <string>
#include <utility>
#include <vector>

namespace kiln
{

/// A value in SI together with what the user typed for it ("1.3 kW"); the text may be empty.
struct Number {
  double si = 0;
  std::string text;
  bool formula = false; ///< the text is an expression of parameters; si is its present value

  bool operator==(const Number&) const = default;
};

/// Three numbers that belong together: a place, a direction or a set of rotations.
struct Number3 {
  Number x, y, z;

  bool operator==(const Number3&) const = default;
};

struct TablePoint {
  Number at, value; ///< temperature K, value SI
  bool operator==(const TablePoint&) const = default;
};

/// A number or, when the table is not empty, a table against temperature: joined by lines, held beyond its ends.
/// With a table, si is the value of its first point.
struct Property : Number {
  std::vector<TablePoint> table; ///< temperatures increasing

  Property() = default;
  Property(Number number, std::vector<TablePoint> points = {}) : Number(std::move(number)), table(std::move(points)) {}
  Property(double value, std::string words) : Number{value, std::move(words)} {}
  bool operator==(const Property&) const = default;
};

/// Value and slope (per kelvin) of a property at a temperature in K.
struct PropertyValue {
  double value = 0, slope = 0;
};
[[nodiscard]] PropertyValue valueAt(const Property& property, double temperature);

} // namespace kiln
