// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "Asked.h"

#include "base/TextHash.h"
#include "geometry/LinkedShapes.h"
#include "io/AtomicFile.h"
#include "io/ProjectFile.h"
#include "model/OwnValues.h"
#include "model/Settings.h"
#include "run/TakenFigures.h"

namespace kiln::cli
{

ExitCode refused(const Failure& failure, Reporter& reporter)
{
  reporter.failure(failure);
  return exitCodeFor(failure.kind);
}

ExitCode report(const RunFailure& failure, Reporter& reporter)
{
  reporter.findings(failure.notReady);
  return failure.failure ? refused(*failure.failure, reporter) : ExitCode::NotReady;
}

Expected<Project> load(const Request& request)
{
  Expected<Project> project = loadProject(request.file);
  if (!project)
    return project;
  if (auto filled = fillLinked(*project, request.file.parent_path()); !filled)
    return tl::unexpected(filled.error());
  takeFigures(*project, folderOf(request)); // as the window does when it opens the file
  for (const std::string& setting : request.settings) {
    const auto equals = setting.find('=');
    if (equals == std::string::npos)
      return failure(Failure::Kind::NotReady, "--set " + setting, "There is no “=” in it.",
                     "Write --set object.key=value, for example --set \"coil-power.power=1.3 kW\".");
    if (auto set = setField(*project, setting.substr(0, equals), setting.substr(equals + 1)); !set)
      return tl::unexpected(set.error());
    // What is asked for this run also holds in a case that has its own value.
    forEachOwnValues(*project, [&](std::vector<Change>& changes) {
      std::erase_if(changes, [&](const Change& change) { return change.field == setting.substr(0, equals); });
    });
  }
  return project;
}

namespace
{

/// Does a pattern with * (anything) and ? (one letter) fit all of a text?
bool fits(std::string_view pattern, std::string_view text)
{
  if (pattern.empty())
    return text.empty();
  if (pattern.front() == '*')
    return fits(pattern.substr(1), text) || (!text.empty() && fits(pattern, text.substr(1)));
  return !text.empty() && (pattern.front() == '?' || pattern.front() == text.front()) &&
         fits(pattern.substr(1), text.substr(1));
}

Expected<std::vector<Case>> casesCalled(const Project& project, const std::string& asked)
{
  if (const Case* one = findById(project.cases, asked))
    return std::vector<Case>{*one};
  std::vector<Case> called;
  for (const Case& one : project.cases)
    if (one.name == asked || (asked.find_first_of("*?") != std::string::npos &&
                              (fits(asked, one.name) || fits(asked, one.id) ||
                               (!one.group.empty() && fits(asked, one.group + "/" + one.name)))))
      called.push_back(one);
  const bool plain = asked.find_first_of("*?") == std::string::npos;
  if (called.size() == 1 || (!plain && !called.empty()))
    return called;
  if (called.size() > 1)
    return failure(Failure::Kind::NotReady, "case " + asked, std::to_string(called.size()) + " cases are called so.",
                   "Name it by its id, “" + called.front().id + "” or “" + called.back().id + "”.");
  std::string names;
  for (const Case& one : project.cases)
    names += (names.empty() ? "“" : ", “") + one.name + "”";
  return failure(Failure::Kind::NotReady, "case " + asked,
                 plain ? "The project has no case of this name." : "No case fits this pattern.",
                 "Use one of " + names + ".");
}

} // namespace

Expected<std::vector<Case>> casesOf(const Project& project, const Request& request)
{
  if (request.allCases)
    return project.cases;
  if (request.caseNames.empty())
    return project.cases.empty() ? std::vector<Case>{} : std::vector<Case>{project.cases.front()};
  std::vector<Case> asked;
  for (const std::string& name : request.caseNames) {
    const auto called = casesCalled(project, name);
    if (!called)
      return called;
    for (const Case& one : *called)
      if (findById(asked, one.id) == nullptr)
        asked.push_back(one);
  }
  return asked;
}

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

std::filesystem::path resultsFolderFor(const std::filesystem::path& projectFile)
{
  return std::filesystem::path(projectFile).replace_extension(".results");
}

} // namespace kiln::cli
