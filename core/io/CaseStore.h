// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "base/Failure.h"

#include <cstdint>
#include <filesystem>
#include <optional>
#include <string>
#include <string_view>
#include <vector>

namespace kiln
{

/// The current result of a case: files that belong together, whole and as they were written.
struct StoredCase {
  std::string solutionHash, startIdentity;
  std::filesystem::path result, figures;
  std::filesystem::path run; ///< empty for a steady one
};

/// Files of a case in a folder of results. They are named by the case's id: a case that is renamed keeps what was
/// solved, and two cases of one name keep apart.
[[nodiscard]] std::filesystem::path resultFile(const std::filesystem::path& folder, const std::string& caseId);
[[nodiscard]] std::filesystem::path figuresFile(const std::filesystem::path& folder, const std::string& caseId);
/// A run that ended and whose result is current.
[[nodiscard]] std::filesystem::path runFile(const std::filesystem::path& folder, const std::string& caseId);
/// A run while it goes, or up to where it was interrupted.
[[nodiscard]] std::filesystem::path growingRunFile(const std::filesystem::path& folder, const std::string& caseId);
/// What its solver said the last time, with the seconds since it began: steps, iterations, warnings.
[[nodiscard]] std::filesystem::path logFile(const std::filesystem::path& folder, const std::string& caseId);
/// Held by whoever writes any of them.
[[nodiscard]] std::filesystem::path caseLockFile(const std::filesystem::path& folder, const std::string& caseId);
[[nodiscard]] std::filesystem::path manifestFile(const std::filesystem::path& folder, const std::string& caseId);

/// What the folder holds of a case; nothing when it was never solved. Every file is checked against the manifest, by
/// size and hash. Where the writer was killed after the result had become current but before its files had taken their
/// places, they do so now.
/// Fails with kind Unreadable, naming the file that is not what was written.
[[nodiscard]] Expected<std::optional<StoredCase>> storedCase(const std::filesystem::path& folder,
                                                             const std::string& caseId);

/// The fingerprint of what the folder holds of a case, at a glance: all its files are in their places and of their
/// sizes. Nothing where they are not, or the case was never solved: then \ref storedCase says.
[[nodiscard]] std::optional<std::string> storedAtAGlance(const std::filesystem::path& folder,
                                                         const std::string& caseId);

/// Makes a result current, all its files in one moment: they are written aside and synced, then a manifest that names
/// them with their sizes and hashes is renamed over the old one, then they take their places. Until that moment the
/// older result stays whole; after it the new one is.
class CaseCommit
{
public:
  CaseCommit(std::filesystem::path folder, std::string caseId) : folder_(std::move(folder)), caseId_(std::move(caseId))
  {
  }

  /// Writes one of the case's files aside.
  [[nodiscard]] Expected<void> add(const std::filesystem::path& file, std::string_view bytes);
  /// Takes a file that already lies aside and is finished.
  [[nodiscard]] Expected<void> take(const std::filesystem::path& file, const std::filesystem::path& aside);
  [[nodiscard]] Expected<void> commit(const std::string& caseName, const std::string& solutionHash,
                                      const std::string& startIdentity);

private:
  struct Entry {
    std::string name, aside; // within the folder
    std::uintmax_t size = 0;
    std::string hash;
  };
  std::filesystem::path folder_;
  std::string caseId_;
  std::vector<Entry> entries_;
};

/// Removes what writers that are gone have left half-written in a folder of results.
void removeLeftovers(const std::filesystem::path& folder);

} // namespace kiln
