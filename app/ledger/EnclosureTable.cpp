// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "ledger/EnclosureTable.h"

#include <QHeaderView>
#include <QLabel>
#include <QTableWidget>
#include <QVBoxLayout>
#include <algorithm>
#include <cmath>

namespace kiln
{
namespace
{

QString nameOf(const auto& list, const std::string& id)
{
  const auto* object = findById(list, id);
  return QString::fromStdString(object != nullptr ? object->name : id);
}

} // namespace

EnclosureTable::EnclosureTable(Document& document, std::string enclosureId, QWidget* parent)
    : QWidget(parent), document_(document), id_(std::move(enclosureId)), rows_(new QTableWidget(0, 2)),
      about_(new QLabel)
{
  auto* layout = new QVBoxLayout(this);
  layout->setContentsMargins(0, 0, 0, 0);
  rows_->setObjectName("enclosureTable");
  rows_->setHorizontalHeaderLabels({tr("Who heats whom"), tr("Net heat")});
  rows_->horizontalHeader()->setSectionResizeMode(0, QHeaderView::Stretch);
  rows_->horizontalHeader()->setSectionResizeMode(1, QHeaderView::ResizeToContents);
  rows_->verticalHeader()->hide();
  rows_->setEditTriggers(QAbstractItemView::NoEditTriggers);
  rows_->setSelectionBehavior(QAbstractItemView::SelectRows);
  about_->setObjectName("enclosureAbout");
  about_->setProperty("role", "quiet");
  about_->setWordWrap(true);
  layout->addWidget(rows_);
  layout->addWidget(about_);
  connect(&document, &Document::resultChanged, this, &EnclosureTable::refresh);
  refresh();
}

void EnclosureTable::addRow(const QString& what, double watts)
{
  const int row = rows_->rowCount();
  rows_->insertRow(row);
  rows_->setItem(row, 0, new QTableWidgetItem(what));
  auto* figure = new QTableWidgetItem(QString::fromStdString(formatQuantity(watts, Quantity::Power, {}, 4)));
  figure->setTextAlignment(Qt::AlignRight | Qt::AlignVCenter);
  rows_->setItem(row, 1, figure);
}

void EnclosureTable::refresh()
{
  rows_->setRowCount(0);
  const auto result = document_.shownState().result;
  const EnclosureFigure* figure = nullptr;
  if (result)
    for (const EnclosureFigure& one : result->enclosures)
      if (one.id == id_)
        figure = &one;
  rows_->setVisible(figure != nullptr);
  if (figure == nullptr) {
    about_->setText(tr("Solve to see who heats whom."));
    return;
  }
  const Project& project = document_.shownProject();
  std::vector<EnclosureFigure::Exchange> sorted = figure->exchanges;
  std::sort(sorted.begin(), sorted.end(),
            [](const auto& a, const auto& b) { return std::abs(a.watts) > std::abs(b.watts); });
  for (const EnclosureFigure::Exchange& exchange : sorted) {
    const bool forward = exchange.watts >= 0;
    addRow(nameOf(project.parts, forward ? exchange.partA : exchange.partB) + " → " +
               nameOf(project.parts, forward ? exchange.partB : exchange.partA),
           std::abs(exchange.watts));
  }
  for (const EnclosureFigure::SurfaceNet& surface : figure->surfaces)
    addRow(tr("into %1").arg(nameOf(project.surfaces, surface.surface)), surface.watts);
  if (figure->opening != 0)
    addRow(tr("through the opening"), figure->opening);
  constexpr int mostShown = 12;
  rows_->setFixedHeight(rows_->horizontalHeader()->height() + 4 +
                        std::min(rows_->rowCount(), mostShown) * rows_->rowHeight(0));
  about_->setText(tr("%1 patches, %2 rays from each; %3 % of the view met none of them, both directions of a pair "
                     "differed by %4 %, and %5 % was moved to make the view factors consistent. With patches twice as "
                     "large the net heat of a part would change by %6 at most.")
                      .arg(figure->patches)
                      .arg(figure->rays)
                      .arg(100 * figure->escaped, 0, 'g', 2)
                      .arg(100 * figure->reciprocityError, 0, 'g', 2)
                      .arg(100 * figure->correction, 0, 'g', 2)
                      .arg(QString::fromStdString(formatQuantity(figure->patchError, Quantity::Power, {}, 2))));
}

} // namespace kiln
