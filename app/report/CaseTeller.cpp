// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "report/CaseTeller.h"

#include "base/Versions.h"
#include "document/ShownText.h"
#include "geometry/TouchingPairs.h"
#include "heat/boundaries/Correlations.h"
#include "io/SureText.h"
#include "mesh/MeshQuality.h"
#include "model/Edit.h"
#include "results/FaceFlows.h"

#include <QCoreApplication>
#include <algorithm>
#include <cmath>

namespace kiln
{
namespace
{

QString tr(const char* text) { return QCoreApplication::translate("Report", text); }
std::string words(const char* text) { return tr(text).toStdString(); }

ReportTable tableWith(std::initializer_list<std::pair<const char*, bool>> columns)
{
  ReportTable table;
  for (const auto& [name, number] : columns)
    table.addColumn(words(name), number);
  return table;
}

constexpr const char* noResult = "Not solved yet.";

} // namespace

ReportCell verdictOf(const WatchFigure& figure, TemperatureUnit unit)
{
  if (!figure.value)
    return {figure.note.empty() ? words("no value") : figure.note, ReportMark::Doubt};
  if (!figure.upper && !figure.lower)
    return {words("no limit"), ReportMark::None};
  const bool kept = figure.margin && *figure.margin >= 0;
  const std::string margin = figure.margin ? ", " + formatMargin(*figure.margin, figure.quantity, unit) : "";
  return kept ? ReportCell{"✓ " + words("passes") + margin, ReportMark::Good}
              : ReportCell{"✗ " + words("fails") + margin, ReportMark::Bad};
}

std::string limitsOf(const WatchFigure& figure, TemperatureUnit unit)
{
  std::string text;
  if (figure.lower)
    text = words("at least ") + formatQuantity(*figure.lower, figure.quantity, unit);
  if (figure.upper)
    text += (text.empty() ? "" : ", ") + words("at most ") + formatQuantity(*figure.upper, figure.quantity, unit);
  return text.empty() ? "–" : text;
}

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
  return placeWords(result()->mesh.geometry.parts[static_cast<std::size_t>(value.part)], value.place);
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
      add(finding.object, finding.problem);
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
    table.rows.push_back({{boundary.name + ": " + std::string(situationName(flow->situation))},
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

ReportBlocks CaseTeller::mesh() const
{
  const CaseResult* solved = result();
  if (solved == nullptr)
    return {ReportWords{words(noResult)}};
  double flattest = M_PI;
  if (const auto flat = flattestTets(solved->mesh, 1); !flat.empty())
    flattest = smallestDihedral(solved->mesh, flat.front());
  std::string said =
      elementWords(solved->mesh) + ", " + tr("%1 unknown temperatures").arg(solved->temperature.size()).toStdString();
  if (!solved->mesh.tets.empty())
    said += ", " + words("smallest angle ") + text(flattest, Quantity::Angle, 3);
  ReportBlocks blocks{ReportWords{said + "."}};
  const CaseState& state = document_.shownState();
  if (!state.sure || state.sure->solutionHash != solved->solutionHash) {
    blocks.emplace_back(
        ReportWords{words("Finer meshes were not asked how far the figures may be off."), ReportMark::Doubt});
    return blocks;
  }
  ReportTable table = tableWith({{"Watch", false}, {"Value", true}, {"How sure", false}});
  for (const Watch& watch : document_.shownProject().watches)
    if (const SureRecord::OfWatch* sure = state.sureOf(watch.id))
      table.rows.push_back({{watch.name},
                            {figureText(*sure, quantityOf(document_.shownProject(), watch), unit_)},
                            {sureText(*sure, quantityOf(document_.shownProject(), watch))}});
  table.caption = caseAndInstant();
  blocks.emplace_back(table);
  return blocks;
}

ReportBlocks CaseTeller::figures() const
{
  const ShownFigures* now = document_.shownFigures();
  if (now == nullptr)
    return {ReportWords{words(noResult), ReportMark::Doubt}};
  ReportTable table = tableWith({{"Watch", false},
                                 {"Value", true},
                                 {"Where", false},
                                 {"Limit", false},
                                 {"Verdict", false},
                                 {"Reference", false}});
  for (const WatchFigure& figure : now->watches) {
    const auto passes = agrees(figure);
    std::string where;
    if (figure.where && result() != nullptr && figure.where->part >= 0)
      where = result()->mesh.geometry.parts[static_cast<std::size_t>(figure.where->part)].name + ", " +
              placeOf(*figure.where);
    const std::string reference = referenceWords(figure, unit_);
    table.rows.push_back({{figure.name},
                          {figure.value ? text(*figure.value, figure.quantity) : "–"},
                          {where},
                          {limitsOf(figure, unit_)},
                          verdictOf(figure, unit_),
                          {reference.empty() ? "–"
                                             : (passes == false  ? "✗ "
                                                : passes == true ? "✓ "
                                                                 : "") +
                                                   reference,
                           passes == false ? ReportMark::Bad : ReportMark::None}});
  }
  if (table.rows.empty())
    return {ReportWords{words("Nothing is watched.")}};
  table.caption = caseAndInstant() + document_.quickLookText().toStdString();
  return {table};
}

ReportBlocks CaseTeller::balance() const
{
  const ShownFigures* now = document_.shownFigures();
  const CaseResult* solved = result();
  if (now == nullptr || solved == nullptr)
    return {ReportWords{words(noResult)}};
  const Quantity heat = heatQuantity(document_.shownProject());
  ReportTable table = tableWith({{"Heat", false}, {"", true}});
  table.rows.push_back({{words("enters")}, {text(now->heatIn, heat)}});
  table.rows.push_back({{words("leaves")}, {text(now->heatOut, heat)}});
  table.rows.push_back({{words("goes into store")}, {text(now->stored, heat)}});
  const auto run = document_.shownState().run.record;
  const double share = run ? run->imbalance : solved->relativeImbalance();
  table.rows.push_back(
      {{words(run ? "heat balance error of the whole run" : "heat balance error")}, {balanceError(share)}});
  table.caption = caseAndInstant();
  return {table};
}

ReportBlocks CaseTeller::hotSpots() const
{
  const ShownFigures* now = document_.shownFigures();
  if (now == nullptr)
    return {ReportWords{words(noResult)}};
  ReportTable table = tableWith(
      {{"Part", false}, {"Hottest", true}, {"Where", false}, {"Coldest", true}, {"Where", false}, {"Mean", true}});
  std::vector<PartFigures> parts = now->parts;
  std::stable_sort(parts.begin(), parts.end(),
                   [](const PartFigures& a, const PartFigures& b) { return a.hottest.value > b.hottest.value; });
  for (const PartFigures& part : parts) {
    const Part* own = findById(document_.shownProject().parts, part.id);
    table.rows.push_back({{own != nullptr ? own->name : part.name},
                          {text(part.hottest.value, Quantity::Temperature)},
                          {placeOf(part.hottest)},
                          {text(part.coldest.value, Quantity::Temperature)},
                          {placeOf(part.coldest)},
                          {text(part.mean, Quantity::Temperature)}});
  }
  for (const NodeState& state : now->nodes) {
    const Node* node = findById(document_.shownProject().nodes, state.id);
    const std::string kelvin = text(state.temperature, Quantity::Temperature);
    table.rows.push_back(
        {{node != nullptr ? node->name : state.id}, {kelvin}, {words("lumped node")}, {kelvin}, {}, {kelvin}});
  }
  table.caption = caseAndInstant() + document_.quickLookText().toStdString();
  return {table};
}

ReportBlocks CaseTeller::views(const ReportSection& section) const
{
  ReportBlocks blocks;
  const auto add = [&](std::optional<ReportPicture> picture) {
    if (picture)
      blocks.emplace_back(std::move(*picture));
  };
  for (const View& view : document_.project().views)
    if (section.views.empty() || std::find(section.views.begin(), section.views.end(), view.id) != section.views.end())
      add(pictures_.view(view));
  if (blocks.empty())
    add(pictures_.scene());
  return blocks;
}

ReportBlocks CaseTeller::course() const
{
  const auto run = document_.shownState().run.record;
  if (!run || run->times.size() < 2)
    return {};
  ReportTable table = tableWith({{"Watch", false},
                                 {"Start", true},
                                 {"Peak", true},
                                 {"Peak after", true},
                                 {"95 % after", true},
                                 {"Settled after", true},
                                 {"Limit first met after", true},
                                 {"Beyond it for", true}});
  const double begun = run->times.front();
  const auto time = [&](const std::optional<double>& seconds) {
    return seconds ? text(*seconds, Quantity::Time) : "–";
  };
  for (const Watch& watch : document_.shownProject().watches)
    if (const auto answers = answersOf(*run, watch)) {
      const Quantity quantity = quantityOf(document_.shownProject(), watch);
      const auto met = answers->crossedUpper ? answers->crossedUpper : answers->crossedLower;
      table.rows.push_back({{watch.name},
                            {text(answers->start, quantity)},
                            {text(answers->peak.value, quantity) + (answers->stillRising ? words(", rising") : "")},
                            {time(answers->peak.time - begun)},
                            {time(answers->reached95)},
                            {answers->stillRising || answers->stillFalling ? words("not yet") : time(answers->settled)},
                            {met ? time(*met - begun) : "–", met ? ReportMark::Bad : ReportMark::None},
                            {met ? time(answers->aboveUpper + answers->belowLower) : "–"}});
    }
  table.caption = tr("%1, over %2; it ended: %3")
                      .arg(QString::fromStdString(document_.shownCaseObject()->name),
                           QString::fromStdString(text(run->times.back() - begun, Quantity::Time)),
                           run->reason.empty() ? tr("nothing is said") : QString::fromStdString(run->reason))
                      .toStdString();
  return {pictures_.course(), table};
}

ReportBlocks CaseTeller::lines() const
{
  ReportBlocks blocks;
  if (result() != nullptr)
    for (const Line& line : document_.project().lines)
      blocks.emplace_back(pictures_.line(line));
  return blocks;
}

ReportBlocks CaseTeller::paths() const
{
  const ShownFigures* now = document_.shownFigures();
  return now == nullptr || now->paths.empty() ? ReportBlocks{} : ReportBlocks{pictures_.paths()};
}

/// What someone needs who wants to compute it again, and to see that it is the same.
ReportBlocks CaseTeller::record() const
{
  ReportTable table = tableWith({{"", false}, {"", false}});
  const auto add = [&](const std::string& what, const std::string& value) { table.rows.push_back({{what}, {value}}); };
  const Case& own = *document_.shownCaseObject();
  add(words("Program"), "Usual Kiln " + ownVersion() + " (" + libraryVersions() + ")");
  add(words("Project file"), document_.file().filename().string());
  add(words("Command"), "ukiln solve " + document_.file().filename().string() + " --case " + own.id);
  if (const CaseResult* solved = result()) {
    add(words("Fingerprint of shapes and mesh"), solved->meshHash);
    add(words("Fingerprint of all inputs"), solved->solutionHash);
    add(words("Solver"), solved->info.solver + ", " +
                             tr("%1 Newton steps, %2 iterations")
                                 .arg(solved->info.newtonSteps)
                                 .arg(solved->info.linearIterations)
                                 .toStdString());
    std::string times;
    for (const StageTime& stage : solved->info.times)
      times += (times.empty() ? "" : ", ") + stage.stage + " " + text(stage.seconds, Quantity::Time, 3);
    add(words("Time it took"), times);
    for (const std::string& note : solved->notes)
      add(words("Note"), note);
  }
  const CaseState& state = document_.shownState();
  if (!state.outOfDate.isEmpty())
    table.rows.push_back({{words("Out of date")}, {state.outOfDate.toStdString(), ReportMark::Bad}});
  if (const auto run = state.run.record)
    add(words("Steps in time"), tr("%1, %2 repeated").arg(run->steps).arg(run->rejected).toStdString());
  return {table};
}

} // namespace kiln
