// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "model/Walk.h"

#include <functional>

namespace kiln
{

/// A kind of objects that have a list of the project.
struct ObjectKind {
  Refers kind{};
  std::string_view word; ///< "part group"
};

// clang-format off
constexpr ObjectKind kindOf(const Parameter*)    { return {Refers::Parameter, "parameter"}; }
constexpr ObjectKind kindOf(const Material*)     { return {Refers::Material, "material"}; }
constexpr ObjectKind kindOf(const Finish*)       { return {Refers::Finish, "finish"}; }
constexpr ObjectKind kindOf(const GeometryFile*) { return {Refers::File, "file"}; }
constexpr ObjectKind kindOf(const PartGroup*)    { return {Refers::Group, "part group"}; }
constexpr ObjectKind kindOf(const Part*)         { return {Refers::Part, "part"}; }
constexpr ObjectKind kindOf(const Surface*)      { return {Refers::Surface, "surface"}; }
constexpr ObjectKind kindOf(const HeatSource*)   { return {Refers::Source, "source"}; }
constexpr ObjectKind kindOf(const Boundary*)     { return {Refers::Boundary, "boundary"}; }
constexpr ObjectKind kindOf(const Contact*)      { return {Refers::Contact, "contact"}; }
constexpr ObjectKind kindOf(const Enclosure*)    { return {Refers::Enclosure, "enclosure"}; }
constexpr ObjectKind kindOf(const Node*)         { return {Refers::Node, "node"}; }
constexpr ObjectKind kindOf(const Link*)         { return {Refers::Link, "link"}; }
constexpr ObjectKind kindOf(const PropertySet*)  { return {Refers::Set, "property set"}; }
constexpr ObjectKind kindOf(const Case*)         { return {Refers::Case, "case"}; }
constexpr ObjectKind kindOf(const Question*)     { return {Refers::Question, "question"}; }
constexpr ObjectKind kindOf(const Watch*)        { return {Refers::Watch, "watch"}; }
constexpr ObjectKind kindOf(const Line*)         { return {Refers::Line, "line"}; }
constexpr ObjectKind kindOf(const View*)         { return {Refers::View, "view"}; }
constexpr ObjectKind kindOf(const Label*)        { return {Refers::Label, "label"}; }
constexpr ObjectKind kindOf(const Report*)       { return {Refers::Report, "report"}; }
// clang-format on

/// "source Coils"
template <class T>
[[nodiscard]] std::string objectWords(const T& object)
{
  return std::string(kindOf(&object).word) + " " + object.name;
}

/// Archive that visits the project's lists of objects, and nothing in them.
template <class Visit>
class ObjectLists : public Walk<ObjectLists<Visit>>
{
public:
  explicit ObjectLists(Visit& visit) : visit_(visit) {}

  template <class T>
  void list(const KeySpec&, std::vector<T>& items)
  {
    if constexpr (std::is_base_of_v<Object, T>)
      visit_(items);
  }
  template <class T>
  void nested(const KeySpec&, T&)
  {
  }

private:
  Visit& visit_;
};

/// Calls with every list of objects of the project, in the order of the file.
template <class SomeProject, class Visit>
void forEachObjectList(SomeProject&& project, Visit&& visit)
{
  forEachBy<ObjectLists>(project, visit);
}

/// Kinds of the objects of this id: one where a project was made here, perhaps several where it was written by hand;
/// none when there is none.
[[nodiscard]] Refers kindOfObject(const Project& project, const std::string& id);

/// Ids of all objects of these kinds.
[[nodiscard]] std::vector<std::string> idsOf(const Project& project, Refers kinds);

/// "part", "node, part, surface or watch"
[[nodiscard]] std::string kindWords(Refers kinds);

} // namespace kiln
