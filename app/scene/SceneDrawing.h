// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "document/Document.h"
#include "look/Preferences.h"
#include "results/LevelField.h"
#include "results/LevelLines.h"
#include "results/Streamlines.h"
#include "scene/SceneCanvas.h"

#include <QObject>
#include <memory>
#include <optional>

namespace kiln
{

/// Computes what a view asks for beside the colours: lines of equal value, a level, arrows and streamlines; and says in
/// words what a level is.
class SceneDrawing : public QObject
{
  Q_OBJECT

public:
  /// A number at a line of equal value.
  struct LineLabel {
    Vec3 place;
    QString text;
  };

  SceneDrawing(Document& document, Preferences& preferences, SceneCanvas& canvas);

  /// All of it anew.
  void refresh(const View& look, const Coloring& colors);
  /// Another level alone.
  void refreshLevel(const View& look, const Coloring& colors);

  [[nodiscard]] const std::vector<LevelLine>& lines() const { return lines_; }
  [[nodiscard]] const std::vector<LineLabel>& labels() const { return labels_; }
  /// What the level is: its area or volume, the parts, what it reaches; empty where there is none.
  [[nodiscard]] const QString& levelWords() const { return levelWords_; }
  [[nodiscard]] std::size_t arrows() const { return arrows_; }
  [[nodiscard]] std::size_t ways() const { return ways_; }
  /// Lowest and highest value of what is shown, inside too; nothing where there is no field.
  [[nodiscard]] std::optional<std::pair<double, double>> span();

  /// Streamlines begin around a place, m; nothing: under the lit faces, or all over the parts.
  void beginAt(const std::optional<Vec3>& place) { from_ = place; }

  /// Heat flux of every element at the shown instant, W/m²; nullptr where nothing is solved.
  [[nodiscard]] const std::vector<Vec3>* flux();

signals:
  void redrawn();

private:
  void drawLines(const View& look, const Coloring& colors);
  void drawFlatLines(const View& look);
  void drawArrows(const View& look, const Coloring& colors);
  void drawWays(const View& look);
  [[nodiscard]] const LevelField* levelField();
  /// \param raw  of each element by itself
  [[nodiscard]] const FluxField* fluxField(bool raw);
  [[nodiscard]] std::vector<std::pair<Vec3, std::size_t>> seeds(double density) const;
  [[nodiscard]] QString wordsOf(const LevelSurface& surface) const;
  [[nodiscard]] QString wordsOf(const LevelRegion& region) const;
  [[nodiscard]] QString partName(std::size_t part) const;
  [[nodiscard]] QString perDepth() const;

  Document& document_;
  Preferences& preferences_;
  SceneCanvas& canvas_;
  std::vector<LevelLine> lines_;
  std::vector<LineLabel> labels_;
  QString levelWords_;
  std::size_t arrows_ = 0, ways_ = 0;
  bool drawn_ = false; ///< anything of it
  // Made when they are asked for, of these:
  std::shared_ptr<const void> levelOf_, fluxOf_, waysOf_;
  std::unique_ptr<LevelField> levelField_;
  std::vector<Vec3> flux_;
  std::unique_ptr<FluxField> fluxField_;
  bool rawWays_ = false; ///< what it is of
  std::optional<Vec3> from_;
};

} // namespace kiln
