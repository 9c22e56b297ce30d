// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "heat/Unknowns.h"
#include "results/HeatAccount.h"

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

/// One flow of the ledger as it was when the case was solved.
struct LedgerFlow {
  std::string id;
  double watts = 0;
};

/// A solved steady case with its mesh: what a result file holds.
struct CaseResult {
  std::string caseId, caseName;
  std::string meshHash, solutionHash; ///< of exactly the inputs each stage depends on
  Mesh mesh;
  std::vector<bool> jump; ///< by face: temperatures differ across it
  Unknowns unknowns;
  std::vector<double> temperature; ///< by unknown, K
  std::vector<Vec3> flux;          ///< by tet, W/m²
  std::vector<double> faceHeat;    ///< by face, W into the solid
  std::vector<double> contactHeat; ///< by face, W from parts[0] to parts[1]
  std::vector<LedgerFlow> sources, boundaries;
  std::vector<EnclosureFigure> enclosures;
  std::vector<ContactFigure> gaps;               ///< across gaps between parts that share no faces
  double heatIn = 0, heatOut = 0, imbalance = 0; // W
  double heatFloor = 0;                          ///< W; flows below this are rounding
  SolveInfo info;

  [[nodiscard]] double relativeImbalance() const;
};

} // namespace kiln
