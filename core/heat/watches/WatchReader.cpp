// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "heat/watches/WatchReader.h"

#include "base/At.h"
#include "geometry/SurfaceFaces.h"
#include "geometry/TouchingPairs.h"
#include "heat/elements/Enthalpy.h"
#include "heat/elements/Location.h"
#include "heat/watches/ShareAbove.h"
#include "model/Edit.h"
#include "model/Formula.h"

#include <algorithm>
#include <cmath>
#include <map>
#include <memory>
#include <set>

namespace kiln
{
namespace
{

using Read = std::function<std::optional<WatchReading>(const WatchMoment&)>;

std::optional<WatchReading> plain(std::optional<double> value)
{
  return value ? std::optional(WatchReading{*value, std::nullopt, std::nullopt}) : std::nullopt;
}

/// Does a formula of watches use, by way of others, itself?
bool comesBack(const Project& project, const Watch& watch)
{
  std::set<std::string> seen;
  std::vector<std::string> next{watch.id};
  for (bool first = true; !next.empty(); first = false) {
    const std::string id = std::move(next.back());
    next.pop_back();
    if (!first && id == watch.id)
      return true;
    const Watch* own = findById(project.watches, id);
    if (own == nullptr || !seen.insert(id).second)
      continue;
    if (const auto* formula = std::get_if<FormulaFigure>(&own->figure))
      next.insert(next.end(), formula->watches.begin(), formula->watches.end());
  }
  return false;
}

/// Faces through which heat is summed, with the sign of their contacts' heat.
struct SignedFace {
  FaceId face;
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
      std::map<UnknownId, double> cubicMetres;
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
          for (const UnknownId unknown : ground_.unknowns.ofTet[t]) {
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
    std::vector<bool> wanted = wantedParts(figure.parts);
    if (wanted.empty())
      return missing("none of its parts is in this result");
    reader_.needsFlux_ = true;
    return
        [&mesh = ground_.mesh, wanted = std::move(wanted)](const WatchMoment& moment) -> std::optional<WatchReading> {
          std::optional<WatchReading> largest;
          for (std::size_t t = 0; moment.flux != nullptr && t < mesh.tets.size(); ++t)
            for (std::size_t i = 0; wanted[at(mesh.tetPart[t])] && i < 4; ++i)
              if (const double size = moment.flux->corner(t, i).norm(); !largest || size > largest->value)
                largest =
                    WatchReading{size, std::nullopt, std::nullopt, mesh.placeOf(mesh.tets[t][i]), mesh.tetPart[t], {}};
          return largest;
        };
  }

  Read operator()(const SurfaceFluxFigure& figure)
  {
    return figure.kind == SurfaceFluxFigure::Of::Mean ? meanFlux(figure.surface) : largestFluxOn(figure.surface);
  }

  Read operator()(const HotVolume& figure)
  {
    std::vector<bool> wanted = wantedParts(figure.parts);
    if (wanted.empty())
      return missing("none of its parts is in this result");
    return [&mesh = ground_.mesh, &unknowns = ground_.unknowns, wanted = std::move(wanted),
            above = figure.above.si](const WatchMoment& moment) {
      WatchReading reading;
      std::vector<bool> reached(wanted.size(), false);
      for (std::size_t t = 0; t < mesh.tets.size(); ++t) {
        if (!wanted[at(mesh.tetPart[t])])
          continue;
        std::array<double, 4> corners{};
        for (std::size_t i = 0; i < 4; ++i)
          corners[i] = moment.temperature[at(unknowns.ofTet[t][i])];
        const double share = shareAbove(corners, above);
        reading.value += share * tetVolume(mesh, t);
        if (share > 0)
          reached[at(mesh.tetPart[t])] = true;
      }
      for (std::size_t p = 0; p < reached.size(); ++p)
        if (reached[p])
          reading.parts.push_back(mesh.geometry.parts[p].id);
      return std::optional(reading);
    };
  }

