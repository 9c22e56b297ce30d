// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "heat/elements/WatchProbe.h"

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

std::size_t at(std::int64_t i) { return static_cast<std::size_t>(i); }

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
  ProbeMaker(const Project& project, const Mesh& mesh, const Unknowns& unknowns, const std::vector<Index>& nodes)
      : project_(project), mesh_(mesh), unknowns_(unknowns), nodes_(nodes)
  {
  }

  std::optional<WatchProbe> operator()(const PartFigure& figure)
  {
    std::vector<bool> wanted(mesh_.geometry.parts.size(), false);
    for (const std::string& id : expandGroups(project_, figure.parts))
      if (const int part = mesh_.geometry.partIndex(id); part != noPart)
        wanted[at(part)] = true;
    for (std::size_t e = 0; e < tetElements(mesh_); ++e)
      if (wanted[at(elementPart(mesh_, e))])
        add(volumeNodes(mesh_, unknowns_, e), volumeLoad(mesh_, e));
    return made(probeKind(figure.kind));
  }
  std::optional<WatchProbe> operator()(const SurfaceFigure& figure)
  {
    const std::vector<int> faces = facesOf(project_, mesh_.geometry, figure.surface).faces;
    const Surface* surface = findById(project_.surfaces, figure.surface);
    if (surface == nullptr)
      return std::nullopt;
    for (std::size_t e = 0; e < triangleElements(mesh_); ++e)
      if (std::binary_search(faces.begin(), faces.end(), elementFace(mesh_, e)))
        add(nodesOf(mesh_, unknowns_, e, sideOf(*surface, elementFace(mesh_, e))), elementLoad(mesh_, e));
    return made(probeKind(figure.kind));
  }
  std::optional<WatchProbe> operator()(const PointFigure& figure)
  {
    if (mesh_.tets.empty())
      return std::nullopt;
    const Location location = locate(mesh_, {figure.place.x.si, figure.place.y.si, figure.place.z.si});
    for (const UnknownShare& own : sharesAt(mesh_, unknowns_, location))
      weight_[own.unknown] += own.share;
    return made(WatchProbe::Kind::Weighted);
  }
  std::optional<WatchProbe> operator()(const NodeFigure& figure)
  {
    for (std::size_t i = 0; i < project_.nodes.size() && i < nodes_.size(); ++i)
      if (project_.nodes[i].id == figure.node && nodes_[i] >= 0)
        weight_[nodes_[i]] = 1;
    return made(WatchProbe::Kind::Weighted);
  }
  template <class Other>
  std::optional<WatchProbe> operator()(const Other&)
  {
    return std::nullopt;
  }

private:
  /// The side that the surface means, as the figures read it.
  [[nodiscard]] std::size_t sideOf(const Surface& surface, int face) const
  {
    return sideMeant(surface, mesh_.geometry, mesh_.geometry.faces[at(face)]);
  }
  template <class Nodes, class Load>
  void add(const Nodes& nodes, const Load& load)
  {
    for (std::size_t i = 0; i < nodes.count; ++i)
      weight_[nodes.own[i]] += load[static_cast<Eigen::Index>(i)];
  }
  std::optional<WatchProbe> made(WatchProbe::Kind kind)
  {
    double sum = 0;
    for (const auto& [unknown, weight] : weight_)
      sum += weight;
    if (weight_.empty() || sum <= 0)
      return std::nullopt;
    std::vector<std::pair<Index, double>> shares(weight_.begin(), weight_.end());
    for (auto& [unknown, share] : shares)
      share /= sum;
    return WatchProbe(kind, std::move(shares));
  }

  const Project& project_;
  const Mesh& mesh_;
  const Unknowns& unknowns_;
  const std::vector<Index>& nodes_;
  std::map<Index, double> weight_;
};

} // namespace

WatchProbe::WatchProbe(Kind kind, std::vector<std::pair<Index, double>> shares)
    : kind_(kind), shares_(std::move(shares))
{
}

Index WatchProbe::extreme(std::span<const double> temperature, bool hottest) const
{
  Index found = shares_.front().first;
  for (const auto& [unknown, share] : shares_)
    if (hottest ? temperature[at(unknown)] > temperature[at(found)] : temperature[at(unknown)] < temperature[at(found)])
      found = unknown;
  return found;
}

double WatchProbe::value(std::span<const double> temperature) const
{
  if (kind_ == Kind::Weighted) {
    double sum = 0;
    for (const auto& [unknown, share] : shares_)
      sum += share * temperature[at(unknown)];
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

Index WatchProbe::where(std::span<const double> temperature) const
{
  if (kind_ != Kind::Weighted)
    return extreme(temperature, kind_ != Kind::Coldest);
  const auto lighter = [](const auto& a, const auto& b) { return a.second < b.second; };
  return std::max_element(shares_.begin(), shares_.end(), lighter)->first;
}

std::optional<WatchProbe> probeOf(const Project& project, const Mesh& mesh, const Unknowns& unknowns,
                                  const std::vector<Index>& nodeUnknowns, const Watch& watch)
{
  return std::visit(ProbeMaker(project, mesh, unknowns, nodeUnknowns), watch.figure);
}

} // namespace kiln
