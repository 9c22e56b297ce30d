// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "questions/QuestionAnswer.h"

#include "base/TextHash.h"
#include "io/ProjectFile.h"
#include "model/ObjectKinds.h"
#include "model/OwnValues.h"
#include "questions/PointModel.h"
#include "run/InputHash.h"
#include "run/ResultHead.h"

#include <algorithm>

namespace kiln
{
namespace
{

/// Notes every point with its answer on the way.
class Recording
{
public:
  Recording(QuestionAnswer& answer, const SolvePoints& solve) : answer_(answer), solve_(solve) {}

  std::vector<PointAnswer> operator()(const std::vector<AskedPoint>& points)
  {
    std::vector<PointAnswer> answers = solve_(points);
    for (std::size_t i = 0; i < answers.size(); ++i) {
      answer_.points.push_back(points[i]);
      answer_.answers.push_back(answers[i]);
    }
    answer_.complete = answers.size() == points.size();
    return answers;
  }

private:
  QuestionAnswer& answer_;
  const SolvePoints& solve_;
};

class Asking
{
public:
  Asking(const PreparedQuestion& prepared, const SolvePoints& solve)
      : prepared_(prepared),
        solve_([recording = Recording(answer_, solve)](const auto& points) mutable { return recording(points); })
  {
    answer_.axes = prepared.axes;
  }

  Expected<QuestionAnswer> run()
  {
    if (auto asked = std::visit([&](const auto& ask) { return this->ask(ask); }, prepared_.question.asks); !asked)
      return tl::unexpected(asked.error());
    for (const AskedPoint& point : answer_.points)
      answer_.words.push_back(pointWords(prepared_.seen, prepared_.axes, point));
    return std::move(answer_);
  }

private:
  Expected<void> ask(const AskSweep& sweep)
  {
    const auto points = pointsOf(prepared_.question, sweep, prepared_.axes);
    if (!points)
      return tl::unexpected(points.error());
    const std::vector<PointAnswer> answers = solve_(*points);
    const auto failed = std::count_if(answers.begin(), answers.end(), [](const auto& one) { return !one.solved(); });
    answer_.summary = std::to_string(answers.size()) + " of " + std::to_string(points->size()) + " points" +
                      (failed > 0 ? ", " + std::to_string(failed) + " could not be solved." : ".");
    return {};
  }
  Expected<void> ask(const AskSensitivity& sensitivity)
  {
    SensitivityAnswer found = askSensitivity(prepared_.seen, sensitivity, prepared_.axes, solve_);
    answer_.slopes = std::move(found.slopes);
    answer_.spreads = std::move(found.spreads);
    answer_.summary = std::move(found.words);
    return {};
  }
  Expected<void> ask(const AskLimit& limit)
  {
    if (prepared_.axes.size() != 1 || !prepared_.axes.front().isRange)
      return failure(Failure::Kind::NotReady, objectWords(prepared_.question),
                     "How much is allowed is asked of one number.", "Let it vary one field, from a value to another.");
    LimitAnswer found = searchLimit(prepared_.seen, limit, prepared_.axes.front(), solve_);
    answer_.value = found.value;
    answer_.watch = std::move(found.watch);
    answer_.summary = std::move(found.words);
    return {};
  }
  Expected<void> ask(const AskBest& best)
  {
    if (findById(prepared_.seen.watches, best.watch) == nullptr)
      return failure(Failure::Kind::NotReady, objectWords(prepared_.question), "It has no watch that is to be best.",
                     "Choose one; a formula of watches may be one.");
    const BestAnswer found = searchBest(prepared_.seen, best, prepared_.axes, solve_, [](const BestAnswer&) {});
    answer_.best = found.best;
    answer_.summary = found.words;
    return {};
  }

  const PreparedQuestion& prepared_;
  QuestionAnswer answer_;
  SolvePoints solve_;
};

} // namespace

Expected<PreparedQuestion> prepareQuestion(const Project& project, const Question& question)
{
  PreparedQuestion prepared{project, {}, question, {}};
  const Case* base = findById(project.cases, question.base);
  if (base == nullptr)
    return failure(Failure::Kind::NotReady, objectWords(question), "It has no case to vary.", "Choose one.");
  Expected<Project> seen = projectForCase(project, *base);
  if (!seen)
    return tl::unexpected(seen.error());
  auto axes = readAxes(*seen, question);
  if (!axes)
    return tl::unexpected(axes.error());
  for (const Material& material : seen->materials) // those of the library
    if (findById(prepared.project.materials, material.id) == nullptr)
      prepared.project.materials.push_back(material);
  prepared.seen = std::move(*seen);
  prepared.axes = std::move(*axes);
  return prepared;
}

Expected<std::vector<AskedPoint>> sweptPoints(const PreparedQuestion& prepared)
{
  const auto* sweep = std::get_if<AskSweep>(&prepared.question.asks);
  return sweep != nullptr ? pointsOf(prepared.question, *sweep, prepared.axes) : std::vector<AskedPoint>();
}

double expectedPoints(const PreparedQuestion& prepared)
{
  const auto axes = static_cast<double>(prepared.axes.size());
  if (const auto* best = std::get_if<AskBest>(&prepared.question.asks))
    return best->budget ? best->budget->si : usualBudget;
  if (const auto* sensitivity = std::get_if<AskSensitivity>(&prepared.question.asks)) {
    const bool spread =
        std::any_of(prepared.axes.begin(), prepared.axes.end(), [](const auto& axis) { return axis.by > 0; });
    return 1 + 2 * axes + (spread ? (sensitivity->samples ? sensitivity->samples->si : usualSamples) : 0);
  }
  constexpr double ofASearch = 12;
  const auto points = sweptPoints(prepared);
  return points && !points->empty() ? static_cast<double>(points->size()) : ofASearch;
}

Expected<QuestionAnswer> answerQuestion(const PreparedQuestion& prepared, const SolvePoints& solve)
{
  auto answer = Asking(prepared, solve).run();
  if (answer)
    answer->hash = questionHash(prepared.project, prepared.question);
  return answer;
}

std::string questionHash(const Project& project, const Question& question)
{
  const Case* base = findById(project.cases, question.base);
  const Expected<Project> seen = base != nullptr ? projectForCase(project, *base) : Expected<Project>(project);
  if (!seen)
    return {};
  Project asked; // the question alone, in the words of the file
  asked.questions = {question};
  asked.questions.front().name.clear();
  asked.questions.front().comment.clear();
  for (const Watch& watch : seen->watches) // limits are what it is held against
    asked.watches.push_back(watch);
  return textHash((base != nullptr ? solutionHash(*seen, *base) : std::string()) + figuresHash(*seen) +
                  writeProject(asked));
}

} // namespace kiln
