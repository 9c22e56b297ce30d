// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "run/TransientCase.h"

#include "base/At.h"
#include "io/AtomicFile.h"
#include "io/ProjectFile.h"
#include "io/ViewFactorStore.h"
#include "results/BoundsWords.h"
#include "run/InputHash.h"
#include "run/ResultIdentity.h"
#include "run/RunRecorder.h"
#include "run/StartState.h"
#include "solve/SteadySolver.h"

#include <algorithm>
#include <chrono>
#include <cmath>
#include <map>
#include <set>
#include <thread>

namespace kiln
{
namespace
{

/// What is left of a run in a file up to its last stored instant.
Expected<PastRun> pastRunIn(const std::filesystem::path& file, const std::string& caseName, const std::string& course)
{
  const auto refused = [&](const std::string& problem) {
    return failure(Failure::Kind::NotReady, "case " + caseName, problem, "Solve it from its start.");
  };
  auto record = loadRun(file);
  auto fields = InstantReader::open(file);
  if (!record || !fields || record->instants.empty())
    return refused("There is no run to go on with.");
  if (record->courseHash != course)
    return refused("Something that decides its course was changed since it ran: it cannot go on from there.");
  auto mesh = fields->field(record->instants.size() - 1);
  const auto usable = [&](double instant) { // the end of a step, with the temperatures of all parts
    return mesh && std::binary_search(record->times.begin(), record->times.end(), instant) &&
           std::none_of(mesh->begin(), mesh->end(), [](double kelvin) { return std::isnan(kelvin); });
  };
  while (record->instants.size() > 1 && !usable(record->instants.back())) {
    record->instants.pop_back();
    mesh = fields->field(record->instants.size() - 1);
  }
  if (!mesh)
    return tl::unexpected(mesh.error());
  const double time = record->instants.back();
  const auto keep = static_cast<std::size_t>(std::upper_bound(record->times.begin(), record->times.end(), time) -
                                             record->times.begin());
  record->times.resize(keep);
  for (RunTrace& trace : record->traces)
    trace.values.resize(keep);
  std::erase_if(record->marks, [](const RunMark& mark) { return mark.kind == RunMark::Kind::Ended; });
  return PastRun{std::move(*record), std::move(*fields), time, std::move(*mesh)};
}

/// The run that was interrupted, or the one that ended, whichever of the same course reaches farther.
Expected<PastRun> pastRun(const std::filesystem::path& folder, const Case& oneCase, const std::string& course)
{
  auto interrupted = pastRunIn(growingRunFile(folder, oneCase.id), oneCase.name, course);
  const auto stored = storedCase(folder, oneCase.id);
  if (!stored || !*stored || (*stored)->run.empty())
    return interrupted;
  auto ended = pastRunIn((*stored)->run, oneCase.name, course);
  return interrupted && (!ended || interrupted->time > ended->time) ? std::move(interrupted) : std::move(ended);
}

/// Did a recorded watch pass a value since the start?
bool everPassed(const RunRecord& record, const std::string& watch, double value, bool falling)
{
  const RunTrace* trace = record.find(RunTrace::Kind::Watch, watch);
  for (std::size_t i = 1; trace != nullptr && i < trace->values.size(); ++i)
    if (hasPassed(trace->values[i - 1], trace->values[i], record.times[i] - record.times[i - 1], value, falling))
      return true;
  return false;
}

/// Rules of end and course whose value had been passed.
std::set<std::string> passedBy(const RunRecord& record, const TransientRun& run)
{
  std::set<std::string> passed;
  for (const EndRule& rule : run.ends)
    if (const auto* value = std::get_if<EndAtValue>(&rule.when);
        value != nullptr && everPassed(record, value->watch, value->value.si, value->falling))
      passed.insert(rule.id);
  for (const RunRule& rule : run.rules)
    if (everPassed(record, rule.watch, rule.value.si, rule.falling))
      passed.insert(rule.id);
  return passed;
}

/// Temperatures at the start of a run, by unknown, K; empty where they were not all stored.
std::vector<double> startedFrom(const PastRun& past, const TimedModel& model)
{
  auto field = past.fields.field(0);
  if (!field || std::any_of(field->begin(), field->end(), [](double kelvin) { return std::isnan(kelvin); }))
    return {};
  field->resize(at(model.conditions().unknowns.count), field->empty() ? 0 : field->front());
  const Project& project = model.base();
  for (std::size_t n = 0; n < project.nodes.size(); ++n)
    if (const UnknownId u = model.conditions().nodeUnknowns[n]; u >= 0)
      if (const RunTrace* trace = past.record.find(RunTrace::Kind::NodeState, project.nodes[n].id);
          trace != nullptr && !trace->values.empty())
        (*field)[at(u)] = trace->values.front();
  return std::move(*field);
}

/// Temperatures, switches and rules as they were where a run stopped.
std::vector<double> resume(const PastRun& past, const TimedModel& model, const TransientRun& run,
                           TransientOptions& options)
{
  const auto latest = [&](RunTrace::Kind kind, const std::string& id) {
    const RunTrace* trace = past.record.find(kind, id);
    return trace != nullptr && !trace->values.empty() ? std::optional(trace->values.back()) : std::nullopt;
  };
  std::vector<double> temperature = past.mesh;
  temperature.resize(at(model.conditions().unknowns.count));
  const Project& project = model.base();
  for (std::size_t n = 0; n < project.nodes.size(); ++n)
    if (const UnknownId u = model.conditions().nodeUnknowns[n]; u >= 0)
      temperature[at(u)] = latest(RunTrace::Kind::NodeState, project.nodes[n].id).value_or(temperature[at(u)]);
  for (const Conditions::Outlet& outlet : model.conditions().outlets) // streams store nothing and follow at once
    temperature[at(outlet.unknown)] = past.mesh.front();
  RunPast& then = options.past.emplace();
  then.beganAt = past.record.startTime;
  if (past.record.finished)
    then.bounds = past.record.bounds;
  for (const HeatSource& source : project.sources)
    if (latest(RunTrace::Kind::Switch, source.id) == 0.0)
      then.off.insert(source.id);
  std::map<double, std::string> fired;
  for (const RunTrace& trace : past.record.traces)
    if (trace.kind == RunTrace::Kind::Fired && !trace.values.empty() && trace.values.back() > 0)
      fired.emplace(trace.values.back(), trace.id);
  for (const auto& [order, rule] : fired)
    then.fired.push_back(rule);
  then.passed = passedBy(past.record, run);
  then.startedFrom = startedFrom(past, model);
  options.startTime = past.time;
  return temperature;
}

/// Looks at every step whether the run shall end, or go by other limits.
class RunControl
{
public:
  RunControl(const std::filesystem::path& folder, const Case& oneCase, TransientRun& run)
      : files_(controlFiles(folder, oneCase.id)), caseId_(oneCase.id), run_(run)
  {
    std::error_code ignored;
    std::filesystem::remove(files_.stop, ignored);
    std::filesystem::remove(files_.limits, ignored);
  }
  ~RunControl() { clear(); }
  RunControl(const RunControl&) = delete;
  RunControl& operator=(const RunControl&) = delete;

