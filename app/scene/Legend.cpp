// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "scene/Legend.h"

#include "fields/QuantityField.h"
#include "look/Theme.h"
#include "results/LevelLines.h"
#include "scene/ColorMap.h"
#include "units/UnitSet.h"

#include <QPainter>
#include <QToolButton>
#include <cmath>

namespace kiln
{
namespace
{

/// The one unit of the whole scale: with a prefix where its numbers would be long.
struct Scale {
  double per = 1;
  std::string unit;
};
Scale scaleOf(Quantity quantity, TemperatureUnit unit, const std::pair<double, double>& ends)
{
  const double size = std::max(std::abs(ends.first), std::abs(ends.second));
  constexpr double thousand = 1000;
  constexpr double longPower = 1e3, longFlux = 1e4; // as single figures are written
  const bool isLong =
      (quantity == Quantity::Power && size >= longPower) || (quantity == Quantity::HeatFlux && size >= longFlux);
  const bool prefixed = isLong && unitSet() == UnitSet::Prefixed;
  const std::string plain = displayUnit(quantity, unit);
  return prefixed ? Scale{thousand, "k" + plain} : Scale{1, plain};
}

std::string endText(double si, Quantity quantity, TemperatureUnit unit, const std::pair<double, double>& ends,
                    int digits)
{
  const Scale scale = scaleOf(quantity, unit, ends);
  if (scale.per == 1)
    return formatQuantity(si, quantity, unit, digits);
  return formatQuantity(si / scale.per, Quantity::Plain, unit, digits) + " " + scale.unit;
}

} // namespace

Legend::Legend(QWidget* parent)
    : Repainted(parent), top_(new QuantityField(Quantity::Temperature, Range::NonNegative, this)),
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

void Legend::setColoring(const Coloring& coloring) { take(coloring_, coloring); }

void Legend::setDigits(int digits) { take(digits_, digits); }

void Legend::setLevels(std::vector<double> levels) { take(levels_, std::move(levels)); }

void Legend::setRange(double low, double high)
{
  take(low_, low);
  take(high_, high);
  const auto text = [this](double si) {
    return endText(si, quantity_, unit_, {low_, high_}, digits_ > 0 ? digits_ : 4);
  };
  top_->setNumber(Number{high, text(high)});
  bottom_->setNumber(Number{low, text(low)});
  const QFontMetrics metrics = top_->fontMetrics();
  const int wide = std::max(metrics.horizontalAdvance(top_->text()), metrics.horizontalAdvance(bottom_->text()));
  resize(std::max(wide, metrics.horizontalAdvance("1000.0 °C")) + 34, height());
}

void Legend::setQuantity(Quantity quantity)
{
  if (quantity == quantity_)
    return;
  quantity_ = quantity;
  top_->setQuantity(quantity);
  bottom_->setQuantity(quantity);
  update();
}

void Legend::setLimits(std::vector<std::pair<double, QString>> limits) { take(limits_, std::move(limits)); }

void Legend::setTemperatureUnit(TemperatureUnit unit)
{
  unit_ = unit;
  top_->setTemperatureUnit(unit);
  bottom_->setTemperatureUnit(unit);
  setRange(low_, high_);
  update();
}

QString Legend::numberText(double shown, double step) const
{
  constexpr int usual = 5;
  const double rounded = std::abs(shown) < step * 1e-9 ? 0.0 : shown;
  return QString::number(rounded, 'g', digits_ > 0 ? digits_ : usual).replace('-', QChar(0x2212));
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
  paintBar(painter, scaleBox());
}

void Legend::paintScale(QPainter& painter, const QRectF& room) const
{
  painter.setFont(font());
  painter.setPen(theme().text);
  const double line = fontMetrics().height();
  painter.drawText(QRectF(room.left(), room.top(), room.width(), line), Qt::AlignLeft,
                   QString::fromStdString(scaleOf(quantity_, unit_, {low_, high_}).unit));
  paintBar(painter, QRectF(room.left() + 6, room.top() + line + 8, 16, room.height() - line - 12));
}

/// Colours, numbers beside them, lines of equal value across, limits.
void Legend::paintBar(QPainter& painter, const QRectF& box) const
{
  const Theme& t = theme();
  const int rows = std::max(1, static_cast<int>(box.height()));
  for (int y = 0; y < rows; ++y)
    painter.fillRect(QRectF(box.left(), box.bottom() - y - 1, box.width(), 1.5),
                     colorOf(coloring_.palette, (y + 0.5) / rows, coloring_.steps));
  if (!(high_ > low_))
    return;
  const double per = scaleOf(quantity_, unit_, {low_, high_}).per;
  const double low = toDisplay(low_, quantity_, unit_) / per;
  const double high = toDisplay(high_, quantity_, unit_) / per;
  const auto siOf = [&](double shown) { return low_ + (shown - low) / (high - low) * (high_ - low_); };
  const auto yOf = [&](double shown) { return box.bottom() - coloring_.shareOf(siOf(shown)) * box.height(); };
  const double step = roundStep(high - low, 6);
  std::vector<double> ticks = roundLevels(low, high, 6);
  if (coloring_.logarithmic && low > 0) { // 1, 2, 5 of each decade
    ticks.clear();
    for (double decade = std::pow(10, std::floor(std::log10(low))); decade <= high; decade *= 10)
      for (const double factor : {1.0, 2.0, 5.0})
        if (factor * decade >= low && factor * decade <= high)
          ticks.push_back(factor * decade);
  }
  painter.setPen(t.text);
  const double line = fontMetrics().height();
  for (const double tick : ticks) {
    const double y = yOf(tick);
    painter.drawLine(QPointF(box.right(), y), QPointF(box.right() + 4, y));
    painter.drawText(QRectF(box.right() + 7, y - line / 2, 90, line), Qt::AlignVCenter, numberText(tick, step));
  }
  painter.setPen(QPen(QColor(20, 20, 24), 1));
  for (const double level : levels_)
    if (const double y = yOf(toDisplay(level, quantity_, unit_) / per); y > box.top() && y < box.bottom())
      painter.drawLine(QPointF(box.left(), y), QPointF(box.right(), y));
  for (const auto& [limit, name] : limits_) {
    const double y = yOf(toDisplay(limit, quantity_, unit_) / per);
    if (y < box.top() || y > box.bottom())
      continue;
    painter.setPen(QPen(t.bad, 2));
    painter.drawLine(QPointF(box.left() - 4, y), QPointF(box.right() + 4, y));
    painter.setBrush(t.bad);
    painter.drawPolygon(QPolygonF{{box.left() - 6, y - 4}, {box.left() - 6, y + 4}, {box.left() - 1, y}});
  }
}

} // namespace kiln
