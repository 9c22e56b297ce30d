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

std::array<double, 10> linearConductance(const Mesh& mesh, const Tet& tet, const Eigen::Matrix3d& k)
{
  const Vec3& a = mesh.nodes[at(tet[0])];
  const Vec3 e1 = mesh.nodes[at(tet[1])] - a;
  const Vec3 e2 = mesh.nodes[at(tet[2])] - a;
  const Vec3 e3 = mesh.nodes[at(tet[3])] - a;
  const Vec3 g1 = e2.cross(e3);
  const Vec3 g2 = e3.cross(e1);
  const Vec3 g3 = e1.cross(e2);
  const double sixVolumes = e1.dot(g1);
  const double scale = 1 / (6 * sixVolumes);
  const Vec3 k1 = k * g1 * scale;
  const Vec3 k2 = k * g2 * scale;
  const Vec3 k3 = k * g3 * scale;
  const double c11 = g1.dot(k1);
  const double c21 = g2.dot(k1);
  const double c22 = g2.dot(k2);
  const double c31 = g3.dot(k1);
  const double c32 = g3.dot(k2);
  const double c33 = g3.dot(k3);
  const double c10 = -(c11 + c21 + c31);
  const double c20 = -(c21 + c22 + c32);
  const double c30 = -(c31 + c32 + c33);
  return {-(c10 + c20 + c30), c10, c11, c20, c21, c22, c30, c31, c32, c33};
}

ThermalSystem::ThermalSystem(const Mesh& mesh, const Conditions& conditions)
    : mesh_(mesh), conditions_(conditions), load_(at(conditions.unknowns.count), 0.0),
      isFixed_(at(conditions.unknowns.count), 0), trianglesOfFace_(mesh.geometry.faces.size())
{
  for (std::size_t t = 0; t < mesh.triangles.size(); ++t)
    trianglesOfFace_[at(mesh.triangleFace[t])].push_back(static_cast<std::int32_t>(t));
  buildPattern();
  for (std::size_t t = 0; t < mesh.tets.size(); ++t)
    if (!conductivityOf(t).constant())
      varyingTets_.push_back(t);
  assembleConduction();
  conduction_ = constant_.values;
  conditionsChanged();
}

void ThermalSystem::conditionsChanged()
{
  constant_.values = conduction_;
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
  return conditions_.radiation.empty() && varyingTets_.empty() && conditions_.enclosures.empty() &&
         conditions_.terms.empty() &&
         std::all_of(conditions_.sheets.begin(), conditions_.sheets.end(),
                     [](const Conditions::FaceSheet& s) { return s.conductivity->table.empty(); }) &&
         std::all_of(conditions_.convection.begin(), conditions_.convection.end(), plain) &&
         std::all_of(conditions_.crossings.begin(), conditions_.crossings.end(),
                     [](const GapCrossing& crossing) { return crossing.radiation <= 0; }) &&
         std::all_of(conditions_.contacts.begin(), conditions_.contacts.end(), cold);
}

bool ThermalSystem::stronglyCoupled() const
{
  return !conditions_.enclosures.empty() || std::any_of(conditions_.terms.begin(), conditions_.terms.end(),
                                                        [](const auto& term) { return term->coupled(); });
}

bool ThermalSystem::hasRest() const
{
  return !varyingTets_.empty() || stronglyCoupled() ||
         std::any_of(conditions_.crossings.begin(), conditions_.crossings.end(),
                     [](const GapCrossing& crossing) { return crossing.radiation > 0; });
}

ThermalSystem::TetState ThermalSystem::stateOf(std::size_t tet, std::span<const double> temperature) const
{
  TetState state;
  for (std::size_t i = 0; i < 4; ++i)
    state.corners[static_cast<Eigen::Index>(i)] = temperature[at(conditions_.unknowns.ofTet[tet][i])];
  state.mean = state.corners.mean();
  return state;
}

