// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "document/Document.h"

#include <QString>
#include <optional>

class QWidget;

namespace kiln
{

/// A case of another project.
struct CaseElsewhere {
  std::string project; ///< its file, as seen from the open project
  std::string caseId;
};

/// Asks for the file of a project, then for one of its cases; nothing where that was given up.
/// \param title  of both questions
[[nodiscard]] std::optional<CaseElsewhere> askForCaseElsewhere(const Document& document, const QString& title,
                                                               QWidget* window);

} // namespace kiln
