// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "model/Shape.h"

#include <optional>

namespace kiln
{

enum class Across { X, Y, Z };

/// Heat flows in a plane across one of the axes; everything goes on unchanged along it.
struct PlaneSection {
  Across across = Across::Y;
  Number at;                   // m, where the plane stands on its axis
  std::optional<Number> depth; // m; nothing: heat is per metre
  bool operator==(const PlaneSection&) const = default;
};

/// Heat flows in the half plane to the right (+x) of an axis along z; everything is turned about it.
struct TurnedSection {
  Number axisX, axisY; // m
  bool operator==(const TurnedSection&) const = default;
};

/// Makes a project a section model: its parts are cut by a plane and solved in it.
struct Section {
  std::variant<PlaneSection, TurnedSection> cut;
  UnknownKeys unknown;
  bool operator==(const Section&) const = default;
};

} // namespace kiln
