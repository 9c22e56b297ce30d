// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "results/PartReader.h"

#include "base/At.h"
#include "base/InParallel.h"
#include "heat/elements/VolumeElement.h"

#include <limits>

namespace kiln
{

PartReader::PartReader(const Mesh& mesh, const Unknowns& unknowns)
    : mesh_(mesh), unknowns_(unknowns), shares_(mesh.geometry.parts.size())
{
  std::vector<std::vector<std::size_t>> elements(shares_.size());
  for (std::size_t e = 0; e < tetElements(mesh); ++e)
    elements[at(elementPart(mesh, e))].push_back(e);
  inParallel(shares_.size(), [&](std::size_t part) {
    constexpr std::size_t none = static_cast<std::size_t>(-1);
    std::vector<std::size_t> placeOf(at(unknowns.count), none);
    for (const std::size_t e : elements[part]) {
      const VolumeNodes nodes = volumeNodes(mesh, unknowns, e);
      const VolumeVector load = volumeLoad(mesh, e);
      for (std::size_t i = 0; i < nodes.count; ++i) {
        std::size_t& place = placeOf[at(nodes.own[i])];
        if (place == none) {
          place = shares_[part].size();
          shares_[part].push_back({nodes.own[i], 0});
        }
        shares_[part][place].volume += load[static_cast<Eigen::Index>(i)];
      }
    }
  });
}

std::vector<PartFigures> PartReader::read(std::span<const double> temperature) const
{
  constexpr double none = std::numeric_limits<double>::infinity();
  std::vector<PartFigures> figures;
  for (std::size_t p = 0; p < shares_.size(); ++p) {
    const auto part = PartId(p);
    const GeometryPart& own = mesh_.geometry.parts[p];
    PartFigures& figure = figures.emplace_back(
        PartFigures{own.id, own.name, {-none, Vec3::Zero(), noPart}, {none, Vec3::Zero(), noPart}, 0});
    double sum = 0;
    double volume = 0;
    UnknownId hottest = noUnknown;
    UnknownId coldest = noUnknown;
    for (const Share& share : shares_[p]) {
      const double kelvin = temperature[at(share.unknown)];
      if (kelvin > figure.hottest.value) {
        figure.hottest.value = kelvin;
        hottest = share.unknown;
      }
      if (kelvin < figure.coldest.value) {
        figure.coldest.value = kelvin;
        coldest = share.unknown;
      }
      sum += kelvin * share.volume;
      volume += share.volume;
    }
    if (hottest >= 0)
      figure.hottest = {figure.hottest.value, mesh_.placeOf(unknowns_.node[at(hottest)]), part};
    if (coldest >= 0)
      figure.coldest = {figure.coldest.value, mesh_.placeOf(unknowns_.node[at(coldest)]), part};
    figure.mean = volume > 0 ? sum / volume : 0;
  }
  return figures;
}

} // namespace kiln
