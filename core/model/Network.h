// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "model/Heat.h"

namespace kiln
{

struct NoStore {
  bool operator==(const NoStore&) const = default;
};
struct CapacityStore {
  Number capacity; // J/K
  bool operator==(const CapacityStore&) const = default;
};
struct MassStore {
  Number mass, specificHeat; // kg, J/(kg·K)
  bool operator==(const MassStore&) const = default;
};
struct FluidStore {
  Number volume; // m³
  Fluid fluid = Fluid::Air;
  bool operator==(const FluidStore&) const = default;
};
/// One temperature for something that is not meshed.
struct Node : Object {
  std::variant<NoStore, CapacityStore, MassStore, FluidStore> storage;
  std::optional<Property> power;     // W, a table runs against its own temperature
  std::optional<Number> temperature; // K, holds it
  bool muted = false;
  bool operator==(const Node&) const = default;
};

// The ends of links are ids of nodes, parts (the whole body, by volume) or surfaces (by area).
struct Conductor {
  std::string endA, endB;
  Number conductance; // W/K
  bool operator==(const Conductor&) const = default;
};
/// σ X (T_A⁴ − T_B⁴)
struct RadiationLink {
  std::string endA, endB;
  Number exchangeArea; // X, m²
  bool operator==(const RadiationLink&) const = default;
};
/// One-way: carries ṁ c_p (T_upstream − T) into the downstream node.
struct FlowLink {
  std::string upstream, downstream; ///< nodes
  Number massFlow, specificHeat;    // kg/s, J/(kg·K)
  bool operator==(const FlowLink&) const = default;
};
/// A round conductor of one dimension: conducts along its length, stores heat, may be heated and lose heat at its side.
struct Wire {
  std::string endA, endB;
  Number length, diameter; // m
  std::string material;
  std::optional<Number> power;       // W over its length
  std::optional<Number> coefficient; // W/(m²·K) at its side; nothing: insulated
  std::optional<Number> ambient;     // K, of what is around its side
  bool operator==(const Wire&) const = default;
};
struct Link : Object {
  std::variant<Conductor, RadiationLink, FlowLink, Wire> exchange;
  bool muted = false;
  bool operator==(const Link&) const = default;
};

/// Where something is drawn in the network, shares of the page.
struct NetworkPlace {
  std::string id; ///< of a node or a part, or surroundingsId
  Number across, down;
  bool operator==(const NetworkPlace&) const = default;
};
inline constexpr const char* surroundingsId = "?surroundings";

} // namespace kiln
