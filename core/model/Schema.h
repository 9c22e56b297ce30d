// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "units/Quantity.h"

#include <array>
#include <cstdint>
#include <string_view>

/// One description of every object's fields, read by all who walk over a project: the file reader and writer, the list
/// of editable numbers, the search for misspelt keys, what refers to what, what a stored result depends on. An archive
/// offers
///   text, optionalText, reference, references, flag, number, optionalNumber, property, optionalProperty, number3,
///   outline, points, schedule, longText, formula, appearance (a text that changes no result), changes, choice,
///   nestedChoice, list, nested, unknown.
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

/// What a new object has in a field, as the user would type it; of a field that may be left out: what counts then.
struct Usually {
  std::string_view text;
};
/// A formula in the field may use the place x, y, z.
struct InPlace {
};
/// Where the field is set, its object counts even if nothing refers to it.
struct UsesItself {
};

/// A key with what the window calls it and a sentence on it. A field without a label is not for the user to set.
struct KeySpec {
  std::string_view key, label, help;
  Stage stage = Stage::Inherit;

  constexpr KeySpec(std::string_view name) : key(name) {}
  constexpr KeySpec(const char* name) : key(name) {}
  constexpr KeySpec(std::string_view name, Stage of) : key(name), stage(of) {}
  constexpr KeySpec(std::string_view name, std::string_view shown, std::string_view sentence, Stage of = Stage::Inherit)
      : key(name), label(shown), help(sentence), stage(of)
  {
  }
  constexpr operator std::string_view() const { return key; }
};

/// What one number of an object is. What is usual is left out: any value, the stage of what is around it.
struct NumberSpec {
  std::string_view key, label, help;
  Quantity quantity;
  Range range = Range::Any;
  std::string_view usually{}; ///< \ref Usually
  bool varies = false;        ///< \ref InPlace
  bool usesItself = false;
  Stage stage = Stage::Inherit;

  template <class... Traits>
  constexpr NumberSpec(std::string_view name, std::string_view shown, std::string_view sentence, Quantity of,
                       Traits... traits)
      : key(name), label(shown), help(sentence), quantity(of)
  {
    (take(traits), ...);
  }

private:
  constexpr void take(Range of) { range = of; }
  constexpr void take(Stage of) { stage = of; }
  constexpr void take(Usually what) { usually = what.text; }
  constexpr void take(InPlace) { varies = true; }
  constexpr void take(UsesItself) { usesItself = true; }
};

/// One of the alternatives of a choice: how the file writes it, what the window calls it, a sentence on it, and how a
/// new object of this kind is named, where that is not its label: {of} stands for what it is of.
struct KindSpec {
  std::string_view name, label, help{}, named{};
  std::string_view formerly{}; ///< name that older files have for it

  constexpr operator std::string_view() const { return name; }
  [[nodiscard]] constexpr bool isCalled(std::string_view word) const
  {
    return word == name || (!formerly.empty() && word == formerly);
  }
};
template <std::size_t N>
using KindSpecs = std::array<KindSpec, N>;

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
  Set = 1U << 18U,
  View = 1U << 19U,
  Label = 1U << 20U,
  Question = 1U << 21U,
  Report = 1U << 22U,
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

/// How much a reference is needed.
enum class Need {
  May,  ///< it may be empty
  Must, ///< readiness asks for it
  Whole ///< without it the entry of the list (or the optional) that holds it is nothing: it goes too
};
/// A word that may stand in a reference and names nothing.
struct Others {
  std::string_view word, shown;
};
/// What the window calls an empty reference.
struct Nothing {
  std::string_view shown;
};

/// A text, or each text of a list, that names something else.
struct ReferenceSpec {
  std::string_view key, label, help;
  Refers to;
  Need need = Need::May;
  std::string_view others{}, othersShown{}; ///< \ref Others
  std::string_view nothing{};               ///< \ref Nothing
  Stage stage = Stage::Inherit;

  template <class... Traits>
  constexpr ReferenceSpec(std::string_view name, std::string_view shown, std::string_view sentence, Refers kinds,
                          Traits... traits)
      : key(name), label(shown), help(sentence), to(kinds)
  {
    (take(traits), ...);
  }
  constexpr operator std::string_view() const { return key; }

private:
  constexpr void take(Need how) { need = how; }
  constexpr void take(Others other) { others = other.word, othersShown = other.shown; }
  constexpr void take(Nothing none) { nothing = none.shown; }
  constexpr void take(Stage of) { stage = of; }
};

} // namespace kiln
