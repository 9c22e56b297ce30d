// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "model/Cases.h"
#include "model/Contacts.h"
#include "model/Network.h"
#include "model/Questions.h"
#include "model/Reports.h"
#include "model/Section.h"
#include "model/Sources.h"
#include "model/Surfaces.h"
#include "model/Views.h"
#include "model/Watches.h"

namespace kiln
{

struct ShapeSettings {
  std::optional<Number> tolerance; // m, nothing: fuseTolerance
  UnknownKeys unknown;
  bool operator==(const ShapeSettings&) const = default;
};
template <class A>
void describe(A& a, ShapeSettings& s)
{
  a.optionalNumber(
      {"tolerance", "Parts closer than this touch", "", Quantity::Length, Range::Positive, Usually{"0.001 mm"}},
      s.tolerance);
  a.unknown(s.unknown);
}

struct MeshSettings {
  std::optional<Number> size;        // m, nothing: chosen from the parts
  std::optional<Number> smallest;    // m, no size falls below it but those that are set; nothing: no bound
  std::optional<Number> fineness;    // all sizes are divided by it
  std::optional<Number> acrossWalls; // elements through the thickness of walls, at least
  bool secondOrder = false;          // with nodes on the edges too; else a quick look
  SharedText finerAt;                // "x y z size" a line, m: where a refinement run asked for smaller elements
  UnknownKeys unknown;
  bool operator==(const MeshSettings&) const = default;
};
template <class A>
void describe(A& a, MeshSettings& m)
{
  a.optionalNumber(
      {"size", "Mesh size", "Largest edge.", Quantity::Length, Range::Positive, Usually{"chosen from the parts"}},
      m.size);
  a.optionalNumber({"smallest", "Smallest size", "Walls and roundings ask for none below it.", Quantity::Length,
                    Range::Positive, Usually{"no bound"}},
                   m.smallest);
  a.optionalNumber(
      {"fineness", "Divide all sizes by", "2 halves every edge.", Quantity::Plain, Range::Positive, Usually{"1"}},
      m.fineness);
  a.optionalNumber(
      {"acrossWalls", "Elements through walls", "At least.", Quantity::Plain, Range::Count, Usually{"chosen"}},
      m.acrossWalls);
  a.flag({"secondOrder", "Second order",
          "Elements bent to round faces, with nodes on their edges too; else a first-order mesh, a quick look."},
         m.secondOrder);
  a.longText(
      {"finerAt", "Finer at", "A line “x y z size” in m for each place where a refinement asked for smaller elements."},
      m.finerAt);
  a.unknown(m.unknown);
}

/// What correlations need to know once a project.
struct Environment {
  Number3 gravity{{0, {}}, {0, {}}, {-1, {}}}; // direction
  Number airPressure{101325, "101.325 kPa"};   // Pa
  UnknownKeys unknown;
  bool operator==(const Environment&) const = default;
};
template <class A>
void describe(A& a, Environment& e)
{
  a.number3({"gravity", "Gravity", "Its direction.", Quantity::Plain, Usually{"0 0 -1"}}, e.gravity);
  a.number({"airPressure", "Air pressure", "Correlations go by it.", Quantity::Pressure, Range::Positive,
            Usually{"101.325 kPa"}},
           e.airPressure);
  a.unknown(e.unknown);
}

/// Everything the engineer set. Compared and copied by value.
struct Project {
  std::string name;
  std::string comment;
  std::vector<Parameter> parameters;
  std::vector<Material> materials;
  std::vector<Finish> finishes;
  std::vector<GeometryFile> files;
  std::vector<PartGroup> groups;
  std::vector<Part> parts;
  std::vector<Surface> surfaces;
  std::vector<HeatSource> sources;
  std::vector<Boundary> boundaries;
  std::vector<Contact> contacts;
  std::vector<Enclosure> enclosures;
  std::vector<Node> nodes;
  std::vector<Link> links;
  std::vector<NetworkPlace> network;
  std::vector<PropertySet> sets;
  std::vector<Case> cases;
  std::vector<Question> questions;
  std::vector<Watch> watches;
  std::vector<Line> lines;
  std::vector<View> views; ///< the first one is what one sees on opening
  std::vector<Label> labels;
  std::vector<Report> reports;
  std::optional<Section> section; // nothing: the model is solid
  ShapeSettings shapes;
  MeshSettings mesh;
  std::optional<Environment> environment; // nothing: not asked yet, the usual values count
  SharedText picture;                     ///< a small PNG picture of the scene, packed
  UnknownKeys unknown;
  bool operator==(const Project&) const = default;
};
template <class A>
void describe(A& a, Project& p)
{
  a.text({"name", "Name", "Of the project.", Stage::Nothing}, p.name);
  a.optionalText({"comment", "Comment", "Of the project.", Stage::Nothing}, p.comment);
  a.list({"parameters", "Parameters", "", Stage::AsUsed}, p.parameters);
  a.list({"materials", "Materials", "", Stage::AsUsed}, p.materials);
  a.list({"finishes", "Finishes", "", Stage::Solution}, p.finishes);
  a.list({"files", "Files", "", Stage::AsUsed}, p.files);
  a.list({"groups", "Part groups", "", Stage::Nothing}, p.groups);
  a.list({"parts", "Parts", "", Stage::Geometry}, p.parts);
  a.list({"surfaces", "Surfaces", "", Stage::AsUsed}, p.surfaces);
  a.list({"sources", "Sources", "", Stage::Solution}, p.sources);
  a.list({"boundaries", "Boundaries", "", Stage::Solution}, p.boundaries);
  a.list({"contacts", "Contacts", "", Stage::Solution}, p.contacts);
  a.list({"enclosures", "Enclosures", "", Stage::Solution}, p.enclosures);
  a.list({"nodes", "Lumped nodes", "", Stage::Solution}, p.nodes);
  a.list({"links", "Links", "", Stage::Solution}, p.links);
  a.list({"network", "Places in the network", "", Stage::Nothing}, p.network);
  a.list({"sets", "Property sets", "", Stage::Nothing}, p.sets);
  a.list({"cases", "Cases", "", Stage::Course}, p.cases);
  a.list({"questions", "Questions", "What varies in a case, and what is asked.", Stage::Nothing}, p.questions);
  a.list({"watches", "Watches", "", Stage::AsUsed}, p.watches);
  a.list({"lines", "Lines", "", Stage::Nothing}, p.lines);
  a.list({"views", "Views", "The first one is what one sees on opening.", Stage::Nothing}, p.views);
  a.list({"labels", "Labels", "", Stage::Nothing}, p.labels);
  a.list({"reports", "Reports", "Of cases and questions.", Stage::Nothing}, p.reports);
  a.nested(
      {"section", "Section", "Makes it a section model: parts are cut by a plane and solved in it.", Stage::Geometry},
      p.section);
  a.nested({"shapes", "Shapes", "", Stage::Geometry}, p.shapes);
  a.nested({"mesh", "Mesh", "", Stage::Mesh}, p.mesh);
  a.nested({"environment", "Environment", "What correlations need to know.", Stage::Solution}, p.environment);
  a.longText({"picture", "", "A small PNG picture of the scene as it was saved, packed as bodies are.", Stage::Nothing},
             p.picture);
  a.unknown(p.unknown);
}

/// First element with this id, or nullptr.
template <class List>
[[nodiscard]] auto* findById(List& list, const std::string& id)
{
  for (auto& item : list)
    if (item.id == id)
      return &item;
  return static_cast<decltype(&list.front())>(nullptr);
}

[[nodiscard]] Quantity heatQuantity(const Project& project); ///< W, or W/m in a plane section without a depth
[[nodiscard]] Quantity quantityOf(const Project& project, const Watch& watch); ///< of its figure, with that in mind
[[nodiscard]] const std::string& nodeOf(const Boundary& boundary);             ///< its ambient, empty when it has none
[[nodiscard]] const std::string& surfaceOf(const Boundary& boundary);          ///< id, empty when it has none
[[nodiscard]] const std::string& surfaceOf(const HeatSource& source);

/// "watch-1", "watch-2", … : the first that no object of the project has.
[[nodiscard]] std::string freeId(const Project& project, const std::string& base);

/// Id that a touching pair goes by while no contact is set for it: "shell|fibre".
[[nodiscard]] std::string pairId(const std::string& partA, const std::string& partB);

/// Is the contact between these parts, whatever their order?
[[nodiscard]] bool joins(const Contact& contact, const std::string& partA, const std::string& partB);

/// The contact of a touching pair as a whole, whatever the order of the parts.
[[nodiscard]] const Contact* findContact(const Project& project, const std::string& partA, const std::string& partB);

} // namespace kiln
