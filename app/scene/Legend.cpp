// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "scene/Legend.h"

#include "fields/QuantityField.h"
#include "look/Theme.h"
#include "scene/ColorMap.h"

#include <QPainter>
#include <QToolButton>
#include <cmath>

namespace kiln
{
namespace
{

/// A round step that gives about this many ticks.
double roundStep(double span, int about)
{
  const double raw = span / about;
  const double decade = std::pow(10, std::floor(std::log10(raw)));
  for (const double factor : {1.0, 2.0, 5.0})
    if (raw <= factor * decade)
      return factor * decade;
  return 10 * decade;
}

} // namespace

Legend::Legend(QWidget* parent)
    : QWidget(parent), top_(new QuantityField(Quantity::Temperature, Range::NonNegative, this)),
      bottom_(new QuantityField(Quantity::Temperature, Range::NonNegative, this)), automatic_(new QToolButton(this))
{
  setObjectName("legend");
  top_->setObjectName("legendTop");
  bottom_->setObjectName("legendBottom");
  top_->setAccessibleName(tr("Upper end of the colours"));
  bottom_->setAccessibleName(tr("Lower end of the colours"));
  automatic_->setText(tr("auto"));
  automatic_->setObjectName("legendAuto");
  automatic_->setToolTip(tr("Fit the colours to what is visible"));
  automatic_->setCheckable(true);
  automatic_->setChecked(true);
  connect(automatic_, &QToolButton::clicked, this, [this] {
    setPinned(false);
    emit automaticWanted();
  });
  const auto edited = [this] {
    const double top = top_->number() ? top_->number()->si : high_;
    const double bottom = bottom_->number() ? bottom_->number()->si : low_;
    setPinned(true);
    emit rangeEdited(std::min(top, bottom), std::max(top, bottom));
  };
  connect(top_, &QuantityField::committed, this, edited);
  connect(bottom_, &QuantityField::committed, this, edited);
  resize(fontMetrics().horizontalAdvance("1000.0 °C") + 34, 300);
}

void Legend::setPinned(bool pinned)
{
  pinned_ = pinned;
  automatic_->setChecked(!pinned);
}

void Legend::setAboutZero(bool about)
{
  aboutZero_ = about;
  update();
}

void Legend::setRange(double low, double high)
{
  low_ = low;
  high_ = high;
  const auto text = [this](double si) { return formatQuantity(si, quantity_, unit_, 4); };
  top_->setNumber(Number{high, text(high)});
  bottom_->setNumber(Number{low, text(low)});
  const QFontMetrics metrics = top_->fontMetrics();
  const int wide = std::max(metrics.horizontalAdvance(top_->text()), metrics.horizontalAdvance(bottom_->text()));
  resize(std::max(wide, metrics.horizontalAdvance("1000.0 °C")) + 34, height());
  update();
}

void Legend::setQuantity(Quantity quantity)
{
  if (quantity == quantity_)
    return;
  quantity_ = quantity;
  top_->setQuantity(quantity);
  bottom_->setQuantity(quantity);
}

void Legend::setLimits(std::vector<std::pair<double, QString>> limits)
{
  limits_ = std::move(limits);
  update();
}

void Legend::setTemperatureUnit(TemperatureUnit unit)
{
  unit_ = unit;
  top_->setTemperatureUnit(unit);
  bottom_->setTemperatureUnit(unit);
  setRange(low_, high_);
}

QRectF Legend::scaleBox() const
{
  const double field = top_->sizeHint().height();
  return {8, field + 6, 16, height() - 2 * field - automatic_->sizeHint().height() - 18};
}

void Legend::resizeEvent(QResizeEvent* /*event*/)
{
  const int field = top_->sizeHint().height();
  const int button = automatic_->sizeHint().height();
  top_->setGeometry(4, 2, width() - 8, field);
  bottom_->setGeometry(4, height() - field - button - 6, width() - 8, field);
  automatic_->setGeometry(4, height() - button - 2, automatic_->sizeHint().width(), button);
}

void Legend::paintEvent(QPaintEvent* /*event*/)
{
  const Theme& t = theme();
  QPainter painter(this);
  painter.setRenderHint(QPainter::Antialiasing);
  QColor back = t.panel;
  back.setAlpha(225);
  painter.setPen(Qt::NoPen);
  painter.setBrush(back);
  painter.drawRoundedRect(rect(), 6, 6);
  const QRectF box = scaleBox();
  QLinearGradient gradient(box.bottomLeft(), box.topLeft());
  constexpr int stops = 24;
  for (int i = 0; i <= stops; ++i)
    gradient.setColorAt(i / double(stops), aboutZero_ ? glazeAndEmber(i / double(stops)) : kilnGlow(i / double(stops)));
  painter.fillRect(box, gradient);
  if (!(high_ > low_))
    return;
  const double low = toDisplay(low_, quantity_, unit_);
  const double high = toDisplay(high_, quantity_, unit_);
  const auto yOf = [&](double shown) { return box.bottom() - (shown - low) / (high - low) * box.height(); };
  const double step = roundStep(high - low, 6);
  painter.setPen(t.text);
  const double line = fontMetrics().height();
  for (double tick = std::ceil(low / step) * step; tick <= high; tick += step) {
    const double y = yOf(tick);
    painter.drawLine(QPointF(box.right(), y), QPointF(box.right() + 4, y));
    painter.drawText(QRectF(box.right() + 7, y - line / 2, width() - box.right() - 8, line), Qt::AlignVCenter,
                     QString::number(std::abs(tick) < step * 1e-9 ? 0.0 : tick, 'g', 5).replace('-', QChar(0x2212)));
  }
  for (const auto& [limit, name] : limits_) {
    const double y = yOf(toDisplay(limit, quantity_, unit_));
    if (y < box.top() || y > box.bottom())
      continue;
    painter.setPen(QPen(t.bad, 2));
    painter.drawLine(QPointF(box.left() - 4, y), QPointF(box.right() + 4, y));
    painter.setBrush(t.bad);
    painter.drawPolygon(QPolygonF{{box.left() - 6, y - 4}, {box.left() - 6, y + 4}, {box.left() - 1, y}});
  }
}

} // namespace kiln
