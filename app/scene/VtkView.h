// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include <QOpenGLWidget>
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

signals:
  void frameDrawn();

protected:
  void initializeGL() override;
  void paintGL() override;
  void resizeGL(int width, int height) override;

private:
  void makeOwnContextCurrent();
  void cleanup();
  void syncSize();

  struct Handles;
  std::unique_ptr<Handles> handles_;
  QMetaObject::Connection contextGone_;
  bool ready_ = false;
  bool painting_ = false;
  double frameMilliseconds_ = 0;
};

} // namespace kiln
