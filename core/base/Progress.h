// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include <functional>
#include <string_view>

namespace kiln
{

/// Called by long stages: name of the stage, fraction of the whole run done (0..1), a short message.
using Progress = std::function<void(std::string_view stage, double fraction, std::string_view message)>;

/// A progress receiver that ignores everything, for tests and short calls.
inline void noProgress(std::string_view, double, std::string_view) {}

} // namespace kiln
