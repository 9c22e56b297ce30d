// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "document/ShownFigures.h"

#include "document/SolverProgram.h"
#include "heat/watches/WatchReader.h"
#include "results/UnstoredParts.h"

#include <algorithm>

namespace kiln
{
namespace
{

/// Watches at an instant of a run: from the temperatures then, else as they were recorded.
std::vector<WatchFigure> watchesAt(const Project& project, const CaseResult& result, const RunRecord& record,
                                   std::vector<double> field, double time)
{
  WatchGround ground{project, result.mesh, result.unknowns, {}};
  for (const NodeState& node : result.nodes)
    if (const auto kelvin = record.at(RunTrace::Kind::NodeState, node.id, time)) {
      ground.lumped.emplace(node.id, static_cast<Index>(field.size()));
      field.push_back(*kelvin);
    }
  std::vector<WatchFigure> figures;
  for (const Watch& watch : project.watches) {
    const WatchReader reader(ground, watch);
    WatchFigure& figure = figures.emplace_back(figureOf(project, watch, reader, reader.read({field})));
    if (figure.value)
      continue;
    figure.value = record.at(RunTrace::Kind::Watch, watch.id, time);
    figure.note = figure.value ? "" : "known at the end of the run only";
    setLimits(figure, watch);
  }
  return figures;
}

ShownRun openRun(const std::filesystem::path& file)
{
  ShownRun run;
  auto record = loadRun(file);
  auto fields = InstantReader::open(file);
  if (record && fields) {
    run.record = std::make_shared<const RunRecord>(std::move(*record));
    run.fields = std::make_shared<const InstantReader>(std::move(*fields));
  }
  return run;
}

} // namespace

ShownRun loadGrowingRun(const std::filesystem::path& folder, const std::string& caseId)
{
  return openRun(growingRunFile(folder, caseId));
}

ShownRun loadShownRun(const std::filesystem::path& folder, const std::string& caseId)
{
  std::error_code ignored;
  const bool interrupted = std::filesystem::exists(growingRunFile(folder, caseId), ignored);
  ShownRun later =
      interrupted && isReadableRun(growingRunFile(folder, caseId)) ? loadGrowingRun(folder, caseId) : ShownRun{};
  const auto stored = storedCase(folder, caseId);
  if (!stored || !*stored || (*stored)->run.empty())
    return later;
  ShownRun run = openRun((*stored)->run);
  if (later.record && !later.record->times.empty())
    run.interruptedAt = later.record->times.back();
  return run;
}

ShownFigures figuresOf(const Project& project, std::shared_ptr<const CaseResult> result,
                       const PreparedFigures* prepared)
{
  ShownFigures figures;
  figures.temperature = {result, &result->temperature};
  if (result->transient)
    figures.time = result->time;
  figures.parts = prepared != nullptr ? prepared->parts.read(result->temperature) : partFigures(*result);
  figures.watches = prepared != nullptr ? prepared->watches.read(*result) : readWatches(project, *result);
  figures.sources = result->sources;
  figures.boundaries = result->boundaries;
  figures.links = result->links;
  figures.contacts = contactFigures(*result);
  figures.nodes = result->nodes;
  figures.paths = result->paths;
  figures.heatIn = result->heatIn;
  figures.heatOut = result->heatOut;
  figures.stored = result->stored;
  return figures;
}

ShownFigures figuresAt(const Project& project, const std::shared_ptr<const CaseResult>& result, const ShownRun& run,
                       double time)
{
  const RunRecord& record = *run.record;
  auto field = run.fields->fieldAt(record.instants, time);
  if (!field || field->size() != result->temperature.size())
    return figuresOf(project, result);
  ShownFigures figures;
  figures.atMean = fillUnstored(record, result->mesh, result->unknowns, time, *field);
  figures.time = time;
  figures.atEnd = false;
  figures.parts = partFigures(result->mesh, result->unknowns, *field);
  figures.watches = watchesAt(project, *result, record, *field, time);
  const auto flow = [&](RunTrace::Kind kind, const std::string& id) { return record.at(kind, id, time).value_or(0); };
  for (const LedgerFlow& own : result->sources)
    figures.sources.push_back({own.id, flow(RunTrace::Kind::Source, own.id)});
  for (const LedgerFlow& own : result->boundaries)
    figures.boundaries.push_back({own.id, flow(RunTrace::Kind::Boundary, own.id)});
  for (const LedgerFlow& own : result->links)
    if (const auto watts = record.at(RunTrace::Kind::Link, own.id, time))
      figures.links.push_back({own.id, *watts});
  for (const EnclosureFigure& own : result->enclosures)
    if (const auto watts = record.at(RunTrace::Kind::Link, own.id, time))
      figures.links.push_back({own.id, *watts});
  for (ContactFigure own : contactFigures(*result))
    if (const auto watts = record.at(RunTrace::Kind::Contact, pairId(own.partA, own.partB), time)) {
      own.watts = *watts;
      figures.contacts.push_back(std::move(own));
    }
  for (const NodeState& own : result->nodes)
    if (const auto kelvin = record.at(RunTrace::Kind::NodeState, own.id, time))
      figures.nodes.push_back({own.id, *kelvin, flow(RunTrace::Kind::Node, own.id)});
  for (const HeatToPart& own : result->paths)
    if (const auto watts = record.at(RunTrace::Kind::Path, pairId(own.of, own.part), time))
      figures.paths.push_back({own.of, own.part, *watts});
  figures.heatIn = flow(RunTrace::Kind::In, {});
  figures.heatOut = flow(RunTrace::Kind::Out, {});
  figures.stored = flow(RunTrace::Kind::Storing, {});
  figures.temperature = std::make_shared<const std::vector<double>>(std::move(*field));
  figures.storedByPart = storedByPart(record, time);
  return figures;
}

std::vector<std::pair<std::string, double>> storedByPart(const RunRecord& record, double time)
{
  std::vector<std::pair<std::string, double>> stored;
  for (const RunTrace& trace : record.traces)
    if (trace.kind == RunTrace::Kind::Stored)
      if (const auto joules = record.at(trace.kind, trace.id, time))
        stored.emplace_back(trace.id, *joules);
  return stored;
}

} // namespace kiln
