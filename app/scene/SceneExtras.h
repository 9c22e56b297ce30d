// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "results/LevelLines.h"
#include "scene/SceneModel.h"

#include <QColor>
#include <functional>
#include <memory>
#include <vector>

class vtkPolyDataMapper;
class vtkRenderer;

namespace kiln
{

/// An arrow of the heat flux.
struct FluxArrow {
  Vec3 from, along; ///< m, as long as it is drawn
  QColor color{};   ///< not valid: that of all
};

/// Triangles of a level with their colours.
struct LevelShape {
  std::vector<Vec3> points;
  std::vector<Triangle> triangles;
  std::vector<QColor> colors; ///< by triangle
};

/// What is drawn in the scene beside the parts themselves: lines of equal value, a level, arrows and streamlines of the
/// heat flux, lines of the mesh. Each is empty at first.
class SceneExtras
{
public:
  explicit SceneExtras(vtkRenderer& renderer);
  ~SceneExtras();
  SceneExtras(const SceneExtras&) = delete;
  SceneExtras& operator=(const SceneExtras&) = delete;

  void showElementLines(bool shown);
  /// Keeps references to both until it is called again.
  /// \param lift  that the lines of the cuts stand before them
  void setElementLines(const DrawnSurface& skin, const DrawnSurface& cuts, const Vec3& lift);
  void setLines(const std::vector<LevelLine>& lines);
  void setLevel(const LevelShape& shape);
  void setArrows(const std::vector<FluxArrow>& arrows);
  void setWays(const std::vector<std::vector<Vec3>>& ways);
  /// Colours of lines on the data, of arrows and of ways.
  void setInk(const QColor& lines, const QColor& flux);
  /// Of those that the sections take part of.
  void forEachMapper(const std::function<void(vtkPolyDataMapper*)>& visit);

private:
  struct Layers;
  std::unique_ptr<Layers> layers_;
};

} // namespace kiln
