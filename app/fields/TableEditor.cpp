// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "fields/TableEditor.h"

#include "fields/EditorDialog.h"
#include "fields/QuantityField.h"
#include "fields/SegmentsEditor.h"
#include "io/LogFile.h"
#include "look/Language.h"
#include "look/Theme.h"

#include <QComboBox>
#include <QFileDialog>
#include <QFileInfo>
#include <QHBoxLayout>
#include <QHeaderView>
#include <QKeyEvent>
#include <QLabel>
#include <QPainter>
#include <QPainterPath>
#include <QPushButton>
#include <QTableWidget>
#include <algorithm>
#include <cmath>

namespace kiln
{

CurveView::CurveView(QWidget* parent) : QWidget(parent)
{
  setMinimumSize(240, 160);
  setObjectName("curve");
}

void CurveView::setCurve(std::vector<QPointF> points, const QString& across, const QString& up)
{
  points_ = std::move(points);
  across_ = across;
  up_ = up;
  update();
}

void CurveView::paintEvent(QPaintEvent* /*event*/)
{
  const Theme& t = theme();
  QPainter painter(this);
  painter.setRenderHint(QPainter::Antialiasing);
  const QRectF box = QRectF(rect()).adjusted(52, 12, -14, -34);
  painter.setPen(t.line);
  painter.setBrush(t.raised);
  painter.drawRect(box);
  if (points_.empty())
    return;
  double x0 = points_.front().x();
  double x1 = points_.back().x();
  double y0 = points_.front().y();
  double y1 = y0;
  for (const QPointF& p : points_) {
    y0 = std::min(y0, p.y());
    y1 = std::max(y1, p.y());
  }
  const double beyond = std::max((x1 - x0) * 0.12, 1.0); // shows that the ends are held
  const double air = y1 > y0 ? (y1 - y0) * 0.1 : std::max(std::abs(y1) * 0.1, 1e-9);
  y0 -= air;
  y1 += air;
  const auto place = [&](double x, double y) {
    return QPointF(box.left() + (x - x0 + beyond) / (x1 - x0 + 2 * beyond) * box.width(),
                   box.bottom() - (y - y0) / (y1 - y0) * box.height());
  };
  painter.setPen(QPen(t.quiet, 1, Qt::DashLine));
  painter.drawLine(place(x0 - beyond, points_.front().y()), place(x0, points_.front().y()));
  painter.drawLine(place(x1, points_.back().y()), place(x1 + beyond, points_.back().y()));
  painter.setPen(QPen(t.accent, 1.6));
  for (std::size_t i = 1; i < points_.size(); ++i)
    painter.drawLine(place(points_[i - 1].x(), points_[i - 1].y()), place(points_[i].x(), points_[i].y()));
  painter.setBrush(t.accent);
  for (const QPointF& p : points_)
    painter.drawEllipse(place(p.x(), p.y()), 2.5, 2.5);
  painter.setPen(t.quiet);
  const auto number = [](double value) { return QString::number(value, 'g', 4); };
  painter.drawText(QRectF(0, box.top() - 8, 48, 16), Qt::AlignRight | Qt::AlignVCenter, number(y1));
  painter.drawText(QRectF(0, box.bottom() - 8, 48, 16), Qt::AlignRight | Qt::AlignVCenter, number(y0));
  painter.drawText(QRectF(0, box.center().y() - 8, 48, 16), Qt::AlignRight | Qt::AlignVCenter, up_);
  painter.drawText(QRectF(box.left(), box.bottom() + 2, 90, 16), Qt::AlignLeft, number(x0));
  painter.drawText(QRectF(box.right() - 90, box.bottom() + 2, 90, 16), Qt::AlignRight, number(x1));
  painter.drawText(QRectF(box.left(), box.bottom() + 2, box.width(), 16), Qt::AlignHCenter, across_);
}

TableSubject tableOfField(const Document& document, const std::string& path)
{
  TableSubject subject;
  Project shown = document.shownProject();
  for (const Field& field : fields(shown)) {
    if (field.path != path)
      continue;
    subject.value = field.quantity;
    subject.title = inWords(field.objectName) + ": " + inWords(field.label);
    constexpr double room = 293.15; // K
    if (const std::vector<TablePoint>* table = field.table())
      subject.points = *table;
    else if (const Number* value = field.value())
      subject.points = {{{room, {}}, {value->si, {}}}};
  }
  subject.name = TableEditor::tr("Table of %1").arg(QString::fromStdString(path));
  subject.apply = [path](Project& project, std::vector<TablePoint> points, const std::optional<Schedule>&) {
    for (const Field& field : fields(project))
      if (field.path == path)
        field.assignTable(points);
  };
  return subject;
}

TableSubject scheduleOf(const Document& document, const std::string& parameterId)
{
  TableSubject subject;
  subject.at = Quantity::Time;
  const Parameter* parameter = findById(document.project().parameters, parameterId);
  if (parameter == nullptr)
    return subject;
  subject.value = parameter->quantity;
  subject.title = TableEditor::tr("%1 against time").arg(QString::fromStdString(parameter->name));
  subject.name = TableEditor::tr("Schedule of %1").arg(QString::fromStdString(parameter->name));
  subject.schedule = parameter->schedule.value_or(Schedule{});
  subject.points =
      parameter->schedule ? parameter->schedule->points : std::vector<TablePoint>{{{0, {}}, {parameter->value.si, {}}}};
  subject.apply = [parameterId](Project& project, std::vector<TablePoint> points,
                                const std::optional<Schedule>& settings) {
    Parameter* own = findById(project.parameters, parameterId);
    Schedule schedule = settings.value_or(Schedule{});
    schedule.points = std::move(points);
    own->value = {schedule.points.front().value.si, {}, false};
    own->schedule = std::move(schedule);
  };
  return subject;
}

TableEditor::TableEditor(Document& document, Preferences& preferences, TableSubject subject, QWidget* parent)
    : QDialog(parent), document_(document), preferences_(preferences), subject_(std::move(subject)),
      rows_(new QTableWidget(0, 2)), curve_(new CurveView), message_(new QLabel)
{
  setObjectName("tableEditor");
  setWindowTitle(subject_.title);
  rows_->setObjectName("tableRows");
  const auto unit = [&](Quantity quantity) {
    return QString::fromStdString(displayUnit(quantity, preferences_.temperatureUnit()));
  };
  const bool inTime = subject_.at == Quantity::Time;
  rows_->setHorizontalHeaderLabels({inTime ? tr("Time s (or 2 h)") : tr("Temperature %1").arg(unit(subject_.at)),
                                    tr("Value %1").arg(unit(subject_.value))});
  rows_->horizontalHeader()->setSectionResizeMode(QHeaderView::Stretch);
  message_->setObjectName("tableMessage");
  QHBoxLayout* buttons = layOutEditor(*this, rows_, curve_, message_);
  const auto button = [&](const QString& text, const char* name, auto&& action) {
    connect(addButton(*buttons, text, name), &QPushButton::clicked, this, action);
  };
  button(tr("Paste two columns"), "tablePaste", &TableEditor::paste);
  button(tr("Add a row"), "tableAdd", [this] { setRow(rows_->rowCount(), {}, {}); });
  button(tr("Remove the row"), "tableRemove", [this] {
    rows_->removeRow(rows_->currentRow());
    check();
  });
  if (subject_.schedule)
    button(tr("From a log…"), "tableFile", [this] {
      const QString file = QFileDialog::getOpenFileName(this, tr("A log with units in its first line"), {},
                                                        tr("Logs (*.csv *.txt *.tsv);;All files (*)"));
      if (!file.isEmpty())
        takeLog(file);
    });
  if (subject_.schedule) {
    button(tr("Ramps and holds…"), "tableSegments", &TableEditor::askForSegments);
    button(tr("On and off…"), "tableDuty", &TableEditor::askForDuty);
  }
  buttons->addStretch();
  if (subject_.schedule)
    addScheduleChoices();
  button(tr("Use the table"), "tableUse", &TableEditor::apply);
  button(tr("Close"), "tableClose", &QDialog::reject);
  connect(rows_, &QTableWidget::itemChanged, this, &TableEditor::check);
  resize(inTime ? 860 : 680, 380);
  load();
}

/// How a schedule goes on between its points and beyond them.
void TableEditor::addScheduleChoices()
{
  auto* row = new QHBoxLayout;
  const auto choice = [&](const QString& label, const char* name, const QStringList& words, int chosen, auto&& apply) {
    auto* box = new QComboBox;
    box->setObjectName(name);
    box->setAccessibleName(label);
    box->addItems(words);
    box->setCurrentIndex(chosen);
    connect(box, &QComboBox::activated, this, [this, apply](int index) {
      apply(index);
      check();
    });
    row->addWidget(new QLabel(label));
    row->addWidget(box);
  };
  Schedule& schedule = *subject_.schedule;
  choice(tr("Between its points"), "scheduleBetween", {tr("lines"), tr("steps")}, static_cast<int>(schedule.between),
         [&schedule](int index) { schedule.between = static_cast<Schedule::Between>(index); });
  choice(tr("beyond them it"), "scheduleBeyond", {tr("holds"), tr("is zero"), tr("repeats"), tr("stops the run")},
         static_cast<int>(schedule.beyond),
         [&schedule](int index) { schedule.beyond = static_cast<Schedule::Beyond>(index); });
  const auto number = [&](const QString& label, const char* name, Quantity quantity, std::optional<Number>& slot,
                          const QString& usual) {
    auto* edit = new QuantityField(quantity, Range::Any);
    edit->setObjectName(name);
    edit->setAccessibleName(label);
    edit->setPlaceholderText(usual);
    edit->setOptional(true);
    edit->setNumber(slot);
    constexpr int characters = 9;
    edit->setFixedWidth(fontMetrics().averageCharWidth() * characters);
    connect(edit, &QuantityField::committed, this, [&slot](const Number& given) { slot = given; });
    connect(edit, &QuantityField::cleared, this, [&slot] { slot.reset(); });
    row->addWidget(new QLabel(label));
    row->addWidget(edit);
  };
  number(tr("later by"), "scheduleShift", Quantity::Time, schedule.shift, "0 s");
  number(tr("times"), "scheduleScale", Quantity::Plain, schedule.scale, "1");
  row->addStretch();
  qobject_cast<QVBoxLayout*>(layout())->insertLayout(layout()->count() - 1, row);
}

void TableEditor::askForSegments()
{
  QString problem;
  const auto now = points(problem);
  auto* editor = new SegmentsEditor(
      subject_.value, preferences_.temperatureUnit(), now.value_or(std::vector<TablePoint>{}),
      [this](std::vector<TablePoint> found) {
        Schedule schedule = *subject_.schedule;
        schedule.points = std::move(found);
        schedule.between = Schedule::Between::Lines;
        take(schedule);
      },
      this);
  editor->setAttribute(Qt::WA_DeleteOnClose);
  editor->open();
}

void TableEditor::askForDuty()
{
  QString problem;
  const auto now = points(problem);
  auto* editor = new DutyEditor(
      subject_.value, preferences_.temperatureUnit(), now ? now->front().value : Number{},
      [this](const Schedule& schedule) { take(schedule); }, this);
  editor->setAttribute(Qt::WA_DeleteOnClose);
  editor->open();
}

/// Points and ways of a schedule made elsewhere; shift and scale stay.
void TableEditor::take(const Schedule& schedule)
{
  Schedule& own = *subject_.schedule;
  own.between = schedule.between;
  own.beyond = schedule.beyond;
  own.from.clear();
  findChild<QComboBox*>("scheduleBetween")->setCurrentIndex(static_cast<int>(own.between));
  findChild<QComboBox*>("scheduleBeyond")->setCurrentIndex(static_cast<int>(own.beyond));
  rows_->setRowCount(0);
  subject_.points = schedule.points;
  load();
}

double TableEditor::shown(double si, Quantity quantity) const
{
  return toDisplay(si, quantity, preferences_.temperatureUnit());
}

void TableEditor::load()
{
  const auto text = [](double value) { return QString::number(value, 'g', 8); };
  for (const TablePoint& point : subject_.points)
    setRow(rows_->rowCount(), text(shown(point.at.si, subject_.at)), text(shown(point.value.si, subject_.value)));
  check();
}

void TableEditor::setRow(int row, const QString& at, const QString& value)
{
  const QSignalBlocker quiet(rows_);
  while (rows_->rowCount() <= row)
    rows_->insertRow(rows_->rowCount());
  rows_->setItem(row, 0, new QTableWidgetItem(at));
  rows_->setItem(row, 1, new QTableWidgetItem(value));
}

void TableEditor::paste()
{
  int row = 0;
  bool cleared = false;
  for (const QStringList& cells : pastedCells()) {
    bool number = false;
    cells[0].toDouble(&number);
    if (!number)
      continue; // a heading
    if (!cleared)
      rows_->setRowCount(0);
    cleared = true;
    setRow(row++, cells[0], cells[1]);
  }
  check();
  if (!cleared) {
    message_->setProperty("role", "bad");
    message_->setText(tr("The clipboard holds no two columns of numbers. Copy them from a spreadsheet first."));
  }
}

/// Takes the first column of a log that is of this parameter's kind.
void TableEditor::takeLog(const QString& file)
{
  const auto refuse = [this](const QString& sentence) {
    message_->setProperty("role", "bad");
    message_->setText(sentence);
    message_->setStyleSheet("color: " + theme().bad.name());
  };
  const auto columns = loadLog(file.toStdString());
  if (!columns)
    return refuse(inWords(columns.error()));
  for (const LoggedColumn& column : *columns)
    if (dimensionOf(column.quantity) == dimensionOf(subject_.value)) {
      rows_->setRowCount(0);
      subject_.points = column.points;
      subject_.schedule->from = QFileInfo(file).fileName().toStdString();
      return load();
    }
  refuse(tr("None of its columns is a %1. Name the unit of the column in [ ] in the first line.")
             .arg(QString::fromStdString(displayUnit(subject_.value, preferences_.temperatureUnit()))));
}

std::optional<std::vector<TablePoint>> TableEditor::points(QString& problem) const
{
  std::vector<TablePoint> points;
  for (int row = 0; row < rows_->rowCount(); ++row) {
    const auto cell = [&](int column) {
      const QTableWidgetItem* item = rows_->item(row, column);
      return item != nullptr ? item->text().trimmed().toStdString() : std::string();
    };
    if (cell(0).empty() && cell(1).empty())
      continue;
    const auto at = parseQuantity(cell(0), subject_.at, preferences_.temperatureUnit());
    const auto value = parseQuantity(cell(1), subject_.value, preferences_.temperatureUnit());
    if (!at || !value) {
      problem = tr("Row %1: %2").arg(row + 1).arg(inWords((!at ? at.error() : value.error())));
      return std::nullopt;
    }
    points.push_back({{at->si, {}}, {value->si, {}}});
  }
  std::stable_sort(points.begin(), points.end(), [](const auto& a, const auto& b) { return a.at.si < b.at.si; });
  for (std::size_t i = 1; i < points.size(); ++i)
    if (points[i].at.si == points[i - 1].at.si) {
      problem = tr("%1 stands there twice.")
                    .arg(QString::fromStdString(
                        formatQuantity(points[i].at.si, subject_.at, preferences_.temperatureUnit())));
      return std::nullopt;
    }
  if (points.empty())
    problem = tr("The table is empty.");
  return points.empty() ? std::nullopt : std::optional(points);
}

void TableEditor::check()
{
  QString problem;
  const auto read = points(problem);
  std::vector<QPointF> drawn;
  if (read)
    for (const TablePoint& point : *read)
      drawn.emplace_back(shown(point.at.si, subject_.at), shown(point.value.si, subject_.value));
  const auto unit = [&](Quantity quantity) {
    return QString::fromStdString(displayUnit(quantity, preferences_.temperatureUnit()));
  };
  curve_->setCurve(drawn, unit(subject_.at), unit(subject_.value));
  message_->setProperty("role", read ? "quiet" : "bad");
  const QString rule = subject_.schedule ? tr("Fields whose formula uses this parameter follow it in transient cases.")
                                         : tr("Joined by straight lines; beyond the first and last temperature the "
                                              "value is held (dashed).");
  message_->setText(read ? rule : problem);
  message_->setStyleSheet(read ? QString() : "color: " + theme().bad.name());
}

void TableEditor::apply()
{
  QString problem;
  const auto read = points(problem);
  if (!read)
    return check();
  document_.edit(subject_.name, [&](Project& project) { subject_.apply(project, *read, subject_.schedule); });
  accept();
}

void TableEditor::keyPressEvent(QKeyEvent* event)
{
  if (event->matches(QKeySequence::Paste)) {
    paste();
    return;
  }
  if (event->key() == Qt::Key_Return || event->key() == Qt::Key_Enter)
    return; // it ends the editing of a cell, not the dialog
  QDialog::keyPressEvent(event);
}

} // namespace kiln
