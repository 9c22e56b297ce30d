// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "model/Number.h"
#include "units/Quantity.h"

#include <QString>

namespace kiln
{

/// A number as its field shows it: the user's text when there is one, else the value with its unit.
[[nodiscard]] QString shownText(const Number& number, Quantity quantity, TemperatureUnit unit);

} // namespace kiln
