// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "scene/Repainted.h"
#include "scene/SceneCanvas.h"
#include "units/Quantity.h"

#include <utility>
#include <vector>

class QToolButton;

namespace kiln
{

class QuantityField;

/// The colour scale of the scene: editable ends, ticks, and marks at the limits of the watches.
class Legend : public Repainted
{
  Q_OBJECT

public:
  explicit Legend(QWidget* parent = nullptr);

  void setQuantity(Quantity quantity);
  void setRange(double low, double high); ///< SI
  /// Colours as the scene has them, and where values lie among them.
  void setColoring(const Coloring& coloring);
  void setDigits(int digits);                                     ///< 0: as many as differ
  void setLevels(std::vector<double> levels);                     ///< SI, of lines in the scene
  void setLimits(std::vector<std::pair<double, QString>> limits); ///< K and name
  void setTemperatureUnit(TemperatureUnit unit);
  [[nodiscard]] bool isPinned() const { return pinned_; }
  void setPinned(bool pinned);

  /// The scale alone, with its unit above it once, for pictures that are kept.
  void paintScale(QPainter& painter, const QRectF& room) const;

signals:
  void rangeEdited(double low, double high); ///< SI
  void automaticWanted();

protected:
  void paintEvent(QPaintEvent* event) override;
  void resizeEvent(QResizeEvent* event) override;

private:
  [[nodiscard]] QRectF scaleBox() const;
  void paintBar(QPainter& painter, const QRectF& box) const;
  [[nodiscard]] QString numberText(double shown, double step) const;

  double low_ = 293, high_ = 294;
  std::vector<std::pair<double, QString>> limits_;
  Quantity quantity_ = Quantity::Temperature;
  TemperatureUnit unit_ = TemperatureUnit::Celsius;
  bool pinned_ = false;
  Coloring coloring_;
  std::vector<double> levels_;
  int digits_ = 0;
  QuantityField* top_;
  QuantityField* bottom_;
  QToolButton* automatic_;
};

} // namespace kiln
