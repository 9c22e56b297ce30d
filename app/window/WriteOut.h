// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "document/Document.h"

class QWidget;

namespace kiln
{

/// Asks for a file and has the solver program write the shapes of the shown case.
void writeGeometryOut(Document& document, const QString& program, QWidget* window);

/// Asks for a format and a file and has the solver program write the shown case with its result for other programs.
void exportShownCase(Document& document, const QString& program, QWidget* window);

/// Asks for a file and has the solver program pack the project, as it is saved, with its results.
void packProject(Document& document, const QString& program, QWidget* window);
/// Asks for a folder and unpacks such a file into it. \return the project file; empty: it was not
[[nodiscard]] QString unpackProject(const QString& file, QWidget* window);

} // namespace kiln
