// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "heat/radiation/EnclosureExchange.h"

#include "base/At.h"
#include "base/InParallel.h"
#include "heat/elements/Element.h"
#include "heat/elements/Radiating.h"
#include "heat/elements/SparseMatrix.h"

#include <algorithm>
#include <cmath>

namespace kiln
{
namespace
{

constexpr std::size_t patchesOfBlock = 64;

Eigen::Index patchAt(std::size_t p) { return static_cast<Eigen::Index>(p); }

} // namespace

EnclosureExchange::EnclosureExchange(FlowOwner owner, const Mesh& mesh, Patches patches, ViewFactors factors,
                                     const Eigen::VectorXd& areaScale, Eigen::VectorXd emissivity,
                                     std::vector<std::shared_ptr<const Property>> curves, std::optional<double> opening)
    : HeatFlow(owner), patches_(std::move(patches)), factors_(std::move(factors)), emissivity_(std::move(emissivity)),
      curves_(std::move(curves)),
      following_(std::any_of(curves_.begin(), curves_.end(), [](const auto& curve) { return curve != nullptr; })),
      opening_(opening), area_(mesh.triangles.size()), shapes_(trianglePieces(mesh.order)),
      radiosity_(factors_, emissivity_, following_)
{
  for (std::size_t p = 0; p < patches_.count(); ++p)
    for (const std::size_t t : patches_.triangles[p]) {
      const SurfacePoints points = pointsOfPiece(mesh, t);
      for (std::size_t i = 0; i < 3; ++i) {
        area_[t][i] = areaScale[patchAt(p)] * points.own[i].area;
        shapes_[t % shapes_.size()][i] = points.own[i].shape;
      }
    }
}

SurfaceNodes EnclosureExchange::nodes(const Unknowns& unknowns, std::size_t triangle) const
{
  SurfaceNodes own;
  const std::size_t pieces = shapes_.size();
  if (pieces == 1) {
    std::copy_n(unknowns.ofTriangle[triangle][0].begin(), 3, own.own.begin());
  } else {
    own.own = sixOf(
        triangle / pieces, [&](std::size_t piece) -> const auto& { return unknowns.ofTriangle[piece][0]; });
    own.count = 6;
  }
  return own;
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
      const NodeVector own = valuesAt(nodes(unknowns, t), temperature);
      eachPoint(t, [&](const NodeVector& shape, double part) {
        sum += part * shape.dot(own);
        area += part;
      });
    }
    emissivity_[patchAt(p)] = valueAt(*curves_[p], sum / area).value;
  }
  radiosity_.setEmissivity(emissivity_);
}

PatchLight EnclosureExchange::light(const Unknowns& unknowns, std::span<const double> temperature) const
{
  follow(unknowns, temperature);
  Eigen::VectorXd emitted = emissivity_.cwiseProduct(blackLight(unknowns, temperature));
  const auto isOf = [&](const Known& one) { return one.emitted.size() == emitted.size() && one.emitted == emitted; };
  if (isOf(known_[1]))
    std::swap(known_[0], known_[1]);
  if (!isOf(known_[0]) || following_) {
    PatchLight light = radiosity_.solve(emitted, openingLight(), 1e-13, reflected_);
    std::swap(known_[0], known_[1]);
    known_[0] = {std::move(emitted), std::move(light)};
  }
  return known_[0].light;
}

/// σ T⁴ by patch, W/m².
Eigen::VectorXd EnclosureExchange::blackLight(const Unknowns& unknowns, std::span<const double> temperature) const
{
  Eigen::VectorXd light(patchAt(patches_.count()));
  inBlocks(patches_.count(), patchesOfBlock, [&](std::size_t first, std::size_t end) {
    for (std::size_t p = first; p < end; ++p) {
      double sum = 0;
      for (const std::size_t t : patches_.triangles[p]) {
        const NodeVector own = valuesAt(nodes(unknowns, t), temperature);
        eachPoint(t, [&](const NodeVector& shape, double area) { sum += area * fourth(shape.dot(own)); });
      }
      light[patchAt(p)] = stefanBoltzmann * sum / factors_.area[patchAt(p)];
    }
  });
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
      Radiosity(joined, emissivity, true).solve(emitted.cwiseQuotient(joined.area), openingLight(), enough, guess);
  Eigen::VectorXd received(patchAt(patches_.count()));
  for (std::size_t p = 0; p < patches_.count(); ++p) {
    const Eigen::Index pair = pairOf[p];
    received[patchAt(p)] =
        factors_.area[patchAt(p)] * (emissivity[pair] * light.arriving[pair] - emitted[pair] / joined.area[pair]);
  }
  return received;
}

