// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "base/InParallel.h"

#include <tbb/parallel_for.h>

namespace kiln
{

void inParallel(std::size_t count, const std::function<void(std::size_t)>& work)
{
  tbb::parallel_for(std::size_t{0}, count, [&](std::size_t i) { work(i); });
}

} // namespace kiln
