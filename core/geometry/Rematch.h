// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "base/Failure.h"
#include "model/Project.h"

#include <string>
#include <vector>

namespace kiln
{

/// What became of the bodies and faces of a file that was read again.
struct Rematch {
  GeometryFile file;                  ///< as it is now, with the ids and face names of before where they match
  std::vector<std::string> kept;      ///< names of bodies whose faces are all still there, unmoved
  std::vector<std::string> changed;   ///< "Plate: 1 face moved, 2 new, 1 gone (f4)"
  std::vector<std::string> gone;      ///< names of bodies the file no longer has
  std::vector<std::string> added;     ///< names of new ones
  std::vector<std::string> goneFaces; ///< "b1.f4": body id and face name
};

/// Matches bodies by name, then by volume and place, and their faces by place, size, kind and direction.
/// \param before  as the project has it
/// \param now     as read; its path and hash are taken over
[[nodiscard]] Expected<Rematch> rematch(const GeometryFile& before, const GeometryFile& now);

/// Takes a file that was read again into a project: the parts of its bodies stay, those of new ones are added.
/// \return ids of the parts whose body is gone; they stay as they were
std::vector<std::string> takeAgain(Project& project, const Rematch& again, const GeometryFile& before);

} // namespace kiln
