// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "io/TransientCase.h"

#include "io/InputHash.h"
#include "io/RunFile.h"
#include "io/ViewFactorStore.h"
#include "model/Fields.h"
#include "model/PointCloud.h"
#include "results/HeatAccount.h"
#include "results/InstantFilter.h"
#include "solve/SteadySolver.h"

#include <algorithm>
#include <chrono>
#include <cmath>
#include <map>
#include <thread>

namespace kiln
{
namespace
{

std::size_t at(std::int64_t i) { return static_cast<std::size_t>(i); }

using Start = tl::expected<std::vector<double>, Failure>;

/// Finds the temperatures a run starts from.
class StartFinder
{
public:
  StartFinder(const Project& base, TimedModel& model, const std::filesystem::path& folder, const Progress& progress)
      : base_(base), model_(model), folder_(folder), progress_(progress)
  {
  }
  std::string note;

  Start operator()(const StartSteady&)
  {
    progress_("solve", 0.5, "steady start");
    auto steady = solveSteady(model_.mesh(), model_.conditions(), {}, progress_);
    if (!steady)
      return tl::unexpected(steady.error());
    return std::move(steady->temperature);
  }
  Start operator()(const StartUniform& start)
  {
    const Unknowns& unknowns = model_.conditions().unknowns;
    std::vector<double> temperature(at(unknowns.count), start.temperature.si);
    for (const PartStart& own : start.parts) {
      const int part = model_.mesh().geometry.partIndex(own.id);
      for (std::size_t t = 0; part != noPart && t < model_.mesh().tets.size(); ++t)
        if (model_.mesh().tetPart[t] == part)
          for (const Index u : unknowns.ofTet[t])
            temperature[at(u)] = own.temperature.si;
    }
    return temperature;
  }
  Start operator()(const StartFromCase& start)
  {
    const Case* other = findById(base_.cases, start.of);
    if (other == nullptr)
      return failure(Failure::Kind::NotReady, "start state", "It starts from a case that does not exist.",
                     "Choose another case, or a start temperature.");
    const Expected<CaseResult> result = loadResult(resultFile(folder_, other->name));
    if (!result)
      return failure(Failure::Kind::NotReady, "start state",
                     "Case " + other->name + ", which it starts from, has no result.", "Solve that case first.");
    std::vector<double> field = result->temperature;
    std::map<std::string, double> nodes;
    for (const NodeState& node : result->nodes)
      nodes[node.id] = node.temperature;
    if (start.instant) {
      const auto record = loadRun(runFile(folder_, other->name));
      const auto reader = InstantReader::open(runFile(folder_, other->name));
      if (!record || !reader)
        return failure(Failure::Kind::NotReady, "start state",
                       "Case " + other->name + " has no instants to start from.",
                       "Start from its end, or make it transient.");
      auto found = reader->fieldAt(record->instants, start.instant->si);
      if (!found)
        return tl::unexpected(found.error());
      field = std::move(*found);
      for (auto& [id, kelvin] : nodes)
        kelvin = record->at(RunTrace::Kind::NodeState, id, start.instant->si).value_or(kelvin);
    }
    return fitted(*result, field, nodes);
  }

private:
  Start fitted(const CaseResult& from, const std::vector<double>& field, const std::map<std::string, double>& nodes)
  {
    const Mesh& mesh = model_.mesh();
    const Unknowns& unknowns = model_.conditions().unknowns;
    double mean = 0;
    for (const double kelvin : field)
      mean += kelvin / static_cast<double>(field.size());
    std::vector<double> temperature(at(unknowns.count), mean);
    const bool same =
        from.mesh.nodes == mesh.nodes && from.mesh.tets == mesh.tets && from.unknowns.ofTet == unknowns.ofTet;
    if (same)
      std::copy_n(field.begin(), std::min(field.size(), unknowns.node.size()), temperature.begin());
    else
      interpolate(from, field, temperature);
    for (std::size_t n = 0; n < model_.base().nodes.size(); ++n)
      if (const auto found = nodes.find(model_.base().nodes[n].id); found != nodes.end())
        if (const Index u = model_.conditions().nodeUnknowns[n]; u >= 0)
          temperature[at(u)] = found->second;
    return temperature;
  }

