// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "base/Failure.h"
#include "model/Describe.h"

#include <string>
#include <vector>

namespace kiln
{

/// One number of a project, addressed by "object.key" ("coils.power", "shell.cavity.sizeX").
struct Field {
  std::string path;
  std::string objectId;
  std::string objectName; ///< "source Coils"
  std::string label;      ///< "Power"
  Quantity quantity = Quantity::Plain;
  Range range = Range::Any;
  bool varies = false;                       ///< its formula may use x, y, z
  Number* number = nullptr;                  ///< set, or
  std::optional<Number>* optional = nullptr; ///< set when the number may be missing, or
  Property* property = nullptr;              ///< set when it may be a table against temperature, or
  std::optional<Property>* optionalProperty = nullptr;

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
};

/// Every number of the project, in file order. Pointers stay valid while the project's lists do.
[[nodiscard]] std::vector<Field> fields(Project& project);

/// Fields of one object.
[[nodiscard]] std::vector<Field> fieldsOf(Project& project, const std::string& objectId);

/// Why \p si may not stand in a field of this range; nothing when it may.
[[nodiscard]] std::optional<std::string> outsideRange(double si, Range range, Quantity quantity);

/// Sets the field named \p path to what \p typed says. Fails with the nearest field name when there is none,
/// or with the reason the text was refused.
[[nodiscard]] Expected<void> setField(Project& project, const std::string& path, const std::string& typed);

/// The project as one case sees it: its changes applied.
[[nodiscard]] Expected<Project> projectForCase(const Project& project, const Case& oneCase);

/// The entry of \p candidates that \p word is most likely a slip of; empty when none is near.
[[nodiscard]] std::string nearestWord(const std::string& word, const std::vector<std::string>& candidates);

/// An unknown key of one object, with the known key it may be a slip of (or empty).
struct UnknownKey {
  std::string objectId, objectName, key, nearest;
};
[[nodiscard]] std::vector<UnknownKey> unknownKeys(Project& project);

} // namespace kiln
