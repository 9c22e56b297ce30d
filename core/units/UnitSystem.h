// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include <optional>
#include <string>
#include <string_view>

/// The one place that talks to UDUNITS. Calls are serialised; safe from any thread.
namespace kiln::units
{

/// A typed unit in the library's spelling: "W/(m²·K)" → "W/(m2.K)", "°C" → "degC".
[[nodiscard]] std::string spelledForLibrary(std::string_view typed);

/// \p value in \p from expressed in \p to; nothing when a unit is unknown or of another kind.
[[nodiscard]] std::optional<double> convert(double value, const std::string& from, const std::string& to);

[[nodiscard]] bool convertible(const std::string& from, const std::string& to);

} // namespace kiln::units
