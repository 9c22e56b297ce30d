// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "base/Failure.h"
#include "base/Vec3.h"
#include "geometry/FaceTable.h"
#include "model/Project.h"

#include <string>

namespace kiln
{

/// Two nominally flat, rough surfaces pressed on each other.
struct PressedSurfaces {
  double conductivityA = 0, conductivityB = 0; ///< W/(m·K)
  double roughness = 0;                        ///< m, root mean square, of both together
  double slope = 0;                            ///< mean absolute, of both together
  double hardness = 0;                         ///< Pa, of the softer one
};

/// Area conductance of the spots where they touch, W/(m²·K), with nothing between: 1.25 k (m/σ) (p/H)^0.95 with the
/// harmonic mean k of the conductivities; plastic contact of conforming rough surfaces (Cooper, Mikic and Yovanovich
/// 1969).
/// \param pressure  Pa
[[nodiscard]] double pressedConductance(const PressedSurfaces& surfaces, double pressure);

/// A bolt that presses two parts on each other within its washer's reach.
struct BoltedJoint {
  std::string partA, partB;
  Vec3 centre = Vec3::Zero(); ///< m, of the bolt, on the faces that touch
  double reach = 0;           ///< m, radius within which it presses
  double hole = 0;            ///< m, radius of the hole, where nothing presses; where it is not cut out of the
                              ///< parts, its area conducts as the rest within the reach does
  double force = 0;           ///< N
  PressedSurfaces surfaces;
  double elsewhere = 0; ///< W/(m²·K), on the rest of the touching faces
};

/// Mean pressure within the reach, Pa.
[[nodiscard]] double pressureOf(const BoltedJoint& joint);

/// The largest flat face that two parts share; nullptr when there is none.
[[nodiscard]] const Face* sharedFlatFace(const FaceTable& table, const std::string& partA, const std::string& partB);

/// The project with the touching face divided by the washer's reach, and a contact inside and one outside of it. Fails
/// where the parts share no flat face, or the reach is no circle on it.
[[nodiscard]] Expected<Project> withBoltedJoint(const Project& project, const FaceTable& table,
                                                const BoltedJoint& joint);

} // namespace kiln
