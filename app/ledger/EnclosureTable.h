// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "document/Document.h"

#include <QWidget>

class QLabel;
class QTableWidget;

namespace kiln
{

/// Who heats whom in an enclosure: the net watts of its surfaces, and from part to part, as a table that can be copied.
class EnclosureTable : public QWidget
{
  Q_OBJECT

public:
  EnclosureTable(Document& document, std::string enclosureId, QWidget* parent = nullptr);

private:
  void refresh();
  void addRow(const QString& what, double watts);

  Document& document_;
  std::string id_;
  QTableWidget* rows_;
  QLabel* about_;
};

} // namespace kiln
