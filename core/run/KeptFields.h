// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "base/Failure.h"
#include "model/Questions.h"
#include "results/CaseResult.h"

#include <filesystem>
#include <optional>
#include <string>

/// Results of points of questions, kept by what they were solved from: a case of the same inputs takes them over.
namespace kiln
{

/// FOLDER/.fields-QUESTION
[[nodiscard]] std::filesystem::path keptFieldsFolder(const std::filesystem::path& folder,
                                                     const std::string& questionId);
/// That of a question that keeps temperatures; else empty.
[[nodiscard]] std::filesystem::path keptIn(const Question& question, const std::filesystem::path& folder);

/// Keeps a result under its identity.
/// \param kept  \ref keptFieldsFolder
/// \param run   the file of its run; empty: it is steady
/// Fails where nothing can be written there.
[[nodiscard]] Expected<void> keepFields(const CaseResult& result, const std::filesystem::path& kept,
                                        const std::filesystem::path& run = {});

struct KeptResult {
  CaseResult result;
  std::filesystem::path run; ///< empty: it is steady
};
/// What any question has kept of this identity (\ref currentIdentity); nothing where that is none, or cannot be read.
[[nodiscard]] std::optional<KeptResult> findKept(const std::filesystem::path& folder, const std::string& identity);

/// Has any question kept a result of this identity?
[[nodiscard]] bool isKept(const std::filesystem::path& folder, const std::string& identity);

} // namespace kiln
