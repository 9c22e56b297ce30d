// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "document/Answers.h"
#include "document/SolverQueue.h"
#include "look/Preferences.h"

#include <QWidget>
#include <optional>

class QComboBox;
class QLabel;
class QTableWidget;
class QToolButton;

namespace kiln
{

class AnswerChart;

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
  void hideEvent(QHideEvent* event) override;

private:
  [[nodiscard]] QLayout* makeHead();
  [[nodiscard]] QLayout* makeSaid();
  [[nodiscard]] QWidget* makeBody();
  void refresh();
  void refreshAnswer();
  void refreshRunning(const Question& question, const SolverJob& job);
  void refreshChart(const Question& question, const QuestionAnswer& answer, const Project& seen);
  void showBrushed();
  [[nodiscard]] std::optional<std::size_t> chosenPoint() const;
  void showPoint();
  void hidePoint();
  /// Has a question kept what this case would be solved to?
  [[nodiscard]] bool solvedBefore(const std::string& caseId) const;
  void say(const QString& sentence);
  [[nodiscard]] const SolverJob* running() const;
  [[nodiscard]] Project seenBy(const Question& question) const;

  Document& document_;
  Preferences& preferences_;
  SolverQueue& solver_;
  Answers answers_;
  QComboBox *list_, *chart_, *watch_, *against_;
  QToolButton *new_, *edit_, *ask_, *cluster_, *stop_, *keep_, *remove_;
  QLabel* said_;
  QTableWidget* table_;
  AnswerChart* answerChart_;
  int pointAsked_ = 0;
  bool showsPoint_ = false; ///< its scene
};

} // namespace kiln
