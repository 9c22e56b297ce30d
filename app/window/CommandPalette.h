// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include <QAction>
#include <QDialog>
#include <QList>

class QLineEdit;
class QListWidget;

namespace kiln
{

/// Every command of the window by name: type a few letters, choose with the arrows, Enter runs it.
class CommandPalette : public QDialog
{
  Q_OBJECT

public:
  explicit CommandPalette(const QList<QAction*>& actions, QWidget* parent = nullptr);

protected:
  bool eventFilter(QObject* watched, QEvent* event) override;

private:
  void filter();
  void run();

  QList<QAction*> actions_;
  QLineEdit* typed_;
  QListWidget* list_;
};

/// "Solve · Cancel" for an action in the menu Solve.
[[nodiscard]] QString commandName(const QAction& action);

/// All actions of a menu bar that do something, submenus included.
[[nodiscard]] QList<QAction*> commandsOf(const QWidget& menuBar);

/// A sheet of all keys.
void showKeySheet(const QList<QAction*>& actions, QWidget* parent);

} // namespace kiln
