// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "results/DifferenceField.h"

#include "base/At.h"
#include "results/PartLocator.h"

#include <algorithm>
#include <cmath>
#include <limits>
#include <oneapi/tbb/parallel_for.h>
#include <optional>

namespace kiln
{
namespace
{

/// A node of a mesh in one of its parts, and the unknown that has its temperature there.
struct Spot {
  NodeId node;
  PartId part;
  UnknownId unknown;
  auto operator<=>(const Spot&) const = default; // NOLINT(modernize-use-nullptr): its comparison with 0
};

std::vector<Spot> spotsOf(const CaseResult& result)
{
  std::vector<Spot> spots;
  spots.reserve(result.mesh.tets.size());
  for (std::size_t t = 0; t < result.mesh.tets.size(); ++t)
    for (std::size_t i = 0; i < 4; ++i)
      spots.push_back({result.mesh.tets[t][i], result.mesh.tetPart[t], result.unknowns.ofTet[t][i]});
  std::sort(spots.begin(), spots.end());
  spots.erase(std::unique(spots.begin(), spots.end()), spots.end());
  return spots;
}

/// The part of the other mesh with the same id, else the same name.
PartId counterpart(const GeometryPart& part, const FaceTable& other)
{
  if (const PartId same = other.partIndex(part.id); same != noPart)
    return same;
  for (std::size_t p = 0; p < other.parts.size(); ++p)
    if (other.parts[p].name == part.name)
      return PartId(p);
  return noPart;
}

/// Brings temperatures from one mesh to places in another, part by part.
class Transfer
{
public:
  Transfer(const CaseResult& from, const FaceTable& to) : from_(from)
  {
    for (const GeometryPart& part : to.parts) {
      const PartId there = counterpart(part, from.mesh.geometry);
      locators_.push_back(there != noPart ? std::optional<PartLocator>(std::in_place, from.mesh, there) : std::nullopt);
    }
  }

  [[nodiscard]] bool knows(PartId part) const { return locators_[at(part)] && !locators_[at(part)]->empty(); }

  /// What is there at the spots of the other mesh: not a number where nothing is.
  [[nodiscard]] std::vector<double> bring(const Mesh& mesh, const std::vector<Spot>& spots,
                                          std::span<const double> kelvin, bool anywhere) const
  {
    std::vector<double> values(spots.size(), std::numeric_limits<double>::quiet_NaN());
    oneapi::tbb::parallel_for(std::size_t{0}, spots.size(), [&](std::size_t i) {
      if (!knows(spots[i].part))
        return;
      const Location found = locators_[at(spots[i].part)]->find(mesh.nodes[at(spots[i].node)]);
      if (!anywhere && found.distance > slackOf(found.tet))
        return;
      double sum = 0;
      for (std::size_t c = 0; c < 4; ++c)
        sum += found.weights[static_cast<Eigen::Index>(c)] * kelvin[at(from_.unknowns.ofTet[found.tet][c])];
      values[i] = sum;
    });
    return values;
  }

private:
  /// How far beyond a flat side of an element a round face may reach, m.
  [[nodiscard]] double slackOf(std::size_t tet) const
  {
    constexpr double ofEdge = 0.06;
    const Tet& own = from_.mesh.tets[tet];
    double longest = 0;
    for (std::size_t i = 0; i < 4; ++i)
      for (std::size_t j = 0; j < i; ++j)
        longest = std::max(longest, (from_.mesh.nodes[at(own[i])] - from_.mesh.nodes[at(own[j])]).norm());
    return ofEdge * longest;
  }

