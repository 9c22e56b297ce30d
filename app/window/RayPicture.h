// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "mesh/Mesh.h"
#include "mesh/RayScene.h"

#include <QColor>
#include <QImage>
#include <QPointF>
#include <QWidget>
#include <memory>
#include <optional>
#include <set>
#include <vector>

namespace kiln
{

/// A picture of a mesh cast by rays: dragged, or turned by the arrow keys; the wheel makes it larger. For dialogs: a
/// second window with OpenGL can stand still for ever where no graphics card draws it.
class RayPicture : public QWidget
{
  Q_OBJECT

public:
  explicit RayPicture(QWidget* parent = nullptr);

  void setMesh(std::shared_ptr<const Mesh> mesh);
  /// \param colors  by face
  /// \param groups  by face: between faces of one group no line is drawn
  void setColors(std::vector<QColor> colors, std::vector<int> groups);
  /// \param parts  that stand out, also through what lies before them
  void setLit(std::set<int> parts);

  /// What is drawn at a size in pixels.
  [[nodiscard]] QImage cast(const QSize& size) const;

  [[nodiscard]] QSize sizeHint() const override;

protected:
  void paintEvent(QPaintEvent* event) override;
  void mousePressEvent(QMouseEvent* event) override;
  void mouseMoveEvent(QMouseEvent* event) override;
  void mouseReleaseEvent(QMouseEvent* event) override;
  void wheelEvent(QWheelEvent* event) override;
  void keyPressEvent(QKeyEvent* event) override;

private:
  void turn(double azimuth, double elevation);
  void changed();
  [[nodiscard]] QRgb colorOf(const RayHit& hit, const Vec3& along) const;
  [[nodiscard]] bool isLitBehind(const Vec3& from, const Vec3& along) const;

  std::shared_ptr<const Mesh> mesh_;
  std::unique_ptr<RayScene> scene_, litScene_; ///< of everything; of the parts that stand out
  Vec3 middle_ = Vec3::Zero();
  double radius_ = 1;                     ///< m, of a ball around everything
  double azimuth_ = -55, elevation_ = 25; ///< degrees
  double zoom_ = 1;
  std::vector<QColor> colors_;
  std::vector<int> groups_;
  std::set<int> lit_;
  QImage drawn_;
  std::optional<QPointF> draggedFrom_;
};

} // namespace kiln
