// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "window/Tour.h"

#include <QHBoxLayout>
#include <QLabel>
#include <QPushButton>
#include <QRubberBand>
#include <QVBoxLayout>
#include <algorithm>

namespace kiln
{

Tour::Tour(std::vector<TourStop> stops, QWidget* window)
    : QFrame(window), stops_(std::move(stops)), text_(new QLabel), next_(new QPushButton),
      frame_(new QRubberBand(QRubberBand::Rectangle, window))
{
  setObjectName("tour");
  setProperty("raisedCard", true);
  setFrameShape(QFrame::StyledPanel);
  setAutoFillBackground(true);
  auto* layout = new QVBoxLayout(this);
  text_->setWordWrap(true);
  text_->setObjectName("tourText");
  layout->addWidget(text_);
  auto* row = new QHBoxLayout;
  row->addStretch();
  auto* leave = new QPushButton(tr("Leave the tour"));
  leave->setObjectName("tourLeave");
  connect(leave, &QPushButton::clicked, this, &QObject::deleteLater);
  row->addWidget(leave);
  next_->setObjectName("tourNext");
  connect(next_, &QPushButton::clicked, this, [this] {
    if (at_ + 1 < stops_.size())
      show(at_ + 1);
    else
      deleteLater();
  });
  row->addWidget(next_);
  layout->addLayout(row);
  show(0);
  QWidget::show();
  raise();
}

Tour::~Tour() { delete frame_; }

void Tour::show(std::size_t stop)
{
  at_ = stop;
  const TourStop& now = stops_[stop];
  text_->setText(QString("%1 / %2   ").arg(stop + 1).arg(stops_.size()) + now.text);
  next_->setText(stop + 1 < stops_.size() ? tr("Next") : tr("Done"));
  QWidget* window = parentWidget();
  const QRect zone(now.zone->mapTo(window, QPoint()), now.zone->size());
  frame_->setGeometry(zone);
  frame_->show();
  frame_->raise();
  const int width = fontMetrics().averageCharWidth() * 60;
  setFixedWidth(width);
  adjustSize();
  const int x = std::clamp(zone.center().x() - width / 2, 12, std::max(12, window->width() - width - 12));
  const bool below = zone.bottom() + height() + 20 < window->height();
  const int y = below ? zone.bottom() + 8 : std::max(12, zone.top() - height() - 8);
  const bool inside = zone.height() > window->height() / 3;
  move(x, inside ? zone.center().y() - height() / 2 : y);
  raise();
}

} // namespace kiln
