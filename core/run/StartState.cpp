// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "run/StartState.h"

#include "base/At.h"
#include "geometry/SurfaceFaces.h"
#include "heat/elements/Enthalpy.h"
#include "run/ResultIdentity.h"

#include "io/ProjectFile.h"
#include "io/ResultFile.h"
#include "io/RunFile.h"
#include "model/PointCloud.h"
#include "results/UnstoredParts.h"
#include "solve/SteadySolver.h"

#include <algorithm>
#include <cmath>
#include <map>

namespace kiln
{
namespace
{

using Start = tl::expected<std::vector<double>, Failure>;

/// Finds the temperatures a run starts from.
class StartFinder
{
public:
  StartFinder(const Project& base, const TimedModel& model, const std::filesystem::path& folder,
              const Progress& progress)
      : base_(base), model_(model), folder_(folder), progress_(progress)
  {
  }
  std::string note, identity;

  Start operator()(const StartSteady&)
  {
    progress_("solve", 0.5, "steady start");
    auto steady = solveSteady(model_.mesh(), model_.conditions(), {.named = &model_.base()}, progress_);
    if (!steady)
      return tl::unexpected(steady.error());
    return std::move(steady->temperature);
  }
  Start operator()(const StartUniform& start)
  {
    const Unknowns& unknowns = model_.conditions().unknowns;
    std::vector<double> temperature(at(unknowns.count), start.temperature.si);
    for (const PartStart& own : start.parts) {
      const PartId part = model_.mesh().geometry.partIndex(own.id);
      for (std::size_t t = 0; part != noPart && t < model_.mesh().tets.size(); ++t)
        if (model_.mesh().tetPart[t] == part)
          for (const UnknownId u : unknowns.ofTet[t])
            temperature[at(u)] = own.temperature.si;
    }
    fillBoxes(start, temperature);
    fillSurfaces(start, temperature);
    shareMelting(start, temperature);
    return temperature;
  }
  Start operator()(const StartFromCase& start)
  {
    const auto origin = originOf(start);
    if (!origin)
      return tl::unexpected(origin.error());
    const auto& [other, folder] = *origin;
    const std::string& otherName = other.name;
    const auto stored = storedCase(folder, other.id);
    if (!stored)
      return tl::unexpected(stored.error());
    const Expected<CaseResult> result = loadStored(folder, other);
    if (!result)
      return failure(Failure::Kind::NotReady, "start state",
                     "Case " + otherName + ", which it starts from, has no result in " + folder.string() + ".",
                     "Solve that case first.");
    identity = identityOf(result->solutionHash, result->startIdentity);
    std::vector<double> field = result->temperature;
    std::map<std::string, double> nodes;
    for (const NodeState& node : result->nodes)
      nodes[node.id] = node.temperature;
    if (start.instant) {
      const std::filesystem::path run = *stored ? (*stored)->run : std::filesystem::path();
      const auto record = loadRun(run);
      const auto reader = InstantReader::open(run);
      if (!record || !reader)
        return failure(Failure::Kind::NotReady, "start state", "Case " + otherName + " has no instants to start from.",
                       "Start from its end, or make it transient.");
      const double first = record->startTime;
      const double last = record->times.empty() ? first : record->times.back();
      constexpr double rounding = 1e-9;
      const double slack = rounding * std::max(1.0, std::abs(last));
      if (start.instant->si < first - slack || start.instant->si > last + slack)
        return failure(Failure::Kind::NotReady, "start state",
                       "Case " + otherName + " has no instant " + formatQuantity(start.instant->si, Quantity::Time) +
                           ": it runs from " + formatQuantity(first, Quantity::Time) + " to " +
                           formatQuantity(last, Quantity::Time) + ".",
                       "Choose an instant within, or its end.");
      auto found = reader->fieldAt(record->instants, start.instant->si);
      if (!found)
        return tl::unexpected(found.error());
      field = std::move(*found);
      fillUnstored(*record, result->mesh, result->unknowns, start.instant->si, field);
      for (auto& [id, kelvin] : nodes)
        kelvin = record->at(RunTrace::Kind::NodeState, id, start.instant->si).value_or(kelvin);
    }
    return fitted(*result, field, nodes);
  }

private:
  void fillBoxes(const StartUniform& start, std::vector<double>& temperature) const
  {
    const Mesh& mesh = model_.mesh();
    for (const BoxStart& box : start.boxes) {
      const Vec3 a(box.low.x.si, box.low.y.si, box.low.z.si);
      const Vec3 b(box.high.x.si, box.high.y.si, box.high.z.si);
      const Vec3 low = a.cwiseMin(b);
      const Vec3 high = a.cwiseMax(b);
      const double slack = 1e-9 * (1 + (high - low).norm()); // what lies on its sides is in it
      const auto fill = [&](NodeId node, UnknownId unknown) {
        const Vec3 place = mesh.geometry.section.flat(mesh.placeOf(node));
        if (((place - low).array() >= -slack).all() && ((high - place).array() >= -slack).all())
          temperature[at(unknown)] = box.temperature.si;
      };
      for (std::size_t t = 0; t < mesh.tets.size(); ++t)
        for (std::size_t i = 0; i < 4; ++i)
          fill(mesh.tets[t][i], model_.conditions().unknowns.ofTet[t][i]);
    }
  }
  /// Of the part whose surface it is; a sheet on it starts so, too.
  void fillSurfaces(const StartUniform& start, std::vector<double>& temperature) const
  {
    const Mesh& mesh = model_.mesh();
    for (const SurfaceStart& own : start.surfaces) {
      const Surface* surface = findById(model_.base().surfaces, own.id);
      if (surface == nullptr)
        continue;
      const std::vector<FaceId> faces = facesOf(model_.base(), mesh.geometry, *surface).faces;
      for (std::size_t t = 0; t < mesh.triangles.size(); ++t) {
        const FaceId face = mesh.triangleFace[t];
        if (!std::binary_search(faces.begin(), faces.end(), face))
          continue;
        const std::size_t side = sideMeant(*surface, mesh.geometry, mesh.geometry.faces[at(face)]);
        for (const UnknownId unknown : model_.conditions().unknowns.ofTriangle[t][side])
          if (unknown >= 0)
            temperature[at(unknown)] = own.temperature.si;
      }
    }
  }
  /// At the single temperature at which a material melts, a temperature says nothing of how much is molten.
  void shareMelting(const StartUniform& start, std::vector<double>& temperature) const
  {
    const Mesh& mesh = model_.mesh();
    const double share = start.moltenShare ? start.moltenShare->si : 1;
    for (std::size_t p = 0; p < mesh.geometry.parts.size(); ++p) {
      const Part* own = findById(model_.base().parts, mesh.geometry.parts[p].id);
      const Material* material = own != nullptr ? findById(model_.base().materials, own->material) : nullptr;
      if (material == nullptr || !meltsAtOnce(*material))
        continue;
      const MeltingRange range = meltingRange(*material);
      for (std::size_t t = 0; t < mesh.tets.size(); ++t)
        if (mesh.tetPart[t] == static_cast<int>(p))
          for (const UnknownId u : model_.conditions().unknowns.ofTet[t])
            if (double& kelvin = temperature[at(u)]; kelvin >= range.from && kelvin <= range.to)
              kelvin = range.from + share * (range.to - range.from);
    }
  }

