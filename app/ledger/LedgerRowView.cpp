// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "ledger/LedgerRowView.h"

#include "fields/SwitchButton.h"
#include "ledger/RowEditor.h"
#include "look/Theme.h"
#include "scene/ColorMap.h"

#include <QApplication>
#include <QDrag>
#include <QKeyEvent>
#include <QLineEdit>
#include <QMimeData>
#include <QPainter>
#include <QPainterPath>
#include <QVBoxLayout>

namespace kiln
{
namespace
{
const char* const rowMime = "application/x-usual-kiln-row";
constexpr int margin = 8, switchWide = 22, switchHigh = 11; // px
constexpr int ofKind = margin + switchWide + 8;             // where the row's own begins
} // namespace

LedgerRowView::LedgerRowView(Document& document, Preferences& preferences, LedgerRow row, QWidget* parent)
    : QWidget(parent), document_(document), preferences_(preferences), row_(std::move(row)),
      mute_(new SwitchButton(this))
{
  setObjectName("row:" + QString::fromStdString(row_.id));
  setFocusPolicy(Qt::StrongFocus);
  setAcceptDrops(true);
  auto* layout = new QVBoxLayout(this);
  layout->setContentsMargins(0, headHeight(), 0, 0);
  layout->setSpacing(0);
  mute_->setObjectName("mute:" + QString::fromStdString(row_.id));
  mute_->setVisible(row_.canMute);
  connect(mute_, &SwitchButton::clicked, this, &LedgerRowView::toggleMuted);
  setRow(row_, false);
}

int LedgerRowView::headHeight() const { return fontMetrics().height() * 2 + 10; }

void LedgerRowView::setRow(LedgerRow row, bool outOfDate)
{
  row_ = std::move(row);
  outOfDate_ = outOfDate;
  mute_->setChecked(!row_.muted);
  mute_->setToolTip(row_.muted ? tr("Switched off. Switch on (Space)") : tr("Switch off without deleting (Space)"));
  mute_->setAccessibleName(tr("%1 on or off").arg(row_.name));
  setAccessibleName(row_.name + ", " + row_.set + ", " + figureText());
  updateGeometry();
  update();
}

QString LedgerRowView::figureText() const
{
  if (!row_.figure)
    return {};
  const Quantity quantity = row_.band == Band::Parts    ? Quantity::Temperature
                            : row_.band == Band::Stored ? Quantity::Energy
                                                        : row_.heat;
  return QString::fromStdString(formatQuantity(*row_.figure, quantity, preferences_.temperatureUnit(), 4));
}

void LedgerRowView::setSelected(bool selected)
{
  selected_ = selected;
  update();
}

void LedgerRowView::setPointed(bool pointed)
{
  if (std::exchange(pointed_, pointed) != pointed)
    update();
}

void LedgerRowView::setOpen(bool open)
{
  if (open == isOpen())
    return;
  if (!open) {
    editor_->hide();
    editor_->deleteLater();
    editor_ = nullptr;
  } else {
    editor_ = new RowEditor(document_, preferences_, row_, this);
    layout()->addWidget(editor_);
    editor_->show();
  }
  update();
}

/// Heat in, parts, contacts and surroundings differ by shape as well as colour.
void LedgerRowView::paintGlyph(QPainter& painter, const QRectF& box) const
{
  const Theme& t = theme();
  const QColor ink = row_.muted                        ? t.line
                     : row_.band == Band::HeatIn       ? kilnGlow(0.62)
                     : row_.band == Band::Surroundings ? t.accent
                                                       : t.quiet;
  const auto at = [&](double x, double y) {
    return QPointF(box.left() + x * box.width(), box.top() + y * box.height());
  };
  painter.setPen(Qt::NoPen);
  painter.setBrush(ink);
  QPainterPath path;
  switch (row_.band) {
  case Band::HeatIn: // a flame
    path.moveTo(at(0.5, -0.15));
    path.cubicTo(at(0.55, 0.3), at(1.0, 0.4), at(0.95, 0.75));
    path.cubicTo(at(0.9, 1.2), at(0.1, 1.2), at(0.05, 0.75));
    path.cubicTo(at(0.0, 0.5), at(0.3, 0.45), at(0.5, -0.15));
    break;
  case Band::Surroundings: // warm air that rises
    painter.setBrush(Qt::NoBrush);
    painter.setPen(QPen(ink, 1.5, Qt::SolidLine, Qt::RoundCap));
    for (const double x : {0.12, 0.5, 0.88}) {
      path.moveTo(at(x, 1.05));
      path.cubicTo(at(x + 0.3, 0.7), at(x - 0.3, 0.35), at(x, -0.05));
    }
    break;
  case Band::Contacts: // two bodies that touch
    path.addRect(QRectF(at(0, 0.35), at(0.5, 1)));
    painter.drawPath(path);
    painter.setBrush(Qt::NoBrush);
    painter.setPen(QPen(ink, 1.3));
    painter.drawRect(QRectF(at(0.56, 0.05), at(1.05, 0.95)));
    return;
  default:
    path.addRoundedRect(box.adjusted(0.5, 0.5, -0.5, -0.5), 2, 2);
  }
  painter.drawPath(path);
}

void LedgerRowView::paintEvent(QPaintEvent* /*event*/)
{
  const Theme& t = theme();
  QPainter painter(this);
  painter.setRenderHint(QPainter::Antialiasing);
  const int line = fontMetrics().height();
  const QRect head(0, 0, width(), headHeight());
  if (pointed_) {
    painter.setPen(QPen(t.accent, 2));
    painter.drawRect(rect().adjusted(1, 1, -2, -2));
  }
  if (selected_) {
    QColor wash = t.accent;
    wash.setAlpha(t.dark ? 60 : 34);
    painter.fillRect(rect(), wash);
    painter.fillRect(QRect(0, 0, 3, height()), t.accent);
  }
  const bool changed =
      document_.shownCaseObject() != nullptr &&
      std::any_of(document_.shownCaseObject()->changes.begin(), document_.shownCaseObject()->changes.end(),
                  [&](const Change& c) { return c.field.starts_with(row_.id + "."); });
  const double glyph = line * 0.55;
  const int indent = row_.depth * 12;
  if (row_.isGroup) {
    painter.setPen(t.quiet);
    painter.drawText(QRect(ofKind, 5, 14, line), Qt::AlignVCenter, row_.folded ? "▸" : "▾");
  } else {
    paintGlyph(painter, QRectF(ofKind + indent, 5 + (line - glyph) / 2.0, glyph, glyph));
  }

  const int left = ofKind + indent + static_cast<int>(glyph) + 8;
  const QString figure = figureText();
  const int figureWidth = fontMetrics().horizontalAdvance(figure);
  QFont bold = font();
  bold.setWeight(QFont::DemiBold);
  painter.setFont(bold);
  painter.setPen(row_.muted ? t.quiet : t.text);
  const QRect nameBox(left, 5, width() - left - figureWidth - 18, line);
  painter.drawText(nameBox, Qt::AlignVCenter,
                   QFontMetrics(bold).elidedText(row_.name, Qt::ElideRight, nameBox.width()));
  painter.setFont(font());
  painter.setPen(outOfDate_ ? t.warning : t.text);
  painter.drawText(QRect(width() - figureWidth - 10, 5, figureWidth + 2, line), Qt::AlignVCenter, figure);
  painter.setPen(t.quiet);
  const QRect setBox(left, 5 + line, foldBox().left() - left - 2, line);
  const QString set = changed ? tr("%1 (this case)").arg(row_.set) : row_.set;
  painter.drawText(setBox, Qt::AlignVCenter, fontMetrics().elidedText(set, Qt::ElideRight, setBox.width()));

  paintFold(painter);
  if (row_.figure && !row_.muted) {
    const double track = width() - left - 10;
    const QRectF bar(left, head.bottom() - 3, track * std::abs(row_.bar), 2);
    painter.fillRect(QRectF(left, head.bottom() - 3, track, 2), t.line);
    painter.fillRect(bar, row_.band == Band::Parts                      ? kilnGlow(0.25 + 0.6 * row_.bar)
                          : row_.bar < 0 || row_.band == Band::Contacts ? t.accent
                                                                        : kilnGlow(0.7));
  }
  if (hasFocus()) {
    painter.setPen(QPen(t.accent, 1, Qt::DotLine));
    painter.setBrush(Qt::NoBrush);
    painter.drawRect(head.adjusted(1, 1, -2, -2));
  }
}

/// px: of what opens and closes the row by one click
QRect LedgerRowView::foldBox() const
{
  const int line = fontMetrics().height();
  return {width() - line - 8, 5 + line, line + 6, line};
}

/// Points down while the row is closed, up while it is open.
void LedgerRowView::paintFold(QPainter& painter) const
{
  if (row_.isGroup)
    return;
  constexpr double wide = 4, high = 2.2; // px, of half the sign
  const QPointF middle = QRectF(foldBox()).center();
  const double up = isOpen() ? -high : high;
  painter.setPen(QPen(theme().quiet, 1.4, Qt::SolidLine, Qt::RoundCap, Qt::RoundJoin));
  painter.setBrush(Qt::NoBrush);
  painter.drawPolyline(QPolygonF{middle + QPointF(-wide, -up), middle + QPointF(0, up), middle + QPointF(wide, -up)});
}

void LedgerRowView::resizeEvent(QResizeEvent* event)
{
  QWidget::resizeEvent(event);
  mute_->setGeometry(margin, 5 + (fontMetrics().height() - switchHigh) / 2, switchWide, switchHigh);
}

void LedgerRowView::toggleMuted()
{
  document_.set(row_.id + ".muted", !row_.muted,
                (row_.muted ? tr("Switch on %1") : tr("Switch off %1")).arg(row_.name));
}

void LedgerRowView::mousePressEvent(QMouseEvent* event)
{
  pressedAt_ = event->position().toPoint();
  const bool folds = event->button() == Qt::LeftButton && !row_.isGroup && foldBox().contains(pressedAt_);
  if (event->button() == Qt::LeftButton && event->modifiers().testFlag(Qt::ControlModifier))
    document_.toggleSelected(row_.id);
  else if (event->button() == Qt::LeftButton)
    document_.select(row_.id);
  setFocus(Qt::MouseFocusReason);
  if (folds)
    setOpen(!isOpen());
}

/// Rows of a band are put in order by dragging.
void LedgerRowView::mouseMoveEvent(QMouseEvent* event)
{
  const bool far = (event->position().toPoint() - pressedAt_).manhattanLength() >= QApplication::startDragDistance();
  if (!event->buttons().testFlag(Qt::LeftButton) || !far || row_.band == Band::Contacts)
    return;
  auto* drag = new QDrag(this);
  auto* data = new QMimeData;
  data->setData(rowMime, QByteArray::fromStdString(row_.id));
  drag->setMimeData(data);
  drag->exec(Qt::MoveAction);
}

void LedgerRowView::dragEnterEvent(QDragEnterEvent* event)
{
  if (event->mimeData()->hasFormat(rowMime))
    event->acceptProposedAction();
}

void LedgerRowView::dropEvent(QDropEvent* event)
{
  document_.moveBefore(event->mimeData()->data(rowMime).toStdString(), row_.id);
  event->acceptProposedAction();
}

void LedgerRowView::mouseDoubleClickEvent(QMouseEvent* event)
{
  if (!row_.isGroup && foldBox().contains(event->position().toPoint()))
    return mousePressEvent(event); // two quick clicks there are two clicks
  if (row_.isGroup)
    document_.toggleGroup(row_.id);
  else
    setOpen(!isOpen());
}

void LedgerRowView::keyPressEvent(QKeyEvent* event)
{
  switch (event->key()) {
  case Qt::Key_Return:
  case Qt::Key_Enter:
    setOpen(!isOpen());
    return;
  case Qt::Key_Space:
    if (row_.canMute)
      toggleMuted();
    return;
  case Qt::Key_Left:
  case Qt::Key_Right:
    if (row_.isGroup && row_.folded == (event->key() == Qt::Key_Right))
      document_.toggleGroup(row_.id);
    return;
  case Qt::Key_F2:
    setOpen(true);
    if (auto* name = findChild<QLineEdit*>("name:" + QString::fromStdString(row_.id))) {
      name->setFocus(Qt::ShortcutFocusReason);
      name->selectAll();
    }
    return;
  case Qt::Key_Up:
    if (event->modifiers().testFlag(Qt::AltModifier))
      emit reorderWanted(-1);
    else
      emit movedTo(-1);
    return;
  case Qt::Key_Down:
    if (event->modifiers().testFlag(Qt::AltModifier))
      emit reorderWanted(1);
    else
      emit movedTo(1);
    return;
  default:
    QWidget::keyPressEvent(event);
  }
}

void LedgerRowView::focusInEvent(QFocusEvent* event)
{
  if (event->reason() == Qt::TabFocusReason || event->reason() == Qt::BacktabFocusReason ||
      event->reason() == Qt::OtherFocusReason)
    document_.select(row_.id);
  update();
}

} // namespace kiln
