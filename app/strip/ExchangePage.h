// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "document/Document.h"

#include <QWidget>

class QComboBox;
class QLabel;
class QTableWidget;

namespace kiln
{

/// Who heats whom by radiation: a matrix of the parts of an enclosure, each cell the net heat that its row gives to its
/// column, the stronger the brighter. The last column is the balance of the row.
class ExchangePage : public QWidget
{
  Q_OBJECT

public:
  explicit ExchangePage(Document& document, QWidget* parent = nullptr);

  /// The whole matrix, tabs between cells.
  [[nodiscard]] QString text() const;

private:
  void refresh();
  void fill(const EnclosureFigure& figure);
  [[nodiscard]] const EnclosureFigure* shownFigure() const;

  Document& document_;
  QComboBox* enclosure_;
  QLabel* about_;
  QTableWidget* matrix_;
};

} // namespace kiln
