// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "Commands.h"

#include "VtuExport.h"
#include "base/TextHash.h"
#include "geometry/LinkedShapes.h"
#include "io/AtomicFile.h"
#include "io/Export.h"
#include "io/ProjectFile.h"
#include "io/RunFile.h"
#include "io/SureText.h"
#include "mesh/MeshQuality.h"
#include "model/Fields.h"
#include "results/Figures.h"
#include "run/CaseRun.h"
#include "run/InputHash.h"
#include "run/RefineRun.h"
#include "run/ResultIdentity.h"
#include "run/SureRun.h"

#include <algorithm>
#include <cstdio>
#include <functional>
#include <utility>

namespace kiln::cli
{
namespace
{

ExitCode report(const RunFailure& failure, Reporter& reporter)
{
  reporter.findings(failure.notReady);
  if (!failure.failure)
    return ExitCode::NotReady;
  reporter.failure(*failure.failure);
  return exitCodeFor(failure.failure->kind);
}

Expected<Project> load(const Request& request)
{
  Expected<Project> project = loadProject(request.file);
  if (!project)
    return project;
  if (auto filled = fillLinked(*project, request.file.parent_path()); !filled)
    return tl::unexpected(filled.error());
  for (const std::string& setting : request.settings) {
    const auto equals = setting.find('=');
    if (equals == std::string::npos)
      return failure(Failure::Kind::NotReady, "--set " + setting, "There is no “=” in it.",
                     "Write --set object.key=value, for example --set \"coil-power.power=1.3 kW\".");
    if (auto set = setField(*project, setting.substr(0, equals), setting.substr(equals + 1)); !set)
      return tl::unexpected(set.error());
    // What is asked for this run also holds in a case that has its own value.
    for (Case& one : project->cases)
      std::erase_if(one.changes, [&](const Change& change) { return change.field == setting.substr(0, equals); });
  }
  return project;
}

/// The cases asked for: all, the named one, or the first.
Expected<std::vector<Case>> casesOf(const Project& project, const Request& request)
{
  if (request.allCases)
    return project.cases;
  if (request.caseName.empty())
    return project.cases.empty() ? std::vector<Case>{} : std::vector<Case>{project.cases.front()};
  if (const Case* one = findById(project.cases, request.caseName))
    return std::vector<Case>{*one};
  std::vector<Case> called;
  for (const Case& one : project.cases)
    if (one.name == request.caseName)
      called.push_back(one);
  if (called.size() == 1)
    return called;
  if (called.size() > 1)
    return failure(Failure::Kind::NotReady, "case " + request.caseName,
                   std::to_string(called.size()) + " cases are called so.",
                   "Name it by its id, “" + called.front().id + "” or “" + called.back().id + "”.");
  std::string names;
  for (const Case& one : project.cases)
    names += (names.empty() ? "“" : ", “") + one.name + "”";
  return failure(Failure::Kind::NotReady, "case " + request.caseName, "The project has no case of this name.",
                 "Use one of " + names + ".");
}

/// What is set for this run alone never mixes with the project's own results.
std::filesystem::path folderOf(const Request& request)
{
  if (!request.folder.empty())
    return request.folder;
  if (request.settings.empty())
    return resultsFolderFor(request.file);
  std::string all;
  for (const std::string& setting : request.settings)
    all += setting + "\n";
  constexpr std::size_t digits = 6;
  return std::filesystem::path(request.file).replace_extension(".set-" + textHash(all).substr(0, digits) + ".results");
}

EffortLimits limitsOf(const Request& request)
{
  EffortLimits limits = usualLimits();
  limits.allowed = request.allowLarge;
  if (request.mostElements > 0)
    limits.elements = request.mostElements;
  return limits;
}

Expected<void> makeFolder(const std::filesystem::path& folder)
{
  std::error_code error;
  std::filesystem::create_directories(folder, error);
  if (error)
    return failure(Failure::Kind::Unwritable, "folder " + folder.string(),
                   "It could not be made: " + error.message() + ".", "Choose another folder with --out.");
  removeLeftovers(folder);
  return {};
}

std::string percentless(double ratio)
{
  std::array<char, 32> text{};
  std::snprintf(text.data(), text.size(), "%.1e", ratio);
  return text.data();
}

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

/// The answer a person wants to read at once.
void sayFigures(const Project& project, const CaseResult& result, Reporter& reporter)
{
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
                                         : " (first order: a quick look)"));
  reporter.say("  hot spots");
  std::vector<PartFigures> parts = partFigures(result);
  std::sort(parts.begin(), parts.end(), [](const auto& a, const auto& b) { return a.hottest.value > b.hottest.value; });
  for (const PartFigures& part : parts)
    reporter.say(
        "    " + column(part.name, 24) + column(temperature(part.hottest.value), 12) +
        placeWords(result.mesh.geometry.parts[static_cast<std::size_t>(part.hottest.part)], part.hottest.place));
  reporter.say("  watches");
  for (const WatchFigure& watch : readWatches(project, result)) {
    std::string line = "    " + column(watch.name, 24);
    line += column(watch.value ? formatQuantity(*watch.value, watch.quantity) : "–", 12);
    if (watch.margin)
      line += "margin " + formatMargin(*watch.margin, watch.quantity, TemperatureUnit::Celsius);
    reporter.say(line + (watch.note.empty() ? "" : "  (" + watch.note + ")"));
  }
  for (const Void& space : result.mesh.voids)
    reporter.say("  void: " + volumeText(space.volume) + " inside " + facesText(result.mesh.geometry, space));
  reporter.say("  energy: in " + formatQuantity(result.heatIn, heatQuantity(project)) + ", out " +
               formatQuantity(result.heatOut, heatQuantity(project)) + ", closes to " +
               percentless(result.relativeImbalance()));
  for (const std::string& note : result.notes)
    reporter.say("  note: " + note);
}

