// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "document/Document.h"
#include "scene/DrawingSnaps.h"

#include <QLineF>
#include <QList>
#include <QObject>
#include <QPointF>
#include <optional>
#include <vector>

class QLineEdit;
class QMouseEvent;
class QKeyEvent;
class QPainter;

namespace kiln
{

class SceneCanvas;
class SceneOverlay;
struct PickedPoint;

/// Drawing on a flat face in the scene: first a rectangle, a circle or an outline with the mouse or by typed sizes,
/// then its height, which raises a rib or sinks a pocket; or the face itself is pushed; or it is divided by what was
/// drawn. Ends with one step of the part. Esc goes back by one, and at last gives up.
class FaceDrawing : public QObject
{
  Q_OBJECT

public:
  enum class Tool { Rectangle, Circle, Outline, Push };
  static constexpr int tools = 4;

  FaceDrawing(Document& document, SceneCanvas& canvas, SceneOverlay& overlay);

  /// \param divides  what is drawn divides the face, instead of being raised or sunk
  void start(Tool tool, bool divides = false);
  void stop();
  [[nodiscard]] bool isOn() const { return stage_ != Stage::Off; }
  /// What to do next, with the sizes as they are.
  [[nodiscard]] QString words() const;
  void paint(QPainter& painter) const;

  /// The face where it is pushed to, with the sides that follow it from its corners and its middle, px.
  [[nodiscard]] QList<QLineF> pushedLines() const;

signals:
  void changed();
  /// The drawn step is in the part.
  void made(const std::string& part, const std::string& step);

protected:
  bool eventFilter(QObject* watched, QEvent* event) override;

private:
  enum class Stage { Off, Face, Sketch, Height };
  bool press(const QMouseEvent& event);
  void move(const QPointF& pixel);
  bool keyPress(const QKeyEvent& event);
  bool begin(const QPointF& pixel);
  void addPoint(const Vec2& point);
  void toHeight();
  void back();
  void finish();
  void askTyped(const QString& first);
  void takeTyped();
  bool typedKey(int key);
  [[nodiscard]] bool isOwnKey(const QKeyEvent& event) const;
  [[nodiscard]] double heightAt(const QPointF& pixel) const;
  [[nodiscard]] const DrawingPlane& plane() const { return snaps_.plane(); }
  [[nodiscard]] Sketch shown() const;
  [[nodiscard]] std::vector<Vec3> border(double height) const;

  Document& document_;
  SceneCanvas& canvas_;
  SceneOverlay& overlay_;
  QLineEdit* typed_;
  Stage stage_ = Stage::Off;
  Tool tool_ = Tool::Rectangle;
  bool divides_ = false;
  Part drawnOn_;     ///< as it was when the drawing began
  std::string face_; ///< lasting name
  DrawingSnaps snaps_;
  Sketch sketch_;
  std::optional<Vec2> at_; ///< of the pointer, while something is drawn
  double height_ = 0;      ///< m
  QPointF from_, pointer_; ///< px: where the height begins
};

} // namespace kiln
