// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "document/Document.h"
#include "model/Fields.h"
#include "window/Preferences.h"

#include <QDialog>
#include <QWidget>

class QLabel;
class QTableWidget;

namespace kiln
{

/// A small curve of a table, with its points and the held ends.
class CurveView : public QWidget
{
  Q_OBJECT

public:
  explicit CurveView(QWidget* parent = nullptr);
  /// \param points  in the units shown, by increasing abscissa
  void setCurve(std::vector<QPointF> points, const QString& across, const QString& up);
  [[nodiscard]] QSize sizeHint() const override { return {300, 200}; }

protected:
  void paintEvent(QPaintEvent* event) override;

private:
  std::vector<QPointF> points_;
  QString across_, up_;
};

/// Edits a table against temperature: two columns that take a paste from a spreadsheet, the curve beside them.
class TableEditor : public QDialog
{
  Q_OBJECT

public:
  TableEditor(Document& document, Preferences& preferences, std::string path, QWidget* parent = nullptr);

protected:
  void keyPressEvent(QKeyEvent* event) override;

private:
  void load();
  void paste();
  void setRow(int row, const QString& at, const QString& value);
  void check();
  void apply();
  /// The rows as they are; the first wrong one is explained.
  [[nodiscard]] std::optional<std::vector<TablePoint>> points(QString& problem) const;

  Document& document_;
  Preferences& preferences_;
  std::string path_;
  Quantity quantity_ = Quantity::Plain;
  QTableWidget* rows_;
  CurveView* curve_;
  QLabel* message_;
};

} // namespace kiln
