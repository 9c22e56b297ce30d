// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "document/ShownFigures.h"

#include "document/SolverProgram.h"
#include "heat/elements/WatchProbe.h"
#include "model/Edit.h"
#include "results/UnstoredParts.h"

#include <algorithm>

namespace kiln
{
namespace
{

void setMargin(WatchFigure& figure, const Watch& watch)
{
  if (watch.upper)
    figure.upper = watch.upper->si;
  if (watch.lower)
    figure.lower = watch.lower->si;
  if (!figure.value)
    return;
  if (figure.upper)
    figure.margin = *figure.upper - *figure.value;
  if (figure.lower)
    figure.margin = std::min(figure.margin.value_or(1e300), *figure.value - *figure.lower);
}

/// Which part a mesh node belongs to: one of those watched where it lies between several.
int partAtNode(const Project& project, const Mesh& mesh, Index node, const Watch& watch)
{
  std::vector<std::string> wanted;
  if (const auto* figure = std::get_if<PartFigure>(&watch.figure))
    wanted = expandGroups(project, figure->parts);
  int found = noPart;
  for (std::size_t t = 0; t < mesh.tets.size(); ++t) {
    if (std::find(mesh.tets[t].begin(), mesh.tets[t].end(), node) == mesh.tets[t].end())
      continue;
    found = mesh.tetPart[t];
    const std::string& id = mesh.geometry.parts[static_cast<std::size_t>(found)].id;
    if (wanted.empty() || std::find(wanted.begin(), wanted.end(), id) != wanted.end())
      return found;
  }
  return found;
}

/// Is the watch of one hottest or coldest place?
bool hasPlace(const Watch& watch)
{
  const auto extreme = [](PartFigure::Kind kind) {
    return kind == PartFigure::Kind::Hottest || kind == PartFigure::Kind::Coldest;
  };
  if (const auto* part = std::get_if<PartFigure>(&watch.figure))
    return extreme(part->kind);
  const auto* surface = std::get_if<SurfaceFigure>(&watch.figure);
  return surface != nullptr && extreme(surface->kind);
}

WatchFigure watchAt(const Project& project, const CaseResult& result, const ShownRun& run, const Watch& watch,
                    const std::vector<double>& field, double time)
{
  WatchFigure figure{watch.id, watch.name, quantityOf(project, watch), {}, {}, {}, {}, {}, {}};
  if (const auto* node = std::get_if<NodeFigure>(&watch.figure))
    figure.value = run.record->at(RunTrace::Kind::NodeState, node->node, time);
  else if (const auto probe = probeOf(project, result.mesh, result.unknowns, {}, watch)) {
    figure.value = probe->value(field);
    const Index node = result.unknowns.node[static_cast<std::size_t>(probe->where(field))];
    if (hasPlace(watch))
      figure.where =
          PlacedValue{*figure.value, result.mesh.placeOf(node), partAtNode(project, result.mesh, node, watch)};
  } else if (const auto recorded = run.record->at(RunTrace::Kind::Watch, watch.id, time)) {
    figure.value = recorded;
  } else {
    figure.note = "known at the end of the run only";
  }
  setMargin(figure, watch);
  return figure;
}

} // namespace

namespace
{

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

ShownFigures figuresOf(const Project& project, std::shared_ptr<const CaseResult> result)
{
  ShownFigures figures;
  figures.temperature = {result, &result->temperature};
  if (result->transient)
    figures.time = result->time;
  figures.parts = partFigures(*result);
  figures.watches = readWatches(project, *result);
  figures.sources = result->sources;
  figures.boundaries = result->boundaries;
  figures.links = result->links;
  figures.contacts = contactFigures(*result);
  figures.nodes = result->nodes;
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
  for (const Watch& watch : project.watches)
    figures.watches.push_back(watchAt(project, *result, run, watch, *field, time));
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
