// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "questions/PointAnswer.h"

namespace kiln
{

/// A limit that an answer is held against.
struct HeldLimit {
  std::string watch, name;
  Quantity quantity = Quantity::Temperature;
  AskedFigure figure = AskedFigure::AtEnd;
  double limit = 0; ///< SI
  bool upper = true;

  /// How far the answer is on the safe side, SI; nothing: the watch has no such figure there.
  [[nodiscard]] std::optional<double> margin(const PointAnswer& answer) const;
};

/// The limits of these watches, or of all that have one when none are named.
[[nodiscard]] std::vector<HeldLimit> limitsOf(const Project& seen, const std::vector<std::string>& watches,
                                              AskedFigure figure);

/// A point on the way to an answer.
struct TriedValue {
  double value = 0; ///< SI
  std::optional<double> margin;
  PointAnswer answer;
};

struct LimitAnswer {
  std::optional<double> value; ///< SI, of the varied field
  std::string watch;           ///< whose limit is just met there
  std::string words;           ///< what was found, or why there is nothing
  std::vector<TriedValue> tried;
};

/// The value of one field at which a limit is just met, by bracketing. The bracket is looked for at the values of the
/// range, of an open one by ever larger steps from what is set; then it is narrowed by Alefeld, Potra and Shi's
/// Algorithm 748 (ACM Trans. Math. Softw. 21, 1995).
[[nodiscard]] LimitAnswer searchLimit(const Project& seen, const AskLimit& ask, const AskedAxis& axis,
                                      const SolvePoints& solve);

} // namespace kiln
