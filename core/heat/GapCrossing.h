// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "heat/SurfaceElement.h"
#include "mesh/Mesh.h"

#include <span>
#include <vector>

namespace kiln
{

struct SparseMatrix;
class PatternBuilder;

/// A place on one side of an empty gap and what lies straight across it.
struct GapPoint {
  std::size_t elementA = 0, elementB = 0; ///< surface elements
  NodeVector shapeA, shapeB;              ///< shape functions of their nodes at the place
  double area = 0;                        ///< m², exact areas shared by the points of a face
};

/// Places of part A that look straight at part B from no farther than \p reach, nothing between them.
/// The meshes of the two sides need not match.
/// \param reach  m
[[nodiscard]] std::vector<GapPoint> pointsAcross(const Mesh& mesh, int partA, int partB, double reach);

/// Faces of these gaps wider than the gap's own thickness by this factor are not taken for its sides.
inline constexpr double gapReach = 2;

/// Conduction and radiation across an empty gap between parts that share no faces, W.
///   flow from A to B = Σ area · (G (T_A − T_B) + σ ε (T_A⁴ − T_B⁴))
/// What one side loses the other gets, whatever the meshes: the energy balance is exact. Both sides are read and given
/// to with the shape functions of the field.
class GapCrossing
{
public:
  std::string contact; ///< id
  int partA = 0, partB = 0;
  double conductance = 0; ///< G, W/(m²·K)
  double radiation = 0;   ///< effective emissivity ε, 0 for none
  std::vector<GapPoint> points;
  const Mesh* mesh = nullptr; ///< that the points lie on

  void couple(const Unknowns& unknowns, PatternBuilder& builder) const;
  /// Adds the linear part to the lower half of a matrix.
  void addConductance(const Unknowns& unknowns, SparseMatrix& matrix) const;
  /// Adds the symmetric part of the radiation's slope, likewise.
  void addSlope(const Unknowns& unknowns, std::span<const double> temperature, SparseMatrix& matrix) const;
  /// Adds the radiation to the balance.
  void addRadiation(const Unknowns& unknowns, std::span<const double> temperature, std::span<double> balance) const;
  /// Adds what the slope has beyond addSlope(), times a direction.
  void addRest(const Unknowns& unknowns, std::span<const double> temperature, std::span<const double> direction,
               std::span<double> rest) const;
  /// Adds all that crosses, conduction too, to what each unknown receives.
  void addFlow(const Unknowns& unknowns, std::span<const double> temperature, std::span<double> received) const;
  /// What crosses at one point, from A to B, W.
  [[nodiscard]] double flowAt(const Unknowns& unknowns, const GapPoint& point,
                              std::span<const double> temperature) const;

private:
  void addMatrix(const Unknowns& unknowns, const GapPoint& point, double slope, SparseMatrix& matrix) const;
};

} // namespace kiln
