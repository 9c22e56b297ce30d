// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "Asked.h"

#include "io/KeyTables.h"
#include "io/RunFile.h"
#include "model/Edit.h"
#include "model/ObjectKinds.h"
#include "model/OwnValues.h"
#include "model/Settings.h"

#include <iostream>

namespace kiln::cli
{
namespace
{

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

} // namespace kiln::cli
