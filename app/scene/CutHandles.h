// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "model/Views.h"

#include <QObject>
#include <QPointF>
#include <optional>
#include <vector>

class QPainter;

namespace kiln
{

class SceneCanvas;

/// A grip on every plane that opens the model, at its middle: dragged, the plane moves along its normal.
class CutHandles : public QObject
{
  Q_OBJECT

public:
  CutHandles(SceneCanvas& canvas, std::vector<CutPlane>& cuts);

  void paint(QPainter& painter) const;
  /// Pixel of the grip of a cut.
  [[nodiscard]] QPointF grip(std::size_t cut) const;

signals:
  void dragged(); ///< a cut has moved
  void released();

protected:
  bool eventFilter(QObject* watched, QEvent* event) override;

private:
  [[nodiscard]] QPointF pixelsPerMetre(std::size_t cut) const;

  SceneCanvas& canvas_;
  std::vector<CutPlane>& cuts_;
  std::optional<std::size_t> held_;
  QPointF last_;
};

} // namespace kiln
