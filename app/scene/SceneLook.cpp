// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
//
// How one looks at the scene: camera, pointer, and what lies under it.
#include <vtkCamera.h>
#include <vtkRenderer.h>

#include "base/At.h"
#include "scene/SceneCanvas.h"
#include "scene/Turntable.h"

#include <QMouseEvent>
#include <QRubberBand>
#include <algorithm>
#include <cmath>
#include <limits>

namespace kiln
{
namespace
{

constexpr double viewAngle = 22; // degrees: little perspective, so that shapes can be judged

} // namespace

void SceneCanvas::followCamera(const SceneCanvas& other)
{
  vtkCamera* camera = renderer()->GetActiveCamera();
  camera->DeepCopy(other.renderer()->GetActiveCamera());
  placeCentre();
  framed_ = false;
  keepMoving();
  renderer()->ResetCameraClippingRange();
  update();
}

void SceneCanvas::setLeftPart(double widths)
{
  leftPart_ = widths;
  placeCentre();
  update();
}

void SceneCanvas::setCovered(int left, int right)
{
  if (left == covered_ && right == coveredRight_)
    return;
  covered_ = left;
  coveredRight_ = right;
  placeCentre();
  if (framed_)
    fit();
  else
    moved();
}

/// In half widths: of what both parts of a view see together, and beside what is covered.
void SceneCanvas::placeCentre()
{
  renderer()->GetActiveCamera()->SetWindowCenter(leftPart_ - double(covered_ - coveredRight_) / std::max(width(), 1),
                                                 0);
}

std::pair<Vec3, Vec3> SceneCanvas::rayAt(const QPointF& pixel) const
{
  vtkRenderer* view = renderer();
  const double ratio = devicePixelRatioF();
  const auto world = [&](double depth) {
    view->SetDisplayPoint(pixel.x() * ratio, (height() - pixel.y()) * ratio, depth);
    view->DisplayToWorld();
    const double* p = view->GetWorldPoint();
    return Vec3(p[0] / p[3], p[1] / p[3], p[2] / p[3]);
  };
  return {world(0), world(1)};
}

std::optional<PickedPoint> SceneCanvas::pickAt(const QPointF& pixel) const
{
  if (model_.empty())
    return std::nullopt;
  const auto [from, to] = rayAt(pixel);
  auto skin = shownPicker_.pick(from, to, sections_);
  if (skin && isFlat())
    snapToBorder(*skin, pixel);
  if (skin && height_ > 0 && isFlat()) // read where it stands
    skin->place[model_.source().mesh->geometry.section.across] = model_.source().mesh->geometry.section.at;
  const auto cut = cutPicker_.pick(from, to, sections_);
  if (skin && cut)
    return skin->distance < cut->distance ? skin : cut;
  return skin ? skin : cut;
}

/// Near a border of a section model its edge is meant, which is seen from above and has no width.
void SceneCanvas::snapToBorder(PickedPoint& hit, const QPointF& pixel) const
{
  const Mesh& mesh = *model_.source().mesh;
  double nearest = std::numeric_limits<double>::infinity();
  Vec3 place = hit.place;
  FaceId meant;
  for (std::size_t t = 0; t < mesh.triangles.size(); ++t) {
    const Face& face = mesh.geometry.faces[static_cast<std::size_t>(mesh.triangleFace[t])];
    if (face.aside || !face.touches(hit.part))
      continue;
    const Vec3 a = mesh.placeOf(mesh.triangles[t][0]);
    Vec3 b = mesh.placeOf(mesh.triangles[t][1]);
    if (a == b)
      b = mesh.placeOf(mesh.triangles[t][2]);
    const Vec3 along = b - a;
    const double share = std::clamp((hit.place - a).dot(along) / std::max(along.squaredNorm(), 1e-300), 0.0, 1.0);
    const double away = (hit.place - a - share * along).norm();
    if (away < nearest) {
      nearest = away;
      place = a + share * along;
      meant = mesh.triangleFace[t];
    }
  }
  constexpr double reach = 8; // px
  const QPointF apart = pixelOf(place) - pixel;
  if (meant >= 0 && std::hypot(apart.x(), apart.y()) < reach)
    hit.face = meant;
}

std::vector<PickedPoint> SceneCanvas::pickThrough(const QPointF& pixel) const
{
  std::vector<PickedPoint> found;
  if (model_.empty())
    return found;
  const DrawnSurface all = model_.allFaces();
  SurfacePicker picker;
  picker.setSurface(all);
  auto [from, to] = rayAt(pixel);
  const Vec3 along = (to - from).normalized();
  constexpr double step = 1e-6; // m behind a hit
  constexpr int most = 60;
  for (int i = 0; i < most; ++i) {
    const auto hit = picker.pick(from, to, sections_);
    if (!hit)
      break;
    if (std::none_of(found.begin(), found.end(), [&](const PickedPoint& one) { return one.face == hit->face; }))
      found.push_back(*hit);
    from = hit->place + step * along;
  }
  return found;
}

QPointF SceneCanvas::pixelOf(const Vec3& place) const
{
  vtkRenderer* view = renderer();
  view->SetWorldPoint(place.x(), place.y(), place.z(), 1);
  view->WorldToDisplay();
  const double* p = view->GetDisplayPoint();
  const double ratio = devicePixelRatioF();
  return {p[0] / ratio, height() - p[1] / ratio};
}

bool SceneCanvas::isCovered(const Vec3& place) const
{
  if (removes(sections_, place))
    return true;
  const auto hit = pickAt(pixelOf(place));
  if (!hit)
    return false;
  const double reach = (hit->place - place).norm();
  const auto [low, high] = model_.bounds();
  constexpr double near = 0.01; // of the model's size
  return reach > near * (high - low).norm() && hit->distance < (place - rayAt(pixelOf(place)).first).norm();
}

Vec3 SceneCanvas::eye() const
{
  Vec3 place;
  renderer()->GetActiveCamera()->GetPosition(place.data());
  return place;
}

SceneCanvas::Camera SceneCanvas::camera() const
{
  Camera now;
  vtkCamera* camera = renderer()->GetActiveCamera();
  camera->GetPosition(now.eye.data());
  camera->GetFocalPoint(now.towards.data());
  camera->GetViewUp(now.up.data());
  return now;
}

void SceneCanvas::setCamera(const Camera& wanted)
{
  vtkCamera* camera = renderer()->GetActiveCamera();
  camera->SetViewAngle(viewAngle);
  camera->SetPosition(wanted.eye.data());
  camera->SetFocalPoint(wanted.towards.data());
  camera->SetViewUp(wanted.up.data());
  framed_ = false;
  placed_ = model_.empty();
  moved();
}

double SceneCanvas::pixelLength() const
{
  constexpr double degrees = 3.14159265358979323846 / 180;
  const double distance = renderer()->GetActiveCamera()->GetDistance();
  return 2 * distance * std::tan(viewAngle / 2 * degrees) / std::max(height(), 1);
}

void SceneCanvas::moved()
{
  keepMoving();
  renderer()->ResetCameraClippingRange();
  update();
  emit cameraMoved();
}

void SceneCanvas::fit()
{
  if (model_.empty())
    return;
  const auto [low, high] = model_.bounds();
  const std::array<double, 6> box{low.x(), high.x(), low.y(), high.y(), low.z(), high.z()};
  vtkCamera* camera = renderer()->GetActiveCamera();
  camera->SetViewAngle(viewAngle);
  renderer()->ResetCamera(box.data());
  // The default leaves a wide margin: come closer until the corners fill the view, twice because of the perspective.
  for (int pass = 0; pass < 2; ++pass) {
    double used = 0;
    for (int corner = 0; corner < 8; ++corner) {
      const Vec3 place((corner & 1) != 0 ? high.x() : low.x(), (corner & 2) != 0 ? high.y() : low.y(),
                       (corner & 4) != 0 ? high.z() : low.z());
      const QPointF away = pixelOf(place) - QPointF((width() + covered_ - coveredRight_) / 2.0, height() / 2.0);
      used = std::max({used, std::abs(away.x()) * 2 / std::max(width() - covered_ - coveredRight_, 1),
                       std::abs(away.y()) * 2 / std::max(height(), 1)});
    }
    constexpr double wanted = 0.88; // of the view
    if (used > 0)
      camera->Dolly(wanted / used);
  }
  framed_ = true;
  moved();
}

void SceneCanvas::lookAlong(const Vec3& direction, const Vec3& up)
{
  const auto [low, high] = model_.bounds();
  turntable::lookAlong(*renderer()->GetActiveCamera(), low, high, direction, up);
  fit();
}

bool SceneCanvas::isFlat() const { return !model_.empty() && model_.source().mesh->geometry.section.is(); }

bool SceneCanvas::looksStraightAtSection() const
{
  const int across = isFlat() ? model_.source().mesh->geometry.section.across : -1;
  constexpr double straight = 0.999;
  const Camera now = camera();
  return across >= 0 && std::abs((now.towards - now.eye).normalized()[across]) > straight;
}

/// Straight onto the plane of a section model.
void SceneCanvas::lookAtSection()
{
  Vec3 direction = Vec3::Zero();
  const int across = model_.source().mesh->geometry.section.across;
  direction[across] = across == 1 ? 1 : -1;
  lookAlong(direction, across == 2 ? Vec3(0, 1, 0) : Vec3(0, 0, 1));
}

void SceneCanvas::lookFromCorner() { lookAlong(Vec3(-0.55, 0.8, -0.5), Vec3(0, 0, 1)); }

void SceneCanvas::orbit(double azimuth, double elevation)
{
  turntable::orbit(*renderer()->GetActiveCamera(), azimuth, elevation);
  framed_ = false;
  moved();
}

void SceneCanvas::zoom(double factor)
{
  renderer()->GetActiveCamera()->Dolly(factor);
  framed_ = false;
  moved();
}

void SceneCanvas::pan(const QPointF& delta)
{
  turntable::pan(*renderer()->GetActiveCamera(), delta.x(), delta.y(), height());
  framed_ = false;
  moved();
}

void SceneCanvas::mousePressEvent(QMouseEvent* event)
{
  pressedAt_ = lastAt_ = event->position();
  dragging_ = false;
  setFocus(Qt::MouseFocusReason);
}

void SceneCanvas::mouseMoveEvent(QMouseEvent* event)
{
  const QPointF here = event->position();
  const QPointF delta = here - lastAt_;
  if (event->buttons() == Qt::NoButton) {
    emit hovered(pickAt(here));
    return;
  }
  constexpr double slop = 3; // pixels before a click becomes a drag
  if (!dragging_ && (here - pressedAt_).manhattanLength() < slop)
    return;
  dragging_ = true;
  lastAt_ = here;
  if ((event->modifiers() & Qt::AltModifier) != 0 && (event->buttons() & Qt::LeftButton) != 0) {
    if (band_ == nullptr)
      band_ = new QRubberBand(QRubberBand::Rectangle, this);
    band_->setGeometry(QRect(pressedAt_.toPoint(), here.toPoint()).normalized());
    band_->show();
    return;
  }
  const bool panning = (event->buttons() & Qt::MiddleButton) != 0 || (event->modifiers() & Qt::ShiftModifier) != 0;
  constexpr double degreesPerPixel = 0.4;
  if (panning)
    pan(delta);
  else if ((event->buttons() & Qt::LeftButton) != 0)
    orbit(-delta.x() * degreesPerPixel, delta.y() * degreesPerPixel);
}

void SceneCanvas::mouseReleaseEvent(QMouseEvent* event)
{
  if (band_ != nullptr && band_->isVisible()) {
    band_->hide();
    emit boxed(band_->geometry());
  } else if (!dragging_ && event->button() == Qt::LeftButton)
    emit picked(pickAt(event->position()), event->modifiers());
  dragging_ = false;
}

void SceneCanvas::wheelEvent(QWheelEvent* event)
{
  constexpr double perNotch = 1.12;
  constexpr double notch = 120;
  zoom(std::pow(perNotch, event->angleDelta().y() / notch));
}

void SceneCanvas::leaveEvent(QEvent* /*event*/) { emit hovered(std::nullopt); }

void SceneCanvas::resizeEvent(QResizeEvent* event)
{
  VtkView::resizeEvent(event);
  placeCentre();
  if (framed_)
    fit();
  emit cameraMoved();
}

} // namespace kiln
