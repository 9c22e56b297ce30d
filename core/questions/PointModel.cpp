// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "questions/PointModel.h"

#include "io/Library.h"
#include "model/Edit.h"
#include "model/ObjectKinds.h"
#include "model/OwnValues.h"
#include "model/Settings.h"

#include <algorithm>
#include <cmath>

namespace kiln
{
namespace
{

/// Is what the field holds the number that was asked for? Words may have done their work and be gone: what a material
/// stands for.
bool holds(const Field& field, const OwnValue& asked)
{
  const OwnValue held = field.held();
  const auto* a = std::get_if<Property>(&held);
  const auto* b = std::get_if<Property>(&asked);
  if (a == nullptr || b == nullptr)
    return true;
  constexpr double rounding = 1e-12;
  return a->table.size() == b->table.size() && std::abs(a->si - b->si) <= rounding * std::abs(b->si);
}

std::vector<Change> withChanges(std::vector<Change> changes, const std::vector<Change>& more)
{
  for (const Change& change : more)
    std::erase_if(changes, [&](const Change& before) { return before.field == change.field; });
  changes.insert(changes.end(), more.begin(), more.end());
  return changes;
}

} // namespace

std::vector<Change> changesAt(const std::vector<AskedAxis>& axes, const AskedPoint& point)
{
  std::vector<Change> changes;
  for (std::size_t i = 0; i < axes.size(); ++i)
    changes.push_back({axes[i].field, point[i]});
  return changes;
}

Expected<PointModel> modelAt(const Project& project, const Question& question, const std::vector<AskedAxis>& axes,
                             const AskedPoint& point)
{
  PointModel model{project, {}, {}};
  Case* base = findById(model.project.cases, question.base);
  if (base == nullptr)
    return failure(Failure::Kind::NotReady, objectWords(question), "It has no case to vary.", "Choose one.");
  std::vector<Change> changes;
  for (const Change& change : changesAt(axes, point)) {
    if (!change.field.starts_with(question.base + ".")) {
      changes.push_back(change);
      continue;
    }
    const std::vector<Field> own = settingsOf(model.project, question.base); // of the case itself
    const Field* field = fieldAt(own, change.field);
    if (field == nullptr || !field->take(change.value))
      return failure(Failure::Kind::NotReady, objectWords(question), "The case has no field “" + change.field + "”.",
                     "Choose another one.");
  }
  base->changes = withChanges(std::move(base->changes), changes);
  model.oneCase = *base;
  Expected<Project> seen = projectForCase(model.project, model.oneCase);
  if (!seen)
    return tl::unexpected(seen.error());
  const std::vector<Field> held = settings(*seen);
  for (const Change& change : changes) {
    const Field* field = fieldAt(held, change.field);
    if (field == nullptr || !holds(*field, change.value))
      return failure(Failure::Kind::NotReady, objectWords(question),
                     "“" + change.field + "” does not keep what is asked for: something else sets it.",
                     "A material that stands for another one takes its values from there: vary those.");
  }
  model.seen = std::move(*seen);
  return model;
}

Expected<std::string> keepAsCase(Project& project, const Question& question, const std::vector<AskedAxis>& axes,
                                 const AskedPoint& point)
{
  Project asked = project;
  const auto all = readAxes(asked, question); // with its materials of the library
  if (!all)
    return tl::unexpected(all.error());
  auto model = modelAt(asked, question, axes, point);
  if (!model)
    return tl::unexpected(model.error());
  for (const OwnValue& value : point) // of those materials, the ones that are named
    if (const auto* name = std::get_if<std::string>(&value))
      if (const Material* material = findById(asked.materials, *name);
          material != nullptr && findById(project.materials, *name) == nullptr)
        project.materials.push_back(*material);
  Case kept = std::move(model->oneCase);
  kept.comment = question.name;
  kept.group = question.name;
  return addObject(project, project.cases, std::move(kept), freeName(project, pointWords(asked, axes, point)));
}

std::string pointWords(const Project& project, const std::vector<AskedAxis>& axes, const AskedPoint& point)
{
  Project own = project;
  const std::vector<Field> all = settings(own);
  std::string words;
  for (std::size_t i = 0; i < axes.size(); ++i) {
    const Field* field = fieldAt(all, axes[i].field);
    if (field != nullptr)
      words += (words.empty() ? "" : ", ") + axes[i].label + " " + settingText(project, *field, point[i]);
  }
  return words;
}

} // namespace kiln