  /// Part by part from the nodes of the other mesh; a part that is not there gets the mean.
  void interpolate(const CaseResult& from, const std::vector<double>& field, std::vector<double>& temperature)
  {
    const Mesh& mesh = model_.mesh();
    const Unknowns& unknowns = model_.conditions().unknowns;
    double worst = 0;
    std::string missing;
    for (std::size_t p = 0; p < mesh.geometry.parts.size(); ++p) {
      const int other = from.mesh.geometry.partIndex(mesh.geometry.parts[p].id);
      if (other == noPart) {
        missing += (missing.empty() ? "" : ", ") + mesh.geometry.parts[p].name;
        continue;
      }
      std::map<Index, PlacedPoint> points;
      double sumBefore = 0;
      double volumeBefore = 0;
      for (std::size_t t = 0; t < from.mesh.tets.size(); ++t)
        if (from.mesh.tetPart[t] == other)
          for (std::size_t i = 0; i < 4; ++i) {
            const Index u = from.unknowns.ofTet[t][i];
            const Vec3& place = from.mesh.nodes[at(from.mesh.tets[t][i])];
            points[u] = {{place.x(), place.y(), place.z()}, field[at(u)]};
            sumBefore += field[at(u)] * tetVolume(from.mesh, t);
            volumeBefore += tetVolume(from.mesh, t);
          }
      std::vector<PlacedPoint> list;
      for (const auto& [u, point] : points)
        list.push_back(point);
      const PointCloud cloud(list);
      std::map<Index, double> values;
      double sumAfter = 0;
      double volumeAfter = 0;
      for (std::size_t t = 0; t < mesh.tets.size(); ++t)
        if (mesh.tetPart[t] == static_cast<int>(p))
          for (std::size_t i = 0; i < 4; ++i) {
            const Index u = unknowns.ofTet[t][i];
            if (!values.contains(u))
              values[u] = cloud.at(mesh.nodes[at(mesh.tets[t][i])]);
            sumAfter += values[u] * tetVolume(mesh, t);
            volumeAfter += tetVolume(mesh, t);
          }
      for (const auto& [u, kelvin] : values)
        temperature[at(u)] = kelvin;
      worst = std::max(worst, std::abs(sumAfter / volumeAfter - sumBefore / volumeBefore));
    }
    note = "The start was carried over to another mesh; no part's mean temperature changed by more than " +
           formatQuantity(worst, Quantity::TemperatureStep, {}, 2) + ".";
    if (!missing.empty())
      note += " New there, and started at the mean of the rest: " + missing + ".";
  }

  const Project& base_;
  TimedModel& model_;
  const std::filesystem::path& folder_;
  const Progress& progress_;
};

/// Writes what a run reports.
class Recorder
{
public:
  Recorder(const TransientRun& run, const TimedModel& model) : run_(run), project_(model.base())
  {
    const auto add = [&](RunTrace::Kind kind, const std::string& id = {}) { record.traces.push_back({kind, id, {}}); };
    for (const Watch& watch : project_.watches)
      if (auto probe = model.probe(watch.id)) {
        probes_.emplace_back(watch.id, *probe);
        add(RunTrace::Kind::Watch, watch.id);
        add(RunTrace::Kind::WatchSlope, watch.id);
        add(RunTrace::Kind::WatchPlace, watch.id);
      }
    for (const HeatSource& source : project_.sources)
      add(RunTrace::Kind::Source, source.id), add(RunTrace::Kind::SourceEnergy, source.id);
    for (const Boundary& boundary : project_.boundaries)
      add(RunTrace::Kind::Boundary, boundary.id), add(RunTrace::Kind::BoundaryEnergy, boundary.id);
    for (std::size_t n = 0; n < project_.nodes.size(); ++n)
      if (model.conditions().nodeUnknowns[n] >= 0)
        add(RunTrace::Kind::Node, project_.nodes[n].id), add(RunTrace::Kind::NodeState, project_.nodes[n].id);
    for (const GeometryPart& part : model.mesh().geometry.parts)
      add(RunTrace::Kind::Hottest, part.id), add(RunTrace::Kind::Mean, part.id), add(RunTrace::Kind::Stored, part.id);
    for (const auto kind : {RunTrace::Kind::In, RunTrace::Kind::Out, RunTrace::Kind::Storing, RunTrace::Kind::InEnergy,
                            RunTrace::Kind::OutEnergy, RunTrace::Kind::Fastest, RunTrace::Kind::FastestPlace})
      add(kind);
    weighParts(model);
  }

  RunRecord record;

