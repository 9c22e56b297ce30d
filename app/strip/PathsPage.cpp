// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "strip/PathsPage.h"

#include "base/At.h"
#include "look/DrawnWidget.h"
#include "look/Theme.h"
#include "scene/ColorMap.h"
#include "strip/TableText.h"

#include <QHBoxLayout>
#include <QMouseEvent>
#include <QPainter>
#include <QToolButton>
#include <QVBoxLayout>
#include <algorithm>
#include <cmath>

namespace kiln
{
namespace
{

using Kind = PathBlock::Kind;

constexpr double blockWidth = 12, top = 22, bottom = 8, nameGap = 5, between = 9; // px

QString wattsOf(double watts) { return QString::fromStdString(formatQuantity(watts, Quantity::Power, {}, 3)); }

QColor kindColor(Kind kind)
{
  const Theme& t = theme();
  switch (kind) {
  case Kind::Source:
    return {214, 96, 44};
  case Kind::Outside:
    return {70, 132, 150};
  case Kind::Store:
    return {138, 122, 168};
  case Kind::Between:
  case Kind::Node:
    return t.quiet;
  case Kind::Part:
  case Kind::Group:
    break;
  }
  return t.text;
}

} // namespace

PathsCanvas::PathsCanvas(Document& document, Preferences& preferences, QWidget* parent)
    : QWidget(parent), document_(document), preferences_(preferences)
{
  markChart(*this);
  setObjectName("pathsCanvas");
  setAccessibleName(tr("Ways of the heat"));
  setMouseTracking(true);
}

void PathsCanvas::setPaths(HeatPaths paths)
{
  paths_ = std::move(paths);
  update();
}

void PathsCanvas::setResistances(bool shown)
{
  resistances_ = shown;
  update();
}

/// Columns share the width, watts the height; bands leave and reach a block in the order of where they go.
PathsCanvas::Placed PathsCanvas::place(const QSizeF& size) const
{
  Placed placed;
  std::vector<std::vector<std::size_t>> columns(paths_.columns);
  for (std::size_t b = 0; b < paths_.blocks.size(); ++b)
    columns[paths_.blocks[b].column].push_back(b);
  double perWatt = 1e300;
  for (auto& own : columns) {
    std::sort(own.begin(), own.end(),
              [this](std::size_t a, std::size_t b) { return paths_.blocks[a].row < paths_.blocks[b].row; });
    double watts = 0;
    for (const std::size_t b : own)
      watts += paths_.blocks[b].watts();
    const double room = size.height() - top - bottom - between * static_cast<double>(own.size());
    if (watts > 0)
      perWatt = std::min(perWatt, std::max(room, 10.0) / watts);
  }
  placed.perWatt = perWatt;
  placed.blocks.resize(paths_.blocks.size());
  constexpr double names = 120; // px kept at the right
  const double step = paths_.columns > 1
                          ? (size.width() - 2 * nameGap - blockWidth - names) / static_cast<double>(paths_.columns - 1)
                          : 0;
  for (std::size_t c = 0; c < columns.size(); ++c) {
    double used = 0;
    for (const std::size_t b : columns[c])
      used += paths_.blocks[b].watts() * perWatt + between;
    double y = top + std::max(0.0, (size.height() - top - bottom - used) / 2);
    for (const std::size_t b : columns[c]) {
      const double high = std::max(1.0, paths_.blocks[b].watts() * perWatt);
      placed.blocks[b] = QRectF(nameGap + static_cast<double>(c) * step, y, blockWidth, high);
      y += high + between;
    }
  }
  std::vector<std::size_t> order(paths_.bands.size());
  for (std::size_t i = 0; i < order.size(); ++i)
    order[i] = i;
  std::vector<double> left(paths_.blocks.size(), 0), right(paths_.blocks.size(), 0);
  std::vector<double> fromY(order.size()), toY(order.size());
  std::sort(order.begin(), order.end(), [&](std::size_t a, std::size_t b) {
    return placed.blocks[paths_.bands[a].to].top() < placed.blocks[paths_.bands[b].to].top();
  });
  for (const std::size_t i : order) {
    const PathBand& band = paths_.bands[i];
    fromY[i] = placed.blocks[band.from].top() + right[band.from];
    right[band.from] += band.watts * perWatt;
  }
  std::sort(order.begin(), order.end(), [&](std::size_t a, std::size_t b) {
    return placed.blocks[paths_.bands[a].from].top() < placed.blocks[paths_.bands[b].from].top();
  });
  for (const std::size_t i : order) {
    const PathBand& band = paths_.bands[i];
    toY[i] = placed.blocks[band.to].top() + left[band.to];
    left[band.to] += band.watts * perWatt;
  }
  for (std::size_t i = 0; i < paths_.bands.size(); ++i) {
    const PathBand& band = paths_.bands[i];
    const double wide = std::max(0.7, band.watts * perWatt);
    const QPointF from(placed.blocks[band.from].right(), fromY[i]);
    const QPointF to(placed.blocks[band.to].left(), toY[i]);
    const double bend = std::max(40.0, std::abs(to.x() - from.x()) / 2);
    QPainterPath path(from);
    path.cubicTo(from + QPointF(bend, 0), to - QPointF(bend, 0), to);
    path.lineTo(to + QPointF(0, wide));
    path.cubicTo(to + QPointF(-bend, wide), from + QPointF(bend, wide), from + QPointF(0, wide));
    path.closeSubpath();
    placed.bands.push_back(path);
    placed.middles.push_back((from + to) / 2 + QPointF(0, wide / 2));
  }
  return placed;
}

QRectF PathsCanvas::blockBox(std::size_t block) const { return place(size()).blocks[block]; }
QPointF PathsCanvas::bandMiddle(std::size_t band) const { return place(size()).middles[band]; }

std::optional<double> PathsCanvas::kelvinOf(const PathBlock& block) const
{
  const ShownFigures* figures = document_.shownFigures();
  for (const PartFigures& part : figures != nullptr ? figures->parts : std::vector<PartFigures>{})
    if (part.id == block.id)
      return part.mean;
  for (const NodeState& node : figures != nullptr ? figures->nodes : std::vector<NodeState>{})
    if (node.id == block.id)
      return node.temperature;
  return std::nullopt;
}

QString PathsCanvas::bandText(const PathBand& band) const
{
  const PathBlock& from = paths_.blocks[band.from];
  const PathBlock& to = paths_.blocks[band.to];
  QString text =
      QString::fromStdString(from.name) + " → " + QString::fromStdString(to.name) + ": " + wattsOf(band.watts);
  if (const auto a = kelvinOf(from), b = kelvinOf(to); a && b)
    text +=
        tr(", %1 between their means")
            .arg(QString::fromStdString(formatQuantity(std::abs(*a - *b) / band.watts, Quantity::Resistance, {}, 3)));
  return text;
}

void PathsCanvas::draw(QPainter& painter, const QSizeF& size) const
{
  const Theme& t = theme();
  painter.setRenderHint(QPainter::Antialiasing);
  if (paths_.bands.empty()) {
    painter.setPen(t.quiet);
    painter.drawText(QRectF(QPointF(), size), Qt::AlignCenter,
                     document_.shownState().result
                         ? tr("Nothing flows, or the result is from before heat paths were kept: solve again.")
                         : tr("Not solved yet. Heat paths are drawn from the ledger of a result."));
    return;
  }
  const Placed placed = place(size);
  double coldest = 1e300;
  double hottest = 0;
  for (const PathBlock& block : paths_.blocks)
    if (const auto kelvin = kelvinOf(block)) {
      coldest = std::min(coldest, *kelvin);
      hottest = std::max(hottest, *kelvin);
    }
  constexpr double dimmest = 0.16;            // of the palette: it has to be seen on the dark
  const double brightest = t.dark ? 1 : 0.86; // and on the bright
  const int hit = pointer_ ? bandAt(*pointer_) : -1;
  for (std::size_t i = 0; i < placed.bands.size(); ++i) {
    const Kind to = paths_.blocks[paths_.bands[i].to].kind;
    const PathBlock& from = paths_.blocks[paths_.bands[i].from];
    QColor color = kindColor(from.kind == Kind::Source ? Kind::Source : to);
    if (const auto kelvin = kelvinOf(from); kelvin && hottest > coldest) // what comes out of a part is as warm as it
      color = kilnGlow(dimmest + (brightest - dimmest) * (*kelvin - coldest) / (hottest - coldest));
    constexpr int faint = 120, lit = 210;
    color.setAlpha(hit == static_cast<int>(i) ? lit : faint);
    painter.setPen(Qt::NoPen);
    painter.setBrush(color);
    painter.drawPath(placed.bands[i]);
  }
  const QFontMetricsF metrics(painter.font());
  QColor paper = t.panel;
  constexpr int veil = 150;
  paper.setAlpha(veil);
  std::vector<QRectF> taken;
  const auto write = [&](QRectF box, const QString& text, const QColor& ink, int align) {
    for (int tries = 0; tries < 6; ++tries) {
      if (std::none_of(taken.begin(), taken.end(), [&](const QRectF& other) { return other.intersects(box); }))
        break;
      box.translate(0, metrics.height() * 0.9);
    }
    taken.push_back(box);
    painter.fillRect(box.adjusted(-2, 0, 2, 0), paper); // words stay readable over bands
    painter.setPen(ink);
    painter.drawText(box, align, text);
  };
  for (std::size_t b = 0; b < placed.blocks.size(); ++b) {
    const PathBlock& block = paths_.blocks[b];
    painter.setPen(Qt::NoPen);
    painter.setBrush(document_.selectedId() == block.id ? t.accent : kindColor(block.kind));
    painter.drawRect(placed.blocks[b]);
  }
  for (std::size_t b = 0; b < placed.blocks.size(); ++b) { // over the blocks of the next column, too
    const PathBlock& block = paths_.blocks[b];
    const QString text = QString::fromStdString(block.name) + "  " + wattsOf(block.watts());
    const double wide = metrics.horizontalAdvance(text) + 2;
    const QRectF& own = placed.blocks[b];
    write(QRectF(own.right() + nameGap, own.center().y() - metrics.height() / 2, wide, metrics.height()), text, t.text,
          Qt::AlignLeft | Qt::AlignVCenter);
  }
  if (resistances_)
    for (std::size_t i = 0; i < placed.bands.size(); ++i) {
      const PathBand& band = paths_.bands[i];
      const auto a = kelvinOf(paths_.blocks[band.from]);
      const auto b = kelvinOf(paths_.blocks[band.to]);
      if (!a || !b || band.watts * placed.perWatt < 2)
        continue;
      const QString text =
          QString::fromStdString(formatQuantity(std::abs(*a - *b) / band.watts, Quantity::Resistance, {}, 2));
      const double wide = metrics.horizontalAdvance(text) + 2;
      write(QRectF(placed.middles[i] - QPointF(wide / 2, metrics.height() / 2), QSizeF(wide, metrics.height())), text,
            t.quiet, Qt::AlignCenter);
    }
  painter.setPen(t.quiet);
  painter.drawText(
      QRectF(nameGap, 2, size.width() - 2 * nameGap, top - 4), Qt::AlignLeft | Qt::AlignVCenter,
      tr("in %1 · out %2 · stored %3").arg(wattsOf(paths_.in), wattsOf(paths_.out), wattsOf(paths_.stored)));
  if (hit >= 0)
    painter.drawText(QRectF(nameGap, 2, size.width() - 2 * nameGap, top - 4), Qt::AlignRight | Qt::AlignVCenter,
                     bandText(paths_.bands[at(hit)]));
}

void PathsCanvas::paintEvent(QPaintEvent* /*event*/)
{
  QPainter painter(this);
  draw(painter, size());
}

int PathsCanvas::bandAt(const QPointF& pixel) const
{
  const Placed placed = place(size());
  for (std::size_t i = placed.bands.size(); i-- > 0;)
    if (placed.bands[i].contains(pixel))
      return static_cast<int>(i);
  return -1;
}

int PathsCanvas::blockAt(const QPointF& pixel) const
{
  const Placed placed = place(size());
  for (std::size_t b = 0; b < placed.blocks.size(); ++b)
    if (placed.blocks[b].adjusted(-2, -2, 2, 2).contains(pixel))
      return static_cast<int>(b);
  return -1;
}

QString PathsCanvas::textAt(const QPointF& pixel) const
{
  if (const int block = blockAt(pixel); block >= 0)
    return QString::fromStdString(paths_.blocks[at(block)].name) + ": " + wattsOf(paths_.blocks[at(block)].watts());
  const int band = bandAt(pixel);
  return band >= 0 ? bandText(paths_.bands[at(band)]) : QString();
}

/// A block's own; of a band what it passes, else the end that has a row of its own in the ledger.
std::string PathsCanvas::objectAt(const QPointF& pixel) const
{
  if (const int block = blockAt(pixel); block >= 0)
    return paths_.blocks[at(block)].id;
  const int hit = bandAt(pixel);
  if (hit < 0)
    return {};
  const PathBand& band = paths_.bands[at(hit)];
  if (!band.via.empty())
    return band.via;
  const PathBlock& from = paths_.blocks[band.from];
  return from.kind == Kind::Part || from.kind == Kind::Group ? paths_.blocks[band.to].id : from.id;
}

void PathsCanvas::mouseMoveEvent(QMouseEvent* event)
{
  pointer_ = event->position();
  emit pointed(objectAt(*pointer_));
  update();
}

void PathsCanvas::mousePressEvent(QMouseEvent* event)
{
  if (const std::string id = objectAt(event->position()); !id.empty())
    emit chosen(id);
}

void PathsCanvas::leaveEvent(QEvent* /*event*/)
{
  pointer_.reset();
  emit pointed({});
  update();
}

PathsPage::PathsPage(Document& document, Preferences& preferences, QWidget* parent)
    : QWidget(parent), document_(document), canvas_(new PathsCanvas(document, preferences)), folded_(new QToolButton),
      resistances_(new QToolButton)
{
  setObjectName("pathsPage");
  auto* layout = new QVBoxLayout(this);
  layout->setContentsMargins(6, 0, 6, 2);
  layout->setSpacing(1);
  auto* head = new QHBoxLayout;
  head->addStretch();
  const auto button = [&](QToolButton* tool, const QString& text, const QString& tip, const char* name) {
    tool->setText(text);
    tool->setToolTip(tip);
    tool->setAccessibleName(tip);
    tool->setObjectName(name);
    head->addWidget(tool);
    return tool;
  };
  button(folded_, tr("Groups"), tr("Part groups as one block each"), "pathsFolded")->setCheckable(true);
  button(resistances_, tr("K/W"), tr("Resistances between parts: the difference of their means over the watts"),
         "pathsResistances")
      ->setCheckable(true);
  connect(button(new QToolButton, tr("Copy"), tr("Copy the picture, as drawing and as pixels"), "pathsCopy"),
          &QToolButton::clicked, this, &PathsPage::copyPicture);
  connect(button(new QToolButton, tr("Save…"), tr("Save the picture as SVG or PNG"), "pathsSave"),
          &QToolButton::clicked, this, &PathsPage::savePicture);
  layout->addLayout(head);
  layout->addWidget(canvas_, 1);
  connect(folded_, &QToolButton::toggled, this, &PathsPage::refresh);
  connect(resistances_, &QToolButton::toggled, canvas_, &PathsCanvas::setResistances);
  connect(canvas_, &PathsCanvas::chosen, this, [this](const std::string& id) { document_.select(id); });
  connect(canvas_, &PathsCanvas::pointed, &document, &Document::lightObject);
  for (auto signal : {&Document::resultChanged, &Document::shownCaseChanged, &Document::instantMoved})
    connect(&document, signal, this, [this] {
      if (isVisible())
        refresh();
    });
  connect(&document, &Document::selectionChanged, canvas_, qOverload<>(&QWidget::update));
}

void PathsPage::showEvent(QShowEvent* event)
{
  QWidget::showEvent(event);
  refresh();
}

void PathsPage::refresh()
{
  const ShownFigures* figures = document_.shownFigures();
  if (figures == nullptr)
    return canvas_->setPaths({});
  std::vector<std::string> folded;
  for (const PartGroup& group : document_.shownProject().groups)
    if (folded_->isChecked())
      folded.push_back(group.id);
  const auto result = document_.shownState().result;
  canvas_->setPaths(heatPaths(
      document_.shownProject(),
      {figures->paths, figures->contacts, figures->links, figures->nodes, result ? result->heatFloor : 0}, folded));
}

void PathsPage::copyPicture() { copyDrawn(*canvas_, document_.title()); }

void PathsPage::savePicture() { saveChart(*canvas_, document_.title()); }

} // namespace kiln
