// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "document/CaseState.h"
#include "model/Project.h"

#include <QString>
#include <optional>
#include <string>

namespace kiln
{

/// What is chosen to compare the shown case with.
struct ComparedChoice {
  std::string caseId{};
  std::string project{}; ///< file of another project, as seen from this one; empty: this one
  std::optional<Number> instant{};
  bool operator==(const ComparedChoice&) const = default;

  /// Is it this case of the open project?
  [[nodiscard]] bool is(const std::string& id) const { return project.empty() && caseId == id; }
};

/// What the shown case is compared with, as far as it is there. Good until the next change.
struct ComparedWith {
  ComparedChoice choice;
  QString name;                     ///< "Winter", "other.kiln: Winter, at 2 h"; empty: there is nothing to compare with
  const Case* own = nullptr;        ///< nullptr where it is not read yet
  const CaseState* state = nullptr; ///< the same
  std::optional<double> instant;    ///< s, chosen; nothing: that of the playhead
  QString problem;                  ///< why it is not there
};

} // namespace kiln
