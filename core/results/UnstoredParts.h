// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "heat/elements/Unknowns.h"
#include "mesh/Mesh.h"
#include "results/RunRecord.h"

#include <string>
#include <vector>

namespace kiln
{

/// Where only some parts' temperatures were stored, the others get the mean that was recorded of them at that instant.
/// \param field  by unknown, K; not a number where nothing was stored
/// \return names of the parts that are shown by their mean
std::vector<std::string> fillUnstored(const RunRecord& record, const Mesh& mesh, const Unknowns& unknowns, double time,
                                      std::vector<double>& field);

} // namespace kiln
