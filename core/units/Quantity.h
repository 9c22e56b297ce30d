// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "base/Failure.h"

#include <optional>
#include <string>
#include <string_view>

namespace kiln
{

/// The kinds of number a project holds. A field has exactly one kind; values are kept in SI.
enum class Quantity {
  Plain,                  ///< a pure number (emissivity, count)
  Length,                 ///< m
  Area,                   ///< m²
  Angle,                  ///< rad
  Temperature,            ///< K, a level
  TemperatureStep,        ///< K, an interval (margin, band): converts without offset
  Power,                  ///< W
  HeatFlux,               ///< W/m²
  HeatDensity,            ///< W/m³
  Conductivity,           ///< W/(m·K)
  Density,                ///< kg/m³
  SpecificHeat,           ///< J/(kg·K)
  AreaConductance,        ///< W/(m²·K), also a convection coefficient
  AreaResistance,         ///< m²·K/W
  Resistance,             ///< K/W
  Speed,                  ///< m/s
  Pressure,               ///< Pa
  Time,                   ///< s
  Volume,                 ///< m³
  Mass,                   ///< kg
  MassFlow,               ///< kg/s
  HeatCapacity,           ///< J/K
  Conductance,            ///< W/K
  LatentHeat,             ///< J/kg
  TemperatureRate,        ///< K/s: converts without offset
  Energy,                 ///< J
  Voltage,                ///< V
  Current,                ///< A
  ElectricConductivity,   ///< S/m
  ElectricAreaResistance, ///< Ω·m²
  PowerPerLength,         ///< W/m, heat of a section without a depth
  LengthResistance,       ///< m·K/W, a resistance of such a section
  TemperatureGradient,    ///< K/m: converts without offset
};

/// Preferred unit for showing temperatures; everything else has one display unit.
enum class TemperatureUnit { Celsius, Kelvin, Fahrenheit };

/// A converted number and the way it reads back in words.
struct ParsedQuantity {
  double si = 0;
  std::string readBack; ///< e.g. "1.3 kW = 1300 W"
};

/// English name with article: "a power", "an area conductance".
[[nodiscard]] std::string_view quantityName(Quantity quantity);

/// Symbol of the unit a bare number is taken in, and that figures are shown in.
[[nodiscard]] std::string displayUnit(Quantity quantity, TemperatureUnit unit = TemperatureUnit::Celsius);

/// Spelling of the SI unit in files: "W/m2", "K"; "1" for a pure number.
[[nodiscard]] std::string_view siUnit(Quantity quantity);

/// Powers of metre, kilogram, second, kelvin and ampere.
struct Dimension {
  int length = 0, mass = 0, time = 0, temperature = 0, current = 0;
  bool operator==(const Dimension&) const = default;
};
[[nodiscard]] Dimension dimensionOf(Quantity quantity);

/// The first quantity this unit is right for; nothing when it is right for none.
[[nodiscard]] std::optional<Quantity> quantityOfUnit(std::string_view unit);

/// The first quantity of this dimension, as words with article; empty when there is none.
[[nodiscard]] std::string_view nameOfDimension(const Dimension& dimension);

/// Reads "1.6 mm", "1490 K", "95 degF", "1.3 kW", or a bare number in the display unit.
/// A TemperatureStep converts as an interval (1.8 degF is 1 K), a Temperature as a level.
/// Fails with a sentence on: nothing, not a number, not finite, unknown unit, unit of another kind,
/// a level below absolute zero.
[[nodiscard]] Expected<ParsedQuantity> parseQuantity(std::string_view text, Quantity quantity,
                                                     TemperatureUnit unit = TemperatureUnit::Celsius);

/// SI value to the number shown in the display unit.
[[nodiscard]] double toDisplay(double si, Quantity quantity, TemperatureUnit unit = TemperatureUnit::Celsius);

/// Inverse of toDisplay.
[[nodiscard]] double fromDisplay(double shown, Quantity quantity, TemperatureUnit unit = TemperatureUnit::Celsius);

/// A figure with its unit for reading: "104.2 °C", "1.52 kW", "0.31 W/(m·K)", "−0.6 kW".
/// Powers and lengths choose a prefix. \p digits are significant digits (temperatures: one decimal).
[[nodiscard]] std::string formatQuantity(double si, Quantity quantity, TemperatureUnit unit = TemperatureUnit::Celsius,
                                         int digits = 4);

/// The number alone, shortest text that reads back to the same value.
[[nodiscard]] std::string plainNumber(double value);

} // namespace kiln
