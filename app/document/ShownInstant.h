// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "document/CaseState.h"

#include <map>

namespace kiln
{

/// Where the playhead of every case stands, and what results say there.
class ShownInstant
{
public:
  /// \return false where there is no run to move in
  bool move(const std::string& caseId, const CaseState& state, double time);
  /// Another result: the playhead stands at its end.
  void toEnd(const std::string& caseId);
  /// Figures are read anew when they are asked for again.
  void forgetFigures()
  {
    figures_.reset();
    prepared_.reset();
  }
  /// Likewise, and an estimate was of what was set before.
  void forget()
  {
    forgetFigures();
    estimate_.reset();
  }
  /// What is shown of a steady case instead of its result, on the same mesh; nullptr: the result again.
  void setEstimate(std::shared_ptr<const CaseResult> estimate)
  {
    figures_.reset();
    estimate_ = std::move(estimate);
  }
  [[nodiscard]] bool isEstimate() const { return estimate_ != nullptr; }

  /// s; nothing without a run.
  [[nodiscard]] std::optional<double> playhead(const std::string& caseId, const CaseState& state) const;
  /// nullptr without a result. Good until the next change.
  /// \param others  for watches that are compared with another case
  [[nodiscard]] const ShownFigures* figures(const Project& shown, const std::string& caseId, const CaseState& state,
                                            const FiguresOfCase& others) const;
  /// K by unknown of the result's mesh; nullptr without one.
  [[nodiscard]] std::shared_ptr<const std::vector<double>> temperature(const std::string& caseId,
                                                                       const CaseState& state) const;

private:
  std::map<std::string, double> playheads_; ///< by case, where it does not stand at the end
  std::shared_ptr<const CaseResult> estimate_;
  /// What reads figures while one estimate follows the other; what they refer to is kept with them.
  struct Prepared {
    Prepared(const Project& shown, std::shared_ptr<const CaseResult> of)
        : project(shown), result(std::move(of)), figures(project, *result)
    {
    }
    const Project project;
    const std::shared_ptr<const CaseResult> result;
    const PreparedFigures figures;
  };
  [[nodiscard]] ShownFigures estimated(const Project& shown, const CaseState& state) const;
  mutable std::optional<ShownFigures> figures_; ///< of the shown case, made when asked for
  mutable std::unique_ptr<Prepared> prepared_;
};

} // namespace kiln
