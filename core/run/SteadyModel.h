// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "heat/Conditions.h"
#include "heat/ThermalSystem.h"
#include "model/Project.h"

#include <memory>
#include <string>

namespace kiln
{

/// A mesh with the conditions of a project on it and their heat balance. Of a project that is much alike it takes over
/// what is: where only numbers of sources, boundaries, nodes and links differ, all that conducts and sees.
class SteadyModel
{
public:
  SteadyModel(Mesh mesh, std::string meshHash) : mesh_(std::move(mesh)), meshHash_(std::move(meshHash)) {}
  SteadyModel(const SteadyModel&) = delete; // its parts refer to each other
  SteadyModel& operator=(const SteadyModel&) = delete;

  /// From now on it is that of this project, which must have the same mesh.
  /// \param project  as the case sees it, at the instant that counts for a steady state
  [[nodiscard]] Expected<void> take(const Project& project, const ViewFactorSource& viewFactors);

  [[nodiscard]] const Mesh& mesh() const { return mesh_; }
  [[nodiscard]] const std::string& meshHash() const { return meshHash_; }
  [[nodiscard]] const Conditions& conditions() const { return conditions_; }
  [[nodiscard]] const ThermalSystem& system() const { return *system_; }

  /// Lends the mesh to a result; until it is back nothing else may be asked.
  [[nodiscard]] Mesh lend() { return std::move(mesh_); }
  void takeBack(Mesh mesh) { mesh_ = std::move(mesh); }

private:
  Mesh mesh_;
  std::string meshHash_;
  Project project_; ///< as the conditions are
  Conditions conditions_;
  std::unique_ptr<ThermalSystem> system_;
};

} // namespace kiln
