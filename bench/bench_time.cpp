// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
//
// Time: what a step costs against one solve of its matrix and one assembly, how much of a run goes into storing, and
// how many steps a variable-order integrator (CVODE, BDF of order one to five) needs for the same error.
#include "Assembly.h"
#include "TransientProjects.h"
#include "io/ViewFactorStore.h"
#include "run/RunRecorder.h"
#include "solve/MultigridSolver.h"
#include "solve/TransientSolver.h"

#include <chrono>
#include <cmath>
#include <cstdio>
#include <cvode/cvode.h>
#include <filesystem>
#include <nvector/nvector_serial.h>
#include <sunlinsol/sunlinsol_dense.h>
#include <sunmatrix/sunmatrix_dense.h>

using namespace kiln;
using namespace kiln::test;

namespace
{

double now() { return std::chrono::duration<double>(std::chrono::steady_clock::now().time_since_epoch()).count(); }

/// A run as its steps: instants and temperatures.
struct Course {
  std::vector<double> times;
  std::vector<std::vector<double>> states;
  int steps = 0;
};

std::unique_ptr<TimedModel> modelOf(const Project& project, const Mesh& mesh)
{
  auto model = TimedModel::make(project, mesh, storedViewFactors({}, 1, noProgress), 0);
  if (!model)
    throw std::runtime_error(model.error().sentence());
  return std::move(*model);
}

Mesh meshOf(const Project& project)
{
  const auto geometry = buildGeometry(project);
  auto mesh = buildMesh(project, *geometry, noProgress);
  if (!mesh)
    throw std::runtime_error(mesh.error().sentence());
  return std::move(*mesh);
}

Course ownCourse(const Project& project, const Mesh& mesh, double start, double tolerance)
{
  const auto model = modelOf(project, mesh);
  Course course;
  const StepObserver observer = [&](const AcceptedStep& step) -> Expected<StepAnswer> {
    if (step.time > step.from || course.times.empty()) {
      course.times.push_back(step.time);
      course.states.emplace_back(step.temperature.begin(), step.temperature.end());
    }
    return StepAnswer{};
  };
  TransientOptions options;
  options.limits = limitsOf(*project.cases.front().run);
  options.limits.tolerance = tolerance;
  const std::vector<double> begin(static_cast<std::size_t>(model->conditions().unknowns.count), start);
  const auto solution = solveTransient(*model, *project.cases.front().run, begin, options, {}, observer, noProgress);
  if (!solution)
    throw std::runtime_error(solution.error().sentence());
  course.steps = solution->steps + solution->rejected;
  return course;
}

/// The same system for CVODE: C T' = balance(T), with the dense tangent as Jacobian.
class Reference
{
public:
  Reference(const Project& project, const Mesh& mesh) : project_(project), model_(modelOf(project, mesh))
  {
    SUNContext_Create(nullptr, &context_);
    count_ = model_->conditions().unknowns.count;
    for (const HeatSource& source : project.sources)
      if (source.thermostat)
        heater_ = &source;
    if (heater_ != nullptr)
      reader_ = model_->reader(heater_->thermostat->watch);
  }
  ~Reference() { SUNContext_Free(&context_); }
  Reference(const Reference&) = delete;
  Reference& operator=(const Reference&) = delete;

