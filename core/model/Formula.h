// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "base/Failure.h"
#include "base/Vec3.h"
#include "model/Project.h"

#include <functional>
#include <map>
#include <memory>
#include <span>
#include <string>
#include <vector>

/// Formulas of parameters. A formula is made of numbers with units ("5 mm", "12 [W/(m²·K)]"), parameters and constants
/// by name, + − * / ^ ( ), and the usual functions. Units are checked by evaluating it in scaled units: a sound formula
/// scales like the field it stands in, whatever functions it uses.
namespace kiln
{

/// A constant every formula knows.
struct NamedConstant {
  std::string_view name, meaning;
  double value; ///< SI
  std::string_view unit;
};
[[nodiscard]] const std::vector<NamedConstant>& namedConstants();

/// A value that a formula is given by name, besides parameters.
struct NamedQuantity {
  std::string name;
  Quantity quantity = Quantity::Plain;
};
/// A value of a formula, SI, of the values it is given, SI in their order.
using GivenFunction = std::function<double(std::span<const double>)>;

/// A value of a formula at a place, m.
using PlaceFunction = std::function<double(const Vec3&)>;

/// Knows the parameters of a project; evaluates formulas.
class Formulas
{
public:
  explicit Formulas(const Project& project);
  ~Formulas();
  Formulas(const Formulas&) = delete;
  Formulas& operator=(const Formulas&) = delete;

  /// Value in SI. With \p varies, x, y and z may be used; the value is then the one at the origin.
  /// Fails on: unknown names (with the nearest), a ring of parameters, units that do not fit, no finite value.
  [[nodiscard]] Expected<double> evaluate(const std::string& text, Quantity quantity, bool varies = false) const;

  /// The formula as a function of the place.
  [[nodiscard]] Expected<PlaceFunction> atPlaces(const std::string& text, Quantity quantity) const;

  /// The formula as a function of values it is given; their names hide those of parameters.
  [[nodiscard]] Expected<GivenFunction> ofGiven(const std::string& text, const std::vector<NamedQuantity>& given,
                                                Quantity quantity) const;

private:
  class Evaluator;
  std::unique_ptr<Evaluator> evaluator_;
};

/// What was typed into a field, understood: a number with a unit, or a formula.
struct Entry {
  Number number;
  std::string readBack; ///< "2*wall = 116 mm"
};
[[nodiscard]] Expected<Entry> readEntry(const Project& project, const std::string& typed, Quantity quantity,
                                        TemperatureUnit unit = TemperatureUnit::Celsius, bool varies = false);

/// Does the value of this formula depend on the place: does it use x, y, z or a parameter with points?
[[nodiscard]] bool variesInPlace(const Project& project, const Number& number);

/// Names used in a formula, functions left out.
[[nodiscard]] std::vector<std::string> namesIn(const std::string& formula);

/// The formula with one name replaced by another.
[[nodiscard]] std::string withRenamed(const std::string& formula, const std::string& from, const std::string& to);

} // namespace kiln
