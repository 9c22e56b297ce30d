// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "base/Failure.h"
#include "heat/elements/Conductivity.h"
#include "heat/elements/HeatFlow.h"
#include "heat/radiation/ViewFactors.h"

#include <map>
#include <memory>
#include <string>
#include <vector>

namespace kiln
{

class BeamCaster;

/// Where what the engineer set lands on the mesh.
struct Conditions {
  /// The last unknown of a flow passage.
  struct Outlet {
    int boundary;
    UnknownId unknown;
  };

  std::vector<Conductivity> conductivity; ///< by part
  HeatFlows flows;                        ///< all but conduction in the parts
  std::vector<UnknownId> nodeUnknowns;    ///< by index in Project::nodes, -1 for a muted one
  std::vector<Outlet> outlets;
  std::shared_ptr<BeamCaster> beams; ///< where there is a beam
  Unknowns unknowns;
  double startTemperature = 293.15; ///< K, a sensible first guess
  std::vector<double> volume;       ///< of the mesh as it is integrated, by part, m³
  std::vector<double> area;         ///< so too, by face, m²
};

/// Unknowns of nodes and of outlets of flow passages, by id: what watches may name.
[[nodiscard]] std::map<std::string, UnknownId> lumpedOf(const Project& project, const Conditions& conditions);

/// An owner as messages name it, for example "boundary outside".
[[nodiscard]] std::string ownerName(const Project& project, const FlowOwner& owner);

/// Resolves a project (muted parts, sources and boundaries left out) on its mesh.
/// Fails naming the object when something it needs is missing; readiness reports all of these at once.
[[nodiscard]] Expected<Conditions> resolveConditions(const Project& project, const Mesh& mesh);
/// \param viewFactors  where those of enclosures come from
[[nodiscard]] Expected<Conditions> resolveConditions(const Project& project, const Mesh& mesh,
                                                     const ViewFactorSource& viewFactors);

/// The same model with other values, at another instant: unknowns, conductivities and what flows alike at every instant
/// are those of \p before, which lends its unknowns: to be replaced by the answer, and whole again where that fails.
[[nodiscard]] Expected<Conditions> resolveAgain(const Project& project, const Mesh& mesh, Conditions& before);

} // namespace kiln
