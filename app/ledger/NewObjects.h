// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "document/Document.h"
#include "document/LedgerRows.h"

#include <QString>
#include <functional>
#include <string>
#include <vector>

namespace kiln
{

/// Something that can be added to a band of the ledger.
struct NewKind {
  QString label;
  std::function<std::string(Project&)> add; ///< \return id of the new object
  QString help{};
};

/// What a band offers. Sources and boundaries stand on the faces picked in the scene, on the selected surface or part,
/// or else on all exposed faces.
[[nodiscard]] std::vector<NewKind> newKinds(const Document& document, Band band);

/// The forms with sizes to start from; in a section model the flat ones come first.
[[nodiscard]] std::vector<std::pair<QString, Form>> startingForms(const Project& project);

/// A surface for the present selection, added when there is none that fits. \return its id
[[nodiscard]] std::string surfaceForSelection(Project& project, const Document& document);

/// Adds an object and opens it; the name of the undo step is "Add LABEL". \return its id
std::string addNew(Document& document, const NewKind& kind);

} // namespace kiln