NodeVector EnclosureExchange::triangleFlow(const Unknowns& unknowns, std::span<const double> temperature,
                                           const PatchLight& light, std::size_t triangle) const
{
  const Eigen::Index p = patches_.ofTriangle[triangle];
  const NodeVector own = valuesAt(nodes(unknowns, triangle), temperature);
  NodeVector flow = NodeVector::Zero(own.size());
  eachPoint(triangle, [&](const NodeVector& shape, double area) {
    flow += emissivity_[p] * area * (light.arriving[p] - stefanBoltzmann * fourth(shape.dot(own))) * shape;
  });
  return flow;
}

std::vector<NodeVector> EnclosureExchange::flowsOf(const Unknowns& unknowns, std::span<const double> temperature) const
{
  const PatchLight now = light(unknowns, temperature);
  std::vector<NodeVector> flows(area_.size());
  inBlocks(patches_.count(), patchesOfBlock, [&](std::size_t first, std::size_t end) {
    for (std::size_t p = first; p < end; ++p)
      for (const std::size_t t : patches_.triangles[p])
        flows[t] = triangleFlow(unknowns, temperature, now, t);
  });
  return flows;
}

double EnclosureExchange::openingLight() const { return opening_ ? stefanBoltzmann * fourth(*opening_) : 0; }

std::optional<Bend> EnclosureExchange::bend() const { return bendOfRadiation; }

void EnclosureExchange::addFlow(const HeatGround& ground, std::span<const double> temperature,
                                std::span<double> balance) const
{
  const std::vector<NodeVector> flows = flowsOf(ground.unknowns(), temperature);
  for (const auto& triangles : patches_.triangles)
    for (const std::size_t t : triangles)
      addTo(nodes(ground.unknowns(), t), flows[t], balance);
}

void EnclosureExchange::arrivals(const HeatGround& ground, const FlowState& state, std::span<const char>,
                                 const ArrivalVisit& visit) const
{
  const std::vector<NodeVector> flows = flowsOf(ground.unknowns(), state.temperature);
  for (const auto& triangles : patches_.triangles)
    for (const std::size_t t : triangles) {
      const NodeVector& flow = flows[t];
      const SurfaceNodes own = nodes(ground.unknowns(), t);
      const FaceId face = ground.mesh().triangleFace[t];
      visit({ground.partAt(face, 0),
             face,
             {own.begin(), own.count},
             {flow.data(), static_cast<std::size_t>(flow.size())}});
    }
}

std::vector<FlowFigure> EnclosureExchange::figures(const HeatGround& ground, const FlowState& state) const
{
  const double opening = throughOpening(light(ground.unknowns(), state.temperature));
  return {{owner(), opening, opening}};
}

void EnclosureExchange::outside(const HeatGround&, TemperatureSpan& span) const
{
  if (opening_)
    span.take(*opening_);
}

std::string_view EnclosureExchange::unsolved() const
{
  return radiosity_.converged() ? "" : "The light between the surfaces of an enclosure";
}

