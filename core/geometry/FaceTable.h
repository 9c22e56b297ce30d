// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "base/Vec3.h"

#include <array>
#include <string>
#include <vector>

namespace kiln
{

inline constexpr int noPart = -1;

/// One face of the fused model: a patch of a surface with at most one part on each side.
struct Face {
  std::array<int, 2> parts{noPart, noPart}; ///< indices into FaceTable::parts; [0] is always a part
  std::vector<std::string> names;           ///< lasting names, e.g. "shell.inside", "fibre.top"
  double area = 0;                          ///< exact, m²
  Vec3 centroid = Vec3::Zero();             ///< m
  Vec3 normal = Vec3::Zero();               ///< mean direction out of parts[0]; zero for a closed round face
  double normalSpread = 0;                  ///< largest angle of the local normal to the mean, rad
  bool planar = false;
  double width = 0; ///< mean: twice the area over the length of its edges, m

  [[nodiscard]] bool exposed() const { return parts[1] == noPart; }
  /// A patch shared by two different parts.
  [[nodiscard]] bool contact() const { return parts[1] != noPart && parts[0] != parts[1]; }
  [[nodiscard]] bool touches(int part) const { return parts[0] == part || parts[1] == part; }
};

/// A part as the geometry knows it.
struct GeometryPart {
  std::string id;
  std::string name;
  double volume = 0; ///< exact, m³
  Vec3 low = Vec3::Zero(), high = Vec3::Zero();
};

/// Two faces of different parts that nearly touch but do not: no heat crosses there.
struct NearMiss {
  int partA = 0, partB = 0;
  double gap = 0; ///< m
  Vec3 place = Vec3::Zero();
};

/// What the rest of the program needs to know of the geometry: plain data, no kernel types.
struct FaceTable {
  std::vector<Face> faces;
  std::vector<GeometryPart> parts; ///< only parts that are not muted
  std::vector<NearMiss> nearMisses;

  [[nodiscard]] int partIndex(const std::string& id) const
  {
    for (std::size_t i = 0; i < parts.size(); ++i)
      if (parts[i].id == id)
        return static_cast<int>(i);
    return noPart;
  }
};

} // namespace kiln
