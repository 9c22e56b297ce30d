// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "heat/watches/WatchReader.h"

#include "base/At.h"
#include "geometry/SurfaceFaces.h"
#include "geometry/TouchingPairs.h"
#include "heat/elements/Enthalpy.h"
#include "heat/elements/Location.h"
#include "model/Edit.h"

#include <algorithm>
#include <cmath>
#include <map>
#include <memory>

namespace kiln
{
namespace
{

using Read = std::function<std::optional<WatchReading>(const WatchMoment&)>;

std::optional<WatchReading> plain(std::optional<double> value)
{
  return value ? std::optional(WatchReading{*value, std::nullopt, std::nullopt}) : std::nullopt;
}

/// Faces through which heat is summed, with the sign of their contacts' heat.
struct SignedFace {
  int face;
  double sign;
};

double through(const HeatState& heat, const std::vector<SignedFace>& faces)
{
  double watts = 0;
  for (const SignedFace& own : faces)
    watts += heat.faceHeat[at(own.face)] + own.sign * heat.contactHeat[at(own.face)];
  return watts;
}

} // namespace

/// Gathers what each kind of watch reads.
class WatchReader::Preparer
{
public:
  Preparer(const WatchGround& ground, const Watch& watch, WatchReader& reader)
      : ground_(ground), watch_(watch), reader_(reader)
  {
  }

  Read operator()(const PartFigure& figure) { return extreme(figure.kind, "none of its parts is in this result"); }
  Read operator()(const SurfaceFigure& figure) { return extreme(figure.kind, noFace); }
  Read operator()(const PointFigure& figure)
  {
    const auto probe = probeOf(ground_, watch_);
    if (!probe)
      return missing("there is no solid in this result");
    const Vec3 place(figure.place.x.si, figure.place.y.si, figure.place.z.si);
    const Location location = locate(ground_.mesh, place);
    if (location.distance > 0)
      reader_.note_ = "the point lies outside the solids; read " +
                      formatQuantity(location.distance, Quantity::Length, {}, 3) + " away";
    reader_.ofTemperatures_ = true;
    return [probe = *probe, place, part = ground_.mesh.tetPart[location.tet]](const WatchMoment& moment) {
      WatchReading reading = readingOf(probe, moment);
      reading.place = place;
      reading.part = part;
      return std::optional(reading);
    };
  }
  Read operator()(const NodeFigure&)
  {
    const auto probe = probeOf(ground_, watch_);
    if (!probe)
      return missing("its node is not in this result");
    reader_.ofTemperatures_ = true;
    return [probe = *probe](const WatchMoment& moment) { return std::optional(readingOf(probe, moment)); };
  }

  Read operator()(const SurfaceHeat& figure)
  {
    std::vector<SignedFace> faces = facesOn(figure.surface);
    if (faces.empty())
      return missing(noFace);
    return ofHeat([faces = std::move(faces)](const HeatState& heat) { return plain(through(heat, faces)); });
  }
  Read operator()(const Transmittance& figure)
  {
    std::vector<SignedFace> faces = facesOn(figure.surface);
    double area = 0;
    for (const SignedFace& own : faces)
      area += ground_.mesh.geometry.faces[at(own.face)].area;
    if (figure.area)
      area = figure.area->si;
    const double difference = std::abs(figure.warm.si - figure.cold.si);
    if (difference <= 0)
      return missing("its two ambients are the same");
    if (faces.empty() || area <= 0)
      return missing(noFace);
    return ofHeat([faces = std::move(faces), scale = area * difference](const HeatState& heat) {
      return plain(std::abs(through(heat, faces)) / scale);
    });
  }
  Read operator()(const ContactHeat& figure)
  {
    return ofHeat(
        [figure](const HeatState& heat) -> std::optional<WatchReading> {
          for (const ContactFigure& contact : contactFigures(heat)) {
            if (contact.partA == figure.partA && contact.partB == figure.partB)
              return plain(contact.watts);
            if (contact.partA == figure.partB && contact.partB == figure.partA)
              return plain(-contact.watts);
          }
          return std::nullopt;
        },
        "these parts do not touch in this result");
  }
  Read operator()(const LinkHeat& figure)
  {
    return ofHeat(
        [link = figure.link](const HeatState& heat) -> std::optional<WatchReading> {
          const auto found =
              std::find_if(heat.links.begin(), heat.links.end(), [&](const LedgerFlow& own) { return own.id == link; });
          return found == heat.links.end() ? std::nullopt : plain(found->watts);
        },
        "its link is not in this result");
  }

  Read operator()(const MoltenShare& figure)
  {
    struct Volumes {
      Material material;
      std::map<Index, double> cubicMetres;
    };
    auto all = std::make_shared<std::vector<Volumes>>();
    double volume = 0;
    for (const std::string& id : expandGroups(ground_.project, figure.parts)) {
      const Part* part = findById(ground_.project.parts, id);
      const Material* material = part != nullptr ? findById(ground_.project.materials, part->material) : nullptr;
      const int index = ground_.mesh.geometry.partIndex(id);
      if (material == nullptr || index == noPart || !material->latentHeat)
        continue;
      Volumes& own = all->emplace_back(Volumes{*material, {}});
      for (std::size_t t = 0; t < ground_.mesh.tets.size(); ++t)
        if (ground_.mesh.tetPart[t] == index)
          for (const Index unknown : ground_.unknowns.ofTet[t]) {
            own.cubicMetres[unknown] += tetVolume(ground_.mesh, t) / 4;
            volume += tetVolume(ground_.mesh, t) / 4;
          }
    }
    if (volume <= 0)
      return missing("none of its parts can melt: their materials have no latent heat");
    return [all, volume](const WatchMoment& moment) {
      double molten = 0;
      for (const Volumes& own : *all)
        for (const auto& [unknown, share] : own.cubicMetres)
          molten += share * moltenShare(own.material, moment.temperature[at(unknown)]);
      return plain(molten / volume);
    };
  }

