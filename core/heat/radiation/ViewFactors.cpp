// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "heat/radiation/ViewFactors.h"

#include "mesh/RayScene.h"
#include "units/Quantity.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <numbers>
#include <random>
#include <tbb/enumerable_thread_specific.h>
#include <tbb/parallel_for.h>
#include <tbb/task_arena.h>

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

  /// \param counter  of every patch, zero on entry and on return
  [[nodiscard]] Hits cast(std::size_t patch, std::vector<int>& counter) const
  {
    std::vector<Source> sources;
    std::vector<double> upTo;
    double area = 0;
    for (const std::size_t t : patches_.triangles[patch]) {
      upTo.push_back(area += triangleArea(mesh_, t));
      sources.push_back(sourceOf(t));
    }
    // The sequence belongs to the place, not to the number of the patch.
    const std::vector<std::size_t>& own = patches_.triangles[patch];
    std::mt19937 random(static_cast<unsigned>(*std::min_element(own.begin(), own.end())) + 1);
    std::array<double, dimensions> at{};
    for (double& value : at)
      value = std::uniform_real_distribution<double>(0, 1)(random);
    Hits hits;
    for (int i = 0; i < rays_; ++i) {
      for (std::size_t d = 0; d < dimensions; ++d)
        if (at[d] += steps_[d]; at[d] >= 1)
          at[d] -= 1;
      const auto chosen =
          std::min(static_cast<std::size_t>(std::upper_bound(upTo.begin(), upTo.end(), at[0] * area) - upTo.begin()),
                   sources.size() - 1);
      const std::int32_t other = target(sources[chosen], at);
      if (other < 0)
        ++hits.escaped;
      else if (++counter[static_cast<std::size_t>(other)] == 1)
        hits.counts.emplace_back(other, 0);
    }
    std::sort(hits.counts.begin(), hits.counts.end());
    for (auto& [other, count] : hits.counts)
      std::swap(count, counter[static_cast<std::size_t>(other)]);
    return hits;
  }

