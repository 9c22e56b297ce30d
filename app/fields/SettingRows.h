// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "document/Document.h"
#include "look/Preferences.h"

#include <QString>
#include <functional>

class QFormLayout;
class QWidget;

/// Rows of a form made from what the schema says of a field: a number with its unit, a switch, a choice, what it
/// refers to. A field that is added to the schema has its row here.
namespace kiln
{

/// How the rows of an object's settings are made.
struct SettingRows {
  Document& document;
  Preferences& preferences;
  QFormLayout& form;
  std::function<void(const QString& sentence, bool wrong)> say = [](const QString&, bool) {};
  QString prefix{}; ///< before every label: "Glaze: "
};

/// A row for one field of any kind. Its editor is called "field:PATH"; its label says where the value is the case's
/// own.
void addSettingRow(const SettingRows& rows, const Field& field);

/// Rows for the fields of an object that \p wanted lets through, in the order of the schema.
void addSettingRows(const SettingRows& rows, const std::string& objectId,
                    const std::function<bool(const Field& field)>& wanted);

/// What a field is for, what it takes and which results it changes: the tip of its editor.
[[nodiscard]] QString helpText(const Field& field);

} // namespace kiln
