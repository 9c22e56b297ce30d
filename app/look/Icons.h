// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include <QIcon>
#include <QString>

class QAbstractButton;
class QAction;
class QWidget;

/// Icons that are shipped within the program, in one variant for light and one for dark windows.
namespace kiln
{

/// Of the present look. \param name  "zoom-fit-best", one of those that app/CMakeLists.txt lists
[[nodiscard]] QIcon iconOf(const QString& name);

/// Gives a button or a command an icon that follows the look. A button without words keeps its tip as its accessible
/// name.
void setIcon(QAbstractButton& button, const QString& name);
void setIcon(QAction& action, const QString& name);

/// After the look has changed: all icons of a window.
void refreshIcons(QWidget& window);

} // namespace kiln
