// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "document/Document.h"
#include "look/Preferences.h"

#include <QWidget>
#include <vector>

class QHBoxLayout;
class QPushButton;
class QToolButton;

namespace kiln
{

class CaseChip;

/// The top row: one chip a case, and at the right readiness and solve.
class CaseBar : public QWidget
{
  Q_OBJECT

public:
  CaseBar(Document& document, Preferences& preferences, QWidget* parent = nullptr);

  void setRunning(bool running);

signals:
  void solveWanted();
  void cancelWanted();
  void readinessWanted();

private:
  void refresh();
  void refreshReadiness();

  Document& document_;
  Preferences& preferences_;
  QHBoxLayout* chips_;
  QToolButton* readiness_;
  QPushButton* solve_;
  std::vector<CaseChip*> views_;
  bool running_ = false;
};

} // namespace kiln
