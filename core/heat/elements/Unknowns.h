// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "heat/elements/Index.h"
#include "mesh/Mesh.h"

#include <array>
#include <vector>

namespace kiln
{

/// The unknown temperatures of a mesh. A node where parts touch has one unknown for all parts joined perfectly there
/// and one more for each part behind a contact with a temperature jump.
struct Unknowns {
  Index count = 0;
  std::vector<std::array<UnknownId, 4>> ofTet;                     ///< by tet, corners in the tet's order
  std::vector<std::array<std::array<UnknownId, 3>, 2>> ofTriangle; ///< by triangle, side 0 and 1 (side 1 may be -1)
  std::vector<NodeId> node;                                        ///< mesh node of each unknown
};

/// The numbers of the nodes or unknowns of one element: \p Corners, or \p All at second order.
template <class Number, std::size_t Corners, std::size_t All>
struct NumbersOf {
  std::array<Number, All> own{};
  std::size_t count = Corners;

  [[nodiscard]] const Number* begin() const { return own.data(); }
  [[nodiscard]] const Number* end() const { return own.data() + count; }
};

/// Numbers the unknowns in the order of the mesh's nodes.
/// A mesh that only draws faces, without tetrahedra, has one unknown a node.
/// \param jump  by face index: true where the two sides keep temperatures of their own; on a face of the outside, where
///              a sheet does: its side 0 is the sheet then, and side 1 the part beneath
[[nodiscard]] Unknowns numberUnknowns(const Mesh& mesh, const std::vector<bool>& jump);

} // namespace kiln
