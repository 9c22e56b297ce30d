// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "document/Document.h"
#include "look/Preferences.h"

#include <QAbstractTableModel>
#include <vector>

namespace kiln
{

/// Figures of the shown case as a table: a row for each part and each flow of the ledger.
class NumbersModel : public QAbstractTableModel
{
  Q_OBJECT

public:
  enum Column { Kind, Name, Hottest, Coldest, Mean, Heat, Place, ColumnCount };
  static constexpr int SortRole = Qt::UserRole + 1;

  NumbersModel(Document& document, Preferences& preferences, QObject* parent = nullptr);

  [[nodiscard]] int rowCount(const QModelIndex& parent = {}) const override;
  [[nodiscard]] int columnCount(const QModelIndex& parent = {}) const override;
  [[nodiscard]] QVariant data(const QModelIndex& index, int role) const override;
  [[nodiscard]] QVariant headerData(int section, Qt::Orientation orientation, int role) const override;
  [[nodiscard]] std::string objectAt(int row) const { return rows_[static_cast<std::size_t>(row)].id; }

private:
  struct Row {
    std::string id;
    QString kind, name, place;
    std::optional<double> hottest, coldest, mean, heat; // K, W
  };

  void refresh();
  [[nodiscard]] std::optional<double> number(const Row& row, int column) const;

  Document& document_;
  Preferences& preferences_;
  std::vector<Row> rows_;
};

} // namespace kiln
