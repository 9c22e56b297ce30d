// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "base/Failure.h"
#include "model/Walk.h"

#include <array>

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
template <class SomeProject, class Visit>
void forEachOwnValues(SomeProject&& project, Visit&& visit)
{
  forEachBy<OwnValueLists>(project, visit);
}

/// A set of which a case takes the values of one kind of object alone.
struct SetChoice {
  std::string Case::*set; ///< its id
  Refers kind;
};
inline constexpr std::array<SetChoice, 3> setChoices{{{&Case::materialsOf, Refers::Material},
                                                      {&Case::finishesOf, Refers::Finish},
                                                      {&Case::contactsOf, Refers::Contact}}};
/// Is it a value of an object of this kind?
[[nodiscard]] bool isOf(const Project& project, const Change& change, Refers kind);

/// Ids of the property sets that a case takes anything of.
[[nodiscard]] std::vector<std::string> setsOf(const Case& oneCase);

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
