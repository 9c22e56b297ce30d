// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "Asked.h"

#include "VtuExport.h"
#include "io/AtomicFile.h"
#include "io/Export.h"
#include "io/ExportFormats.h"
#include "io/ExportTables.h"
#include "io/Library.h"
#include "io/MaterialTable.h"
#include "io/NetworkFile.h"
#include "io/PackedProject.h"
#include "io/ProjectFile.h"
#include "io/ProjectPicture.h"
#include "io/RunFile.h"
#include "model/OwnValues.h"
#include "run/ResultIdentity.h"
#include "run/StoredFigures.h"

#include <algorithm>
#include <array>
#include <cstdio>

namespace kiln::cli
{
namespace
{

/// A case with its result on the way out.
struct Exported {
  const Request& request;
  const Project& project; ///< as the case sees it
  CaseResult result;
  std::filesystem::path run; ///< of a case in time
  std::filesystem::path file;
  Reporter& reporter;
};

Expected<void> writeVtu(Exported& one)
{
  const std::string of = one.project.name + ": " + one.result.caseName;
  if (auto written = exportVtu(one.project, one.result, one.file, {of}); !written)
    return written;
  const std::filesystem::path faces = one.file.parent_path() / (one.file.stem().string() + "-faces.vtu");
  return exportFacesVtu(one.project, one.result, faces, of);
}

/// Figures; of a run every step too.
Expected<void> writeCsv(Exported& one)
{
  const std::string csv = figuresCsv(one.project, one.result, storedFigures(one.project, folderOf(one.request)));
  if (!one.result.transient)
    return writeAtomically(one.file, csv);
  const Expected<RunRecord> record = loadRun(one.run);
  if (!record)
    return tl::unexpected(record.error());
  return writeAtomically(one.file, csv + "\n" + stepsCsv(one.project, *record));
}

/// A VTU of every stored instant, with a list of them.
Expected<void> writePvd(Exported& one)
{
  if (!one.result.transient)
    return failure(Failure::Kind::NotReady, "case " + one.result.caseName, "It is steady and has no instants.",
                   "Use the format vtu.");
  const Expected<RunRecord> record = loadRun(one.run);
  if (!record)
    return tl::unexpected(record.error());
  const Expected<InstantReader> fields = InstantReader::open(one.run);
  if (!fields)
    return tl::unexpected(fields.error());
  std::string list = "<?xml version=\"1.0\"?>\n<VTKFile type=\"Collection\" version=\"0.1\">\n<Collection>\n";
  for (std::size_t i = 0; i < record->instants.size(); ++i) {
    auto field = fields->field(i);
    if (!field)
      return tl::unexpected(field.error());
    one.result.temperature = std::move(*field);
    std::array<char, 32> number{};
    std::snprintf(number.data(), number.size(), "-%04zu.vtu", i);
    const std::filesystem::path instant = one.file.parent_path() / (one.file.stem().string() + number.data());
    const std::string of =
        one.project.name + ": " + one.result.caseName + ", at " + formatQuantity(record->instants[i], Quantity::Time);
    if (auto written = exportVtu(one.project, one.result, instant, {of}); !written)
      return written;
    list += "<DataSet timestep=\"" + plainNumber(record->instants[i]) + "\" file=\"" + instant.filename().string() +
            "\"/>\n";
  }
  return writeAtomically(one.file, list + "</Collection>\n</VTKFile>\n");
}

Expected<void> writeFaces(Exported& one) { return writeAtomically(one.file, facesCsv(one.project, one.result)); }

Expected<void> writePlaces(Exported& one)
{
  if (one.request.source.empty())
    return failure(Failure::Kind::NotReady, "export", "It is not said which places are wanted.",
                   "Name a table of them: --places FILE, its first line x [mm]; y [mm]; z [mm].");
  const Expected<std::string> text = readWhole(one.request.source);
  if (!text)
    return tl::unexpected(text.error());
  const auto places = readPlaces(*text, one.request.source.filename().string());
  if (!places)
    return tl::unexpected(places.error());
  std::size_t outside = 0;
  auto written = writeAtomically(one.file, placesCsv(one.project, one.result, *places, outside));
  if (written && outside > 0)
    one.reporter.say("note: " + std::to_string(outside) + " of " + std::to_string(places->size()) +
                     " places lie outside the model and have no values");
  return written;
}

Expected<void> writeNetwork(Exported& one)
{
  return writeAtomically(one.file, networkJson(thermalNetwork(one.project, one.result), one.project, one.result));
}

Expected<void> writeNetlist(Exported& one)
{
  return writeAtomically(one.file, networkNetlist(thermalNetwork(one.project, one.result), one.project, one.result));
}

/// By the order of \ref exportFormats.
constexpr std::array<Expected<void> (*)(Exported&), exportFormats.size()> writers{
    writeVtu, writePvd, writeCsv, writeFaces, writePlaces, writeNetwork, writeNetlist};

} // namespace

ExitCode writePicture(const Request& request, Reporter& reporter)
{
  const auto picture = storedPicture(request.file);
  if (!picture)
    return refused({Failure::Kind::Unreadable, "file " + request.file.string(), "It holds no picture.",
                    "Save it in the window once."},
                   reporter);
  const auto written = writeAtomically(request.output, *picture);
  return written ? ExitCode::Solved : refused(written.error(), reporter);
}

ExitCode materials(const Request& request, Reporter& reporter)
{
  Expected<Project> project = request.file.empty() ? builtInLibrary() : loadProject(request.file);
  if (!project)
    return refused(project.error(), reporter);
  if (!request.source.empty()) {
    const auto taken = loadMaterials(request.source);
    if (!taken)
      return refused(taken.error(), reporter);
    takeMaterials(*project, *taken);
    const auto saved = saveProject(*project, request.file);
    if (!saved)
      return refused(saved.error(), reporter);
    reporter.say(std::to_string(taken->size()) + " material(s) taken in");
    return ExitCode::Solved;
  }
  const auto written = saveMaterials(project->materials, request.output);
  if (!written)
    return refused(written.error(), reporter);
  reporter.say(request.output.string());
  return ExitCode::Solved;
}

ExitCode pack(const Request& request, Reporter& reporter)
{
  if (const auto project = loadProject(request.file); !project)
    return refused(project.error(), reporter);
  const auto packed =
      packProject(request.file, folderOf(request), request.output, [&](auto... args) { reporter.progress(args...); });
  if (!packed)
    return refused(packed.error(), reporter);
  reporter.say(request.output.string());
  return ExitCode::Solved;
}

ExitCode unpack(const Request& request, Reporter& reporter)
{
  const auto project = unpackProject(request.file, request.output.empty() ? "." : request.output,
                                     [&](auto... args) { reporter.progress(args...); });
  if (!project)
    return refused(project.error(), reporter);
  reporter.say(project->string());
  return ExitCode::Solved;
}

ExitCode exportCase(const Request& request, Reporter& reporter)
{
  const Expected<Project> project = load(request);
  const Expected<std::vector<Case>> cases = project ? casesOf(*project, request) : tl::unexpected(project.error());
  if (!cases)
    return refused(cases.error(), reporter);
  const auto format = std::find_if(exportFormats.begin(), exportFormats.end(),
                                   [&](const ExportFormat& one) { return one.name == request.format; });
  if (format == exportFormats.end())
    return refused(
        {Failure::Kind::NotReady, "format " + request.format, "It is not known.", "See “ukiln export --help”."},
        reporter);
  const auto write = writers[static_cast<std::size_t>(format - exportFormats.begin())];
  for (const Case& one : *cases) {
    Expected<CaseResult> result = loadStored(folderOf(request), one);
    if (!result)
      return refused(result.error(), reporter);
    if (!isUpToDate(*project, one, folderOf(request)))
      reporter.say("note: the result of " + one.name + " is out of date");
    const std::filesystem::path file = request.output.empty()
                                           ? folderOf(request) / (safeFileName(one.name) + std::string(format->ending))
                                           : request.output;
    const Expected<Project> own = projectForCase(*project, one);
    Exported exported{request, own ? *own : *project, std::move(*result), runFile(folderOf(request), one.id), file,
                      reporter};
    if (const Expected<void> written = write(exported); !written)
      return refused(written.error(), reporter);
    reporter.say(file.string());
  }
  return ExitCode::Solved;
}

} // namespace kiln::cli
