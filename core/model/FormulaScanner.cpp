// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "model/FormulaScanner.h"

#include "units/UnitSystem.h"

#include <array>
#include <charconv>
#include <string_view>

namespace kiln
{
namespace
{

bool isDigit(char c) { return c >= '0' && c <= '9'; }
bool isLetter(char c) { return (c >= 'a' && c <= 'z') || (c >= 'A' && c <= 'Z') || c == '_' || (c & 0x80) != 0; }

/// Signs that stand for an operator although they are not ASCII.
struct Sign {
  std::string_view text, meaning;
};
constexpr std::array signs{Sign{"·", "*"}, Sign{"×", "*"}, Sign{"−", "-"}, Sign{"²", "^2"}, Sign{"³", "^3"}};

const Sign* signAt(const std::string& text, std::size_t at)
{
  for (const Sign& sign : signs)
    if (text.compare(at, sign.text.size(), sign.text) == 0)
      return &sign;
  return nullptr;
}

/// Cuts a formula into tokens.
class Scanner
{
public:
  explicit Scanner(const std::string& text) : text_(text) {}

  ScannedFormula result;

  void scan()
  {
    while (at_ < text_.size() && result.understood())
      next();
  }

private:
  void next()
  {
    const char c = text_[at_];
    if (c == ' ' || c == '\t') {
      ++at_;
    } else if (isDigit(c) || (c == '.' && at_ + 1 < text_.size() && isDigit(text_[at_ + 1]))) {
      number();
    } else if (const Sign* sign = signAt(text_, at_)) {
      add(FormulaToken::Kind::Other, std::string(sign->meaning), sign->text.size());
    } else if (isLetter(c)) {
      const std::string name = nameAt(at_, false);
      std::size_t after = at_ + name.size();
      while (after < text_.size() && text_[after] == ' ')
        ++after;
      const bool call = after < text_.size() && text_[after] == '(';
      add(call ? FormulaToken::Kind::Function : FormulaToken::Kind::Name, name, name.size());
    } else if (std::string_view("+-*/^(),<>=?:!&|").find(c) != std::string_view::npos) {
      add(FormulaToken::Kind::Other, std::string(1, c), 1);
    } else {
      result.problem = "has “" + std::string(1, c) + "”, which means nothing in a formula";
    }
  }
  void add(FormulaToken::Kind kind, std::string text, std::size_t length)
  {
    result.tokens.push_back({kind, std::move(text), 0, {}, at_, at_ + length});
    at_ += length;
  }
  /// Letters and digits from a place on; a unit may also hold ² and ³.
  [[nodiscard]] std::string nameAt(std::size_t from, bool unit) const
  {
    std::size_t end = from;
    while (end < text_.size() && (isLetter(text_[end]) || isDigit(text_[end]))) {
      const Sign* sign = signAt(text_, end);
      if (sign != nullptr && !(unit && sign->meaning.front() == '^'))
        break;
      end += sign != nullptr ? sign->text.size() : 1;
    }
    return text_.substr(from, end - from);
  }
  /// One unit name, then as much of "/m", "·K" and "/(m²·K)" as still makes a unit: the longest wins.
  [[nodiscard]] std::string longestUnit(std::size_t from) const
  {
    std::string longest = nameAt(from, true);
    std::size_t end = from + longest.size();
    int open = 0;
    while (end < text_.size()) {
      std::size_t step = end;
      if (text_[step] == ')' && open > 0) {
        --open;
        ++step;
      } else {
        const Sign* sign = signAt(text_, step);
        const bool times = sign != nullptr && sign->text == "·";
        if (!times && text_[step] != '/')
          break;
        step += times ? sign->text.size() : 1;
        if (step < text_.size() && text_[step] == '(') {
          ++open;
          ++step;
        }
        const bool name = step < text_.size() && isLetter(text_[step]) && signAt(text_, step) == nullptr;
        const std::string next = name ? nameAt(step, true) : std::string();
        if (next.empty())
          break;
        step += next.size();
      }
      end = step;
      const std::string unit = text_.substr(from, end - from);
      const std::string spelled = units::spelledForLibrary(unit);
      if (open == 0 && units::convertible(spelled, spelled))
        longest = unit;
    }
    return longest;
  }
  void number()
  {
    FormulaToken token{FormulaToken::Kind::Number, {}, 0, {}, at_, at_};
    const auto [end, error] = std::from_chars(text_.data() + at_, text_.data() + text_.size(), token.number);
    if (error != std::errc{}) {
      result.problem = "has a number that cannot be read";
      return;
    }
    at_ = static_cast<std::size_t>(end - text_.data());
    std::size_t unitAt = at_;
    while (unitAt < text_.size() && text_[unitAt] == ' ')
      ++unitAt;
    if (unitAt < text_.size() && text_[unitAt] == '[') {
      const std::size_t close = text_.find(']', unitAt);
      if (close == std::string::npos) {
        result.problem = "has a unit that is not closed by ]";
        return;
      }
      token.unit = text_.substr(unitAt + 1, close - unitAt - 1);
      at_ = close + 1;
    } else if (unitAt < text_.size() && (text_[unitAt] == '%' || isLetter(text_[unitAt])) && !signAt(text_, unitAt)) {
      token.unit = text_[unitAt] == '%' ? "%" : longestUnit(unitAt);
      at_ = unitAt + token.unit.size();
    }
    token.end = at_;
    result.tokens.push_back(std::move(token));
  }

  const std::string& text_;
  std::size_t at_ = 0;
};

} // namespace

const std::set<std::string>& formulaFunctions()
{
  static const std::set<std::string> names{"sqrt", "abs", "min",  "max",  "exp",  "ln",   "log10", "sin",
                                           "cos",  "tan", "asin", "acos", "atan", "sinh", "cosh",  "tanh"};
  return names;
}

ScannedFormula scanFormula(const std::string& text)
{
  Scanner scanner(text);
  scanner.scan();
  return std::move(scanner.result);
}

Failure refusedFormula(const std::string& text, const std::string& problem, const std::string& remedy)
{
  return {Failure::Kind::NotReady, "", "“" + text + "” " + problem + ".", remedy};
}

} // namespace kiln
