// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "heat/ViewFactors.h"

#include "mesh/RayScene.h"
#include "units/Quantity.h"

#include <algorithm>
#include <array>
#include <atomic>
#include <cmath>
#include <numbers>
#include <random>
#include <thread>

namespace kiln
{
namespace
{

constexpr std::size_t dimensions = 5; // which triangle, where in it (2), in which direction (2)

/// An additive recurrence whose steps are powers of the root of x⁶ = x + 1: evenly spread in five dimensions.
/// Source: the generalised golden ratio, x^(d+1) = x + 1.
std::array<double, dimensions> recurrenceSteps()
{
  double root = 1.5;
  for (int i = 0; i < 60; ++i)
    root = std::pow(1 + root, 1.0 / (dimensions + 1));
  std::array<double, dimensions> steps{};
  for (std::size_t d = 0; d < dimensions; ++d)
    steps[d] = std::pow(1 / root, static_cast<double>(d + 1));
  return steps;
}

/// What the rays of one patch met.
struct Hits {
  std::vector<std::pair<std::int32_t, int>> counts; ///< patch, rays; by patch
  int escaped = 0;
};

class Caster
{
public:
  Caster(const Mesh& mesh, const Patches& patches, int rays)
      : mesh_(mesh), patches_(patches), rays_(rays), scene_(mesh, exposedTriangles(mesh)), steps_(recurrenceSteps())
  {
    double size = 0;
    for (const GeometryPart& part : mesh.geometry.parts)
      size = std::max({size, part.high.cwiseAbs().maxCoeff(), part.low.cwiseAbs().maxCoeff()});
    constexpr double grain = 1e-6; // of the model's size: rays are that precise
    nearest_ = grain * size;
  }

  [[nodiscard]] Hits cast(std::size_t patch) const
  {
    const std::vector<std::size_t>& triangles = patches_.triangles[patch];
    std::vector<double> upTo;
    double area = 0;
    for (const std::size_t t : triangles)
      upTo.push_back(area += triangleArea(mesh_, t));
    std::mt19937 random(static_cast<unsigned>(patch) + 1);
    std::array<double, dimensions> at{};
    for (double& value : at)
      value = std::uniform_real_distribution<double>(0, 1)(random);
    std::vector<std::int32_t> met;
    Hits hits;
    for (int i = 0; i < rays_; ++i) {
      for (std::size_t d = 0; d < dimensions; ++d)
        at[d] = std::fmod(at[d] + steps_[d], 1.0);
      const auto chosen = static_cast<std::size_t>(
          std::min<std::ptrdiff_t>(std::upper_bound(upTo.begin(), upTo.end(), at[0] * area) - upTo.begin(),
                                   static_cast<std::ptrdiff_t>(triangles.size()) - 1));
      const std::int32_t other = target(triangles[chosen], at);
      if (other < 0)
        ++hits.escaped;
      else
        met.push_back(other);
    }
    std::sort(met.begin(), met.end());
    for (const std::int32_t other : met) {
      if (hits.counts.empty() || hits.counts.back().first != other)
        hits.counts.emplace_back(other, 0);
      ++hits.counts.back().second;
    }
    return hits;
  }

private:
  /// The patch that one ray meets; -1 for none.
  [[nodiscard]] std::int32_t target(std::size_t triangle, const std::array<double, dimensions>& at) const
  {
    const auto node = [&](std::size_t i) {
      return mesh_.nodes[static_cast<std::size_t>(mesh_.triangles[triangle][i])];
    };
    // Evenly over the triangle.
    const double root = std::sqrt(at[1]);
    const Vec3 place = (1 - root) * node(0) + root * (1 - at[2]) * node(1) + root * at[2] * node(2);
    // By the cosine: a disc lifted onto the hemisphere.
    const Vec3 normal = triangleNormal(mesh_, triangle);
    const Vec3 across = normal.unitOrthogonal();
    const double radius = std::sqrt(at[3]);
    const double turn = 2 * std::numbers::pi * at[4];
    const Vec3 along = radius * std::cos(turn) * across + radius * std::sin(turn) * normal.cross(across) +
                       std::sqrt(1 - at[3]) * normal;
    const auto hit = scene_.first(place, along, nearest_, 1e30);
    return hit ? patches_.ofTriangle[hit->triangle] : -1;
  }

