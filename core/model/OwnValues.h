// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "base/Failure.h"
#include "model/Walk.h"

/// Values that fields have in one case, in a property set or by a rule of a run.
namespace kiln
{

/// Archive that visits every list of such values.
template <class Visit>
class OwnValueLists : public Walk<OwnValueLists<Visit>>
{
public:
  explicit OwnValueLists(Visit& visit) : visit_(visit) {}
  void changes(const KeySpec&, std::vector<Change>& values) { visit_(values); }

private:
  Visit& visit_;
};
template <class Visit>
void forEachOwnValues(Project& project, Visit&& visit)
{
  OwnValueLists<std::remove_reference_t<Visit>> lists(visit);
  describe(lists, project);
}
template <class Visit>
void forEachOwnValues(const Project& project, Visit&& visit)
{
  const auto asConst = [&](std::vector<Change>& values) { visit(std::as_const(values)); };
  OwnValueLists<decltype(asConst)> lists(asConst);
  walkOver(lists, project);
}

/// What a case changes, in the order in which it counts: the values of its property sets, then its own.
[[nodiscard]] std::vector<Change> changesOf(const Project& project, const Case& oneCase);

/// The project as one case sees it: its changes applied, one after the other, and every material that stands for
/// another with the other's values.
/// Fails on a field that does not exist or cannot hold the value, naming the case or its set, and on materials that
/// stand for each other in a ring.
[[nodiscard]] Expected<Project> projectForCase(const Project& project, const Case& oneCase);

/// The project with only the alternatives that are chosen by these changes, so that their fields are there.
[[nodiscard]] Project withChoices(const Project& project, const std::vector<Change>& changes);

} // namespace kiln
