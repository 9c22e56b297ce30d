// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "scene/FaceDrawing.h"

#include "look/Theme.h"
#include "model/Edit.h"
#include "model/RoundNumber.h"
#include "scene/SceneCanvas.h"
#include "scene/SceneOverlay.h"

#include <QKeyEvent>
#include <QLineEdit>
#include <QMouseEvent>
#include <QPainter>
#include <QRegularExpression>
#include <cmath>

namespace kiln
{
namespace
{

QString millimetres(double metres) { return QString::number(std::round(metres * 1e6) / 1e3, 'g', 6) + " mm"; }

/// Lengths of "40 x 20", "40 mm × 2 cm", "12,5"; a number alone is in mm.
std::vector<double> typedLengths(const QString& text)
{
  static const QRegularExpression between("\\s*[x×*;]\\s*", QRegularExpression::CaseInsensitiveOption);
  std::vector<double> lengths;
  for (QString part : text.split(between, Qt::SkipEmptyParts)) {
    bool plain = false;
    part = part.trimmed().replace(',', '.');
    part.toDouble(&plain);
    const auto read = parseQuantity((plain ? part + " mm" : part).toStdString(), Quantity::Length);
    if (!read)
      return {};
    lengths.push_back(read->si);
  }
  return lengths;
}

bool isBack(int key) { return key == Qt::Key_Escape || key == Qt::Key_Backspace || key == Qt::Key_Delete; }
bool isEnter(int key) { return key == Qt::Key_Return || key == Qt::Key_Enter; }

} // namespace

FaceDrawing::FaceDrawing(Document& document, SceneCanvas& canvas, SceneOverlay& overlay)
    : QObject(&canvas), document_(document), canvas_(canvas), overlay_(overlay), typed_(new QLineEdit(&canvas))
{
  typed_->setObjectName("drawTyped");
  typed_->setAccessibleName(tr("Sizes of what is drawn"));
  typed_->hide();
  typed_->installEventFilter(this);
  canvas.installEventFilter(this);
  connect(&document, &Document::projectChanged, this, [this] {
    const Part* part = findById(document_.shownProject().parts, drawnOn_.id);
    if (isOn() && stage_ != Stage::Face &&
        (part == nullptr || part->shape != drawnOn_.shape || part->steps != drawnOn_.steps)) {
      stop();
      overlay_.setHover(tr("The part has changed: draw once more"));
    }
  });
}

void FaceDrawing::start(Tool tool, bool divides)
{
  stop();
  tool_ = tool;
  divides_ = divides;
  stage_ = Stage::Face;
  canvas_.setCursor(Qt::CrossCursor);
  canvas_.setFocus();
  emit changed();
}

void FaceDrawing::stop()
{
  if (!isOn())
    return;
  stage_ = Stage::Off;
  sketch_ = {};
  at_.reset();
  height_ = 0;
  typed_->hide();
  canvas_.unsetCursor();
  emit changed();
}

QString FaceDrawing::words() const
{
  const QString esc = tr(" (Esc goes back)");
  switch (stage_) {
  case Stage::Off:
    break;
  case Stage::Face:
    return (tool_ == Tool::Push      ? tr("Click the flat face to push")
            : tool_ == Tool::Circle  ? tr("Click the centre on a flat face")
            : tool_ == Tool::Outline ? tr("Click the first corner on a flat face")
                                     : tr("Click a corner on a flat face")) +
           esc;
  case Stage::Sketch: {
    const Sketch now = shown();
    if (tool_ == Tool::Outline)
      return tr("Click corners; Enter closes the outline") + esc;
    if (now.points.size() < 2)
      return (tool_ == Tool::Circle ? tr("Click how far the circle reaches, or type its diameter")
                                    : tr("Click the opposite corner, or type “40 x 20”")) +
             esc;
    const Vec2 way = now.points[1] - now.points[0];
    return (tool_ == Tool::Circle ? tr("⌀ %1: click, or type the diameter").arg(millimetres(2 * way.norm()))
                                  : tr("%1 × %2: click, or type “40 x 20”")
                                        .arg(millimetres(std::abs(way.x())), millimetres(std::abs(way.y())))) +
           esc;
  }
  case Stage::Height:
    return (tool_ == Tool::Push ? tr("%1: click, or type how far; below zero inwards").arg(millimetres(height_))
            : height_ < 0       ? tr("sunk by %1: click, or type a depth below zero").arg(millimetres(-height_))
                                : tr("raised by %1: click, or type a height").arg(millimetres(height_))) +
           esc;
  }
  return {};
}

Sketch FaceDrawing::shown() const
{
  Sketch now = sketch_;
  if (stage_ == Stage::Sketch && at_)
    now.points.push_back(*at_);
  return now;
}

bool FaceDrawing::eventFilter(QObject* watched, QEvent* event)
{
  if (!isOn())
    return false;
  if (watched == typed_)
    return event->type() == QEvent::KeyPress && typedKey(static_cast<QKeyEvent*>(event)->key());
  switch (event->type()) {
  case QEvent::MouseButtonPress:
    return press(*static_cast<QMouseEvent*>(event));
  case QEvent::MouseButtonRelease:
    return static_cast<QMouseEvent*>(event)->button() == Qt::LeftButton;
  case QEvent::MouseMove: {
    const auto* mouse = static_cast<QMouseEvent*>(event);
    if ((mouse->buttons() & (Qt::MiddleButton | Qt::RightButton)) != 0)
      return false; // the camera still moves
    move(mouse->position());
    return true;
  }
  case QEvent::MouseButtonDblClick:
    if (stage_ == Stage::Sketch && tool_ == Tool::Outline)
      toHeight();
    return true;
  case QEvent::ShortcutOverride:
    if (!isOwnKey(*static_cast<QKeyEvent*>(event)))
      return false; // a shortcut of the window
    event->accept();
    return true;
  case QEvent::KeyPress:
    return keyPress(*static_cast<QKeyEvent*>(event));
  default:
    return false;
  }
}

/// Of the field: Enter takes what is typed and is no Enter of the drawing, Esc gives it up.
bool FaceDrawing::typedKey(int key)
{
  if (isEnter(key)) {
    takeTyped();
    return true;
  }
  if (key != Qt::Key_Escape)
    return false;
  typed_->hide();
  canvas_.setFocus();
  return true;
}

/// Esc and Backspace always (Delete too: not the part); once something is drawn, Enter and what begins a number.
bool FaceDrawing::isOwnKey(const QKeyEvent& event) const
{
  if ((event.modifiers() & (Qt::ControlModifier | Qt::AltModifier | Qt::MetaModifier)) != 0)
    return false;
  if (isBack(event.key()))
    return true;
  const QString text = event.text();
  return stage_ != Stage::Face &&
         (isEnter(event.key()) || (!text.isEmpty() && (text[0].isDigit() || text[0] == '-' || text[0] == '.')));
}

bool FaceDrawing::press(const QMouseEvent& event)
{
  if (event.button() != Qt::LeftButton)
    return false;
  pointer_ = event.position();
  if (stage_ == Stage::Face)
    begin(pointer_);
  else if (stage_ == Stage::Sketch) {
    if (const auto point = snaps_.snapped(canvas_, pointer_))
      addPoint(*point);
  } else if (stage_ == Stage::Height) {
    height_ = heightAt(pointer_);
    finish();
  }
  return true;
}

void FaceDrawing::move(const QPointF& pixel)
{
  pointer_ = pixel;
  if (stage_ == Stage::Face || stage_ == Stage::Sketch)
    at_ = stage_ == Stage::Sketch ? snaps_.snapped(canvas_, pixel) : std::nullopt;
  if (stage_ == Stage::Height && !typed_->isVisible())
    height_ = heightAt(pixel);
  emit changed();
}

bool FaceDrawing::keyPress(const QKeyEvent& event)
{
  if (!isOwnKey(event))
    return false;
  if (isBack(event.key()))
    back();
  else if (!isEnter(event.key()))
    askTyped(event.text());
  else if (stage_ == Stage::Height)
    finish();
  else if (tool_ == Tool::Outline)
    toHeight();
  return true;
}

/// Takes the face under the pixel; the first point is there.
bool FaceDrawing::begin(const QPointF& pixel)
{
  const auto mesh = canvas_.model().source().mesh;
  const auto hit = canvas_.pickAt(pixel);
  if (!mesh || !hit || hit->face < 0)
    return false;
  const Face& face = mesh->geometry.faces[static_cast<std::size_t>(hit->face)];
  const std::string id = mesh->geometry.parts[static_cast<std::size_t>(hit->part)].id;
  const Part* part = findById(document_.shownProject().parts, id);
  auto plane = part != nullptr ? drawingPlane(face, hit->part, *part) : std::nullopt;
  if (!plane) {
    overlay_.setHover(tr("That face is not flat: click another one (Esc goes back)"));
    return false;
  }
  plane->origin += canvas_.model().offset(hit->part);
  snaps_ = DrawingSnaps(canvas_, *plane, hit->face);
  drawnOn_ = *part;
  face_.clear();
  for (const std::string& name : face.names) // the one of its own, not of a copy
    if (name.starts_with(id + ".") && (face_.empty() || name.size() < face_.size()))
      face_ = name;
  document_.select(id);
  document_.pickFaces({face_});
  sketch_ = {};
  sketch_.kind = tool_ == Tool::Circle    ? Sketch::Kind::Circle
                 : tool_ == Tool::Outline ? Sketch::Kind::Outline
                                          : Sketch::Kind::Rectangle;
  from_ = pixel;
  if (tool_ == Tool::Push) {
    stage_ = Stage::Height;
    height_ = 0;
  } else {
    stage_ = Stage::Sketch;
    sketch_.points = {snaps_.snapped(canvas_, pixel).value_or(snaps_.plane().flatOf(hit->place))};
    at_ = sketch_.points.front();
  }
  canvas_.setFocus();
  emit changed();
  return true;
}

void FaceDrawing::addPoint(const Vec2& point)
{
  if (tool_ == Tool::Outline && sketch_.points.size() > 2 && snaps_.isAt(canvas_, sketch_.points.front(), pointer_))
    return toHeight();
  if (!sketch_.points.empty() && (point - sketch_.points.back()).norm() < 1e-9)
    return; // the same place once more
  sketch_.points.push_back(point);
  if (tool_ != Tool::Outline)
    return toHeight();
  emit changed();
}

void FaceDrawing::toHeight()
{
  if (!sketch_.isSomething()) {
    if (tool_ != Tool::Outline)
      sketch_.points.resize(1);
    return;
  }
  at_.reset();
  if (divides_)
    return finish();
  stage_ = Stage::Height;
  from_ = pointer_;
  height_ = 0;
  emit changed();
}

void FaceDrawing::back()
{
  if (stage_ == Stage::Height && tool_ != Tool::Push) {
    stage_ = Stage::Sketch;
    if (tool_ != Tool::Outline)
      sketch_.points.resize(1);
  } else if (stage_ == Stage::Sketch && tool_ == Tool::Outline && sketch_.points.size() > 1) {
    sketch_.points.pop_back();
  } else if (stage_ != Stage::Face) {
    stage_ = Stage::Face;
    sketch_ = {};
    at_.reset();
  } else {
    return stop();
  }
  if (stage_ == Stage::Sketch)
    at_ = snaps_.snapped(canvas_, pointer_);
  emit changed();
}

/// How far the pointer has come along the normal since the height began.
double FaceDrawing::heightAt(const QPointF& pixel) const
{
  const auto [low, high] = canvas_.model().bounds();
  constexpr double share = 0.1;
  const double step = std::max(share * (high - low).norm(), 1e-9);
  const QPointF perMetre =
      (canvas_.pixelOf(plane().origin + step * plane().out) - canvas_.pixelOf(plane().origin)) / step;
  const double length = std::hypot(perMetre.x(), perMetre.y());
  constexpr double least = 0.12; // of its length from the side: else the normal points at the eye, then up is out
  const double metres = length * canvas_.pixelLength() > least
                            ? QPointF::dotProduct(pixel - from_, perMetre) / (length * length)
                            : (from_.y() - pixel.y()) * canvas_.pixelLength();
  const double grain = DrawingSnaps::grain(canvas_);
  return std::round(metres / grain) * grain;
}

void FaceDrawing::askTyped(const QString& first)
{
  typed_->setText(first);
  const QPoint at = pointer_.toPoint() + QPoint(14, 10);
  const QSize size(typed_->fontMetrics().averageCharWidth() * 16, typed_->sizeHint().height());
  typed_->setGeometry(QRect(
      QPoint(std::min(at.x(), canvas_.width() - size.width()), std::min(at.y(), canvas_.height() - size.height())),
      size));
  typed_->show();
  typed_->raise();
  typed_->setFocus();
  typed_->end(false);
}

void FaceDrawing::takeTyped()
{
  const std::vector<double> lengths = typedLengths(typed_->text());
  if (lengths.empty()) {
    overlay_.setHover(tr("“%1” is no length: type 40, 40 x 20, or 2 cm").arg(typed_->text()));
    return;
  }
  typed_->hide();
  canvas_.setFocus();
  if (stage_ == Stage::Height) {
    height_ = lengths.front();
    return finish();
  }
  if (stage_ != Stage::Sketch)
    return;
  if (tool_ == Tool::Outline) { // the next corner lies so far towards the pointer
    const Vec2 way = at_.value_or(sketch_.points.back() + Vec2::UnitX()) - sketch_.points.back();
    return addPoint(sketch_.points.back() +
                    lengths.front() * (way.norm() > 0 ? Vec2(way.normalized()) : Vec2::UnitX()));
  }
  if (shown().points.size() < 2)
    sketch_.points.emplace_back(sketch_.points.front() + Vec2(1, 1));
  else
    sketch_ = shown();
  sketch_ = sketch_.sized(lengths);
  toHeight();
}

void FaceDrawing::finish()
{
  if (height_ == 0 && !divides_)
    return overlay_.setHover(tr("Nothing is raised or sunk yet: move the pointer, or type a height"));
  const std::string part = drawnOn_.id;
  const Sketch sketch = sketch_;
  const bool push = tool_ == Tool::Push;
  const bool divides = divides_;
  const double height = height_;
  const std::string face = face_;
  DrawingPlane plane = snaps_.plane();
  const auto mesh = canvas_.model().source().mesh;
  plane.origin -= canvas_.model().offset(mesh->geometry.partIndex(part));
  stop();
  const std::string step = document_.addStep(part, [&](const Part& own) {
    ShapeStep made;
    if (push)
      made.action = PushFace{face, lengthNumber(height)};
    else
      made = divides ? divisionOf(sketch, face) : stepOf(sketch, height, plane, own);
    made.id = freeStepId(own, push ? "push" : divides ? "divide" : height > 0 ? "rib" : "pocket");
    return made;
  });
  if (!step.empty())
    emit made(part, step);
}

/// Of what is drawn, or of the face itself where it is pushed.
std::vector<Vec3> FaceDrawing::border(double height) const
{
  std::vector<Vec3> places;
  for (const Vec2& point : shown().border())
    places.push_back(plane().placeOf(point, height));
  return places;
}

QList<QLineF> FaceDrawing::pushedLines() const
{
  QList<QLineF> lines;
  const auto pushed = [&](const Vec2& place) { return canvas_.pixelOf(plane().placeOf(place, height_)); };
  for (const auto& [a, b] : snaps_.edges())
    lines.emplace_back(pushed(a), pushed(b));
  std::vector<Vec2> sides = snaps_.corners();
  sides.emplace_back(Vec2::Zero());
  for (const Vec2& place : sides)
    lines.emplace_back(canvas_.pixelOf(plane().placeOf(place)), pushed(place));
  return lines;
}

void FaceDrawing::paint(QPainter& painter) const
{
  if (stage_ == Stage::Off || stage_ == Stage::Face)
    return;
  const Theme& t = theme();
  QColor ink = t.accent;
  const auto line = [&](const std::vector<Vec3>& places) {
    QPolygonF pixels;
    for (const Vec3& place : places)
      pixels << canvas_.pixelOf(place);
    painter.setPen(QPen(t.panel, 5, Qt::SolidLine, Qt::RoundCap, Qt::RoundJoin)); // stands out from any face
    painter.drawPolyline(pixels);
    painter.setPen(QPen(ink, 2));
    painter.drawPolyline(pixels);
  };
  painter.setBrush(Qt::NoBrush);
  if (tool_ == Tool::Push) {
    const QList<QLineF> lines = pushedLines();
    constexpr int many = 600; // wide ones take time
    if (lines.size() < many) {
      painter.setPen(QPen(t.panel, 5));
      painter.drawLines(lines);
    }
    painter.setPen(QPen(ink, lines.size() < many ? 2 : 1));
    painter.setRenderHint(QPainter::Antialiasing, lines.size() < many);
    painter.drawLines(lines);
    painter.setRenderHint(QPainter::Antialiasing);
    return;
  }
  std::vector<Vec3> ground = border(0);
  if (stage_ == Stage::Sketch && tool_ == Tool::Outline && !ground.empty())
    ground.pop_back(); // still open
  line(ground);
  if (stage_ == Stage::Height) {
    const std::vector<Vec3> top = border(height_);
    ink = height_ < 0 ? t.bad : t.accent;
    line(top);
    const std::size_t every = tool_ == Tool::Circle ? top.size() / 4 : 1;
    for (std::size_t i = 0; i + 1 < top.size(); i += every)
      line({ground[i], top[i]});
  }
  painter.setPen(QPen(t.panel, 1.5));
  painter.setBrush(t.accent);
  for (const Vec2& point : shown().points)
    painter.drawEllipse(canvas_.pixelOf(plane().placeOf(point)), 3.5, 3.5);
}

} // namespace kiln
