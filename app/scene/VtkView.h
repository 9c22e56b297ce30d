// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include <QOpenGLWidget>
#include <QTimer>
#include <array>
#include <memory>

class vtkGenericOpenGLRenderWindow;
class vtkRenderer;

namespace kiln
{

/// A widget in which one VTK renderer draws. Survives reparenting and fractional pixel ratios.
class VtkView : public QOpenGLWidget
{
  Q_OBJECT

public:
  explicit VtkView(QWidget* parent = nullptr);
  ~VtkView() override;

  [[nodiscard]] vtkRenderer* renderer() const;
  /// Milliseconds the last frame took to draw.
  [[nodiscard]] double lastFrameMilliseconds() const { return frameMilliseconds_; }

  /// Is the last frame the smooth one that is drawn once nothing moves any more?
  [[nodiscard]] bool isSmooth() const { return smooth_; }
  /// The next frame is smooth whatever moves.
  void drawNextSmooth() { drawSmooth(true); }
  /// Something moves: frames are drawn fast until it rests.
  void keepMoving();

signals:
  void frameDrawn();

protected:
  void initializeGL() override;
  void paintGL() override;
  void resizeGL(int width, int height) override;

private:
  void drawSmooth(bool smooth);
  void makeOwnContextCurrent();
  void cleanup();
  void syncSize();

  struct Handles;
  std::unique_ptr<Handles> handles_;
  QMetaObject::Connection contextGone_;
  bool ready_ = false;
  bool painting_ = false;
  bool smooth_ = false;
  float lineScale_ = 1; ///< of the widths that are asked for
  QTimer rest_;
  double frameMilliseconds_ = 0;
  /// The frame that is kept: what of it would make another one.
  struct Kept {
    QSize size; ///< in its pixels; empty: there is none
    unsigned long long change = 0;
    bool smooth = false;
    std::array<double, 3> ground{};
    bool operator==(const Kept&) const = default;
  };
  Kept kept_;
};

} // namespace kiln
