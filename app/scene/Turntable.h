// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "base/Vec3.h"

class vtkCamera;

/// Camera moves with z always up, as if the model stood on a turntable.
namespace kiln::turntable
{

/// Puts the eye before the middle of a box, looking along a direction.
void lookAlong(vtkCamera& camera, const Vec3& low, const Vec3& high, const Vec3& direction, const Vec3& up);

/// Turns about the focal point; the elevation stops short of straight up and down.
void orbit(vtkCamera& camera, double azimuthDegrees, double elevationDegrees);

/// Shifts eye and focal point so that what lies at the focal distance follows the pointer.
/// \param right, down  pixels
void pan(vtkCamera& camera, double right, double down, int viewHeight);

} // namespace kiln::turntable
