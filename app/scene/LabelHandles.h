// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "document/Document.h"

#include <QObject>
#include <QPointF>
#include <optional>

namespace kiln
{

class SceneCanvas;

/// Labels taken at their places and moved along the face that they lie on.
class LabelHandles : public QObject
{
  Q_OBJECT

public:
  LabelHandles(Document& document, SceneCanvas& canvas);

  /// The label that is moved, and where it is drawn meanwhile.
  [[nodiscard]] const std::optional<std::pair<std::string, Vec3>>& held() const { return held_; }
  /// Pixel of the place of a label.
  [[nodiscard]] std::optional<QPointF> grip(const std::string& label) const;

signals:
  void moved();

protected:
  bool eventFilter(QObject* watched, QEvent* event) override;

private:
  [[nodiscard]] Vec3 drawnPlace(const Label& label) const;
  void take(const QPointF& pixel);
  void drop();

  Document& document_;
  SceneCanvas& canvas_;
  std::optional<std::pair<std::string, Vec3>> held_;
  FaceId face_{}; ///< that it moves along; none on a cut
  PartId part_{};
  bool changed_ = false;
};

} // namespace kiln
