// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "base/Vec3.h"

#include <QColor>
#include <QString>
#include <QWidget>
#include <optional>
#include <vector>

namespace kiln
{

class PlaceHandles;
class SceneCanvas;

/// A mark at a hot spot with its value.
struct Flag {
  Vec3 place;
  QString text;
  bool bad = false;     ///< beyond its limit
  bool hottest = false; ///< of the whole model
};

/// Paints over the scene: hot-spot flags, the hover read-out and the caption. Lets the mouse through.
class SceneOverlay : public QWidget
{
  Q_OBJECT

public:
  explicit SceneOverlay(SceneCanvas& canvas);

  void setFlags(std::vector<Flag> flags);
  /// A place that a readiness line speaks of.
  void setPointer(std::optional<Flag> pointer)
  {
    pointer_ = std::move(pointer);
    update();
  }
  /// Places along the line whose values are shown; none for no line.
  void setLine(std::vector<Vec3> line)
  {
    line_ = std::move(line);
    update();
  }
  [[nodiscard]] const std::vector<Vec3>& line() const { return line_; }
  /// What a turned section is turned about.
  void setAxis(std::optional<std::pair<Vec3, Vec3>> axis)
  {
    axis_ = std::move(axis);
    update();
  }
  [[nodiscard]] const std::optional<std::pair<Vec3, Vec3>>& axis() const { return axis_; }
  /// What the colours mean when they are not temperatures; empty for none.
  void setKey(std::vector<std::pair<QColor, QString>> key);
  void setHandles(const PlaceHandles* handles)
  {
    handles_ = handles;
    update();
  }
  [[nodiscard]] bool showsHandles() const { return handles_ != nullptr; }
  void setHover(const QString& text);
  void setCaption(const QString& text, bool warning);
  [[nodiscard]] const QString& hover() const { return hover_; }
  [[nodiscard]] const QString& caption() const { return caption_; }
  [[nodiscard]] const std::vector<Flag>& flags() const { return flags_; }
  [[nodiscard]] const std::vector<std::pair<QColor, QString>>& key() const { return key_; }

protected:
  void paintEvent(QPaintEvent* event) override;

private:
  void paintAxis(QPainter& painter) const;
  void paintLine(QPainter& painter) const;
  void paintFlags(QPainter& painter, const std::vector<Flag>& flags) const;
  void paintKey(QPainter& painter) const;
  void paintPill(QPainter& painter, const QPointF& corner, const QString& text, bool warning) const;

  SceneCanvas& canvas_;
  std::vector<Flag> flags_;
  std::optional<Flag> pointer_;
  std::vector<Vec3> line_;
  std::optional<std::pair<Vec3, Vec3>> axis_;
  std::vector<std::pair<QColor, QString>> key_;
  const PlaceHandles* handles_ = nullptr;
  QString hover_, caption_;
  bool captionWarns_ = false;
};

} // namespace kiln
