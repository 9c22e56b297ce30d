// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "base/Failure.h"
#include "model/Fields.h"

#include <optional>
#include <string>
#include <vector>

/// What a question varies, read against its project.
namespace kiln
{

/// A field with the values it may take: those of a list, or all numbers between two.
struct AskedAxis {
  std::string field; ///< its path
  std::string label; ///< "Coils, Power"; of a parameter its name
  Quantity quantity = Quantity::Plain;
  std::vector<OwnValue> values;   ///< the chosen ones of a range, or those of a list
  std::vector<std::string> words; ///< the same in words
  bool isRange = false;           ///< any number from low to high may be tried
  Range allowed = Range::Any;     ///< what the field may hold
  double low = 0, high = 0;       ///< SI
  bool logarithmic = false, whole = false;
  bool isOpen = false; ///< a range without ends: whatever lies about what is set
  std::optional<VariedTolerance> tolerance;
  double set = 0; ///< the number that is set, SI
  double by = 0;  ///< SI, of a tolerance: half of its width, or its standard deviation

  /// \param share  0 … 1 of the way from low to high (of a list: which of its values)
  [[nodiscard]] OwnValue at(double share) const;
  /// A number in the range, whole where it has to be.
  [[nodiscard]] double within(double si) const;
};

/// What a field is called without the kind of its object: "Coils, Power"; of a parameter its name.
[[nodiscard]] std::string shortLabel(const Project& project, const Field& field);

/// A number as a field holds it, with no text of its own.
[[nodiscard]] OwnValue plainValue(double si);

/// Reads one. Fails naming the question where there is no such field, or it cannot hold what is asked for.
/// \param seen  the project as the base case sees it; materials of the library that are asked for are added to it
[[nodiscard]] Expected<AskedAxis> readAxis(Project& seen, const Question& question, const Varied& varied);

/// All of them, in their order.
[[nodiscard]] Expected<std::vector<AskedAxis>> readAxes(Project& seen, const Question& question);

} // namespace kiln
