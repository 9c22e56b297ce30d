// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "cases/CaseChip.h"

#include "cases/CaseEditor.h"
#include "look/Theme.h"

#include <QContextMenuEvent>
#include <QMenu>
#include <QPainter>

namespace kiln
{
namespace
{

constexpr int padding = 10; // pixels

QString stateText(const CaseState& state)
{
  switch (state.stage) {
  case CaseState::Stage::NeverRun:
    return CaseChip::tr("never run");
  case CaseState::Stage::Running:
    return CaseChip::tr("running, %1 % (%2)").arg(qRound(state.fraction * 100)).arg(state.message);
  case CaseState::Stage::Solved:
    return CaseChip::tr("solved");
  case CaseState::Stage::OutOfDate:
    return CaseChip::tr("out of date: %1").arg(state.outOfDate);
  case CaseState::Stage::Failed:
    return CaseChip::tr("failed: %1").arg(state.message);
  }
  return {};
}

} // namespace

CaseChip::CaseChip(Document& document, Preferences& preferences, std::string caseId, QWidget* parent)
    : QAbstractButton(parent), document_(document), preferences_(preferences), caseId_(std::move(caseId))
{
  setObjectName("case:" + QString::fromStdString(caseId_));
  setCheckable(true);
  setCursor(Qt::PointingHandCursor);
  connect(this, &QAbstractButton::clicked, this, [this] {
    document_.showCase(caseId_);
    refresh();
  });
  refresh();
}

void CaseChip::refresh()
{
  const Case* own = findById(document_.project().cases, caseId_);
  if (own == nullptr)
    return;
  const CaseState& state = document_.state(caseId_);
  name_ = QString::fromStdString(own->name);
  margin_.clear();
  bad_ = false;
  if (const auto worst = worstMargin(state.watches); worst && state.result) {
    margin_ = QString::fromStdString(formatMargin(*worst->margin, worst->quantity, preferences_.temperatureUnit()));
    bad_ = *worst->margin < 0;
  }
  if (state.stage == CaseState::Stage::Running)
    margin_ = tr("%1 %").arg(qRound(state.fraction * 100));
  setChecked(document_.shownCase() == caseId_);
  const QString comment = own->comment.empty() ? QString() : QString::fromStdString(own->comment) + "\n";
  const QString kind = own->kind == Case::Kind::Transient ? tr("transient") : tr("steady");
  setToolTip(comment + kind + " · " + stateText(state) +
             (margin_.isEmpty() ? "" : tr("\nworst margin %1").arg(margin_)));
  setAccessibleName(tr("Case %1, %2, %3, margin %4").arg(name_, kind, stateText(state), margin_));
  updateGeometry();
  update();
}

QSize CaseChip::sizeHint() const
{
  const int text =
      fontMetrics().horizontalAdvance(name_) + (margin_.isEmpty() ? 0 : fontMetrics().horizontalAdvance(margin_) + 10);
  return {text + 2 * padding + 20, fontMetrics().height() + 12};
}

void CaseChip::paintState(QPainter& painter, const QRectF& box, CaseState::Stage stage) const
{
  const Theme& t = theme();
  painter.setBrush(Qt::NoBrush);
  switch (stage) {
  case CaseState::Stage::NeverRun: // open ring
    painter.setPen(QPen(t.quiet, 1.4));
    painter.drawEllipse(box);
    break;
  case CaseState::Stage::Running: // growing sector
    painter.setPen(QPen(t.accent, 1.4));
    painter.drawEllipse(box);
    painter.setBrush(t.accent);
    painter.drawPie(box, 90 * 16, -static_cast<int>(document_.state(caseId_).fraction * 360 * 16));
    break;
  case CaseState::Stage::Solved: // full disc
    painter.setPen(Qt::NoPen);
    painter.setBrush(bad_ ? t.bad : t.good);
    painter.drawEllipse(box);
    break;
  case CaseState::Stage::OutOfDate: // half disc
    painter.setPen(QPen(t.warning, 1.4));
    painter.drawEllipse(box);
    painter.setBrush(t.warning);
    painter.drawPie(box, 90 * 16, 180 * 16);
    break;
  case CaseState::Stage::Failed: // cross
    painter.setPen(QPen(t.bad, 2));
    painter.drawLine(box.topLeft(), box.bottomRight());
    painter.drawLine(box.topRight(), box.bottomLeft());
    break;
  }
}

void CaseChip::mouseDoubleClickEvent(QMouseEvent* /*event*/) { editCase(document_, preferences_, caseId_, window()); }

void CaseChip::contextMenuEvent(QContextMenuEvent* event)
{
  QMenu menu(this);
  menu.addAction(tr("Edit the case…"), this, [this] { editCase(document_, preferences_, caseId_, window()); });
  menu.addAction(tr("Duplicate"), this, [this] { duplicateCase(document_, caseId_); });
  menu.addAction(tr("Copy as a transient case"), this, [this] { copyInTime(document_, caseId_); });
  menu.addAction(tr("Remove"), this, [this] { removeCase(document_, caseId_); });
  menu.exec(event->globalPos());
}

void CaseChip::paintEvent(QPaintEvent* /*event*/)
{
  const Theme& t = theme();
  QPainter painter(this);
  painter.setRenderHint(QPainter::Antialiasing);
  painter.setPen(QPen(isChecked() ? t.accent : t.line, isChecked() ? 1.6 : 1));
  painter.setBrush(isChecked() ? t.raised : underMouse() ? t.raised : t.panel);
  painter.drawRoundedRect(QRectF(rect()).adjusted(1, 1, -1, -1), 6, 6);
  if (hasFocus()) {
    painter.setPen(QPen(t.accent, 1, Qt::DotLine));
    painter.drawRoundedRect(QRectF(rect()).adjusted(3, 3, -3, -3), 4, 4);
  }
  constexpr double dot = 9;
  const CaseState& state = document_.state(caseId_);
  paintState(painter, QRectF(width() - padding - dot, (height() - dot) / 2.0, dot, dot), state.stage);
  painter.setPen(t.text);
  painter.drawText(rect().adjusted(padding, 0, 0, 0), Qt::AlignVCenter | Qt::AlignLeft, name_);
  painter.setPen(bad_ ? t.bad : t.quiet);
  painter.drawText(rect().adjusted(0, 0, -padding - static_cast<int>(dot) - 6, 0), Qt::AlignVCenter | Qt::AlignRight,
                   margin_);
}

} // namespace kiln