  /// The case a run starts from, and the folder of its results.
  [[nodiscard]] Expected<std::pair<Case, std::filesystem::path>> originOf(const StartFromCase& start) const
  {
    const auto caseIn = [&](const Project& project) -> Expected<Case> {
      if (const Case* other = findById(project.cases, start.of))
        return *other;
      return failure(Failure::Kind::NotReady, "start state", "It starts from a case that does not exist.",
                     "Choose another case, or a start temperature.");
    };
    if (start.project.empty()) {
      const auto own = caseIn(base_);
      return own ? Expected<std::pair<Case, std::filesystem::path>>({*own, folder_}) : tl::unexpected(own.error());
    }
    const std::filesystem::path file = otherProjectFile(start.project, folder_);
    const Expected<Project> other = loadProject(file);
    if (!other)
      return tl::unexpected(other.error());
    const auto own = caseIn(*other);
    if (!own)
      return tl::unexpected(own.error());
    return std::pair(*own, std::filesystem::path(file).replace_extension(".results"));
  }

  Start fitted(const CaseResult& from, const std::vector<double>& field, const std::map<std::string, double>& nodes)
  {
    const Mesh& mesh = model_.mesh();
    const Unknowns& unknowns = model_.conditions().unknowns;
    double mean = 0;
    for (const double kelvin : field)
      mean += kelvin / static_cast<double>(field.size());
    std::vector<double> temperature(at(unknowns.count), mean);
    const bool same =
        from.mesh.nodes == mesh.nodes && from.mesh.tetPart == mesh.tetPart && from.unknowns.node == unknowns.node;
    if (same)
      std::copy_n(field.begin(), std::min(field.size(), unknowns.node.size()), temperature.begin());
    else
      interpolate(from, field, temperature);
    for (std::size_t n = 0; n < model_.base().nodes.size(); ++n)
      if (const auto found = nodes.find(model_.base().nodes[n].id); found != nodes.end())
        if (const UnknownId u = model_.conditions().nodeUnknowns[n]; u >= 0)
          temperature[at(u)] = found->second;
    return temperature;
  }

