// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "base/Failure.h"
#include "geometry/Forms.h"

namespace kiln
{

/// The part's form with its steps applied, repeated and placed. Fails naming the part, the step and the dimension.
/// \param project  for prisms that reach up to a face of another part
[[nodiscard]] Expected<NamedBody> buildPart(const Project& project, const Part& part);

} // namespace kiln
