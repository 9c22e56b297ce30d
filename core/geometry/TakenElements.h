// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "base/Failure.h"
#include "base/Vec3.h"
#include "geometry/FaceTable.h"
#include "model/Project.h"

#include <array>
#include <cstdint>
#include <vector>

namespace kiln
{

/// Tetrahedra that a body from a mesh file is made of.
struct TakenElements {
  std::vector<Vec3> nodes;                       ///< m
  std::vector<std::array<std::int32_t, 4>> tets; ///< positively oriented
};

/// Volume of one of them, in the cube of the nodes' unit; negative when it is turned inside out.
[[nodiscard]] double volumeOf(const TakenElements& elements, const std::array<std::int32_t, 4>& tet);

/// Sides that no other one of the tetrahedra has, seen from outside counter-clockwise.
[[nodiscard]] std::vector<std::array<std::int32_t, 3>> outerSides(const TakenElements& elements);

/// As a body carries them: "nodes tets " and the numbers, compressed.
[[nodiscard]] SharedText packElements(const TakenElements& elements);
/// In the file's frame. Fails when the text is damaged.
[[nodiscard]] Expected<TakenElements> elementsOf(const TakenBody& body);

/// Whether a part is a body that came with elements.
[[nodiscard]] bool hasElements(const Project& project, const Part& part);
/// Whether it is meshed with them: that is wished, and nothing changes its shape.
[[nodiscard]] bool keepsElements(const Project& project, const Part& part);
/// The first part that does, or nullptr: such a model has no coarser or finer meshes.
[[nodiscard]] const Part* firstThatKeeps(const Project& project);

struct ElementCount {
  double nodes = 0, tets = 0;
};
/// Of a part that keeps them, all copies. Quick: nothing is unpacked.
[[nodiscard]] ElementCount keptCount(const Project& project, const Part& part);

/// The elements of a part that keeps them, all copies, in their place in the model.
struct KeptElements {
  PartId part{}; ///< index in the table
  TakenElements elements;
};
[[nodiscard]] Expected<std::vector<KeptElements>> keptElements(const Project& project, const FaceTable& table);

} // namespace kiln
