// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "MemoryBound.h"

#include <algorithm>
#include <fstream>
#include <new>
#include <sys/resource.h>
#include <unistd.h>

namespace kiln
{
#ifndef __SANITIZE_ADDRESS__ // which maps terabytes
namespace
{

/// While it lives, this process gets no more memory than a bound.
class MemoryBound
{
public:
  explicit MemoryBound(double bytes)
  {
    std::ifstream pages("/proc/self/statm");
    double now = 0;
    pages >> now;
    ::getrlimit(RLIMIT_AS, &before_);
    rlimit bound = before_;
    const auto wanted = static_cast<rlim_t>(now * static_cast<double>(::sysconf(_SC_PAGESIZE)) + bytes);
    bound.rlim_cur = std::min(bound.rlim_max, wanted);
    ::setrlimit(RLIMIT_AS, &bound);
  }
  ~MemoryBound() { ::setrlimit(RLIMIT_AS, &before_); }
  MemoryBound(const MemoryBound&) = delete;
  MemoryBound& operator=(const MemoryBound&) = delete;

private:
  rlimit before_{};
};

} // namespace
#endif

bool readWithinReason(const std::filesystem::path& file, const std::function<void()>& read)
{
#ifdef __SANITIZE_ADDRESS__
  static_cast<void>(file);
#else
  constexpr double most = 2e9, packed = 1000; // B; a packed file holds at most some thousand times its size
  std::error_code ignored;
  const MemoryBound bound(most + packed * static_cast<double>(std::filesystem::file_size(file, ignored)));
#endif
  try {
    read();
    return true;
  } catch (const std::bad_alloc&) {
    return false;
  }
}

} // namespace kiln
