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
  void forget() { figures_.reset(); }

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
  std::map<std::string, double> playheads_;     ///< by case, where it does not stand at the end
  mutable std::optional<ShownFigures> figures_; ///< of the shown case, made when asked for
};

} // namespace kiln
