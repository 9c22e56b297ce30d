// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "base/Processors.h"

#include <algorithm>
#include <cblas.h>
#include <memory>
#include <tbb/global_control.h>

namespace kiln
{

void limitProcessors(int most)
{
  static std::unique_ptr<tbb::global_control> limit;
  most = std::max(most, 1);
  openblas_set_num_threads(most);
  limit = std::make_unique<tbb::global_control>(tbb::global_control::max_allowed_parallelism,
                                                static_cast<std::size_t>(most));
}

int processors()
{
  return static_cast<int>(tbb::global_control::active_value(tbb::global_control::max_allowed_parallelism));
}

} // namespace kiln
