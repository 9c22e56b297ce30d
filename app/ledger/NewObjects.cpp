// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "ledger/NewObjects.h"

#include "heat/boundaries/FlowFromShape.h"
#include "look/Language.h"
#include "model/Alternatives.h"
#include "model/Edit.h"

#include <QCoreApplication>
#include <algorithm>

namespace kiln
{
namespace
{

QString tr(const char* text) { return QCoreApplication::translate("NewObjects", text); }

Number millimetres(double value) { return {value / 1000, plainNumber(value) + " mm", false}; }

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

/// Archive that lets a new object stand on what is selected, and links lie between the last two nodes.
class OnSelection : public Walk<OnSelection>
{
public:
  OnSelection(Project& project, const Document& document) : project_(project), document_(document) {}

  void reference(const ReferenceSpec& spec, std::string& value)
  {
    if (spec.need == Need::May)
      return;
    if (spec.to & Refers::Node) {
      const std::size_t count = project_.nodes.size();
      value = count > ends_ ? project_.nodes[count > 1 ? count - 2 + ends_ : 0].id : "";
      ++ends_;
    } else if (spec.to & Refers::Surface) {
      value = surfaceForSelection(project_, document_);
    } else if (spec.to & Refers::Part) {
      const std::vector<std::string> parts = selectedParts(project_, document_);
      value = parts.empty() ? "" : parts.front();
    }
  }
  void references(const ReferenceSpec& spec, std::vector<std::string>& values)
  {
    if (spec.need == Need::May)
      return;
    if (spec.to & Refers::Surface)
      values = {surfaceForSelection(project_, document_)};
    else if (spec.to & Refers::Part)
      values = selectedParts(project_, document_);
  }

private:
  Project& project_;
  const Document& document_;
  std::size_t ends_ = 0;
};

/// One entry for each alternative that the schema knows of the choice that a new object has.
/// \param finish  what a kind needs beyond numbers and selection
template <class T, class Choice, std::size_t N>
void addKinds(std::vector<NewKind>& kinds, const Document& document, std::vector<T> Project::*list, Choice T::*choice,
              const KindSpecs<N>& names, const std::string& called = {},
              const std::function<void(Project&, T&)>& finish = {})
{
  for (std::size_t i = 0; i < N; ++i)
    kinds.push_back({inWords(names[i].label),
                     [=, &document, name = std::string(names[i].label)](Project& project) {
                       T object;
                       emplaceAt(object.*choice, i);
                       StartingValues starting;
                       OnSelection on(project, document);
                       std::visit([&](auto& kind) { describe(starting, kind), describe(on, kind); }, object.*choice);
                       if (finish)
                         finish(project, object);
                       return addObject(project, project.*list, std::move(object),
                                        freeName(project, called.empty() ? name : called));
                     },
                     inWords(names[i].help)});
}

std::vector<NewKind> newParts(const Document& document)
{
  std::vector<NewKind> kinds;
  const double top = topOf(document);
  for (const auto& [name, form] : startingForms(document.project()))
    kinds.push_back({name, [name = name.toStdString(), form = form, top](Project& project) {
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

/// The coefficient of a new correlation goes by how its surface lies.
void fitCorrelation(const Document& document, Project& project, Boundary& boundary)
{
  if (std::holds_alternative<CorrelatedConvection>(boundary.condition))
    boundary.condition = correlationFor(project, document.shownMesh().get(), boundary, std::nullopt);
}

} // namespace

std::vector<std::pair<QString, Form>> startingForms(const Project& project)
{
  std::vector<std::pair<QString, Form>> forms;
  std::vector<std::pair<QString, Form>> flat;
  for (std::size_t i = 0; i < describing::formKinds.size(); ++i) {
    Form form;
    emplaceAt(form, i);
    if (std::holds_alternative<FileBody>(form))
      continue; // comes with its file
    StartingValues starting;
    std::visit([&](auto& kind) { describe(starting, kind); }, form);
    if (auto* profile = std::get_if<TurnedProfile>(&form))
      profile->outline = outlineOf({{0, 0}, {40, 0}, {40, 10}, {15, 30}, {0, 30}});
    if (auto* prism = std::get_if<Prism>(&form))
      prism->outline = outlineOf({{0, 0}, {60, 0}, {60, 20}, {20, 20}, {20, 50}, {0, 50}});
    if (auto* outline = std::get_if<FlatOutline>(&form))
      outline->outline = outlineOf({{0, 0}, {60, 0}, {60, 20}, {20, 20}, {20, 50}, {0, 50}});
    const bool isFlat = std::holds_alternative<Rectangle>(form) || std::holds_alternative<Disc>(form) ||
                        std::holds_alternative<FlatOutline>(form);
    (isFlat ? flat : forms).emplace_back(inWords(describing::formKinds[i].label), form);
  }
  if (project.section)
    forms.insert(forms.begin(), flat.begin(), flat.end());
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
  std::vector<NewKind> kinds;
  switch (band) {
  case Band::HeatIn:
    addKinds(kinds, document, &Project::sources, &HeatSource::heat, describing::sourceKinds);
    break;
  case Band::Parts:
    kinds = newParts(document);
    break;
  case Band::Surroundings:
    addKinds<Boundary>(kinds, document, &Project::boundaries, &Boundary::condition, describing::boundaryKinds, {},
                       [&document](Project& project, Boundary& own) { fitCorrelation(document, project, own); });
    break;
  case Band::Contacts:
    kinds.push_back({tr("Enclosure"), [&document](Project& project) {
                       Enclosure enclosure;
                       enclosure.surfaces = {surfaceForSelection(project, document)};
                       return addObject(project, project.enclosures, enclosure, freeName(project, "Enclosure"));
                     }});
    addKinds(kinds, document, &Project::links, &Link::exchange, describing::linkKinds, "Link");
    break;
  default:
    break;
  }
  return kinds;
}

std::string addNew(Document& document, const NewKind& kind)
{
  std::string id;
  document.edit(tr("Add %1").arg(kind.label), [&](Project& project) { id = kind.add(project); });
  return id;
}

} // namespace kiln
