// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "model/Fields.h"
#include "readiness/Readiness.h"

namespace kiln
{

/// What can be said without geometry of lumped nodes, links, flows, beams, electric currents and melting.
[[nodiscard]] std::vector<Finding> checkNetwork(const Project& project);

/// The same of transient cases and all that depends on time.
[[nodiscard]] std::vector<Finding> checkTime(const Project& project, const std::vector<Field>& fields);

/// The same of section models: what a section without a depth, or a turned one, cannot hold.
[[nodiscard]] std::vector<Finding> checkSection(const Project& project);

/// What can be solved but is doubtful: temperatures that look like another unit, the instant of a steady case, a start
/// at a melting temperature; and correlations that lack what they need.
[[nodiscard]] std::vector<Finding> checkDoubts(const Project& project, const std::vector<Field>& fields);
/// The same on the fused faces: temperatures that contradict, two conditions of one kind, sudden starts that the mesh
/// cannot follow.
[[nodiscard]] std::vector<Finding> checkDoubtsOn(const Project& project, const FaceTable& geometry);

/// What needs the fused faces but no heat: parts that are too thin, faces that are all but a line, parts outside a
/// section, elements of mesh files that are not kept.
[[nodiscard]] std::vector<Finding> checkShapes(const Project& project, const FaceTable& geometry);

} // namespace kiln
