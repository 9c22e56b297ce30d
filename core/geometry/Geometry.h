// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "base/Failure.h"
#include "geometry/FaceTable.h"
#include "model/Project.h"

#include <memory>

namespace kiln
{

struct Brep;

/// The fused model: plain face table, and the kernel's boundary representation for the mesher.
struct Geometry {
  FaceTable table;
  std::shared_ptr<const Brep> brep;
};

/// Parts closer than this touch (m).
inline constexpr double fuseTolerance = 1e-6;

/// Builds every part that is not muted and fuses them, so that touching parts share faces.
/// Fails, naming parts and place, on: no parts, a shape that cannot be built, a part with nothing left after its
/// cuts, parts that overlap.
[[nodiscard]] Expected<Geometry> buildGeometry(const Project& project);

} // namespace kiln
