// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "base/Progress.h"
#include "io/ResultFile.h"
#include "readiness/Effort.h"
#include "readiness/Readiness.h"
#include "solve/SteadySolver.h"

#include <filesystem>
#include <memory>
#include <optional>

namespace kiln
{

class SteadyModel;

/// Why a run ended without a result: findings of readiness, or one failure.
struct RunFailure {
  std::vector<Finding> notReady;
  std::optional<Failure> failure;
};

/// The mesh for a project: read from the folder when its inputs are unchanged, else made and stored there.
struct PreparedMesh {
  Mesh mesh;
  std::string hash;
  std::vector<StageTime> times; ///< empty when it was read
};

/// All findings of a project: of the model, and, when that has no errors and the geometry can be built, on its faces.
[[nodiscard]] tl::expected<std::vector<Finding>, Failure> checkProject(const Project& project);

/// \param project  as one case sees it
[[nodiscard]] tl::expected<PreparedMesh, RunFailure> prepareMesh(const Project& project,
                                                                 const std::filesystem::path& folder,
                                                                 const Progress& progress,
                                                                 const EffortLimits& limits = usualLimits());

/// Solves one case from project to files, which become current together (\ref CaseCommit).
/// \param goesOn  a transient case goes on from where its last run stopped
[[nodiscard]] tl::expected<CaseResult, RunFailure> runCase(const Project& project, const Case& oneCase,
                                                           const std::filesystem::path& folder,
                                                           const Progress& progress, bool goesOn = false,
                                                           const EffortLimits& limits = usualLimits());

/// Steady cases of models that are much alike, solved one after the other in memory: the mesh where its inputs are the
/// same, what conducts and sees where that is, factors where the matrix is, and temperatures to begin with are shared.
class SharedSolve
{
public:
  SharedSolve();
  ~SharedSolve();
  SharedSolve(const SharedSolve&) = delete;
  SharedSolve& operator=(const SharedSolve&) = delete;

  /// Nothing is stored but the mesh and view factors, in the folder.
  [[nodiscard]] tl::expected<CaseResult, RunFailure> solve(const Project& base, const Case& oneCase,
                                                           const std::filesystem::path& folder,
                                                           const Progress& progress,
                                                           const EffortLimits& limits = usualLimits());
  /// A result is not needed any more: the next solve may have its mesh.
  void takeBack(CaseResult result);

private:
  std::unique_ptr<SteadyModel> model_;
  bool lent_ = false; ///< its mesh, to a result that was not taken back
  SteadyShared steady_;
};

/// Whether the folder holds a result of this case made from exactly the present inputs.
[[nodiscard]] bool isUpToDate(const Project& project, const Case& oneCase, const std::filesystem::path& folder);

} // namespace kiln
