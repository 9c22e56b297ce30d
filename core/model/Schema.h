// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "units/Quantity.h"

#include <cstdint>
#include <string_view>

/// One description of every object's fields, read by all who walk over a project: the file reader and writer, the list
/// of editable numbers, the search for misspelt keys, what refers to what, what a stored result depends on. An archive
/// offers
///   text, optionalText, reference, references, flag, number, optionalNumber, property, optionalProperty, number3,
///   outline, points, schedule, longText, appearance (a text that changes no result), changes, choice, nestedChoice,
///   list, nested, unknown.
/// Fields stand in the order of the file.
namespace kiln
{

/// Which values a number may take.
enum class Range { Any, Positive, NonNegative, Fraction, Share, Count, Rays };

/// The first computation that a field changes; all later ones follow from it.
enum class Stage {
  Geometry,
  Mesh,
  Exchange, ///< view factors
  Solution, ///< steady and in time
  Course,   ///< in time only: what stores heat, switches, starts
  Extent,   ///< how long a run goes, how exactly, what of it is stored
  Figures,  ///< read from a solution
  Nothing,
  AsUsed, ///< that of whatever refers to the object: a material, a surface
  Inherit ///< that of the list, choice or object around it
};

/// A key with what it means. Made from a key alone, it has the stage of what is around it.
struct KeySpec {
  std::string_view key;
  Stage stage = Stage::Inherit;

  constexpr KeySpec(std::string_view name, Stage of = Stage::Inherit) : key(name), stage(of) {}
  constexpr KeySpec(const char* name, Stage of = Stage::Inherit) : key(name), stage(of) {}
  constexpr operator std::string_view() const { return key; }
};

/// What one number of an object is.
struct NumberSpec {
  std::string_view key;
  std::string_view label;
  Quantity quantity;
  Range range = Range::Any;
  bool varies = false; ///< a formula may use the place x, y, z
  Stage stage = Stage::Inherit;
  bool usesItself = false; ///< where it is set, its object counts even if nothing refers to it

  [[nodiscard]] constexpr NumberSpec at(Stage other) const
  {
    NumberSpec spec = *this;
    spec.stage = other;
    return spec;
  }
};

/// Kinds of objects that a reference may name; several are written a | b.
enum class Refers : std::uint32_t {
  Parameter = 1U << 0U,
  Material = 1U << 1U,
  Finish = 1U << 2U,
  File = 1U << 3U,
  Group = 1U << 4U,
  Part = 1U << 5U,
  Surface = 1U << 6U,
  Source = 1U << 7U,
  Boundary = 1U << 8U,
  Contact = 1U << 9U,
  Enclosure = 1U << 10U,
  Node = 1U << 11U,
  Link = 1U << 12U,
  Case = 1U << 13U,
  Watch = 1U << 14U,
  Line = 1U << 15U,
  Face = 1U << 16U,  ///< a lasting name of faces: "shell.top", "shell.*"
  Field = 1U << 17U, ///< a number by its path: "coils.power"
};
constexpr Refers operator|(Refers a, Refers b)
{
  return static_cast<Refers>(static_cast<std::uint32_t>(a) | static_cast<std::uint32_t>(b));
}
constexpr bool operator&(Refers a, Refers b)
{
  return (static_cast<std::uint32_t>(a) & static_cast<std::uint32_t>(b)) != 0;
}

/// A text, or each text of a list, that names something else.
struct ReferenceSpec {
  std::string_view key;
  Refers to;
  enum class Need {
    May,  ///< it may be empty
    Must, ///< readiness asks for it
    Whole ///< without it the entry of the list (or the optional) that holds it is nothing: it goes too
  } need = Need::May;
  std::string_view others{}; ///< a word that may stand there instead, and names nothing
  Stage stage = Stage::Inherit;

  constexpr operator std::string_view() const { return key; }
};

} // namespace kiln
