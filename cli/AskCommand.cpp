// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "Asked.h"
#include "AtOnce.h"
#include "ClusterAsk.h"
#include "PointWorkers.h"

#include "io/AtomicFile.h"
#include "io/Export.h"
#include "model/ObjectKinds.h"
#include "questions/PointModel.h"
#include "questions/PointStore.h"
#include "run/JobQueue.h"
#include "run/KeptFields.h"
#include "run/ResultIdentity.h"
#include "run/TakenFigures.h"

#include <algorithm>
#include <csignal>
#include <fstream>
#include <iostream>
#include <nlohmann/json.hpp>

namespace kiln::cli
{
namespace
{

using Json = nlohmann::ordered_json;

/// The question called so, by name or id.
Expected<Question> questionCalled(const Project& project, const std::string& asked)
{
  std::string names;
  for (const Question& one : project.questions) {
    if (one.id == asked || one.name == asked)
      return one;
    names += (names.empty() ? "“" : ", “") + one.name + "”";
  }
  return failure(Failure::Kind::NotReady, "question " + asked, "The project has no question of this name.",
                 names.empty() ? "Ask one in the window, or write one into the project file."
                               : "Use one of " + names + ".");
}

/// "5..20", from one on.
Expected<std::pair<std::size_t, std::size_t>> stretchOf(const std::string& text, std::size_t count)
{
  const auto dots = text.find("..");
  try {
    if (dots != std::string::npos) {
      const std::size_t from = std::stoul(text.substr(0, dots));
      const std::size_t to = std::stoul(text.substr(dots + 2));
      if (from >= 1 && from <= to && from <= count)
        return std::pair(from - 1, std::min(to, count));
    }
  } catch (const std::exception&) { // said below
  }
  return failure(Failure::Kind::NotReady, "--points " + text, "There are no such points.",
                 "Say from which to which, at least 1..1 and at most 1.." + std::to_string(count) + ".");
}

class Asker
{
public:
  Asker(const Request& request, const PreparedQuestion& prepared, PointStore store, Reporter& reporter)
      : request_(request), prepared_(prepared), store_(std::move(store)), reporter_(reporter),
        keys_(prepared.project, prepared.question, prepared.axes, {}, keptIn(prepared.question, folderOf(request))),
        workers_(prepared, folderOf(request), std::max(1, request.jobs)), expected_(expectedPoints(prepared))
  {
  }

  /// What is known is not solved again; what is new is kept as soon as it is there.
  std::vector<PointAnswer> solve(const std::vector<AskedPoint>& points)
  {
    std::vector<std::optional<PointAnswer>> answers(points.size());
    std::vector<AskedPoint> open;
    std::vector<std::size_t> places;
    for (std::size_t i = 0; i < points.size(); ++i) {
      const auto key = keys_.keyOf(points[i]);
      if (!key) {
        answers[i] = PointAnswer{{}, {}, key.error().sentence()};
        say(points[i], *answers[i]);
      } else if (auto known = store_.find(*key); known && (!known->solved() || keys_.hasKept(points[i]))) {
        answers[i] = std::move(*known);
        say(points[i], *answers[i]);
      } else {
        open.push_back(points[i]);
        places.push_back(i);
      }
    }
    const auto solved = workers_.solve(open, [&](std::size_t place, const PointAnswer& answer) {
      if (auto kept = store_.keep(answer); !kept && !unwritable_)
        unwritable_ = kept.error();
      say(open[place], answer);
    });
    for (std::size_t i = 0; i < solved.size(); ++i)
      answers[places[i]] = solved[i];
    std::vector<PointAnswer> all;
    for (auto& answer : answers) {
      if (!answer)
        break;
      all.push_back(std::move(*answer));
    }
    return all;
  }

  [[nodiscard]] bool interrupted() const { return workers_.interrupted(); }
  [[nodiscard]] const std::optional<Failure>& unwritable() const { return unwritable_; }

private:
  /// One JSON line a point, for scripts and the window.
  void say(const AskedPoint& point, const PointAnswer& answer)
  {
    ++said_;
    if (!reporter_.isJson() && !request_.lines) {
      reporter_.progress("ask", std::min(1.0, said_ / expected_), std::to_string(said_) + " points");
      if (!answer.solved())
        reporter_.say(pointWords(prepared_.seen, prepared_.axes, point) + ": " + answer.failure);
      return;
    }
    Json values = Json::parse(pointText(point));
    Json line{{"stage", "point"},
              {"fraction", std::min(1.0, said_ / expected_)},
              {"number", said_},
              {"point", pointWords(prepared_.seen, prepared_.axes, point)},
              {"values", std::move(values)}};
    const Json own = Json::parse(answerText(answer));
    line["figures"] = own.at("figures");
    if (!answer.solved())
      line["failure"] = answer.failure;
    line["seconds"] = answer.seconds;
    line["known"] = answer.known;
    std::cout << line.dump(-1, ' ', false, Json::error_handler_t::replace) << std::endl;
  }

