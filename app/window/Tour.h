// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include <QFrame>
#include <QPointer>
#include <vector>

class QLabel;
class QPushButton;
class QRubberBand;

namespace kiln
{

/// A stop of the tour: the zone it points at and what it says.
struct TourStop {
  QWidget* zone = nullptr;
  QString text;
};

/// A walk through the window's zones, one sentence or two at each.
class Tour : public QFrame
{
  Q_OBJECT

public:
  Tour(std::vector<TourStop> stops, QWidget* window);
  ~Tour() override;

private:
  void show(std::size_t stop);

  std::vector<TourStop> stops_;
  std::size_t at_ = 0;
  QLabel* text_;
  QPushButton* next_;
  QRubberBand* frame_;
};

} // namespace kiln
