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

/// What colours can stand for, in the order of \ref Shown.
[[nodiscard]] QStringList shownNames();
/// Of a part of this very project: its own, or one that the program chooses.
[[nodiscard]] QColor partColor(const Project& project, const Part& part);
/// Has it one value an element or a face, rather than one at every node?
[[nodiscard]] bool isPerElement(const View& look);
/// Does its sign say the most?
[[nodiscard]] bool isAboutZero(Shown by);
/// What is set in the project, as against what was solved.
[[nodiscard]] bool isAsSet(Shown by);

/// Turns project and result into colours.
class SceneColoring
{
public:
  using Key = std::vector<std::pair<QColor, QString>>;

  explicit SceneColoring(Document& document) : document_(document) {}

  /// Values by unknown to draw instead of the temperature; nothing for what is no such field or has no result.
  [[nodiscard]] std::shared_ptr<const PartwiseField> field(Shown by, const View& look = {}) const;

  /// \param mesh    that is drawn
  /// \param solved  there are values to map
  /// \param key     what the colours mean where they are no scale
  [[nodiscard]] Coloring coloring(Shown by, const Mesh* mesh, bool solved, Key& key, const View& look = {}) const;

private:
  [[nodiscard]] QColor materialColor(std::size_t index, bool byConductivity) const;
  void colorEachPart(const Mesh& mesh, Coloring& coloring, Key& key) const;
  void colorParts(Shown by, const Mesh& mesh, Coloring& coloring, Key& key) const;
  [[nodiscard]] std::vector<double> faceWatts() const;
  [[nodiscard]] std::vector<QColor> conditionColors(const Mesh& mesh, Key& key) const;
  [[nodiscard]] std::vector<QColor> patchColors(const Mesh& mesh, Key& key) const;

  Document& document_;
};

} // namespace kiln
