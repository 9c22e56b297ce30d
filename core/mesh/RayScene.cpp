// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "mesh/RayScene.h"

#include <algorithm>
#include <cmath>
#include <embree3/rtcore.h>
#include <numbers>

namespace kiln
{

struct RayScene::Embree {
  RTCDevice device = rtcNewDevice("threads=1");
  RTCScene scene = rtcNewScene(device);

  Embree() = default;
  Embree(const Embree&) = delete;
  Embree& operator=(const Embree&) = delete;
  ~Embree()
  {
    rtcReleaseScene(scene);
    rtcReleaseDevice(device);
  }
};

RayScene::RayScene(const Mesh& mesh, std::span<const std::size_t> triangles)
    : embree_(std::make_unique<Embree>()), triangles_(triangles.begin(), triangles.end()), frame_(mesh.geometry.section)
{
  frame_.turned ? addTurned(mesh) : addTriangles(mesh);
  rtcSetSceneFlags(embree_->scene, RTC_SCENE_FLAG_ROBUST);
  rtcCommitScene(embree_->scene);
}

/// Every edge of the plane all around the axis. Its two triangles share the sectors between them.
void RayScene::addTurned(const Mesh& mesh)
{
  constexpr int sectors = 128; // chords lie within 3e-4 of the radius
  std::vector<float> places;
  std::vector<unsigned> corners;
  std::vector<std::size_t> owner;
  for (const std::size_t t : triangles_) {
    TurnedEdge edge{};
    int ends = 0;
    int far = 0; // corners on the far side
    for (int i = 0; i < 3; ++i) {
      const NodeId node = mesh.triangles[t][static_cast<std::size_t>(i)];
      const Vec3 place = mesh.placeOf(node);
      far += mesh.nodes[static_cast<std::size_t>(node)][frame_.across] > frame_.at ? 1 : 0;
      if (ends < 2 && (ends == 0 || (place - edge.ends[0]).norm() > 0)) {
        edge.ends[static_cast<std::size_t>(ends)] = place;
        edge.corner[static_cast<std::size_t>(ends++)] = i;
      }
    }
    const auto radius = [&](std::size_t end) { return edge.ends[end].x() - frame_.axis; };
    constexpr double onAxis = 1e-9; // m: such an edge has one triangle alone
    const bool alone = std::min(radius(0), radius(1)) < onAxis;
    for (int sector = 0; sector < sectors; ++sector) {
      if (!alone && (sector % 2 == 0) != (far == 1))
        continue;
      const auto first = static_cast<unsigned>(places.size() / 3);
      for (const int side : {sector, sector + 1})
        for (std::size_t end = 0; end < 2; ++end) {
          const double angle = 2 * std::numbers::pi * side / sectors;
          places.push_back(static_cast<float>(frame_.axis + radius(end) * std::cos(angle)));
          places.push_back(static_cast<float>(frame_.at + radius(end) * std::sin(angle)));
          places.push_back(static_cast<float>(edge.ends[end].z()));
        }
      for (const unsigned corner : {0U, 1U, 2U, 1U, 3U, 2U})
        corners.push_back(first + corner);
      owner.insert(owner.end(), 2, t);
      turned_.insert(turned_.end(), 2, edge);
    }
  }
  triangles_ = std::move(owner);
  RTCGeometry geometry = rtcNewGeometry(embree_->device, RTC_GEOMETRY_TYPE_TRIANGLE);
  std::copy(places.begin(), places.end(),
            static_cast<float*>(rtcSetNewGeometryBuffer(geometry, RTC_BUFFER_TYPE_VERTEX, 0, RTC_FORMAT_FLOAT3,
                                                        3 * sizeof(float), places.size() / 3)));
  std::copy(corners.begin(), corners.end(),
            static_cast<unsigned*>(rtcSetNewGeometryBuffer(geometry, RTC_BUFFER_TYPE_INDEX, 0, RTC_FORMAT_UINT3,
                                                           3 * sizeof(unsigned), corners.size() / 3)));
  rtcCommitGeometry(geometry);
  rtcAttachGeometry(embree_->scene, geometry);
  rtcReleaseGeometry(geometry);
}

void RayScene::addTriangles(const Mesh& mesh)
{
  RTCGeometry geometry = rtcNewGeometry(embree_->device, RTC_GEOMETRY_TYPE_TRIANGLE);
  auto* places = static_cast<float*>(rtcSetNewGeometryBuffer(geometry, RTC_BUFFER_TYPE_VERTEX, 0, RTC_FORMAT_FLOAT3,
                                                             3 * sizeof(float), mesh.nodes.size()));
  for (const Vec3& node : mesh.nodes)
    for (Eigen::Index axis = 0; axis < 3; ++axis)
      *places++ = static_cast<float>(node[axis]);
  auto* corners = static_cast<unsigned*>(rtcSetNewGeometryBuffer(geometry, RTC_BUFFER_TYPE_INDEX, 0, RTC_FORMAT_UINT3,
                                                                 3 * sizeof(unsigned), triangles_.size()));
  for (const std::size_t t : triangles_)
    for (const NodeId node : mesh.triangles[t])
      *corners++ = static_cast<unsigned>(node);
  rtcCommitGeometry(geometry);
  rtcAttachGeometry(embree_->scene, geometry);
  rtcReleaseGeometry(geometry);
}

RayScene::~RayScene() = default;

std::optional<RayHit> RayScene::first(const Vec3& from, const Vec3& along, double nearest, double farthest) const
{
  RTCIntersectContext context;
  rtcInitIntersectContext(&context);
  RTCRayHit query{};
  query.ray.org_x = static_cast<float>(from.x());
  query.ray.org_y = static_cast<float>(from.y());
  query.ray.org_z = static_cast<float>(from.z());
  query.ray.dir_x = static_cast<float>(along.x());
  query.ray.dir_y = static_cast<float>(along.y());
  query.ray.dir_z = static_cast<float>(along.z());
  query.ray.tnear = static_cast<float>(nearest);
  query.ray.tfar = static_cast<float>(farthest);
  query.ray.mask = ~0U;
  query.hit.geomID = RTC_INVALID_GEOMETRY_ID;
  rtcIntersect1(embree_->scene, &context, &query);
  if (query.hit.geomID == RTC_INVALID_GEOMETRY_ID)
    return std::nullopt;
  const double u = static_cast<double>(query.hit.u);
  const double v = static_cast<double>(query.hit.v);
  if (!turned_.empty()) {
    const auto distance = static_cast<double>(query.ray.tfar);
    const Vec3 place = from + distance * along;
    const TurnedEdge& edge = turned_[query.hit.primID];
    const Vec3 flat(frame_.axis + std::hypot(place.x() - frame_.axis, place.y() - frame_.at), frame_.at, place.z());
    const Vec3 way = edge.ends[1] - edge.ends[0];
    const double share = std::clamp((flat - edge.ends[0]).dot(way) / way.squaredNorm(), 0.0, 1.0);
    RayHit hit{triangles_[query.hit.primID], distance, Vec3::Zero()};
    hit.weights[edge.corner[0]] = 1 - share;
    hit.weights[edge.corner[1]] = share;
    return hit;
  }
  return RayHit{triangles_[query.hit.primID], static_cast<double>(query.ray.tfar), Vec3(1 - u - v, u, v)};
}

std::vector<std::size_t> exposedTriangles(const Mesh& mesh)
{
  std::vector<std::size_t> exposed;
  for (std::size_t t = 0; t < mesh.triangles.size(); ++t)
    if (const Face& face = mesh.geometry.faces[static_cast<std::size_t>(mesh.triangleFace[t])];
        face.exposed() && !face.aside)
      exposed.push_back(t);
  return exposed;
}

Vec3 triangleNormal(const Mesh& mesh, std::size_t triangle)
{
  const auto node = [&](std::size_t i) { return mesh.nodes[static_cast<std::size_t>(mesh.triangles[triangle][i])]; };
  return (node(1) - node(0)).cross(node(2) - node(0)).normalized();
}

} // namespace kiln
