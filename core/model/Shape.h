// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "model/Number.h"

#include <map>
#include <string>
#include <variant>
#include <vector>

namespace kiln
{

/// Keys of the file that this version does not know, kept as JSON text and written back.
using UnknownKeys = std::map<std::string, std::string>;

/// Own frame of every form: the base lies in z = 0 and is centred on the z axis, unless said otherwise.
struct Block {
  Number sizeX, sizeY, sizeZ;
  bool operator==(const Block&) const = default;
};
struct Cylinder {
  Number radius, height;
  bool operator==(const Cylinder&) const = default;
};
struct Tube {
  Number outerRadius, innerRadius, height;
  bool operator==(const Tube&) const = default;
};
/// Centred on the origin.
struct Sphere {
  Number radius;
  bool operator==(const Sphere&) const = default;
};
/// A zero top radius makes a point.
struct Cone {
  Number bottomRadius, topRadius, height;
  bool operator==(const Cone&) const = default;
};
/// Centred on the origin, its axis along z.
struct Torus {
  Number ringRadius, tubeRadius;
  bool operator==(const Torus&) const = default;
};
struct OutlinePoint {
  Number a, b;    ///< x, y of a prism; r, z of a turned profile
  Number bulge{}; ///< height of the arc to the next point over its chord, to the right of it; 0 is a straight line
  bool operator==(const OutlinePoint&) const = default;
};
/// Outline in x, y, drawn out along z: by a height, or up to a flat face of another part ("lid.bottom").
struct Prism {
  std::vector<OutlinePoint> outline;
  Number height;
  std::string upTo{}; ///< the height follows this face when it is named
  bool operator==(const Prism&) const = default;
};
/// Outline in r, z, turned about z.
struct TurnedProfile {
  std::vector<OutlinePoint> outline;
  Number angle;
  bool operator==(const TurnedProfile&) const = default;
};

/// A body taken from a file, in the file's own frame.
struct FileBody {
  std::string file, body; ///< ids of the file and of the body in it
  bool meshAnew = false;  ///< though the file has elements of its own
  bool operator==(const FileBody&) const = default;
};

/// Flat forms, for section models: drawn in the x–z plane (r and z where it is turned), endless along y.
struct Rectangle {
  Number width, height; ///< along x, centred on the z axis; along z, from 0
  bool operator==(const Rectangle&) const = default;
};
/// A circle, or a ring when it has an inner radius, centred on the origin.
struct Disc {
  Number outerRadius, innerRadius;
  bool operator==(const Disc&) const = default;
};
/// Outline in x, z.
struct FlatOutline {
  std::vector<OutlinePoint> outline;
  bool operator==(const FlatOutline&) const = default;
};

using Form = std::variant<Block, Cylinder, Tube, Sphere, Cone, Torus, Prism, TurnedProfile, FileBody, Rectangle, Disc,
                          FlatOutline>;

/// Rotated about x, then y, then z (fixed axes), then moved.
struct Placement {
  Number3 position, rotation;
  bool operator==(const Placement&) const = default;
};

struct PlacedForm {
  Form form;
  Placement placement;
  bool operator==(const PlacedForm&) const = default;
};

struct Once {
  bool operator==(const Once&) const = default;
};
/// Copies along a line.
struct Row {
  Number count{2, "2"};
  Number3 pitch;
  UnknownKeys unknown{};
  bool operator==(const Row&) const = default;
};
/// Copies around an axis, both in the part's frame.
struct Ring {
  Number count{2, "2"};
  Number angle{}; ///< from one to the next; 0 spreads them over a full turn
  Number3 centre{};
  Number3 axis{{0, {}}, {0, {}}, {1, {}}}; ///< direction
  UnknownKeys unknown{};
  bool operator==(const Ring&) const = default;
};
using Repeat = std::variant<Once, Row, Ring>;

/// A further form joined to the part, in the part's frame.
struct Join {
  PlacedForm shape;
  Repeat repeat{};
  bool operator==(const Join&) const = default;
};
/// A form cut from the part, in the part's frame.
struct Cut {
  PlacedForm shape;
  Repeat repeat{};
  bool operator==(const Cut&) const = default;
};
/// Edges between the named faces made round; one face alone: all its edges.
struct RoundEdges {
  std::vector<std::string> faces;
  Number radius;
  bool operator==(const RoundEdges&) const = default;
};
/// The same edges cut off at equal distances.
struct BevelEdges {
  std::vector<std::string> faces;
  Number distance;
  bool operator==(const BevelEdges&) const = default;
};
/// A flat face moved along its normal, outwards when positive; its neighbours follow straight.
struct PushFace {
  std::string face;
  Number distance;
  bool operator==(const PushFace&) const = default;
};
/// A layer of even thickness laid on a face, flat or round; taken off when negative.
struct ThickenFace {
  std::string face;
  Number thickness;
  bool operator==(const ThickenFace&) const = default;
};
/// A face turned about the line where it meets the base of the part (lowest z), leaning outwards when positive.
struct TiltFace {
  std::string face;
  Number angle;
  bool operator==(const TiltFace&) const = default;
};

/// Small features taken away, their neighbours closing the place: named faces, and round ones of a small radius.
struct RemoveFaces {
  std::vector<std::string> faces;
  Number roundBelow; ///< m; 0: none by radius
  bool operator==(const RemoveFaces&) const = default;
};

/// Outlines on a flat face, from its middle; a runs along the part's x (y where the face looks along x), b across.
struct SplitByLine {
  Number fromA, fromB, toA, toB;
  bool operator==(const SplitByLine&) const = default;
};
struct SplitByRectangle {
  Number centreA, centreB, sizeA, sizeB;
  bool operator==(const SplitByRectangle&) const = default;
};
struct SplitByCircle {
  Number centreA, centreB, radius;
  bool operator==(const SplitByCircle&) const = default;
};
struct SplitByOutline {
  std::vector<OutlinePoint> outline;
  bool operator==(const SplitByOutline&) const = default;
};
/// A split line: divides a face. The piece inside is also called part.step.inside, the rest part.step.outside.
struct SplitFace {
  std::string face;
  std::variant<SplitByLine, SplitByRectangle, SplitByCircle, SplitByOutline> line;
  bool operator==(const SplitFace&) const = default;
};

/// One change of a part's shape; the steps act in the listed order, in the part's frame.
struct ShapeStep {
  std::string id; ///< gives its faces their lasting names: part.step.face
  std::variant<Join, Cut, RoundEdges, BevelEdges, PushFace, TiltFace, SplitFace, RemoveFaces, ThickenFace> action =
      Cut{};
  UnknownKeys unknown;
  bool operator==(const ShapeStep&) const = default;
};

} // namespace kiln
