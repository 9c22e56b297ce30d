// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "base/Failure.h"
#include "model/Project.h"

namespace kiln
{

/// The project as a steady case sees what varies in time: as it is at the case's instant, or, with a period, with every
/// value as its mean over it, heat and conductances counting as nothing while their time window leaves them out.
/// Fails, naming the object, where a mean has no meaning: a temperature held for a part of the period.
[[nodiscard]] Expected<Project> steadyProject(const Project& project, const Case& oneCase);

/// "schedules and time windows as at 20 min", "… as their mean from 0 s to 1 h"; empty where nothing varies in time.
[[nodiscard]] std::string steadyWords(const Project& project, const Case& oneCase);

} // namespace kiln
