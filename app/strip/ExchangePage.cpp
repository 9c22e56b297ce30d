// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "strip/ExchangePage.h"

#include "look/Theme.h"
#include "scene/ColorMap.h"

#include <QApplication>
#include <QClipboard>
#include <QComboBox>
#include <QHBoxLayout>
#include <QHeaderView>
#include <QLabel>
#include <QTableWidget>
#include <QToolButton>
#include <QVBoxLayout>
#include <algorithm>
#include <cmath>
#include <map>

namespace kiln
{
namespace
{

const std::string openingId = "?opening";

/// Net heat from the first to the second, W, by pairs in both orders.
std::map<std::pair<std::string, std::string>, double> heatBetween(const EnclosureFigure& figure)
{
  std::map<std::pair<std::string, std::string>, double> heat;
  const auto add = [&](const std::string& a, const std::string& b, double watts) {
    heat[{a, b}] += watts;
    heat[{b, a}] -= watts;
  };
  for (const EnclosureFigure::Exchange& exchange : figure.exchanges)
    add(exchange.partA, exchange.partB, exchange.watts);
  for (const EnclosureFigure::OpeningShare& share : figure.throughOpening)
    add(share.part, openingId, share.watts);
  return heat;
}

QString wattsText(const Project& project, double watts)
{
  return QString::fromStdString(formatQuantity(watts, heatQuantity(project), {}, 3));
}

} // namespace

ExchangePage::ExchangePage(Document& document, QWidget* parent)
    : QWidget(parent), document_(document), enclosure_(new QComboBox), about_(new QLabel), matrix_(new QTableWidget)
{
  auto* layout = new QVBoxLayout(this);
  layout->setContentsMargins(6, 2, 6, 4);
  layout->setSpacing(3);
  auto* head = new QHBoxLayout;
  enclosure_->setObjectName("exchangeEnclosure");
  enclosure_->setAccessibleName(tr("Enclosure"));
  head->addWidget(enclosure_);
  about_->setProperty("role", "quiet");
  about_->setObjectName("exchangeAbout");
  about_->setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Preferred);
  head->addWidget(about_, 1);
  auto* copy = new QToolButton;
  copy->setText(tr("Copy"));
  copy->setObjectName("exchangeCopy");
  copy->setToolTip(tr("Copy the whole matrix for a spreadsheet"));
  connect(copy, &QToolButton::clicked, this, [this] { QApplication::clipboard()->setText(text()); });
  head->addWidget(copy);
  layout->addLayout(head);
  matrix_->setObjectName("exchangeMatrix");
  matrix_->setAccessibleName(tr("Who heats whom"));
  matrix_->setEditTriggers(QAbstractItemView::NoEditTriggers);
  matrix_->setSelectionMode(QAbstractItemView::ContiguousSelection);
  matrix_->horizontalHeader()->setSectionResizeMode(QHeaderView::ResizeToContents);
  matrix_->verticalHeader()->setSectionResizeMode(QHeaderView::Fixed);
  matrix_->verticalHeader()->setDefaultSectionSize(fontMetrics().height() + 8);
  layout->addWidget(matrix_, 1);
  connect(enclosure_, &QComboBox::activated, this, &ExchangePage::refresh);
  connect(&document, &Document::resultChanged, this, &ExchangePage::refresh);
  connect(&document, &Document::shownCaseChanged, this, &ExchangePage::refresh);
  refresh();
}

const EnclosureFigure* ExchangePage::shownFigure() const
{
  const auto result = document_.shownState().result;
  if (!result || result->enclosures.empty())
    return nullptr;
  const auto wanted = enclosure_->currentData().toString().toStdString();
  for (const EnclosureFigure& figure : result->enclosures)
    if (figure.id == wanted)
      return &figure;
  return &result->enclosures.front();
}

