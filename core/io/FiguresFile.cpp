// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "io/FiguresFile.h"

#include "mesh/MeshQuality.h"

#include "io/JsonText.h"
#include "results/Figures.h"

namespace kiln
{
namespace
{

Json placedJson(const PlacedValue& value)
{
  return {{"value", value.value}, {"place", {value.place.x(), value.place.y(), value.place.z()}}};
}

Json optionalJson(const std::optional<double>& value) { return value ? Json(*value) : Json(); }

Json watchJson(const WatchFigure& watch, const FaceTable& geometry)
{
  Json json{{"id", watch.id},
            {"name", watch.name},
            {"unit", watch.quantity == Quantity::Plain ? "" : siUnit(watch.quantity)},
            {"value", optionalJson(watch.value)},
            {"upper", optionalJson(watch.upper)},
            {"lower", optionalJson(watch.lower)},
            {"margin", optionalJson(watch.margin)}};
  if (watch.where) {
    json["place"] = {watch.where->place.x(), watch.where->place.y(), watch.where->place.z()};
    json["part"] = geometry.parts[static_cast<std::size_t>(watch.where->part)].id;
  }
  if (watch.reference) {
    json["reference"] = *watch.reference;
    json["referenceFrom"] = watch.referenceFrom;
    json["tolerance"] = optionalJson(watch.tolerance);
  }
  if (const auto passes = agrees(watch))
    json["agrees"] = *passes;
  if (!watch.note.empty())
    json["note"] = watch.note;
  return json;
}

template <class List>
Json flowsJson(const List& objects, const std::vector<LedgerFlow>& flows)
{
  Json json = Json::array();
  for (const LedgerFlow& flow : flows) {
    const auto* object = findById(objects, flow.id);
    json.push_back({{"id", flow.id}, {"name", object != nullptr ? object->name : flow.id}, {"watts", flow.watts}});
  }
  return json;
}

Json excessJson(const BoundsExcess& excess, const FaceTable& geometry)
{
  Json json{{"kelvin", excess.kelvin}, {"time", excess.time}};
  if (excess.part >= 0) {
    json["part"] = geometry.parts[static_cast<std::size_t>(excess.part)].id;
    json["place"] = {excess.place.x(), excess.place.y(), excess.place.z()};
  }
  return json;
}

/// How far temperatures went beyond what is possible, K.
Json boundsJson(const BoundsReport& bounds, const FaceTable& geometry)
{
  return {{"above", excessJson(bounds.above, geometry)},
          {"below", excessJson(bounds.below, geometry)},
          {"aboveMeasured", bounds.upperKnown},
          {"belowMeasured", bounds.lowerKnown},
          {"stepTolerance", bounds.tolerance},
          {"limitedSteps", bounds.limitedSteps},
          {"exceeded", bounds.exceeded()}};
}

Json enclosuresJson(const Project& project, const std::vector<EnclosureFigure>& enclosures)
{
  Json list = Json::array();
  for (const EnclosureFigure& own : enclosures) {
    const Enclosure* set = findById(project.enclosures, own.id);
    Json json{{"id", own.id},
              {"name", set != nullptr ? set->name : own.id},
              {"moved", own.moved},
              {"opening", own.opening},
              {"patches", own.patches},
              {"rays", own.rays},
              {"patchError", own.patchError},
              {"escaped", own.escaped},
              {"reciprocityError", own.reciprocityError},
              {"correction", own.correction}};
    json["surfaces"] = Json::array();
    for (const auto& surface : own.surfaces)
      json["surfaces"].push_back({{"id", surface.surface}, {"watts", surface.watts}});
    json["exchanges"] = Json::array();
    for (const auto& exchange : own.exchanges)
      json["exchanges"].push_back({{"partA", exchange.partA}, {"partB", exchange.partB}, {"watts", exchange.watts}});
    list.push_back(std::move(json));
  }
  return list;
}

} // namespace

std::string figuresText(const Project& project, const CaseResult& result, const std::string& figures,
                        const FiguresOfCase& others)
{
  const FaceTable& geometry = result.mesh.geometry;
  Json json{{"case", result.caseName}, {"kind", result.transient ? "transient" : "steady"}, {"temperatureUnit", "K"}};
  json["parts"] = Json::array();
  for (const PartFigures& part : partFigures(result))
    json["parts"].push_back({{"id", part.id},
                             {"name", part.name},
                             {"hottest", placedJson(part.hottest)},
                             {"coldest", placedJson(part.coldest)},
                             {"mean", part.mean}});
  json["watches"] = Json::array();
  std::vector<WatchFigure> watches = readWatches(project, result);
  if (others)
    takeReferences(project, watches, others);
  for (const WatchFigure& watch : watches)
    json["watches"].push_back(watchJson(watch, geometry));
  Json& ledger = json["ledger"];
  ledger["sources"] = flowsJson(project.sources, result.sources);
  ledger["boundaries"] = flowsJson(project.boundaries, result.boundaries);
  ledger["contacts"] = Json::array();
  for (const ContactFigure& contact : contactFigures(result)) {
    const Contact* set = findContact(project, contact.partA, contact.partB);
    ledger["contacts"].push_back({{"partA", contact.partA},
                                  {"partB", contact.partB},
                                  {"area", contact.area},
                                  {"watts", contact.watts},
                                  {"set", set != nullptr}});
  }
  ledger["heatIn"] = result.heatIn;
  ledger["heatOut"] = result.heatOut;
  ledger["links"] = flowsJson(project.links, result.links);
  ledger["nodes"] = Json::array();
  for (const NodeState& node : result.nodes)
    ledger["nodes"].push_back({{"id", node.id}, {"temperature", node.temperature}, {"watts", node.watts}});
  for (const ElectrodeState& one : result.electrodes)
    ledger["electrodes"].push_back({{"id", one.id}, {"voltage", one.voltage}, {"current", one.current}});
  if (result.transient)
    json["time"] = result.time;
  ledger["stored"] = result.stored;
  ledger["imbalance"] = result.imbalance;
  ledger["relativeImbalance"] = result.relativeImbalance();
  if (result.transient)
    json["bounds"] = boundsJson(result.bounds, geometry);
  json["notes"] = result.notes;
  json["enclosures"] = enclosuresJson(project, result.enclosures);
  json["mesh"] = {{"elements", countElements(result.mesh)},
                  {"nodes", result.mesh.nodes.size()},
                  {"unknowns", result.unknowns.count},
                  {"order", result.mesh.order},
                  {"smallestDihedralDegrees", result.mesh.smallestDihedral},
                  {"voids", Json::array()}};
  for (const Void& space : result.mesh.voids) {
    Json faces = Json::array();
    for (const FaceId face : space.faces)
      if (!geometry.faces[static_cast<std::size_t>(face)].names.empty())
        faces.push_back(geometry.faces[static_cast<std::size_t>(face)].names.front());
    json["mesh"]["voids"].push_back({{"volume", space.volume}, {"faces", faces}});
  }
  json["solver"] = {{"linear", result.info.solver},
                    {"newtonSteps", result.info.newtonSteps},
                    {"linearIterations", result.info.linearIterations},
                    {"residual", result.info.residual}};
  for (const StageTime& time : result.info.times)
    json["seconds"][time.stage] = time.seconds;
  json["hashes"] = {{"mesh", result.meshHash},
                    {"solution", result.solutionHash},
                    {"figures", figures},
                    {"startedFrom", result.startIdentity}};
  return prettyJson(json);
}

} // namespace kiln
