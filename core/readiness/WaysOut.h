// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "readiness/Readiness.h"

namespace kiln
{

/// Parts and lumped nodes that nothing lets give their heat away: neither a boundary, a held temperature or a flow, nor
/// a contact, gap, enclosure or link to something that has one.
[[nodiscard]] std::vector<Finding> checkWaysOut(const Project& project, const FaceTable& geometry);

} // namespace kiln
