// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
//
// Edits of the document that set fields: of the project, or of the shown case alone.
#include "document/Document.h"

#include <algorithm>

namespace kiln
{
namespace
{

Change* changeOf(Project& project, const std::string& caseId, const std::string& path)
{
  Case* own = findById(project.cases, caseId);
  if (own == nullptr)
    return nullptr;
  const auto at = std::find_if(own->changes.begin(), own->changes.end(),
                               [&](const Change& change) { return change.field == path; });
  return at != own->changes.end() ? &*at : nullptr;
}

/// What a case sets for itself is its own already.
bool ofCase(const Project& project, const std::string& path)
{
  return findById(project.cases, path.substr(0, path.find('.'))) != nullptr;
}

void setChange(Project& project, const std::string& caseId, const std::string& path, const OwnValue& value)
{
  if (Change* known = changeOf(project, caseId, path))
    known->value = value;
  else if (Case* own = findById(project.cases, caseId))
    own->changes.push_back({path, value});
}

void dropChange(Project& project, const std::string& caseId, const std::string& path)
{
  if (Case* own = findById(project.cases, caseId))
    std::erase_if(own->changes, [&](const Change& change) { return change.field == path; });
}

} // namespace

bool Document::caseChanges(const std::string& path) const
{
  return changeOf(const_cast<Project&>(project_), shownCase_, path) != nullptr; // only looked at
}

void Document::setNumber(const std::string& path, const Number& value) { set(path, Property{value, {}}); }

void Document::set(const std::string& path, const OwnValue& value, const QString& name)
{
  const QString what =
      (std::holds_alternative<std::monostate>(value) ? tr("Clear %1") : tr("Set %1")).arg(QString::fromStdString(path));
  // The same field of every selected object, when the edited one is among them.
  std::set<std::string> paths{path};
  const std::string object = path.substr(0, path.find('.'));
  const bool ofCases = object == shownCase_;
  if (ofCases || selection_.holds(object))
    for (const std::string& other : ofCases ? selectedCases_ : selection_.ids())
      paths.insert(other + path.substr(object.size()));
  std::set<std::string> known;
  Project seen = shownProject_;
  for (const Field& field : settings(seen))
    if (paths.contains(field.path))
      known.insert(field.path);
  edit(name.isEmpty() ? what : name, [&](Project& project) {
    std::set<std::string> ofProject;
    for (const std::string& one : known) {
      if (ofCase(project, one))
        ofProject.insert(one);
      else if (editsCaseOnly())
        for (const std::string& id : selectedCases_)
          setChange(project, id, one, value);
      else if (Change* own = changeOf(project, shownCase_, one))
        own->value = value;
      else
        ofProject.insert(one);
    }
    for (const Field& field : ofProject.empty() ? std::vector<Field>{} : settings(project))
      if (ofProject.contains(field.path))
        field.take(value);
  });
}

std::string Document::addStep(const std::string& partId, const std::function<ShapeStep(const Part&)>& make)
{
  std::string id;
  edit(tr("Add a step"), [&](Project& project) {
    Part* part = findById(project.parts, partId);
    if (part == nullptr)
      return;
    ShapeStep step = make(*part);
    id = step.id;
    if (Case* shown = findById(project.cases, shownCase_); shown != nullptr && editsCaseOnly()) {
      step.muted = true;
      shown->changes.push_back({partId + "." + id + ".muted", false});
    }
    part->steps.push_back(std::move(step));
  });
  return id;
}

void Document::toggleCase(const std::string& caseId)
{
  if (caseId == shownCase_ || findById(project_.cases, caseId) == nullptr)
    return;
  if (std::erase(selectedCases_, caseId) == 0)
    selectedCases_.push_back(caseId);
  emit selectedCasesChanged();
  emit editScopeChanged();
}

void Document::selectCases(const std::vector<std::string>& caseIds)
{
  selectedCases_ = {shownCase_};
  for (const std::string& id : caseIds)
    if (id != shownCase_ && findById(project_.cases, id) != nullptr)
      selectedCases_.push_back(id);
  emit selectedCasesChanged();
  emit editScopeChanged();
}

void Document::editCaseOnly(bool only)
{
  if (only == editsCaseOnly())
    return;
  if (only)
    caseOnly_.insert(shownCase_);
  else
    caseOnly_.erase(shownCase_);
  emit editScopeChanged();
}

void Document::takeProjectValue(const std::string& path)
{
  edit(tr("Take the project's %1").arg(QString::fromStdString(path)),
       [&](Project& project) { dropChange(project, shownCase_, path); });
}

void Document::giveToProject(const std::string& path)
{
  edit(tr("Make %1 the project's").arg(QString::fromStdString(path)), [&](Project& project) {
    const Change* own = changeOf(project, shownCase_, path);
    if (own == nullptr)
      return;
    const OwnValue value = own->value;
    dropChange(project, shownCase_, path);
    for (const Field& field : settings(project))
      if (field.path == path)
        field.take(value);
  });
}

} // namespace kiln