/// What is doubtful though it could be solved.
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

/// Why a run ended, and how hot and how long.
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
  reporter.say("  energy of the run closes to " + percentless(run->imbalance) + ", of the worst step to " +
               percentless(run->worstImbalance));
}

Expected<void> writeExport(const Request& request, const Project& project, CaseResult result,
                           const std::filesystem::path& run, const std::filesystem::path& file)
{
  if (request.format == "vtu")
    return exportVtu(result, file);
  std::string csv = figuresCsv(project, result);
  if (!result.transient)
    return request.format == "csv" ? writeAtomically(file, csv)
                                   : failure(Failure::Kind::NotReady, "case " + result.caseName,
                                             "It is steady and has no instants.", "Use the format vtu.");
  const Expected<RunRecord> record = loadRun(run);
  if (!record)
    return tl::unexpected(record.error());
  if (request.format == "csv")
    return writeAtomically(file, csv + "\n" + stepsCsv(project, *record));
  const Expected<InstantReader> fields = InstantReader::open(run);
  if (!fields)
    return tl::unexpected(fields.error());
  std::string list = "<?xml version=\"1.0\"?>\n<VTKFile type=\"Collection\" version=\"0.1\">\n<Collection>\n";
  for (std::size_t i = 0; i < record->instants.size(); ++i) {
    auto field = fields->field(i);
    if (!field)
      return tl::unexpected(field.error());
    result.temperature = std::move(*field);
    std::array<char, 32> number{};
    std::snprintf(number.data(), number.size(), "-%04zu.vtu", i);
    const std::filesystem::path one = file.parent_path() / (file.stem().string() + number.data());
    if (auto written = exportVtu(result, one, false); !written)
      return written;
    list +=
        "<DataSet timestep=\"" + plainNumber(record->instants[i]) + "\" file=\"" + one.filename().string() + "\"/>\n";
  }
  return writeAtomically(file, list + "</Collection>\n</VTKFile>\n");
}

} // namespace

std::filesystem::path resultsFolderFor(const std::filesystem::path& projectFile)
{
  return std::filesystem::path(projectFile).replace_extension(".results");
}

ExitCode check(const Request& request, Reporter& reporter)
{
  const Expected<Project> project = load(request);
  if (!project) {
    reporter.failure(project.error());
    return exitCodeFor(project.error().kind);
  }
  const auto findings = checkProject(*project);
  if (!findings) {
    reporter.failure(findings.error());
    return exitCodeFor(findings.error().kind);
  }
  reporter.findings(*findings);
  if (hasErrors(*findings))
    return ExitCode::NotReady;
  reporter.say(project->name + ": ready, " + std::to_string(findings->size()) + " hint(s)");
  return ExitCode::Solved;
}

