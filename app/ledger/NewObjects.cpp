// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "ledger/NewObjects.h"

#include "heat/boundaries/FlowFromShape.h"
#include "model/Edit.h"

#include <QCoreApplication>
#include <algorithm>
#include <numbers>

namespace kiln
{
namespace
{

QString tr(const char* text) { return QCoreApplication::translate("NewObjects", text); }

Number millimetres(double value) { return {value / 1000, plainNumber(value) + " mm", false}; }
Number celsius(double value) { return {value + 273.15, plainNumber(value) + " °C", false}; }

std::vector<OutlinePoint> outlineOf(std::initializer_list<std::pair<double, double>> corners)
{
  std::vector<OutlinePoint> outline;
  for (const auto& [a, b] : corners)
    outline.push_back({millimetres(a), millimetres(b), {}});
  return outline;
}

/// New parts stand on top of what is there, so that they do not overlap it.
double topOf(const Document& document)
{
  const auto mesh = document.shownMesh();
  double top = 0;
  if (mesh && !document.project().parts.empty())
    for (const GeometryPart& part : mesh->geometry.parts)
      top = std::max(top, part.high.z());
  return top;
}

std::vector<std::string> selectedParts(const Project& project, const Document& document)
{
  if (findById(project.parts, document.selectedId()) != nullptr ||
      findById(project.groups, document.selectedId()) != nullptr)
    return {document.selectedId()};
  if (!project.parts.empty())
    return {project.parts.front().id};
  return {};
}

template <class Heat>
NewKind newSource(const char* label, Heat heat)
{
  return {tr(label), [label, heat](Project& project) {
            HeatSource source;
            source.heat = heat(project);
            return addObject(project, project.sources, source, freeName(project, label));
          }};
}

template <class Condition>
NewKind newBoundary(const char* label, Condition condition)
{
  return {tr(label), [label, condition](Project& project) {
            Boundary boundary;
            boundary.condition = condition(project);
            return addObject(project, project.boundaries, boundary, freeName(project, label));
          }};
}

/// A link starts between the last two nodes, where there are such.
NewKind newLink(const char* label, decltype(Link::exchange) exchange)
{
  return {tr(label), [exchange](Project& project) {
            Link link;
            link.exchange = exchange;
            const std::size_t count = project.nodes.size();
            std::visit(
                [&](auto& kind) {
                  if constexpr (requires { kind.endA; }) {
                    kind.endA = count > 1 ? project.nodes[count - 2].id : "";
                    kind.endB = count > 0 ? project.nodes[count - 1].id : "";
                  } else {
                    kind.upstream = count > 1 ? project.nodes[count - 2].id : "";
                    kind.downstream = count > 0 ? project.nodes[count - 1].id : "";
                  }
                },
                link.exchange);
            return addObject(project, project.links, link, freeName(project, "Link"));
          }};
}

std::vector<NewKind> newParts(const Document& document)
{
  std::vector<NewKind> kinds;
  const double top = topOf(document);
  for (const auto& [name, form] : startingForms(document.project()))
    kinds.push_back({tr(name), [name = std::string(name), form = form, top](Project& project) {
                       Part part;
                       part.shape.form = form;
                       if (top > 0)
                         part.shape.placement.position.z = millimetres(std::round(top * 1e6) / 1e3);
                       return addObject(project, project.parts, part, freeName(project, name));
                     }});
  kinds.push_back({tr("Part group"), [](Project& project) {
                     return addObject(project, project.groups, PartGroup{}, freeName(project, "Group"));
                   }});
  kinds.push_back({tr("Lumped node"), [](Project& project) {
                     return addObject(project, project.nodes, Node{}, freeName(project, "Node"));
                   }});
  return kinds;
}

std::vector<NewKind> newSources(const Document& document)
{
  const auto parts = [&document](const Project& project) { return selectedParts(project, document); };
  const auto surface = [&document](Project& project) { return surfaceForSelection(project, document); };
  return {
      newSource("Power in parts",
                [=](Project& p) {
                  return PartPower{parts(p), Property{100, "100 W"}};
                }),
      newSource("Heat density in parts",
                [=](Project& p) {
                  return PartDensity{parts(p), Property{1e5, "1e5 W/m³"}};
                }),
      newSource("Power on a surface",
                [=](Project& p) {
                  return SurfacePower{surface(p), Property{100, "100 W"}};
                }),
      newSource("Heat flux on a surface",
                [=](Project& p) {
                  return SurfaceFlux{surface(p), Property{1000, "1000 W/m²"}};
                }),
      newSource("Power at a point",
                [](Project&) {
                  return PointPower{{}, Property{10, "10 W"}};
                }),
      newSource("Beam, as of the sun",
                [=](Project& p) {
                  return Beam{{surface(p)}, {{0, {}}, {0, {}}, {1, {}}}, {800, "800 W/m²"}};
                }),
  };
}

std::vector<NewKind> newBoundaries(const Document& document)
{
  const auto surface = [&document](Project& project) { return surfaceForSelection(project, document); };
  const auto part = [&document](const Project& project) {
    const std::vector<std::string> parts = selectedParts(project, document);
    return parts.empty() ? std::string() : parts.front();
  };
  return {
      newBoundary("Convection",
                  [=](Project& p) {
                    return Convection{surface(p), Number{10, "10 W/(m²·K)"}, celsius(20)};
                  }),
      newBoundary("Convection by correlation",
                  [=, &document](Project& p) {
                    CorrelatedConvection flow;
                    flow.surface = surface(p);
                    flow.ambient = celsius(20);
                    Boundary boundary;
                    boundary.condition = flow;
                    return correlationFor(p, document.shownMesh().get(), boundary, std::nullopt);
                  }),
      newBoundary("Radiation",
                  [=](Project& p) {
                    return Radiation{surface(p), celsius(20), {1, "1"}};
                  }),
      newBoundary("Fixed temperature",
                  [=](Project& p) {
                    return FixedSurface{surface(p), celsius(20)};
                  }),
      newBoundary("Part at a temperature",
                  [=](Project& p) {
                    return FixedPart{part(p), celsius(20)};
                  }),
      newBoundary("Point at a temperature",
                  [=](Project&) {
                    return FixedPoint{{}, celsius(20)};
                  }),
      newBoundary("Body not modelled",
                  [=](Project& p) {
                    return BodyContact{surface(p), {100, "100 W/(m²·K)"}, celsius(20)};
                  }),
      newBoundary("Flow passage",
                  [=](Project& p) {
                    FlowPassage flow;
                    flow.surface = surface(p);
                    flow.direction.x.si = 1;
                    flow.inlet = celsius(20);
                    flow.massFlow = {0.01, "0.01 kg/s"};
                    flow.specificHeat = {4180, "4180 J/(kg·K)"};
                    flow.coefficient = Property{500, "500 W/(m²·K)"};
                    return flow;
                  }),
      newBoundary("Sheet (thin layer)",
                  [=](Project& p) {
                    return Sheet{surface(p), {}, {0.001, "1 mm"}};
                  }),
      newBoundary("Voltage",
                  [=](Project& p) {
                    return FixedVoltage{surface(p), {0, "0 V"}};
                  }),
      newBoundary("Electric current",
                  [=](Project& p) {
                    return CurrentIn{surface(p), {1, "1 A"}};
                  }),
  };
}

} // namespace

std::vector<std::pair<const char*, Form>> startingForms(const Project& project)
{
  std::vector<std::pair<const char*, Form>> forms{
      {QT_TRANSLATE_NOOP("NewObjects", "Block"), Block{millimetres(100), millimetres(100), millimetres(20)}},
      {QT_TRANSLATE_NOOP("NewObjects", "Cylinder"), Cylinder{millimetres(25), millimetres(50)}},
      {QT_TRANSLATE_NOOP("NewObjects", "Tube"), Tube{millimetres(25), millimetres(20), millimetres(50)}},
      {QT_TRANSLATE_NOOP("NewObjects", "Sphere"), Sphere{millimetres(25)}},
      {QT_TRANSLATE_NOOP("NewObjects", "Cone"), Cone{millimetres(25), millimetres(10), millimetres(40)}},
      {QT_TRANSLATE_NOOP("NewObjects", "Torus"), Torus{millimetres(30), millimetres(8)}},
      {QT_TRANSLATE_NOOP("NewObjects", "Prism"),
       Prism{outlineOf({{0, 0}, {60, 0}, {60, 20}, {20, 20}, {20, 50}, {0, 50}}), millimetres(40)}},
      {QT_TRANSLATE_NOOP("NewObjects", "Turned profile"),
       TurnedProfile{outlineOf({{0, 0}, {40, 0}, {40, 10}, {15, 30}, {0, 30}}),
                     {2 * std::numbers::pi, "360 deg", false}}},
  };
  if (project.section)
    forms.insert(forms.begin(),
                 {{QT_TRANSLATE_NOOP("NewObjects", "Rectangle"), Rectangle{millimetres(100), millimetres(50)}},
                  {QT_TRANSLATE_NOOP("NewObjects", "Circle or ring"), Disc{millimetres(25), {0, "0 mm", false}}},
                  {QT_TRANSLATE_NOOP("NewObjects", "Outline"),
                   FlatOutline{outlineOf({{0, 0}, {60, 0}, {60, 20}, {20, 20}, {20, 50}, {0, 50}})}}});
  return forms;
}

std::string surfaceForSelection(Project& project, const Document& document)
{
  const std::string& selected = document.selectedId();
  if (!document.pickedFaces().empty()) {
    Surface surface;
    surface.faces = document.pickedFaces();
    return addObject(project, project.surfaces, surface, freeName(project, "Picked faces"));
  }
  if (findById(project.surfaces, selected) != nullptr)
    return selected;
  if (const std::string* own = surfaceSlot(project, selected); own != nullptr && !own->empty())
    return *own;
  Surface surface;
  std::string name = "Exposed faces";
  if (const Part* part = findById(project.parts, selected)) {
    surface.exposedOf = {part->id};
    name = "Exposed faces of " + part->name;
  } else {
    for (const Part& part : project.parts)
      surface.exposedOf.push_back(part.id);
  }
  for (const Surface& own : project.surfaces)
    if (own.exposedOf == surface.exposedOf && own.faces.empty() && !own.facing && !own.within && !own.near &&
        own.except.empty() && own.added.empty() && own.without.empty())
      return own.id;
  return addObject(project, project.surfaces, surface, freeName(project, name));
}

std::vector<NewKind> newKinds(const Document& document, Band band)
{
  switch (band) {
  case Band::HeatIn:
    return newSources(document);
  case Band::Parts:
    return newParts(document);
  case Band::Surroundings:
    return newBoundaries(document);
  case Band::Contacts:
    return {{tr("Enclosure"),
             [&document](Project& project) {
               Enclosure enclosure;
               enclosure.surfaces = {surfaceForSelection(project, document)};
               return addObject(project, project.enclosures, enclosure, freeName(project, "Enclosure"));
             }},
            newLink("Conductance between two", Conductor{{}, {}, {1, "1 W/K"}}),
            newLink("Radiation between two", RadiationLink{{}, {}, {0.01, "0.01 m²"}}),
            newLink("Wire between two",
                    Wire{{}, {}, millimetres(100), millimetres(1), {}, std::nullopt, std::nullopt, std::nullopt}),
            newLink("Flow from node to node", FlowLink{{}, {}, {0.01, "0.01 kg/s"}, {4180, "4180 J/(kg·K)"}})};
  default:
    return {};
  }
}

std::string addNew(Document& document, const NewKind& kind)
{
  std::string id;
  document.edit(tr("Add %1").arg(kind.label), [&](Project& project) { id = kind.add(project); });
  return id;
}

} // namespace kiln
