// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include <cstddef>
#include <new>
#include <sys/mman.h>
#include <vector>

namespace kiln
{

/// Memory for arrays of many megabytes that are read and written all over: the kernel is asked for pages of 2 MiB, so
/// that finding where an address lies does not cost more than the access itself.
template <class T>
struct LargePages {
  using value_type = T;

  LargePages() = default;
  template <class U>
  LargePages(const LargePages<U>& /*other*/)
  {
  }

  T* allocate(std::size_t count)
  {
    const std::size_t bytes = count * sizeof(T);
    if (bytes < page)
      return static_cast<T*>(::operator new(bytes));
    void* const memory = ::operator new(bytes, std::align_val_t(page));
    ::madvise(memory, bytes, MADV_HUGEPAGE); // advice: without it everything works, more slowly
    return static_cast<T*>(memory);
  }
  void deallocate(T* memory, std::size_t count)
  {
    if (count * sizeof(T) < page)
      ::operator delete(memory);
    else
      ::operator delete(memory, std::align_val_t(page));
  }
  template <class U>
  bool operator==(const LargePages<U>& /*other*/) const
  {
    return true;
  }

private:
  static constexpr std::size_t page = std::size_t{2} << 20U;
};

template <class T>
using LargeVector = std::vector<T, LargePages<T>>;

} // namespace kiln
