// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include <string>

namespace kiln
{

/// A value in SI together with what the user typed for it ("1.3 kW"); the text may be empty.
struct Number {
  double si = 0;
  std::string text;

  bool operator==(const Number&) const = default;
};

/// Three numbers that belong together: a place, a direction or a set of rotations.
struct Number3 {
  Number x, y, z;

  bool operator==(const Number3&) const = default;
};

} // namespace kiln
