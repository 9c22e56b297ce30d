// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "document/Document.h"
#include "look/Preferences.h"

class QFormLayout;

namespace kiln
{

/// What of a run is stored: within a tolerance or at an interval, besides that at chosen instants and stretches, and of
/// which parts.
void addStoringEditors(Document& document, Preferences& preferences, const Case& own, QFormLayout& form);

} // namespace kiln
