// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "results/CaseResult.h"
#include "results/ResultFields.h"

#include <algorithm>
#include <functional>
#include <memory>
#include <optional>
#include <vector>

namespace kiln
{

enum class PartLook { Shown, SeeThrough, Hidden };

/// A plane that takes away what lies on the side its normal points to.
struct SectionPlane {
  Vec3 through = Vec3::Zero(); ///< m
  Vec3 normal = Vec3::UnitX(); ///< of length 1

  /// How far a place lies in the removed half, m; negative in the kept one.
  [[nodiscard]] double depth(const Vec3& place) const { return normal.dot(place - through); }
  [[nodiscard]] bool removes(const Vec3& place) const { return depth(place) > 0; }
  bool operator==(const SectionPlane&) const = default;
};
using SectionPlanes = std::vector<SectionPlane>;

/// Does any of them take a place away, which lies farther than a slack in its removed half?
[[nodiscard]] inline bool removes(const SectionPlanes& planes, const Vec3& place, double slack = 0)
{
  return std::any_of(planes.begin(), planes.end(),
                     [&](const SectionPlane& plane) { return plane.depth(place) > slack; });
}

/// What is under the pointer.
struct PickedPoint {
  Vec3 place = Vec3::Zero();
  double distance = 0; ///< from the eye, m
  PartId part{};
  FaceId face{};                     ///< -1 on a section
  std::optional<double> temperature; ///< K
  std::optional<double> value{};     ///< of what is shown, where that is a field
  std::int32_t tet = -1;             ///< the element there; -1 without elements
};

/// Where a drawn point gets its temperature: between two unknowns.
struct PointBlend {
  UnknownId from, to;
  float share = 0; ///< 0 at from, 1 at to
};

/// One drawn triangle set with where it came from. Points carry a temperature when there is a result.
struct DrawnSurface {
  std::vector<Vec3> points;
  std::vector<double> temperatures; ///< by point, K; empty without a result
  std::vector<double> values;       ///< by point, of another field that is drawn instead; usually empty
  std::vector<PointBlend> blends;   ///< by point, the first ones; what follows carries no colour
  std::vector<PartId> pointPart;    ///< likewise
  std::vector<Triangle> triangles;
  std::vector<PartId> part;                     ///< by triangle
  std::vector<FaceId> face;                     ///< by triangle; -1 on a section
  std::vector<std::int32_t> skin;               ///< by triangle: of the mesh; -1 on a section
  std::vector<std::int32_t> tet;                ///< by triangle: the element behind it; -1 without elements
  std::vector<std::array<int, 2>> edges;        ///< where faces meet
  std::vector<std::array<int, 2>> elementEdges; ///< of the mesh

  /// What is mapped to colours, by point.
  [[nodiscard]] const std::vector<double>& mapped() const { return values.empty() ? temperatures : values; }
};

/// Turns a mesh or result into what the scene draws. No OpenGL in here, so it is tested without a window.
class SceneModel
{
public:
  /// \param mesh and \param unknowns must belong together; \param temperature by unknown, may be empty
  struct Source {
    std::shared_ptr<const Mesh> mesh;
    std::shared_ptr<const Unknowns> unknowns;
    std::shared_ptr<const std::vector<double>> temperature;
    std::shared_ptr<const PartwiseField> field; ///< drawn instead; may be empty
  };

  void setSource(Source source);
  /// The same mesh with other temperatures, and another field to draw instead.
  void setTemperature(std::shared_ptr<const std::vector<double>> temperature,
                      std::shared_ptr<const PartwiseField> field)
  {
    source_.temperature = std::move(temperature);
    source_.field = std::move(field);
  }
  /// Gives the points of a drawn surface the present temperatures; nothing is built anew.
  void recolor(DrawnSurface& surface) const;
  [[nodiscard]] const Source& source() const { return source_; }
  [[nodiscard]] bool empty() const { return source_.mesh == nullptr; }

  /// Visible skin of all parts with the given look, by part index.
  /// A face between two shown parts is left out: nobody can see it.
  [[nodiscard]] DrawnSurface skin(const std::vector<PartLook>& looks, PartLook wanted) const;

  /// Every face once, inner ones too, whatever is hidden: for picking through.
  [[nodiscard]] DrawnSurface allFaces() const;

  /// The cuts through the shown parts, one beside the other.
  [[nodiscard]] DrawnSurface sections(const std::vector<PartLook>& looks, const SectionPlanes& planes) const;

  /// Draws parts away from where they are, m by part; empty: where they are.
  void setOffsets(std::vector<Vec3> offsets) { offsets_ = std::move(offsets); }
  [[nodiscard]] Vec3 offset(PartId part) const
  {
    return part < 0 || offsets_.empty() ? Vec3::Zero() : offsets_[static_cast<std::size_t>(part)];
  }
  /// Moves every part away from the middle along an axis, in the order in which they lie there.
  /// \param share  of the model's size that the outermost move
  [[nodiscard]] std::vector<Vec3> pulledApart(int axis, double share) const;

  /// Where a node of a part is drawn: a section model is a thin plate, whatever its depth.
  [[nodiscard]] Vec3 drawnPlace(NodeId node, PartId part) const;

  /// Half of how thick a section model is drawn, m; else 0.
  [[nodiscard]] double halfPlate() const { return source_.mesh->geometry.section.is() ? halfPlate_ : 0; }

  /// Low and high corner of the whole model, as it is drawn.
  [[nodiscard]] std::pair<Vec3, Vec3> bounds() const;

  /// Fills the edges where faces meet or the surface ends.
  static void addEdges(DrawnSurface& surface);

private:
  /// Does a node lie on the far side of a section model?
  [[nodiscard]] bool isFar(NodeId node) const;
  void addElementEdges(std::size_t triangle, const Triangle& drawn, DrawnSurface& surface) const;

  Source source_;
  std::vector<Vec3> offsets_;
  double halfPlate_ = 0; ///< of a section model, m
};

} // namespace kiln
