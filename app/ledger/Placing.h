// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "document/Document.h"

#include <optional>
#include <vector>

namespace kiln
{

/// How a part is placed on a face of another.
enum class Placing { SitOn, CentreOn, SitCentred, AlignLow, AlignHigh };

[[nodiscard]] const std::vector<std::pair<const char*, Placing>>& placings();

/// Position that places a part on the face picked in the scene, by the boxes around them.
/// Nothing, with a reason, when no flat face along an axis of another part is picked.
[[nodiscard]] std::optional<Number3> placedOnPicked(const Document& document, const std::string& partId, Placing how,
                                                    QString& why);

} // namespace kiln
