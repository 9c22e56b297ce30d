// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "heat/Conditions.h"
#include "heat/radiation/EnclosureExchange.h"
#include "results/HeatAccount.h"

#include <span>

namespace kiln
{

/// What the size of an enclosure's patches is worth: the most by which the net heat of a part would change if its
/// patches were taken two by two, W. The exchange converges with the patches' area, so that this is about the error
/// itself.
[[nodiscard]] double patchErrorOf(const Mesh& mesh, const Conditions& conditions, const EnclosureExchange& exchange,
                                  std::span<const double> temperature);

} // namespace kiln