  /// \param wanted  instants at which states are kept; empty: every step's
  Course run(double start, double until, double tolerance, const std::vector<double>& wanted)
  {
    N_Vector state = N_VNew_Serial(count_, context_);
    N_VConst(start, state);
    SUNMatrix matrix = SUNDenseMatrix(count_, count_, context_);
    SUNLinearSolver linear = SUNLinSol_Dense(state, matrix, context_);
    void* cvode = CVodeCreate(CV_BDF, context_);
    CVodeInit(cvode, slopes, 0, state);
    CVodeSetUserData(cvode, this);
    CVodeSStolerances(cvode, 1e-12, tolerance);
    CVodeSetLinearSolver(cvode, linear, matrix);
    CVodeSetJacFn(cvode, tangent);
    CVodeSetMaxNumSteps(cvode, 1'000'000);
    if (heater_ != nullptr) {
      model_->turn(heater_->id, true);
      on_ = true;
      CVodeRootInit(cvode, 1, distance);
    }
    Course course;
    keep(course, 0, state);
    std::size_t next = !wanted.empty() && wanted.front() <= 0 ? 1 : 0;
    std::vector<double> breaks = breakpoints(project_, 0, until);
    breaks.push_back(until);
    double time = 0;
    for (const double instant : breaks) {
      CVodeSetStopTime(cvode, instant);
      while (time < instant * (1 - 1e-14)) {
        const bool toWanted = next < wanted.size() && wanted[next] < instant;
        const double target = toWanted ? wanted[next] : instant;
        const int result = CVode(cvode, target, state, &time, wanted.empty() ? CV_ONE_STEP : CV_NORMAL);
        if (result < 0)
          throw std::runtime_error("CVODE failed");
        if (result == CV_ROOT_RETURN) {
          on_ = !on_;
          model_->turn(heater_->id, on_);
          restart(cvode, time, state);
        }
        if (wanted.empty())
          keep(course, time, state);
        else if (next < wanted.size() && std::abs(time - wanted[next]) < 1e-9 * std::max(1.0, time)) {
          keep(course, time, state);
          ++next;
        }
      }
      restart(cvode, time, state);
    }
    course.steps = steps_;
    steps_ = 0;
    CVodeFree(&cvode);
    SUNLinSolFree(linear);
    SUNMatDestroy(matrix);
    N_VDestroy(state);
    return course;
  }

private:
  void restart(void* cvode, double time, N_Vector state)
  {
    long done = 0;
    CVodeGetNumSteps(cvode, &done);
    steps_ += static_cast<int>(done);
    CVodeReInit(cvode, time, state);
  }
  void keep(Course& course, double time, N_Vector state) const
  {
    course.times.push_back(time);
    const double* values = N_VGetArrayPointer(state);
    course.states.emplace_back(values, values + count_);
  }
  static int slopes(double time, N_Vector state, N_Vector slope, void* own)
  {
    auto& self = *static_cast<Reference*>(own);
    const std::span<const double> temperature(N_VGetArrayPointer(state), static_cast<std::size_t>(self.count_));
    if (!self.model_->moveTo(time, Moment::After))
      return -1;
    const std::vector<double> balance = self.model_->system().balance(temperature);
    const std::vector<double> capacity = self.model_->store().slope(temperature);
    for (std::size_t i = 0; i < balance.size(); ++i)
      N_VGetArrayPointer(slope)[i] = balance[i] / capacity[i];
    return 0;
  }
  static int tangent(double time, N_Vector state, N_Vector, SUNMatrix matrix, void* own, N_Vector, N_Vector, N_Vector)
  {
    auto& self = *static_cast<Reference*>(own);
    const std::span<const double> temperature(N_VGetArrayPointer(state), static_cast<std::size_t>(self.count_));
    if (!self.model_->moveTo(time, Moment::After))
      return -1;
    const SparseMatrix sparse = self.model_->system().tangent(temperature);
    const std::vector<double> capacity = self.model_->store().slope(temperature);
    SUNMatZero(matrix);
    for (Index row = 0; row < sparse.rows(); ++row)
      for (Index i = sparse.rowStart[static_cast<std::size_t>(row)];
           i < sparse.rowStart[static_cast<std::size_t>(row) + 1]; ++i)
        SM_ELEMENT_D(matrix, row, sparse.columns[static_cast<std::size_t>(i)]) =
            -sparse.values[static_cast<std::size_t>(i)] / capacity[static_cast<std::size_t>(row)];
    return 0;
  }
  static int distance(double, N_Vector state, double* out, void* own)
  {
    auto& self = *static_cast<Reference*>(own);
    const std::vector<double> temperature(N_VGetArrayPointer(state), N_VGetArrayPointer(state) + self.count_);
    const Thermostat& thermostat = *self.heater_->thermostat;
    const double half = thermostat.band.si / 2;
    *out = self.reader_->read({temperature})->value - (thermostat.setPoint.si + (self.on_ ? half : -half));
    return 0;
  }

