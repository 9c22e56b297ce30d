// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "document/Recovery.h"
#include "look/Preferences.h"

#include <QWidget>

class QVBoxLayout;

namespace kiln
{

/// What a new user sees: the demo, an empty project, recent ones, changes to recover, a short tour.
class StartPage : public QWidget
{
  Q_OBJECT

public:
  explicit StartPage(Preferences& preferences, QWidget* parent = nullptr);
  void refresh();

signals:
  void demoWanted();
  void emptyWanted();
  void fileWanted(const QString& file);
  void recoveryWanted(const kiln::LostProject& lost);
  void tourWanted();

private:
  Preferences& preferences_;
  QVBoxLayout* list_;
};

/// Where the demo project is: beside the program's sources or installed with it; empty when it is not there.
[[nodiscard]] QString demoFile();

} // namespace kiln
