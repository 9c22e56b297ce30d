// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "fields/OutlineEditor.h"

#include "fields/EditorDialog.h"
#include "fields/QuantityField.h"
#include "look/Language.h"
#include "look/Theme.h"
#include "model/Formula.h"

#include <QHBoxLayout>
#include <QHeaderView>
#include <QKeyEvent>
#include <QLabel>
#include <QMouseEvent>
#include <QPainter>
#include <QPainterPath>
#include <QPushButton>
#include <QTableWidget>
#include <algorithm>
#include <cmath>

namespace kiln
{
namespace
{

constexpr double grid = 1e-3; // m, dragged points snap to it
constexpr double reach = 9;   // px around a point

Number millimetres(double metres)
{
  const double value = std::round(metres / grid) * grid;
  return {value, plainNumber(std::round(value * 1e6) / 1e3) + " mm", false};
}

/// Points along one edge, arcs in pieces, m.
std::vector<QPointF> edgePoints(const OutlinePoint& from, const OutlinePoint& to)
{
  const QPointF a(from.a.si, from.b.si);
  const QPointF b(to.a.si, to.b.si);
  const double h = from.bulge.si;
  const QPointF along = b - a;
  const double length = std::hypot(along.x(), along.y());
  if (std::abs(h) < 1e-9 || length < 1e-12)
    return {a, b};
  const QPointF right(along.y() / length, -along.x() / length);
  const double radius = (length * length / 4 + h * h) / (2 * std::abs(h));
  const double sign = h > 0 ? 1 : -1;
  const QPointF centre = (a + b) / 2 + right * (h - sign * radius);
  const double from0 = std::atan2(a.y() - centre.y(), a.x() - centre.x());
  double turn = std::atan2(b.y() - centre.y(), b.x() - centre.x()) - from0;
  while (sign > 0 && turn < 0)
    turn += 2 * M_PI;
  while (sign < 0 && turn > 0)
    turn -= 2 * M_PI;
  constexpr int pieces = 24;
  std::vector<QPointF> points;
  for (int i = 0; i <= pieces; ++i) {
    const double angle = from0 + turn * i / pieces;
    points.emplace_back(centre.x() + radius * std::cos(angle), centre.y() + radius * std::sin(angle));
  }
  return points;
}

} // namespace

OutlineView::OutlineView(bool turned, QWidget* parent) : QWidget(parent), turned_(turned)
{
  setObjectName("outlineView");
  setMinimumSize(260, 240);
  setMouseTracking(true);
}

void OutlineView::setOutline(std::vector<OutlinePoint> outline)
{
  outline_ = std::move(outline);
  if (dragged_ < 0)
    fit();
  update();
}

void OutlineView::setCurrent(int index)
{
  current_ = index;
  update();
}

void OutlineView::resizeEvent(QResizeEvent* /*event*/) { fit(); }

void OutlineView::fit()
{
  if (outline_.empty())
    return;
  QRectF box;
  for (std::size_t i = 0; i < outline_.size(); ++i)
    for (const QPointF& p : edgePoints(outline_[i], outline_[(i + 1) % outline_.size()]))
      box = box.isNull() ? QRectF(p, QSizeF(1e-9, 1e-9)) : box.united(QRectF(p, QSizeF(1e-9, 1e-9)));
  if (turned_)
    box.setLeft(std::min(box.left(), 0.0));
  constexpr double share = 0.8;
  scale_ = share * std::min(width() / std::max(box.width(), 1e-4), height() / std::max(box.height(), 1e-4));
  centre_ = box.center();
}

QPointF OutlineView::pixelOf(double a, double b) const
{
  return {width() / 2.0 + (a - centre_.x()) * scale_, height() / 2.0 - (b - centre_.y()) * scale_};
}

QPointF OutlineView::placeOf(const QPointF& pixel) const
{
  return {centre_.x() + (pixel.x() - width() / 2.0) / scale_, centre_.y() - (pixel.y() - height() / 2.0) / scale_};
}

int OutlineView::pointAt(const QPointF& pixel) const
{
  for (std::size_t i = 0; i < outline_.size(); ++i)
    if (QLineF(pixelOf(outline_[i].a.si, outline_[i].b.si), pixel).length() < reach)
      return static_cast<int>(i);
  return -1;
}

void OutlineView::paintEvent(QPaintEvent* /*event*/)
{
  const Theme& t = theme();
  QPainter painter(this);
  painter.setRenderHint(QPainter::Antialiasing);
  painter.fillRect(rect(), t.raised);
  const double step = std::pow(10, std::ceil(std::log10(20 / scale_))); // m between grid lines
  painter.setPen(QPen(t.line, 1));
  const QPointF low = placeOf({0.0, double(height())});
  const QPointF high = placeOf({double(width()), 0.0});
  for (double x = std::ceil(low.x() / step) * step; x < high.x(); x += step)
    painter.drawLine(QPointF(pixelOf(x, 0).x(), 0), QPointF(pixelOf(x, 0).x(), height()));
  for (double y = std::ceil(low.y() / step) * step; y < high.y(); y += step)
    painter.drawLine(QPointF(0, pixelOf(0, y).y()), QPointF(width(), pixelOf(0, y).y()));
  if (turned_) {
    painter.setPen(QPen(t.accent, 1.5, Qt::DashDotLine));
    painter.drawLine(QPointF(pixelOf(0, 0).x(), 0), QPointF(pixelOf(0, 0).x(), height()));
  }
  QPainterPath path;
  for (std::size_t i = 0; i < outline_.size(); ++i)
    for (const QPointF& p : edgePoints(outline_[i], outline_[(i + 1) % outline_.size()]))
      path.elementCount() == 0 ? path.moveTo(pixelOf(p.x(), p.y())) : path.lineTo(pixelOf(p.x(), p.y()));
  QColor fill = t.accent;
  fill.setAlpha(40);
  painter.setBrush(fill);
  painter.setPen(QPen(t.accent, 1.6));
  painter.drawPath(path);
  for (std::size_t i = 0; i < outline_.size(); ++i) {
    const QPointF p = pixelOf(outline_[i].a.si, outline_[i].b.si);
    const bool current = static_cast<int>(i) == current_;
    painter.setBrush(current ? t.accent : t.raised);
    painter.drawRect(QRectF(p.x() - 4, p.y() - 4, 8, 8));
    painter.setPen(t.text);
    painter.drawText(p + QPointF(7, -6), QString::number(i + 1));
    painter.setPen(QPen(t.accent, 1.6));
  }
  painter.setPen(t.quiet);
  painter.drawText(rect().adjusted(6, 4, -6, -4), Qt::AlignBottom | Qt::AlignLeft,
                   tr("grid %1 mm").arg(step * 1e3, 0, 'g', 3) + (turned_ ? tr(" · axis dashed") : QString()));
}

void OutlineView::mousePressEvent(QMouseEvent* event)
{
  dragged_ = pointAt(event->position());
  if (dragged_ >= 0)
    emit pointPressed(dragged_);
}

void OutlineView::mouseMoveEvent(QMouseEvent* event)
{
  if (dragged_ < 0)
    return;
  const QPointF place = placeOf(event->position());
  outline_[static_cast<std::size_t>(dragged_)].a = millimetres(place.x());
  outline_[static_cast<std::size_t>(dragged_)].b = millimetres(place.y());
  update();
}

void OutlineView::mouseReleaseEvent(QMouseEvent* /*event*/)
{
  const int moved = std::exchange(dragged_, -1);
  if (moved >= 0) {
    const OutlinePoint& p = outline_[static_cast<std::size_t>(moved)];
    emit pointMoved(moved, p.a.si, p.b.si);
  }
}

void OutlineView::mouseDoubleClickEvent(QMouseEvent* event)
{
  if (pointAt(event->position()) >= 0)
    return;
  const QPointF place = placeOf(event->position());
  emit pointWanted(place.x(), place.y());
}

OutlineEditor::OutlineEditor(Document& document, std::string partId, std::string stepId, QWidget* parent)
    : QDialog(parent), document_(document), partId_(std::move(partId)), stepId_(std::move(stepId)),
      view_(new OutlineView(isTurned())), table_(new QTableWidget(0, 3)), message_(new QLabel)
{
  setObjectName("outlineEditor");
  const Part* part = findById(document.project().parts, partId_);
  setWindowTitle(tr("Outline of %1").arg(QString::fromStdString(part != nullptr ? part->name : partId_)));
  table_->setObjectName("outlineTable");
  table_->setHorizontalHeaderLabels(isTurned() ? QStringList{tr("r"), tr("z"), tr("Arc height after it")}
                                               : QStringList{tr("x"), tr("y"), tr("Arc height after it")});
  table_->horizontalHeader()->setSectionResizeMode(QHeaderView::Stretch);
  message_->setObjectName("outlineMessage");
  QHBoxLayout* buttons = layOutEditor(*this, view_, table_, message_);
  const auto button = [&](const QString& text, const char* name, auto&& action) {
    connect(addButton(*buttons, text, name), &QPushButton::clicked, this, action);
  };
  button(tr("Paste coordinates"), "outlinePaste", &OutlineEditor::paste);
  button(tr("Add a point"), "outlineAdd", [this] {
    const int row = std::max(table_->currentRow(), 0);
    apply(tr("Add an outline point"), [row](std::vector<OutlinePoint>& outline) {
      const auto at = std::min(static_cast<std::size_t>(row), outline.size() - 1);
      const OutlinePoint& next = outline[(at + 1) % outline.size()];
      const OutlinePoint middle{
          millimetres((outline[at].a.si + next.a.si) / 2), millimetres((outline[at].b.si + next.b.si) / 2), {}};
      outline.insert(outline.begin() + static_cast<std::ptrdiff_t>(at) + 1, middle);
    });
  });
  button(tr("Remove the point"), "outlineRemove", [this] {
    const int row = table_->currentRow();
    if (row >= 0 && table_->rowCount() > 3)
      apply(tr("Remove an outline point"),
            [row](std::vector<OutlinePoint>& outline) { outline.erase(outline.begin() + row); });
    else
      say(tr("An outline needs at least three points; choose one in the table."), true);
  });
  buttons->addStretch();
  button(tr("Close"), "outlineClose", &QDialog::accept);
  connect(table_, &QTableWidget::cellChanged, this, &OutlineEditor::cellEdited);
  connect(table_, &QTableWidget::currentCellChanged, this, [this](int row) { view_->setCurrent(row); });
  connect(view_, &OutlineView::pointPressed, table_, [this](int row) { table_->setCurrentCell(row, 0); });
  connect(view_, &OutlineView::pointMoved, this, [this](int row, double a, double b) {
    apply(tr("Move an outline point"), [=](std::vector<OutlinePoint>& outline) {
      outline[static_cast<std::size_t>(row)].a = millimetres(a);
      outline[static_cast<std::size_t>(row)].b = millimetres(b);
    });
  });
  connect(view_, &OutlineView::pointWanted, this, [this](double a, double b) {
    const int row = table_->currentRow() >= 0 ? table_->currentRow() : table_->rowCount() - 1;
    apply(tr("Add an outline point"), [=](std::vector<OutlinePoint>& outline) {
      outline.insert(outline.begin() + row + 1, {millimetres(a), millimetres(b), {}});
    });
  });
  connect(&document, &Document::projectChanged, this, &OutlineEditor::load);
  resize(820, 440);
  load();
}

std::vector<OutlinePoint>* OutlineEditor::outlineIn(Project& project) const
{
  Part* part = findById(project.parts, partId_);
  if (part == nullptr)
    return nullptr;
  Form* form = stepId_.empty() ? &part->shape.form : nullptr;
  for (ShapeStep& step : part->steps) {
    if (step.id != stepId_)
      continue;
    if (auto* join = std::get_if<Join>(&step.action))
      form = &join->shape.form;
    if (auto* cut = std::get_if<Cut>(&step.action))
      form = &cut->shape.form;
    if (auto* split = std::get_if<SplitFace>(&step.action))
      if (auto* line = std::get_if<SplitByOutline>(&split->line))
        return &line->outline;
  }
  if (form == nullptr)
    return nullptr;
  if (auto* prism = std::get_if<Prism>(form))
    return &prism->outline;
  if (auto* turned = std::get_if<TurnedProfile>(form))
    return &turned->outline;
  if (auto* flat = std::get_if<FlatOutline>(form))
    return &flat->outline;
  return nullptr;
}

bool OutlineEditor::isTurned() const
{
  Project copy = document_.project();
  const std::vector<OutlinePoint>* outline = outlineIn(copy);
  bool turned = false;
  for (Part& part : copy.parts) {
    const auto check = [&](Form& form) {
      if (auto* profile = std::get_if<TurnedProfile>(&form); profile != nullptr && &profile->outline == outline)
        turned = true;
    };
    check(part.shape.form);
    for (ShapeStep& step : part.steps) {
      if (auto* join = std::get_if<Join>(&step.action))
        check(join->shape.form);
      if (auto* cut = std::get_if<Cut>(&step.action))
        check(cut->shape.form);
    }
  }
  return turned;
}

void OutlineEditor::load()
{
  Project copy = document_.project();
  const std::vector<OutlinePoint>* outline = outlineIn(copy);
  if (outline == nullptr) {
    close(); // the part or its outline is gone
    return;
  }
  const QSignalBlocker quiet(table_);
  table_->setRowCount(static_cast<int>(outline->size()));
  for (int row = 0; row < table_->rowCount(); ++row) {
    const OutlinePoint& point = (*outline)[static_cast<std::size_t>(row)];
    const auto text = [](const Number& number) {
      return number.formula ? QString::fromStdString(number.text)
                            : shownText(number, Quantity::Length, TemperatureUnit::Celsius);
    };
    table_->setItem(row, 0, new QTableWidgetItem(text(point.a)));
    table_->setItem(row, 1, new QTableWidgetItem(text(point.b)));
    table_->setItem(row, 2, new QTableWidgetItem(point.bulge == Number{} ? QString() : text(point.bulge)));
  }
  view_->setOutline(*outline);
}

void OutlineEditor::apply(const QString& name, const std::function<void(std::vector<OutlinePoint>&)>& change)
{
  say({}, false);
  document_.edit(name, [&](Project& project) {
    if (std::vector<OutlinePoint>* outline = outlineIn(project))
      change(*outline);
  });
}

void OutlineEditor::cellEdited(int row, int column)
{
  const QString typed = table_->item(row, column)->text().trimmed();
  Number number;
  if (!typed.isEmpty() || column < 2) {
    const auto entry = readEntry(document_.project(), typed.toStdString(), Quantity::Length);
    if (!entry) {
      say(inWords(entry.error()), true);
      load(); // the old value is back
      return;
    }
    number = entry->number;
    bool bare = false;
    typed.toDouble(&bare);
    if (bare)
      number.text += " mm";
  }
  apply(tr("Outline point %1").arg(row + 1), [&](std::vector<OutlinePoint>& outline) {
    OutlinePoint& point = outline[static_cast<std::size_t>(row)];
    (column == 0 ? point.a : column == 1 ? point.b : point.bulge) = number;
  });
}

void OutlineEditor::paste()
{
  std::vector<OutlinePoint> pasted;
  for (const QStringList& cells : pastedCells()) {
    const auto a = parseQuantity(cells[0].toStdString(), Quantity::Length);
    const auto b = parseQuantity(cells[1].toStdString(), Quantity::Length);
    if (!a || !b)
      continue; // a heading
    const auto bulge = cells.size() > 2 ? parseQuantity(cells[2].toStdString(), Quantity::Length)
                                        : Expected<ParsedQuantity>(ParsedQuantity{});
    OutlinePoint point{{a->si, cells[0].toStdString() + " mm"}, {b->si, cells[1].toStdString() + " mm"}, {}};
    if (bulge && bulge->si != 0)
      point.bulge = {bulge->si, cells[2].toStdString() + " mm"};
    pasted.push_back(point);
  }
  if (pasted.size() < 3) {
    say(tr("The clipboard holds no three points: copy two columns of millimetres, a third for arc heights."), true);
    return;
  }
  apply(tr("Paste an outline"), [&](std::vector<OutlinePoint>& outline) { outline = pasted; });
}

void OutlineEditor::say(const QString& sentence, bool wrong)
{
  message_->setText(sentence);
  message_->setStyleSheet(wrong ? "color: " + theme().bad.name() : QString());
}

void OutlineEditor::keyPressEvent(QKeyEvent* event)
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
