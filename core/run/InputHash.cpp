// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "run/InputHash.h"

#include "base/TextHash.h"
#include "model/Edit.h"
#include "model/ObjectKinds.h"
#include "model/SteadyView.h"
#include "run/StageText.h"

#include <algorithm>

namespace kiln
{
namespace
{

/// Changes whenever the program would compute something else from the same inputs.
constexpr std::string_view methodVersion = "7";

/// What is switched off does not count; a part can be so with its group.
Project withoutMuted(const Project& project)
{
  Project kept = project;
  std::erase_if(kept.parts, [&](const Part& part) { return isMuted(project, part); });
  for (Part& part : kept.parts)
    std::erase_if(part.steps, [](const ShapeStep& step) { return step.muted; });
  forEachObjectList(kept, [](auto& list) {
    std::erase_if(list, [](const auto& object) {
      if constexpr (requires { object.muted; } && !std::is_same_v<std::decay_t<decltype(object)>, PartGroup>)
        return object.muted;
      else
        return false;
    });
  });
  return kept;
}

/// The project with one case alone, what is its own applied already, and those it starts from with theirs.
Project inTime(const Project& project, const Case& oneCase)
{
  Project alone = project;
  Case own;
  own.kind = oneCase.kind;
  own.run = oneCase.run;
  alone.cases = {std::move(own)};
  for (const std::string& id : startsFrom(project, oneCase))
    alone.cases.push_back(*findById(project.cases, id));
  return alone;
}

/// How exactly a steady case is solved; empty: as usual.
std::string limitsText(const Case& oneCase)
{
  std::string text;
  if (oneCase.balance)
    text += " balance " + plainNumber(oneCase.balance->si);
  if (oneCase.update)
    text += " update " + plainNumber(oneCase.update->si);
  return text;
}

} // namespace

std::string stageHash(const Project& project, Stage upTo)
{
  return textHash(std::string(methodVersion) + std::to_string(static_cast<int>(upTo)) +
                  writeStage(withoutMuted(project), upTo));
}

std::string solutionHash(const Project& project, const Case& oneCase)
{
  if (oneCase.kind == Case::Kind::Steady) {
    const std::string inputs = stageHash(steadyProject(project, oneCase).value_or(project), Stage::Solution);
    const std::string limits = limitsText(oneCase);
    return limits.empty() ? inputs : textHash(inputs + limits);
  }
  return stageHash(inTime(project, oneCase), Stage::Extent);
}

std::string courseHash(const Project& project, const Case& oneCase)
{
  if (oneCase.kind == Case::Kind::Steady)
    return solutionHash(project, oneCase);
  return stageHash(inTime(project, oneCase), Stage::Course);
}

std::vector<std::string> startsFrom(const Project& project, const Case& oneCase)
{
  std::vector<std::string> found;
  for (const Case* one = &oneCase; one->run;) {
    const auto* start = std::get_if<StartFromCase>(&one->run->start);
    if (start == nullptr || !start->project.empty())
      break;
    one = findById(project.cases, start->of);
    if (one == nullptr || one->id == oneCase.id || std::find(found.begin(), found.end(), one->id) != found.end())
      break;
    found.push_back(one->id);
  }
  return found;
}

InputHashes inputHashes(const Project& project)
{
  return {stageHash(project, Stage::Geometry), stageHash(project, Stage::Mesh), stageHash(project, Stage::Solution)};
}

} // namespace kiln
