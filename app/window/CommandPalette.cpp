// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "window/CommandPalette.h"

#include <QKeyEvent>
#include <QLabel>
#include <QLineEdit>
#include <QListWidget>
#include <QMenu>
#include <QMenuBar>
#include <QScrollArea>
#include <QVBoxLayout>
#include <algorithm>

namespace kiln
{
namespace
{

QString plainText(QString text) { return text.remove('&').remove("…"); }

/// Do the letters occur in this order?
bool fits(const QString& name, const QString& typed)
{
  qsizetype at = 0;
  for (const QChar letter : typed) {
    if (letter.isSpace())
      continue;
    at = name.indexOf(letter, at, Qt::CaseInsensitive);
    if (at < 0)
      return false;
    ++at;
  }
  return true;
}

void collect(const QList<QAction*>& actions, const QString& path, QList<QAction*>& all)
{
  for (QAction* action : actions) {
    if (QMenu* menu = action->menu()) {
      collect(menu->actions(), path + plainText(action->text()) + " · ", all);
    } else if (!action->isSeparator() && !action->text().isEmpty()) {
      action->setProperty("commandPath", path);
      all << action;
    }
  }
}

} // namespace

QString commandName(const QAction& action)
{
  return action.property("commandPath").toString() + plainText(action.text());
}

QList<QAction*> commandsOf(const QWidget& menuBar)
{
  QList<QAction*> all;
  collect(menuBar.actions(), {}, all);
  return all;
}

CommandPalette::CommandPalette(const QList<QAction*>& actions, QWidget* parent)
    : QDialog(parent, Qt::Popup), actions_(actions), typed_(new QLineEdit), list_(new QListWidget)
{
  setObjectName("commandPalette");
  auto* layout = new QVBoxLayout(this);
  typed_->setObjectName("commandTyped");
  typed_->setPlaceholderText(tr("Type what you want to do"));
  typed_->installEventFilter(this);
  list_->setObjectName("commandList");
  layout->addWidget(typed_);
  layout->addWidget(list_);
  constexpr int wide = 460;
  constexpr int high = 340;
  resize(wide, high);
  if (parent != nullptr)
    move(parent->mapToGlobal(QPoint((parent->width() - wide) / 2, 60)));
  connect(typed_, &QLineEdit::textChanged, this, &CommandPalette::filter);
  connect(typed_, &QLineEdit::returnPressed, this, &CommandPalette::run);
  connect(list_, &QListWidget::itemActivated, this, &CommandPalette::run);
  connect(list_, &QListWidget::itemClicked, this, &CommandPalette::run);
  filter();
  typed_->setFocus();
}

bool CommandPalette::eventFilter(QObject* watched, QEvent* event)
{
  if (watched == typed_ && event->type() == QEvent::KeyPress) {
    const int key = static_cast<QKeyEvent*>(event)->key();
    if (key == Qt::Key_Down || key == Qt::Key_Up) {
      const int step = key == Qt::Key_Down ? 1 : -1;
      list_->setCurrentRow(std::clamp(list_->currentRow() + step, 0, list_->count() - 1));
      return true;
    }
  }
  return QDialog::eventFilter(watched, event);
}

void CommandPalette::filter()
{
  list_->clear();
  for (QAction* action : actions_) {
    const QString name = commandName(*action);
    if (!action->isEnabled() || !fits(name, typed_->text()))
      continue;
    const QString key = action->shortcut().toString(QKeySequence::NativeText);
    auto* item = new QListWidgetItem(key.isEmpty() ? name : name + "    " + key, list_);
    item->setData(Qt::UserRole, QVariant::fromValue(action));
  }
  list_->setCurrentRow(0);
}

void CommandPalette::run()
{
  auto* item = list_->currentItem();
  auto* action = item != nullptr ? item->data(Qt::UserRole).value<QAction*>() : nullptr;
  accept();
  if (action != nullptr)
    action->trigger();
}

void showKeySheet(const QList<QAction*>& actions, QWidget* parent)
{
  auto* sheet = new QDialog(parent);
  sheet->setObjectName("keySheet");
  sheet->setAttribute(Qt::WA_DeleteOnClose);
  sheet->setWindowTitle(QObject::tr("Keys"));
  QString rows;
  const auto line = [&](const QString& key, const QString& what) {
    rows += "<tr><td style='padding-right:18px'><b>" + key.toHtmlEscaped() + "</b></td><td>" + what.toHtmlEscaped() +
            "</td></tr>";
  };
  for (const QAction* action : actions)
    if (!action->shortcut().isEmpty())
      line(action->shortcut().toString(QKeySequence::NativeText), commandName(*action));
  for (const auto& [key, what] : std::initializer_list<std::pair<const char*, const char*>>{
           {"↑ ↓", "Ledger: next and previous row"},
           {"Enter", "Ledger: open or close the row"},
           {"Space", "Ledger: switch the row on or off"},
           {"F2", "Ledger: rename"},
           {"Alt+↑ Alt+↓", "Ledger: move the row"},
           {"Ctrl+click", "Ledger: select several rows. Scene: pick several faces"},
           {"Esc", "A field: back to the old value"}})
    line(QString::fromUtf8(key), QObject::tr(what));
  auto* label = new QLabel("<table cellspacing='4'>" + rows + "</table>");
  auto* scroll = new QScrollArea;
  scroll->setWidget(label);
  scroll->setFrameShape(QFrame::NoFrame);
  auto* layout = new QVBoxLayout(sheet);
  layout->addWidget(scroll);
  sheet->resize(520, 560);
  sheet->show();
}

} // namespace kiln
