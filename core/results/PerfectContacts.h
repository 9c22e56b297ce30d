// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "heat/elements/HeatFlow.h"

#include <unordered_map>
#include <vector>

namespace kiln
{

struct Conditions;
struct Project;

/// Heat through contacts without a jump, where no flow says it: what a part receives at the nodes of such a contact, by
/// all other ways and less what it stores, it must hand on (the one-sided residual). The mean of both sides counts; of
/// a part that is held as a whole, the other side alone. How it is spread over the faces follows the element fluxes.
class PerfectContacts
{
public:
  /// Keeps references to all of them.
  PerfectContacts(const Project& project, const Mesh& mesh, const Conditions& conditions,
                  std::span<const double> temperature);

  /// Unknowns whose arrivals count.
  [[nodiscard]] const std::vector<char>& wanted() const { return wanted_; }
  /// Takes what arrives by one way.
  void take(const Arrival& arrival);
  /// What an unknown shared by several parts stores is shared by their capacities there; held parts store nothing new.
  /// \param storing  by unknown, W; empty in a steady state
  void takeStored(std::span<const double> storing);

  /// Adds the heat from parts[0] to parts[1], W, by face.
  void addTo(std::vector<double>& contactHeat) const;

private:
  /// At a node of perfect contacts, of one part.
  struct Side {
    double rest = 0; // what the part receives at the node and must hand on, W
    double raw = 0;  // the same from element fluxes, W
    double area = 0; // of its perfect faces at the node, m²
  };
  [[nodiscard]] double outwardFlux(std::size_t triangle, std::size_t side) const;
  void findPerfect();
  void findHeld();

  const Project& project_;
  const Mesh& mesh_;
  const Conditions& conditions_;
  std::span<const double> temperature_;
  std::vector<std::vector<std::size_t>> trianglesOf_; ///< by face; none where it is not perfect
  std::vector<bool> held_;                            ///< by part: as a whole
  std::vector<char> fixed_;                           ///< by unknown: by something else than a whole part
  std::vector<char> wanted_;
  std::unordered_map<std::uint64_t, Side> sides_; ///< by unknown and part
};

/// Heat flux −k∇T of each tetrahedron, W/m².
[[nodiscard]] std::vector<Vec3> heatFlux(const Mesh& mesh, const Conditions& conditions,
                                         std::span<const double> temperature);

} // namespace kiln
