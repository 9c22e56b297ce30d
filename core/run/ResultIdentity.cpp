// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "run/ResultIdentity.h"

#include "base/TextHash.h"
#include "io/ProjectFile.h"
#include "model/OwnValues.h"
#include "run/InputHash.h"
#include "run/TakenFigures.h"

#include <algorithm>

namespace kiln
{
namespace
{

const StartFromCase* startOf(const Case& oneCase)
{
  if (oneCase.kind != Case::Kind::Transient || !oneCase.run)
    return nullptr;
  return std::get_if<StartFromCase>(&oneCase.run->start);
}

tl::unexpected<Failure> circle(const std::vector<std::string>& names)
{
  std::string text;
  for (const std::string& name : names)
    text += (text.empty() ? "“" : ", “") + name + "”";
  return failure(Failure::Kind::NotReady, "case " + names.front(),
                 "Cases start from each other, or take figures from each other, in a circle: " + text + ".",
                 "Let one of them start from a temperature or its steady state, or take no figure.");
}

/// Puts cases behind what they wait for.
class Ordering
{
public:
  explicit Ordering(const Project& project) : project_(project) {}

  Expected<void> add(const Case& one)
  {
    if (findById(ordered_, one.id) != nullptr)
      return {};
    if (std::find(open_.begin(), open_.end(), one.name) != open_.end())
      return circle(open_);
    open_.push_back(one.name);
    std::vector<std::string> before = takesFrom(project_, one);
    if (const StartFromCase* start = startOf(one); start != nullptr && start->project.empty())
      before.push_back(start->of);
    for (const std::string& id : before)
      if (const Case* other = findById(project_.cases, id))
        if (auto added = add(*other); !added)
          return added;
    open_.pop_back();
    ordered_.push_back(one);
    return {};
  }
  [[nodiscard]] std::vector<Case> ordered() const { return ordered_; }

private:
  const Project& project_;
  std::vector<Case> ordered_;
  std::vector<std::string> open_; ///< names of those that wait
};

/// \param open  names of the cases that wait for this one
Expected<std::string> identity(const Project& base, const Case& oneCase, const std::filesystem::path& folder,
                               std::vector<std::string> open);

Expected<std::string> startIdentity(const Project& base, const Case& oneCase, const std::filesystem::path& folder,
                                    std::vector<std::string> open)
{
  const StartFromCase* start = startOf(oneCase);
  if (start == nullptr)
    return std::string();
  if (std::find(open.begin(), open.end(), oneCase.name) != open.end())
    return circle(open);
  open.push_back(oneCase.name);
  std::optional<Project> elsewhere;
  std::filesystem::path itsFolder = folder;
  if (!start->project.empty()) {
    const std::filesystem::path file = otherProjectFile(start->project, folder);
    auto loaded = loadProject(file);
    if (!loaded)
      return tl::unexpected(loaded.error());
    elsewhere = std::move(*loaded);
    itsFolder = std::filesystem::path(file).replace_extension(".results");
  }
  const Project& other = elsewhere ? *elsewhere : base;
  const Case* origin = findById(other.cases, start->of);
  if (origin == nullptr)
    return failure(Failure::Kind::NotReady, "case " + oneCase.name, "It starts from a case that does not exist.",
                   "Choose another case, or a start temperature.");
  return identity(other, *origin, itsFolder, std::move(open));
}

Expected<std::string> identity(const Project& base, const Case& oneCase, const std::filesystem::path& folder,
                               std::vector<std::string> open)
{
  const Expected<Project> own = projectForCase(base, oneCase);
  if (!own)
    return tl::unexpected(own.error());
  const auto start = startIdentity(base, oneCase, folder, std::move(open));
  if (!start)
    return start;
  return identityOf(solutionHash(*own, oneCase), *start);
}

} // namespace

std::string identityOf(const std::string& solutionHash, const std::string& startIdentity)
{
  return startIdentity.empty() ? solutionHash : textHash(solutionHash + " from " + startIdentity);
}

Expected<std::string> currentIdentity(const Project& base, const Case& oneCase, const std::filesystem::path& folder)
{
  return identity(base, oneCase, folder, {});
}

Expected<std::string> currentStartIdentity(const Project& base, const Case& oneCase,
                                           const std::filesystem::path& folder)
{
  return startIdentity(base, oneCase, folder, {});
}

std::filesystem::path otherProjectFile(const std::string& project, const std::filesystem::path& folder)
{
  std::filesystem::path file = std::filesystem::absolute(folder).parent_path() / project;
  return std::filesystem::exists(file) ? file : std::filesystem::path(project);
}

std::vector<std::string> waitsFor(const Project& project, const Case& oneCase)
{
  std::vector<std::string> before = startsFrom(project, oneCase);
  for (const std::string& id : takesFrom(project, oneCase))
    if (std::find(before.begin(), before.end(), id) == before.end())
      before.push_back(id);
  return before;
}

Expected<std::vector<Case>> inOrder(const Project& project, const std::vector<Case>& cases)
{
  Ordering ordering(project);
  for (const Case& one : cases)
    if (auto added = ordering.add(one); !added)
      return tl::unexpected(added.error());
  return ordering.ordered();
}

} // namespace kiln
