// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include <QStringList>
#include <QWidget>
#include <map>
#include <optional>
#include <set>
#include <vector>

namespace kiln
{

/// Points as lines over many values side by side. A range dragged along an upright leaves the points that lie in it;
/// ranges of several uprights count together; a click on an upright takes its range away, Escape all of them.
class ParallelChart : public QWidget
{
  Q_OBJECT

public:
  struct Axis {
    QString name, unit;
    QStringList words; ///< of a list: what stands at 0, 1, …; else empty
  };
  struct Line {
    std::vector<double> at; ///< by axis, as shown; NaN where there is none
    bool kept = true;       ///< every limit is
    std::size_t place = 0;
  };
  using Range = std::pair<double, double>; ///< low and high, as shown

  explicit ParallelChart(QWidget* parent = nullptr);
  void show(std::vector<Axis> axes, std::vector<Line> lines, std::optional<std::size_t> marked);
  void clearBrushes();
  [[nodiscard]] const std::map<std::size_t, Range>& brushes() const { return brushes_; }
  /// Places of the points that lie in all ranges; none: there is no range.
  [[nodiscard]] std::optional<std::set<std::size_t>> brushed() const;
  [[nodiscard]] QPointF pixelOf(std::size_t axis, double value) const;

signals:
  void chosen(std::size_t place);
  void brushChanged();

protected:
  void paintEvent(QPaintEvent* event) override;
  void mousePressEvent(QMouseEvent* event) override;
  void mouseMoveEvent(QMouseEvent* event) override;
  void mouseReleaseEvent(QMouseEvent* event) override;
  void keyPressEvent(QKeyEvent* event) override;

private:
  [[nodiscard]] QRectF plot() const;
  [[nodiscard]] double uprightAt(std::size_t axis) const; ///< px
  [[nodiscard]] double valueAt(std::size_t axis, double pixel) const;
  [[nodiscard]] std::optional<std::size_t> axisAt(const QPointF& pixel) const;
  [[nodiscard]] bool isLeft(const Line& line) const;
  [[nodiscard]] const Line* lineAt(const QPointF& pixel) const;
  void paintLine(QPainter& painter, const Line& line) const;
  void paintUpright(QPainter& painter, std::size_t axis) const;

  std::vector<Axis> axes_;
  std::vector<Range> ranges_; ///< of the uprights
  std::vector<Line> lines_;
  std::optional<std::size_t> marked_;
  std::map<std::size_t, Range> brushes_; ///< by axis
  struct Drag {
    std::size_t axis = 0;
    double from = 0; ///< px
  };
  std::optional<Drag> drag_;
};

} // namespace kiln
