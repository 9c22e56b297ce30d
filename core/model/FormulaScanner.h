// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "base/Failure.h"

#include <set>
#include <string>
#include <vector>

namespace kiln
{

/// A piece of a formula.
struct FormulaToken {
  enum class Kind { Number, Name, Function, Other };
  Kind kind = Kind::Other;
  std::string text; ///< name, or what goes to the evaluator
  double number = 0;
  std::string unit;
  std::size_t begin = 0, end = 0; ///< bytes of the formula
};

/// A formula cut into its pieces.
struct ScannedFormula {
  std::vector<FormulaToken> tokens;
  std::string problem; ///< "has a unit that is not closed by ]"; empty when all was understood

  [[nodiscard]] bool understood() const { return problem.empty(); }
};

/// Numbers take the longest unit after them, "12 W/(m²·K)", or anything in [ ] as older files have it. Never fails; see
/// problem.
[[nodiscard]] ScannedFormula scanFormula(const std::string& text);

/// Functions a formula may call.
[[nodiscard]] const std::set<std::string>& formulaFunctions();

/// "“a + ” is not a complete formula.", with what mends it.
[[nodiscard]] Failure refusedFormula(const std::string& text, const std::string& problem, const std::string& remedy);

} // namespace kiln
