// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include <QObject>
#include <QPointF>
#include <QRectF>
#include <array>
#include <optional>
#include <utility>

class QPainter;

namespace kiln
{

class SceneCanvas;

/// The cross of axes and the scale bar in the corner of the scene. A click on the end of an axis looks along it, one in
/// the middle looks from the corner.
class AxisCross : public QObject
{
  Q_OBJECT

public:
  explicit AxisCross(SceneCanvas& canvas);

  void paint(QPainter& painter) const;
  /// Pixel of an end of an axis (0 x, 1 y, 2 z), the positive or the negative one.
  [[nodiscard]] QPointF end(int axis, bool positive) const;
  /// "100 mm": what the scale bar is as long as, at the middle of what is looked at.
  [[nodiscard]] QString scaleText() const;
  [[nodiscard]] double scaleLength() const; ///< m
  /// What it takes of the picture: cross and bar, pixels.
  [[nodiscard]] std::array<QRectF, 2> rooms() const;

protected:
  bool eventFilter(QObject* watched, QEvent* event) override;

private:
  [[nodiscard]] QPointF middle() const;
  /// Left end of the scale bar and its length, pixels.
  [[nodiscard]] std::pair<QPointF, double> bar() const;
  [[nodiscard]] std::array<QPointF, 3> directions(std::array<double, 3>& towardsEye) const;

  SceneCanvas& canvas_;
  bool pressed_ = false;
};

/// Looks along an axis, straight at the side that it points to.
void lookFromSide(SceneCanvas& canvas, int axis, bool positive);

} // namespace kiln
