// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "heat/EnclosureExchange.h"

#include "heat/Element.h"
#include "heat/ThermalSystem.h"

#include <algorithm>
#include <cmath>

namespace kiln
{
namespace
{

std::size_t at(Index i) { return static_cast<std::size_t>(i); }
Eigen::Index patchAt(std::size_t p) { return static_cast<Eigen::Index>(p); }
constexpr double black = 1 - 1e-9;
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
      opening_(opening), area_(mesh.triangles.size(), 0.0), greyIndex_(patches_.count(), -1)
{
  for (std::size_t p = 0; p < patches_.count(); ++p)
    for (const std::size_t t : patches_.triangles[p])
      area_[t] = areaScale[patchAt(p)] * triangleArea(mesh, t);
  for (Eigen::Index p = 0; p < emissivity_.size(); ++p)
    if (emissivity_[p] < black || (following_ && curves_[static_cast<std::size_t>(p)])) {
      emissivity_[p] = std::min(emissivity_[p], black);
      greyIndex_[static_cast<std::size_t>(p)] = patchAt(grey_.size());
      grey_.push_back(p);
    }
  if (grey_.empty())
    return;
  std::vector<Eigen::Triplet<double>> entries;
  for (std::size_t i = 0; i < grey_.size(); ++i)
    entries.emplace_back(i, i, factors_.area[grey_[i]] / (1 - emissivity_[grey_[i]]));
  for (Eigen::Index row = 0; row < factors_.exchange.outerSize(); ++row)
    for (Eigen::SparseMatrix<double, Eigen::RowMajor>::InnerIterator entry(factors_.exchange, row); entry; ++entry) {
      const Eigen::Index i = greyIndex_[static_cast<std::size_t>(row)];
      const Eigen::Index j = greyIndex_[static_cast<std::size_t>(entry.col())];
      if (i >= 0 && j >= 0)
        entries.emplace_back(i, j, -entry.value());
    }
  matrix_.resize(patchAt(grey_.size()), patchAt(grey_.size()));
  matrix_.setFromTriplets(entries.begin(), entries.end());
  // Where all is fairly dark a few iterations are quicker than a factor; mirrors need one.
  constexpr std::size_t mostDense = 4500; // patches; 160 MB
  constexpr double shiny = 0.4;
  const double brightest = emissivity_(grey_).minCoeff();
  if (grey_.size() <= mostDense && !following_ && brightest < shiny) {
    dense_ = std::make_unique<Eigen::LLT<Eigen::MatrixXd>>(
        Eigen::MatrixXd(Eigen::MatrixXd(matrix_).selfadjointView<Eigen::Upper>()));
    return;
  }
  solver_ = std::make_unique<Eigen::ConjugateGradient<Eigen::SparseMatrix<double>, Eigen::Upper>>();
  solver_->compute(matrix_);
}

Eigen::VectorXd EnclosureExchange::times(const Eigen::VectorXd& leaving) const
{
  return factors_.exchange.selfadjointView<Eigen::Upper>() * leaving;
}

/// \param emitted    ε σ T⁴ by patch, W/m²
/// \param tolerance  of what leaves, relative
/// \param guess      what leaves the grey patches, first guess on entry, solution on return; may be empty
PatchLight EnclosureExchange::solve(const Eigen::VectorXd& emitted, double openingLight, double tolerance,
                                    Eigen::VectorXd& guess) const
{
  PatchLight light{emitted, {}};
  if (!grey_.empty()) {
    // What reaches the grey patches from black ones and the opening is known.
    Eigen::VectorXd known = factors_.opening * openingLight;
    if (grey_.size() < patches_.count()) {
      Eigen::VectorXd black = emitted;
      for (const Eigen::Index p : grey_)
        black[p] = 0;
      known += times(black);
    }
    Eigen::VectorXd right(patchAt(grey_.size()));
    for (std::size_t i = 0; i < grey_.size(); ++i)
      right[patchAt(i)] = factors_.area[grey_[i]] / (1 - emissivity_[grey_[i]]) * emitted[grey_[i]] + known[grey_[i]];
    if (dense_) {
      guess = dense_->solve(right);
    } else {
      solver_->setTolerance(tolerance);
      if (guess.size() != right.size())
        guess = Eigen::VectorXd::Zero(right.size());
      guess = solver_->solveWithGuess(right, guess).eval();
    }
    const Eigen::VectorXd& leaving = guess;
    for (std::size_t i = 0; i < grey_.size(); ++i)
      light.leaving[grey_[i]] = leaving[patchAt(i)];
  }
  if (dense_ && grey_.size() == patches_.count() && emissivity_.maxCoeff() < 0.99) {
    // What arrives follows from what leaves: J = ε σ T⁴ + (1 − ε) H.
    light.arriving = (light.leaving - emitted).cwiseQuotient((1 - emissivity_.array()).matrix());
    return light;
  }
  light.arriving = (times(light.leaving) + factors_.opening * openingLight).cwiseQuotient(factors_.area);
  return light;
}

void EnclosureExchange::follow(const Unknowns& unknowns, std::span<const double> temperature) const
{
  if (!following_)
    return;
  for (std::size_t i = 0; i < grey_.size(); ++i) {
    const auto p = static_cast<std::size_t>(grey_[i]);
    if (!curves_[p])
      continue;
    double sum = 0;
    double area = 0;
    for (const std::size_t t : patches_.triangles[p]) {
      sum += area_[t] * corners(unknowns, t, temperature).mean();
      area += area_[t];
    }
    const double emissivity = std::min(valueAt(*curves_[p], sum / area).value, black);
    emissivity_[grey_[i]] = emissivity;
    matrix_.coeffRef(patchAt(i), patchAt(i)) =
        factors_.area[grey_[i]] / (1 - emissivity) - factors_.exchange.coeff(grey_[i], grey_[i]);
  }
  solver_->compute(matrix_);
}

Vec3 EnclosureExchange::corners(const Unknowns& unknowns, std::size_t triangle, std::span<const double> field) const
{
  const auto& own = unknowns.ofTriangle[triangle][0];
  return {field[at(own[0])], field[at(own[1])], field[at(own[2])]};
}

PatchLight EnclosureExchange::light(const Unknowns& unknowns, std::span<const double> temperature) const
{
  follow(unknowns, temperature);
  return solve(emissivity_.cwiseProduct(blackLight(unknowns, temperature)), stefanBoltzmann * fourth(opening_), 1e-13,
               leaving_);
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
  Eigen::VectorXd area = Eigen::VectorXd::Zero(pairs);
  Eigen::VectorXd emitted = area; // W
  Eigen::VectorXd known = area;   // W, from the opening
  Eigen::VectorXd emissivity(pairs);
  for (std::size_t p = 0; p < patches_.count(); ++p) {
    const Eigen::Index i = patchAt(p);
    area[pairOf[p]] += factors_.area[i];
    emitted[pairOf[p]] += factors_.area[i] * emissivity_[i] * black[i];
    known[pairOf[p]] += factors_.opening[i] * stefanBoltzmann * fourth(opening_);
    emissivity[pairOf[p]] = emissivity_[i];
  }
  std::vector<Eigen::Triplet<double>> entries;
  entries.reserve(static_cast<std::size_t>(factors_.exchange.nonZeros()));
  for (Eigen::Index row = 0; row < factors_.exchange.outerSize(); ++row)
    for (Eigen::SparseMatrix<double, Eigen::RowMajor>::InnerIterator entry(factors_.exchange, row); entry; ++entry) {
      const auto [a, b] =
          std::minmax(pairOf[static_cast<std::size_t>(row)], pairOf[static_cast<std::size_t>(entry.col())]);
      entries.emplace_back(a, b, (a == b && row != entry.col() ? 2 : 1) * entry.value());
    }
  Eigen::SparseMatrix<double, Eigen::RowMajor> seen(pairs, pairs); // A F, upper half
  seen.setFromTriplets(entries.begin(), entries.end());
  // J = ε σ T⁴ + (1 − ε) H, A H = A F J + known: black ones too, as 1 − ε may be zero.
  const auto arriving = [&](const Eigen::VectorXd& leaving) -> Eigen::VectorXd {
    return (seen.selfadjointView<Eigen::Upper>() * leaving + known).cwiseQuotient(area);
  };
  Eigen::VectorXd leaving = emitted.cwiseQuotient(area);
  Eigen::VectorXd light = arriving(leaving);
  constexpr int mostRounds = 2000;
  constexpr double enough = 1e-8;
  for (int round = 0; round < mostRounds; ++round) {
    const Eigen::VectorXd next = emitted.cwiseQuotient(area) + (1 - emissivity.array()).matrix().cwiseProduct(light);
    const double change = (next - leaving).cwiseAbs().maxCoeff();
    leaving = next;
    light = arriving(leaving);
    if (change <= enough * leaving.cwiseAbs().maxCoeff())
      break;
  }
  Eigen::VectorXd received(patchAt(patches_.count()));
  for (std::size_t p = 0; p < patches_.count(); ++p)
    received[patchAt(p)] = factors_.area[patchAt(p)] / area[pairOf[p]] *
                           (area[pairOf[p]] * emissivity[pairOf[p]] * light[pairOf[p]] - emitted[pairOf[p]]);
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
  const PatchLight change = solve(emitted, 0, tolerance, guess);
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
