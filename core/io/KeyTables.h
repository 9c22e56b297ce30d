// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include <string>

namespace kiln
{

/// Every key of a project file, with what it holds and means, as tables in Markdown: one for each list, kinds and what
/// lies within them beneath. Written from the schema.
[[nodiscard]] std::string keyTables();

} // namespace kiln
