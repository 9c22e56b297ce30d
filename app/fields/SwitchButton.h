// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include <QAbstractButton>

namespace kiln
{

/// A small sliding switch: its knob lies right and coloured when it is on.
class SwitchButton : public QAbstractButton
{
  Q_OBJECT

public:
  explicit SwitchButton(QWidget* parent = nullptr);

  [[nodiscard]] QSize sizeHint() const override { return {22, 11}; }

protected:
  void paintEvent(QPaintEvent* event) override;
};

} // namespace kiln
