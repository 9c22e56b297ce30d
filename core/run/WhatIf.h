// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "results/CaseResult.h"
#include "run/SteadyModel.h"
#include "solve/SteadySolver.h"

#include <filesystem>
#include <memory>
#include <optional>

namespace kiln
{

/// What the temperatures would be with other values, from a steady state that is solved.
struct Estimate {
  CaseResult result;
  double error = 0;   ///< K, that no place is likely to be off by more; 0 where it is exact
  bool exact = false; ///< of a linear model, by superposition
};

/// A steady state that is followed while values are changed. Where the model is linear and only what heats or holds it
/// changes, the answer is a sum of responses that were solved once. Else that sum is where two steps of Newton's method
/// begin, with one tangent and what divided the state that is solved: how large they are says how far off it is. Not
/// for use from two threads.
class WhatIf
{
public:
  /// \param solved  result of the case as it is
  /// \param folder  of view factors
  /// Fails where the case is none that can be followed: in time, or without a mesh.
  [[nodiscard]] static Expected<std::unique_ptr<WhatIf>>
  begin(const Project& base, const Case& oneCase, const CaseResult& solved, const std::filesystem::path& folder);

  /// With other values. Fails where they change the mesh, or what is switched on: that is solved, not followed.
  [[nodiscard]] Expected<Estimate> at(const Project& base, const Case& oneCase);
  /// Responses that are kept.
  [[nodiscard]] std::size_t responses() const { return responses_.size(); }

private:
  WhatIf() = default;
  [[nodiscard]] Expected<void> take(const Project& atStart);
  [[nodiscard]] const ThermalSystem& system() const { return model_->system(); }
  [[nodiscard]] std::vector<double> freeBalance(const std::vector<double>& temperature) const;
  [[nodiscard]] Expected<std::vector<double>> response(const std::vector<double>& temperature,
                                                       const std::vector<double>& right);
  [[nodiscard]] Expected<void> predict(std::vector<double>& now);
  void learn(const std::vector<double>& from, const std::vector<double>& now, double error);
  [[nodiscard]] Expected<std::vector<double>> riseBy(const std::vector<double>& load, const std::vector<double>& from,
                                                     double leftOver);
  [[nodiscard]] Expected<void> superpose(std::vector<double>& now);
  [[nodiscard]] double toleranceFor(double left) const;
  [[nodiscard]] Expected<double> correct(std::vector<double>& now, std::vector<double>& left);
  [[nodiscard]] CaseResult figures(const Project& atStart, const Case& oneCase, const std::vector<double>& now,
                                   const std::vector<double>& left) const;
  /// A sum of known responses; empty where more than that share of the load is none of theirs.
  [[nodiscard]] std::vector<double> superposed(const std::vector<double>& right, double leftOver) const;
  [[nodiscard]] double largestChange(const std::vector<double>& now) const;
  /// The one known response that a load is a share of; none: it is of several, or of none.
  [[nodiscard]] std::optional<std::size_t> onlyOne(const std::vector<double>& load) const;
  void keepResponse(const std::vector<double>& load, const std::vector<double>& rise);

  struct Response {
    std::vector<double> load, rise; ///< W and K by unknown
  };
  std::filesystem::path folder_;
  std::unique_ptr<SteadyModel> model_;
  SteadyShared solved_;
  std::vector<double> temperature_; ///< of the solved state, by unknown, K
  std::vector<double> before_;      ///< of the last estimate; empty: none
  std::vector<double> load_;        ///< balance of the solved state with the values of the last estimate, W
  std::vector<double> patchErrors_; ///< by enclosure, as they were solved
  std::vector<Response> responses_;
  std::vector<double> changed_; ///< load of the last change of values, W
  double rise_ = 0;             ///< the largest that was expected of it, K
};

} // namespace kiln
