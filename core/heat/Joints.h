// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "base/Failure.h"
#include "heat/elements/HeatFlow.h"
#include "model/Project.h"

#include <vector>

namespace kiln
{

/// What joins the parts: the unknowns of the mesh, and the flows where temperatures jump.
struct Joints {
  Unknowns unknowns;
  HeatFlows flows;
};

/// Resolves contacts, gaps and the resistance of sheets on a mesh.
/// Fails naming the contact where a gap's parts do not look at each other.
/// \param areaScale  exact over meshed area, by face
[[nodiscard]] Expected<Joints> resolveJoints(const Project& project, const Mesh& mesh,
                                             const std::vector<double>& areaScale);

} // namespace kiln
