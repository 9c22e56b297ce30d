// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "geometry/FaceTable.h"
#include "model/Project.h"

#include <vector>

namespace kiln
{

/// Two parts that share faces.
struct TouchingPair {
  PartId partA, partB; ///< part indices, partA < partB
  std::vector<FaceId> faces;
  double area = 0; ///< exact, m²
};

/// Every pair the fuse found, ordered by part indices.
[[nodiscard]] std::vector<TouchingPair> touchingPairs(const FaceTable& geometry);

/// Do two parts share a face?
[[nodiscard]] bool touch(const FaceTable& geometry, PartId partA, PartId partB);

/// Faces that two parts share and that one contact is set for, or none.
struct ContactPiece : TouchingPair {
  const Contact* contact = nullptr; ///< nothing set: perfect
};

/// Faces that two contacts of a pair claim.
struct ContactClash {
  const Contact* first = nullptr;
  const Contact* second = nullptr;
  double area = 0; ///< m²
};

/// Every touching pair, in pieces by the contact that counts there: one that names a surface before one of the whole
/// pair, an earlier one before a later one.
/// \param clashes  filled with faces that two contacts with surfaces claim
[[nodiscard]] std::vector<ContactPiece> contactPieces(const Project& project, const FaceTable& geometry,
                                                      std::vector<ContactClash>* clashes = nullptr);

/// Conductance of the contact per area, W/(m²·K): infinite when perfect (or not set), 0 when none.
[[nodiscard]] double contactConductance(const ContactPiece& piece);

} // namespace kiln
