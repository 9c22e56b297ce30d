// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "base/Failure.h"
#include "model/Project.h"

/// Reports on their way from one project to another: order, words, title block and logo as a file.
namespace kiln
{

/// Text of a file with one report, and the names of the cases, questions and views that it tells of.
[[nodiscard]] std::string reportTemplate(const Project& project, const Report& report);

struct TakenReport {
  std::string id;                     ///< of the report, a new one
  std::vector<std::string> unmatched; ///< sentences: what it told of that is not here
};

/// Adds the report of such a file. Cases, questions and views are matched by name; what is not there is left out and
/// listed. Fails when the text is no such file, or of a newer version.
[[nodiscard]] Expected<TakenReport> takeTemplate(Project& project, const std::string& text,
                                                 const std::string& shownName);

} // namespace kiln