  const Mesh& mesh_;
  const Patches& patches_;
  int rays_;
  RayScene scene_;
  std::array<double, dimensions> steps_;
  double nearest_ = 0;
};

using Exchange = Eigen::SparseMatrix<double, Eigen::RowMajor>;

/// Row sums of the full symmetric matrix.
Eigen::VectorXd rowSums(const Exchange& upper)
{
  const Eigen::VectorXd ones = Eigen::VectorXd::Ones(upper.cols());
  return upper.selfadjointView<Eigen::Upper>() * ones;
}

/// Scales rows and columns alike until every patch sees exactly as much as its area; the rest goes to itself.
void close(ViewFactors& factors)
{
  Exchange& g = factors.exchange;
  constexpr int mostSweeps = 200;
  constexpr double enough = 1e-6; // the diagonal takes the rest, exactly
  for (int sweep = 0; sweep < mostSweeps; ++sweep) {
    const Eigen::VectorXd sums = rowSums(g) + factors.opening;
    const Eigen::VectorXd scale = (factors.area.array() / sums.array()).sqrt();
    if ((scale.array() - 1).abs().maxCoeff() < enough)
      break;
    for (Eigen::Index row = 0; row < g.outerSize(); ++row)
      for (Exchange::InnerIterator entry(g, row); entry; ++entry)
        entry.valueRef() *= scale[row] * scale[entry.col()];
    factors.opening.array() *= scale.array();
  }
  const Eigen::VectorXd rest = factors.area - rowSums(g) - factors.opening;
  for (Eigen::Index row = 0; row < g.outerSize(); ++row)
    g.coeffRef(row, row) += rest[row];
}

std::string placeOf(const Mesh& mesh, const Patches& patches, std::size_t patch)
{
  const Face& face = mesh.geometry.faces[static_cast<std::size_t>(patches.face[patch])];
  return face.names.empty() ? mesh.geometry.parts[static_cast<std::size_t>(face.parts[0])].name : face.names.front();
}

} // namespace

Expected<ViewFactors> castViewFactors(const Mesh& mesh, const Patches& patches, const Eigen::VectorXd& areas, int rays,
                                      bool open, unsigned threads, const Progress& progress)
{
  const Caster caster(mesh, patches, rays);
  std::vector<Hits> hits(patches.count());
  std::atomic<std::size_t> next = 0;
  const auto work = [&] {
    constexpr std::size_t share = 16;
    for (std::size_t begin = next.fetch_add(share); begin < hits.size(); begin = next.fetch_add(share))
      for (std::size_t p = begin; p < std::min(begin + share, hits.size()); ++p)
        hits[p] = caster.cast(p);
  };
  {
    std::vector<std::jthread> helpers;
    for (unsigned i = 1; i < threads; ++i)
      helpers.emplace_back(work);
    work();
  }
  progress("radiation", 0.55, "view factors");

  ViewFactors factors;
  factors.rays = rays;
  factors.area = areas;
  factors.opening = Eigen::VectorXd::Zero(areas.size());
  std::vector<Eigen::Triplet<double>> entries;
  std::vector<Eigen::Triplet<double>> unequal;
  double worst = -1;
  for (std::size_t p = 0; p < hits.size(); ++p) {
    const auto row = static_cast<int>(p);
    const double perRay = areas[row] / rays;
    entries.emplace_back(row, row, 0.0);                // there, so that closing the sums finds its place
    for (const auto& [other, count] : hits[p].counts) { // half of each direction; on the diagonal all of it
      entries.emplace_back(std::min(row, other), std::max(row, other), (row == other ? 1 : 0.5) * count * perRay);
      if (row != other)
        unequal.emplace_back(std::min(row, other), std::max(row, other), (row < other ? 1 : -1) * count * perRay);
    }
    factors.escaped += hits[p].escaped * perRay / areas.sum();
    if (open)
      factors.opening[row] = hits[p].escaped * perRay;
    if (const double share = static_cast<double>(hits[p].escaped) / rays; share > worst) {
      worst = share;
      factors.mostEscaped = p;
    }
    if (hits[p].counts.empty() && (!open || hits[p].escaped == 0))
      return failure(Failure::Kind::NotReady, "", "“" + placeOf(mesh, patches, p) + "” sees none of its surfaces.",
                     "Add the surfaces around the space, or give it an opening to a temperature.");
  }
  constexpr double mostEscaped = 0.01;
  if (!open && factors.escaped > mostEscaped)
    return failure(Failure::Kind::NotReady, "",
                   plainNumber(std::round(factors.escaped * 1000) / 10) +
                       " % of its view meets none of its surfaces, most of it from “" +
                       placeOf(mesh, patches, factors.mostEscaped) + "” (" +
                       plainNumber(std::round(worst * 1000) / 10) + " %).",
                   "Add the surfaces around the space, or give it an opening to a temperature.");
  const auto count = static_cast<Eigen::Index>(hits.size());
  factors.exchange.resize(count, count);
  factors.exchange.setFromTriplets(entries.begin(), entries.end());
  // Both directions of a pair cancel here as far as they agree.
  Exchange difference(count, count);
  difference.setFromTriplets(unequal.begin(), unequal.end());
  double total = 0;
  for (Eigen::Index row = 0; row < count; ++row)
    for (Exchange::InnerIterator entry(factors.exchange, row); entry; ++entry)
      total += (entry.col() == row ? 1 : 2) * entry.value();
  factors.reciprocityError = total > 0 ? difference.coeffs().abs().sum() / total : 0;
  const Eigen::ArrayXd raw = factors.exchange.coeffs();
  close(factors);
  const double changed = (factors.exchange.coeffs() - raw).abs().sum();
  factors.correction = total > 0 ? changed / total : 0;
  return factors;
}

} // namespace kiln
