// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

namespace kiln
{

/// What must be set before the QApplication exists: names, OpenGL format, platform.
void prepareApplication();

} // namespace kiln
