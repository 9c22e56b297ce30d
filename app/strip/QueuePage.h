// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "document/SolverQueue.h"
#include "look/Preferences.h"

#include <QWidget>

class QCheckBox;
class QLabel;
class QPlainTextEdit;
class QTableWidget;
class QToolButton;

namespace kiln
{

/// The strip's page Queue: what the solver does and what waits, with time, memory and the log of the chosen one.
class QueuePage : public QWidget
{
  Q_OBJECT

public:
  QueuePage(Document& document, Preferences& preferences, SolverQueue& solver, QWidget* parent = nullptr);

protected:
  void showEvent(QShowEvent* event) override;

private:
  [[nodiscard]] QLayout* makeHead();
  void refresh();
  void refreshRow(int row, const QueuedJob& job);
  void refreshLog();
  [[nodiscard]] std::string chosen() const;
  /// Moves the chosen one by so many places.
  void move(int places);
  [[nodiscard]] QString nameOf(const QueuedJob& job) const;

  Document& document_;
  Preferences& preferences_;
  SolverQueue& solver_;
  QToolButton *pause_, *stop_, *up_, *down_, *remove_;
  QLabel* summary_;
  QTableWidget* table_;
  QPlainTextEdit* log_;
};

} // namespace kiln
