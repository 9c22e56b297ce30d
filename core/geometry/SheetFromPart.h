// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "base/Failure.h"
#include "geometry/FaceTable.h"
#include "model/Project.h"

namespace kiln
{

/// Turns a thin solid part into a sheet on the part it touches: the part goes, a surface of the faces beneath it comes,
/// with a sheet of its material and its volume. What lay on the part's surfaces, its heat and its watches move to that
/// surface; a contact between the two becomes the resistance beneath the sheet.
/// \param geometry  with the part in it
/// Fails when the part touches no other or several, has no material, or is not thin (more than a tenth of its extent).
[[nodiscard]] Expected<Project> sheetFromPart(const Project& project, const FaceTable& geometry,
                                              const std::string& partId);

} // namespace kiln
