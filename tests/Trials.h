// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include <QtGlobal>
#include <algorithm>
#include <random>

/// How much is tried by chance: a little in the suite, more by hand (docs/reliability.md).
namespace kiln::test
{

using Random = std::mt19937;

inline long below(Random& random, long end) { return std::uniform_int_distribution<long>(0, end - 1)(random); }

/// KILN_FAULTS=10 tries ten times as many as usual.
inline int trials(int usual)
{
  const int times = qEnvironmentVariableIntValue("KILN_FAULTS");
  return usual * std::max(1, times);
}

/// KILN_FAULT_SEED=7: others than usual.
inline unsigned seed()
{
  const int given = qEnvironmentVariableIntValue("KILN_FAULT_SEED");
  return given > 0 ? static_cast<unsigned>(given) : 20260502U;
}

} // namespace kiln::test
