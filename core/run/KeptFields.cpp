// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "run/KeptFields.h"

#include "io/AtomicFile.h"
#include "io/ResultFile.h"
#include "run/ResultIdentity.h"

namespace kiln
{
namespace
{

constexpr const char* prefix = ".fields-";

std::filesystem::path resultIn(const std::filesystem::path& kept, const std::string& identity)
{
  return kept / (identity + ".h5");
}

std::filesystem::path runIn(const std::filesystem::path& kept, const std::string& identity)
{
  return kept / (identity + ".run.h5");
}

/// Where a question has kept it; empty: nowhere.
std::filesystem::path folderOf(const std::filesystem::path& folder, const std::string& identity)
{
  std::error_code ignored;
  for (const auto& entry : std::filesystem::directory_iterator(folder, ignored))
    if (entry.path().filename().string().starts_with(prefix) &&
        std::filesystem::exists(resultIn(entry.path(), identity), ignored))
      return entry.path();
  return {};
}

} // namespace

std::filesystem::path keptFieldsFolder(const std::filesystem::path& folder, const std::string& questionId)
{
  return folder / (prefix + questionId);
}

std::filesystem::path keptIn(const Question& question, const std::filesystem::path& folder)
{
  return question.keepsFields ? keptFieldsFolder(folder, question.id) : std::filesystem::path();
}

Expected<void> keepFields(const CaseResult& result, const std::filesystem::path& kept, const std::filesystem::path& run)
{
  const std::string identity = identityOf(result.solutionHash, result.startIdentity);
  std::error_code error;
  std::filesystem::create_directories(kept, error);
  if (!error && !run.empty())
    std::filesystem::copy_file(run, runIn(kept, identity), std::filesystem::copy_options::overwrite_existing, error);
  if (error)
    return failure(Failure::Kind::Unwritable, kept.string(),
                   "Temperatures of a point cannot be kept: " + error.message(),
                   "Make room on the disk, or keep none.");
  return writeAtomically(resultIn(kept, identity), resultBytes(result)); // last: who finds it finds the run, too
}

std::optional<KeptResult> findKept(const std::filesystem::path& folder, const std::string& identity)
{
  const std::filesystem::path kept = folderOf(folder, identity);
  auto result = kept.empty() ? tl::unexpected(Failure{}) : loadResult(resultIn(kept, identity));
  if (!result || identityOf(result->solutionHash, result->startIdentity) != identity)
    return std::nullopt;
  std::filesystem::path run;
  if (result->transient && !std::filesystem::exists(run = runIn(kept, identity)))
    return std::nullopt;
  return KeptResult{std::move(*result), std::move(run)};
}

bool isKept(const std::filesystem::path& folder, const std::string& identity)
{
  return !folderOf(folder, identity).empty();
}

} // namespace kiln
