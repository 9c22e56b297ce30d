// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

namespace kiln
{

/// In which units quantities other than temperatures are shown, and bare numbers are taken. What is kept and computed
/// is SI in any of them.
enum class UnitSet {
  Prefixed, ///< SI with prefixes: mm, kW, kW/m², h and min
  Plain,    ///< SI without: m, W, W/m², s
  InchPound ///< in, Btu/h, Btu/(h·ft²), lb
};

/// Of the whole program; Prefixed at first. Safe from any thread.
void setUnitSet(UnitSet set);
[[nodiscard]] UnitSet unitSet();

} // namespace kiln
