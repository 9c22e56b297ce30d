// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "watches/WatchPanel.h"

#include "fields/FormRows.h"
#include "geometry/TouchingPairs.h"
#include "look/Icons.h"
#include "model/Edit.h"
#include "model/WatchOffers.h"
#include "watches/WatchCard.h"
#include "watches/WatchEditor.h"

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
  add_->setText(tr("Watch"));
  add_->setToolButtonStyle(Qt::ToolButtonTextBesideIcon);
  setIcon(*add_, "list-add");
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
  hint_ = quietLabel(
      tr("The figures you care about: select a part, a surface or a node, then press Watch; give each a limit."));
  hint_->setObjectName("watchHint");
  bodyLayout->addWidget(hint_);
  bodyLayout->addStretch();
  auto* scroll = new QScrollArea;
  scroll->setWidget(body);
  scroll->setWidgetResizable(true);
  scroll->setFrameShape(QFrame::NoFrame);
  scroll->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
  layout->addWidget(scroll);
  connect(&document, &Document::resultChanged, this, &WatchPanel::refresh);
  connect(&document, &Document::estimateChanged, this, &WatchPanel::refresh);
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
  hint_->setVisible(views_.empty());
}

std::vector<Watch> WatchPanel::possibleWatches() const
{
  const Project& project = document_.project();
  std::vector<Watch> possible = watchesOfSelection();
  if (possible.empty()) // nothing is selected: the usual ones of everything
    forEachObjectList(project, [&](const auto& list) {
      constexpr Refers usual = Refers::Part | Refers::Surface | Refers::Node;
      for (const auto& object : list)
        if (kindOf(&object).kind & usual)
          if (std::vector<Watch> own = watchesOf(project, {object.id}, kindOf(&object).kind, object.name); !own.empty())
            possible.push_back(std::move(own.front()));
    });
  offerResistance(possible);
  const std::vector<Watch> anywhere = watchesOf(project, {}, Refers{}, {});
  possible.insert(possible.end(), anywhere.begin(), anywhere.end());
  return possible;
}

std::vector<Watch> WatchPanel::watchesOfSelection() const
{
  const Project& project = document_.project();
  const std::string& id = document_.selectedId();
  if (const Boundary* boundary = findById(project.boundaries, id)) {
    std::vector<Watch> possible;
    if (const Surface* surface = findById(project.surfaces, surfaceOf(*boundary)))
      possible = watchesOf(project, {surface->id}, Refers::Surface, surface->name);
    if (std::holds_alternative<FlowPassage>(boundary->condition))
      for (const Watch& outlet : watchesOf(project, {id}, Refers::Boundary, boundary->name + ", outlet"))
        possible.push_back(outlet);
    return possible;
  }
  if (const Object* object = findObject(project, id); object != nullptr && findById(project.contacts, id) == nullptr)
    return watchesOf(project, {id}, kindOfObject(project, id), object->name);
  if (const auto mesh = document_.shownMesh())
    for (const TouchingPair& pair : touchingPairs(mesh->geometry)) {
      const GeometryPart& a = mesh->geometry.parts[static_cast<std::size_t>(pair.partA)];
      const GeometryPart& b = mesh->geometry.parts[static_cast<std::size_t>(pair.partB)];
      const Contact* contact = findContact(project, a.id, b.id);
      if (id == (contact != nullptr ? contact->id : pairId(a.id, b.id)))
        return watchesOf(project, {a.id, b.id}, Refers::Part, a.name + " → " + b.name);
    }
  return {};
}

/// Between the first two temperatures and the first heat that are watched: a start that its card can change.
void WatchPanel::offerResistance(std::vector<Watch>& possible) const
{
  std::vector<std::string> temperatures;
  std::string heat;
  for (const Watch& watch : document_.project().watches) {
    if (quantityOf(watch) == Quantity::Temperature)
      temperatures.push_back(watch.id);
    if (heat.empty() && quantityOf(watch) == Quantity::Power)
      heat = watch.id;
  }
  if (heat.empty() || temperatures.size() < 2)
    return;
  for (const Watch& watch : watchesOf(document_.project(), {temperatures[0], temperatures[1], heat}, Refers::Watch, {}))
    possible.push_back(watch);
}

void WatchPanel::showAddMenu()
{
  auto* menu = new QMenu(this);
  menu->setObjectName("addWatchMenu");
  menu->setAttribute(Qt::WA_DeleteOnClose);
  for (const Watch& watch : possibleWatches())
    menu->addAction(QString::fromStdString(watch.name), this, [this, watch] { add(watch); });
  menu->addSeparator();
  menu->addAction(tr("Formula of watches…"), this, &WatchPanel::addFormula)->setObjectName("addFormulaWatch");
  menu->addAction(tr("Temperature at a place I click"), this, &WatchPanel::placeWanted)->setObjectName("addPlaceWatch");
  menu->addAction(tr("Temperature at the centre of an arc I click"), this, &WatchPanel::arcWanted)
      ->setObjectName("addArcWatch");
  menu->popup(add_->mapToGlobal(QPoint(0, add_->height())));
}

void WatchPanel::addForSelection()
{
  if (const std::vector<Watch> possible = possibleWatches(); !possible.empty())
    add(possible.front());
}

void WatchPanel::addPlace(const Vec3& place)
{
  Watch watch;
  watch.name = freeName(document_.project(), tr("Temperature at a place").toStdString());
  const auto number = [](double metres) {
    return Number{metres, formatQuantity(metres, Quantity::Length, {}, 6), false};
  };
  watch.figure = PointFigure{{number(place.x()), number(place.y()), number(place.z())}};
  add(watch);
}

/// Begins with the difference of the first two temperatures, ready to be changed.
void WatchPanel::addFormula()
{
  Watch watch;
  watch.name = freeName(document_.project(), tr("Formula").toStdString());
  FormulaFigure figure;
  for (const Watch& other : document_.project().watches)
    if (figure.watches.size() < 2 && quantityOf(other) == Quantity::Temperature)
      figure.watches.push_back(other.id);
  figure.formula = figure.watches.size() == 2 ? "a - b" : "a";
  if (figure.watches.size() == 1)
    figure.is = Quantity::Temperature;
  watch.figure = figure;
  add(watch);
  if (!document_.project().watches.empty())
    (new WatchEditor(document_, preferences_, document_.project().watches.back().id, window()))->show();
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
