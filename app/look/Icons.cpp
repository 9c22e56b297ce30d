// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "look/Icons.h"

#include "look/Theme.h"

#include <QAbstractButton>
#include <QAction>

namespace kiln
{
namespace
{

constexpr const char* nameProperty = "iconName";

template <class T>
void set(T& user, const QString& name)
{
  user.setProperty(nameProperty, name);
  user.setIcon(iconOf(name));
}

template <class T>
void refresh(T& user)
{
  if (const QString name = user.property(nameProperty).toString(); !name.isEmpty())
    user.setIcon(iconOf(name));
}

} // namespace

QIcon iconOf(const QString& name)
{
  return QIcon(QStringLiteral(":/icons/%1/%2.svg").arg(theme().dark ? "dark" : "light", name));
}

void setIcon(QAbstractButton& button, const QString& name)
{
  set(button, name);
  if (button.text().isEmpty() && button.accessibleName().isEmpty())
    button.setAccessibleName(button.toolTip());
}

void setIcon(QAction& action, const QString& name) { set(action, name); }

void refreshIcons(QWidget& window)
{
  for (QAbstractButton* button : window.findChildren<QAbstractButton*>())
    refresh(*button);
  for (QAction* action : window.findChildren<QAction*>())
    refresh(*action);
}

} // namespace kiln
