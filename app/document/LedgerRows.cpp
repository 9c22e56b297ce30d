// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "document/LedgerRows.h"

#include "document/SetText.h"
#include "geometry/TouchingPairs.h"
#include "model/Edit.h"

#include <QCoreApplication>
#include <algorithm>
#include <cmath>

namespace kiln
{
namespace
{

QString tr(const char* text) { return QCoreApplication::translate("Ledger", text); }

std::optional<double> flowOf(const std::vector<LedgerFlow>& flows, const std::string& id)
{
  for (const LedgerFlow& flow : flows)
    if (flow.id == id)
      return flow.watts;
  return std::nullopt;
}

void setBars(LedgerBand& band, double largest)
{
  for (LedgerRow& row : band.rows)
    if (row.figure && largest > 0)
      row.bar = std::clamp(*row.figure / largest, -1.0, 1.0);
}

LedgerBand sourcesBand(const Project& project, const ShownFigures* result, const SetText& set)
{
  LedgerBand band{Band::HeatIn, tr("HEAT IN"), {}, {}};
  if (result != nullptr)
    band.total = 0;
  for (const HeatSource& source : project.sources) {
    LedgerRow row{
        Band::HeatIn, source.id, {},           {},  QString::fromStdString(source.name), std::visit(set, source.heat),
        {},           0,         source.muted, true};
    if (result != nullptr) {
      row.figure = flowOf(result->sources, source.id);
      *band.total += row.figure.value_or(0);
    }
    band.rows.push_back(std::move(row));
  }
  return band;
}

LedgerBand partsBand(const Document& document, const Project& project, const ShownFigures* result)
{
  LedgerBand band{Band::Parts, tr("PARTS"), {}, {}};
  const std::vector<PartFigures> figures = result != nullptr ? result->parts : std::vector<PartFigures>{};
  double low = 1e300;
  double high = -1e300;
  for (const PartFigures& figure : figures) {
    low = std::min(low, figure.coldest.value);
    high = std::max(high, figure.hottest.value);
  }
  const auto rowOf = [&](const Part& part) {
    LedgerRow row;
    row.band = Band::Parts;
    row.id = part.id;
    row.name = QString::fromStdString(part.name);
    row.set = part.material.empty() ? tr("no material") : nameOf(project.materials, part.material);
    row.muted = isMuted(project, part);
    row.canMute = true;
    row.depth = findById(project.groups, part.group) != nullptr ? 1 : 0;
    for (const PartFigures& figure : figures)
      if (figure.id == part.id) {
        row.figure = figure.hottest.value;
        row.bar = high > low ? (figure.hottest.value - low) / (high - low) : 0;
      }
    return row;
  };
  for (const Part& part : project.parts)
    if (findById(project.groups, part.group) == nullptr)
      band.rows.push_back(rowOf(part));
  for (const PartGroup& group : project.groups) {
    LedgerRow head;
    head.id = group.id;
    head.name = QString::fromStdString(group.name);
    head.muted = group.muted;
    head.canMute = head.isGroup = true;
    head.folded = document.foldedGroups().contains(group.id);
    std::vector<LedgerRow> inside;
    for (const Part& part : project.parts)
      if (part.group == group.id)
        inside.push_back(rowOf(part));
    head.set = QCoreApplication::translate("Ledger", "%n part(s)", nullptr, static_cast<int>(inside.size()));
    for (const LedgerRow& row : inside)
      if (row.figure && row.figure > head.figure) {
        head.figure = row.figure;
        head.bar = row.bar;
      }
    band.rows.push_back(head);
    if (!head.folded)
      band.rows.insert(band.rows.end(), inside.begin(), inside.end());
  }
  return band;
}

/// What an enclosure moves: the sum of what the parts that gain receive.
LedgerRow enclosureRow(const Project& project, const CaseResult* result, const Enclosure& enclosure)
{
  LedgerRow row;
  row.band = Band::Contacts;
  row.id = enclosure.id;
  row.name = QString::fromStdString(enclosure.name);
  QStringList names;
  for (const std::string& surface : enclosure.surfaces)
    names << nameOf(project.surfaces, surface);
  row.set = tr("radiation among ") + (names.isEmpty() ? tr("no surfaces") : names.join(", "));
  row.muted = enclosure.muted;
  row.canMute = true;
  if (result != nullptr)
    for (const EnclosureFigure& figure : result->enclosures)
      if (figure.id == enclosure.id)
        row.figure = figure.moved;
  return row;
}

/// A lumped node stands among the parts: it has a temperature.
LedgerRow nodeRow(const ShownFigures* result, const Node& node, TemperatureUnit unit)
{
  LedgerRow row;
  row.band = Band::Parts;
  row.id = node.id;
  row.name = QString::fromStdString(node.name);
  row.set = tr("lumped node");
  if (node.temperature)
    row.set += tr(", held at ") + shownText(*node.temperature, Quantity::Temperature, unit);
  else if (node.power)
    row.set +=
        ", " + (node.power->table.empty() ? shownText(*node.power, Quantity::Power, unit) : tr("power by a table"));
  row.muted = node.muted;
  row.canMute = true;
  if (result != nullptr)
    for (const NodeState& state : result->nodes)
      if (state.id == node.id)
        row.figure = state.temperature;
  return row;
}

LedgerRow linkRow(const Project& project, const ShownFigures* result, const Link& link, const SetText& set)
{
  LedgerRow row;
  row.band = Band::Contacts;
  row.id = link.id;
  row.set = std::visit(set, link.exchange);
  row.muted = link.muted;
  row.canMute = true;
  if (result != nullptr)
    row.figure = flowOf(result->links, link.id);
  const auto name = [&](const std::string& end) {
    const Object* object = findObject(project, end);
    return QString::fromStdString(object != nullptr ? object->name : end);
  };
  row.name = QString::fromStdString(link.name);
  std::visit(
      [&](const auto& kind) {
        if constexpr (requires { kind.endA; })
          row.set = name(kind.endA) + " – " + name(kind.endB) + " · " + row.set;
        else
          row.set = name(kind.upstream) + " → " + name(kind.downstream) + " · " + row.set;
      },
      link.exchange);
  return row;
}

/// What passes where a contact is switched off depends on whether its parts touch.
QString contactText(const Contact& contact, const SetText& set)
{
  const QString own = std::visit(set, contact.exchange);
  if (!contact.muted)
    return own;
  return std::holds_alternative<Gap>(contact.exchange) ? tr("off: %1").arg(own)
                                                       : tr("off, heat passes freely: %1").arg(own);
}

/// A contact of a part of an interface.
/// \param result  of this very geometry, may be nullptr: heat by face is only known of it
LedgerRow pieceRow(const Project& project, const ContactPiece& piece, const SetText& set, const CaseResult* result)
{
  LedgerRow row;
  row.band = Band::Contacts;
  row.id = piece.contact->id;
  row.partA = piece.contact->partA;
  row.partB = piece.contact->partB;
  row.name = QString::fromStdString(piece.contact->name);
  row.set = contactText(*piece.contact, set);
  row.canMute = true;
  row.muted = piece.contact->muted;
  if (const Surface* surface = findById(project.surfaces, piece.contact->surface))
    row.set += tr(" on ") + QString::fromStdString(surface->name);
  if (piece.area > 0)
    row.set += " · " + QString::fromStdString(formatQuantity(piece.area, Quantity::Area, {}, 3));
  if (result != nullptr && !piece.faces.empty())
    row.figure = heatThrough(*result, piece.faces, piece.contact->partA);
  return row;
}

LedgerBand contactsBand(const Document& document, const Project& project, const ShownFigures* figuresNow,
                        const SetText& set)
{
  LedgerBand band{Band::Contacts, tr("CONTACTS"), {}, {}};
  const bool atEnd = figuresNow != nullptr && figuresNow->atEnd; // what enclosures move is only stored there
  const CaseResult* result = atEnd ? document.shownState().result.get() : nullptr;
  const std::shared_ptr<const Mesh> mesh = document.shownMesh();
  if (!mesh) {
    for (const Link& link : project.links)
      band.rows.push_back(linkRow(project, figuresNow, link, set));
    return band;
  }
  const CaseResult* solved = result != nullptr && &result->mesh == mesh.get() ? result : nullptr;
  const std::vector<ContactFigure> figures =
      figuresNow != nullptr ? figuresNow->contacts : std::vector<ContactFigure>{};
  double largest = 0;
  const auto addRow = [&](const std::string& a, const std::string& b, std::optional<double> area) {
    LedgerRow row;
    row.band = Band::Contacts;
    row.partA = a;
    row.partB = b;
    const Contact* contact = findContact(project, row.partA, row.partB);
    row.id = contact != nullptr ? contact->id : pairId(row.partA, row.partB);
    row.set = contact != nullptr ? contactText(*contact, set) : tr("perfect, because not set");
    row.canMute = contact != nullptr;
    row.muted = contact != nullptr && contact->muted;
    if (area)
      row.set += " · " + QString::fromStdString(formatQuantity(*area, Quantity::Area, {}, 3));
    for (const ContactFigure& figure : figures)
      if (figure.partA == row.partA && figure.partB == row.partB)
        row.figure = std::abs(figure.watts);
    // The arrow points where the heat goes.
    const bool backwards = std::any_of(figures.begin(), figures.end(), [&](const ContactFigure& figure) {
      return figure.partA == row.partA && figure.partB == row.partB && figure.watts < 0;
    });
    row.name = nameOf(project.parts, backwards ? row.partB : row.partA) + (row.figure ? " → " : " | ") +
               nameOf(project.parts, backwards ? row.partA : row.partB);
    largest = std::max(largest, std::abs(row.figure.value_or(0)));
    band.rows.push_back(std::move(row));
  };
  const FaceTable& geometry = mesh->geometry;
  for (const TouchingPair& pair : touchingPairs(geometry))
    addRow(geometry.parts[static_cast<std::size_t>(pair.partA)].id,
           geometry.parts[static_cast<std::size_t>(pair.partB)].id, pair.area);
  for (const ContactPiece& piece : contactPieces(project, geometry)) // parts of an interface
    if (piece.contact != nullptr && !piece.contact->surface.empty())
      band.rows.push_back(pieceRow(project, piece, set, solved));
  for (const Contact& contact : project.contacts) { // a second one of a pair that has no part of its own yet
    const bool another = contact.surface.empty() && &contact != findContact(project, contact.partA, contact.partB);
    if ((another || (contact.muted && !contact.surface.empty())) &&
        touch(geometry, geometry.partIndex(contact.partA), geometry.partIndex(contact.partB)))
      band.rows.push_back(pieceRow(project, {{}, &contact}, set, nullptr));
  }
  for (const Contact& contact : project.contacts) { // gaps between parts that share no faces
    const PartId a = geometry.partIndex(contact.partA);
    const PartId b = geometry.partIndex(contact.partB);
    if (!std::holds_alternative<Gap>(contact.exchange) || a == noPart || b == noPart || touch(geometry, a, b))
      continue;
    const auto across = std::find_if(figures.begin(), figures.end(), [&](const ContactFigure& figure) {
      return figure.partA == contact.partA && figure.partB == contact.partB;
    });
    addRow(contact.partA, contact.partB, across != figures.end() ? std::optional(across->area) : std::nullopt);
  }
  for (const Enclosure& enclosure : project.enclosures) {
    band.rows.push_back(enclosureRow(project, result, enclosure));
    if (figuresNow != nullptr && !atEnd) // what moves within is recorded with the links
      band.rows.back().figure = flowOf(figuresNow->links, enclosure.id);
  }
  for (const Link& link : project.links)
    band.rows.push_back(linkRow(project, figuresNow, link, set));
  for (const LedgerRow& row : band.rows)
    largest = std::max(largest, std::abs(row.figure.value_or(0)));
  setBars(band, largest);
  return band;
}

LedgerBand surroundingsBand(const Project& project, const ShownFigures* result, const SetText& set)
{
  LedgerBand band{Band::Surroundings, tr("SURROUNDINGS"), {}, {}};
  if (result != nullptr)
    band.total = 0;
  for (const Boundary& boundary : project.boundaries) {
    LedgerRow row{Band::Surroundings,
                  boundary.id,
                  {},
                  {},
                  QString::fromStdString(boundary.name),
                  std::visit(set, boundary.condition),
                  {},
                  0,
                  boundary.muted,
                  true};
    if (!surfaceOf(boundary).empty())
      row.set += " · " + nameOf(project.surfaces, surfaceOf(boundary));
    if (result != nullptr && !std::holds_alternative<Sheet>(boundary.condition)) { // a sheet takes nothing from outside
      row.figure = flowOf(result->boundaries, boundary.id);
      if (nodeOf(boundary).empty()) // what goes to a lumped node stays inside
        *band.total += row.figure.value_or(0);
    }
    band.rows.push_back(std::move(row));
  }
  return band;
}

/// What the parts took in since the start of the run, the largest first.
std::vector<LedgerRow> storedRows(const Project& project, const ShownFigures& figures)
{
  constexpr std::size_t most = 12;
  std::vector<LedgerRow> rows;
  for (const auto& [id, joules] : figures.storedByPart) {
    LedgerRow row;
    row.band = Band::Stored;
    row.id = "stored:" + id;
    row.name = nameOf(project.parts, id);
    row.set = tr("since the start");
    row.figure = joules;
    rows.push_back(std::move(row));
  }
  std::stable_sort(rows.begin(), rows.end(),
                   [](const LedgerRow& a, const LedgerRow& b) { return std::abs(*a.figure) > std::abs(*b.figure); });
  if (rows.size() > most) {
    LedgerRow& others = rows[most - 1];
    others.id = "stored:others";
    others.name = tr("%1 other parts").arg(rows.size() - most + 1);
    for (std::size_t i = most; i < rows.size(); ++i)
      *others.figure += *rows[i].figure;
    rows.resize(most);
  }
  for (LedgerRow& row : rows)
    row.bar = *rows.front().figure != 0 ? *row.figure / std::abs(*rows.front().figure) : 0;
  return rows;
}

/// Rows that a rule of the run has changed by the shown instant say so.
void noteRules(const Document& document, std::vector<LedgerBand>& bands)
{
  const Case* shown = document.shownCaseObject();
  const auto record = document.shownState().run.record;
  const auto now = document.playhead();
  if (shown == nullptr || !shown->run || !record || !now)
    return;
  for (const RunMark& mark : record->marks) {
    const auto rule = std::find_if(shown->run->rules.begin(), shown->run->rules.end(),
                                   [&](const RunRule& one) { return one.id == mark.id; });
    if (mark.kind != RunMark::Kind::RuleFired || mark.time > *now || rule == shown->run->rules.end())
      continue;
    const auto touches = [&](const std::string& id) {
      const auto is = [&](const std::string& other) { return other == id; };
      return std::any_of(rule->mute.begin(), rule->mute.end(), is) ||
             std::any_of(rule->unmute.begin(), rule->unmute.end(), is) ||
             std::any_of(rule->set.begin(), rule->set.end(),
                         [&](const Change& change) { return change.field.starts_with(id + "."); });
    };
    for (LedgerBand& band : bands)
      for (LedgerRow& row : band.rows)
        if (touches(row.id))
          row.set +=
              tr(" · changed by a rule at %1").arg(QString::fromStdString(formatQuantity(mark.time, Quantity::Time)));
  }
}

} // namespace

std::vector<LedgerBand> ledgerBands(const Document& document, TemperatureUnit unit)
{
  const Project& project = document.shownProject();
  const ShownFigures* result = document.shownFigures();
  const SetText set(project, unit);
  std::vector<LedgerBand> bands{sourcesBand(project, result, set), partsBand(document, project, result),
                                contactsBand(document, project, result, set), surroundingsBand(project, result, set)};
  for (const Node& node : project.nodes)
    bands[1].rows.push_back(nodeRow(result, node, unit));
  // What lumped nodes get of their own, and what holds them, comes from outside, too.
  for (const NodeState& state : result != nullptr ? result->nodes : std::vector<NodeState>{})
    *bands[state.watts > 0 ? 0 : 3].total += state.watts;
  const double throughput = result != nullptr ? std::max(result->heatIn, result->heatOut) : 0;
  setBars(bands[0], throughput);
  setBars(bands[3], throughput);
  LedgerBand stored{Band::Stored, tr("STORED"), {}, {}};
  if (result != nullptr) {
    stored.total = result->stored;
    stored.rows = storedRows(project, *result);
  }
  bands.push_back(std::move(stored));
  noteRules(document, bands);
  return bands;
}

} // namespace kiln
