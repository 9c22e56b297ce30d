// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "heat/ThermalSystem.h"

#include "base/At.h"
#include "base/InParallel.h"

#include <algorithm>
#include <cmath>

namespace kiln
{
ThermalSystem::ThermalSystem(const Mesh& mesh, const Conditions& conditions, bool monotone)
    : mesh_(mesh), conditions_(conditions), ground_(mesh, conditions.unknowns),
      conduction_(mesh, conditions.unknowns, conditions.conductivity, monotone),
      load_(at(conditions.unknowns.count), 0.0), isFixed_(at(conditions.unknowns.count), 0)
{
  buildPattern();
  assembleLasting();
  conditionsChanged();
}

void ThermalSystem::assembleLasting()
{
  std::fill(constant_.values.begin(), constant_.values.end(), 0.0);
  lastingLoad_.assign(load_.size(), 0.0);
  eachFlow([&](const HeatFlow& flow) {
    if (flow.lasting())
      flow.addConstant(ground_, constant_, lastingLoad_);
  });
  lasting_.clear();
  lasting_.reserve((constant_.values.size() + load_.size()) / 2);
  for (std::size_t row = 0; row < load_.size(); ++row)
    lasting_.insert(lasting_.end(), constant_.values.begin() + constant_.rowStart[row],
                    constant_.values.begin() + diagonal_[row] + 1);
}

void ThermalSystem::conditionsChanged()
{
  inBlocks(load_.size(), rowsOfBlock, [&](std::size_t first, std::size_t end) {
    for (std::size_t row = first; row < end; ++row)
      std::copy_n(lasting_.begin() + lower_[row], diagonal_[row] + 1 - constant_.rowStart[row],
                  constant_.values.begin() + constant_.rowStart[row]);
  });
  load_ = lastingLoad_;
  std::fill(isFixed_.begin(), isFixed_.end(), 0);
  eachFlow([&](const HeatFlow& flow) {
    if (!flow.lasting())
      flow.addConstant(ground_, constant_, load_);
    flow.held([&](UnknownId unknown, double) { isFixed_[at(unknown)] = 1; });
  });
  mirror(constant_);
}

bool ThermalSystem::linear() const
{
  bool bends = false;
  eachFlow([&](const HeatFlow& flow) { bends = bends || flow.bend(); });
  return !bends;
}

std::string ThermalSystem::unsolvedInside() const
{
  std::string_view unsolved;
  eachFlow([&](const HeatFlow& flow) { unsolved = unsolved.empty() ? flow.unsolved() : unsolved; });
  return std::string(unsolved);
}

bool ThermalSystem::stronglyCoupled() const
{
  bool strongly = false;
  eachFlow([&](const HeatFlow& flow) { strongly = strongly || flow.rest() >= HeatFlow::Rest::Strong; });
  return strongly;
}

bool ThermalSystem::hasRest() const
{
  bool any = false;
  eachFlow([&](const HeatFlow& flow) { any = any || flow.rest() != HeatFlow::Rest::None; });
  return any;
}

void ThermalSystem::buildPattern()
{
  const Unknowns& unknowns = conditions_.unknowns;
  PatternBuilder builder(unknowns.count);
  eachFlow([&](const HeatFlow& flow) { flow.couple(ground_, builder); });
  for (UnknownId lumped(unknowns.node.size()); lumped < unknowns.count; ++lumped)
    builder.couple(std::array{lumped});
  constant_ = builder.build();
  conduction_.locate(constant_);
  Index lower = 0;
  for (Index row = 0; row < constant_.rows(); ++row) {
    diagonal_.push_back(constant_.position(row, row));
    lower_.push_back(lower);
    lower += diagonal_.back() + 1 - constant_.rowStart[at(row)];
  }
  mirror_.resize(constant_.columns.size() - at(lower));
  std::vector<Index> next(constant_.rowStart.begin(), constant_.rowStart.end() - 1); // of the lower half, by row
  auto mirrored = mirror_.begin();
  for (std::size_t row = 0; row < load_.size(); ++row)
    for (Index i = diagonal_[row] + 1; i < constant_.rowStart[row + 1]; ++i)
      *mirrored++ = next[at(constant_.columns[at(i)])]++; // rows come in the order of that row's columns
}

void ThermalSystem::mirror(SparseMatrix& matrix) const
{
  inBlocks(load_.size(), rowsOfBlock, [&](std::size_t first, std::size_t end) {
    for (std::size_t row = first; row < end; ++row) {
      const Index* mirrored = mirror_.data() + matrix.rowStart[row] - lower_[row];
      for (Index i = diagonal_[row] + 1; i < matrix.rowStart[row + 1]; ++i)
        matrix.values[at(i)] = matrix.values[at(*mirrored++)];
    }
  });
}

void ThermalSystem::applyFixed(std::span<double> temperature) const
{
  eachFlow([&](const HeatFlow& flow) {
    flow.held([&](UnknownId unknown, double kelvin) { temperature[at(unknown)] = kelvin; });
  });
}

std::vector<double> ThermalSystem::balance(std::span<const double> temperature) const
{
  std::vector<double> result(load_.size());
  multiply(constant_, temperature, result);
  for (std::size_t i = 0; i < result.size(); ++i)
    result[i] = load_[i] - result[i];
  eachFlow([&](const HeatFlow& flow) { flow.addFlow(ground_, temperature, result); });
  return result;
}

std::vector<double> ThermalSystem::reaction(std::span<const double> temperature, std::span<const double> storing) const
{
  std::vector<double> held(load_.size(), 0.0);
  if (std::none_of(isFixed_.begin(), isFixed_.end(), [](char fixed) { return fixed != 0; }))
    return held;
  const std::vector<double> rest = balance(temperature);
  for (std::size_t i = 0; i < held.size(); ++i)
    if (isFixed_[i] != 0)
      held[i] = (storing.empty() ? 0 : storing[i]) - rest[i];
  return held;
}

SparseMatrix ThermalSystem::tangent(std::span<const double> temperature) const
{
  SparseMatrix matrix = constant_;
  eachFlow([&](const HeatFlow& flow) { flow.addSlope(ground_, temperature, matrix); });
  for (auto row = static_cast<Index>(conditions_.unknowns.node.size()); row < matrix.rows(); ++row)
    if (double& own = matrix.values[at(diagonal_[at(row)])]; own <= 0)
      own = 1; // a node that nothing is tied to now
  mirror(matrix);
  inBlocks(load_.size(), rowsOfBlock, [&](std::size_t first, std::size_t end) {
    for (std::size_t row = first; row < end; ++row)
      for (Index i = matrix.rowStart[row]; i < matrix.rowStart[row + 1]; ++i)
        if (i != diagonal_[row] && (isFixed_[row] != 0 || isFixed_[at(matrix.columns[at(i)])] != 0))
          matrix.values[at(i)] = 0;
  });
  return matrix;
}

std::vector<double> ThermalSystem::restOfTangent(std::span<const double> temperature, std::span<const double> direction,
                                                 double tolerance) const
{
  std::vector<double> result(load_.size(), 0.0);
  eachFlow([&](const HeatFlow& flow) { flow.addRest(ground_, temperature, direction, tolerance, result); });
  for (std::size_t i = 0; i < result.size(); ++i)
    if (isFixed_[i] != 0)
      result[i] = 0;
  return result;
}

std::vector<std::vector<double>> ThermalSystem::enclosedRests(std::span<const double> temperature,
                                                              std::span<const double> direction, double tolerance) const
{
  std::vector<std::vector<double>> rests;
  eachFlow([&](const HeatFlow& flow) {
    if (flow.rest() != HeatFlow::Rest::Enclosed)
      return;
    std::vector<double>& own = rests.emplace_back(load_.size(), 0.0);
    flow.addRest(ground_, temperature, direction, tolerance, own);
    for (std::size_t i = 0; i < own.size(); ++i)
      if (isFixed_[i] != 0)
        own[i] = 0;
  });
  return rests;
}

double ThermalSystem::throughput(std::span<const double> temperature) const
{
  const std::vector<double> held = reaction(temperature);
  Passing passing;
  eachFlow([&](const HeatFlow& flow) { flow.addPassing(ground_, {temperature, held}, passing); });
  return std::max(passing.in, passing.out);
}

std::map<int, double> ThermalSystem::bySource(std::span<const double> temperature) const
{
  std::map<int, double> watts;
  eachFlow([&](const HeatFlow& flow) {
    if (flow.owner().kind == FlowOwner::Kind::Source)
      for (const FlowFigure& figure : flow.figures(ground_, {temperature, {}}))
        watts[figure.owner.index] += figure.fromOutside;
  });
  return watts;
}

double ThermalSystem::noiseFloor(std::span<const double> temperature) const
{
  constexpr double share = 1e-9; // well above rounding, which is 1e-16 of each term
  double gross = 0;
  for (std::size_t row = 0; row < load_.size(); ++row)
    gross += constant_.values[at(diagonal_[row])] * std::abs(temperature[row]);
  return share * gross;
}

} // namespace kiln
