// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "model/ScheduleShapes.h"
#include "units/Quantity.h"

#include <QDialog>
#include <functional>

class QLabel;
class QTableWidget;

namespace kiln
{

class QuantityField;

/// Edits a schedule as ramps and holds: to which value, how fast ("120 K/h") or within what time, and how long it
/// stays.
class SegmentsEditor : public QDialog
{
  Q_OBJECT

public:
  using Use = std::function<void(std::vector<TablePoint>)>;
  SegmentsEditor(Quantity quantity, TemperatureUnit unit, const std::vector<TablePoint>& points, Use use,
                 QWidget* parent = nullptr);

protected:
  void keyPressEvent(QKeyEvent* event) override;

private:
  void addRow(const QString& target, const QString& way, const QString& hold);
  void check();
  /// What the rows say; the first wrong one is explained.
  [[nodiscard]] std::optional<std::vector<TablePoint>> points(QString& problem) const;
  [[nodiscard]] QString text(double si, Quantity quantity) const;

  Quantity quantity_;
  TemperatureUnit unit_;
  Use use_;
  QuantityField* start_;
  QTableWidget* rows_;
  QLabel* message_;
};

/// Edits one cycle of on and off that repeats: the two values, the period and the share that is on.
class DutyEditor : public QDialog
{
  Q_OBJECT

public:
  using Use = std::function<void(const Schedule&)>;
  DutyEditor(Quantity quantity, TemperatureUnit unit, const Number& on, Use use, QWidget* parent = nullptr);
};

} // namespace kiln
