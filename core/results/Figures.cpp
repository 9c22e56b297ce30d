// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "results/Figures.h"

#include "geometry/SurfaceFaces.h"
#include "heat/elements/SurfaceElement.h"
#include "heat/elements/VolumeElement.h"
#include "model/Edit.h"
#include "results/RecoveredFlux.h"
#include "results/WatchedHeat.h"

#include <algorithm>
#include <cmath>
#include <limits>
#include <set>

namespace kiln
{
namespace
{

std::size_t at(std::int64_t i) { return static_cast<std::size_t>(i); }

HeatState heatOf(const CaseResult& result)
{
  return {result.mesh.geometry, result.faceHeat, result.contactHeat, result.gaps, result.links};
}

/// Gathers extremes and a weighted mean.
struct Collector {
  PlacedValue hottest{-std::numeric_limits<double>::infinity(), Vec3::Zero(), noPart};
  PlacedValue coldest{std::numeric_limits<double>::infinity(), Vec3::Zero(), noPart};
  double sum = 0;
  double weight = 0;

  void add(double temperature, const Vec3& place, int part, double itsWeight)
  {
    if (temperature > hottest.value)
      hottest = {temperature, place, part};
    if (temperature < coldest.value)
      coldest = {temperature, place, part};
    sum += temperature * itsWeight;
    weight += itsWeight;
  }
  void merge(const Collector& other)
  {
    if (other.hottest.value > hottest.value)
      hottest = other.hottest;
    if (other.coldest.value < coldest.value)
      coldest = other.coldest;
    sum += other.sum;
    weight += other.weight;
  }
  [[nodiscard]] bool empty() const { return weight <= 0; }
};

std::vector<Collector> collectParts(const Mesh& mesh, const Unknowns& unknowns, std::span<const double> temperature)
{
  std::vector<Collector> parts(mesh.geometry.parts.size());
  for (std::size_t e = 0; e < tetElements(mesh); ++e) {
    const int part = elementPart(mesh, e);
    const VolumeNodes own = volumeNodes(mesh, unknowns, e);
    const VolumeNodes nodes = placesIn(mesh, e);
    const VolumeVector load = volumeLoad(mesh, e);
    for (std::size_t i = 0; i < own.count; ++i)
      parts[at(part)].add(temperature[at(own.own[i])], mesh.placeOf(nodes.own[i]), part,
                          load[static_cast<Eigen::Index>(i)]);
  }
  return parts;
}

class WatchReader
{
public:
  WatchReader(const Project& project, const CaseResult& result) : project_(project), result_(result) {}

  WatchFigure read(const Watch& watch)
  {
    WatchFigure figure{watch.id, watch.name, quantityOf(project_, watch), {}, {}, {}, {}, {}, {}};
    std::visit([&](const auto& kind) { fill(figure, kind); }, watch.figure);
    if (watch.upper)
      figure.upper = watch.upper->si;
    if (watch.lower)
      figure.lower = watch.lower->si;
    if (figure.value && figure.upper)
      figure.margin = *figure.upper - *figure.value;
    if (figure.value && figure.lower)
      figure.margin =
          std::min(figure.margin.value_or(std::numeric_limits<double>::infinity()), *figure.value - *figure.lower);
    return figure;
  }

private:
  static void take(WatchFigure& figure, PartFigure::Kind kind, const Collector& all)
  {
    if (all.empty())
      return;
    if (kind == PartFigure::Kind::Mean) {
      figure.value = all.sum / all.weight;
      return;
    }
    figure.where = kind == PartFigure::Kind::Coldest ? all.coldest : all.hottest;
    figure.value = figure.where->value;
    if (kind == PartFigure::Kind::Spread)
      figure.value = all.hottest.value - all.coldest.value;
  }

