// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "document/LedgerRows.h"
#include "look/Preferences.h"

#include <QWidget>
#include <vector>

class QLabel;
class QLineEdit;
class QScrollArea;
class QToolButton;
class QVBoxLayout;

namespace kiln
{

class LedgerRowView;

/// The heat ledger: the model's definition and its results in five bands, along the path of heat.
class LedgerPanel : public QWidget
{
  Q_OBJECT

public:
  LedgerPanel(Document& document, Preferences& preferences, QWidget* parent = nullptr);

  /// Selects the row, opens it and brings it into view.
  void reveal(const std::string& objectId);
  /// Reveals a new object with its name ready to be typed over.
  void openNew(const std::string& id);
  /// Gives the keyboard to the selected row, or to the first.
  void focusRows();

private:
  struct BandView {
    Band band;
    QLabel* title;
    QLabel* total;
    QVBoxLayout* rows;
    QLabel* hint; ///< what belongs here, while there is nothing
    std::vector<LedgerRowView*> views;
  };

  void refresh();
  void refreshBand(BandView& view, LedgerBand band);
  QLayout* makeScope();
  QToolButton* makeAddButton(Band band);
  void applyFilter();
  void showSelection();
  void move(LedgerRowView* from, int direction);
  void reorder(const LedgerRowView* row, int direction);
  [[nodiscard]] std::vector<LedgerRowView*> visibleRows() const;

  Document& document_;
  Preferences& preferences_;
  QLineEdit* filter_;
  QScrollArea* scroll_;
  std::vector<BandView> bands_;
};

} // namespace kiln
