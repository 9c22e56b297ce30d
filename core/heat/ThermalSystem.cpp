// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "heat/ThermalSystem.h"

#include "heat/Element.h"
#include "heat/Location.h"

#include <algorithm>
#include <cmath>

namespace kiln
{
namespace
{

std::size_t at(Index i) { return static_cast<std::size_t>(i); }

/// Conductances of a linear tetrahedron, lower triangle row by row (00 10 11 20 21 22 30 31 32 33), W/K.
/// The same as tetConductance<1>, written out for the hot loop.
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

} // namespace

ThermalSystem::ThermalSystem(const Mesh& mesh, const Conditions& conditions)
    : mesh_(mesh), conditions_(conditions), load_(at(conditions.unknowns.count), 0.0),
      isFixed_(at(conditions.unknowns.count), 0), trianglesOfFace_(mesh.geometry.faces.size())
{
  for (std::size_t t = 0; t < mesh.triangles.size(); ++t)
    trianglesOfFace_[at(mesh.triangleFace[t])].push_back(static_cast<std::int32_t>(t));
  for (const Conditions::Fixed& fixed : conditions.fixed)
    for (const Index unknown : fixed.unknowns)
      isFixed_[at(unknown)] = 1;
  buildPattern();
  assembleConduction();
  addContacts();
  addConvection();
  addSources();
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

void ThermalSystem::assembleConduction()
{
  std::fill(constant_.values.begin(), constant_.values.end(), 0.0);
  for (std::size_t t = 0; t < mesh_.tets.size(); ++t) {
    const auto conductance = linearConductance(mesh_, mesh_.tets[t], conditions_.conductivity[at(mesh_.tetPart[t])]);
    const std::array<Index, 10>& positions = tetPositions_[t];
    for (std::size_t k = 0; k < 10; ++k)
      constant_.values[at(positions[k])] += conductance[k];
  }
  for (Index row = 0; row < constant_.rows(); ++row)
    for (Index i = constant_.rowStart[at(row)]; i < constant_.rowStart[at(row) + 1]; ++i)
      if (constant_.columns[at(i)] > row)
        constant_.values[at(i)] = constant_.values[at(mirror_[at(i)])];
}

void ThermalSystem::addContacts()
{
  for (const Conditions::FaceContact& contact : conditions_.contacts)
    for (const std::int32_t t : trianglesOfFace_[at(contact.face)]) {
      const auto mass = triangleMass<1>(contact.conductance * triangleArea(mesh_, at(t)));
      const auto& sides = conditions_.unknowns.ofTriangle[at(t)];
      for (int i = 0; i < 3; ++i)
        for (int j = 0; j < 3; ++j)
          for (std::size_t s = 0; s < 2; ++s)
            for (std::size_t r = 0; r < 2; ++r)
              constant_.values[at(constant_.position(sides[s][at(i)], sides[r][at(j)]))] +=
                  s == r ? mass(i, j) : -mass(i, j);
    }
}

void ThermalSystem::addConvection()
{
  for (const Conditions::FaceConvection& c : conditions_.convection)
    for (const std::int32_t t : trianglesOfFace_[at(c.face)]) {
      const double area = triangleArea(mesh_, at(t));
      const auto mass = triangleMass<1>(c.coefficient * area);
      const auto& own = conditions_.unknowns.ofTriangle[at(t)][0];
      for (int i = 0; i < 3; ++i) {
        load_[at(own[at(i)])] += c.coefficient * c.ambient * area / 3;
        for (int j = 0; j < 3; ++j)
          constant_.values[at(constant_.position(own[at(i)], own[at(j)]))] += mass(i, j);
      }
    }
}

void ThermalSystem::addSources()
{
  for (const Conditions::PartHeat& heat : conditions_.partHeat)
    for (std::size_t t = 0; t < mesh_.tets.size(); ++t)
      if (mesh_.tetPart[t] == heat.part)
        for (const Index unknown : conditions_.unknowns.ofTet[t])
          load_[at(unknown)] += heat.density * tetVolume(mesh_, t) / 4;
  for (const Conditions::FaceHeat& heat : conditions_.faceHeat)
    for (const std::int32_t t : trianglesOfFace_[at(heat.face)])
      for (const Index unknown : conditions_.unknowns.ofTriangle[at(t)][0])
        load_[at(unknown)] += heat.flux * triangleArea(mesh_, at(t)) / 3;
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
    for (const Index unknown : fixed.unknowns)
      temperature[at(unknown)] = fixed.temperature;
}

std::vector<double> ThermalSystem::balance(std::span<const double> temperature) const
{
  std::vector<double> result(load_.size());
  multiply(constant_, temperature, result);
  for (std::size_t i = 0; i < result.size(); ++i)
    result[i] = load_[i] - result[i];
  for (const Conditions::FaceRadiation& r : conditions_.radiation) {
    const double incoming = std::pow(r.surroundings, 4);
    for (const std::int32_t t : trianglesOfFace_[at(r.face)]) {
      const auto& own = conditions_.unknowns.ofTriangle[at(t)][0];
      const Vec3 corners(temperature[at(own[0])], temperature[at(own[1])], temperature[at(own[2])]);
      const double factor = stefanBoltzmann * r.emissivity * triangleArea(mesh_, at(t));
      for (const TrianglePoint& point : trianglePoints()) {
        const double local = point.l.dot(corners);
        const double flux = factor * point.weight * (incoming - local * local * local * local);
        for (std::size_t i = 0; i < 3; ++i)
          result[at(own[i])] += flux * point.l[static_cast<Eigen::Index>(i)];
      }
    }
  }
  return result;
}

SparseMatrix ThermalSystem::tangent(std::span<const double> temperature) const
{
  SparseMatrix matrix = constant_;
  for (const Conditions::FaceRadiation& r : conditions_.radiation)
    for (const std::int32_t t : trianglesOfFace_[at(r.face)]) {
      const auto& own = conditions_.unknowns.ofTriangle[at(t)][0];
      const Vec3 corners(temperature[at(own[0])], temperature[at(own[1])], temperature[at(own[2])]);
      const double factor = 4 * stefanBoltzmann * r.emissivity * triangleArea(mesh_, at(t));
      Eigen::Matrix3d slope = Eigen::Matrix3d::Zero();
      for (const TrianglePoint& point : trianglePoints())
        slope +=
            factor * point.weight * std::pow(std::max(point.l.dot(corners), 0.0), 3) * point.l * point.l.transpose();
      for (int i = 0; i < 3; ++i)
        for (int j = 0; j < 3; ++j)
          matrix.values[at(matrix.position(own[at(i)], own[at(j)]))] += slope(i, j);
    }
  for (Index row = 0; row < matrix.rows(); ++row)
    for (Index i = matrix.rowStart[at(row)]; i < matrix.rowStart[at(row) + 1]; ++i) {
      const Index column = matrix.columns[at(i)];
      if (row != column && (isFixed_[at(row)] != 0 || isFixed_[at(column)] != 0))
        matrix.values[at(i)] = 0;
    }
  return matrix;
}

double ThermalSystem::throughput(std::span<const double> temperature) const
{
  double in = 0;
  double out = 0;
  const auto add = [&](double watts) { (watts > 0 ? in : out) += std::abs(watts); };
  for (const Conditions::PartHeat& heat : conditions_.partHeat)
    add(heat.density * mesh_.geometry.parts[at(heat.part)].volume);
  for (const Conditions::FaceHeat& heat : conditions_.faceHeat)
    add(heat.flux * mesh_.geometry.faces[at(heat.face)].area);
  for (const Conditions::PointHeat& heat : conditions_.pointHeat)
    add(heat.power);
  const auto onFace = [&](int face, auto fluxAt) {
    double watts = 0;
    for (const std::int32_t t : trianglesOfFace_[at(face)]) {
      const auto& own = conditions_.unknowns.ofTriangle[at(t)][0];
      const double mean = (temperature[at(own[0])] + temperature[at(own[1])] + temperature[at(own[2])]) / 3;
      watts += fluxAt(mean) * triangleArea(mesh_, at(t));
    }
    add(watts);
  };
  for (const Conditions::FaceConvection& c : conditions_.convection)
    onFace(c.face, [&](double mean) { return c.coefficient * (c.ambient - mean); });
  for (const Conditions::FaceRadiation& r : conditions_.radiation)
    onFace(r.face, [&](double mean) {
      return stefanBoltzmann * r.emissivity * (std::pow(r.surroundings, 4) - std::pow(mean, 4));
    });
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
