// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "geometry/Brep.h"
#include "geometry/FaceTable.h"

namespace kiln
{

struct FaceNormals {
  Vec3 mean = Vec3::Zero(); ///< unit, or zero when the normals cancel
  double spread = 0;        ///< rad
  bool planar = false;
};

/// A point inside a face with the kernel's normal there.
struct FaceSample {
  Vec3 place, normal;
};

/// Points spread over the face, a few on each parameter line, inside its borders.
[[nodiscard]] std::vector<FaceSample> samplesOn(const TopoDS_Face& face, int perDirection);

[[nodiscard]] FaceNormals sampleNormals(const TopoDS_Face& face);

/// For each face the thinnest wall behind it: rays from sample points through the solids on its sides, m.
[[nodiscard]] std::vector<double> wallThickness(const Brep& brep, const FaceTable& table);

/// Exposed faces of different parts that face each other closer than nearMissGap.
[[nodiscard]] std::vector<NearMiss> findNearMisses(const Brep& brep, const FaceTable& table);

inline constexpr double nearMissGap = 2e-4; // m; closer than this, parts were most likely meant to touch

} // namespace kiln
