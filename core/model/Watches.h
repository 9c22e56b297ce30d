// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "model/Values.h"

#include <variant>

namespace kiln
{

struct PartFigure {
  enum class Kind { Hottest, Coldest, Mean, Spread };
  Kind kind = Kind::Hottest;
  std::vector<std::string> parts;
  bool operator==(const PartFigure&) const = default;
};
struct SurfaceFigure {
  PartFigure::Kind kind = PartFigure::Kind::Hottest;
  std::string surface;
  bool operator==(const SurfaceFigure&) const = default;
};
struct PointFigure {
  Number3 place;
  bool operator==(const PointFigure&) const = default;
};
/// Heat into the solid through a surface, W.
struct SurfaceHeat {
  std::string surface;
  bool operator==(const SurfaceHeat&) const = default;
};
/// Heat from part A to part B through their contact, W.
struct ContactHeat {
  std::string partA, partB;
  bool operator==(const ContactHeat&) const = default;
};

struct NodeFigure {
  std::string node; ///< or a flow passage: its outlet
  bool operator==(const NodeFigure&) const = default;
};
/// Heat through a link, from A to B, W.
struct LinkHeat {
  std::string link;
  bool operator==(const LinkHeat&) const = default;
};
/// Share of the parts' material that is molten.
struct MoltenShare {
  std::vector<std::string> parts;
  bool operator==(const MoltenShare&) const = default;
};
/// Difference of two temperature watches over a heat watch, K/W.
struct BetweenWatches {
  std::string hot, cold, heat; ///< watch ids
  bool operator==(const BetweenWatches&) const = default;
};

/// Largest heat flux in the parts, recovered from the temperatures, W/m².
struct LargestFlux {
  std::vector<std::string> parts;
  bool operator==(const LargestFlux&) const = default;
};
/// Thermal transmittance: heat through a surface over an area and the difference of two ambients, W/(m²·K).
struct Transmittance {
  std::string surface;
  Number warm, cold;          // K
  std::optional<Number> area; // m², nothing: that of the surface
  bool operator==(const Transmittance&) const = default;
};

struct Watch : Object {
  std::variant<PartFigure, SurfaceFigure, PointFigure, SurfaceHeat, ContactHeat, NodeFigure, LinkHeat, MoltenShare,
               BetweenWatches, LargestFlux, Transmittance>
      figure;
  std::optional<Number> upper, lower; // in its quantity
  bool operator==(const Watch&) const = default;
};

/// A straight line through the model along which temperatures are read, or an edge of it.
struct Line : Object {
  Number3 from, to;               // m
  std::vector<std::string> faces; ///< names of two faces: along the edge where they meet, from its end nearer `from`
  bool operator==(const Line&) const = default;
};

} // namespace kiln
