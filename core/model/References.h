// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "model/ObjectKinds.h"
#include "model/Schema.h"

#include <functional>
#include <string>
#include <vector>

/// What of a project refers to what, from the descriptions of its objects (\ref Schema.h).
namespace kiln
{

/// A text that names something else.
struct ReferenceUse {
  std::string* text = nullptr; ///< nothing: a list that must name something and is empty
  ReferenceSpec spec;
  Stage stage = Stage::Nothing; ///< that it counts for; AsUsed: as what names its holder
  std::string holderId;         ///< of the object that holds it; empty: the project
  std::string holder;           ///< "source Coils"
  bool ofObject = false;        ///< a field of the object itself, not of an entry in it
};

/// Calls \p visit with every reference in the project: to objects, faces ("shell.top") and fields ("coils.power").
/// Texts that stand for nothing (empty, or a word of their own) are left out, except where something must be named.
void forEachReference(Project& project, const std::function<void(const ReferenceUse&)>& visit);
void forEachReference(const Project& project, const std::function<void(const ReferenceUse&)>& visit);

/// Does the text of a reference name this object, or something of it?
/// \param kind  of the object
[[nodiscard]] bool names(const std::string& text, const ReferenceSpec& spec, const std::string& objectId, Refers kind);

/// Takes a removed object out of everything that names it: out of lists, whole entries that are nothing without it
/// (a contact, an end rule), single names (which readiness then asks for).
void forgetObject(Project& project, const std::string& id, Refers kind);

/// Whatever names one object names another of its kind.
void replaceObject(Project& project, const std::string& from, const std::string& to, Refers kind);

} // namespace kiln
