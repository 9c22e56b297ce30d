// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "model/Fields.h"
#include "model/Formula.h"

/// What parameters do to the fields of a project.
namespace kiln
{

struct FormulaProblem {
  std::string objectId;
  Failure failure;
};

/// Brings the value of every formula up to date. Numbers whose formula fails keep their value and are reported.
std::vector<FormulaProblem> applyParameters(Project& project);
/// The same of all its fields, which are at hand (\ref fields).
std::vector<FormulaProblem> applyParameters(const Project& project, const std::vector<Field>& all);

/// Renames a parameter and all its uses, in cases too.
void renameParameter(Project& project, const std::string& parameterId, const std::string& name);

/// Why a parameter cannot have this name; nothing when it can.
[[nodiscard]] std::optional<std::string> badParameterName(const Project& project, const std::string& parameterId,
                                                          const std::string& name);

} // namespace kiln
