// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

class QWidget;

namespace kiln
{

class Preferences;

/// Asks from how many elements on a mesh is asked about before it is made.
void chooseLargeModels(Preferences& preferences, QWidget* parent);

} // namespace kiln
