// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "model/Cases.h"
#include "model/Heat.h"
#include "model/Network.h"
#include "model/Parts.h"
#include "model/Section.h"
#include "model/Watches.h"

namespace kiln
{

struct ShapeSettings {
  std::optional<Number> tolerance; // m, nothing: fuseTolerance
  UnknownKeys unknown;
  bool operator==(const ShapeSettings&) const = default;
};

struct MeshSettings {
  std::optional<Number> size;        // m, nothing: chosen from the parts
  std::optional<Number> fineness;    // all sizes are divided by it
  std::optional<Number> acrossWalls; // elements through the thickness of walls, at least
  bool secondOrder = false;          // with nodes on the edges too; else a quick look
  SharedText finerAt;                // "x y z size" a line, m: where a refinement run asked for smaller elements
  UnknownKeys unknown;
  bool operator==(const MeshSettings&) const = default;
};

/// What correlations need to know once a project.
struct Environment {
  Number3 gravity{{0, {}}, {0, {}}, {-1, {}}}; // direction
  Number airPressure{101325, "101.325 kPa"};   // Pa
  UnknownKeys unknown;
  bool operator==(const Environment&) const = default;
};

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
  std::vector<Case> cases;
  std::vector<Watch> watches;
  std::vector<Line> lines;
  std::optional<Section> section; // nothing: the model is solid
  ShapeSettings shapes;
  MeshSettings mesh;
  std::optional<Environment> environment; // nothing: not asked yet, the usual values count
  UnknownKeys unknown;
  bool operator==(const Project&) const = default;
};

/// First element with this id, or nullptr.
template <class List>
[[nodiscard]] auto* findById(List& list, const std::string& id)
{
  for (auto& item : list)
    if (item.id == id)
      return &item;
  return static_cast<decltype(&list.front())>(nullptr);
}

[[nodiscard]] Quantity quantityOf(const Watch& watch);       ///< of its figure
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
