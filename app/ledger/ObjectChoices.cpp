// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "ledger/ObjectChoices.h"

#include "model/Edit.h"

#include <QCheckBox>
#include <QComboBox>
#include <QCoreApplication>
#include <QFormLayout>
#include <QMenu>
#include <QToolButton>
#include <algorithm>

namespace kiln
{
namespace
{

QString tr(const char* text) { return QCoreApplication::translate("ObjectChoices", text); }

template <class List>
void append(Choices& choices, const List& list)
{
  for (const auto& object : list)
    choices.emplace_back(object.id, QString::fromStdString(object.name));
}

Choices nodes(const Project& project, const QString& none)
{
  Choices choices;
  if (!none.isEmpty())
    choices.emplace_back("", none);
  append(choices, project.nodes);
  return choices;
}

/// A choice among the alternatives of a variant, each with values to start from.
template <class Variant>
void addKindRow(Document& document, QFormLayout& form, const QString& label, const QString& name,
                const std::vector<std::pair<QString, Variant>>& kinds, std::size_t chosen,
                const std::function<Variant*(Project&)>& slot)
{
  Choices choices;
  for (std::size_t i = 0; i < kinds.size(); ++i)
    choices.emplace_back(std::to_string(i), kinds[i].first);
  addChoiceRow(document, form, label, name, choices, std::to_string(chosen),
               [kinds, slot](Project& project, const std::string& index) {
                 if (Variant* own = slot(project))
                   *own = kinds[std::stoul(index)].second;
               });
}

} // namespace

void addNodeEditors(Document& document, QFormLayout& form, const Node& node)
{
  using Storage = decltype(Node::storage);
  const std::vector<std::pair<QString, Storage>> kinds{
      {tr("nothing"), NoStore{}},
      {tr("by its heat capacity"), CapacityStore{{100, "100 J/K"}}},
      {tr("by mass and specific heat"), MassStore{{0.1, "0.1 kg"}, {900, "900 J/(kg·K)"}}},
      {tr("as a volume of air or water"), FluidStore{{0.001, "0.001 m³"}, Fluid::Air}}};
  addKindRow<Storage>(document, form, tr("Stores heat"), "nodeStorage", kinds, node.storage.index(),
                      [id = node.id](Project& project) {
                        Node* own = findById(project.nodes, id);
                        return own != nullptr ? &own->storage : nullptr;
                      });
  if (const auto* store = std::get_if<FluidStore>(&node.storage))
    addChoiceRow(document, form, tr("Filled with"), "nodeFluid", {{"0", tr("air")}, {"1", tr("water")}},
                 std::to_string(static_cast<int>(store->fluid)),
                 [id = node.id](Project& project, const std::string& f) {
                   if (auto* own = std::get_if<FluidStore>(&findById(project.nodes, id)->storage))
                     own->fluid = f == "1" ? Fluid::Water : Fluid::Air;
                 });
}

void addLinkEditors(Document& document, QFormLayout& form, const Link& link)
{
  const Project& project = document.project();
  Choices ends = nodes(project, {});
  append(ends, project.parts);
  append(ends, project.surfaces);
  for (const Watch& watch : project.watches)
    if (std::holds_alternative<PointFigure>(watch.figure))
      ends.emplace_back(watch.id, tr("point: %1").arg(QString::fromStdString(watch.name)));
  const auto endRow = [&](const QString& label, const QString& name, const Choices& choices, const std::string& chosen,
                          bool first) {
    addChoiceRow(document, form, label, name, choices, chosen,
                 [id = link.id, first](Project& p, const std::string& end) {
                   std::visit(
                       [&](auto& kind) {
                         if constexpr (requires { kind.endA; })
                           (first ? kind.endA : kind.endB) = end;
                         else
                           (first ? kind.upstream : kind.downstream) = end;
                       },
                       findById(p.links, id)->exchange);
                 });
  };
  std::visit(
      [&](const auto& kind) {
        if constexpr (requires { kind.endA; }) {
          endRow(tr("From"), "linkEndA", ends, kind.endA, true);
          endRow(tr("To"), "linkEndB", ends, kind.endB, false);
        } else {
          endRow(tr("Flows from"), "linkEndA", nodes(project, {}), kind.upstream, true);
          endRow(tr("Flows to"), "linkEndB", nodes(project, {}), kind.downstream, false);
        }
      },
      link.exchange);
  if (const auto* wire = std::get_if<Wire>(&link.exchange)) {
    Choices materials{{"", tr("choose a material")}};
    append(materials, project.materials);
    addChoiceRow(document, form, tr("Material"), "wireMaterial", materials, wire->material,
                 [id = link.id](Project& p, const std::string& material) {
                   std::get<Wire>(findById(p.links, id)->exchange).material = material;
                 });
  }
}

void addAmbientChoice(Document& document, QFormLayout& form, const Boundary& boundary)
{
  const bool may = std::visit(
      [](const auto& kind) {
        return requires { kind.node; };
      },
      boundary.condition);
  if (!may || (document.project().nodes.empty() && nodeOf(boundary).empty()))
    return;
  addChoiceRow(document, form, tr("Exchanges with"), "ambientNode",
               nodes(document.project(), tr("the surroundings, at the temperature above")), nodeOf(boundary),
               [id = boundary.id](Project& project, const std::string& node) {
                 std::visit(
                     [&](auto& kind) {
                       if constexpr (requires { kind.node; })
                         kind.node = node;
                     },
                     findById(project.boundaries, id)->condition);
               });
}

void addControlEditors(Document& document, QFormLayout& form, const HeatSource& source)
{
  const Project& project = document.project();
  const bool table = std::visit(
      [](const auto& kind) {
        if constexpr (requires { kind.power; })
          return !kind.power.table.empty();
        else if constexpr (requires { kind.density; })
          return !kind.density.table.empty();
        else if constexpr (std::is_same_v<std::decay_t<decltype(kind)>, SurfaceFlux>)
          return !kind.flux.table.empty();
        else
          return false;
      },
      source.heat);
  if (table) {
    Choices follows = temperatureWatches(project, tr("each place's own temperature"));
    follows.emplace(follows.begin() + 1, "mean", tr("its own mean temperature"));
    addChoiceRow(
        document, form, tr("Its table follows"), "sourceFollows", follows, source.follows,
        [id = source.id](Project& p, const std::string& chosen) { findById(p.sources, id)->follows = chosen; });
  }
  if (std::holds_alternative<Beam>(source.heat))
    return;
  addChoiceRow(document, form, tr("Thermostat"), "thermostatWatch", temperatureWatches(project, tr("none")),
               source.thermostat ? source.thermostat->watch : "",
               [id = source.id](Project& p, const std::string& watch) {
                 std::optional<Thermostat>& own = findById(p.sources, id)->thermostat;
                 if (watch.empty()) {
                   own.reset();
                 } else {
                   if (!own)
                     own = Thermostat{watch, {373.15, "100 °C"}, {4, "4 K"}, false, {}};
                   own->watch = watch;
                 }
               });
  if (source.thermostat)
    addChoiceRow(document, form, tr("It acts"), "thermostatGraded",
                 {{"0", tr("on and off, half a band away")}, {"1", tr("graded across the band")}},
                 source.thermostat->graded ? "1" : "0", [id = source.id](Project& p, const std::string& graded) {
                   if (auto& own = findById(p.sources, id)->thermostat)
                     own->graded = graded == "1";
                 });
}

void addBeamSurfaces(Document& document, QFormLayout& form, const HeatSource& source)
{
  const auto* beam = std::get_if<Beam>(&source.heat);
  if (beam == nullptr)
    return;
  auto* button = new QToolButton;
  button->setObjectName("beamSurfaces");
  button->setText(QCoreApplication::translate("ObjectChoices", "%n surface(s) ▾", nullptr,
                                              static_cast<int>(beam->surfaces.size())));
  button->setPopupMode(QToolButton::InstantPopup);
  auto* menu = new QMenu(button);
  for (const Surface& surface : document.project().surfaces) {
    QAction* action = menu->addAction(QString::fromStdString(surface.name));
    action->setCheckable(true);
    action->setChecked(std::find(beam->surfaces.begin(), beam->surfaces.end(), surface.id) != beam->surfaces.end());
    QObject::connect(action, &QAction::triggered, button, [&document, id = source.id, chosen = surface.id](bool on) {
      document.edit(tr("Surfaces of a beam"), [&](Project& project) {
        std::vector<std::string>& list = std::get<Beam>(findById(project.sources, id)->heat).surfaces;
        std::erase(list, chosen);
        if (on)
          list.push_back(chosen);
      });
    });
  }
  button->setMenu(menu);
  form.addRow(quietLabel(tr("Caught by")), button);
}

} // namespace kiln
