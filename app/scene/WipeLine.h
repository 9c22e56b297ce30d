// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include <QWidget>

namespace kiln
{

/// A line from top to bottom of a view, moved by the pointer or the arrow keys: what lies right of it is another view.
class WipeLine : public QWidget
{
  Q_OBJECT

public:
  explicit WipeLine(QWidget& view);

  /// Pixels of the view left of it.
  [[nodiscard]] int at() const;
  /// Stands over the view again, which may have another size.
  void place();

signals:
  void moved();

protected:
  void paintEvent(QPaintEvent* event) override;
  void mouseMoveEvent(QMouseEvent* event) override;
  void mouseDoubleClickEvent(QMouseEvent* event) override;
  void keyPressEvent(QKeyEvent* event) override;

private:
  void setShare(double share);

  QWidget& view_;
  double share_ = 0.5; ///< of the view left of it
};

} // namespace kiln