Eigen::Vector4d ThermalSystem::conducted(std::size_t tet, const Eigen::Matrix3d& k,
                                         const Eigen::Vector4d& corners) const
{
  const auto c = linearConductance(mesh_, mesh_.tets[tet], k);
  return {c[0] * corners[0] + c[1] * corners[1] + c[3] * corners[2] + c[6] * corners[3],
          c[1] * corners[0] + c[2] * corners[1] + c[4] * corners[2] + c[7] * corners[3],
          c[3] * corners[0] + c[4] * corners[1] + c[5] * corners[2] + c[8] * corners[3],
          c[6] * corners[0] + c[7] * corners[1] + c[8] * corners[2] + c[9] * corners[3]};
}

void ThermalSystem::buildPattern()
{
  const Unknowns& unknowns = conditions_.unknowns;
  PatternBuilder builder(unknowns.count);
  for (const auto& tet : unknowns.ofTet)
    builder.couple(tet);
  for (const Conditions::FaceContact& contact : conditions_.contacts)
    for (const std::int32_t t : trianglesOfFace_[at(contact.face)]) {
      const auto& [a, b] = unknowns.ofTriangle[at(t)];
      builder.couple(std::array{a[0], a[1], a[2], b[0], b[1], b[2]});
    }
  for (const GapCrossing& crossing : conditions_.crossings)
    crossing.couple(unknowns, builder);
  for (auto lumped = static_cast<Index>(unknowns.node.size()); lumped < unknowns.count; ++lumped)
    builder.couple(std::array{lumped});
  constant_ = builder.build();
  tetPositions_.reserve(unknowns.ofTet.size());
  for (const auto& tet : unknowns.ofTet) {
    std::array<Index, 10>& positions = tetPositions_.emplace_back();
    std::size_t k = 0;
    for (std::size_t i = 0; i < 4; ++i)
      for (std::size_t j = 0; j <= i; ++j) // below the diagonal; the rest is mirrored
        positions[k++] = constant_.position(std::max(tet[i], tet[j]), std::min(tet[i], tet[j]));
  }
  mirror_.resize(constant_.columns.size());
  for (Index row = 0; row < constant_.rows(); ++row)
    for (Index i = constant_.rowStart[at(row)]; i < constant_.rowStart[at(row) + 1]; ++i)
      mirror_[at(i)] = constant_.position(constant_.columns[at(i)], row);
}

void ThermalSystem::addTet(std::size_t tet, const Eigen::Matrix3d& k, SparseMatrix& matrix) const
{
  const auto conductance = linearConductance(mesh_, mesh_.tets[tet], k);
  const std::array<Index, 10>& positions = tetPositions_[tet];
  for (std::size_t i = 0; i < 10; ++i)
    matrix.values[at(positions[i])] += conductance[i];
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
  std::fill(constant_.values.begin(), constant_.values.end(), 0.0);
  for (std::size_t t = 0; t < mesh_.tets.size(); ++t)
    if (const Conductivity& k = conductivityOf(t); k.constant())
      addTet(t, k.at(0), constant_);
}

void ThermalSystem::addTriangle(std::size_t triangle, std::size_t row, std::size_t column, const Eigen::Matrix3d& block,
                                SparseMatrix& matrix) const
{
  const auto& sides = conditions_.unknowns.ofTriangle[triangle];
  for (int i = 0; i < 3; ++i)
    for (int j = 0; j < 3; ++j) // the upper half is mirrored
      if (sides[column][at(j)] <= sides[row][at(i)])
        matrix.values[at(matrix.position(sides[row][at(i)], sides[column][at(j)]))] += block(i, j);
}

Vec3 ThermalSystem::corners(std::size_t triangle, std::size_t side, std::span<const double> temperature) const
{
  const auto& own = conditions_.unknowns.ofTriangle[triangle][side];
  return {temperature[at(own[0])], temperature[at(own[1])], temperature[at(own[2])]};
}

