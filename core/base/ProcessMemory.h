// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

namespace kiln
{

/// The most memory a running process has needed so far, B; 0 when it is not known (it has ended).
[[nodiscard]] double peakMemory(long process);

/// Memory that processes may still take without making the machine swap, B.
[[nodiscard]] double availableMemory();

} // namespace kiln
