// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "run/WhatIf.h"

#include "io/ViewFactorStore.h"
#include "model/ObjectKinds.h"
#include "model/OwnValues.h"
#include "model/SteadyView.h"
#include "run/InputHash.h"
#include "run/ResultOf.h"
#include "solve/CoupledStep.h"
#include "solve/NewtonStep.h"

#include <Eigen/Dense>
#include <algorithm>
#include <cmath>
#include <thread>

namespace kiln
{
namespace
{

tl::unexpected<Failure> notFollowed(const Case& oneCase, const std::string& why)
{
  return failure(Failure::Kind::NotReady, objectWords(oneCase), why, "Solve it.");
}

double dot(const std::vector<double>& a, const std::vector<double>& b)
{
  return Eigen::Map<const Eigen::VectorXd>(a.data(), static_cast<Eigen::Index>(a.size()))
      .dot(Eigen::Map<const Eigen::VectorXd>(b.data(), static_cast<Eigen::Index>(b.size())));
}

void addTo(std::vector<double>& sum, double factor, const std::vector<double>& more)
{
  for (std::size_t i = 0; i < sum.size(); ++i)
    sum[i] += factor * more[i];
}

double largest(const std::vector<double>& values)
{
  double most = 0;
  for (const double value : values)
    most = std::max(most, std::abs(value));
  return most;
}

/// By unknown of the conditions: those of the mesh come first.
std::vector<double> startFrom(const Project& project, const Conditions& conditions, const CaseResult& solved)
{
  std::vector<double> start(static_cast<std::size_t>(conditions.unknowns.count), conditions.startTemperature);
  if (solved.temperature.size() <= start.size())
    std::copy(solved.temperature.begin(), solved.temperature.end(), start.begin());
  for (const auto& [id, unknown] : lumpedOf(project, conditions))
    for (const NodeState& node : solved.nodes)
      if (node.id == id && unknown >= 0)
        start[static_cast<std::size_t>(unknown)] = node.temperature;
  return start;
}

} // namespace

Expected<std::unique_ptr<WhatIf>> WhatIf::begin(const Project& base, const Case& oneCase, const CaseResult& solved,
                                                const std::filesystem::path& folder)
{
  if (oneCase.kind != Case::Kind::Steady)
    return notFollowed(oneCase, "A run in time cannot be followed while values are dragged.");
  const Expected<Project> seen = projectForCase(base, oneCase);
  const Expected<Project> atStart = seen ? steadyProject(*seen, oneCase) : seen;
  if (!atStart)
    return tl::unexpected(atStart.error());
  std::unique_ptr<WhatIf> own(new WhatIf);
  own->folder_ = folder;
  for (const EnclosureFigure& enclosure : solved.enclosures)
    own->patchErrors_.push_back(enclosure.patchError);
  own->model_ = std::make_unique<SteadyModel>(solved.mesh, solved.meshHash);
  if (auto taken = own->take(*atStart); !taken)
    return tl::unexpected(taken.error());
  own->solved_.temperature = startFrom(*atStart, own->model_->conditions(), solved);
  SteadyOptions options{.named = &*seen};
  options.shared = &own->solved_;
  options.system = &own->system();
  Expected<SteadySolution> solution = solveSteady(own->model_->mesh(), own->model_->conditions(), options, noProgress);
  if (!solution)
    return tl::unexpected(solution.error());
  own->temperature_ = std::move(solution->temperature);
  return own;
}

/// Conditions and system as this project has them.
Expected<void> WhatIf::take(const Project& atStart)
{
  if (auto taken = model_->take(atStart, storedViewFactors(folder_, std::thread::hardware_concurrency(), noProgress));
      !taken)
    return taken;
  if (!temperature_.empty() && static_cast<std::size_t>(system().unknowns()) != temperature_.size())
    return failure(Failure::Kind::NotReady, "project", "What is switched on has changed.", "Solve it.");
  return {};
}

std::vector<double> WhatIf::freeBalance(const std::vector<double>& temperature) const
{
  std::vector<double> right = system().balance(temperature);
  for (std::size_t i = 0; i < right.size(); ++i)
    if (system().isFixed()[i] != 0)
      right[i] = 0;
  return right;
}

/// With the factors of the solved state.
Expected<std::vector<double>> WhatIf::response(const std::vector<double>& temperature, const std::vector<double>& right)
{
  constexpr double fine = 1e-10;
  constexpr double roughly = 1e-3; // what it begins is corrected
  std::vector<double> update(right.size(), 0.0);
  const auto iterations = newtonStep(system(), solved_.matrix, *solved_.solver, temperature, right, update,
                                     system().linear() ? fine : roughly, &solved_.modes);
  if (!iterations)
    return tl::unexpected(iterations.error());
  return update;
}

void WhatIf::keepResponse(const std::vector<double>& load, const std::vector<double>& rise)
{
  constexpr std::size_t most = 12;
  if (responses_.size() < most && largest(load) > 0)
    responses_.push_back({load, rise});
}

/// Least squares over the known loads; it counts where nothing is left.
std::vector<double> WhatIf::superposed(const std::vector<double>& right, double leftOver) const
{
  const auto count = static_cast<Eigen::Index>(responses_.size());
  if (count == 0)
    return {};
  Eigen::MatrixXd products(count, count);
  Eigen::VectorXd with(count);
  for (Eigen::Index i = 0; i < count; ++i) {
    const std::vector<double>& load = responses_[static_cast<std::size_t>(i)].load;
    with(i) = dot(load, right);
    for (Eigen::Index j = 0; j < count; ++j)
      products(i, j) = dot(load, responses_[static_cast<std::size_t>(j)].load);
  }
  const Eigen::VectorXd shares = products.ldlt().solve(with);
  std::vector<double> left = right;
  std::vector<double> rise(right.size(), 0.0);
  for (Eigen::Index i = 0; i < count; ++i) {
    addTo(left, -shares(i), responses_[static_cast<std::size_t>(i)].load);
    addTo(rise, shares(i), responses_[static_cast<std::size_t>(i)].rise);
  }
  return largest(left) <= leftOver * largest(right) ? rise : std::vector<double>();
}

std::optional<std::size_t> WhatIf::onlyOne(const std::vector<double>& load) const
{
  constexpr double alike = 0.999; // of the cosine between them
  for (std::size_t i = 0; i < responses_.size(); ++i)
    if (const std::vector<double>& own = responses_[i].load;
        std::abs(dot(own, load)) > alike * std::sqrt(dot(own, own) * dot(load, load)))
      return i;
  return std::nullopt;
}

/// By the known responses, or by one more, which is solved at \p from.
Expected<std::vector<double>> WhatIf::riseBy(const std::vector<double>& load, const std::vector<double>& from,
                                             double leftOver)
{
  if (freeNorm(system(), load) <= system().noiseFloor(from))
    return std::vector<double>(load.size(), 0.0);
  if (std::vector<double> known = superposed(load, leftOver); !known.empty())
    return known;
  auto solved = response(from, load);
  if (solved)
    keepResponse(load, *solved);
  return solved;
}

Expected<void> WhatIf::superpose(std::vector<double>& now)
{
  constexpr double rounding = 1e-10;
  const auto rise = riseBy(freeBalance(now), now, rounding);
  if (!rise)
    return tl::unexpected(rise.error());
  addTo(now, 1, *rise);
  return {};
}

/// The same where the answer bends, by what the change of values does to the balance of the solved state.
Expected<void> WhatIf::predict(std::vector<double>& now)
{
  constexpr double much = 0.1;
  std::vector<double> load = freeBalance(temperature_);
  changed_ = load;
  if (load_.size() == load.size())
    addTo(changed_, -1, load_);
  load_ = std::move(load);
  auto rise = riseBy(changed_, temperature_, much);
  if (!rise)
    return tl::unexpected(rise.error());
  keepInReach(now, *rise);
  addTo(now, 1, *rise);
  rise_ = largest(*rise);
  return {};
}

/// The slope of the answer changes on the way: what a slider has just led to is how it goes on.
void WhatIf::learn(const std::vector<double>& from, const std::vector<double>& now, double error)
{
  constexpr double sureOf = 20; // times the error
  if (freeNorm(system(), changed_) <= system().noiseFloor(temperature_))
    return; // nothing changed
  std::vector<double> rise = now;
  addTo(rise, -1, from);
  if (const auto one = onlyOne(changed_); one && largest(rise) > sureOf * error)
    responses_[*one] = {changed_, std::move(rise)};
}

/// From the solved state, K.
double WhatIf::largestChange(const std::vector<double>& now) const
{
  double most = 0;
  for (std::size_t i = 0; i < now.size(); ++i)
    most = std::max(most, std::abs(now[i] - temperature_[i]));
  return most;
}

/// Of a step's temperatures: a short step need not be solved well. How long it is, is told by how far the last guess
/// went for what it took from the balance.
double WhatIf::toleranceFor(double left) const
{
  constexpr double fine = 0.01;
  constexpr double rough = 0.05;
  constexpr double little = 0.1; // K
  const double taken = changed_.empty() ? 0 : freeNorm(system(), changed_);
  return taken > 0 && rise_ > 0 && left > 0 ? std::clamp(little * taken / (rise_ * left), fine, rough) : fine;
}

/// A step of Newton's method, and where that leaves much a second one with the same tangent, which is the smaller one
/// by far, so that a rough one does.
/// \param left  the balance there; that of the result on return
/// \return how far off it may be, K: a share of the step, of how much the balance fell, or the second step
Expected<double> WhatIf::correct(std::vector<double>& now, std::vector<double>& left)
{
  constexpr double safely = 2;
  constexpr double unsolved = 0.2; // of a step: what is slow is solved less well than the tolerance says
  constexpr double little = 0.5;   // K; or a share of what the values have changed
  constexpr double share = 0.02;
  const std::vector<double> from = now;
  const SparseMatrix tangent = system().tangent(from);
  const auto step = [&](double tolerance) -> Expected<double> {
    std::vector<double> update(left.size(), 0.0);
    const auto divisions =
        coupledStep(system(), tangent, *solved_.solver, from, left, update, tolerance, &solved_.modes);
    if (!divisions)
      return tl::unexpected(divisions.error());
    keepInReach(now, update);
    addTo(now, 1, update);
    left = freeBalance(now);
    return largest(update);
  };
  const double before = freeNorm(system(), left);
  Expected<double> first = step(toleranceFor(before));
  if (!first)
    return first;
  const double fall = before > 0 ? freeNorm(system(), left) / before : 0;
  if (const double error = safely * *first * std::max(unsolved, fall);
      error <= std::max(little, share * largestChange(now)))
    return error;
  Expected<double> second = step(0.3);
  if (!second)
    return second;
  return safely * (*second + unsolved * unsolved * *first);
}

/// \param left  the balance there
CaseResult WhatIf::figures(const Project& atStart, const Case& oneCase, const std::vector<double>& now,
                           const std::vector<double>& left) const
{
  SteadySolution solution;
  solution.temperature = now;
  solution.linearSolver = solved_.solver->name();
  CaseResult result = resultOf(atStart, oneCase, model_->mesh(), model_->meshHash(), model_->conditions(), system(),
                               std::move(solution));
  result.info.residual = freeNorm(system(), left) / std::max({result.heatIn, result.heatOut, result.heatFloor});
  for (std::size_t i = 0; i < std::min(patchErrors_.size(), result.enclosures.size()); ++i)
    result.enclosures[i].patchError = patchErrors_[i];
  return result;
}

Expected<Estimate> WhatIf::at(const Project& base, const Case& oneCase)
{
  const Expected<Project> seen = projectForCase(base, oneCase);
  const Expected<Project> atStart = seen ? steadyProject(*seen, oneCase) : seen;
  if (!atStart)
    return tl::unexpected(atStart.error());
  if (inputHashes(*seen).mesh != model_->meshHash())
    return notFollowed(oneCase, "It changes the mesh.");
  if (auto taken = take(*atStart); !taken)
    return tl::unexpected(taken.error());
  Estimate estimate;
  const bool linear = system().linear();
  std::vector<double> now = linear || before_.empty() ? temperature_ : before_; // what is dragged moves little
  system().applyFixed(now);
  if (auto moved = linear ? superpose(now) : Expected<void>(); !moved)
    return tl::unexpected(moved.error());
  std::vector<double> left;
  if (linear) {
    left = freeBalance(now);
    estimate.result = figures(*atStart, oneCase, now, left);
    constexpr double nothing = 1e-7; // of what flows: a solve asks for no more
    estimate.exact = estimate.result.info.residual <= nothing;
  }
  if (!estimate.exact) {
    const std::vector<double> from = now;
    if (auto moved = linear ? Expected<void>() : predict(now); !moved)
      return tl::unexpected(moved.error());
    left = freeBalance(now);
    const Expected<double> error = correct(now, left);
    if (!error)
      return tl::unexpected(error.error());
    estimate.error = *error;
    if (!linear)
      learn(from, now, *error);
    estimate.result = figures(*atStart, oneCase, now, left);
  }
  estimate.result.mesh = model_->mesh();
  before_ = std::move(now);
  return estimate;
}

} // namespace kiln
