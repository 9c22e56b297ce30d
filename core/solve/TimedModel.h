// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "heat/HeatStore.h"
#include "heat/ThermalSystem.h"
#include "heat/watches/WatchReader.h"
#include "model/TimeSeries.h"

#include <memory>
#include <set>
#include <string>

namespace kiln
{

/// A project on its mesh at the instant the solver stands at: schedules, windows, thermostats and fired rules decide
/// what its conditions are. What makes it up (parts, contacts, enclosures) stays the same for the whole run.
class TimedModel
{
public:
  /// \param project  as the case sees it
  static Expected<std::unique_ptr<TimedModel>>
  make(Project project, const Mesh& mesh, const ViewFactorSource& viewFactors, double time, bool monotone = false);

  /// Conditions as they are at this instant.
  [[nodiscard]] Expected<void> moveTo(double time, Moment moment);

  /// Switches a source with a thermostat; counts from the next moveTo().
  void turn(const std::string& source, bool on);
  [[nodiscard]] bool isOn(const std::string& source) const { return !off_.contains(source); }
  /// Carries out what a rule says; counts from the next moveTo().
  [[nodiscard]] Expected<void> apply(const RunRule& rule);

  [[nodiscard]] const Project& base() const { return project_; } ///< as written, with what rules changed
  [[nodiscard]] const Project& now() const { return now_; }
  [[nodiscard]] const Mesh& mesh() const { return mesh_; }
  [[nodiscard]] const Conditions& conditions() const { return conditions_; }
  [[nodiscard]] const ThermalSystem& system() const { return *system_; }
  [[nodiscard]] const HeatStore& store() const { return *store_; }

  /// The same model at the same instant with the same unknowns, of a kind that never leaves its bounds: linear fields
  /// (those of second order on the pieces of their elements), everything lumped, nothing conducted the wrong way. Made
  /// when first asked for; moves along from then on.
  [[nodiscard]] Expected<TimedModel*> monotone();

  /// What its watches are prepared for; of this model.
  [[nodiscard]] WatchGround watchGround() const;
  /// A watch by id, prepared; nothing where the project has none.
  [[nodiscard]] std::optional<WatchReader> reader(const std::string& watch) const;

private:
  TimedModel(Project project, const Mesh& mesh) : project_(std::move(project)), mesh_(mesh) {}
  void applyThermostats(Project& project) const;

  Project project_, now_;
  const Mesh& mesh_;
  Conditions conditions_;
  std::unique_ptr<ThermalSystem> system_;
  std::unique_ptr<HeatStore> store_;
  std::set<std::string> off_; // sources switched off by their thermostats
  bool varies_ = false, dirty_ = false;
  double time_ = 0;
  Moment moment_ = Moment::After;
  std::unique_ptr<Mesh> piecesMesh_;
  std::unique_ptr<TimedModel> monotone_;
};

} // namespace kiln
