// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "scene/SceneModel.h"

#include <vector>

namespace kiln
{

/// What a plane meets of the shown parts of a model, which must stay alive.
class SectionCut
{
public:
  SectionCut(const SceneModel& model, const std::vector<PartLook>& looks, const SectionPlane& plane);

  /// The cut face with the edges of the elements it goes through.
  void addTriangles(DrawnSurface& surface) const;
  /// Where faces meet the plane.
  void addEdges(DrawnSurface& surface) const;

private:
  /// Does all that has these nodes lie on one side of the plane?
  template <class Nodes>
  [[nodiscard]] bool passes(const Nodes& nodes, PartId part) const;
  [[nodiscard]] bool isShown(PartId part) const;
  /// Of the elements from one up to another.
  void cutElements(std::size_t from, std::size_t to, DrawnSurface& surface) const;
  void cutElement(std::size_t tet, DrawnSurface& surface) const;

  const SceneModel& model_;
  const Mesh& mesh_;
  const std::vector<PartLook>& looks_;
  const SectionPlane& plane_;
  std::vector<float> height_; ///< of each node where it lies, m
  std::vector<float> shift_;  ///< what its offset adds, by part
  float slack_;               ///< of both
};

} // namespace kiln