  Read operator()(const LargestFlux& figure)
  {
    const Mesh& mesh = ground_.mesh;
    std::vector<bool> wanted(mesh.geometry.parts.size(), false);
    for (const std::string& id : expandGroups(ground_.project, figure.parts))
      if (const int part = mesh.geometry.partIndex(id); part != noPart)
        wanted[at(part)] = true;
    if (std::find(wanted.begin(), wanted.end(), true) == wanted.end())
      return missing("none of its parts is in this result");
    reader_.needsFlux_ = true;
    return [&mesh, wanted = std::move(wanted)](const WatchMoment& moment) -> std::optional<WatchReading> {
      std::optional<WatchReading> largest;
      for (std::size_t t = 0; moment.flux != nullptr && t < mesh.tets.size(); ++t)
        for (std::size_t i = 0; wanted[at(mesh.tetPart[t])] && i < 4; ++i)
          if (const double size = moment.flux->corner(t, i).norm(); !largest || size > largest->value)
            largest = WatchReading{size, std::nullopt, std::nullopt, mesh.placeOf(mesh.tets[t][i]), mesh.tetPart[t]};
      return largest;
    };
  }

  Read operator()(const BetweenWatches& figure)
  {
    std::vector<WatchReader> readers;
    for (const std::string& id : {figure.hot, figure.cold, figure.heat})
      if (const Watch* other = findById(ground_.project.watches, id);
          other != nullptr && !std::holds_alternative<BetweenWatches>(other->figure))
        readers.emplace_back(ground_, *other);
    reader_.note_ = "it needs two watches of temperatures and one of a heat that is not zero";
    if (readers.size() < 3)
      return {};
    for (const WatchReader& other : readers) {
      reader_.needsHeat_ = reader_.needsHeat_ || other.needsHeat();
      reader_.needsFlux_ = reader_.needsFlux_ || other.needsFlux();
    }
    return [readers = std::move(readers)](const WatchMoment& moment) -> std::optional<WatchReading> {
      const auto hot = readers[0].read(moment);
      const auto cold = readers[1].read(moment);
      const auto heat = readers[2].read(moment);
      if (!hot || !cold || !heat || heat->value == 0)
        return std::nullopt;
      return plain((hot->value - cold->value) / heat->value);
    };
  }

private:
  static constexpr const char* noFace = "its surface has no face in this result";

  Read missing(const char* why)
  {
    reader_.note_ = why;
    return {};
  }
  static WatchReading readingOf(const WatchProbe& probe, const WatchMoment& moment)
  {
    WatchReading reading{probe.value(moment.temperature), std::nullopt, probe.where(moment.temperature)};
    if (!moment.rate.empty())
      reading.rate = probe.change(moment.temperature, moment.rate);
    return reading;
  }
  /// Of parts or a surface: the place of the hottest or coldest is known.
  Read extreme(PartFigure::Kind kind, const char* why)
  {
    const auto probe = probeOf(ground_, watch_);
    if (!probe)
      return missing(why);
    reader_.ofTemperatures_ = true;
    const bool placed = kind != PartFigure::Kind::Mean;
    return [probe = *probe, placed, &mesh = ground_.mesh, &nodes = ground_.unknowns.node](const WatchMoment& moment) {
      WatchReading reading = readingOf(probe, moment);
      if (placed) {
        reading.place = mesh.placeOf(nodes[at(*reading.at)]);
        reading.part = probe.partAt(*reading.at);
      }
      return std::optional(reading);
    };
  }
  template <class OfHeat>
  Read ofHeat(OfHeat&& ofHeat, const char* absent = "")
  {
    reader_.needsHeat_ = true;
    reader_.note_ = absent;
    return [ofHeat = std::forward<OfHeat>(ofHeat)](const WatchMoment& moment) {
      return moment.heat != nullptr ? ofHeat(*moment.heat) : std::nullopt;
    };
  }
  [[nodiscard]] std::vector<SignedFace> facesOn(const std::string& id) const
  {
    std::vector<SignedFace> faces;
    const FaceTable& geometry = ground_.mesh.geometry;
    if (const Surface* surface = findById(ground_.project.surfaces, id))
      for (const int face : facesOf(ground_.project, geometry, id).faces)
        faces.push_back({face, sideMeant(*surface, geometry, geometry.faces[at(face)]) == 1 ? 1.0 : -1.0});
    return faces;
  }

  const WatchGround& ground_;
  const Watch& watch_;
  WatchReader& reader_;
};

WatchReader::WatchReader(const WatchGround& ground, const Watch& watch)
{
  read_ = std::visit([&](const auto& figure) { return Preparer(ground, watch, *this)(figure); }, watch.figure);
}

std::optional<WatchReading> WatchReader::read(const WatchMoment& moment) const
{
  return read_ ? read_(moment) : std::nullopt;
}

} // namespace kiln
