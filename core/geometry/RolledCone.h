// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "model/Steps.h"

#include <TopoDS_Edge.hxx>
#include <TopoDS_Face.hxx>
#include <gp_Cone.hxx>
#include <gp_Pnt.hxx>
#include <gp_Pnt2d.hxx>

namespace kiln
{

/// A cone rolled out flat about its tip: a runs around it, b away along its side, both in m from the middle of the
/// face. Lengths and areas stay. A line is drawn around it or along it; whatever is closed is wrapped as it is.
class RolledCone
{
public:
  RolledCone(const TopoDS_Face& face, const gp_Cone& cone);

  /// Where a place of the face lies when it is rolled out, in z = 0.
  [[nodiscard]] gp_Pnt flat(const gp_Pnt& place) const;
  /// Likewise as lines around and along it see it: those are straight there.
  [[nodiscard]] gp_Pnt flatForLines(const gp_Pnt& place) const;
  /// An edge in z = 0, wrapped. Throws Standard_Failure where it reaches farther than once around.
  [[nodiscard]] TopoDS_Edge wrapped(const TopoDS_Edge& edge) const;
  /// Around or along. Throws Standard_Failure for one that is neither, or misses the face.
  [[nodiscard]] TopoDS_Edge across(const SplitByLine& line) const;

private:
  [[nodiscard]] double radiusAt(double v) const;
  /// To parameters of the surface, u against the middle.
  [[nodiscard]] gp_Pnt2d parameters(const gp_Pnt& flat) const;

  gp_Cone cone_;
  bool full_ = false;
  double u_ = 0, v_ = 0; ///< parameters of the middle
  double uHalf_ = 0;     ///< half of what the face reaches around
  double vLow_ = 0, vHigh_ = 0;
  double steep_ = 0; ///< sine of the angle between side and axis, without its sign
  double sign_ = 1;  ///< −1 where it narrows along the surface's own direction
  double slant_ = 0; ///< m, from the tip to the middle along the side
};

} // namespace kiln
