// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "Asked.h"

#include "VtuExport.h"
#include "io/AtomicFile.h"
#include "io/Export.h"
#include "io/KeyTables.h"
#include "io/RunFile.h"
#include "model/Edit.h"
#include "model/ObjectKinds.h"
#include "model/OwnValues.h"
#include "model/Settings.h"
#include "run/ResultIdentity.h"
#include "run/StoredFigures.h"

#include <iostream>

namespace kiln::cli
{
namespace
{

Expected<void> writeExport(const Request& request, const Project& project, CaseResult result,
                           const std::filesystem::path& run, const std::filesystem::path& file)
{
  if (request.format == "vtu")
    return exportVtu(result, file, {project.name + ": " + result.caseName});
  std::string csv = figuresCsv(project, result, storedFigures(project, folderOf(request)));
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
    if (auto written = exportVtu(
            result, one,
            {project.name + ": " + result.caseName + ", at " + formatQuantity(record->instants[i], Quantity::Time),
             false});
        !written)
      return written;
    list +=
        "<DataSet timestep=\"" + plainNumber(record->instants[i]) + "\" file=\"" + one.filename().string() + "\"/>\n";
  }
  return writeAtomically(file, list + "</Collection>\n</VTKFile>\n");
}

/// What may be typed for a field.
std::string takes(const Field& field)
{
  switch (field.kind) {
  case Field::Kind::Number:
    return std::string(quantityName(field.quantity)) + (field.mayBeTable() ? ", or a table" : "");
  case Field::Kind::Switch:
    return "yes or no";
  case Field::Kind::Choice: {
    std::string all;
    for (const KindSpec& kind : field.choice.kinds)
      all += (all.empty() ? "" : ", ") + std::string(kind.name);
    return all;
  }
  case Field::Kind::Reference:
    return field.reference->to & Refers::Face ? "a face" : "a " + kindWords(field.reference->to);
  case Field::Kind::References:
    return field.reference->to & Refers::Face ? "faces" : "a list, each a " + kindWords(field.reference->to);
  default:
    return "a text";
  }
}

} // namespace

ExitCode check(const Request& request, Reporter& reporter)
{
  const Expected<Project> project = load(request);
  if (!project)
    return refused(project.error(), reporter);
  const auto findings = checkProject(*project);
  if (!findings)
    return refused(findings.error(), reporter);
  reporter.findings(*findings);
  if (hasErrors(*findings))
    return ExitCode::NotReady;
  reporter.say(project->name + ": ready, " + std::to_string(findings->size()) + " hint(s)");
  return ExitCode::Solved;
}

ExitCode fields(const Request& request, Reporter& reporter)
{
  Expected<Project> project = load(request);
  if (!project)
    return refused(project.error(), reporter);
  std::size_t listed = 0;
  for (const Field& field : settings(*project)) {
    const Object* object = findObject(*project, field.objectId);
    if (!request.part.empty() && request.part != field.objectId && (object == nullptr || object->name != request.part))
      continue;
    ++listed;
    std::cout << field.path << " = " << settingText(*project, field, field.held()) << "\t" << takes(field) << "\t"
              << field.label << (field.help.empty() ? "" : ". ") << field.help << "\n";
  }
  if (listed == 0)
    return refused({Failure::Kind::NotReady, "object " + request.part, "There is none of this name with fields.",
                    "Name one by its id; without --of all are listed."},
                   reporter);
  return ExitCode::Solved;
}

ExitCode keys()
{
  std::cout << keyTables();
  return ExitCode::Solved;
}

ExitCode mesh(const Request& request, Reporter& reporter)
{
  const Expected<Project> project = load(request);
  if (!project)
    return refused(project.error(), reporter);
  if (auto made = makeFolder(folderOf(request)); !made)
    return refused(made.error(), reporter);
  const auto prepared = prepareMesh(
      *project, folderOf(request), [&](auto... args) { reporter.progress(args...); }, limitsOf(request));
  if (!prepared)
    return report(prepared.error(), reporter);
  reporter.say(project->name + ": " + std::to_string(prepared->mesh.tets.size()) + " tets");
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
  if (!cases)
    return refused(cases.error(), reporter);
  for (const Case& one : *cases) {
    const Expected<CaseResult> result = loadStored(folderOf(request), one);
    if (!result)
      return refused(result.error(), reporter);
    if (!isUpToDate(*project, one, folderOf(request)))
      reporter.say("note: the result of " + one.name + " is out of date");
    const std::filesystem::path file =
        request.output.empty() ? folderOf(request) / (safeFileName(one.name) + "." + request.format) : request.output;
    const Expected<Project> own = projectForCase(*project, one);
    const Expected<void> written =
        writeExport(request, own ? *own : *project, *result, runFile(folderOf(request), one.id), file);
    if (!written)
      return refused(written.error(), reporter);
    reporter.say(file.string());
  }
  return ExitCode::Solved;
}

} // namespace kiln::cli