void ThermalSystem::addConstantSurfaces()
{
  for (const Conditions::FaceContact& c : conditions_.contacts)
    for (const std::int32_t t : trianglesOfFace_[at(c.face)]) {
      const Eigen::Matrix3d mass = triangleMass<1>(c.conductance * triangleArea(mesh_, at(t)));
      for (std::size_t row = 0; row < 2; ++row)
        for (std::size_t column = 0; column < 2; ++column)
          addTriangle(at(t), row, column, row == column ? mass : Eigen::Matrix3d(-mass), constant_);
    }
  for (const GapCrossing& crossing : conditions_.crossings)
    crossing.addConductance(conditions_.unknowns, constant_);
  for (const Conditions::FaceConvection& c : conditions_.convection) {
    if (!c.plain())
      continue;
    for (const std::int32_t t : trianglesOfFace_[at(c.face)]) {
      const TriangleFlow flow = flowOf(c, mesh_, at(t), Vec3::Zero());
      const auto& own = conditions_.unknowns.ofTriangle[at(t)][0];
      for (int i = 0; i < 3; ++i)
        load_[at(own[at(i)])] += flow.watts[i];
      addTriangle(at(t), 0, 0, flow.slope, constant_);
    }
  }
}

void ThermalSystem::addSources()
{
  for (const Conditions::PartHeat& heat : conditions_.partHeat)
    for (std::size_t t = 0; t < mesh_.tets.size(); ++t)
      if (mesh_.tetPart[t] == heat.part)
        for (const Index unknown : conditions_.unknowns.ofTet[t])
          load_[at(unknown)] += densityIn(heat, mesh_, t) * tetVolume(mesh_, t) / 4;
  for (const Conditions::FaceHeat& heat : conditions_.faceHeat)
    for (const std::int32_t t : trianglesOfFace_[at(heat.face)]) {
      const TriangleFlow flow = flowOf(heat, mesh_, at(t));
      for (std::size_t i = 0; i < 3; ++i)
        load_[at(conditions_.unknowns.ofTriangle[at(t)][0][i])] += flow.watts[static_cast<Eigen::Index>(i)];
    }
  for (const Conditions::PointHeat& heat : conditions_.pointHeat) {
    const Location location = locate(mesh_, heat.place);
    for (std::size_t i = 0; i < 4; ++i)
      load_[at(conditions_.unknowns.ofTet[location.tet][i])] +=
          heat.power * location.weights[static_cast<Eigen::Index>(i)];
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
  for (const std::size_t t : varyingTets_) {
    const TetState state = stateOf(t, temperature);
    const Eigen::Vector4d out = conducted(t, conductivityOf(t).at(state.mean), state.corners);
    for (std::size_t i = 0; i < 4; ++i)
      result[at(conditions_.unknowns.ofTet[t][i])] -= out[static_cast<Eigen::Index>(i)];
  }
  eachBentFlow(temperature, [&](std::size_t t, const TriangleFlow& flow) {
    for (std::size_t i = 0; i < 3; ++i)
      result[at(conditions_.unknowns.ofTriangle[t][0][i])] += flow.watts[static_cast<Eigen::Index>(i)];
  });
  eachGapRadiation(temperature, [&](std::size_t t, const ContactFlow& flow) {
    for (std::size_t i = 0; i < 3; ++i) {
      result[at(conditions_.unknowns.ofTriangle[t][0][i])] += flow.watts[static_cast<Eigen::Index>(i)];
      result[at(conditions_.unknowns.ofTriangle[t][1][i])] -= flow.watts[static_cast<Eigen::Index>(i)];
    }
  });
  for (const GapCrossing& crossing : conditions_.crossings)
    crossing.addRadiation(conditions_.unknowns, temperature, result);
  for (const Conditions::Enclosed& enclosed : conditions_.enclosures)
    enclosed.exchange->addFlow(conditions_.unknowns, temperature, result);
  for (const auto& term : conditions_.terms) {
    const std::vector<double> flows = term->flows(temperature);
    for (std::size_t i = 0; i < flows.size(); ++i)
      result[at(term->receivers()[i].unknown)] += flows[i];
  }
  return result;
}

template <class Visit>
void ThermalSystem::eachBentFlow(std::span<const double> temperature, Visit&& visit) const
{
  for (const Conditions::FaceRadiation& r : conditions_.radiation)
    for (const std::int32_t t : trianglesOfFace_[at(r.face)])
      visit(at(t), flowOf(r, mesh_, at(t), corners(at(t), 0, temperature)));
  for (const Conditions::FaceConvection& c : conditions_.convection)
    if (!c.plain())
      for (const std::int32_t t : trianglesOfFace_[at(c.face)])
        visit(at(t), flowOf(c, mesh_, at(t), corners(at(t), 0, temperature)));
  for (const Conditions::FaceSheet& s : conditions_.sheets)
    for (const std::int32_t t : trianglesOfFace_[at(s.face)])
      visit(at(t), flowOf(s, mesh_, at(t), corners(at(t), 0, temperature)));
}

template <class Visit>
void ThermalSystem::eachGapRadiation(std::span<const double> temperature, Visit&& visit) const
{
  for (const Conditions::FaceContact& c : conditions_.contacts)
    if (c.radiation > 0)
      for (const std::int32_t t : trianglesOfFace_[at(c.face)])
        visit(at(t), flowOf(Conditions::FaceContact{c.face, 0, c.radiation}, mesh_, at(t),
                            corners(at(t), 0, temperature), corners(at(t), 1, temperature)));
}

SparseMatrix ThermalSystem::tangent(std::span<const double> temperature) const
{
  SparseMatrix matrix = constant_;
  for (const std::size_t t : varyingTets_)
    addTet(t, conductivityOf(t).at(stateOf(t, temperature).mean), matrix);
  eachBentFlow(temperature, [&](std::size_t t, const TriangleFlow& flow) { addTriangle(t, 0, 0, flow.slope, matrix); });
  eachGapRadiation(temperature, [&](std::size_t t, const ContactFlow& flow) {
    // Both sides with their mean slope: the symmetric part.
    const Eigen::Matrix3d mean = (flow.slopeFirst + flow.slopeSecond) / 2;
    for (std::size_t row = 0; row < 2; ++row)
      for (std::size_t column = 0; column < 2; ++column)
        addTriangle(t, row, column, row == column ? mean : Eigen::Matrix3d(-mean), matrix);
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
  std::vector<double> diagonal(load_.size(), 0.0);
  for (const auto& term : conditions_.terms)
    term->addSlope(temperature, diagonal);
  const auto meshed = static_cast<Index>(conditions_.unknowns.node.size());
  for (Index row = 0; row < matrix.rows(); ++row) {
    double& own = matrix.values[at(matrix.position(row, row))];
    own += diagonal[at(row)];
    if (row >= meshed && own <= 0)
      own = 1; // a node that nothing is tied to now
  }
}

std::vector<double> ThermalSystem::restOfTangent(std::span<const double> temperature, std::span<const double> direction,
                                                 double tolerance) const
{
  std::vector<double> result(load_.size(), 0.0);
  for (const std::size_t t : varyingTets_) {
    const TetState state = stateOf(t, temperature);
    const Eigen::Vector4d out = conducted(t, conductivityOf(t).slopeAt(state.mean), state.corners);
    const double along = stateOf(t, direction).mean;
    for (std::size_t i = 0; i < 4; ++i)
      result[at(conditions_.unknowns.ofTet[t][i])] += out[static_cast<Eigen::Index>(i)] * along;
  }
  eachGapRadiation(temperature, [&](std::size_t t, const ContactFlow& flow) {
    const Eigen::Matrix3d mean = (flow.slopeFirst + flow.slopeSecond) / 2;
    const Vec3 rest =
        (flow.slopeFirst - mean) * corners(t, 0, direction) - (flow.slopeSecond - mean) * corners(t, 1, direction);
    for (std::size_t i = 0; i < 3; ++i) {
      result[at(conditions_.unknowns.ofTriangle[t][0][i])] += rest[static_cast<Eigen::Index>(i)];
      result[at(conditions_.unknowns.ofTriangle[t][1][i])] -= rest[static_cast<Eigen::Index>(i)];
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
    for (const std::int32_t t : trianglesOfFace_[at(face)])
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
    sumOver(c.face, [&](std::size_t t) { return flowOf(c, mesh_, t, corners(t, 0, temperature)); });
  for (const Conditions::FaceRadiation& r : conditions_.radiation)
    sumOver(r.face, [&](std::size_t t) { return flowOf(r, mesh_, t, corners(t, 0, temperature)); });
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
