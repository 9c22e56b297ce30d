// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "strip/TimeChart.h"

#include <QTimer>
#include <QWidget>

class QComboBox;
class QVBoxLayout;
class QLabel;
class QToolButton;

namespace kiln
{

class QuantityField;

/// The strip's page Time: the chart with its traces to choose, and the playhead's keys: Space plays and pauses, the
/// arrows step, Home and End go to the ends, P jumps to the next peak, M to the next mark.
class TimePage : public QWidget
{
  Q_OBJECT

public:
  TimePage(Document& document, Preferences& preferences, QWidget* parent = nullptr);

  [[nodiscard]] TimeChart& chart() { return *chart_; }

signals:
  void endWanted();
  void goOnWanted(const std::string& caseId);
  void filmWanted();

public slots:
  /// Lays a log over the traces; says what is wrong with it.
  void layOver(const QString& file);
  void playOrPause();
  void step(int steps);
  void jumpToPeak();
  void jumpToMark();

protected:
  void keyPressEvent(QKeyEvent* event) override;
  void resizeEvent(QResizeEvent* event) override;

private:
  [[nodiscard]] QWidget* makeNames();
  void askForMeasured();
  void rebuildTraces();
  void tick();
  void refreshClock();
  [[nodiscard]] const RunRecord* record() const { return document_.shownState().run.record.get(); }
  void jumpToNext(const std::vector<double>& instants);

  Document& document_;
  Preferences& preferences_;
  TimeChart* chart_;
  QComboBox* speed_;
  QVBoxLayout* names_;
  QLabel* clock_;
  QuantityField* offset_; ///< of measured times
  QToolButton* play_;
  QToolButton* end_;
  QToolButton* goOn_;
  QTimer player_;
};

} // namespace kiln
