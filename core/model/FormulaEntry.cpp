// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
//
// What is typed for a number: one with its unit, arithmetic, or a formula.
#include "model/Formula.h"
#include "model/FormulaScanner.h"

#include <algorithm>

namespace kiln
{
namespace
{

/// Is this more than a number with a unit: does it name something or calculate?
bool calculates(const std::vector<FormulaToken>& tokens)
{
  const auto operates = [](const FormulaToken& token) {
    return token.kind == FormulaToken::Kind::Function ||
           (token.kind == FormulaToken::Kind::Other && token.begin > 0 && token.text != ")" && token.text != ",");
  };
  return std::any_of(tokens.begin(), tokens.end(), operates);
}

bool isPureArithmetic(const std::vector<FormulaToken>& tokens)
{
  return std::none_of(tokens.begin(), tokens.end(), [](const FormulaToken& token) {
    return token.kind == FormulaToken::Kind::Name || (token.kind == FormulaToken::Kind::Number && !token.unit.empty());
  });
}

std::string readBackOf(const std::string& typed, double si, Quantity quantity, TemperatureUnit unit)
{
  constexpr int digits = 7;
  return typed + " = " + formatQuantity(si, quantity, unit, digits);
}

} // namespace

namespace
{

Entry entryOf(double si, const std::string& text, bool formula, const std::string& readBack)
{
  Entry entry;
  entry.number.si = si;
  entry.number.text = text;
  entry.number.formula = formula;
  entry.readBack = readBack;
  return entry;
}

/// "2*30" is meant in the unit shown.
Expected<Entry> readArithmetic(const Formulas& formulas, const std::string& typed, Quantity quantity,
                               TemperatureUnit unit)
{
  const auto shown = formulas.evaluate(typed, Quantity::Plain);
  if (!shown)
    return tl::unexpected(shown.error());
  const std::string symbol = displayUnit(quantity, unit);
  const double si = fromDisplay(*shown, quantity, unit);
  return entryOf(si, plainNumber(*shown) + (symbol.empty() ? "" : " ") + symbol, false,
                 readBackOf(typed, si, quantity, unit));
}

/// A number with a unit that is right for something else, "5 W/m2": no formula, unless a parameter is called so.
bool saysAnotherUnit(const Project& project, const std::string& typed)
{
  const std::size_t number = typed.find_first_not_of("+-.,0123456789eE \t");
  if (number == 0 || number == std::string::npos || !quantityOfUnit(std::string_view(typed).substr(number)))
    return false;
  const std::vector<std::string> names = namesIn(typed);
  return std::none_of(project.parameters.begin(), project.parameters.end(), [&](const Parameter& parameter) {
    return std::find(names.begin(), names.end(), parameter.name) != names.end();
  });
}

} // namespace

Expected<Entry> readEntry(const Project& project, const std::string& typed, Quantity quantity, TemperatureUnit unit,
                          bool varies)
{
  const auto parsed = parseQuantity(typed, quantity, unit);
  if (parsed)
    return entryOf(parsed->si, typed, false, parsed->readBack);
  if (saysAnotherUnit(project, typed))
    return tl::unexpected(parsed.error());
  const ScannedFormula scanner = scanFormula(typed);
  const bool scanned = scanner.understood();
  if (!scanned && !namesIn(typed).empty())
    return tl::unexpected(refusedFormula(typed, scanner.problem, "Correct the formula."));
  if (scanned && scanner.tokens.size() == 1 &&
      std::any_of(project.parameters.begin(), project.parameters.end(),
                  [&](const Parameter& parameter) { return parameter.name == scanner.tokens[0].unit; }))
    return tl::unexpected(refusedFormula(typed, "has a parameter right after a number",
                                         "Write * between them: " + plainNumber(scanner.tokens[0].number) + "*" +
                                             scanner.tokens[0].unit + "."));
  if (!scanned || scanner.tokens.empty() || (namesIn(typed).empty() && !calculates(scanner.tokens)))
    return tl::unexpected(parsed.error());
  const Formulas formulas(project);
  if (isPureArithmetic(scanner.tokens))
    return readArithmetic(formulas, typed, quantity, unit);
  const auto value = formulas.evaluate(typed, quantity, varies);
  if (!value) {
    const bool bareWord = scanner.tokens.size() == 1 && project.parameters.empty();
    return tl::unexpected(bareWord ? parsed.error() : value.error());
  }
  return entryOf(*value, typed, true, readBackOf(typed, *value, quantity, unit));
}

} // namespace kiln
