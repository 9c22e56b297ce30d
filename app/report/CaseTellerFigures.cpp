// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
//
// What a report tells of what came out of a case: figures, balance, places, pictures, course, and how it was computed.
#include "base/Versions.h"
#include "io/SureText.h"
#include "look/Language.h"
#include "mesh/MeshQuality.h"
#include "report/CaseTeller.h"
#include "report/ReportWords.h"

#include <algorithm>
#include <cmath>

namespace kiln
{

using namespace telling;

ReportCell verdictOf(const WatchFigure& figure, TemperatureUnit unit)
{
  if (!figure.value)
    return {figure.note.empty() ? words("no value") : figure.note, ReportMark::Doubt};
  if (!figure.upper && !figure.lower)
    return {words("no limit"), ReportMark::None};
  const bool kept = figure.margin && *figure.margin >= 0;
  const std::string margin = figure.margin ? ", " + formatMargin(*figure.margin, figure.quantity, unit) : "";
  return kept ? ReportCell{"✓ " + words("passes") + margin, ReportMark::Good}
              : ReportCell{"✗ " + words("fails") + margin, ReportMark::Bad};
}

std::string limitsOf(const WatchFigure& figure, TemperatureUnit unit)
{
  std::string text;
  if (figure.lower)
    text = words("at least ") + formatQuantity(*figure.lower, figure.quantity, unit);
  if (figure.upper)
    text += (text.empty() ? "" : ", ") + words("at most ") + formatQuantity(*figure.upper, figure.quantity, unit);
  return text.empty() ? "–" : text;
}

ReportBlocks CaseTeller::mesh() const
{
  const CaseResult* solved = result();
  if (solved == nullptr)
    return {ReportWords{words(noResult)}};
  double flattest = M_PI;
  if (const auto flat = flattestTets(solved->mesh, 1); !flat.empty())
    flattest = smallestDihedral(solved->mesh, flat.front());
  std::string said = inWords(elementWords(solved->mesh)).toStdString() + ", " +
                     tr("%1 unknown temperatures").arg(solved->temperature.size()).toStdString();
  if (!solved->mesh.tets.empty())
    said += ", " + words("smallest angle ") + text(flattest, Quantity::Angle, 3);
  ReportBlocks blocks{ReportWords{said + "."}};
  const CaseState& state = document_.shownState();
  if (!state.sure || state.sure->solutionHash != solved->solutionHash) {
    blocks.emplace_back(
        ReportWords{words("Finer meshes were not asked how far the figures may be off."), ReportMark::Doubt});
    return blocks;
  }
  ReportTable table = tableWith({{"Watch", false}, {"Value", true}, {"How sure", false}});
  for (const Watch& watch : document_.shownProject().watches)
    if (const SureRecord::OfWatch* sure = state.sureOf(watch.id))
      table.rows.push_back({{watch.name},
                            {figureText(*sure, quantityOf(document_.shownProject(), watch), unit_)},
                            {sureText(*sure, quantityOf(document_.shownProject(), watch))}});
  table.caption = caseAndInstant();
  blocks.emplace_back(table);
  return blocks;
}

ReportBlocks CaseTeller::figures() const
{
  const ShownFigures* now = document_.shownFigures();
  if (now == nullptr)
    return {ReportWords{words(noResult), ReportMark::Doubt}};
  ReportTable table = tableWith({{"Watch", false},
                                 {"Value", true},
                                 {"Where", false},
                                 {"Limit", false},
                                 {"Verdict", false},
                                 {"Reference", false}});
  for (const WatchFigure& figure : now->watches) {
    const auto passes = agrees(figure);
    std::string where;
    if (figure.where && result() != nullptr && figure.where->part >= 0)
      where = result()->mesh.geometry.parts[static_cast<std::size_t>(figure.where->part)].name + ", " +
              placeOf(*figure.where);
    const std::string reference = referenceWords(figure, unit_);
    table.rows.push_back({{figure.name},
                          {figure.value ? text(*figure.value, figure.quantity) : "–"},
                          {where},
                          {limitsOf(figure, unit_)},
                          verdictOf(figure, unit_),
                          {reference.empty() ? "–"
                                             : (passes == false  ? "✗ "
                                                : passes == true ? "✓ "
                                                                 : "") +
                                                   reference,
                           passes == false ? ReportMark::Bad : ReportMark::None}});
  }
  if (table.rows.empty())
    return {ReportWords{words("Nothing is watched.")}};
  table.caption = caseAndInstant() + document_.quickLookText().toStdString();
  return {table};
}

ReportBlocks CaseTeller::balance() const
{
  const ShownFigures* now = document_.shownFigures();
  const CaseResult* solved = result();
  if (now == nullptr || solved == nullptr)
    return {ReportWords{words(noResult)}};
  const Quantity heat = heatQuantity(document_.shownProject());
  ReportTable table = tableWith({{"Heat", false}, {"", true}});
  table.rows.push_back({{words("enters")}, {text(now->heatIn, heat)}});
  table.rows.push_back({{words("leaves")}, {text(now->heatOut, heat)}});
  table.rows.push_back({{words("goes into store")}, {text(now->stored, heat)}});
  const auto run = document_.shownState().run.record;
  const double share = run ? run->imbalance : solved->relativeImbalance();
  table.rows.push_back(
      {{words(run ? "heat balance error of the whole run" : "heat balance error")}, {balanceError(share)}});
  table.caption = caseAndInstant();
  return {table};
}

ReportBlocks CaseTeller::hotSpots() const
{
  const ShownFigures* now = document_.shownFigures();
  if (now == nullptr)
    return {ReportWords{words(noResult)}};
  ReportTable table = tableWith(
      {{"Part", false}, {"Hottest", true}, {"Where", false}, {"Coldest", true}, {"Where", false}, {"Mean", true}});
  std::vector<PartFigures> parts = now->parts;
  std::stable_sort(parts.begin(), parts.end(),
                   [](const PartFigures& a, const PartFigures& b) { return a.hottest.value > b.hottest.value; });
  for (const PartFigures& part : parts) {
    const Part* own = findById(document_.shownProject().parts, part.id);
    table.rows.push_back({{own != nullptr ? own->name : part.name},
                          {text(part.hottest.value, Quantity::Temperature)},
                          {placeOf(part.hottest)},
                          {text(part.coldest.value, Quantity::Temperature)},
                          {placeOf(part.coldest)},
                          {text(part.mean, Quantity::Temperature)}});
  }
  for (const NodeState& state : now->nodes) {
    const Node* node = findById(document_.shownProject().nodes, state.id);
    const std::string kelvin = text(state.temperature, Quantity::Temperature);
    table.rows.push_back(
        {{node != nullptr ? node->name : state.id}, {kelvin}, {words("lumped node")}, {kelvin}, {}, {kelvin}});
  }
  table.caption = caseAndInstant() + document_.quickLookText().toStdString();
  return {table};
}

ReportBlocks CaseTeller::views(const ReportSection& section) const
{
  ReportBlocks blocks;
  const auto add = [&](std::optional<ReportPicture> picture) {
    if (picture)
      blocks.emplace_back(std::move(*picture));
  };
  for (const View& view : document_.project().views)
    if (section.views.empty() || std::find(section.views.begin(), section.views.end(), view.id) != section.views.end())
      add(pictures_.view(view));
  if (blocks.empty())
    add(pictures_.scene());
  return blocks;
}

ReportBlocks CaseTeller::course() const
{
  const auto run = document_.shownState().run.record;
  if (!run || run->times.size() < 2)
    return {};
  ReportTable table = tableWith({{"Watch", false},
                                 {"Start", true},
                                 {"Peak", true},
                                 {"Peak after", true},
                                 {"95 % after", true},
                                 {"Settled after", true},
                                 {"Limit first met after", true},
                                 {"Beyond it for", true}});
  const double begun = run->times.front();
  const auto time = [&](const std::optional<double>& seconds) {
    return seconds ? text(*seconds, Quantity::Time) : "–";
  };
  for (const Watch& watch : document_.shownProject().watches)
    if (const auto answers = answersOf(*run, watch)) {
      const Quantity quantity = quantityOf(document_.shownProject(), watch);
      const auto met = answers->crossedUpper ? answers->crossedUpper : answers->crossedLower;
      table.rows.push_back({{watch.name},
                            {text(answers->start, quantity)},
                            {text(answers->peak.value, quantity) + (answers->stillRising ? words(", rising") : "")},
                            {time(answers->peak.time - begun)},
                            {time(answers->reached95)},
                            {answers->stillRising || answers->stillFalling ? words("not yet") : time(answers->settled)},
                            {met ? time(*met - begun) : "–", met ? ReportMark::Bad : ReportMark::None},
                            {met ? time(answers->aboveUpper + answers->belowLower) : "–"}});
    }
  table.caption = tr("%1, over %2; it ended: %3")
                      .arg(QString::fromStdString(document_.shownCaseObject()->name),
                           QString::fromStdString(text(run->times.back() - begun, Quantity::Time)),
                           run->reason.empty() ? tr("nothing is said") : inWords(run->reason))
                      .toStdString();
  return {pictures_.course(), table};
}

ReportBlocks CaseTeller::lines() const
{
  ReportBlocks blocks;
  if (result() != nullptr)
    for (const Line& line : document_.project().lines)
      blocks.emplace_back(pictures_.line(line));
  return blocks;
}

ReportBlocks CaseTeller::paths() const
{
  const ShownFigures* now = document_.shownFigures();
  return now == nullptr || now->paths.empty() ? ReportBlocks{} : ReportBlocks{pictures_.paths()};
}

/// What someone needs who wants to compute it again, and to see that it is the same.
ReportBlocks CaseTeller::record() const
{
  ReportTable table = tableWith({{"", false}, {"", false}});
  const auto add = [&](const std::string& what, const std::string& value) { table.rows.push_back({{what}, {value}}); };
  const Case& own = *document_.shownCaseObject();
  add(words("Program"), "Usual Kiln " + ownVersion() + " (" + libraryVersions() + ")");
  add(words("Project file"), document_.file().filename().string());
  add(words("Command"), "ukiln solve " + document_.file().filename().string() + " --case " + own.id);
  if (const CaseResult* solved = result()) {
    add(words("Fingerprint of shapes and mesh"), solved->meshHash);
    add(words("Fingerprint of all inputs"), solved->solutionHash);
    add(words("Solver"), solved->info.solver + ", " +
                             tr("%1 Newton steps, %2 iterations")
                                 .arg(solved->info.newtonSteps)
                                 .arg(solved->info.linearIterations)
                                 .toStdString());
    std::string times;
    for (const StageTime& stage : solved->info.times)
      times += (times.empty() ? "" : ", ") + stage.stage + " " + text(stage.seconds, Quantity::Time, 3);
    add(words("Time it took"), times);
    for (const std::string& note : solved->notes)
      add(words("Note"), note);
  }
  const CaseState& state = document_.shownState();
  if (!state.outOfDate.isEmpty())
    table.rows.push_back({{words("Out of date")}, {state.outOfDate.toStdString(), ReportMark::Bad}});
  if (const auto run = state.run.record)
    add(words("Steps in time"), tr("%1, %2 repeated").arg(run->steps).arg(run->rejected).toStdString());
  return {table};
}

} // namespace kiln