void EnclosureExchange::addSlope(const HeatGround& ground, std::span<const double> temperature,
                                 SparseMatrix& matrix) const
{
  const Unknowns& unknowns = ground.unknowns();
  for (std::size_t p = 0; p < patches_.count(); ++p)
    for (const std::size_t t : patches_.triangles[p]) {
      const SurfaceNodes own = nodes(unknowns, t);
      const NodeVector values = valuesAt(own, temperature);
      const double factor = emissivity_[patchAt(p)] * stefanBoltzmann;
      NodeMatrix block = NodeMatrix::Zero(values.size(), values.size());
      eachPoint(t, [&](const NodeVector& shape, double area) {
        block += factor * area * slopeOfFourth(shape.dot(values)) * shape * shape.transpose();
      });
      for (std::size_t i = 0; i < own.count; ++i)
        for (std::size_t j = 0; j < own.count; ++j) // the upper half is mirrored
          if (const double slope = block(static_cast<Eigen::Index>(i), static_cast<Eigen::Index>(j));
              slope != 0 && own.own[j] <= own.own[i])
            matrix.values[at(matrix.position(own.own[i], own.own[j]))] += slope;
    }
}

const EnclosureExchange::Coupling& EnclosureExchange::couplingAt(const Unknowns& unknowns,
                                                                 std::span<const double> temperature) const
{
  Coupling& own = coupling_;
  if (std::equal(temperature.begin(), temperature.end(), own.temperature.begin(), own.temperature.end()))
    return own;
  own = {};
  own.temperature.assign(temperature.begin(), temperature.end());
  own.start.push_back(0);
  std::vector<std::size_t> entryOf(temperature.size(), 0); // one more than where an unknown is; 0: nowhere yet
  for (std::size_t p = 0; p < patches_.count(); ++p) {
    const std::size_t first = own.unknown.size();
    for (const std::size_t t : patches_.triangles[p]) {
      const SurfaceNodes around = nodes(unknowns, t);
      const NodeVector values = valuesAt(around, temperature);
      NodeVector emits = NodeVector::Zero(values.size());
      NodeVector takes = emits;
      eachPoint(t, [&](const NodeVector& shape, double area) {
        emits += area * slopeOfFourth(shape.dot(values)) * shape;
        takes += area * shape;
      });
      for (std::size_t n = 0; n < around.count; ++n) {
        std::size_t& entry = entryOf[at(around.own[n])];
        if (entry <= first) {
          own.unknown.push_back(around.own[n]);
          own.emits.push_back(0);
          own.takes.push_back(0);
          entry = own.unknown.size();
        }
        own.emits[entry - 1] += emits[patchAt(n)];
        own.takes[entry - 1] += takes[patchAt(n)];
      }
    }
    own.start.push_back(own.unknown.size());
  }
  return own;
}

void EnclosureExchange::addRest(const HeatGround& ground, std::span<const double> temperature,
                                std::span<const double> direction, double tolerance, std::span<double> rest) const
{
  follow(ground.unknowns(), temperature);
  const Coupling& coupling = couplingAt(ground.unknowns(), temperature);
  Eigen::VectorXd emitted(patchAt(patches_.count()));
  for (std::size_t p = 0; p < patches_.count(); ++p) {
    double sum = 0;
    for (std::size_t k = coupling.start[p]; k < coupling.start[p + 1]; ++k)
      sum += coupling.emits[k] * direction[at(coupling.unknown[k])];
    emitted[patchAt(p)] = emissivity_[patchAt(p)] * stefanBoltzmann * sum / factors_.area[patchAt(p)];
  }
  Eigen::VectorXd guess;
  const PatchLight change = radiosity_.solve(emitted, 0, tolerance, guess);
  for (std::size_t p = 0; p < patches_.count(); ++p) {
    const double watts = emissivity_[patchAt(p)] * change.arriving[patchAt(p)];
    for (std::size_t k = coupling.start[p]; k < coupling.start[p + 1]; ++k)
      rest[at(coupling.unknown[k])] -= watts * coupling.takes[k];
  }
}

Eigen::VectorXd EnclosureExchange::received(const PatchLight& light) const
{
  return factors_.area.cwiseProduct(light.arriving - light.leaving);
}

double EnclosureExchange::throughOpening(const PatchLight& light) const { return -outOfOpening(light).sum(); }

Eigen::VectorXd EnclosureExchange::outOfOpening(const PatchLight& light) const
{
  return factors_.opening.cwiseProduct((light.leaving.array() - openingLight()).matrix());
}

} // namespace kiln
