// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "model/Project.h"
#include "results/CaseResult.h"

#include <optional>
#include <string>
#include <vector>

/// A solved case as a network of few temperatures, for programs that work with such.
namespace kiln
{

/// One temperature of the network: a lumped node, a part as a whole, or surroundings that stay as warm as they are.
struct NetworkNode {
  enum class Kind { Part, Lumped, Held };
  Kind kind = Kind::Part;
  std::string id, name;
  double kelvin = 0;               ///< as solved; of a part its mean by volume
  std::optional<double> perKelvin; ///< J/K at that temperature; nothing: it stores nothing, or that is not known
};

/// Heat from one of them to another.
struct NetworkBranch {
  enum class Kind {
    Resistance, ///< heat by the difference of its two temperatures
    Flow,       ///< a stream: heat into the second by the difference, the first one gives none
    Heat        ///< so much heat whatever the temperatures are
  };
  Kind kind = Kind::Resistance;
  std::size_t from = 0, to = 0; ///< nodes; of heat from outside the model \p from is \p outside
  std::string id, name;         ///< of what carries it
  double watts = 0;             ///< as solved, from the first to the second
  double kelvinPerWatt = 0;     ///< of a resistance; of a flow 1/(ṁ c)
  bool exact = true;            ///< it holds at all temperatures; else at those that were solved only
  static constexpr std::size_t outside = std::size_t(-1);
};

struct ThermalNetwork {
  std::vector<NetworkNode> nodes;
  std::vector<NetworkBranch> branches;
};

/// Parts count with their mean temperature. What passes by contacts, radiation and boundaries has the resistance that
/// follows from the solved heat and mean temperatures; heat that goes against their difference (or a difference too
/// small to divide by) stays as heat. In the steady state the network has the very temperatures that were solved.
/// \param project  as the case saw it
[[nodiscard]] ThermalNetwork thermalNetwork(const Project& project, const CaseResult& result);

/// What each number is, with units; docs/file-format.md.
[[nodiscard]] std::string networkJson(const ThermalNetwork& network, const Project& project, const CaseResult& result);

/// A SPICE netlist: 1 V stands for 1 K (absolute), 1 A for 1 W, R in K/W, C in J/K with the solved temperature as its
/// initial condition.
[[nodiscard]] std::string networkNetlist(const ThermalNetwork& network, const Project& project,
                                         const CaseResult& result);

} // namespace kiln
