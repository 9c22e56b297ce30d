// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "strip/AnswerChart.h"

#include "look/Language.h"
#include "look/Theme.h"
#include "scene/ColorMap.h"
#include "strip/AnswerCharts.h"
#include "strip/AnswerTable.h"
#include "strip/LineChart.h"
#include "strip/ParallelChart.h"

#include <algorithm>
#include <cmath>

namespace kiln
{
namespace
{

QString words(const std::string& text) { return QString::fromStdString(text); }

/// Where a value stands along its axis: a number as shown, else its place in the list.
double placeOn(const AskedAxis& axis, const OwnValue& value, TemperatureUnit unit)
{
  if (const auto number = numberOf(value))
    return toDisplay(*number, axis.quantity, unit);
  const auto found = std::find(axis.values.begin(), axis.values.end(), value);
  return found == axis.values.end() ? std::nan("") : static_cast<double>(found - axis.values.begin());
}

/// Does a watch say anything of the points? One that is the same at all of them does not.
bool differs(const QuestionAnswer& answer, const Watch& watch, AskedFigure asked)
{
  std::optional<double> first;
  return std::any_of(answer.answers.begin(), answer.answers.end(), [&](const PointAnswer& one) {
    const auto value = one.figure(watch.id, asked);
    constexpr double rounding = 1e-9;
    const bool other = value && first && std::abs(*value - *first) > rounding * std::abs(*first);
    first = first ? first : value;
    return other;
  });
}

} // namespace

AnswerChart::AnswerChart(QWidget* parent)
    : QStackedWidget(parent), curve_(new LineChart), map_(new MapChart), scatter_(new ScatterChart),
      lines_(new ParallelChart), tornado_(new TornadoChart)
{
  curve_->setObjectName("questionCurve");
  map_->setObjectName("questionMap");
  scatter_->setObjectName("questionScatter");
  lines_->setObjectName("questionLines");
  tornado_->setObjectName("questionTornado");
  for (QWidget* chart : std::initializer_list<QWidget*>{curve_, map_, scatter_, lines_, tornado_})
    addWidget(chart);
  connect(scatter_, &ScatterChart::chosen, this, &AnswerChart::chosen);
  connect(lines_, &ParallelChart::chosen, this, &AnswerChart::chosen);
  connect(lines_, &ParallelChart::brushChanged, this, [this] {
    scatter_->setLeft(brushed());
    emit brushChanged();
  });
}

std::vector<AnswerChart::Kind> AnswerChart::kindsFor(const Question& question, const QuestionAnswer& answer)
{
  if (answer.points.empty())
    return {};
  if (!answer.slopes.empty())
    return {Kind::Strengths, Kind::Figures, Kind::Lines};
  const auto* sweep = std::get_if<AskSweep>(&question.asks);
  const bool grid = sweep != nullptr && sweep->way == SweepWay::Grid;
  const auto wide = [](const AskedAxis& axis) { return axis.isRange && axis.values.size() > 1; };
  if (answer.axes.size() == 1 && answer.axes.front().isRange)
    return {Kind::Curve, Kind::Figures, Kind::Lines};
  if (grid && answer.complete && answer.axes.size() == 2 && wide(answer.axes[0]) && wide(answer.axes[1]))
    return {Kind::Map, Kind::Figures, Kind::Lines};
  return {Kind::Figures, Kind::Lines};
}

QString AnswerChart::nameOf(Kind kind)
{
  switch (kind) {
  case Kind::Curve:
    return tr("Curve");
  case Kind::Map:
    return tr("Map");
  case Kind::Figures:
    return tr("Two figures");
  case Kind::Lines:
    return tr("All values");
  case Kind::Strengths:
    return tr("Sensitivities");
  }
  return {};
}

void AnswerChart::show(const Subject& subject, Kind kind, const Watch& watch, const Watch& other)
{
  if (const std::string about = subject.question.id + subject.answer.hash; about_ != about) {
    about_ = about;
    lines_->clearBrushes();
  }
  showLines(subject); // what is brushed there counts for the others, too
  switch (kind) {
  case Kind::Curve:
    return showCurve(subject, watch);
  case Kind::Map:
    return showMap(subject, watch);
  case Kind::Figures:
    return showFigures(subject, watch, other);
  case Kind::Lines:
    return setCurrentWidget(lines_);
  case Kind::Strengths:
    return showStrengths(subject, watch);
  }
}

std::optional<std::set<std::size_t>> AnswerChart::brushed() const { return lines_->brushed(); }

/// Every value that varies and every watch has an upright of its own.
void AnswerChart::showLines(const Subject& subject)
{
  const auto& [question, answer, seen, unit] = subject;
  const AskedFigure asked = figureAskedBy(question);
  std::vector<ParallelChart::Axis> axes;
  for (const AskedAxis& axis : answer.axes) {
    ParallelChart::Axis own{inWords(axis.label), words(displayUnit(axis.quantity, unit)), {}};
    if (!axis.isRange && !axis.values.empty() && !numberOf(axis.values.front()))
      for (const std::string& word : axis.words)
        own.words << words(word);
    axes.push_back(std::move(own));
  }
  std::vector<const Watch*> watches;
  for (const Watch& watch : seen.watches)
    if (differs(answer, watch, asked)) {
      watches.push_back(&watch);
      axes.push_back({words(watch.name), words(displayUnit(quantityAsked(seen, watch, asked), unit)), {}});
    }
  const std::vector<HeldLimit> limits = limitsAsked(question, seen);
  std::vector<ParallelChart::Line> lines;
  for (std::size_t i = 0; i < answer.answers.size(); ++i) {
    if (!answer.answers[i].solved())
      continue;
    ParallelChart::Line line{{}, keepsAll(limits, answer.answers[i]), i};
    for (std::size_t k = 0; k < answer.axes.size(); ++k)
      line.at.push_back(placeOn(answer.axes[k], answer.points[i][k], unit));
    for (const Watch* watch : watches) {
      const auto value = answer.answers[i].figure(watch->id, asked);
      line.at.push_back(value ? toDisplay(*value, quantityAsked(seen, *watch, asked), unit) : std::nan(""));
    }
    lines.push_back(std::move(line));
  }
  lines_->show(std::move(axes), std::move(lines), answer.best);
}

void AnswerChart::showCurve(const Subject& subject, const Watch& watch)
{
  const auto& [question, answer, seen, unit] = subject;
  const AskedFigure asked = figureAskedBy(question);
  const Quantity quantity = quantityAsked(seen, watch, asked);
  const AskedAxis& axis = answer.axes.front();
  QPolygonF line;
  for (std::size_t i = 0; i < answer.points.size(); ++i) {
    const auto across = numberOf(answer.points[i].front());
    const auto up = answer.answers[i].figure(watch.id, asked);
    if (across && up)
      line << QPointF(toDisplay(*across, axis.quantity, unit), toDisplay(*up, quantity, unit));
  }
  std::sort(line.begin(), line.end(), [](const QPointF& a, const QPointF& b) { return a.x() < b.x(); });
  std::vector<LineChart::Curve> curves{{words(watch.name), kindColor(0), 2, {line}}};
  if (!line.isEmpty() && asked != AskedFigure::TimeToLimit)
    for (const HeldLimit& limit : limitsAsked(question, seen)) {
      if (limit.watch != watch.id)
        continue;
      const double at = toDisplay(limit.limit, quantity, unit);
      curves.push_back({limit.upper ? tr("upper limit") : tr("lower limit"),
                        theme().bad,
                        1,
                        {QPolygonF({QPointF(line.front().x(), at), QPointF(line.back().x(), at)})}});
    }
  std::vector<LineChart::Border> borders;
  if (answer.value)
    borders.push_back(
        {toDisplay(*answer.value, axis.quantity, unit), words(formatQuantity(*answer.value, axis.quantity, unit, 5))});
  curve_->show(std::move(curves), std::move(borders),
               words(displayUnit(axis.quantity, unit)) + " – " + inWords(axis.label),
               words(displayUnit(quantity, unit)));
  setCurrentWidget(curve_);
}

void AnswerChart::showMap(const Subject& subject, const Watch& watch)
{
  const auto& [question, answer, seen, unit] = subject;
  const Quantity quantity = quantityOf(seen, watch);
  const auto shown = [unit = subject.unit](const AskedAxis& axis) {
    MapChart::Axis own;
    for (const OwnValue& value : axis.values)
      own.values.push_back(toDisplay(numberOf(value).value_or(0), axis.quantity, unit));
    own.name = inWords(axis.label) + ", " + words(displayUnit(axis.quantity, unit));
    return own;
  };
  MapChart::Axis across = shown(answer.axes[0]);
  MapChart::Axis up = shown(answer.axes[1]);
  std::vector<double> values;
  for (const PointAnswer& one : answer.answers) {
    const auto value = one.figure(watch.id, AskedFigure::AtEnd);
    values.push_back(value ? toDisplay(*value, quantity, unit) : std::nan(""));
  }
  // Whichever way a range was typed, it is drawn upwards.
  const std::size_t m = across.values.size();
  const std::size_t n = up.values.size();
  if (across.values.front() > across.values.back()) {
    std::reverse(across.values.begin(), across.values.end());
    for (std::size_t i = 0; i < m / 2; ++i)
      std::swap_ranges(values.begin() + static_cast<std::ptrdiff_t>(i * n),
                       values.begin() + static_cast<std::ptrdiff_t>((i + 1) * n),
                       values.begin() + static_cast<std::ptrdiff_t>((m - 1 - i) * n));
  }
  if (up.values.front() > up.values.back()) {
    std::reverse(up.values.begin(), up.values.end());
    for (std::size_t i = 0; i < m; ++i)
      std::reverse(values.begin() + static_cast<std::ptrdiff_t>(i * n),
                   values.begin() + static_cast<std::ptrdiff_t>((i + 1) * n));
  }
  std::vector<double> borders;
  for (const HeldLimit& limit : limitsOf(seen, {watch.id}, AskedFigure::AtEnd))
    borders.push_back(toDisplay(limit.limit, quantity, unit));
  map_->show(std::move(across), std::move(up), std::move(values),
             words(watch.name + ", " + displayUnit(quantity, unit)), std::move(borders));
  setCurrentWidget(map_);
}

void AnswerChart::showFigures(const Subject& subject, const Watch& watch, const Watch& other)
{
  const auto& [question, answer, seen, unit] = subject;
  const AskedFigure asked = figureAskedBy(question);
  const Quantity quantity = quantityAsked(seen, watch, asked);
  const Quantity second = quantityAsked(seen, other, asked);
  const std::vector<HeldLimit> limits = limitsAsked(question, seen);
  std::vector<ScatterChart::Point> points;
  for (std::size_t i = 0; i < answer.answers.size(); ++i) {
    const auto x = answer.answers[i].figure(watch.id, asked);
    const auto y = answer.answers[i].figure(other.id, asked);
    if (x && y)
      points.push_back(
          {toDisplay(*x, quantity, unit), toDisplay(*y, second, unit), keepsAll(limits, answer.answers[i]), i});
  }
  scatter_->show(std::move(points), words(watch.name + ", " + displayUnit(quantity, unit)),
                 words(other.name + ", " + displayUnit(second, unit)), answer.best);
  setCurrentWidget(scatter_);
}

void AnswerChart::showStrengths(const Subject& subject, const Watch& watch)
{
  std::vector<TornadoChart::Bar> bars;
  const auto& [question, answer, seen, unit] = subject;
  for (const Sensitivity& one : answer.slopes)
    if (one.watch == watch.id && one.axis < answer.axes.size())
      bars.push_back({inWords(answer.axes[one.axis].label),
                      words(formatQuantity(one.perStep, differenceOf(quantityOf(seen, watch)), unit, 3)), one.perStep});
  tornado_->show(std::move(bars),
                 tr("%1: for one per cent of each value, one kelvin of a temperature").arg(words(watch.name)));
  setCurrentWidget(tornado_);
}

} // namespace kiln
