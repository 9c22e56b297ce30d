// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "questions/QuestionAnswer.h"

#include <QStackedWidget>
#include <optional>
#include <set>
#include <vector>

namespace kiln
{

class LineChart;
class MapChart;
class ParallelChart;
class ScatterChart;
class TornadoChart;

/// What came out of a question as one of several pictures.
class AnswerChart : public QStackedWidget
{
  Q_OBJECT

public:
  enum class Kind { Curve, Map, Figures, Lines, Strengths };
  /// What is drawn.
  struct Subject {
    const Question& question;
    const QuestionAnswer& answer;
    const Project& seen; ///< as the base case sees it
    TemperatureUnit unit;
  };

  explicit AnswerChart(QWidget* parent = nullptr);
  /// The most telling one first.
  [[nodiscard]] static std::vector<Kind> kindsFor(const Question& question, const QuestionAnswer& answer);
  [[nodiscard]] static QString nameOf(Kind kind);

  /// \param other  the figure upwards, where points are drawn by two
  void show(const Subject& subject, Kind kind, const Watch& watch, const Watch& other);
  /// Points that are left after brushing, by their place in the answer; none: nothing is brushed.
  [[nodiscard]] std::optional<std::set<std::size_t>> brushed() const;

signals:
  void chosen(std::size_t place);
  void brushChanged();

private:
  void showCurve(const Subject& subject, const Watch& watch);
  void showMap(const Subject& subject, const Watch& watch);
  void showFigures(const Subject& subject, const Watch& watch, const Watch& other);
  void showLines(const Subject& subject);
  void showStrengths(const Subject& subject, const Watch& watch);

  LineChart* curve_;
  MapChart* map_;
  ScatterChart* scatter_;
  ParallelChart* lines_;
  TornadoChart* tornado_;
  std::string about_; ///< the question whose points are brushed
};

} // namespace kiln
