// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "io/SureRecord.h"
#include "run/CaseRun.h"

namespace kiln
{

/// Solves a steady case on a coarser and a finer mesh beside its own, a case in time once more as a twin with larger
/// elements and looser steps; writes DIR/<case>.sure.json.
[[nodiscard]] tl::expected<SureRecord, RunFailure> runSure(const Project& project, const Case& oneCase,
                                                           const std::filesystem::path& folder,
                                                           const Progress& progress,
                                                           const EffortLimits& limits = usualLimits());

} // namespace kiln
