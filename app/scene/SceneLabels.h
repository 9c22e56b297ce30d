// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "document/Document.h"
#include "heat/elements/Location.h"
#include "results/ResultFields.h"

#include <map>
#include <memory>
#include <optional>
#include <vector>

namespace kiln
{

/// What a label says of its place at the shown instant.
struct LabelReading {
  std::string id;
  Vec3 place = Vec3::Zero();
  std::optional<PartId> part;  ///< nothing where the place lies in none
  std::optional<double> value; ///< SI; nothing where it cannot be read
};

/// Reads the labels of the project from the shown result. Keeps where they lie in the mesh and the fields that they
/// show, as long as these stay.
class SceneLabels
{
public:
  explicit SceneLabels(const Document& document) : document_(document) {}

  [[nodiscard]] std::vector<LabelReading> read();

private:
  [[nodiscard]] std::optional<double> valueOf(const Label& label, const Location& at);
  [[nodiscard]] const Location* locationOf(const Vec3& place);

  const Document& document_;
  std::shared_ptr<const Mesh> mesh_;
  std::map<std::array<double, 3>, Location> places_;
  std::shared_ptr<const void> fieldsOf_;
  std::map<Shown, PartwiseField> fields_;
};

/// "812 °C": what a label shows, for reading.
[[nodiscard]] QString labelText(const Label& label, const LabelReading& reading, TemperatureUnit unit);

/// A label at a place, named so that no other is.
/// \param name  it is called so, or so with a number
[[nodiscard]] Label labelAt(const Project& project, const Vec3& place, Shown shown, const std::string& name = "Label");

} // namespace kiln
