// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include <string>

namespace kiln
{

/// Something that happened at an instant of a run.
struct RunEvent {
  enum class Kind { Breakpoint, SwitchedOn, SwitchedOff, RuleFired, Ended };
  double time = 0; ///< s
  Kind kind = Kind::Breakpoint;
  std::string objectId; ///< source, rule; empty for breakpoints
  std::string text;
};

} // namespace kiln
