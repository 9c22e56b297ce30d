// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "io/Library.h"

#include "io/LibraryText.h"
#include "io/ProjectFile.h"
#include "model/Edit.h"

#include <cstdlib>
#include <stdexcept>

namespace kiln
{
namespace
{

template <class T>
std::string take(Project& project, std::vector<T>& list, const T& fromLibrary)
{
  for (const T& own : list) {
    T same = fromLibrary;
    same.id = own.id;
    if constexpr (requires { same.surfaces; })
      same.surfaces = own.surfaces;
    if (same == own)
      return own.id;
  }
  T added = fromLibrary;
  added.name = freeName(project, fromLibrary.name);
  added.id = idFromName(project, added.name);
  list.push_back(added);
  return added.id;
}

} // namespace

const Project& builtInLibrary()
{
  static const Project library = [] {
    Expected<Project> read = readProject(libraryText, "built-in library");
    if (!read)
      throw std::logic_error(read.error().sentence()); // it is compiled in and tested
    return std::move(*read);
  }();
  return library;
}

std::filesystem::path userLibraryFile()
{
  const char* data = std::getenv("XDG_DATA_HOME");
  const char* home = std::getenv("HOME");
  const std::filesystem::path base = data != nullptr && *data != '\0'
                                         ? std::filesystem::path(data)
                                         : std::filesystem::path(home != nullptr ? home : "/tmp") / ".local/share";
  return base / "usual-kiln" / "library.kiln";
}

Expected<Project> loadUserLibrary()
{
  std::error_code ignored;
  if (!std::filesystem::exists(userLibraryFile(), ignored)) {
    Project empty;
    empty.name = "My library";
    return empty;
  }
  return loadProject(userLibraryFile());
}

Expected<void> keepInUserLibrary(const Material& material)
{
  Expected<Project> library = loadUserLibrary();
  if (!library)
    return tl::unexpected(library.error());
  std::erase_if(library->materials, [&](const Material& own) { return own.name == material.name; });
  Material kept = material;
  kept.id = idFromName(*library, material.name);
  library->materials.push_back(std::move(kept));
  std::error_code ignored;
  std::filesystem::create_directories(userLibraryFile().parent_path(), ignored);
  return saveProject(*library, userLibraryFile());
}

std::string takeMaterial(Project& project, const Material& fromLibrary)
{
  return take(project, project.materials, fromLibrary);
}

std::string takeFinish(Project& project, const Finish& fromLibrary)
{
  return take(project, project.finishes, fromLibrary);
}

} // namespace kiln
