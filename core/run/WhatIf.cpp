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
  std::vector<double> update(right.size(), 0.0);
  const auto iterations =
      newtonStep(system(), solved_.matrix, *solved_.solver, temperature, right, update, fine, &solved_.modes);
  if (!iterations)
    return tl::unexpected(iterations.error());
  return update;
}

/// Of Newton's method: the tangent is that of now, only what divides by it roughly is the solved state's.
Expected<std::vector<double>> WhatIf::correction(const std::vector<double>& temperature,
                                                 const std::vector<double>& right, double tolerance)
{
  std::vector<double> update(right.size(), 0.0);
  const auto divisions = coupledStep(system(), system().tangent(temperature), *solved_.solver, temperature, right,
                                     update, tolerance, &solved_.modes);
  if (!divisions)
    return tl::unexpected(divisions.error());
  keepInReach(temperature, update);
  return update;
}

/// Least squares over the known loads; it counts where nothing is left.
std::vector<double> WhatIf::superposed(const std::vector<double>& right) const
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
  constexpr double rounding = 1e-10;
  return largest(left) <= rounding * largest(right) ? rise : std::vector<double>();
}

/// By the known responses, or by one more.
Expected<void> WhatIf::superpose(std::vector<double>& now)
{
  const std::vector<double> right = freeBalance(now);
  std::vector<double> rise = superposed(right);
  if (rise.empty()) {
    auto solved = response(now, right);
    if (!solved)
      return tl::unexpected(solved.error());
    rise = std::move(*solved);
    constexpr std::size_t most = 12;
    if (responses_.size() < most && largest(right) > 0)
      responses_.push_back({right, rise});
  }
  addTo(now, 1, rise);
  return {};
}

/// Two steps of Newton's method. The second is the smaller one by far, so that a rough one does.
/// \param left  the balance there; that of the result on return
/// \return how far off it may be, K: by the second step
Expected<double> WhatIf::correct(std::vector<double>& now, std::vector<double>& left)
{
  constexpr double first = 1e-4;
  constexpr double second = 0.01;
  constexpr double safely = 2; // the second step is not solved to its end
  double size = 0;
  for (const double tolerance : {first, second}) {
    const auto update = correction(now, left, tolerance);
    if (!update)
      return tl::unexpected(update.error());
    size = largest(*update);
    addTo(now, 1, *update);
    left = freeBalance(now);
  }
  return safely * size;
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
  std::vector<double> now =
      system().linear() || before_.empty() ? temperature_ : before_; // what is dragged moves little
  system().applyFixed(now);
  if (auto moved = system().linear() ? superpose(now) : Expected<void>(); !moved)
    return tl::unexpected(moved.error());
  std::vector<double> left = freeBalance(now);
  const auto share = [&] {
    return freeNorm(system(), left) / std::max(system().throughput(now), system().noiseFloor(now));
  };
  double leftOver = system().linear() ? share() : 1;
  constexpr double nothing = 1e-7; // of what flows: a solve asks for no more
  estimate.exact = system().linear() && leftOver <= nothing;
  if (!estimate.exact) {
    const Expected<double> error = correct(now, left);
    if (!error)
      return tl::unexpected(error.error());
    estimate.error = *error;
    leftOver = share();
  }
  before_ = now;
  SteadySolution solution;
  solution.residual = leftOver;
  solution.temperature = std::move(now);
  solution.linearSolver = solved_.solver->name();
  estimate.result = resultOf(*atStart, oneCase, model_->mesh(), model_->meshHash(), model_->conditions(), system(),
                             std::move(solution));
  estimate.result.mesh = model_->mesh();
  return estimate;
}

} // namespace kiln
