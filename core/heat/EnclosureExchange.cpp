// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "heat/EnclosureExchange.h"

#include "heat/Element.h"
#include "heat/SparseMatrix.h"
#include "heat/ThermalSystem.h"

#include <algorithm>
#include <cmath>

namespace kiln
{
namespace
{

std::size_t at(Index i) { return static_cast<std::size_t>(i); }
Eigen::Index patchAt(std::size_t p) { return static_cast<Eigen::Index>(p); }
double fourth(double value) { return value * value * value * value; }
double slopeOfT4(double temperature)
{
  const double positive = std::max(temperature, 0.0);
  return 4 * positive * positive * positive;
}

} // namespace

EnclosureExchange::EnclosureExchange(const Mesh& mesh, Patches patches, ViewFactors factors,
                                     const Eigen::VectorXd& areaScale, Eigen::VectorXd emissivity,
                                     std::vector<std::shared_ptr<const Property>> curves, double opening)
    : patches_(std::move(patches)), factors_(std::move(factors)), emissivity_(std::move(emissivity)),
      curves_(std::move(curves)),
      following_(std::any_of(curves_.begin(), curves_.end(), [](const auto& curve) { return curve != nullptr; })),
      opening_(opening), area_(mesh.triangles.size(), 0.0), radiosity_(factors_, emissivity_, following_)
{
  for (std::size_t p = 0; p < patches_.count(); ++p)
    for (const std::size_t t : patches_.triangles[p])
      area_[t] = areaScale[patchAt(p)] * triangleArea(mesh, t);
}

void EnclosureExchange::follow(const Unknowns& unknowns, std::span<const double> temperature) const
{
  if (!following_)
    return;
  for (std::size_t p = 0; p < patches_.count(); ++p) {
    if (!curves_[p])
      continue;
    double sum = 0;
    double area = 0;
    for (const std::size_t t : patches_.triangles[p]) {
      sum += area_[t] * corners(unknowns, t, temperature).mean();
      area += area_[t];
    }
    emissivity_[patchAt(p)] = valueAt(*curves_[p], sum / area).value;
  }
  radiosity_.setEmissivity(emissivity_);
}

Vec3 EnclosureExchange::corners(const Unknowns& unknowns, std::size_t triangle, std::span<const double> field) const
{
  const auto& own = unknowns.ofTriangle[triangle][0];
  return {field[at(own[0])], field[at(own[1])], field[at(own[2])]};
}

PatchLight EnclosureExchange::light(const Unknowns& unknowns, std::span<const double> temperature) const
{
  follow(unknowns, temperature);
  Eigen::VectorXd emitted = emissivity_.cwiseProduct(blackLight(unknowns, temperature));
  if (emitted.size() != last_.first.size() || emitted != last_.first || following_) {
    PatchLight light = radiosity_.solve(emitted, stefanBoltzmann * fourth(opening_), 1e-13, reflected_);
    last_ = {std::move(emitted), std::move(light)};
  }
  return last_.second;
}

/// σ T⁴ by patch, W/m².
Eigen::VectorXd EnclosureExchange::blackLight(const Unknowns& unknowns, std::span<const double> temperature) const
{
  Eigen::VectorXd light(patchAt(patches_.count()));
  for (std::size_t p = 0; p < patches_.count(); ++p) {
    double sum = 0;
    for (const std::size_t t : patches_.triangles[p]) {
      const Vec3 own = corners(unknowns, t, temperature);
      for (const TrianglePoint& point : trianglePoints())
        sum += point.weight * area_[t] * fourth(point.l.dot(own));
    }
    light[patchAt(p)] = stefanBoltzmann * sum / factors_.area[patchAt(p)];
  }
  return light;
}

Eigen::VectorXd EnclosureExchange::receivedByPairs(const Unknowns& unknowns, std::span<const double> temperature) const
{
  follow(unknowns, temperature);
  // Halving leaves the two halves of a group next to each other.
  std::vector<Eigen::Index> pairOf(patches_.count());
  Eigen::Index pairs = 0;
  for (std::size_t p = 0; p < patches_.count(); ++p) {
    const bool second = p > 0 && patches_.face[p] == patches_.face[p - 1] &&
                        emissivity_[patchAt(p)] == emissivity_[patchAt(p - 1)] &&
                        (p < 2 || pairOf[p - 1] != pairOf[p - 2]);
    pairOf[p] = second ? pairs - 1 : pairs++;
  }
  const Eigen::VectorXd black = blackLight(unknowns, temperature);
  const Eigen::VectorXd none = Eigen::VectorXd::Zero(pairs);
  ViewFactors joined{UpperHalf(pairs, pairs), none, none, none};
  Eigen::VectorXd emitted = none; // W
  Eigen::VectorXd emissivity(pairs);
  for (std::size_t p = 0; p < patches_.count(); ++p) {
    const Eigen::Index i = patchAt(p);
    joined.area[pairOf[p]] += factors_.area[i];
    joined.self[pairOf[p]] += factors_.self[i];
    joined.opening[pairOf[p]] += factors_.opening[i];
    emitted[pairOf[p]] += factors_.area[i] * emissivity_[i] * black[i];
    emissivity[pairOf[p]] = emissivity_[i];
  }
  std::vector<Eigen::Triplet<float>> entries;
  entries.reserve(static_cast<std::size_t>(factors_.exchange.nonZeros()));
  for (Eigen::Index row = 0; row < factors_.exchange.outerSize(); ++row)
    for (UpperHalf::InnerIterator entry(factors_.exchange, row); entry; ++entry) {
      const auto [a, b] =
          std::minmax(pairOf[static_cast<std::size_t>(row)], pairOf[static_cast<std::size_t>(entry.col())]);
      if (a == b)
        joined.self[a] += 2 * static_cast<double>(entry.value());
      else
        entries.emplace_back(a, b, entry.value());
    }
  joined.exchange.setFromTriplets(entries.begin(), entries.end());
  Eigen::VectorXd guess;
  constexpr double enough = 1e-9;
  const PatchLight light =
      Radiosity(joined, emissivity, true)
          .solve(emitted.cwiseQuotient(joined.area), stefanBoltzmann * fourth(opening_), enough, guess);
  Eigen::VectorXd received(patchAt(patches_.count()));
  for (std::size_t p = 0; p < patches_.count(); ++p) {
    const Eigen::Index pair = pairOf[p];
    received[patchAt(p)] =
        factors_.area[patchAt(p)] * (emissivity[pair] * light.arriving[pair] - emitted[pair] / joined.area[pair]);
  }
  return received;
}

Vec3 EnclosureExchange::triangleFlow(const Unknowns& unknowns, std::span<const double> temperature,
                                     const PatchLight& light, std::size_t triangle) const
{
  const Eigen::Index p = patches_.ofTriangle[triangle];
  const double factor = emissivity_[p] * area_[triangle];
  const Vec3 own = corners(unknowns, triangle, temperature);
  Vec3 flow = Vec3::Zero();
  for (const TrianglePoint& point : trianglePoints())
    flow += factor * point.weight * (light.arriving[p] - stefanBoltzmann * fourth(point.l.dot(own))) * point.l;
  return flow;
}

void EnclosureExchange::addFlow(const Unknowns& unknowns, std::span<const double> temperature,
                                std::span<double> received) const
{
  const PatchLight now = light(unknowns, temperature);
  for (const auto& triangles : patches_.triangles)
    for (const std::size_t t : triangles) {
      const Vec3 flow = triangleFlow(unknowns, temperature, now, t);
      for (std::size_t i = 0; i < 3; ++i)
        received[at(unknowns.ofTriangle[t][0][i])] += flow[static_cast<Eigen::Index>(i)];
    }
}

void EnclosureExchange::addSlope(const Unknowns& unknowns, std::span<const double> temperature,
                                 SparseMatrix& matrix) const
{
  for (std::size_t p = 0; p < patches_.count(); ++p)
    for (const std::size_t t : patches_.triangles[p]) {
      const Vec3 own = corners(unknowns, t, temperature);
      const double factor = emissivity_[patchAt(p)] * area_[t] * stefanBoltzmann;
      Eigen::Matrix3d block = Eigen::Matrix3d::Zero();
      for (const TrianglePoint& point : trianglePoints())
        block += factor * point.weight * slopeOfT4(point.l.dot(own)) * point.l * point.l.transpose();
      const auto& node = unknowns.ofTriangle[t][0];
      for (int i = 0; i < 3; ++i)
        for (int j = 0; j < 3; ++j) // the upper half is mirrored
          if (node[at(j)] <= node[at(i)])
            matrix.values[at(matrix.position(node[at(i)], node[at(j)]))] += block(i, j);
    }
}

void EnclosureExchange::addRest(const Unknowns& unknowns, std::span<const double> temperature,
                                std::span<const double> direction, double tolerance, std::span<double> rest) const
{
  follow(unknowns, temperature);
  Eigen::VectorXd emitted(patchAt(patches_.count()));
  for (std::size_t p = 0; p < patches_.count(); ++p) {
    double sum = 0;
    for (const std::size_t t : patches_.triangles[p]) {
      const Vec3 own = corners(unknowns, t, temperature);
      const Vec3 along = corners(unknowns, t, direction);
      for (const TrianglePoint& point : trianglePoints())
        sum += point.weight * area_[t] * slopeOfT4(point.l.dot(own)) * point.l.dot(along);
    }
    const Eigen::Index i = patchAt(p);
    emitted[i] = emissivity_[i] * stefanBoltzmann * sum / factors_.area[i];
  }
  Eigen::VectorXd guess;
  const PatchLight change = radiosity_.solve(emitted, 0, tolerance, guess);
  for (std::size_t p = 0; p < patches_.count(); ++p)
    for (const std::size_t t : patches_.triangles[p]) {
      const Eigen::Index i = patchAt(p);
      const double watts = emissivity_[i] * area_[t] * change.arriving[i];
      for (const Index node : unknowns.ofTriangle[t][0])
        rest[at(node)] -= watts / 3;
    }
}

Eigen::VectorXd EnclosureExchange::received(const PatchLight& light) const
{
  return factors_.area.cwiseProduct(light.arriving - light.leaving);
}

double EnclosureExchange::throughOpening(const PatchLight& light) const { return -outOfOpening(light).sum(); }

Eigen::VectorXd EnclosureExchange::outOfOpening(const PatchLight& light) const
{
  return factors_.opening.cwiseProduct((light.leaving.array() - stefanBoltzmann * fourth(opening_)).matrix());
}

} // namespace kiln
