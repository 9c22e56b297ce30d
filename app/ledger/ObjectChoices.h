// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "fields/FormRows.h"

class QFormLayout;

namespace kiln
{

/// What a lumped node stores and how; its fields follow separately.
void addNodeEditors(Document& document, QFormLayout& form, const Node& node);
/// Kind and ends of a link.
void addLinkEditors(Document& document, QFormLayout& form, const Link& link);
/// Lumped node that is the ambient of a boundary, where it may be one.
void addAmbientChoice(Document& document, QFormLayout& form, const Boundary& boundary);
/// What a source given as a table follows, and its thermostat.
void addControlEditors(Document& document, QFormLayout& form, const HeatSource& source);
/// Surfaces that catch a beam.
void addBeamSurfaces(Document& document, QFormLayout& form, const HeatSource& source);

} // namespace kiln
