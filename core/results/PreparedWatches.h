// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "heat/watches/WatchReader.h"
#include "results/CaseResult.h"
#include "results/Figures.h"

#include <span>
#include <vector>

namespace kiln
{

/// Watches that are read in one result after the other, all of them on the same mesh with the same unknowns.
class PreparedWatches
{
public:
  /// Project, watches and the first result must outlive it.
  PreparedWatches(const Project& project, const CaseResult& first, std::span<const Watch> watches);
  PreparedWatches(const PreparedWatches&) = delete; // its parts refer to each other
  PreparedWatches& operator=(const PreparedWatches&) = delete;

  [[nodiscard]] std::vector<WatchFigure> read(const CaseResult& result) const;

private:
  const Project& project_;
  std::span<const Watch> watches_;
  WatchGround ground_;
  std::vector<WatchReader> readers_;
};

} // namespace kiln
