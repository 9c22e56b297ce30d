// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "geometry/Geometry.h"
#include "mesh/Mesh.h"

namespace kiln
{

/// Moves the nodes in the middle of edges on round faces onto the true faces and curves of the geometry, so that
/// elements of second order bend with them. A node is drawn back towards its chord where an element would fold.
/// Right after makeSecondOrder(). \return nodes that were moved
std::size_t bendEdges(const Geometry& geometry, Mesh& mesh);

} // namespace kiln
