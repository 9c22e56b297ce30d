// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "Commands.h"
#include "geometry/LinkedShapes.h"
#include "io/ProjectFile.h"
#include "io/ResultFile.h"
#include "mesh/DraftMesh.h"
#include "run/InputHash.h"

#include <filesystem>
#include <iostream>
#include <nlohmann/json.hpp>

namespace kiln::cli
{
namespace
{

using Json = nlohmann::ordered_json;

void answer(const Json& json) { std::cout << json.dump() << std::endl; }

void refuse(const Failure& failure, const std::string& hash)
{
  answer({{"stage", "failed"},
          {"hash", hash},
          {"object", failure.object},
          {"problem", failure.problem},
          {"remedy", failure.remedy},
          {"ids", failure.ids},
          {"place", failure.place ? Json(*failure.place) : Json::array()}});
}

/// One draft, loose or fused. \return false when it was refused
bool drawn(const Expected<Geometry>& geometry, const std::string& hash, const std::filesystem::path& folder, bool fused)
{
  if (!geometry) {
    refuse(geometry.error(), hash);
    return false;
  }
  Expected<Mesh> mesh = draftMesh(*geometry);
  if (!mesh) {
    refuse(mesh.error(), hash);
    return false;
  }
  if (auto saved = saveMesh({hash, std::move(*mesh)}, draftFile(folder, fused)); !saved) {
    refuse(saved.error(), hash);
    return false;
  }
  answer({{"stage", fused ? "fused" : "loose"}, {"hash", hash}});
  return true;
}

} // namespace

ExitCode draft()
{
  PartCache cache;
  for (std::string line; std::getline(std::cin, line);) {
    const std::filesystem::path folder = std::filesystem::path(line).parent_path();
    Expected<Project> project = loadProject(line);
    if (!project) {
      refuse(project.error(), "");
      continue;
    }
    const std::string hash = inputHashes(*project).geometry;
    if (auto filled = fillLinked(*project, folder); !filled) {
      refuse(filled.error(), hash);
      continue;
    }
    if (drawn(buildLoose(*project, cache), hash, folder, false))
      (void)drawn(buildGeometry(*project, cache), hash, folder, true);
  }
  return ExitCode::Solved;
}

} // namespace kiln::cli
