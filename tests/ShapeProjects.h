// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "TestProjects.h"

#include <algorithm>
#include <numbers>

/// Shapes as the geometry makes them, for tests.
namespace kiln::test
{

inline constexpr double pi = std::numbers::pi;

inline FaceTable tableOf(const Project& project)
{
  const auto geometry = buildGeometry(project);
  if (!geometry)
    throw std::runtime_error(geometry.error().sentence());
  return geometry->table;
}

inline const Face& faceNamed(const FaceTable& table, const std::string& name)
{
  for (const Face& face : table.faces)
    if (std::find(face.names.begin(), face.names.end(), name) != face.names.end())
      return face;
  throw std::runtime_error("no face " + name);
}

} // namespace kiln::test
