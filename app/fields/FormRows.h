// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "document/Document.h"

#include <QString>
#include <functional>
#include <string>
#include <utility>
#include <vector>

class QBoxLayout;
class QFormLayout;
class QLabel;

/// Rows that forms are made of, wherever they stand.
namespace kiln
{

/// A label for a field of a form.
[[nodiscard]] QLabel* quietLabel(const QString& text);

/// Takes out all widgets of a layout; one of them may be the one that is telling.
void clearRows(QBoxLayout& rows);

/// Things one can choose among: id and shown name.
using Choices = std::vector<std::pair<std::string, QString>>;

/// A box of choices in a form; choosing runs one undoable edit. What is not among the choices is shown by its id.
/// \param name  of the widget, for tests
void addChoiceRow(Document& document, QFormLayout& form, const QString& label, const QString& name,
                  const Choices& choices, const std::string& chosen,
                  std::function<void(Project&, const std::string&)> apply);

/// Watches of temperatures, with the first choice for none.
[[nodiscard]] Choices temperatureWatches(const Project& project, const QString& none);

} // namespace kiln
