// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later

#include "heat/watches/HeatState.h"

#include "base/At.h"
#include "geometry/TouchingPairs.h"

namespace kiln
{
std::vector<ContactFigure> contactFigures(const HeatState& heat)
{
  std::vector<ContactFigure> figures;
  const FaceTable& geometry = heat.geometry;
  for (const TouchingPair& pair : touchingPairs(geometry)) {
    ContactFigure figure{geometry.parts[at(pair.partA)].id, geometry.parts[at(pair.partB)].id, pair.area, 0};
    for (const int f : pair.faces)
      figure.watts += geometry.faces[at(f)].parts[0] == pair.partA ? heat.contactHeat[at(f)] : -heat.contactHeat[at(f)];
    figures.push_back(figure);
  }
  figures.insert(figures.end(), heat.gaps.begin(), heat.gaps.end());
  return figures;
}

} // namespace kiln
