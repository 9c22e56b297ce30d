// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "run/CaseRun.h"

#include "heat/elements/Enthalpy.h"
#include "io/FiguresFile.h"
#include "io/FileLock.h"
#include "io/MeshStore.h"
#include "io/ViewFactorStore.h"
#include "mesh/SecondOrder.h"
#include "mesh/VolumeMesh.h"
#include "model/Edit.h"
#include "model/OwnValues.h"
#include "model/SteadyView.h"
#include "readiness/PhysicsReadiness.h"
#include "results/Figures.h"
#include "run/InputHash.h"
#include "run/KeptFields.h"
#include "run/ResultHead.h"
#include "run/ResultIdentity.h"
#include "run/ResultOf.h"
#include "run/SteadyModel.h"
#include "run/StoredFigures.h"
#include "run/TransientCase.h"
#include "solve/SteadySolver.h"

#include <algorithm>
#include <chrono>
#include <thread>

namespace kiln
{
namespace
{

/// Measures the stages of a run.
class StageClock
{
public:
  void finish(const std::string& stage)
  {
    const auto now = std::chrono::steady_clock::now();
    times.push_back({stage, std::chrono::duration<double>(now - last_).count()});
    last_ = now;
  }
  std::vector<StageTime> times;

private:
  std::chrono::steady_clock::time_point last_ = std::chrono::steady_clock::now();
};

tl::unexpected<RunFailure> failed(const Failure& failure) { return tl::unexpected(RunFailure{{}, failure}); }

tl::unexpected<RunFailure> notReady(std::vector<Finding> findings)
{
  std::erase_if(findings, [](const Finding& finding) { return finding.severity != Finding::Severity::Error; });
  return tl::unexpected(RunFailure{std::move(findings), std::nullopt});
}

bool hasParts(const Project& project)
{
  return std::any_of(project.parts.begin(), project.parts.end(),
                     [&](const Part& part) { return !isMuted(project, part); });
}

/// A stored mesh keeps the names the parts had then.
void takeNames(const Project& project, FaceTable& geometry)
{
  for (GeometryPart& part : geometry.parts)
    if (const Part* own = findById(project.parts, part.id))
      part.name = own->name;
}

} // namespace

tl::expected<std::vector<Finding>, Failure> checkProject(const Project& project)
{
  std::vector<Finding> findings = checkModel(project);
  if (hasErrors(findings))
    return findings;
  Expected<Geometry> geometry = hasParts(project) ? buildGeometry(project) : Geometry{};
  if (!geometry)
    return tl::unexpected(geometry.error());
  const std::vector<Finding> more = checkOnGeometry(project, geometry->table);
  findings.insert(findings.end(), more.begin(), more.end());
  return findings;
}

tl::expected<PreparedMesh, RunFailure> prepareMesh(const Project& project, const std::filesystem::path& folder,
                                                   const Progress& progress, const EffortLimits& limits)
{
  std::vector<Finding> findings = checkModel(project);
  if (hasErrors(findings))
    return notReady(std::move(findings));
  PreparedMesh prepared;
  prepared.hash = inputHashes(project).mesh;
  Expected<MeshStore> store = MeshStore::open(folder, progress);
  if (!store)
    return failed(store.error());
  if (std::optional<Mesh> kept = store->find(prepared.hash)) {
    prepared.mesh = std::move(*kept);
    takeNames(project, prepared.mesh.geometry);
    progress("mesh", 0.5, "unchanged");
    return prepared;
  }
  if (!hasParts(project)) {
    std::vector<Finding> network = checkOnGeometry(project, {});
    if (hasErrors(network))
      return notReady(std::move(network));
    return prepared; // a network of nodes has no mesh
  }
  if (auto few = checkCopies(project, limits); !few)
    return failed(few.error());
  StageClock clock;
  progress("geometry", 0.02, "fusing parts");
  const Expected<Geometry> geometry = buildGeometry(project);
  if (!geometry)
    return failed(geometry.error());
  clock.finish("geometry");
  std::vector<Finding> onGeometry = checkOnGeometry(project, geometry->table);
  if (hasErrors(onGeometry))
    return notReady(std::move(onGeometry));
  if (auto bearable = checkEffort(project, geometry->table, limits); !bearable)
    return failed(bearable.error());
  const std::optional<StoredMesh>& before = store->latest(); // parts that did not change keep their tetrahedra
  Expected<Mesh> mesh = buildMesh(project, *geometry, progress, before ? &before->mesh : nullptr);
  if (!mesh)
    return failed(mesh.error());
  clock.finish("mesh");
  StoredMesh stored{prepared.hash, std::move(*mesh)};
  if (auto saved = store->keep(stored); !saved)
    return failed(saved.error());
  clock.finish("store mesh");
  prepared.mesh = std::move(stored.mesh);
  prepared.times = std::move(clock.times);
  return prepared;
}

namespace
{

/// \param base  with the other cases, that watches may be compared with
tl::expected<CaseResult, RunFailure> saved(const Project& base, const Case& oneCase, CaseResult result,
                                           StageClock& clock, const std::filesystem::path& folder,
                                           const Progress& progress)
{
  progress("write", 0.96, "writing results");
  CaseCommit commit(folder, oneCase.id);
  if (auto written = commit.add(resultFile(folder, oneCase.id), resultBytes(result)); !written)
    return failed(written.error());
  clock.finish("write");
  result.info.times.push_back(clock.times.back());
  const Expected<Project> seen = projectForCase(base, oneCase);
  if (!seen)
    return failed(seen.error());
  if (auto written = commit.add(figuresFile(folder, oneCase.id),
                                figuresText(*seen, result, figuresHash(*seen), storedFigures(*seen, folder)));
      !written)
    return failed(written.error());
  if (result.transient)
    if (auto taken = commit.take(runFile(folder, oneCase.id), growingRunFile(folder, oneCase.id)); !taken)
      return failed(taken.error());
  if (auto current = commit.commit(oneCase.name, result.solutionHash, result.startIdentity); !current)
    return failed(current.error());
  progress("done", 1, oneCase.name + " solved");
  return result;
}

/// A question that keeps the temperatures of its points may have solved it already; nothing where none has.
std::optional<tl::expected<CaseResult, RunFailure>>
takeKept(const Project& base, const Case& oneCase, const std::filesystem::path& folder, const Progress& progress)
{
  const auto identity = currentIdentity(base, oneCase, folder);
  auto kept = identity ? findKept(folder, *identity) : std::nullopt;
  if (!kept)
    return std::nullopt;
  progress("write", 0.5, "solved before, at a point of a question");
  kept->result.caseId = oneCase.id;
  kept->result.caseName = oneCase.name;
  if (!kept->run.empty()) {
    std::error_code error;
    std::filesystem::copy_file(kept->run, growingRunFile(folder, oneCase.id),
                               std::filesystem::copy_options::overwrite_existing, error);
    if (error)
      return std::nullopt; // then it is solved
  }
  StageClock clock;
  return saved(base, oneCase, std::move(kept->result), clock, folder, progress);
}

/// Where something melts, a run works with linear fields on the pieces of second-order elements: melting is bound to
/// the temperature of a place, which such elements have at their nodes alone.
void takePiecesWhereMelting(const Project& project, Mesh& mesh)
{
  const auto melting = [&](const GeometryPart& part) {
    const Part* own = findById(project.parts, part.id);
    const Material* material = own != nullptr ? findById(project.materials, own->material) : nullptr;
    return material != nullptr && canMelt(*material);
  };
  if (mesh.order == 2 && std::any_of(mesh.geometry.parts.begin(), mesh.geometry.parts.end(), melting))
    mesh = linearPieces(mesh);
}

/// As the case asks, else as usual.
SteadyOptions steadyOptions(const Project& project, const Case& oneCase)
{
  SteadyOptions options{.named = &project};
  if (oneCase.balance)
    options.residualTolerance = oneCase.balance->si;
  if (oneCase.update)
    options.updateTolerance = oneCase.update->si;
  if (oneCase.mostSteps) {
    options.mostSteps = static_cast<int>(oneCase.mostSteps->si);
    options.mostSlowSteps = 0;
  }
  return options;
}

tl::expected<CaseResult, RunFailure> runInTime(const Project& base, const Project& project, const Case& oneCase,
                                               PreparedMesh prepared, std::vector<StageTime> times,
                                               const std::filesystem::path& folder, bool goesOn,
                                               const Progress& progress)
{
  StageClock clock;
  takePiecesWhereMelting(project, prepared.mesh);
  auto end = runTransient(base, project, oneCase, prepared, folder, goesOn, progress);
  if (!end)
    return tl::unexpected(end.error());
  clock.finish("solve");
  SteadySolution last;
  last.temperature = std::move(end->solution.temperature);
  last.newtonSteps = end->solution.newtonSteps;
  last.linearIterations = end->solution.linearIterations;
  last.linearSolver = end->solution.linearSolver;
  const StageTime linear{"of it linear", end->solution.linearSeconds};
  // The result belongs to the project as written; what counts at its end is only how it is read.
  CaseResult result = resultOf(end->model->now(), oneCase, prepared.mesh, std::move(prepared.hash),
                               end->model->conditions(), end->model->system(), std::move(last), end->storing);
  addPatchErrors(result, prepared.mesh, end->model->conditions());
  end->model.reset();
  result.mesh = std::move(prepared.mesh);
  result.solutionHash = solutionHash(project, oneCase);
  result.transient = true;
  result.time = end->solution.time;
  result.startIdentity = end->startIdentity;
  result.bounds = end->solution.bounds;
  result.notes = end->notes;
  clock.finish("figures");
  times.insert(times.end(), clock.times.begin(), clock.times.end());
  times.push_back(linear);
  result.info.times = std::move(times);
  return saved(base, oneCase, std::move(result), clock, folder, progress);
}

} // namespace

namespace
{

/// As the case sees it, without other cases: what they lack does not stop this one.
Expected<Project> projectAlone(const Project& base, const Case& oneCase)
{
  Expected<Project> project = projectForCase(base, oneCase);
  if (!project)
    return project;
  const std::vector<std::string> before = startsFrom(*project, oneCase);
  std::vector<std::string> others;
  for (const Case& other : project->cases)
    if (other.id != oneCase.id && std::find(before.begin(), before.end(), other.id) == before.end())
      others.push_back(other.id);
  for (const std::string& id : others)
    removeObject(*project, id);
  return project;
}

/// Steady.
/// \param model   on its mesh, which is lent to the result
/// \param shared  what it takes over from the case before, and leaves to the next; or nullptr
tl::expected<CaseResult, RunFailure> runSteady(const Project& project, const Case& oneCase, SteadyModel& model,
                                               std::vector<StageTime> times, const std::filesystem::path& folder,
                                               const Progress& progress, SteadyShared* shared)
{
  StageClock clock;
  const Expected<Project> atStart = steadyProject(project, oneCase);
  if (!atStart)
    return failed(atStart.error());
  progress("solve", 0.5, "resolving conditions");
  const auto taken = model.take(*atStart, storedViewFactors(folder, std::thread::hardware_concurrency(), progress));
  clock.finish("conditions");
  if (!taken)
    return failed(taken.error());
  SteadyOptions options = steadyOptions(project, oneCase);
  options.shared = shared;
  options.system = &model.system();
  Expected<SteadySolution> solution = solveSteady(model.mesh(), model.conditions(), options, progress);
  if (!solution)
    return failed(solution.error());
  clock.finish("solve");
  const StageTime linear{"of it linear", solution->linearSeconds};
  progress("figures", 0.92, "reading figures");
  CaseResult result = resultOf(project, oneCase, model.mesh(), model.meshHash(), model.conditions(), model.system(),
                               std::move(*solution));
  addPatchErrors(result, model.mesh(), model.conditions());
  result.mesh = model.lend();
  if (const auto hottest = std::max_element(result.temperature.begin(), result.temperature.end());
      hottest != result.temperature.end() && *hottest > hottestSolid)
    result.notes.push_back("The hottest place would be at " + formatQuantity(*hottest, Quantity::Temperature) +
                           ", where nothing is solid: check powers and their units.");
  if (const std::string words = steadyWords(project, oneCase); !words.empty())
    result.notes.push_back("Steady with " + words + ".");
  clock.finish("figures");
  times.insert(times.end(), clock.times.begin(), clock.times.end());
  times.push_back(linear);
  result.info.times = std::move(times);
  return result;
}

/// Errors that stand in the way of a solve on this mesh.
tl::expected<void, RunFailure> checkOnMesh(const Project& project, const Mesh& mesh, const EffortLimits& limits)
{
  if (auto bearable = checkEffort(project, mesh.geometry, limits); !bearable) // a stored mesh was not asked
    return failed(bearable.error());
  std::vector<Finding> findings = checkOnGeometry(project, mesh.geometry);
  if (hasErrors(findings))
    return notReady(std::move(findings));
  return {};
}

} // namespace

tl::expected<CaseResult, RunFailure> runCase(const Project& base, const Case& oneCase,
                                             const std::filesystem::path& folder, const Progress& progress, bool goesOn,
                                             const EffortLimits& limits)
{
  const Expected<Project> project = projectAlone(base, oneCase);
  if (!project)
    return failed(project.error());
  const auto lock = FileLock::take(caseLockFile(folder, oneCase.id), "case " + oneCase.name);
  if (!lock)
    return failed(lock.error());
  if (!goesOn)
    if (auto kept = takeKept(base, oneCase, folder, progress))
      return std::move(*kept);
  StageClock clock;
  auto prepared = prepareMesh(*project, folder, progress, limits);
  if (!prepared)
    return tl::unexpected(prepared.error());
  std::vector<StageTime> times = prepared->times;
  if (times.empty()) {
    clock.finish("read mesh");
    times = clock.times;
  }
  if (auto ready = checkOnMesh(*project, prepared->mesh, limits); !ready)
    return tl::unexpected(ready.error());
  if (oneCase.kind == Case::Kind::Transient)
    return runInTime(base, *project, oneCase, std::move(*prepared), std::move(times), folder, goesOn, progress);
  SteadyModel model(std::move(prepared->mesh), std::move(prepared->hash));
  auto result = runSteady(*project, oneCase, model, std::move(times), folder, progress, nullptr);
  if (!result)
    return result;
  clock = {};
  return saved(base, oneCase, std::move(*result), clock, folder, progress);
}

SharedSolve::SharedSolve() = default;
SharedSolve::~SharedSolve() = default;

tl::expected<CaseResult, RunFailure> SharedSolve::solve(const Project& base, const Case& oneCase,
                                                        const std::filesystem::path& folder, const Progress& progress,
                                                        const EffortLimits& limits)
{
  const Expected<Project> project = projectAlone(base, oneCase);
  if (!project)
    return failed(project.error());
  if (!model_ || lent_ || model_->meshHash().empty() || model_->meshHash() != inputHashes(*project).mesh) {
    model_.reset();
    steady_ = {};
    auto prepared = prepareMesh(*project, folder, progress, limits);
    if (!prepared)
      return tl::unexpected(prepared.error());
    model_ = std::make_unique<SteadyModel>(std::move(prepared->mesh), std::move(prepared->hash));
    lent_ = false;
  }
  if (auto ready = checkOnMesh(*project, model_->mesh(), limits); !ready)
    return tl::unexpected(ready.error());
  auto result = runSteady(*project, oneCase, *model_, {}, folder, progress, &steady_);
  lent_ = result.has_value();
  return result;
}

void SharedSolve::takeBack(CaseResult result)
{
  if (!lent_ || result.meshHash != model_->meshHash())
    return;
  model_->takeBack(std::move(result.mesh));
  lent_ = false;
}

bool isUpToDate(const Project& project, const Case& oneCase, const std::filesystem::path& folder)
{
  const auto stored = storedCase(folder, oneCase.id);
  const Expected<std::string> current = currentIdentity(project, oneCase, folder);
  return current && stored && *stored && identityOf((*stored)->solutionHash, (*stored)->startIdentity) == *current;
}

} // namespace kiln
