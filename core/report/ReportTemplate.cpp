// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "report/ReportTemplate.h"

#include "io/Clipboard.h"
#include "io/ProjectFile.h"
#include "model/Edit.h"
#include "model/ObjectKinds.h"
#include "model/References.h"

namespace kiln
{
namespace
{

constexpr const char* templateKey = "report template"; // no other project file has it

/// Name and kind of an object of the file.
std::pair<std::string, ObjectKind> nameIn(const Project& file, const std::string& id)
{
  std::pair<std::string, ObjectKind> found;
  forEachObjectList(file, [&](const auto& list) {
    for (const auto& object : list)
      if (object.id == id)
        found = {object.name, kindOf(&object)};
  });
  return found;
}

/// Id of the object of this kind and name; empty: there is none.
std::string idOf(const Project& project, const std::string& name, Refers kind)
{
  std::string id;
  forEachObjectList(project, [&](const auto& list) {
    for (const auto& object : list)
      if ((kindOf(&object).kind & kind) && object.name == name && id.empty())
        id = object.id;
  });
  return id;
}

} // namespace

std::string reportTemplate(const Project& project, const Report& report)
{
  Project file;
  file.name = report.name;
  file.reports = {report};
  Project alone = file;
  std::set<std::string> named;
  forEachReference(alone, [&](const ReferenceUse& use) {
    if (use.text != nullptr)
      named.insert(*use.text);
  });
  forEachObjectList(file, [&](auto& kept) { // names alone: what they are is of no concern
    forEachObjectList(project, [&](const auto& list) {
      if constexpr (std::is_same_v<std::decay_t<decltype(list)>, std::decay_t<decltype(kept)>>)
        for (const auto& object : list)
          if (named.contains(object.id)) {
            auto& mention = kept.emplace_back();
            mention.id = object.id;
            mention.name = object.name;
          }
    });
  });
  file.unknown[templateKey] = "true";
  return writeProject(file);
}

Expected<TakenReport> takeTemplate(Project& project, const std::string& text, const std::string& shownName)
{
  Expected<Project> file = readProject(text, shownName);
  if (!file)
    return tl::unexpected(file.error());
  if (!file->unknown.contains(templateKey) || file->reports.size() != 1)
    return failure(Failure::Kind::Unreadable, "file " + shownName, "It holds no report that was kept for this.",
                   "Keep one as a template from the page Report first.");
  Project alone;
  alone.reports = file->reports;
  const std::string lost = "~"; // no object has this id
  TakenReport taken;
  forEachReference(alone, [&](const ReferenceUse& use) {
    if (use.text == nullptr || use.text->empty())
      return;
    const auto [name, kind] = nameIn(*file, *use.text);
    if (const std::string here = idOf(project, name, kind.kind); !here.empty()) {
      *use.text = here;
      return;
    }
    *use.text = lost;
    taken.unmatched.push_back("It told of the " + std::string(kind.word) + " “" + name + "”, which is not here.");
  });
  forgetObject(alone, lost, Refers{~0U});
  const std::string name = freeName(project, alone.reports.front().name);
  taken.id = addObject(project, project.reports, std::move(alone.reports.front()), name);
  return taken;
}

} // namespace kiln
