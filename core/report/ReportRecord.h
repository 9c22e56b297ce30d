// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "base/Failure.h"
#include "model/Project.h"

#include <filesystem>

namespace kiln
{

/// What a report was made of, so that it is known when that has changed.
struct ReportRecord {
  struct Told {
    std::string id, name;
    std::string hash; ///< of all that decides what is told of it
    bool operator==(const Told&) const = default;
  };
  std::string files;       ///< that were written, a line each
  std::string made;        ///< when, as it is said on its pages
  std::string own;         ///< hash of its own words and order, and of the views that it shows
  std::vector<Told> cases; ///< that it tells of
  std::vector<Told> questions;
  bool operator==(const ReportRecord&) const = default;
};

/// Hash of a report's own words and order, of the views, lines and labels of the project.
[[nodiscard]] std::string ownHash(const Project& project, const Report& report);

/// What is told of a case: its inputs, what its watches are read by, the result that it has.
/// \param seen    the project as the case sees it
/// \param result  solution hash of the result; empty: it is not solved
[[nodiscard]] std::string toldHash(const Project& seen, const Case& own, const std::string& result);

/// Why a report that was made is not what it would be now, a sentence each; none: it is up to date.
[[nodiscard]] std::vector<std::string> outOfDate(const ReportRecord& made, const ReportRecord& now);

/// DIR/ID.report.json
[[nodiscard]] std::filesystem::path reportRecordFile(const std::filesystem::path& folder, const std::string& reportId);
[[nodiscard]] Expected<void> saveReportRecord(const ReportRecord& record, const std::filesystem::path& file);
/// Fails with kind Unreadable when there is none, or it is damaged or of another version.
[[nodiscard]] Expected<ReportRecord> loadReportRecord(const std::filesystem::path& file);

} // namespace kiln
