// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "base/Id.h"
#include "base/Vec3.h"

#include <array>
#include <cmath>
#include <string>
#include <vector>

namespace kiln
{

using PartId = Id<struct PartOfModel>; ///< index into FaceTable::parts
using FaceId = Id<struct FaceOfModel>; ///< index into FaceTable::faces

inline constexpr PartId noPart;

/// One face of the fused model: a patch of a surface with at most one part on each side.
struct Face {
  std::array<PartId, 2> parts;    ///< [0] is always a part
  std::vector<std::string> names; ///< lasting names, e.g. "shell.inside", "fibre.top"
  double area = 0;                ///< exact, m²
  Vec3 centroid = Vec3::Zero();   ///< m
  Vec3 normal = Vec3::Zero();     ///< mean direction out of parts[0]; zero for a closed round face
  double normalSpread = 0;        ///< largest angle of the local normal to the mean, rad
  bool planar = false;
  double width = 0; ///< mean: twice the area over the length of its edges, m; in a section the length of its edge
  /// The flat side of a section, or its axis: no heat leaves there unless the side is named ("wall.front").
  bool aside = false;

  [[nodiscard]] bool exposed() const { return parts[1] == noPart; }
  /// A patch shared by two different parts.
  [[nodiscard]] bool contact() const { return parts[1] != noPart && parts[0] != parts[1]; }
  [[nodiscard]] bool touches(PartId part) const { return parts[0] == part || parts[1] == part; }
};

/// A part as the geometry knows it.
struct GeometryPart {
  std::string id;
  std::string name;
  double volume = 0; ///< exact, m³
  Vec3 low = Vec3::Zero(), high = Vec3::Zero();
};

/// Where the plane of a section model lies. Its mesh is one layer of elements, whose two sides share their
/// temperatures: as thick as the depth, or from −π r to π r where it is turned, so that areas and volumes are the real
/// ones.
struct SectionFrame {
  int across = -1; ///< axis of space that stands on the plane; -1: a solid model
  double at = 0;   ///< m, where it stands on that axis
  bool turned = false;
  double axis = 0;  ///< x of the axis of a turned section, m
  double depth = 1; ///< m, of a plane one
  bool operator==(const SectionFrame&) const = default;

  [[nodiscard]] bool is() const { return across >= 0; }
  /// A place moved into the plane.
  [[nodiscard]] Vec3 flat(Vec3 place) const
  {
    if (across >= 0)
      place[across] = at;
    return place;
  }
  /// Half the thickness of the layer at a place, m.
  [[nodiscard]] double halfLayer(const Vec3& place) const
  {
    constexpr double pi = 3.14159265358979323846;
    return turned ? pi * std::abs(place.x() - axis) : depth / 2;
  }
};

/// Two faces of different parts that nearly touch but do not: no heat crosses there.
struct NearMiss {
  PartId partA, partB;
  double gap = 0; ///< m
  Vec3 place = Vec3::Zero();
};

/// What the rest of the program needs to know of the geometry: plain data, no kernel types.
struct FaceTable {
  std::vector<Face> faces;
  std::vector<GeometryPart> parts; ///< only parts that are not muted
  std::vector<NearMiss> nearMisses;
  SectionFrame section;

  [[nodiscard]] PartId partIndex(const std::string& id) const
  {
    for (std::size_t i = 0; i < parts.size(); ++i)
      if (parts[i].id == id)
        return PartId(i);
    return noPart;
  }
};

} // namespace kiln
