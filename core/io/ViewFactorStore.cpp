// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "io/ViewFactorStore.h"

#include "io/AtomicFile.h"
#include "io/FileLock.h"
#include "io/Hdf5.h"
#include "io/JsonText.h"
#include "io/NewestFiles.h"
#include "mesh/RayScene.h"

#include <algorithm>
#include <array>
#include <cstdio>
#include <xxhash.h>

namespace kiln
{
namespace
{

/// Changes whenever the same patches would get other view factors.
constexpr int layoutVersion = 3;

const std::string filePrefix = "view-factors-";
constexpr std::size_t mostKept = 12; // files

std::vector<std::int32_t> integersOf(const int* begin, Eigen::Index count) { return {begin, begin + count}; }

void save(const ViewFactors& factors, const std::filesystem::path& file)
{
  Hdf5Writer writer;
  const auto rows = factors.exchange.rows();
  writer.write("/exchange/rowStart", integersOf(factors.exchange.outerIndexPtr(), rows + 1));
  writer.write("/exchange/columns", integersOf(factors.exchange.innerIndexPtr(), factors.exchange.nonZeros()));
  writer.write("/exchange/values",
               std::span(factors.exchange.valuePtr(), static_cast<std::size_t>(factors.exchange.nonZeros())));
  writer.write("/self", std::span(factors.self.data(), static_cast<std::size_t>(rows)));
  writer.write("/area", std::span(factors.area.data(), static_cast<std::size_t>(rows)));
  writer.write("/opening", std::span(factors.opening.data(), static_cast<std::size_t>(rows)));
  writer.writeText("/about", Json{{"layout", layoutVersion},
                                  {"rays", factors.rays},
                                  {"escaped", factors.escaped},
                                  {"mostEscaped", factors.mostEscaped},
                                  {"reciprocityError", factors.reciprocityError},
                                  {"correction", factors.correction}}
                                 .dump());
  (void)writeAtomically(file, writer.finish()); // a store that cannot be written only costs time
}

/// Nothing when the file is missing, damaged or of another version.
std::optional<ViewFactors> load(const std::filesystem::path& file, Eigen::Index patches)
{
  std::error_code ignored;
  if (!std::filesystem::exists(file, ignored))
    return std::nullopt;
  auto reader = Hdf5Reader::open(file);
  if (!reader)
    return std::nullopt;
  try {
    const Json about = Json::parse(reader->text("/about"));
    std::vector<std::int32_t> rowStart = reader->integers("/exchange/rowStart");
    std::vector<std::int32_t> columns = reader->integers("/exchange/columns");
    std::vector<float> values = reader->floats("/exchange/values");
    const std::vector<double> self = reader->doubles("/self");
    const std::vector<double> area = reader->doubles("/area");
    const std::vector<double> opening = reader->doubles("/opening");
    const auto count = static_cast<std::size_t>(patches);
    if (reader->failed() || about.at("layout") != layoutVersion || rowStart.size() != count + 1 ||
        self.size() != count || area.size() != count || opening.size() != count || columns.size() != values.size() ||
        rowStart.front() != 0 || !std::is_sorted(rowStart.begin(), rowStart.end()) ||
        rowStart.back() != static_cast<std::int32_t>(values.size()) ||
        std::any_of(columns.begin(), columns.end(), [&](std::int32_t c) { return c < 0 || c >= patches; }))
      return std::nullopt;
    ViewFactors factors;
    factors.exchange = Eigen::Map<UpperHalf>(patches, patches, static_cast<Eigen::Index>(values.size()),
                                             rowStart.data(), columns.data(), values.data());
    factors.self = Eigen::Map<const Eigen::VectorXd>(self.data(), patches);
    factors.area = Eigen::Map<const Eigen::VectorXd>(area.data(), patches);
    factors.opening = Eigen::Map<const Eigen::VectorXd>(opening.data(), patches);
    factors.rays = about.at("rays");
    factors.escaped = about.at("escaped");
    factors.mostEscaped = about.at("mostEscaped");
    factors.reciprocityError = about.at("reciprocityError");
    factors.correction = about.at("correction");
    return factors;
  } catch (const Json::exception&) {
    return std::nullopt;
  }
}

} // namespace

std::filesystem::path viewFactorFile(const std::filesystem::path& folder, const std::string& hash)
{
  return folder / (filePrefix + hash.substr(0, 16) + ".h5");
}

std::string viewFactorHash(const Mesh& mesh, const Patches& patches, int rays, bool open)
{
  XXH3_state_t* state = XXH3_createState();
  XXH3_128bits_reset(state);
  const std::array<int, 3> settings{layoutVersion, rays, open ? 1 : 0};
  XXH3_128bits_update(state, settings.data(), sizeof settings);
  for (const std::size_t t : exposedTriangles(mesh))
    for (const std::int32_t node : mesh.triangles[t])
      XXH3_128bits_update(state, mesh.nodes[static_cast<std::size_t>(node)].data(), sizeof(Vec3));
  for (const auto& triangles : patches.triangles) {
    const std::size_t count = triangles.size();
    XXH3_128bits_update(state, &count, sizeof count);
    XXH3_128bits_update(state, triangles.data(), count * sizeof(std::size_t));
  }
  const XXH128_hash_t hash = XXH3_128bits_digest(state);
  XXH3_freeState(state);
  std::array<char, 40> hex{};
  std::snprintf(hex.data(), hex.size(), "%016llx%016llx", static_cast<unsigned long long>(hash.high64),
                static_cast<unsigned long long>(hash.low64));
  return hex.data();
}

ViewFactorSource storedViewFactors(const std::filesystem::path& folder, unsigned threads, const Progress& progress)
{
  return [folder, threads, progress](const Mesh& mesh, const Patches& patches, const Eigen::VectorXd& areas, int rays,
                                     bool open) -> Expected<ViewFactors> {
    const std::filesystem::path file = viewFactorFile(folder, viewFactorHash(mesh, patches, rays, open));
    // Whoever waits for another process that casts them finds them made.
    const auto lock = FileLock::await(folder / ".factors.lock", "view factors", [&](const std::string& holder) {
      progress("radiation", 0.5, "waiting for view factors that are made by " + holder);
    });
    if (auto known = load(file, areas.size())) {
      progress("radiation", 0.5, "view factors unchanged");
      return std::move(*known);
    }
    progress("radiation", 0.5, "casting rays for view factors");
    Expected<ViewFactors> cast = castViewFactors(mesh, patches, areas, rays, open, threads, progress);
    if (cast) {
      save(*cast, file);
      keepNewest(folder, filePrefix, mostKept);
    }
    return cast;
  };
}

} // namespace kiln