  void fill(WatchFigure& figure, const PartFigure& watched)
  {
    if (parts_.empty())
      parts_ = collectParts(result_.mesh, result_.unknowns, result_.temperature);
    Collector all;
    for (const std::string& id : expandGroups(project_, watched.parts))
      if (const int part = result_.mesh.geometry.partIndex(id); part != noPart)
        all.merge(parts_[at(part)]);
    take(figure, watched.kind, all);
    if (!figure.value)
      figure.note = "none of its parts is in this result";
  }
  void fill(WatchFigure& figure, const SurfaceFigure& watched)
  {
    const Surface* surface = findById(project_.surfaces, watched.surface);
    const std::vector<int> faces = facesOf(project_, result_.mesh.geometry, watched.surface).faces;
    Collector all;
    for (std::size_t e = 0; surface != nullptr && e < triangleElements(result_.mesh); ++e) {
      const int f = elementFace(result_.mesh, e);
      if (!std::binary_search(faces.begin(), faces.end(), f))
        continue;
      const Face& face = result_.mesh.geometry.faces[at(f)];
      const std::size_t side = sideMeant(*surface, result_.mesh.geometry, face);
      const SurfaceNodes own = nodesOf(result_.mesh, result_.unknowns, e, side);
      const SurfaceNodes nodes = placesOf(result_.mesh, e);
      const NodeVector load = elementLoad(result_.mesh, e);
      for (std::size_t i = 0; i < own.count; ++i)
        all.add(result_.temperature[at(own.own[i])], result_.mesh.placeOf(nodes.own[i]), face.parts[side],
                load[static_cast<Eigen::Index>(i)]);
    }
    take(figure, watched.kind, all);
    if (!figure.value)
      figure.note = "its surface has no face in this result";
  }
  void fill(WatchFigure& figure, const PointFigure& watched) const
  {
    const Vec3 place(watched.place.x.si, watched.place.y.si, watched.place.z.si);
    const Location location = locate(result_.mesh, place);
    double value = 0;
    for (const UnknownShare& own : sharesAt(result_.mesh, result_.unknowns, location))
      value += own.share * result_.temperature[at(own.unknown)];
    figure.value = value;
    figure.where = PlacedValue{value, place, result_.mesh.tetPart[location.tet]};
    if (location.distance > 0)
      figure.note = "the point lies outside the solids; read " +
                    formatQuantity(location.distance, Quantity::Length, {}, 3) + " away";
  }
  template <class Figure>
  void fillHeat(WatchFigure& figure, const Figure& watched, const char* missing) const
  {
    Watch watch;
    watch.figure = watched;
    figure.value = watchedHeat(project_, heatOf(result_), watch);
    if (!figure.value)
      figure.note = missing;
  }
  void fill(WatchFigure& figure, const SurfaceHeat& watched) const
  {
    fillHeat(figure, watched, "its surface has no face in this result");
  }
  void fill(WatchFigure& figure, const ContactHeat& watched) const
  {
    fillHeat(figure, watched, "these parts do not touch in this result");
  }
  void fill(WatchFigure& figure, const LinkHeat& watched) const
  {
    fillHeat(figure, watched, "its link is not in this result");
  }
  void fill(WatchFigure& figure, const Transmittance& watched) const
  {
    fillHeat(figure, watched,
             watched.warm.si == watched.cold.si ? "its two ambients are the same"
                                                : "its surface has no face in this result");
  }

  void fill(WatchFigure& figure, const NodeFigure& watched) const
  {
    for (const NodeState& node : result_.nodes)
      if (node.id == watched.node)
        figure.value = node.temperature;
    if (!figure.value)
      figure.note = "its node is not in this result";
  }
  void fill(WatchFigure& figure, const MoltenShare& watched) const
  {
    figure.value = moltenShareOf(project_, result_.mesh, result_.unknowns, result_.temperature, watched);
    if (!figure.value)
      figure.note = "none of its parts can melt: their materials have no latent heat";
  }
  void fill(WatchFigure& figure, const BetweenWatches& watched)
  {
    const auto valueOf = [&](const std::string& id) -> std::optional<double> {
      const Watch* other = findById(project_.watches, id);
      return other == nullptr || std::holds_alternative<BetweenWatches>(other->figure) ? std::nullopt
                                                                                       : read(*other).value;
    };
    const auto hot = valueOf(watched.hot);
    const auto cold = valueOf(watched.cold);
    const auto heat = valueOf(watched.heat);
    if (hot && cold && heat && *heat != 0)
      figure.value = (*hot - *cold) / *heat;
    else
      figure.note = "it needs two watches of temperatures and one of a heat that is not zero";
  }

