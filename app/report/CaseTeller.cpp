// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
//
// What a report tells of how a case is set: its parts, what heats and cools them, what was assumed.
#include "report/CaseTeller.h"

#include "document/ShownText.h"
#include "geometry/TouchingPairs.h"
#include "heat/boundaries/Correlations.h"
#include "look/Language.h"
#include "model/Edit.h"
#include "report/ReportWords.h"
#include "results/FaceFlows.h"

#include <algorithm>

namespace kiln
{
using namespace telling;

bool CaseTeller::tells(ReportTopic topic)
{
  switch (topic) {
  case ReportTopic::Words:
  case ReportTopic::Differences:
  case ReportTopic::Compared:
  case ReportTopic::Questions:
    return false;
  default:
    return true;
  }
}

ReportBlocks CaseTeller::tell(const ReportSection& section) const
{
  switch (section.topic) {
  case ReportTopic::Assumptions:
    return assumptions();
  case ReportTopic::Parts:
    return parts();
  case ReportTopic::HeatIn:
    return band(Band::HeatIn, tr("Gives"));
  case ReportTopic::Surroundings:
    return surroundings();
  case ReportTopic::Contacts:
    return band(Band::Contacts, tr("Heat across"));
  case ReportTopic::Mesh:
    return mesh();
  case ReportTopic::Figures:
    return figures();
  case ReportTopic::Balance:
    return balance();
  case ReportTopic::HotSpots:
    return hotSpots();
  case ReportTopic::Views:
    return views(section);
  case ReportTopic::Course:
    return course();
  case ReportTopic::Lines:
    return lines();
  case ReportTopic::Paths:
    return paths();
  case ReportTopic::Record:
    return record();
  case ReportTopic::Words:
  case ReportTopic::Differences:
  case ReportTopic::Compared:
  case ReportTopic::Questions:
    break;
  }
  return {};
}

std::string CaseTeller::caseAndInstant() const { return document_.caseAndInstant().toStdString(); }

std::string CaseTeller::text(double si, Quantity quantity, int digits) const
{
  return formatQuantity(si, quantity, unit_, digits);
}

std::string CaseTeller::textOf(const Number& number, Quantity quantity) const
{
  return shownText(number, quantity, unit_).toStdString();
}

std::string CaseTeller::textOf(const std::optional<Number>& number, Quantity quantity) const
{
  return number ? textOf(*number, quantity) : "–";
}

std::string CaseTeller::textOf(const Property& property, Quantity quantity) const
{
  if (property.table.empty())
    return textOf(static_cast<const Number&>(property), quantity);
  const auto ends = std::pair(property.table.front(), property.table.back());
  return text(ends.first.value.si, quantity) + words(" at ") + text(ends.first.at.si, Quantity::Temperature) + " … " +
         text(ends.second.value.si, quantity) + words(" at ") + text(ends.second.at.si, Quantity::Temperature) +
         tr(" (table of %1)").arg(property.table.size()).toStdString();
}

const CaseResult* CaseTeller::result() const { return document_.shownState().result.get(); }

std::string CaseTeller::placeOf(const PlacedValue& value) const
{
  if (result() == nullptr || value.part < 0)
    return {};
  return inWords(placeWords(result()->mesh.geometry.parts[static_cast<std::size_t>(value.part)], value.place))
      .toStdString();
}

/// All that counts and that nobody set.
ReportBlocks CaseTeller::assumptions() const
{
  ReportTable table = tableWith({{"What", false}, {"Was taken as", false}});
  const auto add = [&](const std::string& what, const std::string& as) { table.rows.push_back({{what}, {as}}); };
  const Project& project = document_.shownProject();
  if (const auto mesh = document_.shownMesh())
    for (const TouchingPair& pair : touchingPairs(mesh->geometry)) {
      const auto& a = mesh->geometry.parts[static_cast<std::size_t>(pair.partA)];
      const auto& b = mesh->geometry.parts[static_cast<std::size_t>(pair.partB)];
      if (findContact(project, a.id, b.id) == nullptr)
        add(tr("Contact %1 | %2").arg(QString::fromStdString(a.name), QString::fromStdString(b.name)).toStdString(),
            tr("perfect, because not set (%1)")
                .arg(QString::fromStdString(text(pair.area, Quantity::Area, 3)))
                .toStdString());
    }
  if (const CaseResult* solved = result()) {
    std::map<std::string, std::pair<int, double>> insulated; // by part: faces, m²
    for (const FaceFlow& flow : faceFlows(solved->mesh, solved->faceHeat, solved->contactHeat, solved->flux))
      if (flow.insulated) {
        const Face& face = solved->mesh.geometry.faces[static_cast<std::size_t>(flow.face)];
        auto& [count, area] = insulated[solved->mesh.geometry.parts[static_cast<std::size_t>(face.parts[0])].name];
        ++count;
        area += flow.area;
      }
    for (const auto& [part, faces] : insulated)
      add(tr("%1 face(s) of %2").arg(faces.first).arg(QString::fromStdString(part)).toStdString(),
          tr("insulated: no condition is set (%1)")
              .arg(QString::fromStdString(text(faces.second, Quantity::Area, 3)))
              .toStdString());
    if (solved->mesh.order == 1 && !solved->mesh.tets.empty())
      add(words("Mesh"), words("first order, a quick look: temperatures may be some kelvin off"));
    for (const std::string& note : solved->notes)
      add(words("Result"), note);
  }
  if (!project.environment)
    add(words("Gravity and air pressure"), words("down along z, 101.325 kPa"));
  for (const Finding& finding : document_.findings())
    if (finding.severity == Finding::Severity::Hint)
      add(inWords(finding.object).toStdString(), inWords(finding.problem).toStdString());
  if (table.rows.empty())
    return {ReportWords{words("Nothing: all that counts was set.")}};
  table.caption = caseAndInstant();
  return {table};
}

ReportBlocks CaseTeller::parts() const
{
  ReportTable table =
      tableWith({{"Part", false}, {"Material", false}, {"Volume", true}, {"Mass", true}, {"Comment", false}});
  const Project& project = document_.shownProject();
  const CaseResult* solved = result();
  const auto volumes = solved != nullptr ? meshedVolumes(solved->mesh) : std::vector<double>{};
  for (const Part& part : project.parts) {
    if (isMuted(project, part)) {
      table.rows.push_back({{part.name}, {words("switched off")}, {}, {}, {part.comment}});
      continue;
    }
    const Material* material = findById(project.materials, part.material);
    const PartId index = solved != nullptr ? solved->mesh.geometry.partIndex(part.id) : noPart;
    const bool solid = index != noPart && !volumes.empty() && !project.section;
    const double volume = solid ? volumes[static_cast<std::size_t>(index)] : 0;
    table.rows.push_back(
        {{part.name},
         {material != nullptr ? material->name : words("none")},
         {solid ? text(volume * 1e6, Quantity::Plain, 4) + " cm³" : "–"},
         {solid && material != nullptr && material->density ? text(volume * material->density->si, Quantity::Mass, 4)
                                                            : "–"},
         {part.comment}});
  }
  ReportBlocks blocks{table};
  for (ReportBlock& block : materials())
    blocks.push_back(std::move(block));
  return blocks;
}

/// Those that parts are made of, with where their values come from; finishes.
ReportBlocks CaseTeller::materials() const
{
  const Project& project = document_.shownProject();
  ReportTable table = tableWith({{"Material", false},
                                 {"Conductivity", false},
                                 {"Density", true},
                                 {"Specific heat", false},
                                 {"Emissivity", true},
                                 {"Source of the values", false}});
  for (const Material& material : project.materials) {
    const bool used = std::any_of(project.parts.begin(), project.parts.end(),
                                  [&](const Part& part) { return part.material == material.id; });
    if (!used)
      continue;
    std::string k = textOf(material.conductivity, Quantity::Conductivity);
    for (const auto& other : {material.conductivityY, material.conductivityZ})
      if (other)
        k += " | " + textOf(*other, Quantity::Conductivity);
    table.rows.push_back({{material.name},
                          {k},
                          {textOf(material.density, Quantity::Density)},
                          {material.specificHeat ? textOf(*material.specificHeat, Quantity::SpecificHeat) : "–"},
                          {textOf(material.emissivity, Quantity::Plain)},
                          {material.source.empty() ? words("not said") : material.source,
                           material.source.empty() ? ReportMark::Doubt : ReportMark::None}});
  }
  ReportTable finishes = tableWith({{"Finish", false}, {"Emissivity", false}, {"On", false}});
  for (const Finish& finish : project.finishes) {
    std::string on;
    for (const std::string& id : finish.surfaces)
      if (const Surface* surface = findById(project.surfaces, id))
        on += (on.empty() ? "" : ", ") + surface->name;
    finishes.rows.push_back({{finish.name}, {textOf(finish.emissivity, Quantity::Plain)}, {on}});
  }
  ReportBlocks blocks;
  for (ReportTable* one : {&table, &finishes})
    if (!one->rows.empty())
      blocks.emplace_back(std::move(*one));
  return blocks;
}

/// A band of the ledger as it stands.
ReportBlocks CaseTeller::band(Band which, const QString& figure) const
{
  ReportTable table;
  table.addColumn(words("Name"));
  table.addColumn(words("Set"));
  table.addColumn(figure.toStdString(), true);
  for (const LedgerBand& one : ledgerBands(document_, unit_))
    if (one.band == which)
      for (const LedgerRow& row : one.rows)
        table.rows.push_back({{row.name.toStdString()},
                              {(row.muted ? tr("switched off: ") + row.set : row.set).toStdString()},
                              {row.figure ? text(*row.figure, row.heat) : "–"}});
  if (table.rows.empty())
    return {};
  table.caption = caseAndInstant();
  return {table};
}

ReportBlocks CaseTeller::surroundings() const
{
  ReportBlocks blocks = band(Band::Surroundings, tr("Heat into the model"));
  for (ReportBlock& block : correlations())
    blocks.push_back(std::move(block));
  return blocks;
}

/// At the mean temperature of the surfaces that they stand on.
ReportBlocks CaseTeller::correlations() const
{
  const Project& project = document_.shownProject();
  if (result() == nullptr)
    return {};
  ReportTable table = tableWith({{"Correlation", false},
                                 {"Surface, mean", true},
                                 {"Coefficient", true},
                                 {"Regime", false},
                                 {"Holds for", false},
                                 {"Published by", false}});
  for (const Boundary& boundary : project.boundaries) {
    const auto* flow = std::get_if<CorrelatedConvection>(&boundary.condition);
    if (flow == nullptr || boundary.muted)
      continue;
    Watch mean;
    mean.figure = SurfaceFigure{Extreme::Mean, flow->surface};
    const std::optional<double> kelvin = readWatch(project, *result(), mean).value;
    const auto now =
        kelvin ? correlate(*flow, project.environment.value_or(Environment{}), *kelvin) : Expected<CorrelationResult>{};
    if (!kelvin || !now)
      continue;
    table.rows.push_back({{boundary.name + ": " + inWords(situationName(flow->situation)).toStdString()},
                          {text(*kelvin, Quantity::Temperature)},
                          {text(now->coefficient, Quantity::AreaConductance, 3)},
                          {now->regime},
                          {(now->inRange ? "✓ " : "✗ " + words("out of range: ")) + now->validity,
                           now->inRange ? ReportMark::None : ReportMark::Bad},
                          {now->source}});
  }
  if (table.rows.empty())
    return {};
  table.caption =
      words("At the mean temperature of each surface; at the end of a run that goes in time. ") + caseAndInstant();
  return {table};
}

} // namespace kiln
