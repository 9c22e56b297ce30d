// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "model/Project.h"

#include <string>
#include <vector>

/// Edits that keep a project's references whole.
namespace kiln
{

/// Id made from a name ("Heating coil" → "heating-coil"), not yet used in the project.
[[nodiscard]] std::string idFromName(const Project& project, const std::string& name);

/// Adds an object of its kind at the end of its list; \return its id, made from \p name.
template <class T>
std::string addObject(Project& project, std::vector<T>& list, T object, const std::string& name)
{
  object.id = idFromName(project, name);
  object.name = name;
  list.push_back(std::move(object));
  return list.back().id;
}

/// The common face of any object; nullptr when there is none of this id.
[[nodiscard]] Object* findObject(Project& project, const std::string& id);
[[nodiscard]] const Object* findObject(const Project& project, const std::string& id);

/// A name that no object of the project has yet: "Block", "Block 2", …
[[nodiscard]] std::string freeName(const Project& project, const std::string& base);

/// Id of a new step, "cut-1": the first that the part does not have.
[[nodiscard]] std::string freeStepId(const Part& part, const std::string& base);

/// Removes an object and what names it (\ref forgetObject). \return false when there is none.
bool removeObject(Project& project, const std::string& id);

/// A copy right after the original; faces it names of itself are its own. \return its id, empty when there is none.
std::string duplicateObject(Project& project, const std::string& id);

/// Moves an object before another of its list, or to the end when \p before is empty. \return false if impossible.
bool moveObject(Project& project, const std::string& id, const std::string& before);

/// Id of the surface that a boundary or source stands on, wherever it is kept.
[[nodiscard]] std::string* surfaceSlot(Project& project, const std::string& id);

/// Is the part left out, by itself or with its group?
[[nodiscard]] bool isMuted(const Project& project, const Part& part);

/// Part ids with every group id replaced by its parts.
[[nodiscard]] std::vector<std::string> expandGroups(const Project& project, const std::vector<std::string>& ids);

} // namespace kiln
