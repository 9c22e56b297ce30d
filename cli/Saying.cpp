// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "Saying.h"

#include "io/ResultFile.h"
#include "io/RunFile.h"
#include "mesh/MeshQuality.h"
#include "model/OwnValues.h"
#include "results/Figures.h"
#include "run/CaseRun.h"
#include "run/StoredFigures.h"

#include <algorithm>
#include <array>
#include <cstdio>

namespace kiln::cli
{

std::string percentless(double ratio)
{
  std::array<char, 32> text{};
  std::snprintf(text.data(), text.size(), "%.1e", ratio);
  return text.data();
}

namespace
{

std::string volumeText(double cubicMetres)
{
  constexpr double cubicCentimetres = 1e6;
  std::array<char, 32> text{};
  std::snprintf(text.data(), text.size(), "%.3g cm³", cubicMetres * cubicCentimetres);
  return text.data();
}

std::string facesText(const FaceTable& geometry, const Void& space)
{
  constexpr std::size_t mostNames = 3;
  std::string text;
  for (std::size_t i = 0; i < std::min(space.faces.size(), mostNames); ++i) {
    const Face& face = geometry.faces[static_cast<std::size_t>(space.faces[i])];
    text += (i > 0 ? ", " : "") + (face.names.empty() ? std::string("a face") : face.names.front());
  }
  return text + (space.faces.size() > mostNames ? ", …" : "");
}

} // namespace

void sayFigures(const Project& all, const CaseResult& result, const std::filesystem::path& folder, Reporter& reporter)
{
  const Case* own = findById(all.cases, result.caseId);
  const Expected<Project> seen = own != nullptr ? projectForCase(all, *own) : Expected<Project>(all);
  const Project& project = seen ? *seen : all; // with the limits and references of the case
  const auto temperature = [](double kelvin) { return formatQuantity(kelvin, Quantity::Temperature); };
  const auto column = [](std::string text, std::size_t width) {
    const auto shown = static_cast<std::size_t>(std::count_if(
        text.begin(), text.end(), [](char c) { return (static_cast<unsigned char>(c) & 0xC0U) != 0x80U; }));
    return text + std::string(width > shown ? width - shown : 1, ' ');
  };
  const std::string instant =
      result.transient ? "at its end, " + formatQuantity(result.time, Quantity::Time) : std::string("steady");
  reporter.say(result.caseName + ", " + instant + ", " + std::to_string(countElements(result.mesh)) +
               (result.mesh.geometry.section.is() ? " triangles" : " tets") +
               (result.mesh.tets.empty() ? ""
                : result.mesh.order == 2 ? " of second order"
                                         : " (first-order mesh: a quick look)"));
  reporter.say("  hot spots");
  std::vector<PartFigures> parts = partFigures(result);
  std::sort(parts.begin(), parts.end(), [](const auto& a, const auto& b) { return a.hottest.value > b.hottest.value; });
  for (const PartFigures& part : parts)
    reporter.say(
        "    " + column(part.name, 24) + column(temperature(part.hottest.value), 12) +
        placeWords(result.mesh.geometry.parts[static_cast<std::size_t>(part.hottest.part)], part.hottest.place));
  reporter.say("  watches");
  std::vector<WatchFigure> watches = readWatches(project, result);
  takeReferences(project, watches, storedFigures(project, folder));
  for (const WatchFigure& watch : watches) {
    std::string line = "    " + column(watch.name, 24);
    line += column(watch.value ? formatQuantity(*watch.value, watch.quantity) : "–", 12);
    if (watch.margin)
      line += "margin " + formatMargin(*watch.margin, watch.quantity, TemperatureUnit::Celsius);
    reporter.say(line + (watch.note.empty() ? "" : "  (" + watch.note + ")"));
    if (const std::string words = referenceWords(watch); !words.empty())
      reporter.say("      " + words);
  }
  for (const Void& space : result.mesh.voids)
    reporter.say("  void: " + volumeText(space.volume) + " inside " + facesText(result.mesh.geometry, space));
  reporter.say("  heat: in " + formatQuantity(result.heatIn, heatQuantity(project)) + ", out " +
               formatQuantity(result.heatOut, heatQuantity(project)) + "; heat balance error " +
               balanceError(result.relativeImbalance()));
  for (const std::string& note : result.notes)
    reporter.say("  note: " + note);
}

void sayHints(const Project& project, const Case& oneCase, const CaseResult& result, Reporter& reporter)
{
  const Expected<Project> own = projectForCase(project, oneCase);
  std::vector<Finding> findings = checkModel(own ? *own : project);
  for (const Finding& more : checkOnGeometry(own ? *own : project, result.mesh.geometry))
    findings.push_back(more);
  for (const Finding& more : checkHeldMeeting(own ? *own : project, result.mesh))
    findings.push_back(more);
  if (findings.empty())
    return;
  reporter.findings(findings);
  reporter.say(std::to_string(findings.size()) + (findings.size() == 1 ? " hint" : " hints"));
}

void sayRun(const Project& project, const std::filesystem::path& file, Reporter& reporter)
{
  const Expected<RunRecord> run = loadRun(file);
  if (!run)
    return reporter.say(run.error().sentence());
  reporter.say("  ended: " + run->reason + ", after " + std::to_string(run->steps) + " steps (" +
               std::to_string(run->rejected) + " repeated) in " + formatQuantity(run->seconds, Quantity::Time));
  for (const Watch& watch : project.watches)
    if (const auto answers = answersOf(*run, watch))
      reporter.say("    " + watch.name + ": peak " + formatQuantity(answers->peak.value, quantityOf(project, watch)) +
                   " at " + formatQuantity(answers->peak.time, Quantity::Time) +
                   (answers->stillRising  ? ", still rising"
                    : answers->peakPassed ? ", passed"
                                          : ""));
  reporter.say("  heat balance error of the run " + balanceError(run->imbalance) + ", of the worst step " +
               balanceError(run->worstImbalance));
}

} // namespace kiln::cli