  [[nodiscard]] StepAnswer answer()
  {
    StepAnswer answer;
    std::error_code ignored;
    if (std::filesystem::exists(files_.limits, ignored)) {
      const Expected<Project> given = loadProject(files_.limits);
      std::filesystem::remove(files_.limits, ignored);
      const Case* own = given ? findById(given->cases, caseId_) : nullptr;
      if (own != nullptr && own->run) {
        const std::vector<RunRule> rules = std::move(run_.rules); // these decide the course
        run_ = *own->run;
        run_.rules = rules;
        answer.limits = limitsOf(run_);
      }
    }
    answer.goesOn = !std::filesystem::exists(files_.stop, ignored);
    return answer;
  }

private:
  void clear() const
  {
    std::error_code ignored;
    std::filesystem::remove(files_.stop, ignored);
    std::filesystem::remove(files_.limits, ignored);
  }

  ControlFiles files_;
  std::string caseId_;
  TransientRun& run_;
};

/// The watches of the steady state that the conditions at the end would lead to.
void noteSteady(const TimedModel& model, const Progress& progress, RunRecord& record)
{
  const auto steady = solveSteady(model.mesh(), model.conditions(), {}, progress);
  if (!steady)
    return;
  for (const Watch& watch : model.base().watches)
    if (const auto reading = WatchReader(model.watchGround(), watch).read({steady->temperature}))
      record.steadyAfter.emplace_back(watch.id, reading->value);
}

} // namespace

ControlFiles controlFiles(const std::filesystem::path& folder, const std::string& caseId)
{
  const std::string base = "." + safeFileName(caseId);
  return {folder / (base + ".stop"), folder / (base + ".limits.kiln")};
}

tl::expected<TransientEnd, RunFailure> runTransient(const Project& base, const Project& project, const Case& oneCase,
                                                    const PreparedMesh& prepared, const std::filesystem::path& folder,
                                                    bool goesOn, const Progress& progress)
{
  const auto began = std::chrono::steady_clock::now();
  const auto failed = [](const Failure& failure) { return tl::unexpected(RunFailure{{}, failure}); };
  TransientRun run = oneCase.run.value_or(TransientRun{});
  TransientOptions options;
  options.limits = limitsOf(run);
  options.startTime = run.startTime ? run.startTime->si : 0;
  const std::string course = courseHash(project, oneCase);
  std::optional<PastRun> past;
  if (goesOn) {
    auto found = pastRun(folder, oneCase, course);
    if (!found)
      return failed(found.error());
    past.emplace(std::move(*found));
  }
  auto model =
      TimedModel::make(project, prepared.mesh, storedViewFactors(folder, std::thread::hardware_concurrency(), progress),
                       past ? past->time : options.startTime);
  if (!model)
    return failed(model.error());
  RunRecorder recorder(run, **model);
  recorder.record.caseId = oneCase.id;
  recorder.record.solutionHash = solutionHash(project, oneCase);
  recorder.record.courseHash = course;
  std::vector<double> start;
  if (past) {
    start = resume(*past, **model, run, options);
    recorder.record.startTime = past->record.startTime;
    recorder.record.startNote = past->record.startNote;
    recorder.record.startIdentity = past->record.startIdentity;
  } else {
    auto found = startState(run, base, **model, folder, progress);
    if (!found)
      return failed(found.error());
    start = std::move(found->temperature);
    recorder.record.startTime = options.startTime;
    recorder.record.startNote = found->note;
    recorder.record.startIdentity = found->identity;
  }
  if (auto begun = recorder.begin(growingRunFile(folder, oneCase.id), **model, past ? &*past : nullptr); !begun)
    return failed(begun.error());
  RunControl control(folder, oneCase, run);
  const StepObserver observer = [&](const AcceptedStep& step) -> Expected<StepAnswer> {
    if (auto taken = recorder.take(step); !taken)
      return tl::unexpected(taken.error());
    return control.answer();
  };
  auto solution =
      solveTransient(**model, run, std::move(start), options, FlowMeter(RunRecorder::meter), observer, progress);
  if (!solution)
    return failed(solution.error());
  if (run.thenSteady)
    noteSteady(**model, progress, recorder.record);
  const double seconds = std::chrono::duration<double>(std::chrono::steady_clock::now() - began).count();
  if (auto finished = recorder.finish(*solution, seconds); !finished)
    return failed(finished.error());
  std::vector<std::string> notes;
  if (const auto current = currentStartIdentity(base, oneCase, folder);
      current && *current != recorder.record.startIdentity)
    notes.push_back("It starts from a result as it is stored, which is out of date.");
  if (const std::string words = boundsWords(solution->bounds, prepared.mesh.geometry); !words.empty())
    notes.push_back(words);
  return TransientEnd{std::move(*model), std::move(*solution), std::move(recorder.storing),
                      recorder.record.startIdentity, std::move(notes)};
}

} // namespace kiln