private:
  /// A triangle that sends rays: its first corner, two sides and a frame on its normal.
  struct Source {
    Vec3 corner, first, second, across, upright, normal;
  };
  [[nodiscard]] Source sourceOf(std::size_t triangle) const
  {
    const auto node = [&](std::size_t i) {
      return mesh_.nodes[static_cast<std::size_t>(mesh_.triangles[triangle][i])];
    };
    const Vec3 normal = triangleNormal(mesh_, triangle);
    const Vec3 across = normal.unitOrthogonal();
    return {node(0), node(1) - node(0), node(2) - node(0), across, normal.cross(across), normal};
  }

  /// In a plane section everything goes on unchanged across it: only the direction within it decides what a ray meets.
  [[nodiscard]] Vec3 flat(Vec3 along) const
  {
    const SectionFrame& frame = mesh_.geometry.section;
    if (!frame.is() || frame.turned)
      return along;
    along[frame.across] = 0;
    return along.normalized();
  }

  /// The patch that one ray meets; -1 for none.
  [[nodiscard]] std::int32_t target(const Source& source, const std::array<double, dimensions>& at) const
  {
    // Evenly over the triangle.
    const double root = std::sqrt(at[1]);
    const Vec3 within = source.corner + root * (1 - at[2]) * source.first + root * at[2] * source.second;
    const Vec3 place = mesh_.geometry.section.turned ? mesh_.geometry.section.flat(within) : within;
    // By the cosine: a disc lifted onto the hemisphere.
    const double radius = std::sqrt(at[3]);
    const double turn = 2 * std::numbers::pi * at[4];
    const Vec3 along = flat(radius * std::cos(turn) * source.across + radius * std::sin(turn) * source.upright +
                            std::sqrt(1 - at[3]) * source.normal);
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

/// Scales rows and columns alike until every patch sees exactly as much as its area; the rest goes to itself.
void close(ViewFactors& factors)
{
  UpperHalf& g = factors.exchange;
  constexpr int mostSweeps = 200;
  constexpr double enough = 1e-6; // the diagonal takes the rest, exactly
  Eigen::VectorXd scale = Eigen::VectorXd::Ones(g.cols());
  for (int sweep = 0; sweep < mostSweeps; ++sweep) {
    const Eigen::VectorXd sums = scale.cwiseProduct(symmetricProduct(g, factors.self, scale) + factors.opening);
    const Eigen::VectorXd change = (factors.area.array() / sums.array()).sqrt();
    if ((change.array() - 1).abs().maxCoeff() < enough)
      break;
    scale = scale.cwiseProduct(change);
  }
  for (Eigen::Index row = 0; row < g.outerSize(); ++row)
    for (UpperHalf::InnerIterator entry(g, row); entry; ++entry)
      entry.valueRef() = static_cast<float>(entry.value() * scale[row] * scale[entry.col()]);
  factors.self.array() *= scale.array().square();
  factors.opening.array() *= scale.array();
  const Eigen::VectorXd ones = Eigen::VectorXd::Ones(g.cols());
  factors.self += factors.area - symmetricProduct(g, factors.self, ones) - factors.opening;
}

/// Fills the exchange areas with the mean of what both patches of a pair counted, and says how far they differed.
/// \return Σ A_i F_ij, m²
double meanOfBothWays(std::vector<Hits>& hits, ViewFactors& factors)
{
  const std::size_t count = hits.size();
  // What later patches counted of an earlier one, by the earlier one; in ascending order, as they are visited so.
  std::vector<std::size_t> begin(count + 1, 0);
  for (std::size_t p = 0; p < count; ++p)
    for (const auto& [other, rays] : hits[p].counts)
      if (static_cast<std::size_t>(other) < p)
        ++begin[static_cast<std::size_t>(other) + 1];
  for (std::size_t p = 0; p < count; ++p)
    begin[p + 1] += begin[p];
  std::vector<std::pair<std::int32_t, int>> back(begin[count]);
  std::vector<std::size_t> filled(begin.begin(), begin.end() - 1);
  for (std::size_t p = 0; p < count; ++p)
    for (const auto& [other, rays] : hits[p].counts)
      if (static_cast<std::size_t>(other) < p)
        back[filled[static_cast<std::size_t>(other)]++] = {static_cast<std::int32_t>(p), rays};

  factors.exchange.resize(static_cast<Eigen::Index>(count), static_cast<Eigen::Index>(count));
  factors.self = Eigen::VectorXd::Zero(static_cast<Eigen::Index>(count));
  double total = 0;
  double differing = 0;
  for (std::size_t p = 0; p < count; ++p) {
    const auto row = static_cast<std::int32_t>(p);
    const auto perRay = [&](std::int32_t patch) { return factors.area[patch] / factors.rays; };
    factors.exchange.startVec(row);
    auto own = std::lower_bound(hits[p].counts.begin(), hits[p].counts.end(), std::pair(row, 0));
    if (own != hits[p].counts.end() && own->first == row)
      factors.self[row] = perRay(row) * (own++)->second;
    total += factors.self[row];
    auto other = back.begin() + static_cast<std::ptrdiff_t>(begin[p]);
    const auto end = back.begin() + static_cast<std::ptrdiff_t>(begin[p + 1]);
    while (own != hits[p].counts.end() || other != end) {
      const std::int32_t column =
          other == end || (own != hits[p].counts.end() && own->first < other->first) ? own->first : other->first;
      double there = 0;
      double home = 0;
      if (own != hits[p].counts.end() && own->first == column)
        there = perRay(row) * (own++)->second;
      if (other != end && other->first == column)
        home = perRay(column) * (other++)->second;
      factors.exchange.insertBack(row, column) = static_cast<float>((there + home) / 2);
      total += there + home;
      differing += std::abs(there - home);
    }
    hits[p].counts = {};
  }
  factors.exchange.finalize();
  factors.reciprocityError = total > 0 ? differing / total : 0;
  return total;
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
  tbb::task_arena arena(static_cast<int>(std::max(threads, 1U)));
  tbb::enumerable_thread_specific<std::vector<int>> counters(hits.size(), 0);
  arena.execute([&] {
    tbb::parallel_for(std::size_t{0}, hits.size(), [&](std::size_t p) { hits[p] = caster.cast(p, counters.local()); });
  });
  progress("radiation", 0.55, "view factors");

  ViewFactors factors;
  factors.rays = rays;
  factors.area = areas;
  factors.opening = Eigen::VectorXd::Zero(areas.size());
  const double whole = areas.sum();
  double worst = -1;
  for (std::size_t p = 0; p < hits.size(); ++p) {
    const auto row = static_cast<int>(p);
    const double perRay = areas[row] / rays;
    factors.escaped += hits[p].escaped * perRay / whole;
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
  const double total = meanOfBothWays(hits, factors);
  const Eigen::ArrayXf raw = factors.exchange.coeffs();
  const Eigen::VectorXd rawSelf = factors.self;
  close(factors);
  const double changed =
      (factors.exchange.coeffs() - raw).cast<double>().abs().sum() + (factors.self - rawSelf).cwiseAbs().sum();
  factors.correction = total > 0 ? changed / total : 0;
  return factors;
}

} // namespace kiln
