// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
//
// TetGen's own terminatetetgen frees its mesh and then throws through frames that still use it. The library exports
// it as a weak symbol, so this definition, which only throws, takes its place. This file must not include tetgen.h.

#include "mesh/TetGenErrors.h"

class tetgenmesh;

void terminatetetgen(tetgenmesh*, int error); // NOLINT(misc-use-internal-linkage)

void terminatetetgen(tetgenmesh* /*mesh*/, int error) { throw error; }

namespace kiln::tetgen
{

const int selfIntersection = 3;
const int noMemory = 1;

} // namespace kiln::tetgen
