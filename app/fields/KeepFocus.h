// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include <QApplication>
#include <QPointer>
#include <QWidget>

namespace kiln
{

/// Keeps the keyboard where it was while a part of the window builds itself anew: what had it, by name, gets it back.
class KeepFocus
{
public:
  explicit KeepFocus(const QWidget* before)
  {
    QWidget* focused = QApplication::focusWidget();
    if (before == nullptr || focused == nullptr || !before->isAncestorOf(focused))
      return;
    name_ = focused->objectName();
    focused->clearFocus(); // hiding it would hand the keyboard to a stranger, and select that one's row
  }
  /// Call when the new widgets stand.
  void giveTo(QWidget* after) const
  {
    if (name_.isEmpty())
      return;
    if (auto* again = after->findChild<QWidget*>(name_))
      again->setFocus(Qt::TabFocusReason);
  }

private:
  QString name_;
};

} // namespace kiln
