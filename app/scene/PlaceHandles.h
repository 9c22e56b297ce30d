// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "document/Document.h"

#include <QObject>
#include <QPointF>
#include <optional>

class QMouseEvent;
class QPainter;

namespace kiln
{

class SceneCanvas;
class SceneOverlay;

/// Three arrows on the selected part: dragging one moves the part along an axis, in whole millimetres. Where a material
/// has axes of its own, they are shown instead of x, y, z beside the arrows.
class PlaceHandles : public QObject
{
  Q_OBJECT

public:
  PlaceHandles(Document& document, SceneCanvas& canvas, SceneOverlay& overlay);

  void paint(QPainter& painter) const;
  /// Pixel of the tip of an arrow (0 x, 1 y, 2 z); nothing when no part is selected.
  [[nodiscard]] std::optional<QPointF> tip(int axis) const;

protected:
  bool eventFilter(QObject* watched, QEvent* event) override;

private:
  struct Arrows {
    Vec3 base = Vec3::Zero();
    double length = 0; // m
  };
  [[nodiscard]] std::optional<Arrows> arrows() const;
  [[nodiscard]] int axisAt(const QPointF& pixel) const;
  [[nodiscard]] double travelled(const QPointF& pixel) const; // m along the dragged axis
  void paintMaterialAxes(QPainter& painter, const Arrows& at) const;
  void drop();

  Document& document_;
  SceneCanvas& canvas_;
  SceneOverlay& overlay_;
  int axis_ = -1; // dragged
  QPointF from_;
  double by_ = 0; // m
};

} // namespace kiln
