// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "document/Document.h"

#include <QDialog>
#include <QWidget>

class QLabel;
class QTableWidget;

namespace kiln
{

/// An outline drawn to scale: points can be dragged on a grid, arcs are shown, the axis of a turned profile too.
class OutlineView : public QWidget
{
  Q_OBJECT

public:
  explicit OutlineView(bool turned, QWidget* parent = nullptr);
  void setOutline(std::vector<OutlinePoint> outline);
  void setCurrent(int index);
  [[nodiscard]] QSize sizeHint() const override { return {380, 340}; }
  [[nodiscard]] QPointF pixelOf(double a, double b) const; ///< m

signals:
  void pointPressed(int index);
  void pointMoved(int index, double a, double b); ///< m, when let go
  void pointWanted(double a, double b);           ///< double click on a free place, m

protected:
  void paintEvent(QPaintEvent* event) override;
  void mousePressEvent(QMouseEvent* event) override;
  void mouseMoveEvent(QMouseEvent* event) override;
  void mouseReleaseEvent(QMouseEvent* event) override;
  void mouseDoubleClickEvent(QMouseEvent* event) override;
  void resizeEvent(QResizeEvent* event) override;

private:
  void fit();
  [[nodiscard]] QPointF placeOf(const QPointF& pixel) const;
  [[nodiscard]] int pointAt(const QPointF& pixel) const;

  bool turned_;
  std::vector<OutlinePoint> outline_;
  int current_ = -1;
  int dragged_ = -1;
  double scale_ = 1000; // px/m
  QPointF centre_;      // m
};

/// Edits the outline of a prism, a turned profile or a split line: the drawing, and a table of exact coordinates that
/// takes a paste from a spreadsheet. Every change is an edit of the project.
class OutlineEditor : public QDialog
{
  Q_OBJECT

public:
  /// \param stepId  empty: the part's own form
  OutlineEditor(Document& document, std::string partId, std::string stepId, QWidget* parent = nullptr);

protected:
  void keyPressEvent(QKeyEvent* event) override;

private:
  [[nodiscard]] std::vector<OutlinePoint>* outlineIn(Project& project) const;
  [[nodiscard]] bool isTurned() const;
  void load();
  void cellEdited(int row, int column);
  void paste();
  void apply(const QString& name, const std::function<void(std::vector<OutlinePoint>&)>& change);
  void say(const QString& sentence, bool wrong);

  Document& document_;
  std::string partId_, stepId_;
  OutlineView* view_;
  QTableWidget* table_;
  QLabel* message_;
};

} // namespace kiln
