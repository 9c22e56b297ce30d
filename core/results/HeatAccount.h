// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "heat/elements/HeatFlow.h"
#include "heat/network/Electrode.h"
#include "heat/watches/HeatState.h"
#include "mesh/Mesh.h"
#include "model/Project.h"

#include <span>
#include <string>
#include <vector>

namespace kiln
{

struct Conditions;
class ThermalSystem;

/// What happens in one enclosure. Exchange between parts: what leaves the surfaces of one, by itself or reflected,
/// straight for those of the other, minus the reverse; a part's exchanges sum to its net heat.
struct EnclosureFigure {
  struct SurfaceNet {
    std::string surface; ///< id
    double watts = 0;    ///< into the solid
  };
  struct Exchange {
    std::string partA, partB; ///< ids
    double watts = 0;         ///< from A to B
  };
  std::string id;
  std::vector<SurfaceNet> surfaces;
  std::vector<Exchange> exchanges;
  double opening = 0; ///< through the opening into the enclosure, W
  double moved = 0;   ///< sum of what the surfaces that gain receive, W
  int patches = 0, rays = 0;
  struct OpeningShare {
    std::string part; ///< id
    double watts = 0; ///< from the part out of the opening, less what comes in
  };
  std::vector<OpeningShare> throughOpening; ///< where there is one
  double patchError = 0; ///< W, the most that a part's net heat would change with patches twice as large
  double escaped = 0, reciprocityError = 0, correction = 0; ///< of the view factors, before they were made consistent
};

/// What a surface catches of a beam.
struct CaughtHeat {
  std::string source, surface; ///< ids
  double watts = 0;
};

/// What reaches a part by one owner: a source, boundary, link or enclosure.
struct HeatToPart {
  std::string of, part; ///< ids
  double watts = 0;     ///< into the part
};

/// Stands for the owner of what currents heat.
inline const std::string electricHeat = "electric heat";

/// Where the watts of a solution go. Signs: positive into the solids.
struct HeatAccount {
  std::vector<double> source;   ///< by index in Project::sources, W
  std::vector<double> boundary; ///< by index in Project::boundaries, W
  std::vector<double> node;     ///< by index in Project::nodes: own power and what holds it, W into it
  std::vector<double> link;     ///< by index in Project::links: from A to B, or what a flow brings, W
  std::vector<ElectrodeFigure> electrodes;
  std::vector<CaughtHeat> caught;  ///< of beams
  std::vector<HeatToPart> paths;   ///< all heat into parts but what other parts hand them through contacts
  std::vector<double> faceHeat;    ///< by face: through sources and boundaries on it, W into the solid
  std::vector<double> contactHeat; ///< by face: from parts[0] to parts[1], W
  std::vector<ContactFigure> gaps; ///< across gaps between parts that share no faces
  std::vector<EnclosureFigure> enclosures;
  double in = 0;        ///< sum of what enters, W
  double out = 0;       ///< sum of what leaves, W (positive)
  double stored = 0;    ///< what goes into store, W
  double imbalance = 0; ///< in − out − stored, W
  double floor = 0;     ///< flows below this are rounding, W

  /// |imbalance| ÷ the larger of in and out; 0 when nothing flows.
  [[nodiscard]] double relativeImbalance() const;
};

/// Sums every flow of a solution with the solver's own quadrature: the answers of \ref HeatFlow. The heat of a fixed
/// temperature is recovered from the residual; that of a perfect contact by \ref PerfectContacts.
/// \param system       of the mesh and the conditions
/// \param temperature  by unknown, K
/// \param storing      what goes into store, by unknown, W; empty in a steady state
[[nodiscard]] HeatAccount accountHeat(const Project& project, const Mesh& mesh, const Conditions& conditions,
                                      const ThermalSystem& system, std::span<const double> temperature,
                                      std::span<const double> storing);

/// Only what enters and leaves the model: sources, boundaries, nodes, openings.
/// \param system  of these conditions
[[nodiscard]] HeatAccount accountBorders(const Project& project, const Mesh& mesh, const Conditions& conditions,
                                         const ThermalSystem& system, std::span<const double> temperature,
                                         std::span<const double> storing);

} // namespace kiln
