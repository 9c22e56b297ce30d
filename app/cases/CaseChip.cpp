// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "cases/CaseChip.h"

#include "cases/CaseEditor.h"
#include "cases/CaseGroups.h"
#include "cases/GroupChip.h"
#include "look/Theme.h"
#include "model/Edit.h"

#include <QApplication>
#include <QContextMenuEvent>
#include <QDrag>
#include <QInputDialog>
#include <QMenu>
#include <QMimeData>
#include <QPainter>
#include <algorithm>

namespace kiln
{
namespace
{

constexpr int padding = 10; // pixels

QString stateText(const CaseState& state)
{
  switch (state.stage) {
  case CaseState::Stage::Running:
    return CaseChip::tr("running, %1 % (%2)").arg(qRound(state.fraction * 100)).arg(state.message);
  case CaseState::Stage::OutOfDate:
    return CaseChip::tr("out of date: %1").arg(state.outOfDate);
  case CaseState::Stage::Failed:
    return CaseChip::tr("failed: %1").arg(state.message);
  default:
    return stateWord(state);
  }
}

} // namespace

CaseChip::CaseChip(Document& document, Preferences& preferences, std::string caseId, QWidget* parent)
    : QAbstractButton(parent), document_(document), preferences_(preferences), caseId_(std::move(caseId))
{
  setObjectName("case:" + QString::fromStdString(caseId_));
  setCheckable(true);
  setCursor(Qt::PointingHandCursor);
  setAcceptDrops(true);
  connect(this, &QAbstractButton::clicked, this, [this] {
    if (!toggling_)
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
  const CaseState& state = document_.knownState(caseId_);
  name_ = QString::fromStdString(own->name);
  margin_.clear();
  bad_ = false;
  if (const auto worst = worstMargin(state.watches); worst && state.solved()) {
    margin_ = QString::fromStdString(formatMargin(*worst->margin, worst->quantity, preferences_.temperatureUnit()));
    bad_ = *worst->margin < 0;
  }
  if (state.stage == CaseState::Stage::Running)
    margin_ = tr("%1 %").arg(qRound(state.fraction * 100));
  setChecked(document_.shownCase() == caseId_);
  const std::vector<std::string>& together = document_.selectedCases();
  selected_ = together.size() > 1 && std::find(together.begin(), together.end(), caseId_) != together.end();
  const QString comment = own->comment.empty() ? QString() : QString::fromStdString(own->comment) + "\n";
  const QString kind = own->kind == Case::Kind::Transient ? tr("transient") : tr("steady");
  setToolTip(comment + kind + " · " + stateText(state) +
             (margin_.isEmpty() ? "" : tr("\nworst margin %1").arg(margin_)) +
             (selected_ ? tr("\nselected with the shown one") : QString()));
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
    painter.drawPie(box, 90 * 16, -static_cast<int>(document_.knownState(caseId_).fraction * 360 * 16));
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

std::vector<std::string> CaseChip::meant() const
{
  if (!selected_)
    return {caseId_};
  std::vector<std::string> ids; // as they stand
  for (const Case& one : document_.project().cases)
    if (const auto& all = document_.selectedCases(); std::find(all.begin(), all.end(), one.id) != all.end())
      ids.push_back(one.id);
  return ids;
}

void CaseChip::contextMenuEvent(QContextMenuEvent* event)
{
  QMenu menu(this);
  menu.setObjectName("caseMenu");
  const std::vector<std::string> ids = meant();
  if (ids.size() > 1) {
    addForMany(menu, ids);
  } else {
    menu.addAction(tr("Edit the case…"), this, [this] { editCase(document_, preferences_, caseId_, window()); });
    menu.addAction(tr("Solve"), this, [this] { emit solveWanted({caseId_}); });
    menu.addAction(tr("Duplicate"), this, [this] { duplicateCase(document_, caseId_); });
    menu.addAction(tr("Copy as a transient case"), this, [this] { copyInTime(document_, caseId_); });
    menu.addAction(tr("Group…"), this, [this] { askForGroup({caseId_}); });
    menu.addAction(tr("Remove"), this, [this] { removeCase(document_, caseId_); });
  }
  menu.exec(event->globalPos());
}

void CaseChip::addForMany(QMenu& menu, const std::vector<std::string>& ids)
{
  const auto count = ids.size();
  menu.addAction(tr("Solve these %1 cases").arg(count), this, [this, ids] { emit solveWanted(ids); });
  menu.addAction(tr("Edit these %1 cases together").arg(count), this, [this] { document_.editCaseOnly(true); })
      ->setToolTip(tr("What is set in the ledger from now on counts in each of them"));
  addShares(*menu.addMenu(tr("Give them of “%1”")
                              .arg(QString::fromStdString(document_.shownCaseObject() != nullptr
                                                              ? document_.shownCaseObject()->name
                                                              : std::string()))),
            ids);
  menu.addAction(tr("Group…"), this, [this, ids] { askForGroup(ids); });
  menu.addAction(tr("Duplicate them"), this, [this, ids] {
    std::vector<std::string> made;
    document_.edit(tr("Duplicate cases"), [&](Project& project) { made = copyCases(project, ids); });
    if (!made.empty()) {
      document_.showCase(made.front());
      document_.selectCases(made);
    }
  });
  QAction* remove = menu.addAction(tr("Remove them"), this, [this, ids] {
    document_.edit(tr("Remove cases"), [&](Project& project) {
      for (const std::string& id : ids)
        removeObject(project, id);
    });
  });
  remove->setEnabled(count < document_.project().cases.size()); // one stays
}

/// What the shown case can hand on to those selected with it.
void CaseChip::addShares(QMenu& menu, const std::vector<std::string>& ids)
{
  const std::vector<std::pair<CaseShare, QString>> shares{{CaseShare::Run, tr("start, end and storing")},
                                                          {CaseShare::OwnValues, tr("its own values")},
                                                          {CaseShare::Sets, tr("its property sets")},
                                                          {CaseShare::Comment, tr("its comment")},
                                                          {CaseShare::Group, tr("its group")}};
  for (const auto& [what, words] : shares)
    menu.addAction(words, this, [this, what = what, ids] {
      document_.edit(tr("Give cases of another"),
                     [&](Project& project) { shareWith(project, document_.shownCase(), ids, what); });
    });
}

void CaseChip::askForGroup(const std::vector<std::string>& ids)
{
  QStringList known;
  for (const CaseGroup& group : groupsOf(document_.project()))
    if (!group.name.empty())
      known << QString::fromStdString(group.name);
  const Case* own = findById(document_.project().cases, caseId_);
  const int at = own != nullptr ? static_cast<int>(known.indexOf(QString::fromStdString(own->group))) : -1;
  bool sure = false;
  const QString name =
      QInputDialog::getItem(this, tr("Group of cases"), tr("Group (empty: none)"), known, std::max(0, at), true, &sure);
  if (sure)
    document_.edit(tr("Group of cases"), [&](Project& project) {
      for (const std::string& id : ids)
        findById(project.cases, id)->group = name.trimmed().toStdString();
    });
}

void CaseChip::mousePressEvent(QMouseEvent* event)
{
  pressed_ = event->pos();
  toggling_ = event->button() == Qt::LeftButton && (event->modifiers() & (Qt::ControlModifier | Qt::ShiftModifier));
  QAbstractButton::mousePressEvent(event);
}

void CaseChip::mouseReleaseEvent(QMouseEvent* event)
{
  if (toggling_ && rect().contains(event->pos())) {
    if (event->modifiers() & Qt::ShiftModifier)
      emit rangeWanted(caseId_);
    else
      document_.toggleCase(caseId_);
  }
  QAbstractButton::mouseReleaseEvent(event);
}

void CaseChip::mouseMoveEvent(QMouseEvent* event)
{
  if (event->buttons() & Qt::LeftButton &&
      (event->pos() - pressed_).manhattanLength() >= QApplication::startDragDistance())
    return startDrag();
  QAbstractButton::mouseMoveEvent(event);
}

void CaseChip::startDrag()
{
  setDown(false);
  QStringList ids;
  for (const std::string& id : meant())
    ids << QString::fromStdString(id);
  auto* data = new QMimeData;
  data->setData(draggedCases, ids.join('\n').toUtf8());
  auto* drag = new QDrag(this);
  drag->setMimeData(data);
  drag->setPixmap(grab());
  drag->exec(Qt::MoveAction);
}

void CaseChip::dragEnterEvent(QDragEnterEvent* event)
{
  if (event->mimeData()->hasFormat(draggedCases))
    event->acceptProposedAction();
}

/// What is dropped takes the place before it, in its group.
void CaseChip::dropEvent(QDropEvent* event)
{
  std::vector<std::string> ids;
  for (const QString& id : QString::fromUtf8(event->mimeData()->data(draggedCases)).split('\n', Qt::SkipEmptyParts))
    ids.push_back(id.toStdString());
  document_.edit(tr("Move cases"), [&](Project& project) {
    moveCases(project, ids, caseId_);
    shareWith(project, caseId_, ids, CaseShare::Group);
  });
  event->acceptProposedAction();
}

void CaseChip::keyPressEvent(QKeyEvent* event)
{
  const bool moves = event->modifiers() & Qt::ControlModifier;
  if (moves && (event->key() == Qt::Key_Left || event->key() == Qt::Key_Right))
    return emit moveWanted(caseId_, event->key() == Qt::Key_Left ? -1 : 1);
  if (moves && event->key() == Qt::Key_Space)
    return document_.toggleCase(caseId_);
  QAbstractButton::keyPressEvent(event);
}

void CaseChip::paintEvent(QPaintEvent* /*event*/)
{
  const Theme& t = theme();
  QPainter painter(this);
  painter.setRenderHint(QPainter::Antialiasing);
  painter.setPen(QPen(isChecked() || selected_ ? t.accent : t.line, isChecked() ? 1.6 : 1));
  painter.setBrush(isChecked() || selected_ || underMouse() ? t.raised : t.panel);
  painter.drawRoundedRect(QRectF(rect()).adjusted(1, 1, -1, -1), 6, 6);
  if (hasFocus()) {
    painter.setPen(QPen(t.accent, 1, Qt::DotLine));
    painter.drawRoundedRect(QRectF(rect()).adjusted(3, 3, -3, -3), 4, 4);
  }
  constexpr double dot = 9;
  const CaseState& state = document_.knownState(caseId_);
  paintState(painter, QRectF(width() - padding - dot, (height() - dot) / 2.0, dot, dot), state.stage);
  painter.setPen(t.text);
  painter.drawText(rect().adjusted(padding, 0, 0, 0), Qt::AlignVCenter | Qt::AlignLeft, name_);
  painter.setPen(bad_ ? t.bad : t.quiet);
  painter.drawText(rect().adjusted(0, 0, -padding - static_cast<int>(dot) - 6, 0), Qt::AlignVCenter | Qt::AlignRight,
                   margin_);
}

} // namespace kiln