  const CaseResult& from_;
  std::vector<std::optional<PartLocator>> locators_; // by part of the other mesh
};

bool sameMesh(const CaseResult& own, const CaseResult& other)
{
  return own.mesh.nodes == other.mesh.nodes && own.mesh.tets == other.mesh.tets &&
         own.unknowns.ofTet == other.unknowns.ofTet;
}

/// Mean, extremes and volumes, element by element; an element that has a corner without a value is the first's alone.
void measure(const CaseResult& own, DifferenceField& field)
{
  double sum = 0;
  field.low = std::numeric_limits<double>::infinity();
  field.high = -field.low;
  for (std::size_t t = 0; t < own.mesh.tets.size(); ++t) {
    double mean = 0;
    for (std::size_t i = 0; i < 4; ++i) {
      const double value = field.kelvin->at(own.unknowns.ofTet[t][i], own.mesh.tetPart[t]);
      mean += value / 4;
      if (std::isfinite(value)) {
        field.low = std::min(field.low, value);
        field.high = std::max(field.high, value);
      }
    }
    const double volume = tetVolume(own.mesh, t);
    (std::isfinite(mean) ? field.shared : field.alone) += volume;
    sum += std::isfinite(mean) ? mean * volume : 0;
  }
  if (field.shared > 0)
    field.mean = sum / field.shared;
  if (field.low > field.high)
    field.low = field.high = 0;
}

std::vector<std::string> partsAlone(const FaceTable& own, const FaceTable& other)
{
  std::vector<std::string> alone;
  for (const GeometryPart& part : own.parts)
    if (counterpart(part, other) == noPart)
      alone.push_back(part.id);
  return alone;
}

/// The first one's own temperatures to the second mesh and back.
double misfitOf(const CaseResult& own, std::span<const double> ownKelvin, const std::vector<Spot>& spots,
                const CaseResult& other, const Transfer& toOwn)
{
  const Transfer toOther(own, other.mesh.geometry);
  const std::vector<Spot> there = spotsOf(other);
  const std::vector<double> moved = toOther.bring(other.mesh, there, ownKelvin, true);
  std::vector<double> kelvin(other.temperature.size(), 0);
  for (std::size_t i = 0; i < there.size(); ++i)
    if (std::isfinite(moved[i]))
      kelvin[at(there[i].unknown)] = moved[i];
  const std::vector<double> back = toOwn.bring(own.mesh, spots, kelvin, false);
  double worst = 0;
  for (std::size_t i = 0; i < spots.size(); ++i)
    if (std::isfinite(back[i]))
      worst = std::max(worst, std::abs(back[i] - ownKelvin[at(spots[i].unknown)]));
  return worst;
}

} // namespace

Expected<DifferenceField> differenceOf(const CaseResult& own, std::span<const double> ownKelvin,
                                       const CaseResult& other, std::span<const double> otherKelvin)
{
  const FaceTable& here = own.mesh.geometry;
  const FaceTable& there = other.mesh.geometry;
  const auto refused = [&](const std::string& problem, const std::string& remedy) {
    return failure(Failure::Kind::NotReady, own.caseName + " and " + other.caseName, problem, remedy);
  };
  if (here.section.is() != there.section.is())
    return refused("One is a section and the other a solid.", "Compare two sections, or two solids.");
  DifferenceField field;
  field.onlyHere = partsAlone(here, there);
  field.onlyThere = partsAlone(there, here);
  if (field.onlyHere.size() == here.parts.size())
    return refused("They have no part in common.", "Compare cases of the same model.");
  const std::vector<Spot> spots = spotsOf(own);
  PartwiseField kelvin(at(own.unknowns.count));
  if (sameMesh(own, other)) {
    for (const Spot& spot : spots)
      kelvin.set(spot.unknown, spot.part, otherKelvin[at(spot.unknown)] - ownKelvin[at(spot.unknown)]);
  } else {
    const Transfer transfer(other, here);
    const std::vector<double> values = transfer.bring(own.mesh, spots, otherKelvin, false);
    for (std::size_t i = 0; i < spots.size(); ++i)
      kelvin.set(spots[i].unknown, spots[i].part, values[i] - ownKelvin[at(spots[i].unknown)]);
    field.interpolated = true;
    field.misfit = misfitOf(own, ownKelvin, spots, other, transfer);
  }
  field.kelvin = std::make_shared<const PartwiseField>(std::move(kelvin));
  measure(own, field);
  return field;
}

} // namespace kiln
