// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include <QObject>

namespace kiln
{

/// Scrolling a page must not change what lies under the pointer: choice boxes and sliders take the wheel only when they
/// have the keyboard; else it goes on to the page.
class WheelGuard : public QObject
{
  Q_OBJECT

public:
  using QObject::QObject;

protected:
  bool eventFilter(QObject* watched, QEvent* event) override;
};

} // namespace kiln
