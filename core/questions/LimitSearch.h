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

/// How limits of kelvins and watts are compared: each by how far an answer was from it when it was first seen.
class LimitScale
{
public:
  explicit LimitScale(std::vector<HeldLimit> limits) : limits_(std::move(limits)), measures_(limits_.size(), 0) {}

  struct Least {
    double share;      ///< below zero: the limit is not kept
    std::size_t which; ///< of the limits
  };
  /// The limit that is kept by the smallest share; nothing where the figure of any is not known.
  [[nodiscard]] std::optional<Least> least(const PointAnswer& answer);
  [[nodiscard]] const std::vector<HeldLimit>& limits() const { return limits_; }

private:
  std::vector<HeldLimit> limits_;
  std::vector<double> measures_; ///< SI
};

/// The limits of these watches, or of all that have one when none are named.
[[nodiscard]] std::vector<HeldLimit> limitsOf(const Project& seen, const std::vector<std::string>& watches,
                                              AskedFigure figure);

/// What a question of a limit is held against: those, or its level. Fails where the level is none of the watches.
[[nodiscard]] Expected<std::vector<HeldLimit>> limitsOf(const Project& seen, const AskLimit& ask);

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
