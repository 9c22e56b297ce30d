// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "base/Failure.h"
#include "model/Project.h"

#include <string>
#include <string_view>
#include <vector>

namespace kiln
{

/// Takes parameters from a table as spreadsheets copy it, a row each: a name, a value with its unit or a formula, its
/// unit where that has a column of its own, and a note. A first row that holds no value is a head. One of a known name
/// gets the value; others are new, of the first kind of number that the value is one of. Columns may be parted by tabs,
/// semicolons or commas. Fails, with nothing taken, naming the line: no two columns, a bad name, no value.
/// \return ids, in their order
[[nodiscard]] Expected<std::vector<std::string>> takeParameters(Project& project, std::string_view text);

} // namespace kiln
