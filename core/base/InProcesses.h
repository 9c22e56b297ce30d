// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include <cstddef>
#include <functional>
#include <optional>
#include <string>
#include <vector>

namespace kiln
{

/// Does pieces of work, numbered from 0, in processes of their own, as many at a time as there are processors: for
/// libraries that keep state of their own, or may end the process. They begin in the order of their numbers, with
/// everything as it is now, and nothing that they change is seen here. Where the system has no more processes to give,
/// a piece is done in this one.
/// \param work  what a piece answers
/// \return the answers by number; nothing where a process ended without one
[[nodiscard]] std::vector<std::optional<std::string>> inProcesses(std::size_t count,
                                                                  const std::function<std::string(std::size_t)>& work);

} // namespace kiln
