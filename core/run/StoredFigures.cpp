// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "run/StoredFigures.h"

#include "io/ResultFile.h"
#include "model/OwnValues.h"

namespace kiln
{

FiguresOfCase storedFigures(const Project& project, const std::filesystem::path& folder)
{
  return [&project, folder](const std::string& id) -> std::optional<std::vector<WatchFigure>> {
    const Case* own = findById(project.cases, id);
    const auto stored = own != nullptr ? loadStored(folder, *own) : tl::unexpected(Failure{});
    const auto seen = stored ? projectForCase(project, *own) : tl::unexpected(Failure{});
    return seen ? std::optional(readWatches(*seen, *stored)) : std::nullopt;
  };
}

} // namespace kiln
