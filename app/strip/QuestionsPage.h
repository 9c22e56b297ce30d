// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "document/Answers.h"
#include "document/SolverQueue.h"
#include "look/Preferences.h"

#include <QWidget>

class QComboBox;
class QLabel;
class QStackedWidget;
class QTableWidget;
class QToolButton;

namespace kiln
{

class LineChart;
class MapChart;
class ScatterChart;
class TornadoChart;

/// The strip's page Questions: what is asked of the project, the points that were solved for it, and what follows.
class QuestionsPage : public QWidget
{
  Q_OBJECT

public:
  QuestionsPage(Document& document, Preferences& preferences, SolverQueue& solver, QWidget* parent = nullptr);

  /// Which one is looked at.
  void choose(const std::string& questionId);
  [[nodiscard]] std::string chosen() const;
  [[nodiscard]] Answers& answers() { return answers_; }

public slots:
  /// A new one of the shown case, of the kind with this index (\ref describing::askKinds); its editor opens.
  void addQuestion(int kind);
  void editChosen();
  void askChosen();
  void keepPoint();

protected:
  void showEvent(QShowEvent* event) override;

private:
  [[nodiscard]] QLayout* makeHead();
  [[nodiscard]] QWidget* makeBody();
  void refresh();
  void refreshAnswer();
  void refreshTable(const QuestionAnswer& answer, const Project& seen);
  void refreshSlopes(const QuestionAnswer& answer, const Project& seen);
  void refreshRunning(const SolverJob& job);
  void refreshChart(const QuestionAnswer& answer, const Project& seen);
  void showCurve(const QuestionAnswer& answer, const Project& seen, const Watch& watch);
  void showMap(const QuestionAnswer& answer, const Project& seen, const Watch& watch);
  void showScatter(const QuestionAnswer& answer, const Project& seen, const Watch& watch);
  void showSlopes(const QuestionAnswer& answer, const Project& seen, const Watch& watch);
  void say(const QString& sentence);
  [[nodiscard]] const SolverJob* running() const;
  [[nodiscard]] Project seenBy(const Question& question) const;

  Document& document_;
  Preferences& preferences_;
  SolverQueue& solver_;
  Answers answers_;
  QComboBox *list_, *watch_, *against_;
  QToolButton *new_, *edit_, *ask_, *cluster_, *stop_, *keep_, *remove_;
  QLabel* said_;
  QTableWidget* table_;
  QStackedWidget* charts_;
  LineChart* curve_;
  MapChart* map_;
  ScatterChart* scatter_;
  TornadoChart* tornado_;
};

} // namespace kiln
