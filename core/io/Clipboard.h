// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "base/Failure.h"
#include "model/Project.h"

#include <set>
#include <string>
#include <vector>

/// Objects on the clipboard: a project file that holds them and what they need (materials, surfaces, parameters).
namespace kiln
{

/// The project with these objects alone.
[[nodiscard]] Project onlyObjects(const Project& project, const std::set<std::string>& ids);

[[nodiscard]] std::string copyObjects(const Project& project, const std::vector<std::string>& ids);

/// Adds the objects of a copy. What they need is taken from the project where the same is there, else added too.
/// Fails when the text is no copy of objects. \return ids of the pasted objects
[[nodiscard]] Expected<std::vector<std::string>> pasteObjects(Project& project, const std::string& text);

} // namespace kiln
