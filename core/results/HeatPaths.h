// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "heat/watches/HeatState.h"
#include "model/Project.h"
#include "results/CaseResult.h"

#include <string>
#include <vector>

namespace kiln
{

/// Something that heat comes from, passes through or goes to.
struct PathBlock {
  enum class Kind { Source, Part, Group, Node, Between, Outside, Store };
  Kind kind = Kind::Part;
  std::string id;   ///< of the object; empty for what is stored
  std::string name; ///< for reading
  double in = 0;    ///< W that enter it by bands
  double out = 0;   ///< W that leave it
  std::size_t column = 0;
  std::size_t row = 0; ///< within its column

  [[nodiscard]] double watts() const { return in > out ? in : out; }
};

/// Heat from one block to another.
struct PathBand {
  std::size_t from = 0, to = 0; ///< blocks
  double watts = 0;             ///< never negative
  std::string via;              ///< id of what it passes: a contact by its pair, a link; may be empty
};

/// The ways of the heat, of one instant: blocks in columns from where it enters to where it leaves, and bands between
/// them. What parts and nodes take in and do not give goes into store; between blocks that store nothing it closes.
struct HeatPaths {
  std::vector<PathBlock> blocks;
  std::vector<PathBand> bands;
  std::size_t columns = 0;
  double in = 0, out = 0, stored = 0; ///< W, of the blocks at the ends; what a store gives back counts as stored < 0
};

/// What the ledger says at an instant.
struct PathFigures {
  const std::vector<HeatToPart>& paths;
  const std::vector<ContactFigure>& contacts;
  const std::vector<LedgerFlow>& links;
  const std::vector<NodeState>& nodes;
  double floor = 0; ///< W; flows below this are rounding
};

/// \param folded  ids of part groups whose parts are one block
[[nodiscard]] HeatPaths heatPaths(const Project& project, const PathFigures& figures,
                                  const std::vector<std::string>& folded = {});

} // namespace kiln
