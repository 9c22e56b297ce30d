// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "mesh/RayScene.h"

#include <embree3/rtcore.h>

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
    : embree_(std::make_unique<Embree>()), triangles_(triangles.begin(), triangles.end())
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
    for (const std::int32_t node : mesh.triangles[t])
      *corners++ = static_cast<unsigned>(node);
  rtcCommitGeometry(geometry);
  rtcAttachGeometry(embree_->scene, geometry);
  rtcReleaseGeometry(geometry);
  rtcSetSceneFlags(embree_->scene, RTC_SCENE_FLAG_ROBUST);
  rtcCommitScene(embree_->scene);
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