ExitCode mesh(const Request& request, Reporter& reporter)
{
  const Expected<Project> project = load(request);
  if (!project) {
    reporter.failure(project.error());
    return exitCodeFor(project.error().kind);
  }
  if (auto made = makeFolder(folderOf(request)); !made) {
    reporter.failure(made.error());
    return exitCodeFor(made.error().kind);
  }
  const auto prepared = prepareMesh(
      *project, folderOf(request), [&](auto... args) { reporter.progress(args...); }, limitsOf(request));
  if (!prepared)
    return report(prepared.error(), reporter);
  reporter.say(project->name + ": " + std::to_string(prepared->mesh.tets.size()) + " tets");
  return ExitCode::Solved;
}

namespace
{

/// Solves one case and says what came out.
/// \param asked  for by name; else another one starts from it
ExitCode solveOne(const Request& request, const Project& project, const Case& one, bool asked, bool hints,
                  Reporter& reporter)
{
  const auto result = runCase(
      project, one, folderOf(request), [&](auto... args) { reporter.progress(args...); }, request.goesOn && asked,
      limitsOf(request));
  if (!result)
    return report(result.error(), reporter);
  if (hints)
    sayHints(project, one, *result, reporter);
  sayFigures(project, *result, reporter);
  if (result->transient)
    sayRun(project, runFile(folderOf(request), one.id), reporter);
  return ExitCode::Solved;
}

/// Solves cases one after the other. One that fails holds up only those that start from it.
/// \return the first failure
ExitCode solveInOrder(const Request& request, const Project& project, const std::vector<Case>& cases,
                      const std::vector<Case>& ordered, Reporter& reporter)
{
  ExitCode worst = ExitCode::Solved;
  std::vector<std::string> failed; // ids
  int solved = 0;
  for (const Case& one : ordered) {
    if (request.onlySteady && one.kind != Case::Kind::Steady)
      continue;
    const bool asked = findById(cases, one.id) != nullptr; // else another one starts from it
    if ((request.onlyIfNeeded || !asked) && isUpToDate(project, one, folderOf(request))) {
      if (asked)
        reporter.say(one.name + ": up to date");
      continue;
    }
    const std::vector<std::string> before = startsFrom(project, one);
    const auto lacking = std::find_first_of(before.begin(), before.end(), failed.begin(), failed.end());
    if (lacking != before.end()) {
      reporter.say(one.name + " is left out: it starts from " + findById(project.cases, *lacking)->name +
                   ", which failed");
      failed.push_back(one.id);
      continue;
    }
    if (!asked)
      reporter.say(one.name + " is solved first: what was asked for starts from it");
    if (const ExitCode code = solveOne(request, project, one, asked, solved == 0, reporter); code != ExitCode::Solved) {
      worst = worst == ExitCode::Solved ? code : worst;
      failed.push_back(one.id);
    } else
      ++solved;
  }
  if (!failed.empty() && cases.size() > 1)
    reporter.say(std::to_string(failed.size()) + " of " + std::to_string(cases.size()) + " cases failed");
  return worst;
}

} // namespace

ExitCode solve(const Request& request, Reporter& reporter)
{
  const Expected<Project> project = load(request);
  if (!project) {
    reporter.failure(project.error());
    return exitCodeFor(project.error().kind);
  }
  const Expected<std::vector<Case>> cases = casesOf(*project, request);
  if (!cases) {
    reporter.failure(cases.error());
    return exitCodeFor(cases.error().kind);
  }
  if (auto made = makeFolder(folderOf(request)); !made) {
    reporter.failure(made.error());
    return exitCodeFor(made.error().kind);
  }
  if (cases->empty())
    return report(RunFailure{checkModel(*project), std::nullopt}, reporter);
  const auto ordered = request.asStored ? cases : inOrder(*project, *cases);
  if (!ordered) {
    reporter.failure(ordered.error());
    return exitCodeFor(ordered.error().kind);
  }
  if (request.folder.empty() && !request.settings.empty())
    reporter.say("with values set for this run, in " + folderOf(request).string());
  return solveInOrder(request, *project, *cases, *ordered, reporter);
}

namespace
{

/// "2 K" or "1 %".
Expected<RefineTarget> targetOf(const std::string& text)
{
  RefineTarget target;
  const bool percent = text.ends_with("%");
  const auto parsed = parseQuantity(text, percent ? Quantity::Plain : Quantity::TemperatureStep);
  if (!parsed)
    return tl::unexpected(parsed.error());
  (percent ? target.share : target.kelvin) = parsed->si;
  return target;
}

} // namespace

