// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "base/Failure.h"
#include "questions/PointAnswer.h"

#include <filesystem>
#include <memory>

namespace kiln
{

/// The answers of one question, one file for all of its points: an SQLite database, so that a process killed at any
/// moment loses the answer that it was writing alone, and two processes at one question see each other's.
class PointStore
{
public:
  /// Opens or makes it. Fails naming the file where it cannot be written, or another version has made it.
  [[nodiscard]] static Expected<PointStore> open(const std::filesystem::path& file);
  ~PointStore();
  PointStore(PointStore&&) noexcept;
  PointStore(const PointStore&) = delete;
  PointStore& operator=(const PointStore&) = delete;
  PointStore& operator=(PointStore&&) = delete;

  /// An answer that was solved before; nothing: it is not known.
  [[nodiscard]] std::optional<PointAnswer> find(const std::string& key) const;
  /// Keeps an answer that was solved; a failed one is tried again another time.
  [[nodiscard]] Expected<void> keep(const PointAnswer& answer);
  [[nodiscard]] int count() const;
  [[nodiscard]] std::vector<PointAnswer> all() const;

private:
  struct Handle;
  explicit PointStore(std::unique_ptr<Handle> handle);
  std::unique_ptr<Handle> handle_;
};

/// DIR/ID.points.sqlite
[[nodiscard]] std::filesystem::path pointsFile(const std::filesystem::path& folder, const std::string& questionId);

/// Answers on their way between processes, one a line: JSON.
[[nodiscard]] std::string answerText(const PointAnswer& answer);
[[nodiscard]] std::optional<PointAnswer> answerFrom(const std::string& text);

} // namespace kiln
