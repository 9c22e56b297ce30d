// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "model/Project.h"
#include "results/Figures.h"

#include <filesystem>
#include <optional>
#include <string>
#include <vector>

namespace kiln
{

/// What is known of a stored result without its mesh and fields, from the small file of its figures: enough to say
/// whether it is current and what its watches are.
struct ResultHead {
  std::filesystem::path folder; ///< of results that it lies in
  std::string meshHash, solutionHash, startIdentity;
  std::string figuresHash;                             ///< of all that its watches were read by
  std::vector<std::pair<std::string, double>> watches; ///< id and value, SI
  std::uintmax_t bytes = 0;                            ///< of the whole result

  /// Figures of the present watches; without a value where what they are read by has changed since.
  [[nodiscard]] std::vector<WatchFigure> watchesOf(const Project& project) const;
};

/// Fingerprint of all that the figures of watches depend on: limits and references, which are only compared with them,
/// do not count.
/// \param project  as one case sees it
[[nodiscard]] std::string figuresHash(Project project);

/// Nothing where the folder holds no result of the case, or its figures cannot be read.
[[nodiscard]] std::optional<ResultHead> loadHead(const std::filesystem::path& folder, const std::string& caseId);

} // namespace kiln
