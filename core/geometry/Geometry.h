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

/// Parts closer than this touch (m), unless the project says otherwise.
inline constexpr double fuseTolerance = 1e-6;

/// Bodies of parts, kept from one build to the next: only a part that changed is built again.
class PartCache
{
public:
  PartCache();
  ~PartCache();
  PartCache(const PartCache&) = delete;
  PartCache& operator=(const PartCache&) = delete;

private:
  friend class PartBodies;
  struct Bodies;
  std::unique_ptr<Bodies> bodies_;
};

/// Builds every part that is not muted, each by itself: no faces are shared, overlaps are not noticed.
/// Quick; for showing a model while it is edited.
[[nodiscard]] Expected<Geometry> buildLoose(const Project& project, PartCache& cache);

/// Builds every part that is not muted and fuses them, so that touching parts share faces.
/// Fails, naming parts and place, on: no parts, a shape that cannot be built, a part with nothing left after its
/// cuts, parts that overlap.
[[nodiscard]] Expected<Geometry> buildGeometry(const Project& project);
[[nodiscard]] Expected<Geometry> buildGeometry(const Project& project, PartCache& cache);

} // namespace kiln
