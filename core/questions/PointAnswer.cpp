// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "questions/PointAnswer.h"

namespace kiln
{

std::optional<double> PointAnswer::figure(const std::string& watch, AskedFigure which) const
{
  for (const AnsweredFigure& one : figures)
    if (one.watch == watch)
      switch (which) {
      case AskedFigure::AtEnd:
        return one.value;
      case AskedFigure::Peak:
        return one.peak ? one.peak : one.value;
      case AskedFigure::Trough:
        return one.trough ? one.trough : one.value;
      case AskedFigure::TimeToLimit:
        return one.time;
      }
  return std::nullopt;
}

} // namespace kiln
