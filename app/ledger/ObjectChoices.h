// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "document/Document.h"

#include <QWidget>
#include <functional>
#include <string>
#include <utility>
#include <vector>

class QFormLayout;

namespace kiln
{

/// Things one can choose among: id and shown name.
using Choices = std::vector<std::pair<std::string, QString>>;

/// A box of choices in a form; choosing runs one undoable edit. What is not among the choices is shown by its id.
/// \param name  of the widget, for tests
void addChoiceRow(Document& document, QFormLayout& form, const QString& label, const QString& name,
                  const Choices& choices, const std::string& chosen,
                  std::function<void(Project&, const std::string&)> apply);

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

/// Watches of temperatures, with the first choice for none.
[[nodiscard]] Choices temperatureWatches(const Project& project, const QString& none);

} // namespace kiln
