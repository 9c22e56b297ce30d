// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "window/RayPicture.h"

#include "look/Theme.h"

#include <QKeyEvent>
#include <QMouseEvent>
#include <QPainter>
#include <QWheelEvent>
#include <algorithm>
#include <cmath>
#include <numbers>
#include <numeric>

namespace kiln
{
namespace
{

QRgb shaded(const QColor& color, double light)
{
  const auto part = [&](int value) { return std::clamp(static_cast<int>(std::lround(value * light)), 0, 255); };
  return qRgb(part(color.red()), part(color.green()), part(color.blue()));
}

/// A third of a colour with two thirds of another.
QRgb mixed(QRgb color, const QColor& other)
{
  return qRgb((qRed(color) + 2 * other.red()) / 3, (qGreen(color) + 2 * other.green()) / 3,
              (qBlue(color) + 2 * other.blue()) / 3);
}

} // namespace

RayPicture::RayPicture(QWidget* parent) : QWidget(parent)
{
  setFocusPolicy(Qt::StrongFocus);
  setMinimumSize(16 * fontMetrics().averageCharWidth(), 8 * fontMetrics().height());
}

QSize RayPicture::sizeHint() const { return {50 * fontMetrics().averageCharWidth(), 20 * fontMetrics().height()}; }

void RayPicture::setMesh(std::shared_ptr<const Mesh> mesh)
{
  const bool first = mesh_ == nullptr;
  mesh_ = std::move(mesh);
  scene_.reset();
  litScene_.reset();
  lit_.clear();
  if (mesh_ != nullptr && !mesh_->triangles.empty()) {
    std::vector<std::size_t> all(mesh_->triangles.size());
    std::iota(all.begin(), all.end(), 0U);
    scene_ = std::make_unique<RayScene>(*mesh_, all);
    Vec3 low = mesh_->nodes.front();
    Vec3 high = low;
    for (const Vec3& node : mesh_->nodes) {
      low = low.cwiseMin(node);
      high = high.cwiseMax(node);
    }
    middle_ = (low + high) / 2;
    radius_ = std::max((high - low).norm() / 2, 1e-9);
    if (first && mesh_->geometry.section.is()) // looked at from the front
      azimuth_ = -90, elevation_ = 0;
  }
  changed();
}

void RayPicture::setColors(std::vector<QColor> colors, std::vector<int> groups)
{
  colors_ = std::move(colors);
  groups_ = std::move(groups);
  changed();
}

void RayPicture::setLit(std::set<int> parts)
{
  if (parts == lit_)
    return;
  lit_ = std::move(parts);
  litScene_.reset();
  std::vector<std::size_t> own;
  for (std::size_t t = 0; mesh_ != nullptr && t < mesh_->triangles.size(); ++t)
    if (lit_.contains(mesh_->geometry.faces[static_cast<std::size_t>(mesh_->triangleFace[t])].parts[0]))
      own.push_back(t);
  if (!own.empty())
    litScene_ = std::make_unique<RayScene>(*mesh_, own);
  changed();
}

void RayPicture::changed()
{
  drawn_ = QImage();
  update();
}

QRgb RayPicture::colorOf(const RayHit& hit, const Vec3& along) const
{
  const auto face = static_cast<std::size_t>(mesh_->triangleFace[hit.triangle]);
  const QColor color = face < colors_.size() ? colors_[face] : QColor(Qt::gray);
  return shaded(color, 0.55 + 0.45 * std::abs(triangleNormal(*mesh_, hit.triangle).dot(along)));
}

bool RayPicture::isLitBehind(const Vec3& from, const Vec3& along) const
{
  return litScene_ != nullptr && litScene_->first(from, along, 0, 6 * radius_).has_value();
}

QImage RayPicture::cast(const QSize& size) const
{
  QImage image(size, QImage::Format_RGB32);
  image.fill(theme().scene);
  if (scene_ == nullptr || size.isEmpty() || groups_.size() < mesh_->geometry.faces.size())
    return image;
  const double a = azimuth_ * std::numbers::pi / 180;
  const double e = elevation_ * std::numbers::pi / 180;
  const Vec3 along(-std::cos(e) * std::cos(a), -std::cos(e) * std::sin(a), -std::sin(e));
  const Vec3 right(-std::sin(a), std::cos(a), 0);
  const Vec3 up = right.cross(along);
  const double pixel = 2.1 * radius_ / (zoom_ * std::min(size.width(), size.height())); // m
  std::vector<int> groupAt(static_cast<std::size_t>(size.width()) * static_cast<std::size_t>(size.height()), -1);
  for (int y = 0; y < size.height(); ++y)
    for (int x = 0; x < size.width(); ++x) {
      const Vec3 from = middle_ - 3 * radius_ * along + pixel * (x - size.width() / 2.0) * right -
                        pixel * (y - size.height() / 2.0) * up;
      if (const auto hit = scene_->first(from, along, 0, 6 * radius_)) {
        const QRgb color = colorOf(*hit, along);
        image.setPixel(x, y, isLitBehind(from, along) ? mixed(color, theme().accent) : color);
        groupAt[static_cast<std::size_t>(y) * static_cast<std::size_t>(size.width()) + static_cast<std::size_t>(x)] =
            groups_[static_cast<std::size_t>(mesh_->triangleFace[hit->triangle])];
      }
    }
  const QRgb line = theme().sceneLine.rgb(); // where groups meet
  for (int y = 0; y + 1 < size.height(); ++y)
    for (int x = 0; x + 1 < size.width(); ++x) {
      const auto here =
          static_cast<std::size_t>(y) * static_cast<std::size_t>(size.width()) + static_cast<std::size_t>(x);
      if (groupAt[here] != groupAt[here + 1] || groupAt[here] != groupAt[here + static_cast<std::size_t>(size.width())])
        image.setPixel(x, y, line);
    }
  return image;
}

void RayPicture::paintEvent(QPaintEvent* /*event*/)
{
  const double coarser = draggedFrom_ ? 2 : 1; // while it turns
  const QSize wanted = (QSizeF(size()) * devicePixelRatioF() / coarser).toSize();
  if (drawn_.size() != wanted)
    drawn_ = cast(wanted);
  QPainter painter(this);
  painter.drawImage(rect(), drawn_);
}

void RayPicture::turn(double azimuth, double elevation)
{
  azimuth_ += azimuth;
  elevation_ = std::clamp(elevation_ + elevation, -89.0, 89.0);
  changed();
}

void RayPicture::mousePressEvent(QMouseEvent* event) { draggedFrom_ = event->position(); }

void RayPicture::mouseMoveEvent(QMouseEvent* event)
{
  if (!draggedFrom_)
    return;
  const QPointF moved = event->position() - *draggedFrom_;
  draggedFrom_ = event->position();
  constexpr double perPixel = 0.5; // degrees
  turn(-perPixel * moved.x(), perPixel * moved.y());
}

void RayPicture::mouseReleaseEvent(QMouseEvent* /*event*/)
{
  draggedFrom_.reset();
  changed();
}

void RayPicture::wheelEvent(QWheelEvent* event)
{
  zoom_ = std::clamp(zoom_ * std::pow(1.1, event->angleDelta().y() / 120.0), 0.2, 50.0);
  changed();
}

void RayPicture::keyPressEvent(QKeyEvent* event)
{
  constexpr double step = 10; // degrees
  switch (event->key()) {
  case Qt::Key_Left:
    return turn(-step, 0);
  case Qt::Key_Right:
    return turn(step, 0);
  case Qt::Key_Up:
    return turn(0, step);
  case Qt::Key_Down:
    return turn(0, -step);
  default:
    QWidget::keyPressEvent(event);
  }
}

} // namespace kiln
