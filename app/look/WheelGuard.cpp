// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "look/WheelGuard.h"

#include <QAbstractSlider>
#include <QComboBox>
#include <QEvent>
#include <QScrollBar>

namespace kiln
{

bool WheelGuard::eventFilter(QObject* watched, QEvent* event)
{
  if (event->type() != QEvent::Wheel && event->type() != QEvent::Polish)
    return false;
  auto* widget = qobject_cast<QWidget*>(watched);
  const bool choice =
      qobject_cast<QComboBox*>(widget) != nullptr ||
      (qobject_cast<QAbstractSlider*>(widget) != nullptr && qobject_cast<QScrollBar*>(widget) == nullptr);
  if (!choice)
    return false;
  if (event->type() == QEvent::Polish) {
    if (widget->focusPolicy() == Qt::WheelFocus)
      widget->setFocusPolicy(Qt::StrongFocus); // the wheel gives no focus
    return false;
  }
  if (widget->hasFocus())
    return false;
  event->ignore();
  return true;
}

} // namespace kiln
