// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "base/Failure.h"
#include "heat/radiation/EnclosureExchange.h"
#include "heat/radiation/ViewFactors.h"
#include "model/Project.h"

#include <memory>
#include <vector>

namespace kiln
{

/// The exchange in an enclosure of the project, by its index.
/// Fails naming it where a face has no emissivity or its view factors cannot be had.
/// \param areaScale  exact over meshed area, by face
[[nodiscard]] Expected<std::shared_ptr<const EnclosureExchange>> resolveEnclosure(const Project& project, int index,
                                                                                  const Mesh& mesh,
                                                                                  const std::vector<double>& areaScale,
                                                                                  const ViewFactorSource& viewFactors);

} // namespace kiln
