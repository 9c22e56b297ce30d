// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "heat/Conditions.h"

#include "geometry/SurfaceFaces.h"
#include "geometry/TouchingPairs.h"

#include <algorithm>
#include <cmath>
#include <limits>
#include <set>

namespace kiln
{
namespace
{

std::size_t at(int i) { return static_cast<std::size_t>(i); }

Vec3 placeOf(const Number3& n) { return {n.x.si, n.y.si, n.z.si}; }

class Resolver
{
public:
  Resolver(const Project& project, const Mesh& mesh)
      : project_(project), mesh_(mesh), volumes_(meshedVolumes(mesh)), areaScale_(meshedAreas(mesh))
  {
    for (std::size_t f = 0; f < areaScale_.size(); ++f)
      areaScale_[f] = areaScale_[f] > 0 ? mesh.geometry.faces[f].area / areaScale_[f] : 1;
  }

  Expected<Conditions> resolve()
  {
    addMaterials();
    addContacts();
    for (std::size_t i = 0; i < project_.sources.size(); ++i)
      if (!project_.sources[i].muted)
        std::visit([&](const auto& heat) { addSource(static_cast<int>(i), heat); }, project_.sources[i].heat);
    for (std::size_t i = 0; i < project_.boundaries.size(); ++i)
      if (!project_.boundaries[i].muted)
        std::visit([&](const auto& condition) { addBoundary(static_cast<int>(i), condition); },
                   project_.boundaries[i].condition);
    if (failed_)
      return tl::unexpected(*failed_);
    if (temperatures_ > 0)
      result_.startTemperature = temperatureSum_ / temperatures_;
    return std::move(result_);
  }

private:
  void fail(const std::string& object, const std::string& problem, const std::string& remedy)
  {
    if (!failed_)
      failed_ = Failure{Failure::Kind::NotReady, object, problem, remedy};
  }

  void addMaterials()
  {
    for (const GeometryPart& part : mesh_.geometry.parts) {
      const Part* own = findById(project_.parts, part.id);
      const Material* material = own != nullptr ? findById(project_.materials, own->material) : nullptr;
      if (material == nullptr)
        fail("part " + part.name, "It has no material.", "Give it one.");
      const double k = material != nullptr ? material->conductivity.si : 0;
      result_.conductivity.emplace_back(Eigen::Matrix3d::Identity() * k);
    }
  }

  void addContacts()
  {
    std::vector<bool> jump(mesh_.geometry.faces.size(), false);
    for (const TouchingPair& pair : touchingPairs(mesh_.geometry)) {
      const double conductance = contactConductance(project_, mesh_.geometry, pair);
      if (std::isinf(conductance))
        continue;
      for (const int face : pair.faces) {
        jump[at(face)] = true;
        if (conductance > 0)
          result_.contacts.push_back({face, conductance * areaScale_[at(face)]});
      }
    }
    result_.unknowns = numberUnknowns(mesh_, jump);
  }

  [[nodiscard]] std::vector<int> partIndices(const std::vector<std::string>& ids) const
  {
    std::vector<int> indices;
    for (const std::string& id : ids)
      if (const int part = mesh_.geometry.partIndex(id); part != noPart)
        indices.push_back(part);
    return indices;
  }
  [[nodiscard]] double exactVolume(int part) const { return mesh_.geometry.parts[at(part)].volume; }
  [[nodiscard]] std::vector<int> facesOn(const std::string& surface) const
  {
    return facesOf(project_, mesh_.geometry, surface).faces;
  }

  void addSource(int source, const PartPower& heat)
  {
    const std::vector<int> parts = partIndices(heat.parts);
    double volume = 0;
    for (const int part : parts)
      volume += exactVolume(part);
    for (const int part : parts)
      result_.partHeat.push_back({source, part, heat.power.si / volume * exactVolume(part) / volumes_[at(part)]});
  }
  void addSource(int source, const PartDensity& heat)
  {
    for (const int part : partIndices(heat.parts))
      result_.partHeat.push_back({source, part, heat.density.si * exactVolume(part) / volumes_[at(part)]});
  }
  void addSource(int source, const SurfacePower& heat)
  {
    const SurfaceFaces on = facesOf(project_, mesh_.geometry, heat.surface);
    for (const int face : on.faces)
      result_.faceHeat.push_back({source, face, heat.power.si / on.area * areaScale_[at(face)]});
  }
  void addSource(int source, const SurfaceFlux& heat)
  {
    for (const int face : facesOn(heat.surface))
      result_.faceHeat.push_back({source, face, heat.flux.si * areaScale_[at(face)]});
  }
  void addSource(int source, const PointPower& heat)
  {
    result_.pointHeat.push_back({source, placeOf(heat.place), heat.power.si});
  }

