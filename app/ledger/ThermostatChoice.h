// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "fields/FormRows.h"

class QFormLayout;

namespace kiln
{

/// The watch that switches a source, or none; its set point and band are rows of the schema once there is one.
void addThermostatChoice(Document& document, QFormLayout& form, const HeatSource& source);

} // namespace kiln
