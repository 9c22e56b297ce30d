// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "geometry/FaceTable.h"

#include <TopoDS_Face.hxx>
#include <TopoDS_Solid.hxx>
#include <vector>

namespace kiln
{

/// The area of a part in the plane of a section, on the near side of its layer.
struct SectionArea {
  TopoDS_Face face;
  PartId part{};
  FaceId front, back; ///< faces of the two sides
};

/// Kernel shapes behind a Geometry; only the surface mesher looks inside.
struct Brep {
  std::vector<TopoDS_Face> faces;   ///< index = face index of the table, orientation FORWARD
  std::vector<bool> reversed;       ///< the kernel's normal points into parts[0]
  std::vector<double> thickness;    ///< thinnest wall behind each face on either side, m; infinite if none found
  std::vector<TopoDS_Solid> solids; ///< all solids of all parts
  std::vector<PartId> solidPart;    ///< part of each solid
  std::vector<SectionArea> areas;   ///< of a section model
};

} // namespace kiln
