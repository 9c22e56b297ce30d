// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "scene/Turntable.h"

#include <algorithm>
#include <cmath>
#include <numbers>
#include <vtkCamera.h>

namespace kiln::turntable
{

void lookAlong(vtkCamera& camera, const Vec3& low, const Vec3& high, const Vec3& direction, const Vec3& up)
{
  const Vec3 middle = (low + high) / 2;
  const Vec3 from = middle - direction.normalized() * std::max((high - low).norm(), 1e-3);
  camera.SetFocalPoint(middle.data());
  camera.SetPosition(from.data());
  camera.SetViewUp(up.data());
}

void orbit(vtkCamera& camera, double azimuth, double elevation)
{
  Vec3 focus, position;
  camera.GetFocalPoint(focus.data());
  camera.GetPosition(position.data());
  const Vec3 arm = position - focus;
  const double length = arm.norm();
  constexpr double steepest = 89; // degrees
  constexpr double degrees = 180 / std::numbers::pi;
  const double before = std::asin(std::clamp(arm.z() / length, -1.0, 1.0)) * degrees;
  const double newElevation = std::clamp(before + elevation, -steepest, steepest) / degrees;
  Vec3 flat(arm.x(), arm.y(), 0);
  if (flat.norm() < 1e-6 * length) { // looking straight up or down: keep what is to the right
    Vec3 up;
    camera.GetViewUp(up.data());
    flat = arm.z() > 0 ? Vec3(-up.x(), -up.y(), 0) : Vec3(up.x(), up.y(), 0);
  }
  const double newAzimuth = std::atan2(flat.y(), flat.x()) + azimuth / degrees;
  const Vec3 newArm = length * Vec3(std::cos(newElevation) * std::cos(newAzimuth),
                                    std::cos(newElevation) * std::sin(newAzimuth), std::sin(newElevation));
  const Vec3 newPosition = focus + newArm;
  camera.SetPosition(newPosition.data());
  camera.SetViewUp(0, 0, 1);
}

void pan(vtkCamera& camera, double right, double down, int viewHeight)
{
  Vec3 focus, position, up;
  camera.GetFocalPoint(focus.data());
  camera.GetPosition(position.data());
  camera.GetViewUp(up.data());
  const Vec3 forward = (focus - position).normalized();
  const Vec3 rightward = forward.cross(up).normalized();
  const Vec3 upward = rightward.cross(forward);
  const double viewAngle = camera.GetViewAngle() * std::numbers::pi / 180;
  const double perPixel = 2 * (focus - position).norm() * std::tan(viewAngle / 2) / std::max(viewHeight, 1);
  const Vec3 shift = (-rightward * right + upward * down) * perPixel;
  const Vec3 newFocus = focus + shift;
  const Vec3 newPosition = position + shift;
  camera.SetFocalPoint(newFocus.data());
  camera.SetPosition(newPosition.data());
}

} // namespace kiln::turntable