  void fill(WatchFigure& figure, const LargestFlux& watched)
  {
    if (recovered_.slot.empty())
      recovered_ = recoverFlux(result_.mesh, result_.unknowns, result_.flux);
    std::set<int> parts;
    for (const std::string& id : expandGroups(project_, watched.parts))
      parts.insert(result_.mesh.geometry.partIndex(id));
    for (std::size_t t = 0; t < result_.mesh.tets.size(); ++t)
      for (std::size_t i = 0; parts.contains(result_.mesh.tetPart[t]) && i < 4; ++i) {
        const double size = recovered_.corner(t, i).norm();
        if (!figure.value || size > *figure.value) {
          figure.value = size;
          figure.where = PlacedValue{size, result_.mesh.placeOf(result_.mesh.tets[t][i]), result_.mesh.tetPart[t]};
        }
      }
    if (!figure.value)
      figure.note = "none of its parts is in this result";
  }
  const Project& project_;
  const CaseResult& result_;
  std::vector<Collector> parts_;
  RecoveredFlux recovered_; ///< made when first asked for
};

} // namespace

double CaseResult::relativeImbalance() const
{
  const double size = std::max({heatIn, heatOut, heatFloor});
  return size > 0 ? std::abs(imbalance) / size : 0;
}

std::vector<PartFigures> partFigures(const Mesh& mesh, const Unknowns& unknowns, std::span<const double> temperature)
{
  std::vector<PartFigures> figures;
  const std::vector<Collector> parts = collectParts(mesh, unknowns, temperature);
  for (std::size_t p = 0; p < parts.size(); ++p)
    figures.push_back({mesh.geometry.parts[p].id, mesh.geometry.parts[p].name, parts[p].hottest, parts[p].coldest,
                       parts[p].empty() ? 0 : parts[p].sum / parts[p].weight});
  return figures;
}

std::vector<PartFigures> partFigures(const CaseResult& result)
{
  return partFigures(result.mesh, result.unknowns, result.temperature);
}

std::vector<ContactFigure> contactFigures(const CaseResult& result) { return contactFigures(heatOf(result)); }

WatchFigure readWatch(const Project& project, const CaseResult& result, const Watch& watch)
{
  return WatchReader(project, result).read(watch);
}

std::vector<WatchFigure> readWatches(const Project& project, const CaseResult& result)
{
  WatchReader reader(project, result);
  std::vector<WatchFigure> figures;
  for (const Watch& watch : project.watches)
    figures.push_back(reader.read(watch));
  return figures;
}

std::optional<WatchFigure> worstMargin(const std::vector<WatchFigure>& watches)
{
  std::optional<WatchFigure> worst;
  for (const WatchFigure& watch : watches) {
    if (!watch.margin)
      continue;
    const bool firstOfKind =
        !worst || (worst->quantity != Quantity::Temperature && watch.quantity == Quantity::Temperature);
    if (firstOfKind || (watch.quantity == worst->quantity && *watch.margin < *worst->margin))
      worst = watch;
  }
  return worst;
}

std::string placeWords(const GeometryPart& part, const Vec3& place)
{
  const auto word = [&](int axis, const char* low, const char* high) -> std::string {
    const double extent = part.high[axis] - part.low[axis];
    const double share = extent > 0 ? (place[axis] - part.low[axis]) / extent : 0.5;
    return share < 0.3 ? low : share > 0.7 ? high : "";
  };
  const std::string height = word(2, "bottom", "top");
  const std::string depth = word(1, "front", "back");
  const std::string width = word(0, "left", "right");
  const std::string level = depth + (!depth.empty() && !width.empty() ? " " : "") + width;
  if (height.empty() && level.empty())
    return "middle";
  return height + (!height.empty() && !level.empty() ? ", " : "") + level;
}

std::string formatMargin(double margin, Quantity quantity, TemperatureUnit unit)
{
  const Quantity step = quantity == Quantity::Temperature ? Quantity::TemperatureStep : quantity;
  const std::string size = formatQuantity(margin, step, unit, std::abs(margin) < 100 ? 2 : 3);
  return margin > 0 ? "+" + size : size;
}

} // namespace kiln
