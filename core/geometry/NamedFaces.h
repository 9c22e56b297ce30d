// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "geometry/Forms.h"

#include <TopTools_IndexedDataMapOfShapeListOfShape.hxx>
#include <gp_Dir.hxx>

namespace kiln
{

using EdgeFaces = TopTools_IndexedDataMapOfShapeListOfShape;

[[nodiscard]] std::vector<TopoDS_Face> facesNamed(const NamedBody& body, const std::string& name);
[[nodiscard]] std::vector<std::string> namesOf(const NamedBody& body, const TopoDS_Shape& face);

/// The face as it bounds the body, so that its orientation tells the outside.
[[nodiscard]] TopoDS_Face orientedIn(const TopoDS_Shape& body, const TopoDS_Face& face);

/// Outward normal of a flat face; nothing for others.
[[nodiscard]] std::optional<gp_Dir> flatNormal(const TopoDS_Face& face);

/// Volume that a shape encloses, m³; negative when it is turned inside out.
[[nodiscard]] double volumeOf(const TopoDS_Shape& shape);

/// The faces at every edge.
[[nodiscard]] EdgeFaces edgeFaces(const TopoDS_Shape& shape);

} // namespace kiln
