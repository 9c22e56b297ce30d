// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "strip/NetworkPage.h"
#include "strip/TableText.h"

#include "geometry/SurfaceFaces.h"
#include "look/Theme.h"
#include "model/Edit.h"

#include <QMouseEvent>
#include <QPainter>
#include <QToolButton>
#include <algorithm>
#include <cmath>
#include <map>

namespace kiln
{
namespace
{

/// What a boundary exchanges with, K, where it is one temperature.
std::optional<double> ambientOf(const Boundary& boundary)
{
  return std::visit(
      [](const auto& kind) -> std::optional<double> {
        if constexpr (requires { kind.ambient.si; })
          return kind.ambient.si;
        else if constexpr (requires { kind.surroundings.si; })
          return kind.surroundings.si;
        else if constexpr (requires { kind.temperature.si; })
          return kind.temperature.si;
        else
          return std::nullopt;
      },
      boundary.condition);
}

} // namespace
NetworkPage::NetworkPage(Document& document, Preferences& preferences, QWidget* parent)
    : QWidget(parent), document_(document), preferences_(preferences), resistances_(new QToolButton(this))
{
  markChart(*this);
  resistances_->setText(tr("K/W"));
  resistances_->setObjectName("networkResistances");
  resistances_->setToolTip(tr("Show what each line resists: the difference of its ends over its watts"));
  resistances_->setCheckable(true);
  resistances_->move(6, 4);
  connect(resistances_, &QToolButton::toggled, this, qOverload<>(&QWidget::update));
  setObjectName("network");
  setAccessibleName(tr("Network of nodes and parts"));
  setMouseTracking(true);
  connect(&document, &Document::resultChanged, this, &NetworkPage::refresh);
  connect(&document, &Document::shownCaseChanged, this, &NetworkPage::refresh);
  connect(&preferences, &Preferences::unitChanged, this, &NetworkPage::refresh);
  refresh();
}

void NetworkPage::refresh()
{
  boxes_.clear();
  lines_.clear();
  addBoxes();
  addLines();
  place();
  update();
}

void NetworkPage::addBoxes()
{
  const Project& project = document_.shownProject();
  const ShownFigures* figures = document_.shownFigures();
  const auto text = [&](double kelvin) {
    return QString::fromStdString(formatQuantity(kelvin, Quantity::Temperature, preferences_.temperatureUnit()));
  };
  const auto whole = [&](double kelvin) {
    return QString::number(qRound(toDisplay(kelvin, Quantity::Temperature, preferences_.temperatureUnit()))) + " " +
           QString::fromStdString(displayUnit(Quantity::Temperature, preferences_.temperatureUnit()));
  };
  for (const Node& node : project.nodes) {
    if (node.muted)
      continue;
    Box box{node.id, QString::fromStdString(node.name), {}, {}, true, false, {}};
    for (const NodeState& state : figures != nullptr ? figures->nodes : std::vector<NodeState>{})
      if (state.id == node.id) {
        box.figure = text(state.temperature);
        box.kelvin = state.temperature;
      }
    boxes_.push_back(box);
  }
  for (const Part& part : project.parts) {
    if (isMuted(project, part))
      continue;
    Box box{part.id, QString::fromStdString(part.name), {}, {}, false, false, {}};
    for (const PartFigures& own : figures != nullptr ? figures->parts : std::vector<PartFigures>{})
      if (own.id == part.id) {
        box.figure = tr("mean %1 · max %2").arg(whole(own.mean), whole(own.hottest.value));
        box.kelvin = own.mean;
      }
    boxes_.push_back(box);
  }
  const auto meetsWorld = [](const Boundary& boundary) { return !boundary.muted && nodeOf(boundary).empty(); };
  if (std::any_of(project.boundaries.begin(), project.boundaries.end(), meetsWorld))
    boxes_.push_back({surroundingsId, tr("Surroundings"), {}, {}, false, true, {}});
}

void NetworkPage::addLine(const std::string& id, const std::string& a, const std::string& b, const QString& set,
                          std::optional<double> watts, std::optional<double> outside)
{
  const auto from = boxOf(a);
  const auto to = boxOf(b);
  if (!from || !to || *from == *to)
    return;
  Line line{id, *from, *to, watts ? wattsText(std::abs(*watts)) : set, watts.value_or(0), watts.has_value(), {}};
  const auto kelvin = [&](const Box& box) { return box.isSurroundings ? outside : box.kelvin; };
  if (kelvin(boxes_[*from]) && kelvin(boxes_[*to]))
    line.drop = std::abs(*kelvin(boxes_[*from]) - *kelvin(boxes_[*to]));
  if (line.watts < 0) { // arrows point where the heat goes
    std::swap(line.from, line.to);
    line.watts = -line.watts;
  }
  lines_.push_back(std::move(line));
}

void NetworkPage::addLines()
{
  const Project& project = document_.shownProject();
  const ShownFigures* figures = document_.shownFigures();
  const auto flow = [](const std::vector<LedgerFlow>& flows, const std::string& id) -> std::optional<double> {
    for (const LedgerFlow& own : flows)
      if (own.id == id)
        return own.watts;
    return std::nullopt;
  };
  const auto mesh = document_.shownMesh();
  const auto partsOn = [&](const std::string& surface) {
    std::vector<std::string> parts;
    if (mesh)
      for (const FaceId face : facesOf(project, mesh->geometry, surface).faces) {
        const std::string& id =
            mesh->geometry
                .parts[static_cast<std::size_t>(mesh->geometry.faces[static_cast<std::size_t>(face)].parts[0])]
                .id;
        if (std::find(parts.begin(), parts.end(), id) == parts.end())
          parts.push_back(id);
      }
    return parts;
  };
  for (const Link& link : project.links) {
    if (link.muted)
      continue;
    const auto watts = figures != nullptr ? flow(figures->links, link.id) : std::nullopt;
    std::visit(
        [&](const auto& kind) {
          const auto bodyOf = [&](const std::string& end) {
            const std::vector<std::string> parts = partsOn(end);
            return parts.empty() ? end : parts.front();
          };
          if constexpr (requires { kind.endA; })
            addLine(link.id, bodyOf(kind.endA), bodyOf(kind.endB), QString::fromStdString(link.name), watts);
          else
            addLine(link.id, kind.upstream, kind.downstream, QString::fromStdString(link.name), watts);
        },
        link.exchange);
  }
  if (figures != nullptr)
    for (const ContactFigure& contact : figures->contacts)
      addLine(pairId(contact.partA, contact.partB), contact.partA, contact.partB, {}, contact.watts);
  std::map<std::string, double> outside;
  for (const Boundary& boundary : project.boundaries) {
    if (boundary.muted)
      continue;
    const auto watts = figures != nullptr ? flow(figures->boundaries, boundary.id) : std::nullopt;
    const std::vector<std::string> parts = partsOn(surfaceOf(boundary));
    for (const std::string& part : parts) // all of it is said once, at the first
      addLine(boundary.id, nodeOf(boundary).empty() ? surroundingsId : nodeOf(boundary), part,
              QString::fromStdString(boundary.name), &part == &parts.front() ? watts : std::nullopt,
              ambientOf(boundary));
  }
}

std::optional<std::size_t> NetworkPage::boxOf(const std::string& id) const
{
  for (std::size_t i = 0; i < boxes_.size(); ++i)
    if (boxes_[i].id == id)
      return i;
  return std::nullopt;
}

/// Everything where it was put; else nodes and surroundings along the middle, parts above and below.
void NetworkPage::place()
{
  const auto isPart = [](const Box& box) { return !box.isNode && !box.isSurroundings; };
  const auto parts = static_cast<int>(std::count_if(boxes_.begin(), boxes_.end(), isPart));
  const int middles = static_cast<int>(boxes_.size()) - parts;
  const int above = (parts + 1) / 2;
  int part = 0;
  int middle = 0;
  const auto along = [&](int index, int count) { return width() * (index + 0.5) / std::max(count, 1); };
  for (std::size_t i = 0; i < boxes_.size(); ++i) {
    if (!isPart(boxes_[i]))
      boxes_[i].middle = QPointF(along(middle++, middles), height() * 0.5);
    else if (part < above)
      boxes_[i].middle = QPointF(along(part++, above), height() * 0.14);
    else
      boxes_[i].middle = QPointF(along(part++ - above, parts - above), height() * 0.86);
    if (const NetworkPlace* kept = findById(document_.project().network, boxes_[i].id))
      boxes_[i].middle = QPointF(width() * kept->across.si, height() * kept->down.si);
  }
}

QRectF NetworkPage::rectOf(const Box& box) const
{
  const QFontMetrics metrics = fontMetrics();
  const double wide = std::max(metrics.horizontalAdvance(box.name), metrics.horizontalAdvance(box.figure)) + 18.0;
  const double tall = metrics.height() * (box.figure.isEmpty() ? 1 : 2) + 8.0;
  QRectF rect(box.middle.x() - wide / 2, box.middle.y() - tall / 2, wide, tall);
  rect.moveLeft(std::clamp(rect.left(), 2.0, std::max(2.0, width() - wide - 2)));
  rect.moveTop(std::clamp(rect.top(), 2.0, std::max(2.0, height() - tall - 2)));
  return rect;
}

QString NetworkPage::wattsText(double watts) const
{
  return QString::fromStdString(
      formatQuantity(watts, heatQuantity(document_.shownProject()), preferences_.temperatureUnit(), 3));
}

/// Watts, or what the line resists; what was set where nothing is solved.
QString NetworkPage::textOf(const Line& line) const
{
  if (!resistances_->isChecked() || !line.solved)
    return line.text;
  if (!line.drop || line.watts < 1e-9)
    return {};
  return QString::fromStdString(formatQuantity(*line.drop / line.watts, Quantity::Resistance, {}, 3));
}

void NetworkPage::paintEvent(QPaintEvent* /*event*/)
{
  QPainter painter(this);
  painter.setRenderHint(QPainter::Antialiasing);
  const Theme& t = theme();
  if (boxes_.empty()) {
    painter.setPen(t.quiet);
    painter.drawText(rect(), Qt::AlignCenter, tr("Nothing to draw yet. Add parts or lumped nodes in the ledger."));
    return;
  }
  double most = 1e-12;
  for (const Line& line : lines_)
    most = std::max(most, line.watts);
  for (const Line& line : lines_) {
    const QPointF a = rectOf(boxes_[line.from]).center();
    const QPointF b = rectOf(boxes_[line.to]).center();
    painter.setPen(QPen(line.solved ? t.accent : t.line, 1 + 4 * line.watts / most));
    painter.drawLine(a, b);
  }
  for (const Line& line : lines_) {
    const QPointF a = rectOf(boxes_[line.from]).center();
    const QPointF b = rectOf(boxes_[line.to]).center();
    const QPointF middle = (a + b) / 2;
    if (line.solved && line.watts > 0) { // an arrow where the heat goes
      const QPointF along = (b - a) / std::max(1e-9, std::hypot(b.x() - a.x(), b.y() - a.y()));
      const QPointF across(-along.y(), along.x());
      const QPointF tip = middle + 14 * along;
      painter.setPen(Qt::NoPen);
      painter.setBrush(t.accent);
      painter.drawPolygon(QPolygonF({tip, tip - 9 * along + 5 * across, tip - 9 * along - 5 * across}));
    }
    const bool anySolved = document_.shownFigures() != nullptr;
    const QString text = textOf(line);
    if (text.isEmpty() || (anySolved && !line.solved) || (line.solved && line.watts < 0.002 * most))
      continue;
    const QRectF box = QRectF(fontMetrics().boundingRect(text)).adjusted(-4, -1, 4, 1);
    QRectF at(middle - QPointF(box.width() / 2, box.height() + 4), box.size());
    QColor paper = t.panel;
    paper.setAlpha(215);
    painter.setPen(Qt::NoPen);
    painter.setBrush(paper);
    painter.drawRoundedRect(at, 3, 3);
    painter.setPen(line.solved ? t.text : t.quiet);
    painter.drawText(at, Qt::AlignCenter, text);
  }
  for (const Box& box : boxes_) {
    const QRectF rect = rectOf(box);
    painter.setPen(QPen(document_.selectedId() == box.id ? t.accent : t.line, box.isNode ? 1.8 : 1));
    painter.setBrush(t.raised);
    const double corner = box.isNode ? rect.height() / 2 : 3;
    painter.drawRoundedRect(rect, corner, corner);
    painter.setPen(box.isSurroundings ? t.quiet : t.text);
    painter.drawText(rect.adjusted(0, 3, 0, 0),
                     Qt::AlignHCenter | (box.figure.isEmpty() ? Qt::AlignVCenter : Qt::AlignTop), box.name);
    painter.setPen(t.quiet);
    painter.drawText(rect.adjusted(0, 0, 0, -3), Qt::AlignHCenter | Qt::AlignBottom, box.figure);
  }
}

void NetworkPage::resizeEvent(QResizeEvent* /*event*/) { place(); }

std::optional<std::size_t> NetworkPage::boxAt(const QPointF& pixel) const
{
  for (std::size_t i = boxes_.size(); i-- > 0;)
    if (rectOf(boxes_[i]).contains(pixel))
      return i;
  return std::nullopt;
}

void NetworkPage::mousePressEvent(QMouseEvent* event)
{
  dragged_ = boxAt(event->position());
  moved_ = false;
  if (!dragged_)
    return;
  const std::string id = boxes_[*dragged_].id;
  if (!boxes_[*dragged_].isSurroundings)
    document_.select(id);
  update();
}

void NetworkPage::mouseMoveEvent(QMouseEvent* event)
{
  if (!dragged_ || !event->buttons().testFlag(Qt::LeftButton))
    return;
  moved_ = true;
  boxes_[*dragged_].middle = event->position();
  update();
}

void NetworkPage::mouseReleaseEvent(QMouseEvent* event)
{
  if (dragged_ && moved_) {
    const std::string id = boxes_[*dragged_].id;
    const auto share = [](double at, int whole) {
      return Number{std::round(1000 * std::clamp(at / std::max(whole, 1), 0.0, 1.0)) / 1000, {}, false};
    };
    const Number across = share(event->position().x(), width());
    const Number down = share(event->position().y(), height());
    document_.edit(tr("Place in the network"), [&](Project& project) {
      std::erase_if(project.network, [&](const NetworkPlace& place) { return place.id == id; });
      project.network.push_back({id, across, down});
    });
  }
  dragged_.reset();
}

} // namespace kiln
