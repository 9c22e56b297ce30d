// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "document/Document.h"
#include "look/Preferences.h"
#include "model/Fields.h"

#include <QWidget>

class QToolButton;

namespace kiln
{

class QuantityField;

/// An editor of one number of the project, found by its path: a field for a number or a formula, and where the number
/// may be a table against temperature, a button that opens it. Follows the document.
class BoundField : public QWidget
{
  Q_OBJECT

public:
  BoundField(Document& document, Preferences& preferences, const Field& field, QWidget* parent = nullptr);

  [[nodiscard]] QuantityField& edit() { return *edit_; }

  /// What holds while the field is empty.
  void setUsual(const QString& usual);

signals:
  void said(const QString& sentence, bool wrong);

private:
  void show(const Field& field);
  void refresh();
  void openTable();

  Document& document_;
  Preferences& preferences_;
  std::string path_;
  QString usual_;
  QuantityField* edit_;
  QToolButton* table_ = nullptr;
};

} // namespace kiln
