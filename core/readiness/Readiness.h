// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "geometry/FaceTable.h"
#include "mesh/Mesh.h"
#include "model/Project.h"
#include "readiness/Mend.h"

#include <string>
#include <vector>

namespace kiln
{

/// One line of the readiness list.
struct Finding {
  enum class Severity { Error, Hint };
  Severity severity = Severity::Error;
  std::string objectId;        ///< where the line leads; empty for the project
  std::string object;          ///< "part Shell"
  std::string problem;         ///< one sentence
  std::string remedy;          ///< one sentence
  std::vector<FaceId> faces{}; ///< to light in the scene
  std::vector<Mend> mends{};   ///< one-click remedies
  std::optional<Vec3> place{}; ///< m, to point at in the scene

  [[nodiscard]] std::string sentence() const { return object + ": " + problem + (remedy.empty() ? "" : " " + remedy); }
};

/// What can be said without geometry: values out of range, unknown references, missing materials, misspelt keys.
[[nodiscard]] std::vector<Finding> checkModel(const Project& project);

/// What needs the fused faces: empty surfaces, parts without a way out for their heat, missing emissivities,
/// contacts that do not touch, faces insulated only by default, contacts that are perfect only by default.
[[nodiscard]] std::vector<Finding> checkOnGeometry(const Project& project, const FaceTable& geometry);

/// Closed spaces that the mesher found and that no enclosure covers: nothing crosses them.
[[nodiscard]] std::vector<Finding> checkVoids(const Project& project, const Mesh& mesh);

/// Surfaces held at different temperatures that meet along an edge.
[[nodiscard]] std::vector<Finding> checkHeldMeeting(const Project& project, const Mesh& mesh);

/// A failure of geometry as a line of the list, with the remedies it has.
[[nodiscard]] Finding findingOf(const Project& project, const Failure& failure);

[[nodiscard]] bool hasErrors(const std::vector<Finding>& findings);

} // namespace kiln
