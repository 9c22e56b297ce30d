// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

class QWidget;

namespace kiln
{

class Document;
class ProjectGuard;

/// Asks what shall count where a project was written by somebody else while it was open here: what is here, or what is
/// on the disk; and shows what differs. Taking what is on the disk is an edit that can be undone.
/// \return whether the file may be written now
[[nodiscard]] bool settleConflict(Document& document, ProjectGuard& guard, QWidget* window);

} // namespace kiln
