// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "model/Materials.h"
#include "model/SharedText.h"
#include "model/Steps.h"

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
template <class A>
void describe(A& a, TakenBody& b)
{
  a.text({"id", "", "What a part of it refers to."}, b.id);
  a.text(KeySpec{"name", Stage::Nothing}, b.name);
  a.texts({"faceNames", "", "Lasting names of its faces, in the order of the geometry."}, b.faces);
  a.text({"hash", "", "Of its shape."}, b.hash);
  a.longText({"shape", "", "Of its body, packed: see above.", Stage::Nothing}, b.shape); // its hash stands for it
  a.longText({"elements", "", "Of a mesh file, packed: see above."}, b.elements);
}

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
template <class A>
void describe(A& a, GeometryFile& f)
{
  describeObject(a, f);
  a.text({"path", "", "Where it was read, relative to the project where that is below it.", Stage::Nothing},
         f.path); // what was taken in counts, not from where
  a.text({"hash", "", "Of the file then.", Stage::Nothing}, f.hash);
  a.number({"unit", "Length of its unit", "", Quantity::Length, Range::Positive}, f.unit);
  a.optionalNumber({"faceAngle", "Triangles make one face up to", "How it was read.", Quantity::Angle, Range::Positive,
                    Stage::Nothing},
                   f.faceAngle);
  a.optionalNumber({"removeBelow", "Round faces removed below", "How it was read.", Quantity::Length, Range::Positive,
                    Stage::Nothing},
                   f.removeBelow);
  a.flag({"linked", "", "Bodies are read from the path; no shapes are kept.", Stage::Nothing}, f.linked);
  a.list({"bodies", "Bodies", ""}, f.bodies);
  a.unknown(f.unknown);
}

/// Parts that are folded, muted, summed and watched as one.
struct PartGroup : Object {
  bool muted = false;
  bool operator==(const PartGroup&) const = default;
};
template <class A>
void describe(A& a, PartGroup& g)
{
  describeObject(a, g);
  a.flag({"muted", "Switched off", "With all its parts.", Stage::Geometry}, g.muted);
  a.unknown(g.unknown);
}

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
template <class A>
void describe(A& a, Part& p)
{
  describeObject(a, p);
  a.reference({"material", "Material", "", Refers::Material, Nothing{"choose a material"}, Stage::Solution},
              p.material);
  // What the group makes of it counts where the group is named.
  a.reference(
      {"group", "Group", "Folded, switched off and watched with it.", Refers::Group, Nothing{"none"}, Stage::Nothing},
      p.group);
  describe(a, p.shape);
  a.list({"steps", "Steps", "Changes of its shape, in order."}, p.steps);
  a.nestedChoice({"repeat", "Repeated", "The copies are one part."}, p.repeat, describing::repeatKinds);
  a.references({"yieldsTo", "Yields to", "They keep the space where they overlap it.", Refers::Part}, p.yieldsTo);
  a.number3({"materialAxes", "Material axes turned", "Within the part's frame.", Quantity::Angle, Stage::Solution},
            p.materialAxes);
  a.optionalNumber(
      {"meshSize", "Mesh size", "Largest edge of its elements.", Quantity::Length, Range::Positive, Stage::Mesh},
      p.meshSize);
  a.flag({"muted", "Switched off", "As if it were not there."}, p.muted);
  a.appearance({"colour", "", "Where the scene is coloured by part."}, p.colour);
  a.unknown(p.unknown);
}

} // namespace kiln
