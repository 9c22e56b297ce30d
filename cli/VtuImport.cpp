// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "VtuImport.h"

#include "VtuGrid.h"
#include "base/TextHash.h"
#include "units/Quantity.h"

#include <algorithm>
#include <array>
#include <fstream>
#include <iterator>
#include <map>
#include <unistd.h>

namespace kiln
{
namespace
{

using Side = std::vector<vtkIdType>;

/// Sides that only one cell of a region has, by region.
std::map<int, std::vector<Side>> skinsOf(vtkUnstructuredGrid& grid)
{
  const std::vector<int> regions = regionsOf(grid);
  std::map<int, std::map<Side, std::pair<Side, int>>> seen; // by sorted corners: as given, how often
  for (vtkIdType c = 0; c < grid.GetNumberOfCells(); ++c) {
    vtkIdType count = 0;
    const vtkIdType* points = nullptr;
    grid.GetCellPoints(c, count, points);
    for (const std::vector<int>& side : sidesOf(grid.GetCellType(c))) {
      Side corners;
      for (const int corner : side)
        corners.push_back(points[corner]);
      Side key = corners;
      std::sort(key.begin(), key.end());
      auto& own = seen[regions[static_cast<std::size_t>(c)]][key];
      own.first = std::move(corners);
      ++own.second;
    }
  }
  std::map<int, std::vector<Side>> skins;
  for (auto& [region, sides] : seen)
    for (auto& [key, side] : sides)
      if (side.second == 1)
        skins[region].push_back(std::move(side.first));
  return skins;
}

/// A skin as text triangles; a quad is cut from its lowest corner, so that both of its regions cut it alike.
void writeSkin(vtkUnstructuredGrid& grid, const std::vector<Side>& skin, const std::filesystem::path& file)
{
  std::ofstream out(file);
  out.precision(17);
  out << "solid skin\n";
  for (const Side& side : skin) {
    const auto low = static_cast<std::size_t>(std::min_element(side.begin(), side.end()) - side.begin());
    for (std::size_t i = 1; i + 1 < side.size(); ++i) {
      out << "facet normal 0 0 0\nouter loop\n";
      for (const std::size_t corner : {low, (low + i) % side.size(), (low + i + 1) % side.size()}) {
        std::array<double, 3> p{};
        grid.GetPoint(side[corner], p.data());
        out << "vertex " << p[0] << " " << p[1] << " " << p[2] << "\n";
      }
      out << "endloop\nendfacet\n";
    }
  }
  out << "endsolid skin\n";
}

/// A folder that is gone when it goes out of scope.
struct ScratchFolder {
  std::filesystem::path path =
      std::filesystem::temp_directory_path() / ("usual-kiln-mesh-" + std::to_string(::getpid()));
  ScratchFolder() { std::filesystem::create_directories(path); }
  ~ScratchFolder()
  {
    std::error_code ignored;
    std::filesystem::remove_all(path, ignored);
  }
  ScratchFolder(const ScratchFolder&) = delete;
  ScratchFolder& operator=(const ScratchFolder&) = delete;
};

std::string hashOfFile(const std::filesystem::path& path)
{
  std::ifstream in(path, std::ios::binary);
  return textHash(std::string((std::istreambuf_iterator<char>(in)), std::istreambuf_iterator<char>()));
}

} // namespace

Expected<FoundGeometry> readMeshFile(const std::filesystem::path& path, const ImportSettings& settings,
                                     const Progress& progress)
{
  progress("read", 0.05, "reading the mesh");
  const auto grid = gridOf(path);
  if (!grid)
    return tl::unexpected(grid.error());
  const auto skins = skinsOf(**grid);
  if (skins.empty())
    return unreadableGrid(path, "It has no cells that fill space.");
  const ScratchFolder scratch;
  FoundGeometry found;
  found.file.name = path.stem().string();
  found.file.id = "file";
  found.file.path = path.string();
  found.file.hash = hashOfFile(path);
  found.file.unit = Number{settings.unit, formatQuantity(settings.unit, Quantity::Length), false};
  double done = 0;
  for (const auto& [region, skin] : skins) {
    progress("read", 0.1 + 0.9 * done++ / static_cast<double>(skins.size()), "region " + std::to_string(region));
    const std::filesystem::path file = scratch.path / ("region-" + std::to_string(region) + ".stl");
    writeSkin(**grid, skin, file);
    auto own = readGeometry(file, settings, noProgress);
    if (!own)
      return unreadableGrid(path, "Region " + std::to_string(region) + ": " + own.error().problem);
    const bool several = own->bodies.size() > 1;
    int piece = 0;
    for (FoundBody& body : own->bodies) {
      ++piece;
      body.body.id = "region-" + std::to_string(region) + (several ? "-" + std::to_string(piece) : "");
      body.body.name = "Region " + std::to_string(region) + (several ? ", piece " + std::to_string(piece) : "");
      body.sameAs.clear();
      if (body.problem.empty())
        found.file.bodies.push_back(body.body);
      found.bodies.push_back(std::move(body));
    }
  }
  return found;
}

} // namespace kiln
