// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "cases/CaseGroups.h"

#include "model/Edit.h"
#include "model/OwnValues.h"

#include <QCoreApplication>
#include <QStringList>
#include <algorithm>
#include <map>

namespace kiln
{

std::vector<CaseGroup> groupsOf(const Project& project)
{
  std::vector<CaseGroup> groups;
  std::map<std::string, std::size_t> known;
  for (const Case& one : project.cases) {
    const auto found = one.group.empty() ? known.end() : known.find(one.group);
    if (found != known.end()) {
      groups[found->second].cases.push_back(&one);
      continue;
    }
    if (!one.group.empty())
      known[one.group] = groups.size();
    groups.push_back({one.group, {&one}});
  }
  return groups;
}

QString stateWord(const CaseState& state)
{
  switch (state.stage) {
  case CaseState::Stage::NeverRun:
    return QCoreApplication::translate("CaseChip", "never run");
  case CaseState::Stage::Running:
    return QCoreApplication::translate("CaseChip", "running");
  case CaseState::Stage::Solved:
    return QCoreApplication::translate("CaseChip", "solved");
  case CaseState::Stage::OutOfDate:
    return QCoreApplication::translate("CaseChip", "out of date");
  case CaseState::Stage::Failed:
    return QCoreApplication::translate("CaseChip", "failed");
  }
  return {};
}

bool fitsWords(const Case& one, const CaseState& state, const QString& words)
{
  const QString kind = one.kind == Case::Kind::Transient ? QCoreApplication::translate("CaseChip", "transient")
                                                         : QCoreApplication::translate("CaseChip", "steady");
  const QString text = QStringList{QString::fromStdString(one.name), QString::fromStdString(one.group),
                                   QString::fromStdString(one.comment), kind, stateWord(state)}
                           .join('\n');
  const QStringList all = words.split(' ', Qt::SkipEmptyParts);
  return std::all_of(all.begin(), all.end(),
                     [&](const QString& word) { return text.contains(word, Qt::CaseInsensitive); });
}

void moveCases(Project& project, const std::vector<std::string>& moved, const std::string& before)
{
  if (std::find(moved.begin(), moved.end(), before) != moved.end())
    return;
  for (const std::string& id : moved)
    moveObject(project, id, before);
}

namespace
{

std::string freeGroup(const Project& project, const std::string& name)
{
  const auto taken = [&](const std::string& wanted) {
    return std::any_of(project.cases.begin(), project.cases.end(),
                       [&](const Case& one) { return one.group == wanted; });
  };
  for (int n = 2;; ++n)
    if (const std::string other = name + " " + std::to_string(n); !taken(other))
      return other;
}

} // namespace

std::vector<std::string> copyCases(Project& project, const std::vector<std::string>& ids)
{
  std::map<std::string, std::string> groups;
  std::vector<std::string> made;
  const bool together = ids.size() > 1; // one alone stays in its group
  for (const std::string& id : ids) {
    const std::string copy = duplicateObject(project, id);
    Case* own = findById(project.cases, copy);
    if (own == nullptr)
      continue;
    made.push_back(copy);
    if (!together || own->group.empty())
      continue;
    const std::string before = own->group;
    if (!groups.contains(before))
      groups[before] = freeGroup(project, before);
    own->group = groups[before];
  }
  return made;
}

void shareWith(Project& project, const std::string& from, const std::vector<std::string>& to, CaseShare what)
{
  const Case* found = findById(project.cases, from);
  if (found == nullptr)
    return;
  const Case source = *found;
  for (const std::string& id : to) {
    Case* own = findById(project.cases, id);
    if (own == nullptr || id == from)
      continue;
    switch (what) {
    case CaseShare::Run:
      own->kind = source.kind;
      own->run = source.run;
      own->instant = source.instant;
      own->period = source.period;
      break;
    case CaseShare::OwnValues:
      own->changes = source.changes;
      break;
    case CaseShare::Sets:
      own->sets = source.sets;
      for (const SetChoice& choice : setChoices)
        own->*choice.set = source.*choice.set;
      break;
    case CaseShare::Comment:
      own->comment = source.comment;
      break;
    case CaseShare::Group:
      own->group = source.group;
      break;
    }
  }
}

} // namespace kiln
