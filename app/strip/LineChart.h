// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include <QColor>
#include <QPolygonF>
#include <QWidget>
#include <optional>
#include <vector>

namespace kiln
{

/// Curves over a length, with named borders across. Dragging a rectangle shows that much, a double click all again; the
/// values under the pointer are told.
class LineChart : public QWidget
{
  Q_OBJECT

public:
  struct Curve {
    QString name;
    QColor color;
    double thickness = 1;
    std::vector<QPolygonF> pieces; ///< left open between them; increasing along
  };
  /// A stroke across where something begins.
  struct Border {
    double at = 0;
    QString name; ///< may be empty
  };

  explicit LineChart(QWidget* parent = nullptr);

  /// \param across, up  what the axes say: "mm along the line", "°C"
  void show(std::vector<Curve> curves, std::vector<Border> borders, const QString& across, const QString& up);

  [[nodiscard]] const std::vector<Curve>& curves() const { return curves_; }
  [[nodiscard]] QRectF range() const { return shown_; } ///< in the values of the axes
  /// Pixels of a place in the values of the axes, and the reverse.
  [[nodiscard]] QPointF pixelOf(const QPointF& value) const;
  [[nodiscard]] QPointF valueAt(const QPointF& pixel) const;
  /// "37.2 mm: Hold, at the end 412.1 °C"; empty where no curve is.
  [[nodiscard]] QString readoutAt(double across) const;

  [[nodiscard]] QSize sizeHint() const override { return {600, 180}; }

protected:
  void paintEvent(QPaintEvent* event) override;
  void mousePressEvent(QMouseEvent* event) override;
  void mouseMoveEvent(QMouseEvent* event) override;
  void mouseReleaseEvent(QMouseEvent* event) override;
  void mouseDoubleClickEvent(QMouseEvent* event) override;
  void leaveEvent(QEvent* event) override;

private:
  [[nodiscard]] QRectF plot() const;
  [[nodiscard]] QRectF wholeRange() const;
  void paintAxes(QPainter& painter) const;
  void paintBorders(QPainter& painter) const;
  void paintLegend(QPainter& painter) const;
  void paintReadout(QPainter& painter) const;

  std::vector<Curve> curves_;
  std::vector<Border> borders_;
  QString across_, up_;
  QRectF shown_;
  std::optional<QPointF> pressed_, pointer_; ///< pixels
};

} // namespace kiln
