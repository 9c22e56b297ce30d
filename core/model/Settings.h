// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "base/Failure.h"
#include "model/Fields.h"

/// Fields of any kind set by what a user types.
namespace kiln
{

/// What was typed for a field, understood by its kind: "1.3 kW", "20 °C: 0.2; 500 °C: 0.3 W/(m·K)", "off", "gap",
/// "fire-brick". Objects are named by id or by a name that only one of their kind has.
[[nodiscard]] Expected<OwnValue> readSetting(const Project& project, const Field& field, const std::string& typed);

/// What a field holds, in words: "1.3 kW", "a table of 3 points", "off", "Fire brick".
[[nodiscard]] std::string settingText(const Project& project, const Field& field, const OwnValue& value,
                                      TemperatureUnit unit = TemperatureUnit::Celsius);

/// Sets the field named \p path to what \p typed says. Fails with the nearest field name when there is none,
/// or with the reason the text was refused.
[[nodiscard]] Expected<void> setField(Project& project, const std::string& path, const std::string& typed);

} // namespace kiln
