// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "model/Formula.h"

#include "base/NearestWord.h"
#include "model/FormulaScanner.h"
#include "model/PointCloud.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <deque>
#include <muParser.h>
#include <numbers>

namespace kiln
{
namespace
{

struct Variable {
  double value = 0;
  Dimension dimension;
};

/// A formula ready to be evaluated: muParser with its variables.
struct Compiled {
  mu::Parser parser;
  std::vector<std::pair<double*, std::shared_ptr<const PointCloud>>> clouds; // values that follow the place
  std::deque<double> values;                                                 // stable addresses
  std::vector<Variable> variables;
  std::array<double*, 3> place{nullptr, nullptr, nullptr}; // x, y, z where used
  std::map<std::string, std::size_t> given;                // of the variables, by name where used

  double run()
  {
    for (std::size_t i = 0; i < variables.size(); ++i)
      values[i] = variables[i].value;
    return parser.Eval();
  }
  /// Value when a unit of one base dimension is \p scale times smaller.
  double runScaled(int Dimension::*base, double scale)
  {
    for (std::size_t i = 0; i < variables.size(); ++i)
      values[i] = variables[i].value * std::pow(scale, variables[i].dimension.*base);
    return parser.Eval();
  }
};

constexpr std::array<int Dimension::*, 5> bases{&Dimension::length, &Dimension::mass, &Dimension::time,
                                                &Dimension::temperature, &Dimension::current};

/// What is wrong with the size of a formula; empty when it can be read.
std::string sizeProblem(const std::string& text)
{
  constexpr std::size_t longest = 2000; // characters
  constexpr int deepest = 50;           // brackets; the parser works through them on the stack
  if (text.size() > longest)
    return "is longer than " + std::to_string(longest) + " characters";
  int depth = 0;
  for (const char c : text) {
    depth += c == '(' ? 1 : c == ')' ? -1 : 0;
    if (depth > deepest)
      return "nests more than " + std::to_string(deepest) + " brackets";
  }
  return {};
}

/// Does the formula scale like the wanted quantity? If not, what it gives instead.
std::optional<Failure> dimensionProblem(Compiled& compiled, const std::string& text, Quantity quantity)
{
  constexpr double scale = 1.37; // any number that no formula has by chance
  const Dimension wanted = dimensionOf(quantity);
  const double value = compiled.run();
  if (!std::isfinite(value))
    return std::nullopt; // said by who asked
  Dimension given;
  bool sound = true;
  bool fits = true;
  for (const auto base : bases) {
    const double scaled = compiled.runScaled(base, scale);
    const double expected = value * std::pow(scale, wanted.*base);
    const double slack = 1e-9 * std::max(std::abs(scaled), std::abs(expected));
    fits = fits && std::abs(scaled - expected) <= slack;
    const double power = std::log(scaled / value) / std::log(scale);
    if (!std::isfinite(power) || std::abs(power - std::round(power)) > 1e-6)
      sound = false;
    else
      given.*base = static_cast<int>(std::lround(power));
  }
  if (fits)
    return std::nullopt;
  const std::string takes = "this field takes " + std::string(quantityName(quantity));
  if (!sound)
    return refusedFormula(text, "adds or compares things of different kinds",
                          "Give every number its unit, for example 2*wall + 5 mm; " + takes + ".");
  if (given == Dimension{})
    return refusedFormula(text, "gives a pure number, but " + takes, "Write a unit after a number, for example 5 mm.");
  const std::string_view name = nameOfDimension(given);
  return refusedFormula(
      text, "gives " + (name.empty() ? std::string("something else") : std::string(name)) + ", but " + takes,
      "Check the formula.");
}

} // namespace

const std::vector<NamedConstant>& namedConstants()
{
  static const std::vector<NamedConstant> constants{
      {"sigma", "Stefan–Boltzmann constant", 5.670374419e-8, "W/(m²·K⁴)"},
      {"σ", "Stefan–Boltzmann constant", 5.670374419e-8, "W/(m²·K⁴)"},
      {"g", "standard gravity", 9.80665, "m/s²"},
      {"p0", "standard pressure", 101325, "Pa"},
      {"pi", "π", std::numbers::pi, ""},
      {"π", "π", std::numbers::pi, ""},
  };
  return constants;
}

/// Evaluates parameters when they are first asked for.
class Formulas::Evaluator
{
public:
  explicit Evaluator(const Project& project)
  {
    constexpr std::array<Dimension, 6> dimensions{
        Dimension{0, 1, -3, -4}, {0, 1, -3, -4}, {1, 0, -2, 0}, {-1, 1, -2, 0}, {}, {}};
    for (std::size_t i = 0; i < dimensions.size(); ++i)
      known_[std::string(namedConstants()[i].name)] = {namedConstants()[i].value, dimensions[i]};
    for (const Parameter& parameter : project.parameters)
      parameters_[parameter.name] = &parameter;
  }

