// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "scene/SceneModel.h"

#include <memory>
#include <optional>

namespace kiln
{

/// Finds what a ray meets first among drawn triangles. Needs no OpenGL.
class SurfacePicker
{
public:
  SurfacePicker();
  ~SurfacePicker();
  SurfacePicker(SurfacePicker&&) noexcept;
  SurfacePicker& operator=(SurfacePicker&&) noexcept;

  /// What is searched from now on; it must stay alive, and as it is until this is called again.
  void setSurface(const DrawnSurface& surface);

  /// First triangle met between two places; triangles that the sections remove are passed.
  [[nodiscard]] std::optional<PickedPoint> pick(const Vec3& from, const Vec3& to, const SectionPlanes& sections) const;

private:
  struct State;
  std::unique_ptr<State> state_;
};

} // namespace kiln
