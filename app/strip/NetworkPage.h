// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "document/Document.h"
#include "look/Preferences.h"

#include <QWidget>

class QToolButton;

namespace kiln
{

/// The model as a network, drawn by itself: lumped nodes and parts with their temperatures, what joins them with its
/// watts. Everything can be dragged and keeps its place; a click selects.
class NetworkPage : public QWidget
{
  Q_OBJECT

public:
  NetworkPage(Document& document, Preferences& preferences, QWidget* parent = nullptr);

  /// What is drawn, for tests.
  struct Box {
    std::string id;
    QString name, figure;
    QPointF middle; ///< pixels
    bool isNode = false, isSurroundings = false;
    std::optional<double> kelvin; ///< of a node, or the mean of a part
  };
  struct Line {
    std::string id;
    std::size_t from = 0, to = 0; ///< boxes
    QString text;
    double watts = 0;
    bool solved = false;
    std::optional<double> drop; ///< K between its ends
  };
  [[nodiscard]] const std::vector<Box>& boxes() const { return boxes_; }
  [[nodiscard]] const std::vector<Line>& lines() const { return lines_; }

protected:
  void paintEvent(QPaintEvent* event) override;
  void resizeEvent(QResizeEvent* event) override;
  void mousePressEvent(QMouseEvent* event) override;
  void mouseMoveEvent(QMouseEvent* event) override;
  void mouseReleaseEvent(QMouseEvent* event) override;

private:
  void refresh();
  void addBoxes();
  void addLines();
  void place();
  void addLine(const std::string& id, const std::string& a, const std::string& b, const QString& set,
               std::optional<double> watts, std::optional<double> outside = std::nullopt);
  [[nodiscard]] QString textOf(const Line& line) const;
  [[nodiscard]] std::optional<std::size_t> boxOf(const std::string& id) const;
  [[nodiscard]] std::optional<std::size_t> boxAt(const QPointF& pixel) const;
  [[nodiscard]] QRectF rectOf(const Box& box) const;
  [[nodiscard]] QString wattsText(double watts) const;

  Document& document_;
  Preferences& preferences_;
  std::vector<Box> boxes_;
  std::vector<Line> lines_;
  std::optional<std::size_t> dragged_;
  bool moved_ = false;
  QToolButton* resistances_; ///< on the lines instead of watts
};

} // namespace kiln
