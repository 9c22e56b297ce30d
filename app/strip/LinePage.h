// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "document/Document.h"
#include "look/Preferences.h"
#include "results/LineProfile.h"
#include "strip/LineChart.h"

#include <QWidget>

class QHBoxLayout;
class QComboBox;
class QFormLayout;
class QLabel;
class QLineEdit;
class QToolButton;

namespace kiln
{

/// The strip's page Along a line: temperature (or flux) along a line of the project, at the playhead and at pinned
/// instants, with the borders of parts marked.
class LinePage : public QWidget
{
  Q_OBJECT

public:
  LinePage(Document& document, Preferences& preferences, QWidget* parent = nullptr);

  /// Adds a line between two places and shows it.
  void addLine(const Vec3& from, const Vec3& to);
  /// Adds the edge where two named faces meet, near a place, and shows it.
  void addEdge(const std::vector<std::string>& faces, const Vec3& near);
  /// Shows this line of the project.
  void showLine(const std::string& lineId);
  [[nodiscard]] LineChart& chart() { return *chart_; }
  /// Distance in metres, part, temperature and flux of every end of a piece, by \p separator; with a head line.
  [[nodiscard]] QString tableText(const QString& separator) const;

public slots:
  void copy();

signals:
  /// The user wants to show two places in the scene.
  void placesWanted();
  /// The user wants to show an edge in the scene.
  void edgeWanted();
  /// Places along the line whose values are shown, its two ends at least; none when the page is hidden.
  void lineShown(const std::vector<kiln::Vec3>& line);

protected:
  void showEvent(QShowEvent* event) override;
  void hideEvent(QHideEvent* event) override;

private:
  struct Pinned {
    std::string caseId;
    double time = 0;
    QString name;
    std::vector<LinePiece> pieces;
  };

  void buildHead(QHBoxLayout& head);
  void announceLine();
  [[nodiscard]] std::vector<Vec3> placesOf(const Line& line) const;
  void showAddMenu();
  void rebuildLines();
  void rebuildFields();
  void refresh();
  [[nodiscard]] std::vector<QPolygonF> curveOf(const std::vector<LinePiece>& pieces) const;
  [[nodiscard]] std::vector<LineChart::Border> borders() const;
  void pin();
  void pinTyped();
  [[nodiscard]] std::vector<LinePiece> piecesAt(double time) const;
  [[nodiscard]] std::vector<LineChart::Border> limitMarks() const;
  void saveCsv();
  [[nodiscard]] const Line* line() const;
  [[nodiscard]] bool showsFlux() const;
  [[nodiscard]] Quantity quantityShown() const;
  [[nodiscard]] bool showsDifference() const; ///< to the first of those that are pinned

  Document& document_;
  Preferences& preferences_;
  QComboBox* lines_;
  QComboBox* quantity_;
  QToolButton* pin_;
  QLineEdit* instants_;
  QWidget* fields_ = nullptr;
  QLabel* empty_;
  LineChart* chart_;
  std::string lineId_;
  std::vector<LinePiece> pieces_;
  std::vector<Pinned> pinned_;
};

} // namespace kiln
