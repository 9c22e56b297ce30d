// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "strip/LabelsPage.h"

#include "base/At.h"
#include "fields/QuantityField.h"
#include "look/Icons.h"
#include "look/Language.h"
#include "mesh/SnapPlaces.h"
#include "model/Edit.h"
#include "strip/StripTable.h"

#include <QHBoxLayout>
#include <QHeaderView>
#include <QLabel>
#include <QTableWidget>
#include <QToolButton>
#include <QVBoxLayout>
#include <algorithm>

namespace kiln
{
namespace
{

enum Column { Name, Value, Shows, In, X, Y, Z, ColumnCount };

QString lengthText(double metres) { return QString::fromStdString(formatQuantity(metres, Quantity::Length, {}, 6)); }

} // namespace

LabelsPage::LabelsPage(Document& document, Preferences& preferences, QWidget* parent)
    : QWidget(parent), document_(document), preferences_(preferences), labels_(document),
      table_(new QTableWidget(0, ColumnCount)), empty_(new QLabel)
{
  setObjectName("labelsPage");
  auto* layout = new QVBoxLayout(this);
  layout->setContentsMargins(8, 0, 8, 2);
  layout->setSpacing(2);
  auto* head = new QHBoxLayout;
  const auto button = [&](const char* iconName, const QString& tip, const char* name, auto slot) {
    QToolButton* tool = stripButton({}, tip, name);
    setIcon(*tool, iconName);
    connect(tool, &QToolButton::clicked, this, slot);
    head->addWidget(tool);
  };
  for (std::size_t axis = 0; axis < 3; ++axis) {
    const QString name(QChar(static_cast<char16_t>(u'x' + axis)));
    head->addWidget(new QLabel(name));
    place_[axis] = new QuantityField(Quantity::Length, Range::Any);
    place_[axis]->setObjectName("labelAt" + name.toUpper());
    place_[axis]->setAccessibleName(tr("Coordinate %1 of a label").arg(name));
    place_[axis]->setNumber(Number{0, "0 mm"});
    place_[axis]->setFixedWidth(fontMetrics().averageCharWidth() * 11);
    head->addWidget(place_[axis]);
  }
  button("list-add", tr("Pin a label at these coordinates"), "labelAdd", &LabelsPage::addTyped);
  button("snap-node",
         tr("Move the chosen labels to the nearest corner, middle of an edge or face, or centre of an arc"),
         "labelSnap", &LabelsPage::snapChosen);
  button("view-visible", tr("Make a watch of each of the chosen labels"), "labelWatch", &LabelsPage::watchChosen);
  button("list-remove", tr("Remove the chosen labels (Del)"), "labelRemove", &LabelsPage::removeChosen);
  head->addStretch();
  addTableButtons(*head, *table_, "labels");
  layout->addLayout(head);
  empty_->setProperty("role", "quiet");
  empty_->setAlignment(Qt::AlignCenter);
  empty_->setText(tr("No labels yet. Pin one: a click with the right button in the scene, Ctrl+Alt+L over a place, or "
                     "coordinates above."));
  layout->addWidget(empty_, 1);
  dressTable(*table_, "labels", tr("Labels"));
  table_->setSelectionBehavior(QAbstractItemView::SelectRows);
  table_->setSelectionMode(QAbstractItemView::ExtendedSelection);
  table_->setEditTriggers(QAbstractItemView::DoubleClicked | QAbstractItemView::EditKeyPressed);
  table_->setHorizontalHeaderLabels({tr("Label"), tr("Value"), tr("Shows"), tr("In"), "x", "y", "z"});
  layout->addWidget(table_, 1);
  connect(table_, &QTableWidget::cellChanged, this, [this](int row, int column) {
    if (!filling_ && column == Name)
      takeName(row);
  });
  const auto anew = [this] {
    if (isVisible())
      refresh();
  };
  for (auto signal : {&Document::resultChanged, &Document::shownCaseChanged, &Document::projectChanged})
    connect(&document, signal, this, anew);
  connect(&preferences, &Preferences::unitChanged, this, anew);
}

void LabelsPage::showEvent(QShowEvent* event)
{
  QWidget::showEvent(event);
  refresh();
}

void LabelsPage::refresh()
{
  filling_ = true;
  const std::vector<LabelReading> readings = labels_.read();
  empty_->setVisible(readings.empty());
  table_->setVisible(!readings.empty());
  table_->setRowCount(static_cast<int>(readings.size()));
  const auto mesh = document_.shownMesh();
  int row = 0;
  for (const LabelReading& reading : readings) {
    const Label& label = *findById(document_.project().labels, reading.id);
    auto* name = new QTableWidgetItem(QString::fromStdString(label.name));
    name->setData(Qt::UserRole, QString::fromStdString(label.id));
    table_->setItem(row, Name, name);
    const auto fixed = [&](int column, QTableWidgetItem* item) {
      item->setFlags(item->flags() & ~Qt::ItemIsEditable);
      table_->setItem(row, column, item);
    };
    fixed(Value, new NumberItem(labelText(label, reading, preferences_.temperatureUnit()), reading.value.value_or(0)));
    const KindSpec& shows = describing::shownKinds[static_cast<std::size_t>(label.shown)];
    fixed(Shows, new QTableWidgetItem(inWords(shows.label)));
    QString in = "–";
    if (reading.part && mesh) {
      const GeometryPart& own = mesh->geometry.parts[at(*reading.part)];
      const Part* part = findById(document_.project().parts, own.id);
      in = QString::fromStdString(part != nullptr ? part->name : own.name);
    }
    fixed(In, new QTableWidgetItem(in));
    for (const int axis : {0, 1, 2})
      fixed(X + axis, new NumberItem(lengthText(reading.place[axis]), reading.place[axis]));
    ++row;
  }
  table_->resizeColumnsToContents();
  filling_ = false;
}

std::vector<std::string> LabelsPage::chosen() const
{
  std::vector<std::string> ids;
  for (int row = 0; row < table_->rowCount(); ++row)
    for (int column = 0; column < ColumnCount; ++column)
      if (const QTableWidgetItem* item = table_->item(row, column); item != nullptr && item->isSelected()) {
        ids.push_back(table_->item(row, Name)->data(Qt::UserRole).toString().toStdString());
        break;
      }
  return ids;
}

void LabelsPage::addTyped()
{
  Vec3 place = Vec3::Zero();
  for (std::size_t axis = 0; axis < 3; ++axis)
    if (place_[axis]->number())
      place[static_cast<Eigen::Index>(axis)] = place_[axis]->number()->si;
  document_.edit(tr("Pin a label"),
                 [&](Project& project) { project.labels.push_back(labelAt(project, place, Shown::Temperature)); });
}

void LabelsPage::takeName(int row)
{
  const std::string id = table_->item(row, Name)->data(Qt::UserRole).toString().toStdString();
  const std::string typed = table_->item(row, Name)->text().trimmed().toStdString();
  document_.edit(tr("Rename a label"), [&](Project& project) {
    if (Label* own = findById(project.labels, id); own != nullptr && !typed.empty())
      own->name = typed;
  });
}

void LabelsPage::removeChosen()
{
  const std::vector<std::string> ids = chosen();
  document_.edit(tr("Remove labels"), [&](Project& project) {
    std::erase_if(project.labels,
                  [&](const Label& own) { return std::find(ids.begin(), ids.end(), own.id) != ids.end(); });
  });
}

/// Temperatures alone are watched at a place.
void LabelsPage::watchChosen()
{
  document_.edit(tr("Watch the labels"), [&](Project& project) {
    for (const std::string& id : chosen())
      if (const Label* label = findById(project.labels, id)) {
        Watch watch;
        watch.name = freeName(project, label->name);
        watch.id = idFromName(project, watch.name);
        watch.figure = PointFigure{label->place};
        project.watches.push_back(watch);
      }
  });
}

void LabelsPage::snapChosen()
{
  const auto mesh = document_.shownMesh();
  if (!mesh)
    return;
  const std::vector<SnapPlace> places = snapPlaces(*mesh);
  document_.edit(tr("Snap labels"), [&](Project& project) {
    for (const std::string& id : chosen())
      if (Label* label = findById(project.labels, id))
        if (const auto nearest = nearestOf(places, Vec3(label->place.x.si, label->place.y.si, label->place.z.si)))
          label->place = labelAt(project, nearest->place, label->shown).place;
  });
}

} // namespace kiln
