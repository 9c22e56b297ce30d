// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include <QString>

class QWidget;

namespace kiln
{

/// Name, version, licence, and the versions of the libraries that the program was built with.
[[nodiscard]] QString aboutText();
/// The same versions in plain words.
[[nodiscard]] QString versionText();
void showAbout(QWidget* window);

} // namespace kiln
