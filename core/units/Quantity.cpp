// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "units/Quantity.h"

#include "units/DecimalSign.h"
#include "units/UnitSet.h"
#include "units/UnitSystem.h"

#include <array>
#include <atomic>
#include <charconv>
#include <cmath>
#include <cstdio>

namespace kiln
{
namespace
{

struct QuantityInfo {
  Quantity quantity;
  std::string_view name;
  std::string_view siUnit;  // spelling understood by UDUNITS
  std::string_view symbol;  // shown
  double perSi;             // shown = si * perSi (temperatures are special)
  std::string_view example; // a correct entry
  Dimension dimension{};
};

constexpr double degreesPerRadian = 180.0 / 3.14159265358979323846;

constexpr std::array infos{
    QuantityInfo{Quantity::Plain, "a pure number", "1", "", 1, "0.85", {}},
    QuantityInfo{Quantity::Length, "a length", "m", "mm", 1e3, "25 mm", {1, 0, 0, 0}},
    QuantityInfo{Quantity::Area, "an area", "m2", "m²", 1, "0.2 m²", {2, 0, 0, 0}},
    QuantityInfo{Quantity::Angle, "an angle", "rad", "°", degreesPerRadian, "30 deg", {}},
    QuantityInfo{Quantity::Temperature, "a temperature", "K", "°C", 1, "25 °C", {0, 0, 0, 1}},
    QuantityInfo{Quantity::TemperatureStep, "a temperature difference", "K", "K", 1, "5 K", {0, 0, 0, 1}},
    QuantityInfo{Quantity::Power, "a power", "W", "W", 1, "1.3 kW", {2, 1, -3, 0}},
    QuantityInfo{Quantity::HeatFlux, "a heat flux", "W/m2", "W/m²", 1, "500 W/m²", {0, 1, -3, 0}},
    QuantityInfo{Quantity::HeatDensity, "a volumetric heat source", "W/m3", "W/m³", 1, "20000 W/m³", {-1, 1, -3, 0}},
    QuantityInfo{
        Quantity::Conductivity, "a thermal conductivity", "W/m/K", "W/(m·K)", 1, "0.5 W/(m·K)", {1, 1, -3, -1}},
    QuantityInfo{Quantity::Density, "a density", "kg/m3", "kg/m³", 1, "7850 kg/m³", {-3, 1, 0, 0}},
    QuantityInfo{Quantity::SpecificHeat, "a specific heat", "J/kg/K", "J/(kg·K)", 1, "900 J/(kg·K)", {2, 0, -2, -1}},
    QuantityInfo{
        Quantity::AreaConductance, "an area conductance", "W/m2/K", "W/(m²·K)", 1, "10 W/(m²·K)", {0, 1, -3, -1}},
    QuantityInfo{Quantity::AreaResistance, "an area resistance", "m2 K/W", "m²·K/W", 1, "0.002 m²·K/W", {0, -1, 3, 1}},
    QuantityInfo{Quantity::Resistance, "a thermal resistance", "K/W", "K/W", 1, "0.5 K/W", {-2, -1, 3, 1}},
    QuantityInfo{Quantity::Speed, "a speed", "m/s", "m/s", 1, "2 m/s", {1, 0, -1, 0}},
    QuantityInfo{Quantity::Pressure, "a pressure", "Pa", "kPa", 1e-3, "101.3 kPa", {-1, 1, -2, 0}},
    QuantityInfo{Quantity::Time, "a time", "s", "s", 1, "3 h", {0, 0, 1, 0}},
    QuantityInfo{Quantity::Volume, "a volume", "m3", "m³", 1, "0.002 m³", {3, 0, 0, 0}},
    QuantityInfo{Quantity::Mass, "a mass", "kg", "kg", 1, "0.3 kg", {0, 1, 0, 0}},
    QuantityInfo{Quantity::MassFlow, "a mass flow", "kg/s", "kg/s", 1, "0.02 kg/s", {0, 1, -1, 0}},
    QuantityInfo{Quantity::HeatCapacity, "a heat capacity", "J/K", "J/K", 1, "120 J/K", {2, 1, -2, -1}},
    QuantityInfo{Quantity::Conductance, "a thermal conductance", "W/K", "W/K", 1, "0.5 W/K", {2, 1, -3, -1}},
    QuantityInfo{Quantity::LatentHeat, "a latent heat", "J/kg", "kJ/kg", 1e-3, "210 kJ/kg", {2, 0, -2, 0}},
    QuantityInfo{Quantity::TemperatureRate, "a rate of temperature", "K/s", "K/min", 60, "2 K/min", {0, 0, -1, 1}},
    QuantityInfo{Quantity::Energy, "an energy", "J", "kWh", 1 / 3.6e6, "1.5 kWh", {2, 1, -2, 0}},
    QuantityInfo{Quantity::Voltage, "a voltage", "V", "V", 1, "12 V", {2, 1, -3, 0, -1}},
    QuantityInfo{Quantity::Current, "a current", "A", "A", 1, "6 A", {0, 0, 0, 0, 1}},
    QuantityInfo{
        Quantity::ElectricConductivity, "an electric conductivity", "S/m", "S/m", 1, "1e6 S/m", {-3, -1, 3, 0, 2}},
    QuantityInfo{Quantity::ElectricAreaResistance,
                 "an electric resistance of an area",
                 "ohm m2",
                 "Ω·m²",
                 1,
                 "1e-8 Ω·m²",
                 {4, 1, -3, 0, -2}},
    QuantityInfo{Quantity::PowerPerLength, "a power per length", "W/m", "W/m", 1, "40 W/m", {1, 1, -3, 0}},
    QuantityInfo{Quantity::LengthResistance,
                 "a thermal resistance of a metre",
                 "m.K/W",
                 "m·K/W",
                 1,
                 "0.2 m·K/W",
                 {-1, -1, 3, 1}},
    QuantityInfo{Quantity::TemperatureGradient, "a temperature gradient", "K/m", "K/m", 1, "200 K/m", {-1, 0, 0, 1}},
};

const QuantityInfo& info(Quantity quantity) { return infos[static_cast<std::size_t>(quantity)]; }

/// How a quantity is shown.
struct Shown {
  std::string_view symbol;
  double perSi;
};

std::atomic<UnitSet> chosenSet{UnitSet::Prefixed};
std::atomic<bool> commaChosen = false;

constexpr double foot = 0.3048, pound = 0.45359237, btu = 1055.05585262; // m, kg, J (international table)
constexpr double btuPerHour = btu / 3600, fahrenheit = 1 / 1.8;          // W, K

/// What is shown in other units than those of SI; the rest is as it is.
std::optional<Shown> inInchPound(Quantity quantity)
{
  constexpr double squareFoot = foot * foot;
  constexpr double cubicFoot = squareFoot * foot;
  switch (quantity) {
  case Quantity::Length:
    return Shown{"in", 12 / foot};
  case Quantity::Area:
    return Shown{"ft²", 1 / squareFoot};
  case Quantity::Volume:
    return Shown{"ft³", 1 / cubicFoot};
  case Quantity::Power:
    return Shown{"Btu/h", 1 / btuPerHour};
  case Quantity::PowerPerLength:
    return Shown{"Btu/(h·ft)", foot / btuPerHour};
  case Quantity::HeatFlux:
    return Shown{"Btu/(h·ft²)", squareFoot / btuPerHour};
  case Quantity::HeatDensity:
    return Shown{"Btu/(h·ft³)", cubicFoot / btuPerHour};
  case Quantity::Conductivity:
    return Shown{"Btu/(h·ft·°F)", foot * fahrenheit / btuPerHour};
  case Quantity::AreaConductance:
    return Shown{"Btu/(h·ft²·°F)", squareFoot * fahrenheit / btuPerHour};
  case Quantity::AreaResistance:
    return Shown{"h·ft²·°F/Btu", btuPerHour / (squareFoot * fahrenheit)};
  case Quantity::Resistance:
    return Shown{"h·°F/Btu", btuPerHour / fahrenheit};
  case Quantity::Conductance:
    return Shown{"Btu/(h·°F)", fahrenheit / btuPerHour};
  case Quantity::HeatCapacity:
    return Shown{"Btu/°F", fahrenheit / btu};
  case Quantity::SpecificHeat:
    return Shown{"Btu/(lb·°F)", pound * fahrenheit / btu};
  case Quantity::LatentHeat:
    return Shown{"Btu/lb", pound / btu};
  case Quantity::Energy:
    return Shown{"Btu", 1 / btu};
  case Quantity::Density:
    return Shown{"lb/ft³", cubicFoot / pound};
  case Quantity::Mass:
    return Shown{"lb", 1 / pound};
  case Quantity::MassFlow:
    return Shown{"lb/s", 1 / pound};
  case Quantity::Speed:
    return Shown{"ft/s", 1 / foot};
  case Quantity::Pressure:
    return Shown{"psi", 1 / 6894.757293168361};
  default:
    return std::nullopt;
  }
}

/// Units of SI without prefixes, where the usual one has one.
std::optional<Shown> inPlain(Quantity quantity)
{
  switch (quantity) {
  case Quantity::Length:
    return Shown{"m", 1};
  case Quantity::Pressure:
    return Shown{"Pa", 1};
  case Quantity::LatentHeat:
    return Shown{"J/kg", 1};
  case Quantity::TemperatureRate:
    return Shown{"K/s", 1};
  case Quantity::Energy:
    return Shown{"J", 1};
  default:
    return std::nullopt;
  }
}

Shown shownAs(Quantity quantity)
{
  const UnitSet set = unitSet();
  std::optional<Shown> own;
  if (set != UnitSet::Prefixed)
    own = set == UnitSet::Plain ? inPlain(quantity) : inInchPound(quantity);
  return own.value_or(Shown{info(quantity).symbol, info(quantity).perSi});
}

constexpr double zeroCelsius = 273.15; // K

std::string_view trimmed(std::string_view text)
{
  const auto first = text.find_first_not_of(" \t\n");
  if (first == std::string_view::npos)
    return {};
  return text.substr(first, text.find_last_not_of(" \t\n") - first + 1);
}

tl::unexpected<Failure> refused(std::string_view text, std::string problem, Quantity quantity)
{
  return failure(Failure::Kind::NotReady, "", "“" + std::string(text) + "” " + std::move(problem),
                 "Enter " + std::string(quantityName(quantity)) + " such as " + std::string(info(quantity).example) +
                     ".");
}

/// Which other kind of number this unit would be right for; empty if none.
std::string_view kindOfUnit(const std::string& unit)
{
  for (const QuantityInfo& candidate : infos)
    if (units::convertible(unit, std::string(candidate.siUnit)))
      return candidate.name;
  return {};
}

/// In a temperature field "C" and "F" mean degrees, not coulomb and farad; a pure number takes only "%".
std::string unitInContext(std::string_view typed, Quantity quantity)
{
  const bool temperature = quantity == Quantity::Temperature || quantity == Quantity::TemperatureStep;
  if (temperature && typed == "C")
    return "degC";
  if (temperature && typed == "F")
    return "degF";
  if (quantity == Quantity::Plain && typed != "%")
    return "m." + units::spelledForLibrary(typed); // never a pure number
  return units::spelledForLibrary(typed);
}

/// Value in SI when \p unit is of the right kind.
std::optional<double> convert(double number, const std::string& unit, Quantity quantity)
{
  const std::string si(info(quantity).siUnit);
  if (quantity != Quantity::TemperatureStep)
    return units::convert(number, unit, si);
  const auto level = units::convert(number, unit, si);
  const auto zero = units::convert(0, unit, si);
  return level && zero ? std::optional(*level - *zero) : std::nullopt;
}

std::string significant(double value, int digits)
{
  std::array<char, 40> buffer{};
  std::snprintf(buffer.data(), buffer.size(), "%.*g", digits, value);
  std::string text(buffer.data());
  if (text.find('e') != std::string::npos && std::abs(value) >= 1 && std::abs(value) < 1e7) {
    std::snprintf(buffer.data(), buffer.size(), "%.0f", value);
    text = buffer.data();
  }
  return text;
}

std::string withTrueMinus(std::string text)
{
  if (!text.empty() && text.front() == '-')
    text.replace(0, 1, "−");
  return text;
}

/// "100000" → "100 000": long numbers are read in groups of three.
std::string grouped(std::string number)
{
  const auto whole = std::min(number.find_first_of(".e"), number.size());
  const std::size_t sign = number.starts_with("−") ? std::string_view("−").size() : 0;
  constexpr std::size_t shortest = 5;
  if (whole - sign < shortest)
    return number;
  for (std::size_t at = whole; at > sign + 3; at -= 3)
    number.insert(at - 3, " ");
  return number;
}

/// The value in the display unit itself, so that a prefix is spelled out.
std::string readBack(std::string_view typed, double si, Quantity quantity, TemperatureUnit unit)
{
  constexpr int digits = 7;
  if (quantity == Quantity::Temperature)
    return std::string(typed) + " = " + formatQuantity(si, quantity, unit);
  const std::string number = grouped(withTrueMinus(significant(toDisplay(si, quantity, unit), digits)));
  return std::string(typed) + " = " + number +
         (displayUnit(quantity, unit).empty() ? "" : " " + displayUnit(quantity, unit));
}

/// "3 h 20 min", "4 min 10 s", "12.5 s"
std::string durationText(double seconds)
{
  constexpr double minute = 60;
  constexpr double hour = 3600;
  const double size = std::abs(seconds);
  const std::string sign = seconds < 0 ? "−" : "";
  constexpr double year = 365.25 * 24 * hour;
  constexpr double many = 100; // years: hours to the minute say nothing any more
  if (size < minute || !std::isfinite(seconds))
    return withTrueMinus(significant(seconds, 3)) + " s";
  if (size >= many * year)
    return withTrueMinus(significant(seconds / year, 3)) + " years";
  const auto inTwo = [&](double whole, double part, const char* wholeName, const char* partName) {
    const auto parts = std::llround(size / part);
    const auto each = std::llround(whole / part);
    const std::string rest = parts % each == 0 ? "" : " " + std::to_string(parts % each) + partName;
    return sign + std::to_string(parts / each) + wholeName + rest;
  };
  return size < hour ? inTwo(minute, 1, " min", " s") : inTwo(hour, minute, " h", " min");
}

} // namespace

void setUnitSet(UnitSet set) { chosenSet = set; }

UnitSet unitSet() { return chosenSet; }

void setDecimalComma(bool comma) { commaChosen = comma; }

bool decimalComma() { return commaChosen; }

namespace
{

/// "1,5 kW" with a point; a number that has one already stays as it is.
void putPoint(std::string& text)
{
  const std::size_t comma = text.find_first_not_of("+-0123456789");
  if (comma != std::string::npos && text[comma] == ',' && comma + 1 < text.size() &&
      std::isdigit(static_cast<unsigned char>(text[comma + 1])) != 0)
    text[comma] = '.';
}

} // namespace

std::string_view siUnit(Quantity quantity) { return info(quantity).siUnit; }

Dimension dimensionOf(Quantity quantity) { return info(quantity).dimension; }

std::optional<Quantity> quantityOfUnit(std::string_view unit)
{
  for (const QuantityInfo& candidate : infos)
    if (candidate.quantity != Quantity::Plain &&
        convert(1, unitInContext(unit, candidate.quantity), candidate.quantity))
      return candidate.quantity;
  return std::nullopt;
}

std::string_view nameOfDimension(const Dimension& dimension)
{
  for (const QuantityInfo& candidate : infos)
    if (candidate.dimension == dimension)
      return candidate.name;
  return {};
}

std::string_view quantityName(Quantity quantity) { return info(quantity).name; }

std::string displayUnit(Quantity quantity, TemperatureUnit unit)
{
  if (quantity == Quantity::Temperature)
    return unit == TemperatureUnit::Celsius ? "°C" : unit == TemperatureUnit::Kelvin ? "K" : "°F";
  if (quantity == Quantity::TemperatureStep && unit == TemperatureUnit::Fahrenheit)
    return "°F";
  return std::string(shownAs(quantity).symbol);
}

double toDisplay(double si, Quantity quantity, TemperatureUnit unit)
{
  if (quantity == Quantity::Temperature) {
    if (unit == TemperatureUnit::Kelvin)
      return si;
    return unit == TemperatureUnit::Celsius ? si - zeroCelsius : (si - zeroCelsius) * 1.8 + 32;
  }
  if (quantity == Quantity::TemperatureStep && unit == TemperatureUnit::Fahrenheit)
    return si * 1.8;
  return si * shownAs(quantity).perSi;
}

double fromDisplay(double shown, Quantity quantity, TemperatureUnit unit)
{
  if (quantity == Quantity::Temperature) {
    if (unit == TemperatureUnit::Kelvin)
      return shown;
    return unit == TemperatureUnit::Celsius ? shown + zeroCelsius : (shown - 32) / 1.8 + zeroCelsius;
  }
  if (quantity == Quantity::TemperatureStep && unit == TemperatureUnit::Fahrenheit)
    return shown / 1.8;
  return shown / shownAs(quantity).perSi;
}

Expected<ParsedQuantity> parseQuantity(std::string_view typed, Quantity quantity, TemperatureUnit unit)
{
  std::string text(trimmed(typed));
  if (text.empty())
    return refused(typed, "holds no number.", quantity);
  if (text.starts_with("−"))
    text.replace(0, std::string_view("−").size(), "-");
  if (commaChosen)
    putPoint(text);
  const char* begin = text.data() + (text.front() == '+' ? 1 : 0);
  const char* end = text.data() + text.size();
  double number = 0;
  const auto [after, error] = std::from_chars(begin, end, number);
  if (error == std::errc::result_out_of_range)
    return refused(typed, "is too large or too small for a number.", quantity);
  if (error != std::errc{})
    return refused(typed, "does not start with a number.", quantity);
  if (!std::isfinite(number))
    return refused(typed, "is not a finite number.", quantity);
  const std::string_view rest = trimmed(std::string_view(after, static_cast<std::size_t>(end - after)));
  if (!rest.empty() && rest.front() == ',')
    return refused(typed, "has a comma in the number; write the decimal sign as a point.", quantity);

  double si = 0;
  if (rest.empty()) {
    si = fromDisplay(number, quantity, unit);
  } else {
    const std::string spelled = unitInContext(rest, quantity);
    const auto converted = convert(number, spelled, quantity);
    if (!converted) {
      const std::string_view kind = kindOfUnit(units::spelledForLibrary(rest));
      if (kind.empty())
        return refused(typed, "has a unit that is not known (" + std::string(rest) + ").", quantity);
      return refused(typed,
                     "is " + std::string(kind) + ", but this field takes " + std::string(quantityName(quantity)) + ".",
                     quantity);
    }
    si = *converted;
  }
  if (quantity == Quantity::Temperature && si < 0)
    return refused(typed, "is below absolute zero.", quantity);
  return ParsedQuantity{si, readBack(trimmed(typed), si, quantity, unit)};
}

std::string plainNumber(double value)
{
  std::array<char, 40> buffer{};
  const auto [end, error] = std::to_chars(buffer.data(), buffer.data() + buffer.size(), value);
  return error == std::errc{} ? std::string(buffer.data(), end) : std::string("?");
}

std::string formatQuantity(double si, Quantity quantity, TemperatureUnit unit, int digits)
{
  if (!std::isfinite(si))
    return "–";
  if (quantity == Quantity::Temperature) {
    std::array<char, 40> buffer{};
    const double shown = toDisplay(si, quantity, unit);
    std::snprintf(buffer.data(), buffer.size(), "%.1f", std::abs(shown) < 0.05 ? 0.0 : shown);
    return withTrueMinus(buffer.data()) + " " + displayUnit(quantity, unit);
  }
  double shown = toDisplay(si, quantity, unit);
  std::string symbol = displayUnit(quantity, unit);
  if (quantity == Quantity::Time && unitSet() != UnitSet::Plain)
    return durationText(si);
  if (unitSet() != UnitSet::Prefixed) {
    // as they are
  } else if (quantity == Quantity::Power || quantity == Quantity::PowerPerLength) {
    const double size = std::abs(si);
    if (size >= 999.95) {
      shown = si / 1e3;
      symbol.insert(0, "k");
    } else if (size > 0 && size < 0.1 && size >= 1e-9) {
      shown = si * 1e3;
      symbol.insert(0, "m");
    } else if (size < 1e-9) {
      shown = 0;
    }
  } else if (quantity == Quantity::HeatFlux && std::abs(si) >= 9999.5) {
    shown = si / 1e3;
    symbol.insert(0, "k");
  } else if (quantity == Quantity::Length && std::abs(si) >= 1) {
    shown = si;
    symbol = "m";
  }
  const std::string number = withTrueMinus(significant(shown, digits));
  return symbol.empty() ? number : symbol == "°" ? number + symbol : number + " " + symbol;
}

} // namespace kiln
