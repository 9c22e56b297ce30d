// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "units/Quantity.h"

#include <QWidget>
#include <utility>
#include <vector>

class QToolButton;

namespace kiln
{

class QuantityField;

/// The colour scale of the scene: editable ends, ticks, and marks at the limits of the watches.
class Legend : public QWidget
{
  Q_OBJECT

public:
  explicit Legend(QWidget* parent = nullptr);

  void setQuantity(Quantity quantity);
  void setAboutZero(bool about);                                  ///< the colours for what lies below and above zero
  void setRange(double low, double high);                         ///< SI
  void setLimits(std::vector<std::pair<double, QString>> limits); ///< K and name
  void setTemperatureUnit(TemperatureUnit unit);
  [[nodiscard]] bool isPinned() const { return pinned_; }
  void setPinned(bool pinned);

signals:
  void rangeEdited(double low, double high); ///< SI
  void automaticWanted();

protected:
  void paintEvent(QPaintEvent* event) override;
  void resizeEvent(QResizeEvent* event) override;

private:
  [[nodiscard]] QRectF scaleBox() const;

  double low_ = 293, high_ = 294;
  std::vector<std::pair<double, QString>> limits_;
  Quantity quantity_ = Quantity::Temperature;
  TemperatureUnit unit_ = TemperatureUnit::Celsius;
  bool pinned_ = false, aboutZero_ = false;
  QuantityField* top_;
  QuantityField* bottom_;
  QToolButton* automatic_;
};

} // namespace kiln
