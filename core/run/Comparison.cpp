// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "run/Comparison.h"

#include "mesh/MeshQuality.h"
#include "model/Settings.h"
#include "results/Figures.h"
#include "results/UnstoredParts.h"

#include <algorithm>
#include <cmath>
#include <map>
#include <numeric>

namespace kiln
{
namespace
{

/// Figures of one side in order, by kind and id.
class FigureList
{
public:
  explicit FigureList(const Compared& side)
  {
    if (!side.result)
      return;
    side.instant ? addWatchesAt(side) : addWatches(side);
    addParts(side);
    side.instant ? addLedgerAt(side) : addLedger(side);
    addWork(side);
  }

  std::vector<ComparedFigure> all; ///< with their value in a

private:
  void add(std::string kind, std::string id, std::string name, Quantity quantity, std::optional<double> value)
  {
    all.push_back({std::move(kind), std::move(id), std::move(name), quantity, value, {}});
  }
  void addWatches(const Compared& side)
  {
    for (const WatchFigure& figure : readWatches(side.project, *side.result))
      add("watch", figure.id, figure.name, figure.quantity, figure.value);
    if (!side.run)
      return;
    for (const Watch& watch : side.project.watches)
      if (const auto answers = answersOf(*side.run, watch)) {
        add("peak", watch.id, watch.name + ", peak", quantityOf(watch), answers->peak.value);
        if (answers->crossedUpper)
          add("time to limit", watch.id, watch.name + ", limit reached", Quantity::Time, answers->crossedUpper);
      }
  }
  void addAt(const Compared& side, const char* kind, RunTrace::Kind of, const std::string& id, const std::string& name,
             Quantity quantity)
  {
    if (const auto value = side.run ? side.run->at(of, id, *side.instant) : std::nullopt)
      add(kind, id, name, quantity, value);
  }
  void addWatchesAt(const Compared& side)
  {
    for (const Watch& watch : side.project.watches)
      addAt(side, "watch", RunTrace::Kind::Watch, watch.id, watch.name, quantityOf(watch));
  }
  void addLedgerAt(const Compared& side)
  {
    const Quantity heat = heatQuantity(side.project);
    const auto total = [&](RunTrace::Kind of, const char* id, const char* name) {
      if (const auto value = side.run ? side.run->at(of, {}, *side.instant) : std::nullopt)
        add("ledger", id, name, heat, value);
    };
    total(RunTrace::Kind::In, "in", "heat in");
    total(RunTrace::Kind::Out, "out", "heat out");
    total(RunTrace::Kind::Storing, "stored", "stored");
    const auto flows = [&](const char* kind, RunTrace::Kind of, const auto& objects) {
      for (const auto& object : objects)
        addAt(side, kind, of, object.id, object.name, heat);
    };
    flows("source", RunTrace::Kind::Source, side.project.sources);
    flows("boundary", RunTrace::Kind::Boundary, side.project.boundaries);
    flows("link", RunTrace::Kind::Link, side.project.links);
    for (const ContactFigure& contact : contactFigures(*side.result))
      addAt(side, "contact", RunTrace::Kind::Contact, pairId(contact.partA, contact.partB),
            contact.partA + " | " + contact.partB, heat);
  }
  void addParts(const Compared& side)
  {
    if (side.instant && !side.kelvin)
      return;
    for (const PartFigures& figure : side.kelvin ? partFigures(side.result->mesh, side.result->unknowns, *side.kelvin)
                                                 : partFigures(*side.result)) {
      add("part, hottest", figure.id, figure.name + " (part), hottest", Quantity::Temperature, figure.hottest.value);
      add("part, coldest", figure.id, figure.name + " (part), coldest", Quantity::Temperature, figure.coldest.value);
      add("part, mean", figure.id, figure.name + " (part), mean", Quantity::Temperature, figure.mean);
    }
  }
  void addLedger(const Compared& side)
  {
    const CaseResult& r = *side.result;
    const Quantity heat = heatQuantity(side.project);
    const auto flows = [&](const char* kind, const std::vector<LedgerFlow>& list, const auto& objects) {
      for (const LedgerFlow& flow : list)
        if (const auto* object = findById(objects, flow.id))
          add(kind, flow.id, object->name, heat, flow.watts);
    };
    add("ledger", "in", "heat in", heat, r.heatIn);
    add("ledger", "out", "heat out", heat, r.heatOut);
    add("ledger", "stored", "stored", heat, r.stored);
    flows("source", r.sources, side.project.sources);
    flows("boundary", r.boundaries, side.project.boundaries);
    flows("link", r.links, side.project.links);
    for (const ContactFigure& contact : contactFigures(r))
      add("contact", pairId(contact.partA, contact.partB), contact.partA + " | " + contact.partB, heat, contact.watts);
  }
  void addWork(const Compared& side)
  {
    const auto& times = side.result->info.times;
    add("work", "elements", "elements", Quantity::Plain, static_cast<double>(countElements(side.result->mesh)));
    add("work", "seconds", "time to solve", Quantity::Time,
        std::accumulate(times.begin(), times.end(), 0.0,
                        [](double sum, const StageTime& stage) { return sum + stage.seconds; }));
  }
};

/// The path with the id of the case taken out, so that two cases meet.
std::string commonPath(const std::string& path, const std::string& caseId)
{
  return path.starts_with(caseId + ".") ? "case" + path.substr(caseId.size()) : path;
}

struct Told {
  std::string label, text;
};

/// Fields of one side that a result depends on, by path, in the order of the file.
std::vector<std::pair<std::string, Told>> told(const Compared& side, TemperatureUnit unit)
{
  std::vector<std::pair<std::string, Told>> all;
  Project project = side.project;
  for (const Field& field : settings(project)) {
    const bool otherCase = findById(project.cases, field.objectId) != nullptr && field.objectId != side.caseId;
    if (field.stage == Stage::Nothing || otherCase)
      continue;
    const bool own = field.objectId == side.caseId;
    all.emplace_back(commonPath(field.path, side.caseId),
                     Told{(own ? std::string("the case") : field.objectName) + ", " + field.label,
                          settingText(project, field, field.held(), unit)});
  }
  return all;
}

/// Tables differ though both are "a table of 3 points".
std::string exactText(const Field& field)
{
  std::string text;
  if (const auto* table = field.table())
    for (const TablePoint& point : *table)
      text += plainNumber(point.at.si) + ":" + plainNumber(point.value.si) + ";";
  return text;
}

std::map<std::string, std::string> tablesOf(const Compared& side)
{
  std::map<std::string, std::string> tables;
  Project project = side.project;
  for (const Field& field : fields(project))
    if (std::string text = exactText(field); !text.empty())
      tables[commonPath(field.path, side.caseId)] = std::move(text);
  return tables;
}

std::string quotedCsv(const std::string& text)
{
  std::string quoted = "\"";
  for (const char c : text)
    quoted += c == '"' ? std::string("\"\"") : std::string(1, c);
  return quoted + "\"";
}

} // namespace

double withinRun(const RunRecord& run, double time)
{
  return run.times.empty() ? time : std::clamp(time, run.times.front(), std::max(run.times.front(), run.times.back()));
}

std::shared_ptr<const std::vector<double>> temperaturesAt(const CaseResult& result, const RunRecord& run,
                                                          const InstantReader& fields, double time)
{
  const double within = withinRun(run, time);
  auto field = fields.fieldAt(run.instants, within);
  if (!field || field->size() != result.temperature.size())
    return nullptr;
  fillUnstored(run, result.mesh, result.unknowns, within, *field);
  return std::make_shared<const std::vector<double>>(std::move(*field));
}

std::optional<double> ComparedFigure::difference() const { return a && b ? std::optional(*b - *a) : std::nullopt; }

std::optional<double> ComparedFigure::share() const
{
  if (quantity == Quantity::Temperature || !a || !b || *a == 0)
    return std::nullopt;
  return (*b - *a) / std::abs(*a);
}

Expected<void> comparable(const Compared& a, const Compared& b)
{
  const auto refused = [&](const std::string& problem, const std::string& remedy) {
    return failure(Failure::Kind::NotReady, a.name + " and " + b.name, problem, remedy);
  };
  if (a.project.section.has_value() != b.project.section.has_value())
    return refused("One is a section and the other a solid: their figures are not of the same thing.",
                   "Compare two sections, or two solids.");
  if (!a.result || !b.result || a.result->mesh.geometry.parts.empty() || b.result->mesh.geometry.parts.empty())
    return {};
  const auto known = [&](const GeometryPart& part) {
    return std::any_of(b.result->mesh.geometry.parts.begin(), b.result->mesh.geometry.parts.end(),
                       [&](const GeometryPart& other) { return other.id == part.id || other.name == part.name; });
  };
  if (std::none_of(a.result->mesh.geometry.parts.begin(), a.result->mesh.geometry.parts.end(), known))
    return refused("They have no part in common.", "Compare cases of the same model.");
  return {};
}

std::vector<std::string> comparisonNotes(const Compared& a, const Compared& b)
{
  std::vector<std::string> notes;
  for (const Compared* side : {&a, &b})
    if (!side->result)
      notes.push_back(side->name + " is not solved: only what was set is compared.");
    else if (!side->current)
      notes.push_back("The result of " + side->name + " is out of date.");
  return notes;
}

std::vector<ComparedInput> compareInputs(const Compared& a, const Compared& b, TemperatureUnit unit)
{
  const auto ofA = told(a, unit);
  const auto ofB = told(b, unit);
  const auto tablesA = tablesOf(a);
  const auto tablesB = tablesOf(b);
  std::map<std::string, std::size_t> inB;
  for (std::size_t i = 0; i < ofB.size(); ++i)
    inB[ofB[i].first] = i;
  std::vector<ComparedInput> inputs;
  for (const auto& [path, own] : ofA) {
    const auto found = inB.find(path);
    inputs.push_back({path, own.label, own.text, found != inB.end() ? ofB[found->second].second.text : ""});
    const auto tableA = tablesA.find(path);
    const auto tableB = tablesB.find(path);
    if (tableA != tablesA.end() && tableB != tablesB.end() && tableA->second != tableB->second)
      inputs.back().b += ", other values";
    if (found != inB.end())
      inB.erase(found);
  }
  for (const auto& [path, own] : ofB)
    if (inB.contains(path))
      inputs.push_back({path, own.label, "", own.text});
  return inputs;
}

std::vector<ComparedFigure> compareFigures(const Compared& a, const Compared& b)
{
  std::vector<ComparedFigure> figures = FigureList(a).all;
  for (ComparedFigure& other : FigureList(b).all) {
    const auto is = [&](bool byName) {
      return std::find_if(figures.begin(), figures.end(), [&](const ComparedFigure& own) {
        return own.kind == other.kind && !own.b && (byName ? own.name == other.name : own.id == other.id);
      });
    };
    auto own = is(false);
    if (own == figures.end())
      own = is(true);
    if (own != figures.end()) {
      own->b = other.a;
    } else {
      other.b = std::exchange(other.a, std::nullopt);
      figures.push_back(std::move(other));
    }
  }
  return figures;
}

std::string comparisonCsv(const Compared& a, const Compared& b)
{
  const auto number = [](const std::optional<double>& value) { return value ? plainNumber(*value) : std::string(); };
  std::string csv = "kind,name,unit," + quotedCsv(a.name) + "," + quotedCsv(b.name) + ",difference,share\n";
  for (const ComparedFigure& figure : compareFigures(a, b))
    csv += quotedCsv(figure.kind) + "," + quotedCsv(figure.name) + "," + std::string(siUnit(figure.quantity)) + "," +
           number(figure.a) + "," + number(figure.b) + "," + number(figure.difference()) + "," +
           number(figure.share()) + "\n";
  csv += "\nfield,what," + quotedCsv(a.name) + "," + quotedCsv(b.name) + "\n";
  for (const ComparedInput& input : compareInputs(a, b))
    if (input.differs())
      csv += quotedCsv(input.path) + "," + quotedCsv(input.label) + "," + quotedCsv(input.a) + "," +
             quotedCsv(input.b) + "\n";
  return csv;
}

} // namespace kiln
