// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "strip/NumbersModel.h"

#include "document/LedgerRows.h"
#include "look/Language.h"

#include <QLocale>
#include <cmath>

namespace kiln
{

NumbersModel::NumbersModel(Document& document, Preferences& preferences, QObject* parent)
    : QAbstractTableModel(parent), document_(document), preferences_(preferences)
{
  connect(&document, &Document::resultChanged, this, &NumbersModel::refresh);
  connect(&document, &Document::shownCaseChanged, this, &NumbersModel::refresh);
  connect(&preferences, &Preferences::unitChanged, this, &NumbersModel::refresh);
  refresh();
}

void NumbersModel::refresh()
{
  beginResetModel();
  rows_.clear();
  if (const auto result = document_.shownState().result) {
    const auto& parts = result->mesh.geometry.parts;
    for (const PartFigures& figure : document_.shownFigures()->parts) {
      const Part* own = findById(document_.project().parts, figure.id);
      rows_.push_back({figure.id,
                       tr("part"),
                       QString::fromStdString(own != nullptr ? own->name : figure.name),
                       inWords(placeWords(parts[static_cast<std::size_t>(figure.hottest.part)], figure.hottest.place)),
                       figure.hottest.value,
                       figure.coldest.value,
                       figure.mean,
                       {}});
    }
    for (const LedgerBand& band : ledgerBands(document_, preferences_.temperatureUnit()))
      for (const LedgerRow& row : band.rows)
        if (row.figure && findById(document_.shownProject().nodes, row.id) != nullptr)
          rows_.push_back({row.id, tr("lumped node"), row.name, row.set, row.figure, row.figure, row.figure, {}});
        else if (band.band != Band::Parts && row.figure)
          rows_.push_back({row.id,
                           band.band == Band::HeatIn     ? tr("heat in")
                           : band.band == Band::Contacts ? tr("contact")
                                                         : tr("surroundings"),
                           row.name,
                           row.set,
                           {},
                           {},
                           {},
                           row.figure});
  }
  endResetModel();
}

int NumbersModel::rowCount(const QModelIndex& parent) const
{
  return parent.isValid() ? 0 : static_cast<int>(rows_.size());
}

int NumbersModel::columnCount(const QModelIndex& parent) const { return parent.isValid() ? 0 : ColumnCount; }

std::optional<double> NumbersModel::number(const Row& row, int column) const
{
  const auto shown = [&](const std::optional<double>& kelvin) {
    return kelvin ? std::optional(toDisplay(*kelvin, Quantity::Temperature, preferences_.temperatureUnit()))
                  : std::nullopt;
  };
  switch (column) {
  case Hottest:
    return shown(row.hottest);
  case Coldest:
    return shown(row.coldest);
  case Mean:
    return shown(row.mean);
  case Heat:
    return row.heat;
  default:
    return std::nullopt;
  }
}

QVariant NumbersModel::data(const QModelIndex& index, int role) const
{
  if (!index.isValid())
    return {};
  const Row& row = rows_[static_cast<std::size_t>(index.row())];
  const bool numeric = index.column() >= Hottest && index.column() <= Heat;
  if (role == Qt::TextAlignmentRole)
    return static_cast<int>(numeric ? Qt::AlignRight | Qt::AlignVCenter : Qt::AlignLeft | Qt::AlignVCenter);
  if (role != Qt::DisplayRole && role != SortRole)
    return {};
  if (numeric) {
    const auto value = number(row, index.column());
    if (role == SortRole)
      return value ? QVariant(*value) : QVariant();
    constexpr int decimals = 1;
    return value ? QLocale::c().toString(*value, 'f', index.column() == Heat && std::abs(*value) < 10 ? 3 : decimals)
                 : QString();
  }
  return index.column() == Kind ? row.kind : index.column() == Name ? row.name : row.place;
}

QVariant NumbersModel::headerData(int section, Qt::Orientation orientation, int role) const
{
  if (orientation == Qt::Horizontal && role == Qt::TextAlignmentRole)
    return static_cast<int>((section >= Hottest && section <= Heat ? Qt::AlignRight : Qt::AlignLeft) |
                            Qt::AlignVCenter);
  if (orientation != Qt::Horizontal || role != Qt::DisplayRole)
    return {};
  const QString unit = QString::fromStdString(displayUnit(Quantity::Temperature, preferences_.temperatureUnit()));
  switch (section) {
  case Kind:
    return tr("Kind");
  case Name:
    return tr("Name");
  case Hottest:
    return tr("Hottest, %1").arg(unit);
  case Coldest:
    return tr("Coldest, %1").arg(unit);
  case Mean:
    return tr("Mean, %1").arg(unit);
  case Heat:
    return tr("Heat, %1").arg(QString::fromStdString(displayUnit(heatQuantity(document_.shownProject()))));
  default:
    return tr("Where, or as set");
  }
}

} // namespace kiln
