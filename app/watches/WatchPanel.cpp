// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "watches/WatchPanel.h"

#include "geometry/TouchingPairs.h"
#include "watches/WatchCard.h"

#include <QLabel>
#include <QMenu>
#include <QScrollArea>
#include <QToolButton>
#include <QVBoxLayout>
#include <algorithm>

namespace kiln
{

WatchPanel::WatchPanel(Document& document, Preferences& preferences, QWidget* parent)
    : QWidget(parent), document_(document), preferences_(preferences), cards_(new QVBoxLayout), add_(new QToolButton)
{
  setObjectName("panel");
  setAttribute(Qt::WA_StyledBackground);
  auto* layout = new QVBoxLayout(this);
  layout->setContentsMargins(0, 6, 0, 0);
  layout->setSpacing(4);
  auto* head = new QHBoxLayout;
  head->setContentsMargins(10, 0, 6, 0);
  auto* title = new QLabel(tr("WATCHES"));
  title->setProperty("role", "title");
  head->addWidget(title);
  head->addStretch();
  add_->setText(tr("+ Watch"));
  add_->setObjectName("addWatch");
  add_->setToolTip(tr("Watch another figure; it is read from the stored result at once"));
  connect(add_, &QToolButton::clicked, this, &WatchPanel::showAddMenu);
  head->addWidget(add_);
  layout->addLayout(head);
  auto* body = new QWidget;
  body->setObjectName("panelBody");
  auto* bodyLayout = new QVBoxLayout(body);
  bodyLayout->setContentsMargins(8, 0, 8, 8);
  cards_->setSpacing(6);
  bodyLayout->addLayout(cards_);
  bodyLayout->addStretch();
  auto* scroll = new QScrollArea;
  scroll->setWidget(body);
  scroll->setWidgetResizable(true);
  scroll->setFrameShape(QFrame::NoFrame);
  scroll->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
  layout->addWidget(scroll);
  connect(&document, &Document::resultChanged, this, &WatchPanel::refresh);
  connect(&preferences, &Preferences::unitChanged, this, &WatchPanel::refresh);
  refresh();
}

void WatchPanel::refresh()
{
  const auto& watches = document_.project().watches;
  const auto sameId = [](const WatchCard* card, const Watch& watch) { return card->watchId() == watch.id; };
  if (!std::equal(views_.begin(), views_.end(), watches.begin(), watches.end(), sameId)) {
    for (WatchCard* card : views_) {
      card->hide();
      card->deleteLater();
    }
    views_.clear();
    for (const Watch& watch : watches) {
      views_.push_back(new WatchCard(document_, preferences_, watch.id));
      cards_->addWidget(views_.back());
    }
  }
  for (WatchCard* card : views_)
    card->refresh();
}

std::vector<Watch> WatchPanel::possibleWatches() const
{
  std::vector<Watch> possible;
  const auto offer = [&](const std::string& name, auto figure) {
    Watch watch;
    watch.name = name;
    watch.figure = std::move(figure);
    possible.push_back(std::move(watch));
  };
  const Project& project = document_.project();
  const auto offerPart = [&](const Object& part) {
    offer(part.name + ", hottest", PartFigure{PartFigure::Kind::Hottest, {part.id}});
    offer(part.name + ", coldest", PartFigure{PartFigure::Kind::Coldest, {part.id}});
    offer(part.name + ", mean", PartFigure{PartFigure::Kind::Mean, {part.id}});
    offer(part.name + ", spread", PartFigure{PartFigure::Kind::Spread, {part.id}});
    offer(part.name + ", largest heat flux", LargestFlux{{part.id}});
    if (const Part* own = findById(project.parts, part.id))
      if (const Material* material = findById(project.materials, own->material);
          material != nullptr && material->latentHeat)
        offer(part.name + ", molten share", MoltenShare{{part.id}});
  };
  const auto offerSurface = [&](const Surface& surface) {
    offer(surface.name + ", hottest", SurfaceFigure{PartFigure::Kind::Hottest, surface.id});
    offer(surface.name + ", mean", SurfaceFigure{PartFigure::Kind::Mean, surface.id});
    offer("Heat through " + surface.name, SurfaceHeat{surface.id});
    offer("Transmittance of " + surface.name,
          Transmittance{surface.id, {293.15, "20 °C", false}, {273.15, "0 °C", false}, {}});
  };
  // What is selected comes first.
  if (const Part* part = findById(project.parts, document_.selectedId()))
    offerPart(*part);
  if (const PartGroup* group = findById(project.groups, document_.selectedId()))
    offerPart(*group); // its parts as one
  if (const Boundary* boundary = findById(project.boundaries, document_.selectedId()))
    if (const Surface* surface = findById(project.surfaces, surfaceOf(*boundary)))
      offerSurface(*surface);
  if (const auto mesh = document_.shownMesh())
    for (const TouchingPair& pair : touchingPairs(mesh->geometry)) {
      const GeometryPart& a = mesh->geometry.parts[static_cast<std::size_t>(pair.partA)];
      const GeometryPart& b = mesh->geometry.parts[static_cast<std::size_t>(pair.partB)];
      const Contact* contact = findContact(project, a.id, b.id);
      if (document_.selectedId() == (contact != nullptr ? contact->id : pairId(a.id, b.id)))
        offer("Heat " + a.name + " → " + b.name, ContactHeat{a.id, b.id});
    }
  if (findById(project.nodes, document_.selectedId()) != nullptr)
    offer(findById(project.nodes, document_.selectedId())->name, NodeFigure{document_.selectedId()});
  if (const Boundary* passage = findById(project.boundaries, document_.selectedId());
      passage != nullptr && std::holds_alternative<FlowPassage>(passage->condition))
    offer(passage->name + ", outlet", NodeFigure{passage->id});
  if (const Link* link = findById(project.links, document_.selectedId()))
    offer("Heat through " + link->name, LinkHeat{link->id});
  if (possible.empty()) {
    for (const Node& node : project.nodes)
      offer(node.name, NodeFigure{node.id});
    for (const Part& part : project.parts)
      offer(part.name + ", hottest", PartFigure{PartFigure::Kind::Hottest, {part.id}});
    for (const Surface& surface : project.surfaces)
      offerSurface(surface);
  }
  offerResistance(offer);
  return possible;
}

/// Between the first two temperatures and the first heat that are watched: a start that its card can change.
template <class Offer>
void WatchPanel::offerResistance(Offer&& offer) const
{
  std::vector<const Watch*> temperatures;
  const Watch* heat = nullptr;
  for (const Watch& watch : document_.project().watches) {
    if (quantityOf(watch) == Quantity::Temperature)
      temperatures.push_back(&watch);
    if (heat == nullptr && quantityOf(watch) == Quantity::Power)
      heat = &watch;
  }
  if (heat != nullptr && temperatures.size() > 1)
    offer("Thermal resistance", BetweenWatches{temperatures[0]->id, temperatures[1]->id, heat->id});
}

void WatchPanel::showAddMenu()
{
  auto* menu = new QMenu(this);
  menu->setObjectName("addWatchMenu");
  menu->setAttribute(Qt::WA_DeleteOnClose);
  for (const Watch& watch : possibleWatches())
    menu->addAction(QString::fromStdString(watch.name), this, [this, watch] { add(watch); });
  menu->popup(add_->mapToGlobal(QPoint(0, add_->height())));
}

void WatchPanel::addForSelection()
{
  if (const std::vector<Watch> possible = possibleWatches(); !possible.empty())
    add(possible.front());
}

void WatchPanel::add(const Watch& watch)
{
  document_.edit(tr("Watch %1").arg(QString::fromStdString(watch.name)), [&](Project& project) {
    Watch added = watch;
    added.id = freeId(project, "watch");
    // A part's material may have a service temperature: offered as the limit.
    if (const auto* figure = std::get_if<PartFigure>(&added.figure);
        figure != nullptr && figure->kind == PartFigure::Kind::Hottest && figure->parts.size() == 1)
      if (const Part* part = findById(project.parts, figure->parts.front()))
        if (const Material* material = findById(project.materials, part->material))
          added.upper = material->serviceTemperature;
    project.watches.push_back(std::move(added));
  });
}

} // namespace kiln
