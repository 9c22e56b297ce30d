// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "window/ImportBodies.h"

#include "units/Quantity.h"

#include <QHBoxLayout>
#include <QHeaderView>
#include <QJsonArray>
#include <QTableWidget>
#include <QToolButton>
#include <QVBoxLayout>
#include <algorithm>
#include <array>

namespace kiln
{
namespace
{

enum Column { Name, Size, Volume, Faces, Note, ColumnCount };

QString sizeText(const QJsonObject& body)
{
  QStringList sides;
  for (int i = 0; i < 3; ++i)
    sides << QString::fromStdString(
        formatQuantity(body["high"].toArray()[i].toDouble() - body["low"].toArray()[i].toDouble(), Quantity::Length));
  return sides.join(" × ");
}

QString volumeText(double cubicMetres)
{
  constexpr double litre = 1e-3;
  constexpr double cubicCentimetre = 1e-6;
  if (cubicMetres > 10)
    return QString::number(cubicMetres, 'g', 4) + " m³";
  const bool large = cubicMetres > 10 * litre;
  return QString::number(cubicMetres / (large ? litre : cubicCentimetre), 'g', 4) + (large ? " dm³" : " cm³");
}

} // namespace

ImportBodies::ImportBodies(bool choosing, QWidget* parent)
    : QWidget(parent), choosing_(choosing), table_(new QTableWidget(0, ColumnCount))
{
  auto* layout = new QVBoxLayout(this);
  layout->setContentsMargins(0, 0, 0, 0);
  table_->setObjectName("bodies");
  table_->setAccessibleName(tr("Bodies of the file"));
  table_->setHorizontalHeaderLabels({tr("Body"), tr("Size"), tr("Volume"), tr("Faces"), tr("Remarks")});
  table_->horizontalHeader()->setStretchLastSection(true);
  table_->verticalHeader()->setVisible(false);
  table_->setSelectionBehavior(QAbstractItemView::SelectRows);
  const int unit = fontMetrics().averageCharWidth();
  for (const auto& [column, characters] : {std::pair{Name, 20}, {Size, 27}, {Volume, 10}, {Faces, 6}})
    table_->setColumnWidth(column, characters * unit);
  connect(table_, &QTableWidget::itemSelectionChanged, this, [this] {
    refresh();
    emit selectionChanged();
  });
  layout->addWidget(table_, 1);
  if (choosing_)
    buildTools();
}

void ImportBodies::buildTools()
{
  auto* row = new QHBoxLayout;
  const auto add = [&](const QString& text, const char* name, const QString& tip) {
    auto* button = new QToolButton;
    button->setText(text);
    button->setObjectName(name);
    button->setToolTip(tip);
    row->addWidget(button);
    return button;
  };
  join_ = add(tr("Join the selected"), "joinSelected", tr("The selected bodies become one part"));
  joinAlike_ = add(tr("Join what is alike"), "joinAlike", tr("Copies of one body become one part"));
  apart_ = add(tr("Take apart"), "takeApart", tr("The selected bodies become parts of their own again"));
  row->addStretch();
  static_cast<QVBoxLayout*>(layout())->addLayout(row);
  connect(join_, &QToolButton::clicked, this, [this] { join(selectedRows()); });
  connect(joinAlike_, &QToolButton::clicked, this, &ImportBodies::joinAlike);
  connect(apart_, &QToolButton::clicked, this, &ImportBodies::takeApart);
  refresh();
}

void ImportBodies::clear()
{
  remember();
  table_->setRowCount(0);
  notes_.clear();
  sameAs_.clear();
  refresh();
}

void ImportBodies::remember()
{
  for (const Choice& choice : choices())
    chosen_[choice.id] = choice;
}

void ImportBodies::add(const QJsonObject& body)
{
  const int row = table_->rowCount();
  table_->insertRow(row);
  const std::string id = body["id"].toString().toStdString();
  const QString problem = body["problem"].toString();
  const bool whole = problem.isEmpty();
  const auto known = chosen_.find(id);
  auto* name = new QTableWidgetItem(known != chosen_.end() ? QString::fromStdString(known->second.name)
                                                           : body["name"].toString());
  name->setData(Qt::UserRole, QString::fromStdString(id));
  name->setFlags(whole ? Qt::ItemIsEnabled | Qt::ItemIsSelectable | Qt::ItemIsEditable |
                             (choosing_ ? Qt::ItemIsUserCheckable : Qt::NoItemFlags)
                       : Qt::ItemIsEnabled);
  if (choosing_)
    name->setCheckState(whole && (known == chosen_.end() || known->second.taken) ? Qt::Checked : Qt::Unchecked);
  table_->setItem(row, Name, name);
  notes_[id] = (whole ? body["note"].toString() : tr("skipped: ") + problem).toStdString();
  sameAs_[id] = body["sameAs"].toString().toStdString();
  const std::array<QString, ColumnCount> texts{{{},
                                                sizeText(body),
                                                whole ? volumeText(body["volume"].toDouble()) : QString(),
                                                whole ? QString::number(body["faces"].toInt()) : QString(),
                                                {}}};
  for (int column = Size; column < ColumnCount; ++column) {
    auto* item = new QTableWidgetItem(texts[static_cast<std::size_t>(column)]);
    item->setFlags(Qt::ItemIsEnabled | Qt::ItemIsSelectable);
    item->setToolTip(item->text());
    table_->setItem(row, column, item);
  }
  refresh();
}

std::string ImportBodies::idAt(int row) const
{
  return table_->item(row, Name)->data(Qt::UserRole).toString().toStdString();
}

int ImportBodies::rowOf(const std::string& id) const
{
  for (int row = 0; row < table_->rowCount(); ++row)
    if (idAt(row) == id)
      return row;
  return -1;
}

bool ImportBodies::isWhole(int row) const { return (table_->item(row, Name)->flags() & Qt::ItemIsSelectable) != 0; }
bool ImportBodies::isTicked(int row) const { return table_->item(row, Name)->checkState() == Qt::Checked; }

std::vector<int> ImportBodies::selectedRows() const
{
  std::vector<int> rows;
  for (const QModelIndex& index : table_->selectionModel()->selectedRows())
    if (isWhole(index.row()))
      rows.push_back(index.row());
  std::sort(rows.begin(), rows.end());
  return rows;
}

std::set<std::string> ImportBodies::selected() const
{
  std::set<std::string> ids;
  for (const int row : selectedRows())
    ids.insert(idAt(row));
  return ids;
}

std::vector<ImportBodies::Choice> ImportBodies::choices() const
{
  std::vector<Choice> list;
  for (int row = 0; row < table_->rowCount(); ++row) {
    if (!isWhole(row))
      continue;
    const auto into = into_.find(idAt(row));
    list.push_back({idAt(row), table_->item(row, Name)->text().trimmed().toStdString(),
                    into != into_.end() ? into->second : std::string(), !choosing_ || isTicked(row)});
  }
  return list;
}

/// The first row, or what it is joined to itself, takes the others and all that was joined to them.
void ImportBodies::join(const std::vector<int>& rows)
{
  if (rows.size() < 2)
    return;
  const auto rootOf = [this](const std::string& id) {
    const auto found = into_.find(id);
    return found != into_.end() ? found->second : id;
  };
  const std::string root = rootOf(idAt(rows.front()));
  for (const int row : rows) {
    const std::string before = rootOf(idAt(row));
    for (int other = 0; other < table_->rowCount(); ++other)
      if (rootOf(idAt(other)) == before && idAt(other) != root)
        into_[idAt(other)] = root;
  }
  refresh();
}

void ImportBodies::joinAlike()
{
  std::map<std::string, std::vector<int>> groups;
  for (int row = 0; row < table_->rowCount(); ++row)
    if (isWhole(row))
      groups[sameAs_[idAt(row)].empty() ? idAt(row) : sameAs_[idAt(row)]].push_back(row);
  for (const auto& [first, rows] : groups)
    join(rows);
}

void ImportBodies::takeApart()
{
  for (const std::string& id : selected()) {
    into_.erase(id);
    std::erase_if(into_, [&](const auto& one) { return one.second == id; });
  }
  refresh();
}

/// Remarks and buttons as they stand.
void ImportBodies::refresh()
{
  bool alike = false;
  bool joined = false;
  const auto nameOf = [this](const std::string& id) {
    const int row = rowOf(id);
    return row >= 0 ? table_->item(row, Name)->text() : QString::fromStdString(id);
  };
  for (int row = 0; row < table_->rowCount(); ++row) {
    if (table_->item(row, Note) == nullptr)
      continue;
    const std::string id = idAt(row);
    QStringList notes;
    if (!notes_[id].empty())
      notes << QString::fromStdString(notes_[id]);
    if (!sameAs_[id].empty()) {
      notes << tr("the same body as %1").arg(nameOf(sameAs_[id]));
      alike = alike || !into_.contains(id);
    }
    if (const auto into = into_.find(id); into != into_.end())
      notes << tr("one part with %1").arg(nameOf(into->second));
    table_->item(row, Note)->setText(notes.join("; "));
    table_->item(row, Note)->setToolTip(notes.join("; "));
  }
  if (!choosing_ || join_ == nullptr)
    return;
  const std::set<std::string> own = selected();
  for (const auto& [id, into] : into_)
    joined = joined || own.contains(id) || own.contains(into);
  join_->setEnabled(own.size() > 1);
  joinAlike_->setEnabled(alike);
  apart_->setEnabled(joined);
}

} // namespace kiln