  Expected<void> compile(const std::string& text, bool varies, Compiled& compiled)
  {
    if (const std::string problem = sizeProblem(text); !problem.empty())
      return tl::unexpected(refusedFormula(text.substr(0, 40) + "…", problem, "Divide it among parameters."));
    const ScannedFormula scanner = scanFormula(text);
    if (!scanner.understood())
      return tl::unexpected(refusedFormula(text, scanner.problem, "Correct the formula."));
    std::string code;
    for (const FormulaToken& token : scanner.tokens) {
      Expected<std::string> piece = translate(text, token, varies, compiled);
      if (!piece)
        return tl::unexpected(piece.error());
      code += *piece;
      if (token.kind != FormulaToken::Kind::Function) // a call must not be torn from its bracket
        code += ' ';
    }
    try {
      compiled.parser.SetExpr(code);
      compiled.run();
    } catch (const mu::Parser::exception_type& error) {
      return tl::unexpected(
          refusedFormula(text, "is not a complete formula", "Look for a missing operator or bracket."));
    }
    return {};
  }

  /// Names that hide parameters from now on.
  void give(const std::vector<NamedQuantity>& given)
  {
    given_.clear();
    for (const NamedQuantity& one : given)
      given_[one.name] = one.quantity;
  }

private:
  Expected<std::string> translate(const std::string& text, const FormulaToken& token, bool varies, Compiled& compiled)
  {
    switch (token.kind) {
    case FormulaToken::Kind::Other:
      return token.text;
    case FormulaToken::Kind::Function:
      if (!formulaFunctions().contains(token.text)) {
        const std::string nearest = nearestWord(token.text, {formulaFunctions().begin(), formulaFunctions().end()});
        return tl::unexpected(refusedFormula(text, "uses “" + token.text + "(…)”, which is not a function",
                                             nearest.empty() ? "Write * between a value and a bracket."
                                                             : "Did you mean " + nearest + "?"));
      }
      return token.text;
    case FormulaToken::Kind::Number:
      return literal(text, token, compiled);
    case FormulaToken::Kind::Name:
      break;
    }
    if (varies && (token.text == "x" || token.text == "y" || token.text == "z") && !parameters_.contains(token.text)) {
      double*& at = compiled.place[static_cast<std::size_t>(token.text.front() - 'x')];
      if (at == nullptr) {
        add({0.0, {1, 0, 0, 0}}, compiled);
        at = &compiled.values.back();
      }
      return placeVariable(token.text.front(), compiled);
    }
    if (const auto own = given_.find(token.text); own != given_.end())
      return givenVariable(token.text, own->second, compiled);
    if (const auto own = parameters_.find(token.text); own != parameters_.end() && !own->second->points.empty()) {
      if (!varies)
        return tl::unexpected(
            refusedFormula(text, "uses “" + token.text + "”, which varies in place; this field cannot",
                           "Use it for a coefficient, an ambient, a heat flux, a volumetric heat source or a fixed "
                           "temperature of a surface."));
      std::string name = add({own->second->value.si, dimensionOf(own->second->quantity)}, compiled);
      compiled.clouds.emplace_back(&compiled.values.back(), cloudOf(*own->second));
      return name;
    }
    const Expected<Variable> found = valueOf(token.text);
    if (!found)
      return tl::unexpected(found.error());
    return add(*found, compiled);
  }
  /// One variable, however often it is used; with a value that has a scale, for checking units.
  static std::string givenVariable(const std::string& name, Quantity quantity, Compiled& compiled)
  {
    const auto [own, fresh] = compiled.given.try_emplace(name, compiled.variables.size());
    if (!fresh)
      return "v" + std::to_string(own->second);
    return add({1.31 + 0.27 * static_cast<double>(compiled.given.size()), dimensionOf(quantity)}, compiled);
  }
  /// x, y and z are one variable each, however often they are used.
  static std::string placeVariable(char name, Compiled& compiled)
  {
    const double* at = compiled.place[static_cast<std::size_t>(name - 'x')];
    for (std::size_t i = 0; i < compiled.values.size(); ++i)
      if (&compiled.values[i] == at)
        return "v" + std::to_string(i);
    return {};
  }
  static std::string add(const Variable& variable, Compiled& compiled)
  {
    const std::string name = "v" + std::to_string(compiled.variables.size());
    compiled.variables.push_back(variable);
    compiled.values.push_back(variable.value);
    compiled.parser.DefineVar(name, &compiled.values.back());
    return name;
  }
  static Expected<std::string> literal(const std::string& text, const FormulaToken& token, Compiled& compiled)
  {
    if (token.unit.empty())
      return "(" + plainNumber(token.number) + ")";
    if (token.unit == "%")
      return "(" + plainNumber(token.number / 100) + ")";
    const auto quantity = quantityOfUnit(token.unit);
    if (!quantity)
      return tl::unexpected(refusedFormula(text,
                                           "has “" + token.unit + "” after a number, which is not a unit known here",
                                           "Write * before a parameter, or a unit right after its number."));
    const auto value = parseQuantity(plainNumber(token.number) + " " + token.unit, *quantity);
    if (!value)
      return tl::unexpected(value.error());
    return add({value->si, dimensionOf(*quantity)}, compiled);
  }
  std::shared_ptr<const PointCloud> cloudOf(const Parameter& parameter)
  {
    std::shared_ptr<const PointCloud>& cloud = clouds_[parameter.id];
    if (!cloud)
      cloud = std::make_shared<const PointCloud>(parameter.points);
    return cloud;
  }
  Expected<Variable> valueOf(const std::string& name)
  {
    if (const auto found = known_.find(name); found != known_.end())
      return found->second;
    const auto parameter = parameters_.find(name);
    if (parameter == parameters_.end()) {
      std::vector<std::string> names;
      for (const auto& [one, object] : parameters_)
        names.push_back(one);
      for (const NamedConstant& constant : namedConstants())
        names.emplace_back(constant.name);
      const std::string nearest = nearestWord(name, names);
      return failure(Failure::Kind::NotReady, "", "There is no parameter “" + name + "”.",
                     nearest.empty() ? "Add it on the parameters page, or correct the name."
                                     : "Did you mean “" + nearest + "”?");
    }
    if (std::find(asking_.begin(), asking_.end(), name) != asking_.end()) {
      std::string ring;
      for (auto it = std::find(asking_.begin(), asking_.end(), name); it != asking_.end(); ++it)
        ring += *it + " → ";
      return failure(Failure::Kind::NotReady, "parameter " + name,
                     "Its formula comes back to itself: " + ring + name + ".", "Break the ring with a plain number.");
    }
    constexpr std::size_t longestChain = 200; // each waits for the next on the stack
    if (asking_.size() >= longestChain)
      return failure(Failure::Kind::NotReady, "parameter " + name,
                     "It stands at the end of " + std::to_string(longestChain) + " parameters that each use the next.",
                     "Give one of them a plain number.");
    const Parameter& own = *parameter->second;
    Variable value{own.value.si, dimensionOf(own.quantity)};
    if (own.value.formula) {
      asking_.push_back(name);
      Compiled compiled;
      const auto given = std::exchange(given_, {}); // they are not known there
      auto made = compile(own.value.text, false, compiled);
      given_ = given;
      asking_.pop_back();
      if (!made)
        return tl::unexpected(made.error());
      value.value = compiled.run();
    }
    known_[name] = value;
    return value;
  }

