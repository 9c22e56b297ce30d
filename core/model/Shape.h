// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "model/Number.h"

#include <map>
#include <string>
#include <variant>
#include <vector>

namespace kiln
{

/// Keys of the file that this version does not know, kept as JSON text and written back.
using UnknownKeys = std::map<std::string, std::string>;

/// Own frame of every form: the base lies in z = 0 and is centred on the z axis, unless said otherwise.
struct Block {
  Number sizeX, sizeY, sizeZ;
  bool operator==(const Block&) const = default;
};
struct Cylinder {
  Number radius, height;
  bool operator==(const Cylinder&) const = default;
};
struct Tube {
  Number outerRadius, innerRadius, height;
  bool operator==(const Tube&) const = default;
};
/// Centred on the origin.
struct Sphere {
  Number radius;
  bool operator==(const Sphere&) const = default;
};
/// A zero top radius makes a point.
struct Cone {
  Number bottomRadius, topRadius, height;
  bool operator==(const Cone&) const = default;
};
/// Centred on the origin, its axis along z.
struct Torus {
  Number ringRadius, tubeRadius;
  bool operator==(const Torus&) const = default;
};
struct OutlinePoint {
  Number a, b; ///< x, y of a prism; r, z of a turned profile
  bool operator==(const OutlinePoint&) const = default;
};
/// Outline in x, y, drawn out along z.
struct Prism {
  std::vector<OutlinePoint> outline;
  Number height;
  bool operator==(const Prism&) const = default;
};
/// Outline in r, z, turned about z.
struct TurnedProfile {
  std::vector<OutlinePoint> outline;
  Number angle;
  bool operator==(const TurnedProfile&) const = default;
};

using Form = std::variant<Block, Cylinder, Tube, Sphere, Cone, Torus, Prism, TurnedProfile>;

/// Rotated about x, then y, then z (fixed axes), then moved.
struct Placement {
  Number3 position, rotation;
  bool operator==(const Placement&) const = default;
};

struct PlacedForm {
  Form form;
  Placement placement;
  bool operator==(const PlacedForm&) const = default;
};

/// A further form joined to a part or cut from it, in the part's frame, in the listed order.
struct ShapeStep {
  enum class Action { Join, Cut };

  std::string id; ///< gives its faces their lasting names: part.step.face
  Action action = Action::Cut;
  PlacedForm shape;
  UnknownKeys unknown;
  bool operator==(const ShapeStep&) const = default;
};

} // namespace kiln