  /// Sources, boundaries, nodes, then all that enters and all that leaves.
  static std::vector<double> meter(const TimedModel& model, std::span<const double> temperature,
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

  Expected<void> begin(const std::filesystem::path& file, std::size_t unknowns)
  {
    auto made = RunWriter::create(file, record, unknowns);
    if (!made)
      return tl::unexpected(made.error());
    writer_.emplace(std::move(*made));
    unknowns_ = unknowns;
    return {};
  }

  Expected<void> take(const AcceptedStep& step)
  {
    noteBalance(step);
    if (auto written = writer_->appendStep(step.time, rowOf(step)); !written)
      return written;
    const bool again = step.time <= last_.time && !last_.values.empty(); // the same instant under new conditions
    return again ? Expected<void>{} : store(step);
  }

  Expected<void> finish(const TransientSolution& solution, double seconds)
  {
    if (last_.time > storedAt_)
      if (auto written = writer_->appendInstant(last_.time, last_.values); !written)
        return written;
    record.reason = solution.reason;
    record.byCap = solution.byCap;
    record.remaining = solution.remaining;
    record.undershoot = solution.undershoot;
    record.steps = solution.steps;
    record.rejected = solution.rejected;
    record.newtonSteps = solution.newtonSteps;
    record.seconds = seconds;
    const double moved = std::max(inEnergy_, outEnergy_);
    record.imbalance = moved > 0 ? std::abs(inEnergy_ - outEnergy_ - stored_) / moved : 0;
    record.worstImbalance = largestFlow_ > 0 ? worstRate_ / largestFlow_ : 0;
    for (const RunEvent& event : solution.events)
      record.marks.push_back({event.time, static_cast<RunMark::Kind>(event.kind), event.objectId, event.text});
    return writer_->finish(record);
  }

  std::vector<double> storing; ///< of the last step

private:
  void weighParts(const TimedModel& model)
  {
    const Mesh& mesh = model.mesh();
    parts_.resize(mesh.geometry.parts.size());
    std::vector<std::map<Index, double>> weights(parts_.size());
    for (std::size_t t = 0; t < mesh.tets.size(); ++t)
      for (const Index u : model.conditions().unknowns.ofTet[t])
        weights[at(mesh.tetPart[t])][u] += tetVolume(mesh, t);
    for (std::size_t p = 0; p < parts_.size(); ++p)
      parts_[p].assign(weights[p].begin(), weights[p].end());
  }

  void noteBalance(const AcceptedStep& step)
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

  std::vector<double> rowOf(const AcceptedStep& step)
  {
    std::vector<double> row;
    const Unknowns& unknowns = step.model->conditions().unknowns;
    const auto nodeOf = [&](Index u) {
      return u >= 0 && at(u) < unknowns.node.size() ? static_cast<double>(unknowns.node[at(u)]) : -1.0;
    };
    for (const auto& [id, probe] : probes_) {
      row.push_back(probe.value(step.temperature));
      row.push_back(probe.change(step.temperature, step.rate));
      row.push_back(nodeOf(probe.where(step.temperature)));
    }
    const std::size_t sources = project_.sources.size();
    const std::size_t boundaries = project_.boundaries.size();
    energy_.resize(step.flows.size(), 0.0);
    for (std::size_t i = 0; i < step.energies.size(); ++i)
      energy_[i] += step.energies[i];
    for (const AcceptedStep::Jump& jump : step.jumps) {
      energy_[jump.boundary >= 0 ? sources + at(jump.boundary) : sources + boundaries + at(jump.node)] += jump.joules;
      energy_[energy_.size() - (jump.joules > 0 ? 2 : 1)] += std::abs(jump.joules);
    }
    for (std::size_t i = 0; i < sources + boundaries; ++i) {
      row.push_back(step.flows[i]);
      row.push_back(energy_[i]);
    }
    for (std::size_t n = 0; n < project_.nodes.size(); ++n)
      if (const Index u = step.model->conditions().nodeUnknowns[n]; u >= 0) {
        row.push_back(step.flows[sources + boundaries + n]);
        row.push_back(step.temperature[at(u)]);
      }
    const std::vector<double> stored = step.model->store().storedByPart(step.temperature);
    if (storedAtStart_.empty())
      storedAtStart_ = stored;
    for (std::size_t p = 0; p < parts_.size(); ++p) {
      double hottest = 0;
      double sum = 0;
      double volume = 0;
      for (const auto& [u, weight] : parts_[p]) {
        hottest = std::max(hottest, step.temperature[at(u)]);
        sum += weight * step.temperature[at(u)];
        volume += weight;
      }
      row.insert(row.end(), {hottest, sum / volume, stored[p] - storedAtStart_[p]});
    }
    const double in = step.flows[step.flows.size() - 2];
    const double out = step.flows.back();
    double rate = 0;
    for (const double watts : step.storing)
      rate += watts;
    storing.assign(step.storing.begin(), step.storing.end());
    row.insert(row.end(),
               {in, out, rate, energy_[energy_.size() - 2], energy_.back(), step.fastest, nodeOf(step.fastestAt)});
    return row;
  }

  Expected<void> store(const AcceptedStep& step)
  {
    const std::span<const double> field = step.temperature.subspan(0, unknowns_);
    for (const double kelvin : field) {
      low_ = std::min(low_, kelvin);
      high_ = std::max(high_, kelvin);
    }
    last_ = {step.time, {field.begin(), field.end()}};
    std::optional<InstantFilter::Kept> kept;
    if (run_.storeEvery) {
      if (storedAt_ < 0 || step.time >= storedAt_ + run_.storeEvery->si * (1 - 1e-9))
        kept = last_;
    } else {
      constexpr double share = 1e-3; // of the span
      constexpr double least = 0.02; // K
      const double within = run_.storeWithin ? run_.storeWithin->si : std::max(least, share * (high_ - low_));
      kept = filter_.offer(step.time, field, within);
    }
    if (!kept)
      return {};
    storedAt_ = kept->time;
    return writer_->appendInstant(kept->time, kept->values);
  }

  const TransientRun& run_;
  const Project project_;
  std::vector<std::pair<std::string, WatchProbe>> probes_;
  std::vector<std::vector<std::pair<Index, double>>> parts_;
  std::optional<RunWriter> writer_;
  InstantFilter filter_;
  InstantFilter::Kept last_;
  std::size_t unknowns_ = 0;
  double storedAt_ = -1e300;
  double low_ = 1e300, high_ = -1e300;
  std::vector<double> energy_, storedAtStart_;
  double inEnergy_ = 0, outEnergy_ = 0, stored_ = 0, worstRate_ = 0, largestFlow_ = 0;
};

TransientOptions optionsOf(const TransientRun& run)
{
  const auto value = [](const std::optional<Number>& number) { return number ? number->si : 0.0; };
  return {value(run.startTime), value(run.tolerance), value(run.largestStep), value(run.longest),
          LinearBackend::Automatic};
}

} // namespace

tl::expected<TransientEnd, RunFailure> runTransient(const Project& base, const Project& project, const Case& oneCase,
                                                    const PreparedMesh& prepared, const std::filesystem::path& folder,
                                                    const Progress& progress)
{
  const auto began = std::chrono::steady_clock::now();
  const auto failed = [](const Failure& failure) { return tl::unexpected(RunFailure{{}, failure}); };
  const TransientRun run = oneCase.run.value_or(TransientRun{});
  const TransientOptions options = optionsOf(run);
  auto model =
      TimedModel::make(project, prepared.mesh, storedViewFactors(folder, std::thread::hardware_concurrency(), progress),
                       options.startTime);
  if (!model)
    return failed(model.error());
  StartFinder starts(base, **model, folder, progress);
  auto start = std::visit(starts, run.start);
  if (!start)
    return failed(start.error());
  Recorder recorder(run, **model);
  recorder.record.caseId = oneCase.id;
  recorder.record.solutionHash = solutionHash(project, oneCase);
  recorder.record.startTime = options.startTime;
  recorder.record.startNote = starts.note;
  const std::size_t meshed = (*model)->conditions().unknowns.node.size();
  if (auto begun = recorder.begin(runFile(folder, oneCase.name), meshed); !begun)
    return failed(begun.error());
  const StepObserver observer = [&](const AcceptedStep& step) -> Expected<bool> {
    if (auto taken = recorder.take(step); !taken)
      return tl::unexpected(taken.error());
    return true;
  };
  auto solution =
      solveTransient(**model, run, std::move(*start), options, FlowMeter(Recorder::meter), observer, progress);
  if (!solution)
    return failed(solution.error());
  const double seconds = std::chrono::duration<double>(std::chrono::steady_clock::now() - began).count();
  if (auto finished = recorder.finish(*solution, seconds); !finished)
    return failed(finished.error());
  return TransientEnd{(*model)->now(), (*model)->conditions(), std::move(*solution), std::move(recorder.storing)};
}

} // namespace kiln
