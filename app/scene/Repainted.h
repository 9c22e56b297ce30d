// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include <QWidget>
#include <utility>

namespace kiln
{

/// A widget that lies over the scene. Where one is painted the scene is drawn again: only what changed is.
class Repainted : public QWidget
{
public:
  using QWidget::QWidget;

protected:
  template <class T>
  void take(T& own, T value)
  {
    if (own == value)
      return;
    own = std::move(value);
    update();
  }
};

} // namespace kiln
