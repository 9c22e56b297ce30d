// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "results/PerfectContacts.h"

#include "base/At.h"
#include "base/InParallel.h"
#include "heat/Conditions.h"
#include "heat/boundaries/HeldTemperature.h"
#include "model/Project.h"

namespace kiln
{
namespace
{

std::uint64_t key(UnknownId unknown, PartId part)
{
  return static_cast<std::uint64_t>(unknown) << 32U | static_cast<std::uint64_t>(part);
}

/// Gradients of the four shape functions of a linear tetrahedron, 4×3, 1/m.
Eigen::Matrix<double, 4, 3> gradientsOf(const Mesh& mesh, const Tet& tet)
{
  const Vec3& a = mesh.nodes[at(tet[0])];
  const Vec3 e1 = mesh.nodes[at(tet[1])] - a;
  const Vec3 e2 = mesh.nodes[at(tet[2])] - a;
  const Vec3 e3 = mesh.nodes[at(tet[3])] - a;
  const double sixVolumes = e1.dot(e2.cross(e3));
  Eigen::Matrix<double, 4, 3> gradients;
  gradients.row(1) = e2.cross(e3) / sixVolumes;
  gradients.row(2) = e3.cross(e1) / sixVolumes;
  gradients.row(3) = e1.cross(e2) / sixVolumes;
  gradients.row(0) = -(gradients.row(1) + gradients.row(2) + gradients.row(3));
  return gradients;
}

Vec3 fluxIn(const Mesh& mesh, const Conditions& conditions, std::size_t tet, std::span<const double> temperature)
{
  Eigen::Vector4d values;
  for (std::size_t i = 0; i < 4; ++i)
    values[static_cast<Eigen::Index>(i)] = temperature[at(conditions.unknowns.ofTet[tet][i])];
  const Vec3 gradient = gradientsOf(mesh, mesh.tets[tet]).transpose() * values;
  return -(conditions.conductivity[at(mesh.tetPart[tet])].at(values.mean()) * gradient);
}

} // namespace

std::vector<Vec3> heatFlux(const Mesh& mesh, const Conditions& conditions, std::span<const double> temperature)
{
  std::vector<Vec3> flux(mesh.tets.size());
  constexpr std::size_t block = 16384;
  inBlocks(flux.size(), block, [&](std::size_t first, std::size_t end) {
    for (std::size_t t = first; t < end; ++t)
      flux[t] = fluxIn(mesh, conditions, t, temperature);
  });
  return flux;
}

PerfectContacts::PerfectContacts(const Project& project, const Mesh& mesh, const Conditions& conditions,
                                 std::span<const double> temperature)
    : project_(project), mesh_(mesh), conditions_(conditions), temperature_(temperature),
      trianglesOf_(mesh.geometry.faces.size()), held_(mesh.geometry.parts.size(), false),
      fixed_(at(conditions.unknowns.count), 0), wanted_(at(conditions.unknowns.count), 0)
{
  findPerfect();
  findHeld();
  for (std::size_t f = 0; f < trianglesOf_.size(); ++f)
    for (const std::size_t t : trianglesOf_[f])
      for (std::size_t s = 0; s < 2; ++s) {
        const double share = triangleArea(mesh_, t) / 3;
        const double flux = outwardFlux(t, s);
        for (const UnknownId u : conditions_.unknowns.ofTriangle[t][s]) {
          Side& side = sides_[key(u, mesh_.geometry.faces[f].parts[s])];
          side.raw += flux * share;
          side.area += share;
          wanted_[at(u)] = 1;
        }
      }
}

/// A jump face may share its rim nodes with a perfect one: only faces whose every triangle is joined are perfect.
void PerfectContacts::findPerfect()
{
  std::vector<bool> jumps(trianglesOf_.size(), false);
  for (std::size_t t = 0; t < mesh_.triangles.size(); ++t) {
    const auto face = at(mesh_.triangleFace[t]);
    const auto& sides = conditions_.unknowns.ofTriangle[t];
    if (sides[0] != sides[1])
      jumps[face] = true;
    else if (mesh_.geometry.faces[face].contact())
      trianglesOf_[face].push_back(t);
  }
  for (std::size_t f = 0; f < jumps.size(); ++f)
    if (jumps[f])
      trianglesOf_[f].clear();
}

void PerfectContacts::findHeld()
{
  for (const HeldTemperature* held : flowsOf<HeldTemperature>(conditions_.flows)) {
    if (held->what().part != noPart)
      held_[at(held->what().part)] = true;
    else
      held->held([&](UnknownId u, double) { fixed_[at(u)] = 1; });
  }
}

/// Outward flux of the element behind a side of a triangle, W/m².
double PerfectContacts::outwardFlux(std::size_t triangle, std::size_t side) const
{
  const NodeTriangle& corner = mesh_.triangles[triangle];
  const Vec3& a = mesh_.nodes[at(corner[0])];
  const Vec3 normal = (mesh_.nodes[at(corner[1])] - a).cross(mesh_.nodes[at(corner[2])] - a).normalized();
  const double along = fluxIn(mesh_, conditions_, at(mesh_.triangleTets[triangle][side]), temperature_).dot(normal);
  return side == 0 ? along : -along;
}

void PerfectContacts::take(const Arrival& arrival)
{
  if (arrival.part == noPart)
    return;
  for (std::size_t i = 0; i < arrival.unknowns.size(); ++i)
    if (const UnknownId u = arrival.unknowns[i]; wanted_[at(u)] != 0)
      if (const auto side = sides_.find(key(u, arrival.part)); side != sides_.end())
        side->second.rest += arrival.watts[i];
}

void PerfectContacts::takeStored(std::span<const double> storing)
{
  if (storing.empty() || sides_.empty())
    return;
  std::vector<double> capacity; // by part, J/(m³·K)
  for (const GeometryPart& part : mesh_.geometry.parts) {
    const Part* own = findById(project_.parts, part.id);
    const Material* material = own != nullptr ? findById(project_.materials, own->material) : nullptr;
    const bool known = material != nullptr && material->density && material->specificHeat;
    const bool stays = held_[capacity.size()];
    capacity.push_back(stays ? 0 : known ? material->density->si * material->specificHeat->si : 1);
  }
  std::vector<double> all(storing.size(), 0.0);
  std::unordered_map<std::uint64_t, double> own;
  for (std::size_t t = 0; t < mesh_.tets.size(); ++t)
    for (const UnknownId u : conditions_.unknowns.ofTet[t]) {
      if (wanted_[at(u)] == 0)
        continue;
      const double share = capacity[at(mesh_.tetPart[t])] * tetVolume(mesh_, t);
      all[at(u)] += share;
      if (sides_.contains(key(u, mesh_.tetPart[t])))
        own[key(u, mesh_.tetPart[t])] += share;
    }
  for (const auto& [pair, share] : own)
    if (const auto unknown = static_cast<Index>(pair >> 32U); all[at(unknown)] > 0)
      sides_[pair].rest -= storing[at(unknown)] * share / all[at(unknown)];
}

void PerfectContacts::addTo(std::vector<double>& contactHeat) const
{
  for (std::size_t f = 0; f < trianglesOf_.size(); ++f)
    for (std::size_t s = 0; s < 2 && !trianglesOf_[f].empty(); ++s) {
      const std::array<PartId, 2>& parts = mesh_.geometry.faces[f].parts;
      const bool own = held_[at(parts[s])];
      const bool other = held_[at(parts[1 - s])];
      if (own && !other)
        continue;
      const double weight = (s == 0 ? 1 : -1) * (other && !own ? 1.0 : 0.5);
      for (const std::size_t t : trianglesOf_[f]) {
        const double flux = outwardFlux(t, s);
        const double share = triangleArea(mesh_, t) / 3;
        for (const UnknownId u : conditions_.unknowns.ofTriangle[t][s]) {
          const Side& side = sides_.at(key(u, parts[s]));
          const double correction =
              fixed_[at(u)] != 0 || (own && other) ? 0 : (side.rest - side.raw) * share / side.area;
          contactHeat[f] += weight * (flux * share + correction);
        }
      }
    }
}

} // namespace kiln
