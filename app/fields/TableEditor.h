// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "document/Document.h"
#include "look/Preferences.h"
#include "model/Fields.h"

#include <QDialog>
#include <QWidget>
#include <functional>
#include <optional>

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

/// What a table editor edits: columns, rows and what to do with them.
struct TableSubject {
  QString title, name; ///< of the window, and of the edit
  Quantity at = Quantity::Temperature, value = Quantity::Plain;
  std::vector<TablePoint> points;
  std::optional<Schedule> schedule; ///< where the points are a schedule: how it goes on between and beyond them
  std::function<void(Project&, std::vector<TablePoint>, const std::optional<Schedule>&)> apply;
};

/// The table of a field against temperature; a plain number becomes its first row.
[[nodiscard]] TableSubject tableOfField(const Document& document, const std::string& path);
/// The schedule of a parameter; its value becomes the first row where there is none yet.
[[nodiscard]] TableSubject scheduleOf(const Document& document, const std::string& parameterId);

/// Edits a table against temperature or time: two columns that take a paste from a spreadsheet, the curve beside them.
class TableEditor : public QDialog
{
  Q_OBJECT

public:
  TableEditor(Document& document, Preferences& preferences, TableSubject subject, QWidget* parent = nullptr);

protected:
  void keyPressEvent(QKeyEvent* event) override;

private:
  void load();
  void addScheduleChoices();
  void askForSegments();
  void askForDuty();
  void take(const Schedule& schedule);
  [[nodiscard]] double shown(double si, Quantity quantity) const;
  void paste();
  void takeLog(const QString& file);
  void setRow(int row, const QString& at, const QString& value);
  void check();
  void apply();
  /// The rows as they are; the first wrong one is explained.
  [[nodiscard]] std::optional<std::vector<TablePoint>> points(QString& problem) const;

  Document& document_;
  Preferences& preferences_;
  TableSubject subject_;
  QTableWidget* rows_;
  CurveView* curve_;
  QLabel* message_;
};

} // namespace kiln