  /// Of a part at these temperatures, J/K.
  [[nodiscard]] double heatCapacity(std::vector<double> temperature, std::size_t part) const
  {
    const double before = model_.store().storedByPart(temperature)[part];
    constexpr double little = 0.1; // K
    for (double& kelvin : temperature)
      kelvin += little;
    return (model_.store().storedByPart(temperature)[part] - before) / little;
  }

  /// Part by part from the nodes of the other mesh; a part that is not there gets the mean.
  void interpolate(const CaseResult& from, const std::vector<double>& field, std::vector<double>& temperature)
  {
    const Mesh& mesh = model_.mesh();
    const Unknowns& unknowns = model_.conditions().unknowns;
    double worst = 0;
    std::string missing;
    std::vector<double> moved(mesh.geometry.parts.size(), 0.0); // K, of each part's mean
    for (std::size_t p = 0; p < mesh.geometry.parts.size(); ++p) {
      const int other = from.mesh.geometry.partIndex(mesh.geometry.parts[p].id);
      if (other == noPart) {
        missing += (missing.empty() ? "" : ", ") + mesh.geometry.parts[p].name;
        continue;
      }
      std::map<UnknownId, PlacedPoint> points;
      double sumBefore = 0;
      double volumeBefore = 0;
      for (std::size_t t = 0; t < from.mesh.tets.size(); ++t)
        if (from.mesh.tetPart[t] == other)
          for (std::size_t i = 0; i < 4; ++i) {
            const UnknownId u = from.unknowns.ofTet[t][i];
            const Vec3& place = from.mesh.placeOf(from.mesh.tets[t][i]);
            points[u] = {{place.x(), place.y(), place.z()}, field[at(u)]};
            sumBefore += field[at(u)] * tetVolume(from.mesh, t);
            volumeBefore += tetVolume(from.mesh, t);
          }
      std::vector<PlacedPoint> list;
      for (const auto& [u, point] : points)
        list.push_back(point);
      const PointCloud cloud(list);
      std::map<UnknownId, double> values;
      double sumAfter = 0;
      double volumeAfter = 0;
      for (std::size_t t = 0; t < mesh.tets.size(); ++t)
        if (mesh.tetPart[t] == static_cast<int>(p))
          for (std::size_t i = 0; i < 4; ++i) {
            const UnknownId u = unknowns.ofTet[t][i];
            if (!values.contains(u))
              values[u] = cloud.at(mesh.placeOf(mesh.tets[t][i]));
            sumAfter += values[u] * tetVolume(mesh, t);
            volumeAfter += tetVolume(mesh, t);
          }
      for (const auto& [u, kelvin] : values)
        temperature[at(u)] = kelvin;
      moved[p] = sumAfter / volumeAfter - sumBefore / volumeBefore;
      worst = std::max(worst, std::abs(moved[p]));
    }
    for (std::size_t t = 0; t < mesh.triangles.size(); ++t) // sheets start as warm as what they lie on
      if (const auto& sides = unknowns.ofTriangle[t];
          sides[1][0] >= 0 && mesh.geometry.faces[at(mesh.triangleFace[t])].exposed())
        for (std::size_t i = 0; i < 3; ++i)
          temperature[at(sides[0][i])] = temperature[at(sides[1][i])];
    double heat = 0;
    for (std::size_t p = 0; p < moved.size(); ++p)
      heat += moved[p] * heatCapacity(temperature, p);
    note = "The start was carried over to another mesh; no part's mean temperature changed by more than " +
           formatQuantity(worst, Quantity::TemperatureStep, {}, 2) + ", the heat in them by " +
           formatQuantity(heat, Quantity::Energy, {}, 2) + ".";
    if (!missing.empty())
      note += " New there, and started at the mean of the rest: " + missing + ".";
  }

  const Project& base_;
  const TimedModel& model_;
  const std::filesystem::path& folder_;
  const Progress& progress_;
};

} // namespace

Expected<StartState> startState(const TransientRun& run, const Project& base, const TimedModel& model,
                                const std::filesystem::path& folder, const Progress& progress)
{
  StartFinder find(base, model, folder, progress);
  auto found = std::visit(find, run.start);
  if (!found)
    return tl::unexpected(found.error());
  return StartState{std::move(*found), find.note, find.identity};
}

} // namespace kiln