  Read operator()(const FormulaFigure& figure)
  {
    if (comesBack(ground_.project, watch_))
      return missing("its formula comes back to itself");
    std::vector<NamedQuantity> given;
    std::vector<WatchReader> readers;
    for (const std::string& id : figure.watches) {
      const Watch* other = findById(ground_.project.watches, id);
      if (other == nullptr)
        return missing("one of its watches is gone");
      given.push_back({std::string(1, static_cast<char>('a' + given.size())), quantityOf(ground_.project, *other)});
      readers.emplace_back(ground_, *other);
    }
    const auto formula = Formulas(ground_.project).ofGiven(figure.formula, given, figure.is);
    if (!formula) {
      reader_.note_ = formula.error().problem;
      return {};
    }
    needsOf(readers);
    reader_.note_ = "one of its watches has no value, or its formula has none for theirs";
    return
        [readers = std::move(readers), formula = *formula](const WatchMoment& moment) -> std::optional<WatchReading> {
          std::vector<double> values;
          for (const WatchReader& other : readers) {
            const auto reading = other.read(moment);
            if (!reading)
              return std::nullopt;
            values.push_back(reading->value);
          }
          const double value = formula(values);
          return std::isfinite(value) ? plain(value) : std::nullopt;
        };
  }

  Read operator()(const BetweenWatches& figure)
  {
    std::vector<WatchReader> readers;
    for (const std::string& id : {figure.hot, figure.cold, figure.heat})
      if (const Watch* other = findById(ground_.project.watches, id);
          other != nullptr && !std::holds_alternative<BetweenWatches>(other->figure) &&
          !std::holds_alternative<FormulaFigure>(other->figure))
        readers.emplace_back(ground_, *other);
    reader_.note_ = "it needs two watches of temperatures and one of a heat that is not zero";
    if (readers.size() < 3)
      return {};
    needsOf(readers);
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

  /// By part; empty where none is in the result.
  [[nodiscard]] std::vector<bool> wantedParts(const std::vector<std::string>& ids) const
  {
    std::vector<bool> wanted(ground_.mesh.geometry.parts.size(), false);
    for (const std::string& id : expandGroups(ground_.project, ids))
      if (const PartId part = ground_.mesh.geometry.partIndex(id); part != noPart)
        wanted[at(part)] = true;
    const bool any = std::find(wanted.begin(), wanted.end(), true) != wanted.end();
    return any ? wanted : std::vector<bool>{};
  }
  void needsOf(const std::vector<WatchReader>& others)
  {
    for (const WatchReader& other : others) {
      reader_.needsHeat_ = reader_.needsHeat_ || other.needsHeat();
      reader_.needsFlux_ = reader_.needsFlux_ || other.needsFlux();
    }
  }

  Read meanFlux(const std::string& surface)
  {
    std::vector<SignedFace> faces = facesOn(surface);
    double area = 0;
    for (const SignedFace& own : faces)
      area += ground_.mesh.geometry.faces[at(own.face)].area;
    if (area <= 0)
      return missing(noFace);
    return ofHeat(
        [faces = std::move(faces), area](const HeatState& heat) { return plain(through(heat, faces) / area); });
  }
  /// Of the elements beneath, at the nodes that lie on the surface.
  Read largestFluxOn(const std::string& surface)
  {
    struct Corner {
      std::size_t tet, corner;
    };
    const Mesh& mesh = ground_.mesh;
    std::vector<Corner> corners;
    const std::vector<SignedFace> faces = facesOn(surface);
    for (const SignedFace& own : faces)
      for (std::size_t t = 0; t < mesh.triangles.size(); ++t) {
        if (mesh.triangleFace[t] != own.face)
          continue;
        const std::int32_t tet = mesh.triangleTets[t][own.sign > 0 ? 1 : 0];
        const std::int32_t beneath = tet >= 0 ? tet : mesh.triangleTets[t][0];
        for (std::size_t i = 0; beneath >= 0 && i < 4; ++i)
          if (const NodeTriangle& on = mesh.triangles[t];
              std::find(on.begin(), on.end(), mesh.tets[at(beneath)][i]) != on.end())
            corners.push_back({at(beneath), i});
      }
    if (corners.empty())
      return missing(noFace);
    reader_.needsFlux_ = true;
    return [&mesh, corners = std::move(corners)](const WatchMoment& moment) -> std::optional<WatchReading> {
      std::optional<WatchReading> largest;
      for (const Corner& own : corners)
        if (moment.flux != nullptr)
          if (const double size = moment.flux->corner(own.tet, own.corner).norm(); !largest || size > largest->value)
            largest = WatchReading{
                size, std::nullopt, std::nullopt, mesh.placeOf(mesh.tets[own.tet][own.corner]), mesh.tetPart[own.tet],
                {}};
      return largest;
    };
  }

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
      for (const FaceId face : facesOf(ground_.project, geometry, id).faces)
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
