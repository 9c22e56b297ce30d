// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include <QWidget>
#include <optional>

namespace kiln
{

/// A bar that fills towards the limit and is crossed when the limit is passed.
class MarginBar : public QWidget
{
  Q_OBJECT

public:
  explicit MarginBar(QWidget* parent = nullptr);

  /// \param used  share of the way from the reference to the limit, more than 1 beyond it; nothing: no limit
  void setUsed(std::optional<double> used);

protected:
  void paintEvent(QPaintEvent* event) override;

private:
  std::optional<double> used_;
};

} // namespace kiln
