// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "VtuImport.h"

#include "VtuGrid.h"
#include "VtuTets.h"
#include "base/TextHash.h"
#include "units/Quantity.h"

#include <algorithm>
#include <cmath>
#include <fstream>
#include <iterator>
#include <map>
#include <unistd.h>

namespace kiln
{
namespace
{

/// The skin of a piece as text triangles.
void writeSkin(const TakenElements& piece, const std::filesystem::path& file)
{
  std::ofstream out(file);
  out.precision(17);
  out << "solid skin\n";
  for (const auto& side : outerSides(piece)) {
    out << "facet normal 0 0 0\nouter loop\n";
    for (const std::int32_t corner : side) {
      const Vec3& p = piece.nodes[static_cast<std::size_t>(corner)];
      out << "vertex " << p.x() << " " << p.y() << " " << p.z() << "\n";
    }
    out << "endloop\nendfacet\n";
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

/// Gives a body the elements of the file, if they fill it once over and none is flat.
void takeElements(FoundBody& body, TakenElements elements, double unit)
{
  for (Vec3& node : elements.nodes)
    node *= unit;
  double sum = 0;
  double least = body.volume;
  for (const auto& tet : elements.tets) {
    sum += volumeOf(elements, tet);
    least = std::min(least, volumeOf(elements, tet));
  }
  constexpr double flat = 1e-6; // of the mean
  constexpr double equal = 1e-6;
  const double mean = body.volume / static_cast<double>(elements.tets.size());
  if (least > flat * mean && std::abs(sum - body.volume) < equal * body.volume)
    body.body.elements = packElements(elements);
  else
    body.note +=
        std::string(body.note.empty() ? "" : "; ") + "its elements are flat or lie over each other: it is meshed anew";
}

} // namespace

Expected<FoundGeometry> readMeshFile(const std::filesystem::path& path, const ImportSettings& settings,
                                     const Progress& progress)
{
  progress("read", 0.05, "reading the mesh");
  const auto grid = gridOf(path);
  if (!grid)
    return tl::unexpected(grid.error());
  std::vector<RegionPiece> pieces = piecesOf(**grid);
  if (pieces.empty())
    return unreadableGrid(path, "It has no cells that fill space.");
  std::map<int, int> ofRegion; // how many pieces
  for (const RegionPiece& piece : pieces)
    ++ofRegion[piece.region];
  const ScratchFolder scratch;
  FoundGeometry found;
  found.file.name = path.stem().string();
  found.file.id = "file";
  found.file.path = path.string();
  found.file.hash = hashOfFile(path);
  found.file.unit = Number{settings.unit, formatQuantity(settings.unit, Quantity::Length), false};
  double done = 0;
  std::map<int, int> numbers;
  for (RegionPiece& piece : pieces) {
    const std::string region = std::to_string(piece.region);
    progress("read", 0.1 + 0.9 * done++ / static_cast<double>(pieces.size()), "region " + region);
    const std::filesystem::path file = scratch.path / "skin.stl";
    writeSkin(piece.elements, file);
    auto own = readGeometry(file, settings, noProgress);
    if (!own)
      return unreadableGrid(path, nameOfRegion(**grid, piece.region) + ": " + own.error().problem);
    const bool whole = own->bodies.size() == 1;
    for (FoundBody& body : own->bodies) {
      const bool several = !whole || ofRegion[piece.region] > 1;
      const std::string number = std::to_string(++numbers[piece.region]);
      body.body.id = "region-" + region + (several ? "-" + number : "");
      body.body.name = nameOfRegion(**grid, piece.region) + (several ? ", piece " + number : "");
      body.sameAs.clear();
      if (body.problem.empty() && whole)
        takeElements(body, piece.elements, settings.unit);
      if (body.problem.empty())
        found.file.bodies.push_back(body.body);
      found.bodies.push_back(std::move(body));
    }
  }
  return found;
}

} // namespace kiln
