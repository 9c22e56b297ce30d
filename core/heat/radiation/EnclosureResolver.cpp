// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "heat/radiation/EnclosureResolver.h"

#include "base/At.h"
#include "heat/boundaries/Finishes.h"
#include "heat/radiation/EnclosurePatches.h"

#include <map>

namespace kiln
{
namespace
{

/// What is known of every patch.
struct PatchValues {
  Eigen::VectorXd areas;      ///< exact, m²
  Eigen::VectorXd scale;      ///< exact over meshed area
  Eigen::VectorXd emissivity; ///< where it is one number
  std::vector<std::shared_ptr<const Property>> curves;
};

tl::unexpected<Failure> failed(const Enclosure& enclosure, const std::string& problem, const std::string& remedy)
{
  return failure(Failure::Kind::NotReady, "enclosure " + enclosure.name, problem, remedy);
}

Expected<PatchValues> valuesOf(const Project& project, const Enclosure& enclosure, const Mesh& mesh,
                               const Patches& patches, const std::vector<double>& areaScale)
{
  const auto count = static_cast<Eigen::Index>(patches.count());
  PatchValues values{Eigen::VectorXd::Zero(count), Eigen::VectorXd(count), Eigen::VectorXd(count), {}};
  values.curves.resize(patches.count());
  std::map<FaceId, std::optional<Property>> ofFace;
  for (Eigen::Index p = 0; p < count; ++p) {
    const auto patch = static_cast<std::size_t>(p);
    const FaceId face = patches.face[patch];
    if (!ofFace.contains(face))
      ofFace[face] = emissivityOf(project, mesh.geometry, face);
    const std::optional<Property>& own = ofFace[face];
    if (!own)
      return failed(enclosure,
                    "Part " + mesh.geometry.parts[at(mesh.geometry.faces[at(face)].parts[0])].name +
                        " has no emissivity.",
                    "Give the surface a finish, or its material a typical emissivity.");
    values.emissivity[p] = own->si;
    if (!own->table.empty())
      values.curves[patch] = std::make_shared<const Property>(*own);
    values.scale[p] = areaScale[at(face)];
    for (const std::size_t t : patches.triangles[patch])
      for (const SurfacePoint& point : pointsOfPiece(mesh, t))
        values.areas[p] += values.scale[p] * point.area;
  }
  return values;
}

} // namespace

Expected<std::shared_ptr<const EnclosureExchange>> resolveEnclosure(const Project& project, int index, const Mesh& mesh,
                                                                    const std::vector<double>& areaScale,
                                                                    const ViewFactorSource& viewFactors)
{
  constexpr double usualRays = 1000;
  const Enclosure& enclosure = project.enclosures[at(index)];
  Patches patches = enclosurePatches(project, mesh, enclosure);
  Expected<PatchValues> values = valuesOf(project, enclosure, mesh, patches, areaScale);
  if (!values)
    return tl::unexpected(values.error());
  const int rays = static_cast<int>(enclosure.rays ? enclosure.rays->si : usualRays);
  Expected<ViewFactors> factors = viewFactors(mesh, patches, values->areas, rays, enclosure.opening.has_value());
  if (!factors)
    return failed(enclosure, factors.error().problem, factors.error().remedy);
  return std::make_shared<const EnclosureExchange>(
      FlowOwner{FlowOwner::Kind::Enclosure, index}, mesh, std::move(patches), std::move(*factors),
      std::move(values->scale), std::move(values->emissivity), std::move(values->curves),
      enclosure.opening ? std::optional(enclosure.opening->si) : std::nullopt);
}

} // namespace kiln
