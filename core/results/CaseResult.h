// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "heat/elements/Unknowns.h"
#include "results/HeatAccount.h"
#include "solve/TemperatureBounds.h"

#include <string>
#include <vector>

namespace kiln
{

struct StageTime {
  std::string stage;
  double seconds = 0;
};

/// How a case was solved.
struct SolveInfo {
  std::string solver;
  int newtonSteps = 0;
  int linearIterations = 0;
  double residual = 0;
  std::vector<StageTime> times;
};

/// A lumped node, or the outlet of a flow passage, as it was when the case was solved.
struct NodeState {
  std::string id;
  double temperature = 0; ///< K
  double watts = 0;       ///< into it from outside the model: own power, or what holds its temperature
};

/// A surface with a voltage or a current, likewise.
struct ElectrodeState {
  std::string id;
  double voltage = 0, current = 0; ///< V, A into the part
};

/// A solved case, steady or at the end of its run, with its mesh: what a result file holds.
struct CaseResult {
  std::string caseId, caseName;
  std::string meshHash, solutionHash; ///< of exactly the inputs each stage depends on
  std::string startIdentity;          ///< identity of the result its run started from; empty: of none
  Mesh mesh;
  std::vector<bool> jump; ///< by face: temperatures differ across it
  Unknowns unknowns;
  std::vector<double> temperature; ///< by unknown, K
  std::vector<Vec3> flux;          ///< by tet, W/m²
  std::vector<double> faceHeat;    ///< by face, W into the solid
  std::vector<double> contactHeat; ///< by face, W from parts[0] to parts[1]
  std::vector<LedgerFlow> sources, boundaries, links;
  std::vector<NodeState> nodes;
  std::vector<ElectrodeState> electrodes;
  std::vector<EnclosureFigure> enclosures;
  std::vector<CaughtHeat> caught;
  std::vector<HeatToPart> paths;                             ///< from sources, boundaries, links, enclosures
  std::vector<ContactFigure> gaps;                           ///< across gaps between parts that share no faces
  double heatIn = 0, heatOut = 0, stored = 0, imbalance = 0; // W
  double heatFloor = 0;                                      ///< W; flows below this are rounding
  SolveInfo info;
  bool transient = false; ///< then this is its end
  double time = 0;        ///< s
  BoundsReport bounds;    ///< of a run in time
  /// What whoever looks at the result has to know: at which instant schedules were read, what it started from, how far
  /// temperatures left their bounds.
  std::vector<std::string> notes;

  [[nodiscard]] double relativeImbalance() const;
};

} // namespace kiln
