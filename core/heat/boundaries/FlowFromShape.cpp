// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "heat/boundaries/FlowFromShape.h"

#include "geometry/SurfaceFaces.h"
#include "heat/boundaries/Correlations.h"
#include "units/Quantity.h"

#include <algorithm>
#include <cmath>

namespace kiln
{
namespace
{

Number roundedLength(double metres)
{
  const double millimetres = std::max(std::round(metres * 1e4) / 10, 0.1);
  return {millimetres / 1000, plainNumber(millimetres) + " mm", false};
}

/// Box around the faces of a surface.
std::optional<std::pair<Vec3, Vec3>> boxOf(const Mesh& mesh, const std::vector<FaceId>& faces)
{
  Vec3 low = Vec3::Constant(1e300);
  Vec3 high = -low;
  for (std::size_t t = 0; t < mesh.triangles.size(); ++t)
    if (std::binary_search(faces.begin(), faces.end(), mesh.triangleFace[t]))
      for (const auto node : mesh.triangles[t]) {
        low = low.cwiseMin(mesh.nodes[static_cast<std::size_t>(node)]);
        high = high.cwiseMax(mesh.nodes[static_cast<std::size_t>(node)]);
      }
  if (low.x() > high.x())
    return std::nullopt;
  return std::pair(low, high);
}

/// Size a correlation is written in, from the box around the surface and the direction of gravity.
double sizeFrom(FlowSituation situation, const Vec3& extent, const Vec3& gravity)
{
  Eigen::Index up = 0;
  gravity.cwiseAbs().maxCoeff(&up);
  const double a = extent[(up + 1) % 3];
  const double b = extent[(up + 2) % 3];
  switch (situation) {
  case FlowSituation::VerticalPlate:
  case FlowSituation::VerticalCylinder:
    return extent[up];
  case FlowSituation::PlateFacingUp:
  case FlowSituation::PlateFacingDown:
    return a + b > 0 ? a * b / (2 * (a + b)) : 0;
  case FlowSituation::AlongPlate:
    return extent.maxCoeff();
  default: {
    Vec3 sorted = extent;
    std::sort(sorted.data(), sorted.data() + 3);
    return sorted[1];
  }
  }
}

/// Natural flow that fits how the faces lie to gravity: the mean of their normals says where they look, and faces that
/// look all around are those of a cylinder or a sphere.
FlowSituation situationOf(const FaceTable& geometry, const std::vector<FaceId>& faces, const Vec3& extent,
                          const Vec3& gravity)
{
  Vec3 mean = Vec3::Zero();
  double area = 0;
  bool flat = true;
  for (const int f : faces) {
    const Face& face = geometry.faces[static_cast<std::size_t>(f)];
    mean += face.area * face.normal;
    area += face.area;
    flat = flat && face.planar;
  }
  const Vec3 up = -gravity.normalized();
  const double upward = area > 0 ? mean.dot(up) / area : 0;
  constexpr double mostly = 0.6;
  if (upward > mostly)
    return FlowSituation::PlateFacingUp;
  if (upward < -mostly)
    return FlowSituation::PlateFacingDown;
  if (flat)
    return FlowSituation::VerticalPlate;
  Eigen::Index vertical = 0;
  up.cwiseAbs().maxCoeff(&vertical);
  Vec3 sorted = extent;
  std::sort(sorted.data(), sorted.data() + 3);
  constexpr double alike = 1.2;
  if (sorted[2] < alike * sorted[0])
    return FlowSituation::Sphere;
  const double across = std::max(extent[(vertical + 1) % 3], extent[(vertical + 2) % 3]);
  return extent[vertical] > across || std::abs(extent[(vertical + 1) % 3] - extent[(vertical + 2) % 3]) < 1e-3 * across
             ? FlowSituation::VerticalCylinder
             : FlowSituation::HorizontalCylinder;
}

} // namespace

CorrelatedConvection correlationFor(const Project& project, const Mesh* mesh, const Boundary& boundary,
                                    std::optional<FlowSituation> situation)
{
  CorrelatedConvection flow;
  flow.ambient = {293.15, "20 °C", false};
  if (const auto* plain = std::get_if<Convection>(&boundary.condition))
    flow.ambient = plain->ambient;
  if (const auto* own = std::get_if<CorrelatedConvection>(&boundary.condition))
    flow = *own;
  flow.surface = surfaceOf(boundary);
  double size = 0.1;
  const Number3 g = project.environment.value_or(Environment{}).gravity;
  const Vec3 gravity(g.x.si, g.y.si, g.z.si);
  if (mesh != nullptr) {
    const std::vector<FaceId> faces = facesOf(project, mesh->geometry, flow.surface).faces;
    if (const auto box = boxOf(*mesh, faces)) {
      const Vec3 extent = box->second - box->first;
      if (!situation)
        situation = situationOf(mesh->geometry, faces, extent, gravity);
      size = sizeFrom(*situation, extent, gravity);
      if (*situation == FlowSituation::VerticalCylinder)
        flow.diameter = roundedLength(std::sqrt(extent.x() * extent.y() * extent.z() / std::max(size, 1e-9)));
    }
  }
  flow.situation = situation.value_or(FlowSituation::VerticalPlate);
  flow.size = roundedLength(size);
  if (isForced(flow.situation) && !flow.speed)
    flow.speed = Number{1, "1 m/s", false};
  if (flow.situation == FlowSituation::InsideTube && !flow.length)
    flow.length = Number{1, "1 m", false};
  return flow;
}

} // namespace kiln
