// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "model/Project.h"

#include <string>
#include <vector>

namespace kiln
{

/// A change that mends a finding in one click.
struct Mend {
  enum class Action {
    ConfirmPerfect,   ///< parts a, b
    GiveMaterial,     ///< part, material
    RemoveObject,     ///< id
    RemoveFromRule,   ///< surface, face name or part
    Unmute,           ///< id
    KeepSpace,        ///< part that keeps the space, part that yields
    SortTable,        ///< field path
    MovePart,         ///< part, x, y, z in m
    BridgeGap,        ///< part a, part b, thickness in m
    WidenTolerance,   ///< m
    MakeEnclosure,    ///< lasting names of the faces around a space
    UsualEnvironment, ///< gravity along −z and standard pressure
    SurfaceMesh,      ///< surface, largest element on it in m
  };
  Action action = Action::RemoveObject;
  std::string label; ///< "Confirm perfect contact"
  std::vector<std::string> arguments;
};

void applyMend(Project& project, const Mend& mend);

} // namespace kiln
