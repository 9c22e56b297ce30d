// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "cases/GroupChip.h"

#include "look/Theme.h"

#include <QContextMenuEvent>
#include <QDropEvent>
#include <QInputDialog>
#include <QMenu>
#include <QMimeData>
#include <algorithm>

namespace kiln
{

GroupChip::GroupChip(Document& document, Preferences& preferences, std::string group, QWidget* parent)
    : QToolButton(parent), document_(document), preferences_(preferences), group_(std::move(group))
{
  setObjectName("caseGroup:" + QString::fromStdString(group_));
  setAcceptDrops(true);
  setSizePolicy(QSizePolicy::Minimum, QSizePolicy::Fixed); // the row scrolls rather than to squeeze it
  connect(this, &QToolButton::clicked, this, [this] { emit foldWanted(group_); });
}

std::vector<std::string> GroupChip::caseIds() const
{
  std::vector<std::string> ids;
  for (const Case& one : document_.project().cases)
    if (one.group == group_)
      ids.push_back(one.id);
  return ids;
}

void GroupChip::refresh(bool folded, std::size_t shown)
{
  std::optional<WatchFigure> worst;
  bool anyFailed = false;
  const std::vector<std::string> ids = caseIds();
  for (const std::string& id : ids) {
    const CaseState& state = document_.knownState(id);
    anyFailed = anyFailed || state.stage == CaseState::Stage::Failed;
    const auto own = state.solved() ? worstMargin(state.watches) : std::nullopt;
    if (own && (!worst || (own->quantity == worst->quantity && *own->margin < *worst->margin)))
      worst = own;
  }
  const QString margin =
      worst ? QString::fromStdString(formatMargin(*worst->margin, worst->quantity, preferences_.temperatureUnit()))
            : QString();
  const QString count = shown == ids.size() ? QString::number(ids.size()) : tr("%1 of %2").arg(shown).arg(ids.size());
  setText((folded ? "▸ " : "▾ ") + QString::fromStdString(group_) + "  " + count +
          (margin.isEmpty() ? "" : "  " + margin));
  const bool bad = anyFailed || (worst && *worst->margin < 0);
  const QColor color = bad ? theme().bad : worst ? theme().good : theme().quiet;
  const QString sheet = QString("QToolButton { color: %1; font-weight: 600; border: none; border-left: 3px solid %1; "
                                "padding: 3px 6px; }")
                            .arg(color.name());
  if (sheet != styleSheet())
    setStyleSheet(sheet);
  setToolTip(tr("Group %1: %2 cases%3. Click to %4; right click for all of it.")
                 .arg(QString::fromStdString(group_), count,
                      margin.isEmpty() ? QString() : tr(", worst margin %1").arg(margin),
                      folded ? tr("unfold") : tr("fold")));
  setAccessibleName(toolTip());
}

void GroupChip::rename()
{
  bool sure = false;
  const QString name = QInputDialog::getText(this, tr("Name of the group"), tr("Name"), QLineEdit::Normal,
                                             QString::fromStdString(group_), &sure);
  if (!sure)
    return;
  const std::vector<std::string> ids = caseIds();
  document_.edit(tr("Name of a group"), [&](Project& project) {
    for (const std::string& id : ids)
      findById(project.cases, id)->group = name.trimmed().toStdString();
  });
}

void GroupChip::contextMenuEvent(QContextMenuEvent* event)
{
  QMenu menu(this);
  menu.setObjectName("groupMenu");
  const std::vector<std::string> ids = caseIds();
  menu.addAction(tr("Solve its cases"), this, [this, ids] { emit solveWanted(ids); });
  menu.addAction(tr("Select its cases"), this, [this, ids] {
    if (!ids.empty()) {
      document_.showCase(ids.front());
      document_.selectCases(ids);
    }
  });
  menu.addAction(tr("Rename…"), this, &GroupChip::rename);
  menu.addAction(tr("Take the group apart"), this, [this, ids] {
    document_.edit(tr("Take a group apart"), [&](Project& project) {
      for (const std::string& id : ids)
        findById(project.cases, id)->group.clear();
    });
  });
  menu.exec(event->globalPos());
}

void GroupChip::dragEnterEvent(QDragEnterEvent* event)
{
  if (event->mimeData()->hasFormat(draggedCases))
    event->acceptProposedAction();
}

void GroupChip::dropEvent(QDropEvent* event)
{
  const QStringList ids = QString::fromUtf8(event->mimeData()->data(draggedCases)).split('\n', Qt::SkipEmptyParts);
  document_.edit(tr("Cases of a group"), [&](Project& project) {
    for (const QString& id : ids)
      if (Case* own = findById(project.cases, id.toStdString()))
        own->group = group_;
  });
  event->acceptProposedAction();
}

} // namespace kiln
