// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "heat/elements/FaceMass.h"
#include "heat/elements/SurfaceElement.h"

#include <map>
#include <span>
#include <vector>

namespace kiln
{

struct SparseMatrix;

/// What flows of heat are read on: a mesh, its unknowns, and the surface elements of every face. Mesh and unknowns must
/// outlive it.
class HeatGround
{
public:
  HeatGround(const Mesh& mesh, const Unknowns& unknowns)
      : mesh_(mesh), unknowns_(unknowns), elementsOfFace_(elementsByFace(mesh))
  {
  }

  [[nodiscard]] const Mesh& mesh() const { return mesh_; }
  [[nodiscard]] const Unknowns& unknowns() const { return unknowns_; }
  [[nodiscard]] const std::vector<std::int32_t>& elementsOf(FaceId face) const
  {
    return elementsOfFace_[static_cast<std::size_t>(face)];
  }
  [[nodiscard]] SurfaceNodes nodes(std::size_t element, std::size_t side = 0) const
  {
    return nodesOf(mesh_, unknowns_, element, side);
  }
  /// A field (by unknown) at the nodes of a side.
  [[nodiscard]] NodeVector values(std::size_t element, std::size_t side, std::span<const double> field) const
  {
    return valuesAt(nodes(element, side), field);
  }
  /// The part that a side of a face belongs to: both sides of an exposed one are of the part it lies on.
  [[nodiscard]] PartId partAt(FaceId face, std::size_t side) const
  {
    const Face& own = mesh_.geometry.faces[static_cast<std::size_t>(face)];
    return own.parts[own.exposed() ? 0 : side];
  }

  /// Made when first asked for, and kept: what is set on a face changes more often than the mesh. Not for use from two
  /// threads.
  /// \param pattern  where it will be added: always the same one
  [[nodiscard]] const FaceMass& massOf(FaceId face, const SparseMatrix& pattern) const;

private:
  mutable std::map<FaceId, FaceMass> masses_;
  const Mesh& mesh_;
  const Unknowns& unknowns_;
  std::vector<std::vector<std::int32_t>> elementsOfFace_;
};

/// Adds what belongs to the lower half of a matrix; the upper half is mirrored later.
void addLower(const SurfaceNodes& rows, const SurfaceNodes& columns, const NodeMatrix& block, SparseMatrix& matrix);
/// Adds values by node to those by unknown.
void addTo(const SurfaceNodes& nodes, const NodeVector& values, std::span<double> byUnknown);

} // namespace kiln
