// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "model/SharedText.h"
#include "model/Values.h"

namespace kiln
{

/// One body of a file, as it was taken in.
struct TakenBody {
  std::string id; ///< key within its file
  std::string name;
  std::vector<std::string> faces; ///< lasting names of its faces, in the kernel's order: "f1", …
  std::string hash;               ///< of its shape
  SharedText shape;               ///< the kernel's binary form, compressed, in base64
  SharedText elements{};          ///< tetrahedra of a mesh file, compressed, in base64
  bool operator==(const TakenBody&) const = default;
};

/// A file of geometry whose bodies are embedded in the project.
struct GeometryFile : Object {
  std::string path;    ///< where it was read; relative to the project where that is below it
  std::string hash;    ///< of the file then
  bool linked = false; ///< the project keeps the path alone; bodies are read from the file when it is opened
  Number unit{1, "1"}; ///< m, length of one of its units
  std::optional<Number> faceAngle{};   ///< rad, up to which its triangles make one face
  std::optional<Number> removeBelow{}; ///< m, round faces of a smaller radius were taken away
  std::vector<TakenBody> bodies;
  bool operator==(const GeometryFile&) const = default;
};

/// Conductivity is the same in all directions, or has its own values along the second and third material axis.
struct Material : Object {
  Property conductivity;                                // W/(m·K)
  std::optional<Property> conductivityY, conductivityZ; // W/(m·K)
  std::optional<Number> density;                        // kg/m³
  std::optional<Property> specificHeat;                 // J/(kg·K)
  std::optional<Number> emissivity;                     // typical
  std::optional<Number> serviceTemperature;             // K, offered as the limit of parts made of it
  std::optional<Number> latentHeat;                     // J/kg, taken up between the two temperatures
  std::optional<Number> meltsFrom, meltsTo;             // K
  std::optional<Property> electricConductivity;         // S/m
  std::string source;                                   // where the values come from
  bool operator==(const Material&) const = default;
};

/// The emissivity of surfaces, apart from the material beneath. A later finish wins over an earlier one.
struct Finish : Object {
  Property emissivity;
  std::optional<Number> solarAbsorptance;
  std::vector<std::string> surfaces;
  bool operator==(const Finish&) const = default;
};

/// Parts that are folded, muted, summed and watched as one.
struct PartGroup : Object {
  bool muted = false;
  bool operator==(const PartGroup&) const = default;
};

struct Part : Object {
  std::string material;
  std::string group; // id, may be empty
  PlacedForm shape;
  std::vector<ShapeStep> steps;
  Repeat repeat;                     // of the whole body; the copies are one part
  std::vector<std::string> yieldsTo; // part ids that keep the space where they overlap this one
  Number3 materialAxes;              // rad, turns the material's axes within the part's frame
  std::optional<Number> meshSize;    // m
  bool muted = false;                // left out of the model
  std::string colour;                // "#rrggbb", of pictures; empty: the program chooses
  bool operator==(const Part&) const = default;
};

/// Faces whose normals all lie within an angle of a direction.
struct Facing {
  Number3 direction;
  Number within; // rad
  bool operator==(const Facing&) const = default;
};

/// Faces whose middle lies between two corners; a missing bound leaves that side open.
struct Within {
  std::optional<Number> lowX, highX, lowY, highY, lowZ, highZ; // m
  bool operator==(const Within&) const = default;
};

/// Faces whose middle lies no farther than a distance from a place.
struct Near {
  Number3 place;
  Number distance;
  bool operator==(const Near&) const = default;
};

/// A rule: exposed faces of parts and named faces, kept where they face a direction, lie within a box and near a
/// place, minus other surfaces; then faces picked by hand are added and left out.
struct Surface : Object {
  std::vector<std::string> exposedOf; // part or part group ids
  std::vector<std::string> faces;     // lasting names, "shell.top" or, for every face of a part, "shell.*"
  std::optional<Facing> facing;
  std::optional<Within> within;
  std::optional<Near> near;
  std::vector<std::string> except;  // surface ids
  std::optional<Number> meshSize;   // m, of its faces
  std::vector<std::string> added;   // lasting names, picked by hand, whatever the rest of the rule says
  std::vector<std::string> without; // lasting names, left out by hand
  bool operator==(const Surface&) const = default;
};

} // namespace kiln
