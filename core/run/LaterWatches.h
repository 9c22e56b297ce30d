// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "heat/elements/Unknowns.h"
#include "io/RunFile.h"
#include "mesh/Mesh.h"
#include "model/Project.h"

namespace kiln
{

/// Is there a watch that this record lacks and that can be read from what was stored?
[[nodiscard]] bool lacksWatches(const Project& project, const RunRecord& record);

/// Gives a record the traces of watches that were made after the run: temperatures from the stored instants, by lines
/// between them; nodes, contacts and links from what was recorded of these at every step.
void addLaterWatches(const Project& project, const Mesh& mesh, const Unknowns& unknowns, const InstantReader& fields,
                     RunRecord& record);

} // namespace kiln
