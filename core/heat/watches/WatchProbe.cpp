// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "heat/watches/WatchProbe.h"

#include "base/At.h"
#include "geometry/SurfaceFaces.h"
#include "heat/elements/SurfaceElement.h"
#include "heat/elements/VolumeElement.h"
#include "model/Edit.h"

#include <algorithm>
#include <map>

namespace kiln
{
namespace
{

WatchProbe::Kind probeKind(PartFigure::Kind kind)
{
  switch (kind) {
  case PartFigure::Kind::Hottest:
    return WatchProbe::Kind::Hottest;
  case PartFigure::Kind::Coldest:
    return WatchProbe::Kind::Coldest;
  case PartFigure::Kind::Spread:
    return WatchProbe::Kind::Spread;
  case PartFigure::Kind::Mean:
    break;
  }
  return WatchProbe::Kind::Weighted;
}

/// Gathers the unknowns a watch reads, with volumes or areas as weights.
class ProbeMaker
{
public:
  explicit ProbeMaker(const WatchGround& ground)
      : project_(ground.project), mesh_(ground.mesh), unknowns_(ground.unknowns), lumped_(ground.lumped)
  {
  }

  std::optional<WatchProbe> operator()(const PartFigure& figure)
  {
    std::vector<bool> wanted(mesh_.geometry.parts.size(), false);
    for (const std::string& id : expandGroups(project_, figure.parts))
      if (const PartId part = mesh_.geometry.partIndex(id); part != noPart)
        wanted[at(part)] = true;
    for (std::size_t e = 0; e < tetElements(mesh_); ++e)
      if (wanted[at(elementPart(mesh_, e))])
        add(volumeNodes(mesh_, unknowns_, e), volumeLoad(mesh_, e), elementPart(mesh_, e));
    return made(probeKind(figure.kind));
  }
  std::optional<WatchProbe> operator()(const SurfaceFigure& figure)
  {
    const std::vector<FaceId> faces = facesOf(project_, mesh_.geometry, figure.surface).faces;
    const Surface* surface = findById(project_.surfaces, figure.surface);
    if (surface == nullptr)
      return std::nullopt;
    for (std::size_t e = 0; e < triangleElements(mesh_); ++e)
      if (const FaceId face = elementFace(mesh_, e); std::binary_search(faces.begin(), faces.end(), face)) {
        const Face& own = mesh_.geometry.faces[at(face)];
        const std::size_t side = sideMeant(*surface, mesh_.geometry, own); // as the figures read it
        add(nodesOf(mesh_, unknowns_, e, side), elementLoad(mesh_, e), own.parts[side]);
      }
    return made(probeKind(figure.kind));
  }
  std::optional<WatchProbe> operator()(const PointFigure& figure)
  {
    if (mesh_.tets.empty())
      return std::nullopt;
    const Location location = locate(mesh_, {figure.place.x.si, figure.place.y.si, figure.place.z.si});
    for (const UnknownShare& own : sharesAt(mesh_, unknowns_, location))
      give(own.unknown, own.share, noPart);
    return made(WatchProbe::Kind::Weighted);
  }
  std::optional<WatchProbe> operator()(const NodeFigure& figure)
  {
    if (const auto found = lumped_.find(figure.node); found != lumped_.end())
      give(found->second, 1, noPart);
    return made(WatchProbe::Kind::Weighted);
  }
  template <class Other>
  std::optional<WatchProbe> operator()(const Other&)
  {
    return std::nullopt;
  }

private:
  template <class Nodes, class Load>
  void add(const Nodes& nodes, const Load& load, PartId part)
  {
    for (std::size_t i = 0; i < nodes.count; ++i)
      give(nodes.own[i], load[static_cast<Eigen::Index>(i)], part);
  }
  void give(UnknownId unknown, double weight, PartId part)
  {
    if (placeOf_.size() <= at(unknown))
      placeOf_.resize(std::max(at(unknown) + 1, at(unknowns_.count)), none);
    std::size_t& place = placeOf_[at(unknown)];
    if (place == none) {
      place = shares_.size();
      shares_.push_back({unknown, 0, part});
    }
    shares_[place].weight += weight;
  }
  std::optional<WatchProbe> made(WatchProbe::Kind kind)
  {
    double sum = 0;
    for (const WatchProbe::Share& share : shares_)
      sum += share.weight;
    if (shares_.empty() || sum <= 0)
      return std::nullopt;
    std::sort(shares_.begin(), shares_.end(),
              [](const WatchProbe::Share& a, const WatchProbe::Share& b) { return a.unknown < b.unknown; });
    for (WatchProbe::Share& share : shares_)
      share.weight /= sum;
    return WatchProbe(kind, std::move(shares_));
  }

  const Project& project_;
  const Mesh& mesh_;
  const Unknowns& unknowns_;
  const std::map<std::string, UnknownId>& lumped_;
  static constexpr std::size_t none = static_cast<std::size_t>(-1);
  std::vector<std::size_t> placeOf_; ///< by unknown, in shares_
  std::vector<WatchProbe::Share> shares_;
};

} // namespace

WatchProbe::WatchProbe(Kind kind, std::vector<Share> shares) : kind_(kind), shares_(std::move(shares)) {}

UnknownId WatchProbe::extreme(std::span<const double> temperature, bool hottest) const
{
  UnknownId found = shares_.front().unknown;
  for (const auto& [unknown, weight, part] : shares_)
    if (hottest ? temperature[at(unknown)] > temperature[at(found)] : temperature[at(unknown)] < temperature[at(found)])
      found = unknown;
  return found;
}

double WatchProbe::value(std::span<const double> temperature) const
{
  if (kind_ == Kind::Weighted) {
    double sum = 0;
    for (const Share& share : shares_)
      sum += share.weight * temperature[at(share.unknown)];
    return sum;
  }
  const double hot = temperature[at(extreme(temperature, kind_ != Kind::Coldest))];
  return kind_ == Kind::Spread ? hot - temperature[at(extreme(temperature, false))] : hot;
}

double WatchProbe::change(std::span<const double> temperature, std::span<const double> direction) const
{
  if (kind_ == Kind::Weighted)
    return value(direction);
  const double hot = direction[at(extreme(temperature, kind_ != Kind::Coldest))];
  return kind_ == Kind::Spread ? hot - direction[at(extreme(temperature, false))] : hot;
}

UnknownId WatchProbe::where(std::span<const double> temperature) const
{
  if (kind_ != Kind::Weighted)
    return extreme(temperature, kind_ != Kind::Coldest);
  const auto lighter = [](const Share& a, const Share& b) { return a.weight < b.weight; };
  return std::max_element(shares_.begin(), shares_.end(), lighter)->unknown;
}

PartId WatchProbe::partAt(UnknownId unknown) const // they increase
{
  const auto own = std::lower_bound(shares_.begin(), shares_.end(), unknown,
                                    [](const Share& share, UnknownId wanted) { return share.unknown < wanted; });
  return own != shares_.end() && own->unknown == unknown ? own->part : noPart;
}

std::optional<WatchProbe> probeOf(const WatchGround& ground, const Watch& watch)
{
  return std::visit(ProbeMaker(ground), watch.figure);
}

} // namespace kiln