ExitCode sure(const Request& request, Reporter& reporter)
{
  const Expected<Project> project = load(request);
  const Expected<std::vector<Case>> cases = project ? casesOf(*project, request) : tl::unexpected(project.error());
  if (!cases) {
    reporter.failure(cases.error());
    return exitCodeFor(cases.error().kind);
  }
  if (auto made = makeFolder(folderOf(request)); !made) {
    reporter.failure(made.error());
    return exitCodeFor(made.error().kind);
  }
  for (const Case& one : *cases) {
    const auto record = runSure(
        *project, one, folderOf(request), [&](auto... args) { reporter.progress(args...); }, limitsOf(request));
    if (!record)
      return report(record.error(), reporter);
    reporter.say(one.name + ", on " + std::to_string(record->tets[0]) + ", " + std::to_string(record->tets[1]) +
                 " and " + std::to_string(record->tets[2]) + " elements");
    for (const SureRecord::OfWatch& watch : record->watches)
      if (const Watch* own = findById(project->watches, watch.id))
        reporter.say("  " + own->name + ": " + figureText(watch, quantityOf(*project, *own), TemperatureUnit::Celsius) +
                     ", " + sureText(watch, quantityOf(*project, *own)));
  }
  return ExitCode::Solved;
}

ExitCode refine(const Request& request, Reporter& reporter)
{
  const Expected<Project> project = load(request);
  const Expected<std::vector<Case>> cases = project ? casesOf(*project, request) : tl::unexpected(project.error());
  const Expected<RefineTarget> target = cases ? targetOf(request.within) : tl::unexpected(cases.error());
  if (!target) {
    reporter.failure(target.error());
    return exitCodeFor(target.error().kind);
  }
  if (auto made = makeFolder(folderOf(request)); !made) {
    reporter.failure(made.error());
    return exitCodeFor(made.error().kind);
  }
  const Case& one = cases->front();
  const auto record = runRefine(
      *project, one, folderOf(request), *target, [&](auto... args) { reporter.progress(args...); }, limitsOf(request));
  if (!record)
    return report(record.error(), reporter);
  for (const RefineRecord::Round& round : record->rounds)
    reporter.say("  " + std::to_string(round.elements) + " elements: hottest " +
                 formatQuantity(round.hottest, Quantity::Temperature) + ", figures moved by " +
                 formatQuantity(round.moved, Quantity::TemperatureStep, {}, 2) + ", flux of the worst part off by " +
                 percentless(round.error));
  reporter.say(one.name + (record->reached ? ": no figure moved by more than asked in the last round"
                                           : ": not reached; hot spots still move with the mesh"));
  if (request.keep) {
    Project refined = *project;
    refined.mesh.finerAt = SharedText(record->finerAt);
    if (auto saved = saveProject(refined, request.file); !saved) {
      reporter.failure(saved.error());
      return exitCodeFor(saved.error().kind);
    }
  }
  return ExitCode::Solved;
}

ExitCode readable(const Request& request)
{
  const Expected<RunRecord> record = loadRun(request.file);
  const Expected<InstantReader> fields = InstantReader::open(request.file);
  if (!record || !fields)
    return ExitCode::Unreadable;
  for (std::size_t i = 0; i < record->instants.size(); ++i)
    if (!fields->field(i))
      return ExitCode::Unreadable;
  return ExitCode::Solved;
}

ExitCode exportCase(const Request& request, Reporter& reporter)
{
  const Expected<Project> project = load(request);
  const Expected<std::vector<Case>> cases = project ? casesOf(*project, request) : tl::unexpected(project.error());
  if (!cases) {
    reporter.failure(cases.error());
    return exitCodeFor(cases.error().kind);
  }
  for (const Case& one : *cases) {
    const Expected<CaseResult> result = loadStored(folderOf(request), one);
    if (!result) {
      reporter.failure(result.error());
      return exitCodeFor(result.error().kind);
    }
    if (!isUpToDate(*project, one, folderOf(request)))
      reporter.say("note: the result of " + one.name + " is out of date");
    const std::filesystem::path file =
        request.output.empty() ? folderOf(request) / (safeFileName(one.name) + "." + request.format) : request.output;
    const Expected<Project> own = projectForCase(*project, one);
    const Expected<void> written =
        writeExport(request, own ? *own : *project, *result, runFile(folderOf(request), one.id), file);
    if (!written) {
      reporter.failure(written.error());
      return exitCodeFor(written.error().kind);
    }
    reporter.say(file.string());
  }
  return ExitCode::Solved;
}

} // namespace kiln::cli