  const Project& project_;
  std::unique_ptr<TimedModel> model_;
  SUNContext context_ = nullptr;
  Index count_ = 0;
  const HeatSource* heater_ = nullptr;
  std::optional<WatchReader> reader_;
  bool on_ = true;
  int steps_ = 0;
};

double errorOf(const Course& course, const Course& exact)
{
  double worst = 0;
  for (std::size_t i = 0; i < std::min(course.times.size(), exact.times.size()); ++i)
    for (std::size_t u = 0; u < course.states[i].size(); ++u)
      worst = std::max(worst, std::abs(course.states[i][u] - exact.states[i][u]));
  return worst;
}

/// Steps of both at the same largest error over all places and all own steps.
void compareSteps(const char* name, const Project& project, double start)
{
  const Mesh mesh = meshOf(project);
  const double until = std::get<EndAtTime>(project.cases.front().run->ends.front().when).time.si;
  Reference reference(project, mesh);
  const auto exactAt = [&](const std::vector<double>& times) { return reference.run(start, until, 1e-8, times); };
  for (const double tolerance : {0.3, 0.1, 0.03}) {
    const Course own = ownCourse(project, mesh, start, tolerance);
    const double error = errorOf(own, exactAt(own.times));
    // Its tolerance for this error, by halving in its logarithm.
    double low = std::log(1e-6);
    double high = std::log(10.0);
    int steps = 0;
    double reached = 0;
    for (int i = 0; i < 14; ++i) {
      const double middle = (low + high) / 2;
      const Course other = reference.run(start, until, std::exp(middle), {});
      const double its = errorOf(other, exactAt(other.times));
      if (its <= error) {
        low = middle;
        steps = other.steps;
        reached = its;
      } else {
        high = middle;
      }
    }
    std::printf(
        "%s, %zu places, tolerance %.2f K: %d steps for %.3f K; variable order %d steps for %.3f K: %.2f times\n", name,
        own.states.front().size(), tolerance, own.steps, error, steps, reached, static_cast<double>(own.steps) / steps);
  }
}

Project quench()
{
  Project p = slab(0.04, 0.0015);
  p.boundaries = {boundary("a", Convection{"left", Property{200, ""}, Property{300, ""}})};
  inTime(p, 500, 3000);
  return p;
}

Project scheduledHeat()
{
  Project p = slab(0.04, 0.0015);
  p.boundaries = {boundary("a", Convection{"left", Property{50, ""}, Property{300, ""}})};
  p.parameters = {
      scheduled("power", Quantity::Power, {{0, 0}, {600, 1}, {1200, 1}, {1260, 0.2}, {2400, 0.2}, {2401, 0}})};
  Property follows{0, "power"};
  follows.formula = true;
  p.sources = {source("heater", PartPower{{"slab"}, follows})};
  inTime(p, 300, 4000);
  return p;
}

Project controlled()
{
  Project p = lump(300, 900);
  HeatSource heater = source("heater", PartPower{{"lump"}, Property{60, ""}});
  heater.thermostat = Thermostat{"t", number(400), number(10), false, {}};
  p.sources = {heater};
  return p;
}

/// A layered wall: thin steel, fibre and brick, with contacts and convection.
Project wall(double meshSize)
{
  Project p = projectWith(meshSize);
  p.materials = {heavy("steel", 45, 7800, 480), heavy("fibre", 0.15, 130, 1000), heavy("brick", 0.42, 800, 900)};
  p.parts = {part("brick", "brick", block(0.5, 0.5, 0.06)),
             part("fibre", "fibre", block(0.5, 0.5, 0.06), Vec3(0, 0, 0.06)),
             part("steel", "steel", block(0.5, 0.5, 0.004), Vec3(0, 0, 0.12))};
  p.surfaces = {surface("inside", {"brick.bottom"}), surface("outside", {"steel.top"})};
  p.contacts = {contact("brick", "fibre", AreaConductance{number(50)}),
                contact("fibre", "steel", AreaConductance{number(50)})};
  p.boundaries = {boundary("fire", Convection{"inside", Property{30, ""}, Property{1273, ""}}),
                  boundary("room", Convection{"outside", Property{10, ""}, Property{293, ""}})};
  p.watches = {watch("shell", PartFigure{PartFigure::Kind::Hottest, {"steel"}})};
  inTime(p, 293, 3600);
  return p;
}

void measureSteps()
{
  const Project project = wall(0.0078);
  const Mesh mesh = meshOf(project);
  const auto model = modelOf(project, mesh);
  const std::filesystem::path folder = std::filesystem::temp_directory_path() / "kiln-bench-time";
  std::filesystem::create_directories(folder);
  RunRecorder recorder(*project.cases.front().run, *model);
  recorder.record.caseId = "steady";
  if (!recorder.begin(folder / "run.h5", *model, nullptr))
    throw std::runtime_error("no file");
  double storing = 0;
  const StepObserver observer = [&](const AcceptedStep& step) -> Expected<StepAnswer> {
    const double begin = now();
    auto taken = recorder.take(step);
    storing += now() - begin;
    if (!taken)
      return tl::unexpected(taken.error());
    return StepAnswer{};
  };
  const std::vector<double> start(static_cast<std::size_t>(model->conditions().unknowns.count), 293.0);
  TransientOptions options;
  options.limits.ends = project.cases.front().run->ends;
  options.limits.endWhenAll = project.cases.front().run->endWhenAll;
  double begin = now();
  const auto solution = solveTransient(*model, *project.cases.front().run, start, options,
                                       FlowMeter(RunRecorder::meter), observer, noProgress);
  const double whole = now() - begin;
  const double step = (whole - storing) / (solution->steps + solution->rejected);
  // One step's matrix, solved from nothing, and one assembly.
  ThermalSystem system(mesh, model->conditions());
  double single = 1e30;
  for (int i = 0; i < 3; ++i) {
    begin = now();
    SparseMatrix matrix = system.tangent(solution->temperature);
    assembleConduction(system);
    const std::vector<double> slope = model->store().slope(solution->temperature);
    for (Index row = 0; row < matrix.rows(); ++row)
      matrix.values[static_cast<std::size_t>(matrix.position(row, row))] += slope[static_cast<std::size_t>(row)] / 20;
    std::vector<double> right(slope.size(), 1.0);
    std::vector<double> x(slope.size(), 0.0);
    MultigridSolver solver(MultigridSettings::Fast);
    if (!solver.prepare(matrix) || !solver.solve(right, x, 2e-8))
      std::puts("multigrid failed");
    single = std::min(single, now() - begin);
  }
  std::printf(
      "%d unknowns, %d steps (%d rejected) with %d Newton steps, %d matrices: %.3f s a step, %.2f times a solve and "
      "an assembly (%.3f s); storing %.1f %% of %.1f s\n",
      model->conditions().unknowns.count, solution->steps, solution->rejected, solution->newtonSteps,
      solution->preparations, step, step / single, single, 100 * storing / whole, whole);
  std::filesystem::remove_all(folder);
}

} // namespace

/// \param only  one of them: quench, schedule, thermostat, steps; all without it
int main(int count, char** words)
{
  const std::string only = count > 1 ? words[1] : "";
  const auto wanted = [&](const char* name) { return only.empty() || only == name; };
  if (wanted("quench"))
    compareSteps("quench", quench(), 500);
  if (wanted("schedule"))
    compareSteps("schedule", scheduledHeat(), 300);
  if (wanted("thermostat"))
    compareSteps("thermostat", controlled(), 300);
  if (wanted("steps"))
    measureSteps();
  return 0;
}
