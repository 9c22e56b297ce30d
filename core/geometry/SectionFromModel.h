// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "geometry/FaceTable.h"
#include "model/Project.h"

namespace kiln
{

/// A solid model turned into a section, and what did not come along.
struct SectionFromModel {
  Project project;
  std::vector<std::string> notes; ///< sentences
};

/// The same project as a section model: parts, materials, surfaces, boundaries and contacts are kept, since the faces
/// that are cut keep their names. In a plane section totals become what they are per volume, area or contact, so that
/// the slice has its share; what has no share in a plane (links, flow passages, sources at points, electric currents)
/// is muted, and watches and lines are moved into the plane. In a turned section totals stay.
/// \param geometry  of the solid model
[[nodiscard]] SectionFromModel sectionFrom(const Project& project, const FaceTable& geometry, const Section& section);

} // namespace kiln
