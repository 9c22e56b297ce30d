// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "base/InParallel.h"

#include <algorithm>
#include <tbb/parallel_for.h>

namespace kiln
{

void inParallel(std::size_t count, const std::function<void(std::size_t)>& work)
{
  tbb::parallel_for(std::size_t{0}, count, [&](std::size_t i) { work(i); });
}

void inBlocks(std::size_t count, std::size_t block, const std::function<void(std::size_t, std::size_t)>& work)
{
  if (count <= block) {
    if (count > 0)
      work(0, count);
    return;
  }
  inParallel((count + block - 1) / block, [&](std::size_t i) { work(i * block, std::min(count, (i + 1) * block)); });
}

} // namespace kiln
