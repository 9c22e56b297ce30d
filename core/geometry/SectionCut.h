// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "base/Failure.h"
#include "geometry/Brep.h"
#include "geometry/FaceTable.h"
#include "geometry/Forms.h"

namespace kiln
{

/// Where the section of a project lies; none for a solid model.
[[nodiscard]] SectionFrame sectionFrameOf(const Project& project);

/// A part on its way to be cut.
struct SectionBody {
  std::string id, name; ///< of the part
  NamedBody body;
};

/// Replaces every body by its area in the plane of the section, drawn out across it, far enough that no wall is thin
/// that way. The faces that the edges sweep keep the names of the faces that were cut; the two flat sides are called
/// front and back. A part that the plane does not meet has no shape afterwards. Fails when it meets none.
[[nodiscard]] Expected<void> cutBySection(const SectionFrame& frame, std::vector<SectionBody>& bodies);

/// Gives the faces and parts of a fused section their real areas, volumes and places, and lists the areas to mesh.
/// \param brep  its areas are filled
void measureSection(const SectionFrame& frame, Brep& brep, FaceTable& table);

} // namespace kiln
