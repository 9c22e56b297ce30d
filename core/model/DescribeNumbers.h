// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "units/Quantity.h"

#include <string_view>

/// One description of every object's keys, read by all who walk over a project: the file reader and writer,
/// the list of editable fields, the search for misspelt keys. An archive offers
///   text, references, flag, number, optionalNumber, property, optionalProperty, number3, outline, points,
///   schedule, longText, appearance (a text that changes no result), choice, nestedChoice, list, nested, unknown.
/// Keys stand in the order of the file.
namespace kiln
{

/// Which values a number may take.
enum class Range { Any, Positive, NonNegative, Fraction, Share, Count, Rays };

/// What one number of an object is.
struct NumberSpec {
  std::string_view key;
  std::string_view label;
  Quantity quantity;
  Range range = Range::Any;
  bool varies = false; ///< a formula may use the place x, y, z
};

} // namespace kiln