  void noteTemperature(double temperature)
  {
    temperatureSum_ += temperature;
    ++temperatures_;
  }

  void addBoundary(int boundary, const Convection& c)
  {
    noteTemperature(c.ambient.si);
    for (const int face : facesOn(c.surface))
      result_.convection.push_back({boundary, face, c.coefficient.si * areaScale_[at(face)], c.ambient.si});
  }
  void addBoundary(int boundary, const Radiation& r)
  {
    noteTemperature(r.surroundings.si);
    for (const int face : facesOn(r.surface)) {
      const auto emissivity = emissivityOf(project_, mesh_.geometry, face);
      if (!emissivity)
        fail("boundary " + project_.boundaries[at(boundary)].name,
             "Part " + mesh_.geometry.parts[at(mesh_.geometry.faces[at(face)].parts[0])].name + " has no emissivity.",
             "Give the surface a finish, or its material a typical emissivity.");
      else
        result_.radiation.push_back(
            {boundary, face, *emissivity * r.viewFactor.si * areaScale_[at(face)], r.surroundings.si});
    }
  }
  void addBoundary(int boundary, const FixedSurface& f)
  {
    std::set<int> faces;
    for (const int face : facesOn(f.surface))
      faces.insert(face);
    std::set<Index> held;
    for (std::size_t t = 0; t < mesh_.triangles.size(); ++t)
      if (faces.contains(mesh_.triangleFace[t]))
        for (const auto& side : result_.unknowns.ofTriangle[t])
          for (const Index unknown : side)
            if (unknown >= 0)
              held.insert(unknown);
    addFixed(boundary, f.temperature.si, {held.begin(), held.end()});
  }
  void addBoundary(int boundary, const FixedPart& f)
  {
    const int part = mesh_.geometry.partIndex(f.part);
    std::set<Index> held;
    for (std::size_t t = 0; t < mesh_.tets.size(); ++t)
      if (mesh_.tetPart[t] == part)
        held.insert(result_.unknowns.ofTet[t].begin(), result_.unknowns.ofTet[t].end());
    addFixed(boundary, f.temperature.si, {held.begin(), held.end()});
  }
  void addBoundary(int boundary, const FixedPoint& f)
  {
    const Vec3 place = placeOf(f.place);
    Index nearest = -1;
    double distance = std::numeric_limits<double>::infinity();
    for (std::size_t i = 0; i < result_.unknowns.node.size(); ++i) {
      const double away = (mesh_.nodes[at(result_.unknowns.node[i])] - place).squaredNorm();
      if (away < distance) {
        distance = away;
        nearest = static_cast<Index>(i);
      }
    }
    addFixed(boundary, f.temperature.si, {nearest});
  }
  void addFixed(int boundary, double temperature, std::vector<Index> unknowns)
  {
    noteTemperature(temperature);
    result_.fixed.push_back({boundary, temperature, std::move(unknowns)});
  }

  const Project& project_;
  const Mesh& mesh_;
  std::vector<double> volumes_;
  std::vector<double> areaScale_; // exact over meshed, by face
  Conditions result_;
  double temperatureSum_ = 0;
  int temperatures_ = 0;
  std::optional<Failure> failed_;
};

} // namespace

std::optional<double> emissivityOf(const Project& project, const FaceTable& geometry, int face)
{
  std::optional<double> emissivity;
  const int part = geometry.faces[at(face)].parts[0];
  const Part* own = findById(project.parts, geometry.parts[at(part)].id);
  const Material* material = own != nullptr ? findById(project.materials, own->material) : nullptr;
  if (material != nullptr && material->emissivity)
    emissivity = material->emissivity->si;
  for (const Finish& finish : project.finishes)
    for (const std::string& surface : finish.surfaces) {
      const std::vector<int> faces = facesOf(project, geometry, surface).faces;
      if (std::binary_search(faces.begin(), faces.end(), face))
        emissivity = finish.emissivity.si;
    }
  return emissivity;
}

Expected<Conditions> resolveConditions(const Project& project, const Mesh& mesh)
{
  return Resolver(project, mesh).resolve();
}

} // namespace kiln
