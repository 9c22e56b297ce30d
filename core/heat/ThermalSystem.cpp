// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "heat/ThermalSystem.h"

#include "heat/Element.h"
#include "heat/Location.h"
#include "heat/SurfaceFlow.h"

#include <algorithm>
#include <cmath>
#include <numeric>

namespace kiln
{
namespace
{

std::size_t at(Index i) { return static_cast<std::size_t>(i); }

} // namespace

ThermalSystem::ThermalSystem(const Mesh& mesh, const Conditions& conditions, bool monotone)
    : mesh_(mesh), conditions_(conditions), monotone_(monotone), load_(at(conditions.unknowns.count), 0.0),
      isFixed_(at(conditions.unknowns.count), 0), elementsOfFace_(elementsByFace(mesh)),
      elements_(mesh, conditions, monotone)
{
  buildPattern();
  assembleConduction();
  conditionsChanged();
}

void ThermalSystem::conditionsChanged()
{
  auto conducted = conduction_.begin();
  for (Index row = 0; row < constant_.rows(); ++row)
    for (Index i = constant_.rowStart[at(row)]; i < constant_.rowStart[at(row) + 1]; ++i)
      if (constant_.columns[at(i)] <= row)
        constant_.values[at(i)] = *conducted++;
  std::fill(load_.begin(), load_.end(), 0.0);
  std::fill(isFixed_.begin(), isFixed_.end(), 0);
  for (const Conditions::Fixed& fixed : conditions_.fixed)
    for (const Index unknown : fixed.unknowns)
      isFixed_[at(unknown)] = 1;
  addConstantSurfaces();
  mirror(constant_);
  addSources();
}

bool ThermalSystem::linear() const
{
  const auto plain = [](const Conditions::FaceConvection& c) { return c.plain(); };
  const auto cold = [](const Conditions::FaceContact& c) { return c.radiation <= 0; };
  return conditions_.radiation.empty() && !elements_.varies() && conditions_.enclosures.empty() &&
         conditions_.terms.empty() &&
         std::all_of(conditions_.sheets.begin(), conditions_.sheets.end(),
                     [](const Conditions::FaceSheet& s) { return s.conductivity->table.empty(); }) &&
         std::all_of(conditions_.convection.begin(), conditions_.convection.end(), plain) &&
         std::all_of(conditions_.crossings.begin(), conditions_.crossings.end(),
                     [](const GapCrossing& crossing) { return crossing.radiation <= 0; }) &&
         std::all_of(conditions_.contacts.begin(), conditions_.contacts.end(), cold);
}

std::string ThermalSystem::unsolvedInside() const
{
  for (const Conditions::Enclosed& enclosed : conditions_.enclosures)
    if (!enclosed.exchange->radiosity().converged())
      return "The light between the surfaces of an enclosure";
  for (const auto& term : conditions_.terms)
    if (!term->converged())
      return "The electric potential";
  return {};
}

bool ThermalSystem::stronglyCoupled() const
{
  return !conditions_.enclosures.empty() || std::any_of(conditions_.terms.begin(), conditions_.terms.end(),
                                                        [](const auto& term) { return term->coupled(); });
}

bool ThermalSystem::hasRest() const
{
  return elements_.varies() || stronglyCoupled() ||
         std::any_of(conditions_.crossings.begin(), conditions_.crossings.end(),
                     [](const GapCrossing& crossing) { return crossing.radiation > 0; });
}

void ThermalSystem::buildPattern()
{
  const Unknowns& unknowns = conditions_.unknowns;
  PatternBuilder builder(unknowns.count);
  elements_.couple(builder);
  for (const Conditions::FaceContact& contact : conditions_.contacts)
    for (const std::int32_t e : elementsOfFace_[at(contact.face)]) {
      const SurfaceNodes first = nodes(at(e), 0);
      const SurfaceNodes second = nodes(at(e), 1);
      std::array<Index, 12> both{};
      std::copy(second.begin(), second.end(), std::copy(first.begin(), first.end(), both.begin()));
      builder.couple(std::span(both.data(), first.count + second.count));
    }
  for (const GapCrossing& crossing : conditions_.crossings)
    crossing.couple(unknowns, builder);
  for (auto lumped = static_cast<Index>(unknowns.node.size()); lumped < unknowns.count; ++lumped)
    builder.couple(std::array{lumped});
  constant_ = builder.build();
  conduction_.resize(elements_.locate(constant_));
  mirror_.resize(constant_.columns.size());
  for (Index row = 0; row < constant_.rows(); ++row)
    for (Index i = constant_.rowStart[at(row)]; i < constant_.rowStart[at(row) + 1]; ++i)
      mirror_[at(i)] = constant_.position(constant_.columns[at(i)], row);
}

void ThermalSystem::mirror(SparseMatrix& matrix) const
{
  for (Index row = 0; row < matrix.rows(); ++row)
    for (Index i = matrix.rowStart[at(row)]; i < matrix.rowStart[at(row) + 1]; ++i)
      if (matrix.columns[at(i)] > row)
        matrix.values[at(i)] = matrix.values[at(mirror_[at(i)])];
}

void ThermalSystem::assembleConduction()
{
  std::fill(conduction_.begin(), conduction_.end(), 0.0);
  elements_.addConstant(conduction_);
  if (monotone_)
    moveWrongWay();
}

void ThermalSystem::moveWrongWay()
{
  std::vector<std::size_t> diagonal; // the last entry of each row of the lower half
  std::size_t next = 0;
  const auto eachLower = [&](auto&& visit) {
    next = 0;
    for (Index row = 0; row < constant_.rows(); ++row)
      for (Index i = constant_.rowStart[at(row)]; i < constant_.rowStart[at(row) + 1]; ++i)
        if (constant_.columns[at(i)] <= row)
          visit(row, constant_.columns[at(i)], next++);
  };
  eachLower([&](Index row, Index column, std::size_t entry) {
    if (row == column)
      diagonal.push_back(entry);
  });
  eachLower([&](Index row, Index column, std::size_t entry) {
    double& value = conduction_[entry];
    if (row == column || value <= 0)
      return;
    conduction_[diagonal[at(row)]] += value;
    conduction_[diagonal[at(column)]] += value;
    value = 0;
  });
}

void ThermalSystem::addBlock(const SurfaceNodes& rows, const SurfaceNodes& columns, const NodeMatrix& block,
                             SparseMatrix& matrix) const
{
  for (std::size_t i = 0; i < rows.count; ++i)
    for (std::size_t j = 0; j < columns.count; ++j) // the upper half is mirrored
      if (columns.own[j] <= rows.own[i])
        matrix.values[at(matrix.position(rows.own[i], columns.own[j]))] +=
            block(static_cast<Eigen::Index>(i), static_cast<Eigen::Index>(j));
}

void ThermalSystem::addConstantSurfaces()
{
  for (const Conditions::FaceContact& c : conditions_.contacts)
    for (const std::int32_t e : elementsOfFace_[at(c.face)]) {
      const NodeMatrix mass = c.conductance * elementMass(mesh_, at(e));
      for (std::size_t row = 0; row < 2; ++row)
        for (std::size_t column = 0; column < 2; ++column)
          addBlock(nodes(at(e), row), nodes(at(e), column), row == column ? mass : NodeMatrix(-mass), constant_);
    }
  for (const GapCrossing& crossing : conditions_.crossings)
    crossing.addConductance(conditions_.unknowns, constant_);
  for (const Conditions::FaceConvection& c : conditions_.convection) {
    if (!c.plain())
      continue;
    for (const std::int32_t e : elementsOfFace_[at(c.face)]) {
      const SurfaceNodes own = nodes(at(e), 0);
      const SurfaceFlow flow = flowOf(c, mesh_, at(e), NodeVector::Zero(static_cast<Eigen::Index>(own.count)));
      for (std::size_t i = 0; i < own.count; ++i)
        load_[at(own.own[i])] += flow.watts[static_cast<Eigen::Index>(i)];
      addBlock(own, own, flow.slope, constant_);
    }
  }
}

void ThermalSystem::addSources()
{
  const auto load = [&](const auto& own, const auto& watts) {
    Eigen::Index i = 0;
    for (const Index u : own)
      load_[at(u)] += watts[i++];
  };
  for (const Conditions::PartHeat& heat : conditions_.partHeat)
    for (std::size_t e = 0; e < tetElements(mesh_); ++e)
      if (elementPart(mesh_, e) == heat.part)
        load(volumeNodes(mesh_, conditions_.unknowns, e), heatInto(heat, mesh_, e));
  for (const Conditions::FaceHeat& heat : conditions_.faceHeat)
    for (const std::int32_t e : elementsOfFace_[at(heat.face)])
      load(nodes(at(e), 0), flowOf(heat, mesh_, at(e)).watts);
  for (const Conditions::PointHeat& heat : conditions_.pointHeat) {
    for (const UnknownShare& own : sharesAt(mesh_, conditions_.unknowns, locate(mesh_, heat.place)))
      load_[at(own.unknown)] += heat.power * own.share;
  }
}

void ThermalSystem::applyFixed(std::span<double> temperature) const
{
  for (const Conditions::Fixed& fixed : conditions_.fixed)
    for (std::size_t i = 0; i < fixed.unknowns.size(); ++i)
      temperature[at(fixed.unknowns[i])] = fixed.temperatureAt(i);
}

std::vector<double> ThermalSystem::balance(std::span<const double> temperature) const
{
  std::vector<double> result(load_.size());
  multiply(constant_, temperature, result);
  for (std::size_t i = 0; i < result.size(); ++i)
    result[i] = load_[i] - result[i];
  elements_.takeVarying(temperature, result);
  const auto add = [&](const SurfaceNodes& own, const NodeVector& watts, double sign) {
    for (std::size_t i = 0; i < own.count; ++i)
      result[at(own.own[i])] += sign * watts[static_cast<Eigen::Index>(i)];
  };
  eachBentFlow(temperature, [&](std::size_t e, const SurfaceFlow& flow) { add(nodes(e, 0), flow.watts, 1); });
  eachGapRadiation(temperature, [&](std::size_t e, const ContactFlow& flow) {
    add(nodes(e, 0), flow.watts, 1);
    add(nodes(e, 1), flow.watts, -1);
  });
  for (const GapCrossing& crossing : conditions_.crossings)
    crossing.addRadiation(conditions_.unknowns, temperature, result);
  for (const Conditions::Enclosed& enclosed : conditions_.enclosures)
    enclosed.exchange->addFlow(conditions_.unknowns, temperature, result);
  for (const auto& term : conditions_.terms) {
    const std::vector<double> flows = term->flows(temperature);
    for (std::size_t i = 0; i < flows.size(); ++i)
      term->receivers().spread(term->receivers()[i], flows[i], result);
  }
  return result;
}

template <class Visit>
void ThermalSystem::eachBentFlow(std::span<const double> temperature, Visit&& visit) const
{
  for (const Conditions::FaceRadiation& r : conditions_.radiation)
    for (const std::int32_t t : elementsOfFace_[at(r.face)])
      visit(at(t), flowOf(r, mesh_, at(t), values(at(t), 0, temperature)));
  for (const Conditions::FaceConvection& c : conditions_.convection)
    if (!c.plain())
      for (const std::int32_t t : elementsOfFace_[at(c.face)])
        visit(at(t), flowOf(c, mesh_, at(t), values(at(t), 0, temperature)));
  for (const Conditions::FaceSheet& s : conditions_.sheets)
    for (const std::int32_t t : elementsOfFace_[at(s.face)])
      visit(at(t), flowOf(s, mesh_, at(t), values(at(t), 0, temperature)));
}

template <class Visit>
void ThermalSystem::eachGapRadiation(std::span<const double> temperature, Visit&& visit) const
{
  for (const Conditions::FaceContact& c : conditions_.contacts)
    if (c.radiation > 0)
      for (const std::int32_t t : elementsOfFace_[at(c.face)])
        visit(at(t), flowOf(Conditions::FaceContact{c.face, 0, c.radiation}, mesh_, at(t),
                            values(at(t), 0, temperature), values(at(t), 1, temperature)));
}

SparseMatrix ThermalSystem::tangent(std::span<const double> temperature) const
{
  SparseMatrix matrix = constant_;
  elements_.addVarying(temperature, matrix.values);
  eachBentFlow(temperature,
               [&](std::size_t e, const SurfaceFlow& flow) { addBlock(nodes(e, 0), nodes(e, 0), flow.slope, matrix); });
  eachGapRadiation(temperature, [&](std::size_t e, const ContactFlow& flow) {
    // Both sides with their mean slope: the symmetric part.
    const NodeMatrix mean = (flow.slopeFirst + flow.slopeSecond) / 2;
    for (std::size_t row = 0; row < 2; ++row)
      for (std::size_t column = 0; column < 2; ++column)
        addBlock(nodes(e, row), nodes(e, column), row == column ? mean : NodeMatrix(-mean), matrix);
  });
  for (const GapCrossing& crossing : conditions_.crossings)
    crossing.addSlope(conditions_.unknowns, temperature, matrix);
  for (const Conditions::Enclosed& enclosed : conditions_.enclosures)
    enclosed.exchange->addSlope(conditions_.unknowns, temperature, matrix);
  addTermSlopes(temperature, matrix);
  mirror(matrix);
  for (Index row = 0; row < matrix.rows(); ++row)
    for (Index i = matrix.rowStart[at(row)]; i < matrix.rowStart[at(row) + 1]; ++i) {
      const Index column = matrix.columns[at(i)];
      if (row != column && (isFixed_[at(row)] != 0 || isFixed_[at(column)] != 0))
        matrix.values[at(i)] = 0;
    }
  return matrix;
}

void ThermalSystem::addTermSlopes(std::span<const double> temperature, SparseMatrix& matrix) const
{
  if (conditions_.terms.empty() && matrix.rows() == static_cast<Index>(conditions_.unknowns.node.size()))
    return;
  for (const auto& term : conditions_.terms)
    term->addSlope(temperature, matrix);
  const auto meshed = static_cast<Index>(conditions_.unknowns.node.size());
  for (Index row = meshed; row < matrix.rows(); ++row)
    if (double& own = matrix.values[at(matrix.position(row, row))]; own <= 0)
      own = 1; // a node that nothing is tied to now
}

std::vector<double> ThermalSystem::restOfTangent(std::span<const double> temperature, std::span<const double> direction,
                                                 double tolerance) const
{
  std::vector<double> result(load_.size(), 0.0);
  elements_.addRest(temperature, direction, result);
  eachGapRadiation(temperature, [&](std::size_t e, const ContactFlow& flow) {
    const NodeMatrix mean = (flow.slopeFirst + flow.slopeSecond) / 2;
    const NodeVector rest =
        (flow.slopeFirst - mean) * values(e, 0, direction) - (flow.slopeSecond - mean) * values(e, 1, direction);
    for (std::size_t side = 0; side < 2; ++side) {
      const SurfaceNodes own = nodes(e, side);
      for (std::size_t i = 0; i < own.count; ++i)
        result[at(own.own[i])] += (side == 0 ? 1 : -1) * rest[static_cast<Eigen::Index>(i)];
    }
  });
  for (const GapCrossing& crossing : conditions_.crossings)
    crossing.addRest(conditions_.unknowns, temperature, direction, result);
  for (const Conditions::Enclosed& enclosed : conditions_.enclosures)
    enclosed.exchange->addRest(conditions_.unknowns, temperature, direction, tolerance, result);
  for (const auto& term : conditions_.terms)
    term->addRest(temperature, direction, result);
  for (std::size_t i = 0; i < result.size(); ++i)
    if (isFixed_[i] != 0)
      result[i] = 0;
  return result;
}

double ThermalSystem::throughput(std::span<const double> temperature) const
{
  double in = 0;
  double out = 0;
  const auto add = [&](double watts) { (watts > 0 ? in : out) += std::abs(watts); };
  const auto sumOver = [&](int face, auto&& flowAt) {
    double watts = 0;
    for (const std::int32_t t : elementsOfFace_[at(face)])
      watts += flowAt(at(t)).watts.sum();
    add(watts);
  };
  for (const Conditions::PartHeat& heat : conditions_.partHeat)
    add(heat.density * mesh_.geometry.parts[at(heat.part)].volume);
  for (const Conditions::FaceHeat& heat : conditions_.faceHeat)
    sumOver(heat.face, [&](std::size_t t) { return flowOf(heat, mesh_, t); });
  for (const Conditions::PointHeat& heat : conditions_.pointHeat)
    add(heat.power);
  for (const Conditions::FaceConvection& c : conditions_.convection)
    sumOver(c.face, [&](std::size_t t) { return flowOf(c, mesh_, t, values(t, 0, temperature)); });
  for (const Conditions::FaceRadiation& r : conditions_.radiation)
    sumOver(r.face, [&](std::size_t t) { return flowOf(r, mesh_, t, values(t, 0, temperature)); });
  for (const Conditions::Enclosed& enclosed : conditions_.enclosures)
    add(enclosed.exchange->throughOpening(enclosed.exchange->light(conditions_.unknowns, temperature)));
  for (const auto& term : conditions_.terms) {
    const std::vector<double> flows = term->flows(temperature);
    add(std::accumulate(flows.begin(), flows.end(), 0.0));
  }
  if (!conditions_.fixed.empty()) {
    const std::vector<double> rest = balance(temperature);
    for (std::size_t i = 0; i < rest.size(); ++i)
      if (isFixed_[i] != 0)
        add(-rest[i]);
  }
  return std::max(in, out);
}

double ThermalSystem::noiseFloor(std::span<const double> temperature) const
{
  constexpr double share = 1e-9; // well above rounding, which is 1e-16 of each term
  double gross = 0;
  for (Index row = 0; row < constant_.rows(); ++row)
    gross += constant_.values[at(constant_.position(row, row))] * std::abs(temperature[at(row)]);
  return share * gross;
}

} // namespace kiln
