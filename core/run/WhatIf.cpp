// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "run/WhatIf.h"

#include "io/ViewFactorStore.h"
#include "model/ObjectKinds.h"
#include "model/OwnValues.h"
#include "model/SteadyView.h"
#include "run/InputHash.h"
#include "run/ResultOf.h"
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

/// What conducts and what sees what: conditions that differ in nothing of it share it.
bool sameMakeUp(const Project& a, const Project& b)
{
  return a.parts == b.parts && a.materials == b.materials && a.finishes == b.finishes && a.contacts == b.contacts &&
         a.enclosures == b.enclosures;
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
  own->mesh_ = std::make_shared<const Mesh>(solved.mesh);
  own->meshHash_ = solved.meshHash;
  if (auto taken = own->take(*seen, *atStart); !taken)
    return tl::unexpected(taken.error());
  own->solved_.temperature = startFrom(*atStart, own->conditions_, solved);
  SteadyOptions options{.named = &*seen};
  options.shared = &own->solved_;
  Expected<SteadySolution> solution = solveSteady(*own->mesh_, own->conditions_, options, noProgress);
  if (!solution)
    return tl::unexpected(solution.error());
  own->temperature_ = std::move(solution->temperature);
  return own;
}

/// Conditions and system as this project has them.
Expected<void> WhatIf::take(const Project& seen, const Project& atStart)
{
  const bool again = system_ != nullptr && sameMakeUp(seen_, seen);
  Expected<Conditions> conditions =
      again ? resolveAgain(atStart, *mesh_, conditions_)
            : resolveConditions(atStart, *mesh_,
                                storedViewFactors(folder_, std::thread::hardware_concurrency(), noProgress));
  if (!conditions)
    return tl::unexpected(conditions.error());
  if (!temperature_.empty() && static_cast<std::size_t>(conditions->unknowns.count) != temperature_.size())
    return failure(Failure::Kind::NotReady, "project", "What is switched on has changed.", "Solve it.");
  if (again) {
    conditions_ = std::move(*conditions);
    system_->conditionsChanged();
  } else {
    system_.reset();
    conditions_ = std::move(*conditions);
    system_ = std::make_unique<ThermalSystem>(*mesh_, conditions_);
  }
  seen_ = seen;
  return {};
}

std::vector<double> WhatIf::freeBalance(const std::vector<double>& temperature) const
{
  std::vector<double> right = system_->balance(temperature);
  for (std::size_t i = 0; i < right.size(); ++i)
    if (system_->isFixed()[i] != 0)
      right[i] = 0;
  return right;
}

Expected<std::vector<double>> WhatIf::correction(const std::vector<double>& temperature,
                                                 const std::vector<double>& right, double tolerance)
{
  std::vector<double> update(right.size(), 0.0);
  const auto iterations = newtonStep(*system_, solved_.matrix, *solved_.solver, temperature, right, update, tolerance);
  if (!iterations)
    return tl::unexpected(iterations.error());
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

Expected<Estimate> WhatIf::at(const Project& base, const Case& oneCase)
{
  const Expected<Project> seen = projectForCase(base, oneCase);
  const Expected<Project> atStart = seen ? steadyProject(*seen, oneCase) : seen;
  if (!atStart)
    return tl::unexpected(atStart.error());
  if (inputHashes(*seen).mesh != meshHash_)
    return notFollowed(oneCase, "It changes the mesh.");
  if (auto taken = take(*seen, *atStart); !taken)
    return tl::unexpected(taken.error());
  Estimate estimate;
  std::vector<double> now = temperature_;
  system_->applyFixed(now);
  const std::vector<double> right = freeBalance(now);
  constexpr double fine = 1e-10, rough = 1e-4;
  std::vector<double> rise = system_->linear() ? superposed(right) : std::vector<double>();
  if (rise.empty()) {
    auto solved = correction(now, right, system_->linear() ? fine : rough);
    if (!solved)
      return tl::unexpected(solved.error());
    rise = std::move(*solved);
    constexpr std::size_t most = 12;
    if (system_->linear() && responses_.size() < most && largest(right) > 0)
      responses_.push_back({right, rise});
  }
  addTo(now, 1, rise);
  const std::vector<double> left = freeBalance(now);
  constexpr double nothing = 1e-9; // of what flows
  double sum = 0;
  for (const double watts : left)
    sum += std::abs(watts);
  estimate.exact = system_->linear() && sum <= nothing * std::max(system_->throughput(now), system_->noiseFloor(now));
  if (!estimate.exact) {
    auto again = correction(now, left, rough);
    if (!again)
      return tl::unexpected(again.error());
    estimate.error = largest(*again);
    addTo(now, 1, *again);
  }
  SteadySolution solution;
  solution.temperature = std::move(now);
  solution.linearSolver = solved_.solver->name();
  solution.residual = sum;
  estimate.result = resultOf(*atStart, oneCase, *mesh_, meshHash_, conditions_, std::move(solution));
  return estimate;
}

} // namespace kiln
