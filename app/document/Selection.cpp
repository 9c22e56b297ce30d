// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "document/Selection.h"

#include <algorithm>

namespace kiln
{

const std::string& Selection::id() const
{
  static const std::string none;
  return ids_.empty() ? none : ids_.front();
}

bool Selection::holds(const std::string& id) const { return std::find(ids_.begin(), ids_.end(), id) != ids_.end(); }

void Selection::select(const std::string& id)
{
  ids_ = id.empty() ? std::vector<std::string>{} : std::vector<std::string>{id};
  if (!pickedFaces_.empty()) {
    pickedFaces_.clear();
    emit pickedFacesChanged();
  }
  emit changed();
}

void Selection::toggle(const std::string& id)
{
  if (std::erase(ids_, id) == 0)
    ids_.push_back(id);
  emit changed();
}

void Selection::pickFaces(std::vector<std::string> faces)
{
  pickedFaces_ = std::move(faces);
  emit changed();
  emit pickedFacesChanged();
}

void Selection::toggleStep(const std::string& step)
{
  if (openSteps_.erase(step) == 0)
    openSteps_.insert(step);
  emit stepsChanged();
}

void Selection::toggleGroup(const std::string& groupId)
{
  if (foldedGroups_.erase(groupId) == 0)
    foldedGroups_.insert(groupId);
  emit foldingChanged();
}

void Selection::forget()
{
  ids_.clear();
  pickedFaces_.clear();
  openSteps_.clear();
  foldedGroups_.clear();
}

} // namespace kiln