void ExchangePage::refresh()
{
  const auto result = document_.shownState().result;
  const EnclosureFigure* figure = shownFigure();
  enclosure_->clear();
  if (result)
    for (const EnclosureFigure& one : result->enclosures) {
      const Enclosure* own = findById(document_.shownProject().enclosures, one.id);
      enclosure_->addItem(QString::fromStdString(own != nullptr ? own->name : one.id), QString::fromStdString(one.id));
    }
  enclosure_->setVisible(enclosure_->count() > 0);
  matrix_->setVisible(figure != nullptr);
  if (figure == nullptr) {
    about_->setText(document_.shownProject().enclosures.empty()
                        ? tr("No enclosure: readiness offers one for every space inside the model.")
                        : tr("Solve to see who heats whom."));
    return;
  }
  enclosure_->setCurrentIndex(enclosure_->findData(QString::fromStdString(figure->id)));
  const bool run = result->transient;
  about_->setText(tr("Net heat by radiation from the row to the column%1. Patches twice as large would change a part "
                     "by %2 at most.")
                      .arg(run ? tr(", at the end of the run") : QString(),
                           wattsText(document_.shownProject(), figure->patchError)));
  about_->setToolTip(about_->text());
  fill(*figure);
}

void ExchangePage::fill(const EnclosureFigure& figure)
{
  const auto heat = heatBetween(figure);
  std::vector<std::string> ids;
  for (const auto& [pair, watts] : heat)
    if (ids.empty() || ids.back() != pair.first)
      ids.push_back(pair.first);
  std::map<std::string, double> given;
  double most = 1e-12;
  for (const auto& [pair, watts] : heat) {
    given[pair.first] += watts;
    most = std::max(most, std::abs(watts));
  }
  std::sort(ids.begin(), ids.end(), [&](const auto& a, const auto& b) { return given[a] > given[b]; });
  QStringList names;
  for (const std::string& id : ids) {
    const Part* part = findById(document_.shownProject().parts, id);
    names << (id == openingId ? tr("the opening") : QString::fromStdString(part != nullptr ? part->name : id));
  }
  const int count = static_cast<int>(ids.size());
  matrix_->clear();
  matrix_->setRowCount(count);
  matrix_->setColumnCount(count + 1);
  matrix_->setVerticalHeaderLabels(names);
  matrix_->setHorizontalHeaderLabels(QStringList(names) << tr("gives in all"));
  for (int row = 0; row < count; ++row)
    for (int column = 0; column <= count; ++column) {
      auto* cell = new QTableWidgetItem;
      cell->setTextAlignment(Qt::AlignRight | Qt::AlignVCenter);
      const auto own = column < count
                           ? heat.find({ids[static_cast<std::size_t>(row)], ids[static_cast<std::size_t>(column)]})
                           : heat.end();
      if (column == count) {
        cell->setText(wattsText(document_.shownProject(), given[ids[static_cast<std::size_t>(row)]]));
      } else if (own == heat.end()) {
        cell->setText(row == column ? QString() : QString("–"));
      } else if (own->second > 0) { // what is given; the other half of the matrix says the same of the receivers
        cell->setText(wattsText(document_.shownProject(), own->second));
        const QColor glow = kilnGlow(0.25 + 0.6 * std::sqrt(own->second / most));
        cell->setBackground(glow);
        cell->setForeground(glow.lightnessF() > 0.5 ? QColor(20, 20, 22) : QColor(250, 248, 244));
        cell->setToolTip(tr("%1 heats %2 with %3").arg(names[row], names[column], cell->text()));
      }
      matrix_->setItem(row, column, cell);
    }
}

QString ExchangePage::text() const
{
  QString all = tr("from, to");
  for (int column = 0; column < matrix_->columnCount(); ++column)
    all += "\t" + matrix_->horizontalHeaderItem(column)->text();
  for (int row = 0; row < matrix_->rowCount(); ++row) {
    all += "\n" + matrix_->verticalHeaderItem(row)->text();
    for (int column = 0; column < matrix_->columnCount(); ++column)
      all += "\t" + matrix_->item(row, column)->text();
  }
  return all + "\n";
}

} // namespace kiln
