// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

namespace kiln
{

/// From now on this process computes on so many processors at a time, as others want theirs; at least on one.
void limitProcessors(int most);

/// On how many it computes at a time.
[[nodiscard]] int processors();

} // namespace kiln
