// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "run/RunRecorder.h"

#include "base/At.h"
#include "geometry/TouchingPairs.h"
#include "heat/boundaries/GapCrossing.h"
#include "heat/elements/RecoveredFlux.h"
#include "heat/elements/VolumeElement.h"
#include "heat/radiation/EnclosureExchange.h"
#include "model/Edit.h"
#include "results/HeatAccount.h"
#include "results/PerfectContacts.h"
#include "results/UnstoredParts.h"

#include <algorithm>
#include <cmath>
#include <limits>
#include <map>

namespace kiln
{
namespace
{

/// Is it something that cannot be known of steps at which it was not recorded?
bool heatOrPart(RunTrace::Kind kind)
{
  using enum RunTrace::Kind;
  return kind == Watch || kind == Contact || kind == Link || kind == Path || kind == Coldest || kind == Heating ||
         kind == Cooling;
}

/// Largest and smallest value among some unknowns.
struct Extremes {
  double high = -1e300, low = 1e300;
  UnknownId highAt, lowAt;
  void offer(double value, UnknownId unknown)
  {
    if (value > high)
      high = value, highAt = unknown;
    if (value < low)
      low = value, lowAt = unknown;
  }
};

/// Which ways heat can take into parts, whatever it carries now.
std::vector<HeatToPart> pathsOf(const TimedModel& model)
{
  constexpr double any = 293.15; // K
  const std::vector<double> even(at(model.conditions().unknowns.count), any);
  return accountHeat(model.now(), model.mesh(), model.conditions(), model.system(), even, {}).paths;
}

} // namespace

RunRecorder::RunRecorder(const TransientRun& run, const TimedModel& model)
    : run_(run), project_(model.base()), instants_(run, model.conditions().unknowns.node.size())
{
  const auto add = [&](RunTrace::Kind kind, const std::string& id = {}) { record.traces.push_back({kind, id, {}}); };
  for (const Watch& watch : project_.watches) {
    WatchReader reader(model.watchGround(), watch);
    if (!reader.readable())
      continue;
    add(RunTrace::Kind::Watch, watch.id);
    if (reader.ofTemperatures())
      add(RunTrace::Kind::WatchSlope, watch.id), add(RunTrace::Kind::WatchPlace, watch.id);
    readers_.emplace_back(watch.id, std::move(reader));
  }
  const FaceTable& geometry = model.mesh().geometry;
  for (const TouchingPair& pair : touchingPairs(geometry))
    add(RunTrace::Kind::Contact, pairId(geometry.parts[at(pair.partA)].id, geometry.parts[at(pair.partB)].id));
  for (const GapCrossing* gap : flowsOf<GapCrossing>(model.conditions().flows))
    add(RunTrace::Kind::Contact, pairId(geometry.parts[at(gap->partA())].id, geometry.parts[at(gap->partB())].id));
  for (const Link& link : project_.links)
    add(RunTrace::Kind::Link, link.id);
  for (const auto* exchange : flowsOf<EnclosureExchange>(model.conditions().flows)) // what moves within
    add(RunTrace::Kind::Link, project_.enclosures[at(exchange->owner().index)].id);
  for (const HeatToPart& path : pathsOf(model)) {
    add(RunTrace::Kind::Path, pairId(path.of, path.part));
    paths_.push_back(pairId(path.of, path.part));
  }
  for (const HeatSource& source : project_.sources)
    add(RunTrace::Kind::Source, source.id), add(RunTrace::Kind::SourceEnergy, source.id);
  for (const Boundary& boundary : project_.boundaries)
    add(RunTrace::Kind::Boundary, boundary.id), add(RunTrace::Kind::BoundaryEnergy, boundary.id);
  for (std::size_t n = 0; n < project_.nodes.size(); ++n)
    if (model.conditions().nodeUnknowns[n] >= 0)
      add(RunTrace::Kind::Node, project_.nodes[n].id), add(RunTrace::Kind::NodeState, project_.nodes[n].id);
  for (const GeometryPart& part : geometry.parts)
    for (const auto kind :
         {RunTrace::Kind::Hottest, RunTrace::Kind::Coldest, RunTrace::Kind::Mean, RunTrace::Kind::Stored,
          RunTrace::Kind::Heating, RunTrace::Kind::HeatingPlace, RunTrace::Kind::Cooling, RunTrace::Kind::CoolingPlace})
      add(kind, part.id);
  for (const auto kind : {RunTrace::Kind::In, RunTrace::Kind::Out, RunTrace::Kind::Storing, RunTrace::Kind::InEnergy,
                          RunTrace::Kind::OutEnergy, RunTrace::Kind::Fastest, RunTrace::Kind::FastestPlace})
    add(kind);
  add(RunTrace::Kind::StoredEnergy);
  for (const HeatSource& source : project_.sources)
    if (source.thermostat && !source.thermostat->graded)
      add(RunTrace::Kind::Switch, source.id);
  for (const RunRule& rule : run.rules)
    add(RunTrace::Kind::Fired, rule.id);
  weighParts(model);
  chooseStored(model);
}

std::vector<double> RunRecorder::meter(const TimedModel& model, std::span<const double> temperature,
                                       std::span<const double> storing)
{
  const HeatAccount account =
      accountBorders(model.now(), model.mesh(), model.conditions(), model.system(), temperature, storing);
  std::vector<double> flows = account.source;
  flows.insert(flows.end(), account.boundary.begin(), account.boundary.end());
  flows.insert(flows.end(), account.node.begin(), account.node.end());
  flows.push_back(account.in);
  flows.push_back(account.out);
  return flows;
}

Expected<void> RunRecorder::begin(const std::filesystem::path& file, const TimedModel& model, const PastRun* past)
{
  auto made = RunWriter::create(file, record, model.conditions().unknowns.node.size());
  if (!made)
    return tl::unexpected(made.error());
  writer_.emplace(std::move(*made));
  instants_.begin(*writer_, record.startTime);
  if (past != nullptr)
    if (auto copied = copyPast(*past, model); !copied)
      return copied;
  return writer_->takePlace(); // only now: an older run is not let go before this one holds all of it
}

/// The new file begins with what the old one held, up to the instant the run goes on from. A watch that was added since
/// is read from the stored instants, by lines between them.
Expected<void> RunRecorder::copyPast(const PastRun& past, const TimedModel& model)
{
  std::map<std::string, std::vector<double>> added; // by watch: its values at the stored instants
  for (const auto& [id, reader] : readers_)
    if (past.record.find(RunTrace::Kind::Watch, id) == nullptr && !reader.needsHeat() && !reader.needsFlux())
      added[id];
  for (std::size_t i = 0; i < past.record.instants.size(); ++i) {
    auto field = past.fields.field(i);
    if (!field)
      return tl::unexpected(field.error());
    if (auto written = writer_->appendInstant(past.record.instants[i], *field); !written)
      return written;
    fillUnstored(past.record, model.mesh(), model.conditions().unknowns, past.record.instants[i], *field);
    instants_.widenSpan(*field);
    const std::vector<double> whole = stateOf(past, *field, past.record.instants[i], model);
    if (i == 0)
      storedAtStart_ = model.store().storedByPart(whole);
    for (const auto& [id, reader] : readers_)
      if (const auto found = added.find(id); found != added.end())
        if (const auto reading = reader.read({whole}))
          found->second.push_back(reading->value);
  }
  if (auto written = copySteps(past.record, added); !written)
    return written;
  instants_.goOnFrom(past.time, past.mesh);
  recallEnergies(past.record);
  past_ = past.record;
  return {};
}

/// Temperatures of mesh and lumped nodes at a stored instant, by unknown, K.
std::vector<double> RunRecorder::stateOf(const PastRun& past, std::vector<double> field, double time,
                                         const TimedModel& model) const
{
  field.resize(at(model.conditions().unknowns.count), field.empty() ? 0 : field.front());
  for (std::size_t n = 0; n < project_.nodes.size(); ++n)
    if (const UnknownId u = model.conditions().nodeUnknowns[n]; u >= 0)
      field[at(u)] = past.record.at(RunTrace::Kind::NodeState, project_.nodes[n].id, time).value_or(field[at(u)]);
  return field;
}

Expected<void> RunRecorder::copySteps(const RunRecord& past, const std::map<std::string, std::vector<double>>& added)
{
  std::vector<const RunTrace*> own;
  for (const RunTrace& trace : record.traces)
    own.push_back(past.find(trace.kind, trace.id));
  std::vector<double> row(own.size());
  for (std::size_t step = 0; step < past.times.size(); ++step) {
    for (std::size_t i = 0; i < own.size(); ++i) {
      const RunTrace& trace = record.traces[i];
      const auto found = added.find(trace.id);
      if (own[i] != nullptr)
        row[i] = own[i]->values[step];
      else if (found == added.end()) // a source or rule that did nothing yet; heat that nobody watched is not known
        row[i] = heatOrPart(trace.kind) ? std::numeric_limits<double>::quiet_NaN() : 0;
      else
        row[i] = valueOfAdded(trace.kind, past.instants, found->second, past.times[step]);
    }
    if (auto written = writer_->appendStep(past.times[step], row); !written)
      return written;
  }
  return {};
}

/// Value or slope of a line through the stored instants; its place was not recorded.
double RunRecorder::valueOfAdded(RunTrace::Kind kind, const std::vector<double>& instants,
                                 const std::vector<double>& values, double time)
{
  if (kind == RunTrace::Kind::WatchPlace)
    return -1;
  if (instants.size() < 2)
    return kind == RunTrace::Kind::Watch ? values.front() : 0;
  const auto after = std::upper_bound(instants.begin() + 1, instants.end() - 1, time) - instants.begin();
  const auto i = static_cast<std::size_t>(after);
  const double slope = (values[i] - values[i - 1]) / (instants[i] - instants[i - 1]);
  return kind == RunTrace::Kind::Watch ? values[i - 1] + slope * (time - instants[i - 1]) : slope;
}

void RunRecorder::recallEnergies(const RunRecord& past)
{
  const auto latest = [&](RunTrace::Kind kind, const std::string& id = {}) {
    const RunTrace* trace = past.find(kind, id);
    return trace != nullptr && !trace->values.empty() ? trace->values.back() : 0;
  };
  for (const HeatSource& source : project_.sources)
    energy_.push_back(latest(RunTrace::Kind::SourceEnergy, source.id));
  for (const Boundary& boundary : project_.boundaries)
    energy_.push_back(latest(RunTrace::Kind::BoundaryEnergy, boundary.id));
  energy_.resize(energy_.size() + project_.nodes.size()); // theirs are not recorded
  inEnergy_ = latest(RunTrace::Kind::InEnergy);
  outEnergy_ = latest(RunTrace::Kind::OutEnergy);
  energy_.insert(energy_.end(), {inEnergy_, outEnergy_});
  stored_ = latest(RunTrace::Kind::StoredEnergy);
  for (const RunTrace::Kind kind : {RunTrace::Kind::In, RunTrace::Kind::Out, RunTrace::Kind::Storing})
    if (const RunTrace* trace = past.find(kind))
      for (const double watts : trace->values)
        largestFlow_ = std::max(largestFlow_, std::abs(watts));
  worstRate_ = past.worstImbalance * largestFlow_;
}

Expected<void> RunRecorder::take(const AcceptedStep& step)
{
  noteBalance(step);
  if (auto written = writer_->appendStep(step.time, rowOf(step)); !written)
    return written;
  return instants_.take(step);
}

Expected<void> RunRecorder::finish(const TransientSolution& solution, double seconds)
{
  if (auto written = instants_.finish(); !written)
    return written;
  record.reason = solution.reason;
  record.byCap = solution.byCap;
  record.remaining = solution.remaining;
  record.bounds = solution.bounds;
  record.steps = past_.steps + solution.steps;
  record.rejected = past_.rejected + solution.rejected;
  record.newtonSteps = past_.newtonSteps + solution.newtonSteps;
  record.seconds = past_.seconds + seconds;
  record.marks = past_.marks;
  const double moved = std::max(inEnergy_, outEnergy_);
  record.imbalance = moved > 0 ? std::abs(inEnergy_ - outEnergy_ - stored_) / moved : 0;
  record.worstImbalance = largestFlow_ > 0 ? worstRate_ / largestFlow_ : 0;
  for (const RunEvent& event : solution.events)
    record.marks.push_back({event.time, static_cast<RunMark::Kind>(event.kind), event.objectId, event.text});
  return writer_->finish(record);
}

void RunRecorder::weighParts(const TimedModel& model)
{
  const Mesh& mesh = model.mesh();
  parts_.resize(mesh.geometry.parts.size());
  std::vector<std::map<UnknownId, double>> weights(parts_.size());
  for (std::size_t e = 0; e < tetElements(mesh); ++e) {
    const VolumeNodes nodes = volumeNodes(mesh, model.conditions().unknowns, e);
    const VolumeVector load = volumeLoad(mesh, e);
    for (std::size_t i = 0; i < nodes.count; ++i)
      weights[at(elementPart(mesh, e))][nodes.own[i]] += load[static_cast<Eigen::Index>(i)];
  }
  for (std::size_t p = 0; p < parts_.size(); ++p)
    parts_[p].assign(weights[p].begin(), weights[p].end());
}

void RunRecorder::noteBalance(const AcceptedStep& step)
{
  if (step.time <= step.from || step.energies.size() < 2)
    return;
  double in = step.energies[step.energies.size() - 2];
  double out = step.energies.back();
  for (const AcceptedStep::Jump& jump : step.jumps)
    (jump.joules > 0 ? in : out) += std::abs(jump.joules);
  inEnergy_ += in;
  outEnergy_ += out;
  stored_ += step.stored;
  const double length = step.time - step.from;
  worstRate_ = std::max(worstRate_, std::abs(in - out - step.stored) / length);
  largestFlow_ = std::max({largestFlow_, in / length, out / length, std::abs(step.stored) / length});
}

std::vector<double> RunRecorder::rowOf(const AcceptedStep& step)
{
  std::vector<double> row;
  const Unknowns& unknowns = step.model->conditions().unknowns;
  const auto nodeOf = [&](UnknownId u) {
    return u >= 0 && at(u) < unknowns.node.size() ? static_cast<double>(unknowns.node[at(u)]) : -1.0;
  };
  addWatchesAndHeat(step, row);
  const std::size_t sources = project_.sources.size();
  const std::size_t boundaries = project_.boundaries.size();
  energy_.resize(step.flows.size(), 0.0);
  for (std::size_t i = 0; i < step.energies.size(); ++i)
    energy_[i] += step.energies[i];
  for (const AcceptedStep::Jump& jump : step.jumps) {
    const bool node = jump.owner.kind == FlowOwner::Kind::Node;
    energy_[sources + (node ? boundaries : 0) + at(jump.owner.index)] += jump.joules;
    energy_[energy_.size() - (jump.joules > 0 ? 2 : 1)] += std::abs(jump.joules);
  }
  for (std::size_t i = 0; i < sources + boundaries; ++i) {
    row.push_back(step.flows[i]);
    row.push_back(energy_[i]);
  }
  for (std::size_t n = 0; n < project_.nodes.size(); ++n)
    if (const UnknownId u = step.model->conditions().nodeUnknowns[n]; u >= 0) {
      row.push_back(step.flows[sources + boundaries + n]);
      row.push_back(step.temperature[at(u)]);
    }
  addParts(step, row);
  const double in = step.flows[step.flows.size() - 2];
  const double out = step.flows.back();
  double rate = 0;
  for (const double watts : step.storing)
    rate += watts;
  storing.assign(step.storing.begin(), step.storing.end());
  row.insert(row.end(), {in, out, rate, energy_[energy_.size() - 2], energy_.back(), step.fastest,
                         nodeOf(step.fastestAt), stored_});
  for (const HeatSource& source : project_.sources)
    if (source.thermostat && !source.thermostat->graded)
      row.push_back(step.model->isOn(source.id) ? 1 : 0);
  for (const RunRule& rule : run_.rules) {
    const auto fired = std::find(step.fired.begin(), step.fired.end(), rule.id);
    row.push_back(fired == step.fired.end() ? 0 : static_cast<double>(fired - step.fired.begin() + 1));
  }
  return row;
}

/// Of every part: its extremes, its mean, what it stored, and where it changes fastest.
void RunRecorder::addParts(const AcceptedStep& step, std::vector<double>& row)
{
  const Unknowns& unknowns = step.model->conditions().unknowns;
  const auto nodeOf = [&](UnknownId u) { return u >= 0 ? static_cast<double>(unknowns.node[at(u)]) : -1.0; };
  const std::vector<double> stored = step.model->store().storedByPart(step.temperature);
  if (storedAtStart_.empty())
    storedAtStart_ = stored;
  for (std::size_t p = 0; p < parts_.size(); ++p) {
    Extremes kelvin;
    Extremes rate;
    double sum = 0;
    double volume = 0;
    for (const auto& [u, weight] : parts_[p]) {
      kelvin.offer(step.temperature[at(u)], u);
      rate.offer(step.rate[at(u)], u);
      sum += weight * step.temperature[at(u)];
      volume += weight;
    }
    row.insert(row.end(), {kelvin.high, kelvin.low, sum / volume, stored[p] - storedAtStart_[p], rate.high,
                           nodeOf(rate.highAt), rate.low, nodeOf(rate.lowAt)});
  }
}

/// Watches (not a number where there is none now), then what crosses contacts and links, in the order of their traces.
void RunRecorder::addWatchesAndHeat(const AcceptedStep& step, std::vector<double>& row) const
{
  const Project& now = step.model->now();
  const Mesh& mesh = step.model->mesh();
  const Conditions& conditions = step.model->conditions();
  const HeatAccount account = accountHeat(now, mesh, conditions, step.model->system(), step.temperature, step.storing);
  std::vector<LedgerFlow> links;
  for (std::size_t i = 0; i < now.links.size(); ++i)
    links.push_back({now.links[i].id, account.link[i]});
  const HeatState heat{mesh.geometry, account.faceHeat, account.contactHeat, account.gaps, links};
  RecoveredFlux flux;
  if (std::any_of(readers_.begin(), readers_.end(), [](const auto& own) { return own.second.needsFlux(); }))
    flux = recoverFlux(mesh, conditions.unknowns, heatFlux(mesh, conditions, step.temperature));
  const WatchMoment moment{step.temperature, step.rate, &heat, &flux};
  const auto& nodes = conditions.unknowns.node;
  for (const auto& [id, reader] : readers_) {
    const auto reading = reader.read(moment);
    row.push_back(reading ? reading->value : std::numeric_limits<double>::quiet_NaN());
    if (!reader.ofTemperatures())
      continue;
    const UnknownId u = reading && reading->at ? *reading->at : noUnknown;
    row.push_back(reading ? reading->rate.value_or(0) : 0);
    row.push_back(u >= 0 && at(u) < nodes.size() ? static_cast<double>(nodes[at(u)]) : -1.0);
  }
  for (const ContactFigure& contact : contactFigures(heat))
    row.push_back(contact.watts);
  for (const LedgerFlow& link : links)
    row.push_back(link.watts);
  for (const EnclosureFigure& enclosure : account.enclosures)
    row.push_back(enclosure.moved);
  std::map<std::string, double> paths;
  for (const HeatToPart& path : account.paths)
    paths[pairId(path.of, path.part)] = path.watts;
  for (const std::string& path : paths_) {
    const auto found = paths.find(path);
    row.push_back(found != paths.end() ? found->second : 0);
  }
}

/// Which unknowns are stored, where only some parts are asked for.
void RunRecorder::chooseStored(const TimedModel& model)
{
  if (run_.storeParts.empty())
    return;
  std::vector<char> chosen(model.conditions().unknowns.node.size(), 0);
  for (const std::string& id : expandGroups(project_, run_.storeParts))
    if (const PartId part = model.mesh().geometry.partIndex(id); part != noPart)
      for (const auto& [u, weight] : parts_[at(part)])
        chosen[at(u)] = 1;
  std::vector<UnknownId> kept;
  for (std::size_t u = 0; u < chosen.size(); ++u)
    if (chosen[u] != 0)
      kept.emplace_back(u);
  instants_.storeOnly(std::move(kept));
}

} // namespace kiln
