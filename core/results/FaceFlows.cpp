// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "results/FaceFlows.h"

#include "base/At.h"

namespace kiln
{

std::vector<FaceFlow> faceFlows(const Mesh& mesh, std::span<const double> faceHeat, std::span<const double> contactHeat,
                                std::span<const Vec3> flux)
{
  std::vector<FaceFlow> all(mesh.geometry.faces.size());
  for (std::size_t t = 0; t < mesh.triangles.size(); ++t) {
    const std::array<NodeId, 3>& own = mesh.triangles[t];
    const Vec3 a = mesh.placeOf(own[0]);
    const Vec3 outOfFirst = (mesh.placeOf(own[1]) - a).cross(mesh.placeOf(own[2]) - a) / 2; // its length is the area
    FaceFlow& flow = all[at(mesh.triangleFace[t])];
    flow.area += triangleArea(mesh, t);
    if (const std::int32_t tet = mesh.triangleTets[t][0]; tet >= 0 && !flux.empty()) {
      const double along = flux[at(tet)].dot(outOfFirst);
      flow.byFlux += mesh.geometry.faces[at(mesh.triangleFace[t])].contact() ? along : -along;
    }
  }
  std::vector<FaceFlow> flows;
  for (std::size_t f = 0; f < all.size(); ++f) {
    const Face& face = mesh.geometry.faces[f];
    if (face.aside)
      continue;
    FaceFlow& flow = all[f];
    flow.face = FaceId(f);
    flow.ledger = face.contact() ? contactHeat[f] : faceHeat[f];
    flow.besides = face.contact() ? faceHeat[f] : 0;
    flow.insulated = !face.contact() && faceHeat[f] == 0;
    flows.push_back(flow);
  }
  return flows;
}

} // namespace kiln
