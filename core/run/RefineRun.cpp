// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "run/RefineRun.h"

#include "base/At.h"
#include "geometry/TakenElements.h"
#include "heat/Conditions.h"
#include "heat/elements/RecoveredFlux.h"
#include "io/AtomicFile.h"
#include "io/JsonText.h"
#include "mesh/MeshQuality.h"
#include "mesh/MeshSizes.h"
#include "mesh/SecondOrder.h"
#include "model/OwnValues.h"
#include "results/Figures.h"
#include "results/HeatAccount.h"
#include "results/PerfectContacts.h"

#include <algorithm>
#include <cmath>
#include <cstdio>
#include <fstream>
#include <iterator>
#include <map>
#include <numeric>

namespace kiln
{
namespace
{

/// An element of either order with its share of the error.
struct Marked {
  double error = 0; ///< W·K: squared flux error over conductivity, times volume
  Vec3 place = Vec3::Zero();
  double size = 0; ///< mean edge length, m
};

/// In a section only the edges in its plane count.
double meanEdge(const Mesh& mesh, const Tet& corners)
{
  double sum = 0;
  int count = 0;
  for (std::size_t i = 0; i < 4; ++i)
    for (std::size_t j = i + 1; j < 4; ++j)
      if (const double length = (mesh.placeOf(corners[i]) - mesh.placeOf(corners[j])).norm(); length > 0) {
        sum += length;
        ++count;
      }
  return count > 0 ? sum / count : 0;
}

struct ElementErrors {
  std::vector<Marked> elements;
  double worstPart = 0;
};

ElementErrors elementErrors(const Project& project, const CaseResult& result)
{
  ElementErrors found;
  const Mesh& mesh = result.mesh;
  const auto conditions = resolveConditions(project, mesh);
  if (!conditions)
    return found;
  const std::vector<Vec3> flux = heatFlux(mesh, *conditions, result.temperature);
  const FluxError error = fluxError(mesh, result.unknowns, flux);
  found.worstPart = error.part.empty() ? 0 : *std::max_element(error.part.begin(), error.part.end());
  const std::size_t pieces = tetPieces(mesh.order);
  found.elements.resize(tetElements(mesh));
  for (std::size_t e = 0; e < found.elements.size(); ++e) {
    Marked& own = found.elements[e];
    Tet corners = mesh.tets[e];
    for (std::size_t i = 0; mesh.order == 2 && i < 4; ++i)
      corners[i] = mesh.tets[pieces * e + i][i];
    for (const NodeId corner : corners)
      own.place += mesh.placeOf(corner) / 4;
    own.size = meanEdge(mesh, corners);
    for (std::size_t i = 0; i < pieces; ++i) {
      const std::size_t t = pieces * e + i;
      double mean = 0;
      for (const UnknownId u : result.unknowns.ofTet[t])
        mean += result.temperature[at(u)] / 4;
      const double k = conditions->conductivity[at(mesh.tetPart[t])].at(mean).trace() / 3;
      own.error += error.tet[t] * error.tet[t] * tetVolume(mesh, t) / k;
    }
  }
  return found;
}

/// What a round is held against the one before by.
struct RoundFigures {
  std::vector<PartFigures> parts;
  std::vector<WatchFigure> watches;
  double heat = 0; ///< W through the model
};

/// The most that anything has moved, in K: hottest, coldest and mean temperatures of parts and all watches; heat by its
/// share of change times the range of temperatures, so that a model whose hottest place is held is refined by its flux.
double movedBetween(const RoundFigures& before, const RoundFigures& now, double range)
{
  double most = 0;
  const auto kelvins = [&](double a, double b) { most = std::max(most, std::abs(a - b)); };
  const auto shares = [&](double a, double b, double size) {
    if (size > 0)
      most = std::max(most, range * std::abs(a - b) / size);
  };
  for (std::size_t p = 0; p < std::min(before.parts.size(), now.parts.size()); ++p) {
    kelvins(now.parts[p].hottest.value, before.parts[p].hottest.value);
    kelvins(now.parts[p].coldest.value, before.parts[p].coldest.value);
    kelvins(now.parts[p].mean, before.parts[p].mean);
  }
  for (std::size_t w = 0; w < std::min(before.watches.size(), now.watches.size()); ++w) {
    const auto& a = before.watches[w].value;
    const auto& b = now.watches[w].value;
    if (!a || !b)
      continue;
    switch (now.watches[w].quantity) {
    case Quantity::Temperature:
    case Quantity::TemperatureStep:
      kelvins(*b, *a);
      break;
    case Quantity::Power:
    case Quantity::PowerPerLength:
      shares(*b, *a, now.heat);
      break;
    default: // a largest flux grows without end at corners
      break;
    }
  }
  shares(now.heat, before.heat, now.heat);
  return most;
}

/// Where elements shall be smaller: "x y z size" a line, what was there before included.
std::string finerPlaces(const MeshSettings& settings, std::vector<Marked> elements)
{
  std::sort(elements.begin(), elements.end(), [](const Marked& a, const Marked& b) { return a.error > b.error; });
  const double all = std::accumulate(elements.begin(), elements.end(), 0.0,
                                     [](double sum, const Marked& one) { return sum + one.error; });
  constexpr double bulk = 0.5;                            // of the summed error is refined (Dörfler 1996)
  constexpr double finer = 1.8;                           // how much smaller the marked elements get
  std::map<std::array<std::int64_t, 3>, SizeSource> kept; // one for each cell of the smaller size
  const auto keep = [&](const SizeSource& source) {
    std::array<std::int64_t, 3> cell{};
    for (std::size_t i = 0; i < 3; ++i)
      cell[i] = std::llround(source.place[static_cast<Eigen::Index>(i)] / source.size);
    const auto [found, isNew] = kept.emplace(cell, source);
    if (!isNew && source.size < found->second.size)
      found->second = source;
  };
  for (const SizeSource& before : finerSources(settings))
    keep(before);
  const double fineness = settings.fineness ? settings.fineness->si : 1; // divides what is kept here once more
  double sum = 0;
  for (const Marked& one : elements) {
    if (sum > bulk * all)
      break;
    sum += one.error;
    keep({one.place, fineness * one.size / finer});
  }
  std::string text;
  for (const auto& [cell, source] : kept) {
    std::array<char, 96> line{};
    std::snprintf(line.data(), line.size(), "%.5g %.5g %.5g %.3g\n", source.place.x(), source.place.y(),
                  source.place.z(), source.size);
    text += line.data();
  }
  return text;
}

Json jsonOf(const RefineRecord& record)
{
  Json json{{"layout", 1}, {"reached", record.reached}, {"finerAt", record.finerAt}};
  json["rounds"] = Json::array();
  for (const RefineRecord::Round& round : record.rounds)
    json["rounds"].push_back(
        {{"elements", round.elements}, {"hottest", round.hottest}, {"moved", round.moved}, {"error", round.error}});
  return json;
}

} // namespace

std::filesystem::path refineFile(const std::filesystem::path& folder, const std::string& caseId)
{
  return folder / (safeFileName(caseId) + ".refine.json");
}

tl::expected<RefineRecord, RunFailure> runRefine(const Project& project, const Case& oneCase,
                                                 const std::filesystem::path& folder, const RefineTarget& target,
                                                 const Progress& progress, const EffortLimits& limits)
{
  const auto refused = [](const std::string& object, const std::string& problem, const std::string& remedy) {
    return tl::unexpected(RunFailure{{}, Failure{Failure::Kind::NotReady, object, problem, remedy}});
  };
  if (oneCase.kind != Case::Kind::Steady)
    return refused("case " + oneCase.name, "The mesh is refined by a steady case.", "Make a steady copy of it.");
  if (project.parts.empty())
    return refused("case " + oneCase.name, "It has no mesh to refine: it is a network of nodes.", "Add a part.");
  if (const Part* kept = firstThatKeeps(project))
    return refused("part " + kept->name, "It keeps the elements of its file, which cannot be refined.",
                   "Let it be meshed anew (at the part, untick Keep the elements of the file).");
  if (target.kelvin <= 0 && target.share <= 0)
    return refused("target", "It says neither kelvin nor a share.", "Give one, for example 2 K or 1 %.");
  constexpr std::size_t mostRounds = 6;
  constexpr std::size_t mostTets = 4'000'000;
  RefineRecord record;
  Project refined = project;
  RoundFigures before;
  for (std::size_t round = 0; round < mostRounds && !record.reached; ++round) {
    const Progress part = [&](std::string_view stage, double fraction, std::string_view message) {
      progress(stage, (static_cast<double>(round) + fraction) / mostRounds,
               "round " + std::to_string(round + 1) + ": " + std::string(message));
    };
    const auto result = runCase(refined, oneCase, folder, part, false, limits);
    if (!result)
      return tl::unexpected(result.error());
    const Expected<Project> own = projectForCase(refined, oneCase);
    ElementErrors errors = elementErrors(own ? *own : refined, *result);
    RoundFigures now{partFigures(*result), readWatches(own ? *own : refined, *result),
                     std::max(result->heatIn, result->heatOut)};
    const auto extremes = std::minmax_element(result->temperature.begin(), result->temperature.end());
    const double asked = target.kelvin > 0 ? target.kelvin : target.share * (*extremes.second - *extremes.first);
    double hottest = *extremes.first;
    for (const PartFigures& figure : now.parts)
      hottest = std::max(hottest, figure.hottest.value);
    const double moved = round > 0 ? movedBetween(before, now, *extremes.second - *extremes.first) : 0;
    record.rounds.push_back({countElements(result->mesh), hottest, moved, errors.worstPart});
    record.finerAt = refined.mesh.finerAt.text();
    record.reached = round > 0 && record.rounds.back().moved <= asked;
    before = std::move(now);
    if (result->mesh.tets.size() > mostTets)
      break;
    refined.mesh.finerAt = SharedText(finerPlaces(refined.mesh, std::move(errors.elements)));
  }
  if (auto written = writeAtomically(refineFile(folder, oneCase.id), jsonOf(record).dump(1) + "\n"); !written)
    return tl::unexpected(RunFailure{{}, written.error()});
  progress("done", 1, oneCase.name + " refined");
  return record;
}

Expected<RefineRecord> loadRefine(const std::filesystem::path& file)
{
  std::ifstream in(file);
  const std::string text((std::istreambuf_iterator<char>(in)), std::istreambuf_iterator<char>());
  try {
    const Json json = Json::parse(text);
    RefineRecord record;
    record.reached = json.at("reached");
    record.finerAt = json.at("finerAt");
    for (const Json& round : json.at("rounds"))
      record.rounds.push_back({round.at("elements"), round.at("hottest"), round.at("moved"), round.at("error")});
    return record;
  } catch (const std::exception&) {
    return failure(Failure::Kind::Unreadable, "file " + file.string(), "It holds no refinement.", "Refine again.");
  }
}

} // namespace kiln
