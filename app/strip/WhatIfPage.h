// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "document/SolverQueue.h"
#include "document/WhatIfRun.h"
#include "look/Preferences.h"

#include <QWidget>

class QCheckBox;
class QComboBox;
class QGridLayout;
class QLabel;
class QSlider;

namespace kiln
{

/// The strip's page What if: sliders of numbers, which scene, watches and ledger follow while they are dragged. When
/// one is let go, its value is set and the case solved.
class WhatIfPage : public QWidget
{
  Q_OBJECT

public:
  WhatIfPage(Document& document, Preferences& preferences, SolverQueue& solver, QWidget* parent = nullptr);

  [[nodiscard]] WhatIfRun& whatIf() { return run_; }

protected:
  void showEvent(QShowEvent* event) override;

private:
  struct Row {
    std::string path;
    Quantity quantity = Quantity::Plain;
    double low = 0, high = 1;
    QSlider* slider = nullptr;
    QLabel* value = nullptr;
  };
  void refresh();
  void rebuild();
  void addRow(int at, const Field& field);
  void drag(const Row& row);
  void letGo(const Row& row);
  [[nodiscard]] std::vector<std::string> wanted() const;
  [[nodiscard]] double valueOf(const Row& row) const;
  void say(const QString& sentence);

  Document& document_;
  Preferences& preferences_;
  SolverQueue& solver_;
  WhatIfRun run_;
  QWidget* body_;
  QGridLayout* grid_ = nullptr;
  QComboBox* more_;
  QCheckBox* solve_;
  QLabel* said_;
  std::vector<std::string> added_; ///< fields besides those that are there anyway
  std::vector<Row> rows_;
  std::map<std::string, double> dragged_; ///< while a slider is held
};

} // namespace kiln