  std::map<std::string, Quantity> given_;
  std::map<std::string, Variable> known_;
  std::map<std::string, const Parameter*> parameters_;
  std::map<std::string, std::shared_ptr<const PointCloud>> clouds_; // made when they are first used
  std::vector<std::string> asking_;
};

Formulas::Formulas(const Project& project) : evaluator_(std::make_unique<Evaluator>(project)) {}
Formulas::~Formulas() = default;

namespace
{

/// Places for checking units: not the origin, where a place would have no scale.
void standSomewhere(Compiled& compiled)
{
  for (std::size_t i = 0; i < compiled.values.size(); ++i)
    for (std::size_t axis = 0; axis < 3; ++axis)
      if (compiled.place[axis] == &compiled.values[i])
        compiled.variables[i].value = 0.31 + 0.17 * static_cast<double>(axis); // m
}

void standAtOrigin(Compiled& compiled)
{
  for (std::size_t i = 0; i < compiled.values.size(); ++i)
    for (const double* axis : compiled.place)
      if (axis == &compiled.values[i])
        compiled.variables[i].value = 0;
}

} // namespace

Expected<double> Formulas::evaluate(const std::string& text, Quantity quantity, bool varies) const
{
  Compiled compiled;
  if (auto made = evaluator_->compile(text, varies, compiled); !made)
    return tl::unexpected(made.error());
  standSomewhere(compiled);
  if (auto problem = dimensionProblem(compiled, text, quantity))
    return tl::unexpected(*problem);
  standAtOrigin(compiled);
  const double value = compiled.run();
  if (!std::isfinite(value))
    return tl::unexpected(
        refusedFormula(text, "has no finite value", "Look for a division by zero or a root of a negative."));
  if (quantity == Quantity::Temperature && value < 0)
    return tl::unexpected(refusedFormula(text, "is below absolute zero", "Check the formula."));
  return value;
}

Expected<PlaceFunction> Formulas::atPlaces(const std::string& text, Quantity quantity) const
{
  auto compiled = std::make_shared<Compiled>();
  if (auto made = evaluator_->compile(text, true, *compiled); !made)
    return tl::unexpected(made.error());
  standSomewhere(*compiled);
  if (auto problem = dimensionProblem(*compiled, text, quantity))
    return tl::unexpected(*problem);
  compiled->run();
  return PlaceFunction([compiled](const Vec3& place) {
    for (std::size_t axis = 0; axis < 3; ++axis)
      if (compiled->place[axis] != nullptr)
        *compiled->place[axis] = place[static_cast<Eigen::Index>(axis)];
    for (const auto& [value, cloud] : compiled->clouds)
      *value = cloud->at(place);
    return compiled->parser.Eval();
  });
}

Expected<GivenFunction> Formulas::ofGiven(const std::string& text, const std::vector<NamedQuantity>& given,
                                          Quantity quantity) const
{
  auto compiled = std::make_shared<Compiled>();
  evaluator_->give(given);
  auto made = evaluator_->compile(text, false, *compiled);
  evaluator_->give({});
  if (!made)
    return tl::unexpected(made.error());
  if (auto problem = dimensionProblem(*compiled, text, quantity))
    return tl::unexpected(*problem);
  compiled->run();
  std::vector<std::pair<std::size_t, double*>> used;
  for (std::size_t i = 0; i < given.size(); ++i)
    if (const auto own = compiled->given.find(given[i].name); own != compiled->given.end())
      used.emplace_back(i, &compiled->values[own->second]);
  return GivenFunction([compiled, used](std::span<const double> values) {
    for (const auto& [from, to] : used)
      *to = values[from];
    return compiled->parser.Eval();
  });
}

bool variesInPlace(const Project& project, const Number& number)
{
  if (!number.formula)
    return false;
  const std::vector<std::string> names = namesIn(number.text);
  return std::any_of(names.begin(), names.end(), [&](const std::string& name) {
    return name == "x" || name == "y" || name == "z" ||
           std::any_of(project.parameters.begin(), project.parameters.end(),
                       [&](const Parameter& parameter) { return parameter.name == name && !parameter.points.empty(); });
  });
}

std::vector<std::string> namesIn(const std::string& formula)
{
  const ScannedFormula scanner = scanFormula(formula);
  std::vector<std::string> names;
  for (const FormulaToken& token : scanner.tokens)
    if (token.kind == FormulaToken::Kind::Name)
      names.push_back(token.text);
  return names;
}

std::string withRenamed(const std::string& formula, const std::string& from, const std::string& to)
{
  const ScannedFormula scanner = scanFormula(formula);
  std::string result;
  std::size_t copied = 0;
  for (const FormulaToken& token : scanner.tokens)
    if (token.kind == FormulaToken::Kind::Name && token.text == from) {
      result += formula.substr(copied, token.begin - copied) + to;
      copied = token.end;
    }
  return result + formula.substr(copied);
}

} // namespace kiln
