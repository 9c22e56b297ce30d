// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "document/ShownFigures.h"
#include "results/DifferenceField.h"

#include <optional>

namespace kiln
{

/// One side of a difference: a result and its temperatures at an instant.
struct DifferentSide {
  std::shared_ptr<const CaseResult> result;
  std::shared_ptr<const std::vector<double>> kelvin; ///< by unknown
};

/// The difference of two results, found when it is asked for and kept while both sides stay.
class ShownDifference
{
public:
  /// nullptr where a side has no result, or they cannot be compared: then \ref problem says why.
  [[nodiscard]] std::shared_ptr<const DifferenceField> of(const DifferentSide& own, const DifferentSide& other);
  [[nodiscard]] const std::string& problem() const { return problem_; }

private:
  DifferentSide own_, other_;
  std::shared_ptr<const DifferenceField> field_;
  std::string problem_;
};

} // namespace kiln
