// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "document/Document.h"
#include "results/ResultFields.h"
#include "scene/SceneCanvas.h"

#include <QStringList>
#include <memory>
#include <utility>
#include <vector>

namespace kiln
{

/// What the colours of the scene stand for, in the order of the choice box.
enum class ColorBy {
  Temperature,
  Material,
  Conductivity,
  Condition,
  HeatFlux,
  ElementFlux,
  FluxError,
  MoltenShare,
  Patches,
  MeshQuality,
  Part,
  Difference
};
[[nodiscard]] QStringList colorByNames();
/// Of a part of this very project: its own, or one that the program chooses.
[[nodiscard]] QColor partColor(const Project& project, const Part& part);
/// The field of a solution that it shows; nothing for temperatures and what is no field.
[[nodiscard]] std::optional<ResultField> resultFieldOf(ColorBy by);
/// Does it show a field with a scale, and of which quantity?
[[nodiscard]] std::optional<Quantity> fieldQuantity(ColorBy by);
/// What is set in the project, as against what was solved.
[[nodiscard]] bool isAsSet(ColorBy by);

/// Turns project and result into colours.
class SceneColoring
{
public:
  using Key = std::vector<std::pair<QColor, QString>>;

  explicit SceneColoring(Document& document) : document_(document) {}

  /// Values by unknown to draw instead of the temperature; nothing for what is no such field or has no result.
  [[nodiscard]] std::shared_ptr<const PartwiseField> field(ColorBy by) const;

  /// \param mesh    that is drawn
  /// \param solved  there are values to map
  /// \param key     what the colours mean where they are no scale
  [[nodiscard]] Coloring coloring(ColorBy by, const Mesh* mesh, bool solved, Key& key) const;

private:
  [[nodiscard]] QColor materialColor(std::size_t index, bool byConductivity) const;
  void colorEachPart(const Mesh& mesh, Coloring& coloring, Key& key) const;
  void colorParts(ColorBy by, const Mesh& mesh, Coloring& coloring, Key& key) const;
  [[nodiscard]] std::vector<QColor> conditionColors(const Mesh& mesh, Key& key) const;
  [[nodiscard]] std::vector<QColor> patchColors(const Mesh& mesh, Key& key) const;

  Document& document_;
};

} // namespace kiln
