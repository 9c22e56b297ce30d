// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "model/Project.h"

#include <functional>
#include <span>
#include <string>
#include <vector>

namespace kiln
{

/// The alternatives of a choice, whatever holds it.
struct Alternatives {
  std::span<const KindSpec> kinds;
  std::function<std::size_t()> chosen;
  /// What the alternatives have in common stays; fields of the one before are gone.
  std::function<void(std::size_t)> choose;
};

/// One field of a project, addressed by "object.key" ("coils.power", "shell.cavity.sizeX").
struct Field {
  enum class Kind { Number, Text, Switch, Choice, Reference, References };

  std::string path;
  std::string objectId;
  std::string objectName; ///< "source Coils"
  std::string label;      ///< "Power"
  Kind kind = Kind::Number;
  std::string_view key, help;
  std::string_view usually; ///< \ref Usually
  Stage stage = Stage::Nothing;

  Quantity quantity = Quantity::Plain; ///< of a number
  Range range = Range::Any;
  bool varies = false;                       ///< its formula may use x, y, z
  Number* number = nullptr;                  ///< set, or
  std::optional<Number>* optional = nullptr; ///< set when the number may be missing, or
  Property* property = nullptr;              ///< set when it may be a table against temperature, or
  std::optional<Property>* optionalProperty = nullptr;

  std::string* text = nullptr; ///< of a text or a reference
  bool* flag = nullptr;
  Alternatives choice;
  std::vector<std::string>* list = nullptr;
  std::optional<ReferenceSpec> reference; ///< of references

  [[nodiscard]] bool mayBeMissing() const { return optional != nullptr || optionalProperty != nullptr; }
  [[nodiscard]] bool mayBeTable() const { return property != nullptr || optionalProperty != nullptr; }
  [[nodiscard]] const Number* value() const;
  [[nodiscard]] Number* value();
  /// The points of a table, nullptr when this is no table.
  [[nodiscard]] const std::vector<TablePoint>* table() const;
  /// Replaces a number, or a table by a number.
  void assign(Number value) const;
  void assignTable(std::vector<TablePoint> points) const;
  void clear() const; ///< only where it may be missing

  /// What it holds, whatever its kind.
  [[nodiscard]] OwnValue held() const;
  /// Takes what a field of its kind holds. \return false, and nothing has changed, where it cannot hold that
  bool take(const OwnValue& value) const;
};

/// Every number of the project, in file order. Pointers stay valid while the project's lists do.
[[nodiscard]] std::vector<Field> fields(Project& project);

/// Every field of any kind that a user may set; likewise.
[[nodiscard]] std::vector<Field> settings(Project& project);

/// Numbers of one object.
[[nodiscard]] std::vector<Field> fieldsOf(Project& project, const std::string& objectId);
/// Fields of any kind of one object.
[[nodiscard]] std::vector<Field> settingsOf(Project& project, const std::string& objectId);

/// The field of this path among these; nullptr when there is none.
[[nodiscard]] const Field* fieldAt(const std::vector<Field>& all, const std::string& path);

/// Why \p si may not stand in a field of this range; nothing when it may.
[[nodiscard]] std::optional<std::string> outsideRange(double si, Range range, Quantity quantity);

/// An unknown key of one object, with the known key it may be a slip of (or empty).
struct UnknownKey {
  std::string objectId, objectName, key, nearest;
};

struct WalkedFields {
  std::vector<Field> fields;
  std::vector<UnknownKey> unknown;
};
/// Every number, as \ref fields, and what keys nobody knows.
[[nodiscard]] WalkedFields fieldsAndUnknown(Project& project);

} // namespace kiln
