// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "base/Vec3.h"
#include "scene/Repainted.h"

#include <QColor>
#include <QString>
#include <optional>
#include <vector>

namespace kiln
{

class AxisCross;
class CutHandles;
class FaceDrawing;
class PlaceHandles;
class SceneCanvas;

/// A mark at a hot spot with its value.
struct Flag {
  Vec3 place;
  QString text;
  bool bad = false;     ///< beyond its limit
  bool hottest = false; ///< of the whole model
  bool pinned = false;  ///< a label
  bool operator==(const Flag&) const = default;
};

/// A number at a line of equal value.
struct LineNumber {
  Vec3 place;
  QString text;
  bool operator==(const LineNumber&) const = default;
};

/// Paints over the scene: hot-spot flags, the hover read-out and the caption. Lets the mouse through.
class SceneOverlay : public Repainted
{
  Q_OBJECT

public:
  explicit SceneOverlay(SceneCanvas& canvas);

  void setFlags(std::vector<Flag> flags);
  /// A place that a readiness line speaks of.
  void setPointer(std::optional<Flag> pointer) { take(pointer_, std::move(pointer)); }
  /// Places along the line whose values are shown; none for no line.
  void setLine(std::vector<Vec3> line) { take(line_, std::move(line)); }
  [[nodiscard]] const std::vector<Vec3>& line() const { return line_; }
  /// What a turned section is turned about.
  void setAxis(std::optional<std::pair<Vec3, Vec3>> axis) { take(axis_, std::move(axis)); }
  [[nodiscard]] const std::optional<std::pair<Vec3, Vec3>>& axis() const { return axis_; }
  /// What the colours mean when they are not temperatures; empty for none.
  void setKey(std::vector<std::pair<QColor, QString>> key);
  void setHandles(const PlaceHandles* handles) { take(handles_, handles); }
  /// Where the legend stands at the right, px.
  void setRightMargin(int pixels) { take(rightMargin_, pixels); }
  void setDrawing(const FaceDrawing* drawing) { drawing_ = drawing; }
  void setCutHandles(const CutHandles* handles) { cutHandles_ = handles; }
  void setCross(const AxisCross* cross) { cross_ = cross; }
  void setLineNumbers(std::vector<LineNumber> numbers) { take(lineNumbers_, std::move(numbers)); }
  [[nodiscard]] const std::vector<LineNumber>& lineNumbers() const { return lineNumbers_; }
  /// Labels: like flags, but as they are pinned.
  void setLabels(std::vector<Flag> labels) { take(labels_, std::move(labels)); }
  [[nodiscard]] const std::vector<Flag>& labels() const { return labels_; }
  /// The two sides of a contact.
  void setSides(std::vector<Flag> sides) { take(sides_, std::move(sides)); }
  [[nodiscard]] const std::vector<Flag>& sides() const { return sides_; }
  [[nodiscard]] bool showsHandles() const { return handles_ != nullptr; }
  void setHover(const QString& text);
  void setCaption(const QString& text, bool warning);
  [[nodiscard]] const QString& hover() const { return hover_; }
  [[nodiscard]] const QString& caption() const { return caption_; }
  [[nodiscard]] const std::vector<Flag>& flags() const { return flags_; }
  [[nodiscard]] const std::vector<std::pair<QColor, QString>>& key() const { return key_; }

  /// Draws what belongs to the model itself, for pictures that are kept: no words of the pointer, no grips.
  void paintOn(QPainter& painter) const;

protected:
  void paintEvent(QPaintEvent* event) override;

private:
  void paintAxis(QPainter& painter) const;
  void paintLine(QPainter& painter) const;
  void paintFlags(QPainter& painter, std::vector<Flag> flags) const;
  void paintLineNumbers(QPainter& painter) const;
  [[nodiscard]] QRectF freePlace(const QPointF& spot, const QSizeF& size, const std::vector<QRectF>& taken) const;
  [[nodiscard]] QRectF modelBox() const;
  void paintKey(QPainter& painter) const;
  void paintPill(QPainter& painter, const QPointF& corner, const QString& text, bool warning) const;

  SceneCanvas& canvas_;
  std::vector<Flag> flags_;
  std::optional<Flag> pointer_;
  std::vector<Vec3> line_;
  std::optional<std::pair<Vec3, Vec3>> axis_;
  std::vector<std::pair<QColor, QString>> key_;
  std::vector<Flag> labels_, sides_;
  std::vector<LineNumber> lineNumbers_;
  const PlaceHandles* handles_ = nullptr;
  const CutHandles* cutHandles_ = nullptr;
  const FaceDrawing* drawing_ = nullptr;
  const AxisCross* cross_ = nullptr;
  int rightMargin_ = 110; ///< px
  QString hover_, caption_;
  bool captionWarns_ = false;
};

} // namespace kiln