  const Request& request_;
  const PreparedQuestion& prepared_;
  PointStore store_;
  Reporter& reporter_;
  PointSolver keys_;
  PointWorkers workers_;
  int said_ = 0;
  double expected_ = 1; ///< points, as far as that can be foretold
  std::optional<Failure> unwritable_;
};

std::string withUnit(const std::string& name, Quantity quantity)
{
  const std::string unit(siUnit(quantity));
  return unit.empty() ? name : name + " [" + unit + "]";
}

/// A line a point, SI, units in the head.
std::string answerCsv(const PreparedQuestion& prepared, const QuestionAnswer& answer)
{
  std::vector<std::vector<std::string>> rows(1, {"point"});
  for (const AskedAxis& axis : prepared.axes)
    rows.front().push_back(withUnit(axis.label, axis.quantity));
  for (const Watch& watch : prepared.seen.watches)
    rows.front().push_back(withUnit(watch.name, quantityOf(prepared.seen, watch)));
  rows.front().push_back("failure");
  for (std::size_t i = 0; i < answer.points.size(); ++i) {
    auto& row = rows.emplace_back(std::vector<std::string>{std::to_string(i + 1)});
    for (const OwnValue& value : answer.points[i]) {
      const auto* number = std::get_if<Property>(&value);
      row.push_back(number != nullptr ? plainNumber(number->si) : Json::parse(pointText({value})).at(0).dump());
    }
    for (const Watch& watch : prepared.seen.watches) {
      const auto figure = answer.answers[i].figure(watch.id, AskedFigure::AtEnd);
      row.push_back(figure ? plainNumber(*figure) : "");
    }
    row.push_back(answer.answers[i].failure);
  }
  std::string text;
  for (const auto& row : rows) {
    for (std::size_t i = 0; i < row.size(); ++i)
      text += (i > 0 ? "," : "") + csvField(row[i]);
    text += "\n";
  }
  return text;
}

void sayAnswer(const PreparedQuestion& prepared, const QuestionAnswer& answer, Reporter& reporter)
{
  reporter.say(prepared.question.name + ": " + answer.summary);
  if (answer.best)
    reporter.say("  at " + answer.words[*answer.best]);
  const auto watchOf = [&](const std::string& id) { return findById(prepared.seen.watches, id); };
  for (const Sensitivity& one : answer.slopes)
    if (const Watch* watch = watchOf(one.watch)) {
      const AskedAxis& axis = answer.axes[one.axis];
      reporter.say("  " + watch->name + ": " +
                   formatQuantity(one.perStep, differenceOf(quantityOf(prepared.seen, *watch)), {}, 4) +
                   (axis.quantity == Quantity::Temperature ? " for 1 K of " : " for 1 % of ") + axis.label);
    }
  for (const Spread& one : answer.spreads)
    if (const Watch* watch = watchOf(one.watch)) {
      const Quantity quantity = quantityOf(prepared.seen, *watch);
      reporter.say("  " + watch->name + ": " + formatQuantity(one.middle, quantity) + ", 90 % lie from " +
                   formatQuantity(one.low, quantity) + " to " + formatQuantity(one.high, quantity) +
                   (one.chance ? "; keeps its limits in " + formatQuantity(100 * *one.chance, Quantity::Plain) + " %"
                               : std::string()));
    }
}

/// Cases whose figures the question's case takes are solved first, in processes of their own: those that solve points
/// are copies of this one, which must not have threads by then.
/// \return how it ended, where they cannot be
std::optional<ExitCode> takeFirst(const Request& request, Project& project, const Question& question,
                                  Reporter& reporter)
{
  const Case* base = findById(project.cases, question.base);
  std::vector<Case> sources;
  for (const std::string& id : base != nullptr ? takesFrom(project, *base) : std::vector<std::string>())
    if (const Case* source = findById(project.cases, id))
      sources.push_back(*source);
  const auto ordered = inOrder(project, sources);
  if (!ordered)
    return refused(ordered.error(), reporter);
  JobQueue queue;
  for (const Case& one : *ordered)
    if (!isUpToDate(project, one, folderOf(request))) {
      reporter.say(one.name + " is solved first: what was asked for needs it");
      queue.add({one.id, waitsFor(project, one), QueuedJob::State::Waiting, 0, {}});
    }
  ExitCode worst = ExitCode::Solved;
  solveAtOnce(
      request, project, queue, reporter,
      [&](const Case& one, Reporter& own) {
        Project now = project;
        takeFigures(now, folderOf(request));
        const auto solved = runCase(now, one, folderOf(request), [&](auto... args) { own.progress(args...); });
        return solved ? ExitCode::Solved : report(solved.error(), own);
      },
      [&](const Case&, const std::string&, ExitCode code) { worst = worst == ExitCode::Solved ? code : worst; });
  takeFigures(project, folderOf(request));
  return worst == ExitCode::Solved ? std::nullopt : std::optional(worst);
}

/// \return how it ended; nothing: all of it is known now
std::optional<ExitCode> onCluster(const Request& request, const PreparedQuestion& prepared, PointStore& store,
                                  Reporter& reporter)
{
  ClusterAsk cluster(request, prepared, store, [&](const std::string& words) { reporter.say(words); });
  if (request.cancelCluster) {
    const auto cancelled = cluster.cancel();
    return cancelled ? ExitCode::Solved : refused(cancelled.error(), reporter);
  }
  const auto points = sweptPoints(prepared);
  if (!points)
    return refused(points.error(), reporter);
  if (points->empty())
    return refused({Failure::Kind::NotReady, objectWords(prepared.question),
                    "It chooses each point by the one before: that is solved here.", "Ask it without --cluster."},
                   reporter);
  const std::function<int()> left = notedSignals();
  const auto ran = cluster.run(*points, [&] { return left() != 0; });
  if (!ran)
    return refused(ran.error(), reporter);
  if (left() == SIGINT)
    if (auto cancelled = cluster.cancel(); !cancelled)
      return refused(cancelled.error(), reporter);
  if (left() != 0)
    return ExitCode::Cancelled; // else the job goes on
  return std::nullopt;
}

} // namespace

ExitCode ask(const Request& request, Reporter& reporter)
{
  Expected<Project> project = load(request);
  const auto question = project ? questionCalled(*project, request.question) : tl::unexpected(project.error());
  if (!question)
    return refused(question.error(), reporter);
  const std::filesystem::path folder = folderOf(request);
  if (auto made = makeFolder(folder); !made)
    return refused(made.error(), reporter);
  if (const auto over = takeFirst(request, *project, *question, reporter))
    return *over;
  const auto prepared = prepareQuestion(*project, *question);
  if (!prepared)
    return refused(prepared.error(), reporter);
  auto store = PointStore::open(request.keepIn.empty() ? pointsFile(folder, question->id) : request.keepIn);
  if (!store)
    return refused(store.error(), reporter);
  if (request.nice)
    giveWay();
  if (request.cluster || request.cancelCluster)
    if (const auto over = onCluster(request, *prepared, *store, reporter))
      return *over;
  if (std::error_code ignored; !question->keepsFields)
    std::filesystem::remove_all(keptFieldsFolder(folder, question->id), ignored);
  Asker asker(request, *prepared, std::move(*store), reporter);
  const SolvePoints solve = [&](const std::vector<AskedPoint>& points) { return asker.solve(points); };
  if (!request.points.empty()) { // some of a sweep, for others to put together
    const auto all = sweptPoints(*prepared);
    const auto stretch = all ? stretchOf(request.points, all->size()) : tl::unexpected(all.error());
    if (!stretch)
      return refused(stretch.error(), reporter);
    const auto from = static_cast<std::ptrdiff_t>(stretch->first);
    const auto to = static_cast<std::ptrdiff_t>(stretch->second);
    const auto answers = asker.solve({all->begin() + from, all->begin() + to});
    if (asker.unwritable())
      return refused(*asker.unwritable(), reporter);
    return answers.size() == static_cast<std::size_t>(to - from) ? ExitCode::Solved : ExitCode::Cancelled;
  }
  const auto answer = answerQuestion(*prepared, solve);
  if (!answer)
    return refused(answer.error(), reporter);
  sayAnswer(*prepared, *answer, reporter);
  if (auto saved = saveAnswer(*answer, answerFile(folder, question->id)); !saved)
    return refused(saved.error(), reporter);
  if (!request.output.empty())
    if (auto written = writeAtomically(request.output, answerCsv(*prepared, *answer)); !written)
      return refused(written.error(), reporter);
  if (asker.unwritable())
    return refused(*asker.unwritable(), reporter);
  return asker.interrupted() ? ExitCode::Cancelled : ExitCode::Solved;
}

} // namespace kiln::cli
