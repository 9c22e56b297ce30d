// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "heat/boundaries/DirectedHeat.h"

#include <algorithm>

namespace kiln
{
namespace
{

/// Area of a triangle as its element is integrated, m²: of a bent one it differs from the flat.
double areaOf(const Mesh& mesh, std::size_t triangle)
{
  double area = 0;
  for (const SurfacePoint& point : pointsOfPiece(mesh, triangle))
    area += point.area;
  return area;
}

/// What an evenly lit triangle gives to the nodes of its element; sums to 1.
NodeVector evenShare(const Mesh& mesh, std::size_t triangle)
{
  NodeVector sum = NodeVector::Zero(mesh.order == 2 ? 6 : 3);
  for (const SurfacePoint& point : pointsOfPiece(mesh, triangle))
    sum += point.area * point.shape;
  return sum / sum.sum();
}

} // namespace

std::vector<Vec3> evenPlaces(int n)
{
  std::vector<Vec3> places;
  const double step = 1.0 / n;
  for (int i = 0; i < n; ++i)
    for (int j = 0; i + j < n; ++j) {
      const double third = step / 3;
      const Vec3 upright(step * i + third, step * j + third, 0);
      places.emplace_back(upright.x(), upright.y(), 1 - upright.x() - upright.y());
      if (i + j + 1 < n) {
        const double a = step * (i + 1) - third;
        const double b = step * (j + 1) - third;
        places.emplace_back(a, b, 1 - a - b);
      }
    }
  return places;
}

BeamCaster::BeamCaster(const Mesh& mesh) : exposed_(exposedTriangles(mesh)), scene_(mesh, exposed_)
{
  Vec3 low = mesh.nodes.empty() ? Vec3::Zero() : mesh.nodes.front();
  Vec3 high = low;
  for (const Vec3& node : mesh.nodes) {
    low = low.cwiseMin(node);
    high = high.cwiseMax(node);
  }
  reach_ = (high - low).norm();
}

NodeVector BeamCaster::litShare(const Mesh& mesh, std::size_t triangle, const Vec3& towards,
                                const std::vector<Vec3>& places) const
{
  constexpr double ownShare = 1e-5; // of the model's size: rays start a little off the surface
  const Vec3 off = ownShare * reach_ * triangleNormal(mesh, triangle);
  Vec3 way = towards;
  if (const SectionFrame& section = mesh.geometry.section; section.is()) { // what shades goes on along the depth
    way[section.across] = 0;
    if (way.norm() <= 0)
      return evenShare(mesh, triangle);
    way.normalize();
  }
  NodeVector sum = NodeVector::Zero(mesh.order == 2 ? 6 : 3);
  std::size_t reached = 0;
  for (const Vec3& l : places) {
    Vec3 start = off;
    for (std::size_t i = 0; i < 3; ++i)
      start += l[static_cast<Eigen::Index>(i)] * mesh.nodes[static_cast<std::size_t>(mesh.triangles[triangle][i])];
    if (scene_.first(start, way, 0, 2 * reach_))
      continue;
    sum += shapeAt(mesh, inElement(mesh, triangle, l));
    ++reached;
  }
  if (reached == places.size())
    return evenShare(mesh, triangle); // exactly, not by samples
  return sum / static_cast<double>(places.size());
}

const std::vector<LitTriangle>& BeamCaster::lit(const Mesh& mesh, const std::vector<FaceId>& faces, const Vec3& from)
{
  Answer& answer = answers_[faces];
  if (answer.from == from)
    return answer.lit;
  answer = {from, {}};
  const Vec3 towards = from.normalized();
  constexpr int cuts = 4;
  constexpr int fineCuts = 20; // where a shadow's edge crosses
  const std::vector<Vec3> coarse = evenPlaces(cuts);
  const std::vector<Vec3> fine = evenPlaces(fineCuts);
  for (const std::size_t t : exposed_) {
    if (std::find(faces.begin(), faces.end(), mesh.triangleFace[t]) == faces.end())
      continue;
    const double cosine = triangleNormal(mesh, t).dot(towards);
    if (cosine <= 0)
      continue;
    NodeVector share = litShare(mesh, t, towards, coarse);
    constexpr double whole = 1 - 1e-9;
    if (share.sum() > 0 && share.sum() < whole)
      share = litShare(mesh, t, towards, fine);
    if (share.sum() > 0)
      answer.lit.push_back({t, areaOf(mesh, t) * cosine * share});
  }
  return answer.lit;
}

} // namespace kiln
