// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include <QString>
#include <QWidget>
#include <optional>
#include <set>
#include <vector>

/// Pictures of what came out of a question.
namespace kiln
{

/// A figure over two values, as colours with lines of equal value.
class MapChart : public QWidget
{
  Q_OBJECT

public:
  struct Axis {
    std::vector<double> values; ///< as shown, increasing
    QString name;
  };
  explicit MapChart(QWidget* parent = nullptr);
  /// \param values   the second axis runs fastest; NaN where there is none
  /// \param borders  levels drawn bold: limits
  void show(Axis across, Axis up, std::vector<double> values, const QString& name, std::vector<double> borders);
  [[nodiscard]] QString readoutAt(const QPointF& pixel) const;
  [[nodiscard]] QPointF pixelOf(double across, double up) const;

protected:
  void paintEvent(QPaintEvent* event) override;
  void mouseMoveEvent(QMouseEvent* event) override;
  void leaveEvent(QEvent* event) override;

private:
  [[nodiscard]] QRectF plot() const;
  [[nodiscard]] std::optional<double> valueAt(double across, double up) const;
  void paintField(QPainter& painter) const;
  void paintLines(QPainter& painter) const;
  void paintAxes(QPainter& painter) const;

  Axis across_, up_;
  std::vector<double> values_, borders_;
  QString name_;
  double low_ = 0, high_ = 1;
  std::optional<QPointF> pointer_;
};

/// How strongly values act: a bar each from zero, the longest on top.
class TornadoChart : public QWidget
{
  Q_OBJECT

public:
  struct Bar {
    QString name, text;
    double value = 0;
  };
  explicit TornadoChart(QWidget* parent = nullptr);
  void show(std::vector<Bar> bars, const QString& title);
  [[nodiscard]] const std::vector<Bar>& bars() const { return bars_; }

protected:
  void paintEvent(QPaintEvent* event) override;

private:
  std::vector<Bar> bars_;
  QString title_;
};

/// Points by two figures; those that no other one beats in both are joined.
class ScatterChart : public QWidget
{
  Q_OBJECT

public:
  struct Point {
    double x = 0, y = 0;
    bool kept = true; ///< every limit is
    std::size_t place = 0;
  };
  explicit ScatterChart(QWidget* parent = nullptr);
  void show(std::vector<Point> points, const QString& across, const QString& up, std::optional<std::size_t> marked);
  /// Points that are left after brushing; the others are faint. None: all.
  void setLeft(std::optional<std::set<std::size_t>> left);
  [[nodiscard]] QPointF pixelOf(const Point& point) const;
  /// Small in both: points that none beats, from left to right.
  [[nodiscard]] std::vector<Point> front() const;

signals:
  void chosen(std::size_t place);

protected:
  void paintEvent(QPaintEvent* event) override;
  void mousePressEvent(QMouseEvent* event) override;

private:
  [[nodiscard]] QRectF plot() const;

  std::vector<Point> points_;
  QString across_, up_;
  std::optional<std::size_t> marked_;
  std::optional<std::set<std::size_t>> left_;
  QRectF range_;
};

} // namespace kiln
