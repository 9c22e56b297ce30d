// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "document/Document.h"
#include "look/Preferences.h"

class QFormLayout;

namespace kiln
{

/// What a run rule does, as one choice: "end", "mute:coil", "unmute:air", "set:coils.power".
[[nodiscard]] std::string effectOf(const RunRule& rule);
/// Gives a rule another effect; what it did before is forgotten. A set parameter starts from its present value.
void setEffect(const Project& project, RunRule& rule, const std::string& effect);

/// Rows "when a watch passes a value, then …" of a transient case, and the button that adds one.
void addRuleEditors(Document& document, Preferences& preferences, const Case& own, QFormLayout& form);

/// Parts that start at temperatures of their own.
void addOtherStarts(Document& document, const Case& own, QFormLayout& form);

} // namespace kiln
