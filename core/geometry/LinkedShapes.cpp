// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "geometry/LinkedShapes.h"

#include "geometry/GeometryImport.h"

#include <algorithm>
#include <map>
#include <tuple>

namespace kiln
{
namespace
{

/// The file as it was read last in this process, by path and hash: a draft is built after every edit.
Expected<FoundGeometry> readOnce(const std::filesystem::path& path, const GeometryFile& file)
{
  static std::map<std::tuple<std::string, std::string, double, double, double>, FoundGeometry> known;
  ImportSettings settings;
  settings.unit = file.unit.si;
  settings.featureAngle = file.faceAngle.value_or(Number{settings.featureAngle, {}}).si;
  settings.removeBelow = file.removeBelow.value_or(Number{}).si;
  const std::tuple key(path.string(), file.hash, settings.unit, settings.featureAngle, settings.removeBelow);
  if (const auto found = known.find(key); found != known.end())
    return found->second;
  auto read = readGeometry(path, settings, noProgress);
  if (read && read->file.hash == file.hash)
    known.insert_or_assign(key, *read);
  return read;
}

} // namespace

Expected<void> fillLinked(Project& project, const std::filesystem::path& folder)
{
  for (GeometryFile& file : project.files) {
    if (!file.linked)
      continue;
    const std::filesystem::path own(file.path);
    const auto read = readOnce(own.is_relative() ? folder / own : own, file);
    if (!read)
      return tl::unexpected(read.error());
    if (read->file.hash != file.hash)
      return failure(Failure::Kind::NotReady, "file " + file.name, "It has changed since it was read.",
                     "Read the geometry again: what was set on it is matched.");
    for (TakenBody& body : file.bodies) {
      const auto same = std::find_if(read->file.bodies.begin(), read->file.bodies.end(),
                                     [&](const TakenBody& now) { return now.id == body.id; });
      if (same == read->file.bodies.end())
        return failure(Failure::Kind::NotReady, "file " + file.name, "Its body " + body.name + " is not read any more.",
                       "Read the geometry again.");
      body.shape = same->shape;
    }
  }
  return {};
}

} // namespace kiln
