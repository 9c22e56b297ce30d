// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "document/Document.h"
#include "look/Preferences.h"

class QVBoxLayout;

namespace kiln
{

/// From room temperature until no place changes faster than 0.1 K/min.
[[nodiscard]] TransientRun usualRun();

/// How a case runs: steady, or in time with its start, its end rules and its accuracy.
void addRunEditors(Document& document, Preferences& preferences, const Case& own, QVBoxLayout& layout);

} // namespace kiln
