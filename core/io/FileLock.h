// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "base/Failure.h"

#include <filesystem>
#include <functional>
#include <string>

namespace kiln
{

/// Holds a file, so that there is one writer of what it stands for. Let go of when it is destroyed, or when the process
/// ends in whatever way: the system keeps it, not a number in the file (flock). The file itself stays.
class FileLock
{
public:
  /// Nothing held.
  FileLock() = default;
  /// \param object  what is written, as in "case Hold"
  /// Fails with kind NotReady where another one holds it, naming who and since when.
  [[nodiscard]] static Expected<FileLock> take(const std::filesystem::path& file, const std::string& object);
  /// The same, but waits while another one holds it; \p waiting is told so now and then.
  /// Fails where the file cannot be written.
  [[nodiscard]] static Expected<FileLock> await(const std::filesystem::path& file, const std::string& object,
                                                const std::function<void(const std::string& holder)>& waiting);
  ~FileLock();
  FileLock(FileLock&& other) noexcept;
  FileLock& operator=(FileLock&& other) noexcept;
  FileLock(const FileLock&) = delete;
  FileLock& operator=(const FileLock&) = delete;

  [[nodiscard]] bool held() const { return descriptor_ >= 0; }

private:
  int descriptor_ = -1;
};

/// "Mara on kiln-1 (process 4711) since 2026-05-02 14:03", of who holds a file; empty when nobody does.
[[nodiscard]] std::string holderOf(const std::filesystem::path& file);

} // namespace kiln
