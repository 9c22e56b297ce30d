// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "fields/SegmentsEditor.h"

#include "fields/EditorDialog.h"
#include "fields/QuantityField.h"
#include "look/Language.h"
#include "look/Theme.h"

#include <QFormLayout>
#include <QHBoxLayout>
#include <QHeaderView>
#include <QKeyEvent>
#include <QLabel>
#include <QPushButton>
#include <QTableWidget>
#include <QVBoxLayout>
#include <cmath>

namespace kiln
{

SegmentsEditor::SegmentsEditor(Quantity quantity, TemperatureUnit unit, const std::vector<TablePoint>& points, Use use,
                               QWidget* parent)
    : QDialog(parent), quantity_(quantity), unit_(unit), use_(std::move(use)),
      start_(new QuantityField(quantity, Range::Any)), rows_(new QTableWidget(0, 3)), message_(new QLabel)
{
  setObjectName("segmentsEditor");
  setWindowTitle(tr("Ramps and holds"));
  auto* layout = new QVBoxLayout(this);
  auto* form = new QFormLayout;
  start_->setObjectName("segmentsStart");
  start_->setTemperatureUnit(unit);
  start_->setNumber(points.empty() ? Number{} : points.front().value);
  form->addRow(tr("It begins at"), start_);
  layout->addLayout(form);
  rows_->setObjectName("segments");
  const bool rates = quantity == Quantity::Temperature;
  rows_->setHorizontalHeaderLabels({tr("then to"),
                                    rates ? tr("by (120 K/h) or within (2 h)") : tr("within (2 h), or at once"),
                                    tr("and stays for")});
  rows_->horizontalHeader()->setSectionResizeMode(QHeaderView::Stretch);
  layout->addWidget(rows_);
  auto* buttons = new QHBoxLayout;
  const auto button = [&](const QString& label, const char* name, auto&& action) {
    connect(addButton(*buttons, label, name), &QPushButton::clicked, this, action);
  };
  button(tr("Add a stretch"), "segmentsAdd", [this] { addRow({}, {}, {}); });
  button(tr("Remove the stretch"), "segmentsRemove", [this] {
    rows_->removeRow(rows_->currentRow());
    check();
  });
  buttons->addStretch();
  button(tr("Use"), "segmentsUse", [this] {
    QString problem;
    if (const auto found = this->points(problem)) {
      use_(*found);
      accept();
    }
  });
  button(tr("Close"), "segmentsClose", [this] { reject(); });
  message_->setObjectName("segmentsMessage");
  message_->setWordWrap(true);
  layout->addWidget(message_);
  layout->addLayout(buttons);
  for (const RampHold& stretch : stretchesOf(points))
    addRow(text(stretch.target, quantity_), stretch.within > 0 ? text(stretch.within, Quantity::Time) : QString(),
           stretch.hold > 0 ? text(stretch.hold, Quantity::Time) : QString());
  if (rows_->rowCount() == 0)
    addRow({}, {}, {});
  connect(rows_, &QTableWidget::itemChanged, this, &SegmentsEditor::check);
  connect(start_, &QuantityField::committed, this, &SegmentsEditor::check);
  resize(560, 320);
  check();
}

QString SegmentsEditor::text(double si, Quantity quantity) const
{
  return QString::fromStdString(formatQuantity(si, quantity, unit_, 6));
}

void SegmentsEditor::addRow(const QString& target, const QString& way, const QString& hold)
{
  const QSignalBlocker quiet(rows_);
  const int row = rows_->rowCount();
  rows_->insertRow(row);
  rows_->setItem(row, 0, new QTableWidgetItem(target));
  rows_->setItem(row, 1, new QTableWidgetItem(way));
  rows_->setItem(row, 2, new QTableWidgetItem(hold));
}

std::optional<std::vector<TablePoint>> SegmentsEditor::points(QString& problem) const
{
  std::vector<RampHold> stretches;
  const double start = start_->number() ? start_->number()->si : 0;
  double before = start;
  for (int row = 0; row < rows_->rowCount(); ++row) {
    const auto cell = [&](int column) {
      const QTableWidgetItem* item = rows_->item(row, column);
      return item != nullptr ? item->text().trimmed().toStdString() : std::string();
    };
    const auto wrong = [&](const Failure& failure) {
      problem = tr("Stretch %1: %2").arg(row + 1).arg(inWords(failure));
      return std::nullopt;
    };
    if (cell(0).empty() && cell(1).empty() && cell(2).empty())
      continue;
    const auto target = parseQuantity(cell(0), quantity_, unit_);
    if (!target)
      return wrong(target.error());
    RampHold stretch{target->si, 0, 0};
    if (!cell(1).empty()) {
      const auto time = parseQuantity(cell(1), Quantity::Time, unit_);
      const auto rate = parseQuantity(cell(1), Quantity::TemperatureRate, unit_);
      const bool byRate = !time && rate && quantity_ == Quantity::Temperature && rate->si != 0;
      if (!time && !byRate)
        return wrong(time.error());
      stretch.within = byRate ? std::abs((target->si - before) / rate->si) : time->si;
    }
    if (!cell(2).empty()) {
      const auto hold = parseQuantity(cell(2), Quantity::Time, unit_);
      if (!hold)
        return wrong(hold.error());
      stretch.hold = hold->si;
    }
    if (stretch.within < 0 || stretch.hold < 0) {
      problem = tr("Stretch %1: Times cannot be negative.").arg(row + 1);
      return std::nullopt;
    }
    before = stretch.target;
    stretches.push_back(stretch);
  }
  if (stretches.empty())
    problem = tr("There is no stretch yet: say to which value it goes, how fast, and how long it stays.");
  return stretches.empty() ? std::nullopt : std::optional(pointsOf(start, stretches));
}

void SegmentsEditor::check()
{
  QString problem;
  const auto found = points(problem);
  message_->setText(found ? tr("%1 in all.").arg(text(found->back().at.si, Quantity::Time)) : problem);
  message_->setStyleSheet(found ? QString() : "color: " + theme().bad.name());
}

void SegmentsEditor::keyPressEvent(QKeyEvent* event)
{
  if (event->key() == Qt::Key_Return || event->key() == Qt::Key_Enter)
    return; // it ends the editing of a cell, not the dialog
  QDialog::keyPressEvent(event);
}

DutyEditor::DutyEditor(Quantity quantity, TemperatureUnit unit, const Number& on, Use use, QWidget* parent)
    : QDialog(parent)
{
  setObjectName("dutyEditor");
  setWindowTitle(tr("Repeating on and off"));
  auto* form = new QFormLayout(this);
  const auto field = [&](const QString& label, const char* name, Quantity kind, Range range, const Number& number) {
    auto* edit = new QuantityField(kind, range);
    edit->setObjectName(name);
    edit->setTemperatureUnit(unit);
    edit->setNumber(number);
    form->addRow(label, edit);
    return edit;
  };
  auto* high = field(tr("On, it is"), "dutyOn", quantity, Range::Any, on);
  auto* low = field(tr("off, it is"), "dutyOff", quantity, Range::Any, {0, {}, false});
  auto* period = field(tr("One cycle takes"), "dutyPeriod", Quantity::Time, Range::Positive, {60, "60 s", false});
  auto* share = field(tr("and is on for"), "dutyShare", Quantity::Time, Range::Positive, {15, "15 s", false});
  auto* message = new QLabel;
  message->setObjectName("dutyMessage");
  message->setStyleSheet("color: " + theme().bad.name());
  form->addRow(message);
  auto* buttons = new QHBoxLayout;
  const auto button = [&](const QString& label, const char* name, auto&& action) {
    connect(addButton(*buttons, label, name), &QPushButton::clicked, this, action);
  };
  buttons->addStretch();
  button(tr("Use"), "dutyUse", [=, this, use = std::move(use)] {
    const double cycle = period->number()->si;
    const double working = share->number()->si;
    if (working >= cycle)
      return message->setText(tr("It must be on for less than the whole cycle."));
    use(dutyCycle(high->number()->si, low->number()->si, cycle, working / cycle));
    accept();
  });
  button(tr("Close"), "dutyClose", [this] { reject(); });
  form->addRow(buttons);
}

} // namespace kiln
