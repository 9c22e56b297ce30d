// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

namespace kiln
{

/// Whether numbers may be typed with a decimal comma, as 1,5 kW, besides the point; not at first. Of the whole program;
/// what is written and computed has the point in any case. Safe from any thread.
void setDecimalComma(bool comma);
[[nodiscard]] bool decimalComma();

} // namespace kiln
