// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "io/LinkedFiles.h"

#include "base/TextHash.h"

#include <fstream>
#include <iterator>
#include <map>
#include <mutex>

namespace kiln
{
namespace
{

/// Hash of a file, taken again only when its time or size has changed; empty when it cannot be read.
std::string hashOfFile(const std::filesystem::path& path)
{
  struct Known {
    std::filesystem::file_time_type time;
    std::uintmax_t size;
    std::string hash;
  };
  static std::mutex guard;
  static std::map<std::filesystem::path, Known> known;
  std::error_code error;
  const auto time = std::filesystem::last_write_time(path, error);
  const auto size = error ? 0 : std::filesystem::file_size(path, error);
  if (error)
    return {};
  const std::scoped_lock lock(guard);
  if (const auto found = known.find(path);
      found != known.end() && found->second.time == time && found->second.size == size)
    return found->second.hash;
  std::ifstream in(path, std::ios::binary);
  std::string hash = textHash(std::string((std::istreambuf_iterator<char>(in)), std::istreambuf_iterator<char>()));
  known[path] = {time, size, hash};
  return hash;
}

} // namespace

Project withAbsoluteLinks(Project project, const std::filesystem::path& folder)
{
  for (GeometryFile& file : project.files)
    if (file.linked && std::filesystem::path(file.path).is_relative())
      file.path = (std::filesystem::absolute(folder) / file.path).lexically_normal().string();
  return project;
}

std::vector<Finding> checkLinked(const Project& project, const std::filesystem::path& folder)
{
  std::vector<Finding> findings;
  const auto add = [&](const GeometryFile& file, const std::string& problem, const std::string& remedy) {
    findings.push_back({Finding::Severity::Error, file.id, "file " + file.name, problem, remedy, {}, {}});
  };
  const Project found = withAbsoluteLinks(project, folder);
  for (const GeometryFile& file : found.files) {
    if (!file.linked)
      continue;
    const std::string hash = hashOfFile(file.path);
    if (hash.empty())
      add(file, "The project links to it, and it is not at " + file.path + ".",
          "Put it back, or read the geometry again from where it is now.");
    else if (hash != file.hash)
      add(file, "The project links to it, and it has changed since it was read.",
          "Read the geometry again: what was set on it is matched.");
  }
  return findings;
}

} // namespace kiln
