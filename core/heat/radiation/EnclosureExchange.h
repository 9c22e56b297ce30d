// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "heat/elements/HeatFlow.h"
#include "heat/radiation/Radiosity.h"
#include "model/Number.h"

#include <memory>
#include <span>

namespace kiln
{

/// Grey, diffuse radiation between the patches of one enclosure.
///
/// A patch emits ε σ T⁴ (the mean over its triangles, with the shape functions of the field), reflects 1 − ε of what
/// arrives, and all that arrives left another patch or the opening:
///   J = ε σ T⁴ + (1 − ε) H,   A_i H_i = Σ_j A_i F_ij J_j + A_i F_i,opening σ T_o⁴.
/// Each place of a patch loses ε (σ T⁴ − H). The sums over all patches and the opening are zero to rounding.
/// Source: any heat-transfer text, "net radiation method for grey diffuse surfaces".
class EnclosureExchange final : public HeatFlow
{
public:
  /// \param areaScale   exact over meshed area, by patch
  /// \param emissivity  by patch, 0…1
  /// \param curves      by patch: emissivity against the patch's mean temperature, or nothing
  /// \param opening     K, used where the view factors see one
  EnclosureExchange(FlowOwner owner, const Mesh& mesh, Patches patches, ViewFactors factors,
                    const Eigen::VectorXd& areaScale, Eigen::VectorXd emissivity,
                    std::vector<std::shared_ptr<const Property>> curves, std::optional<double> opening);

  [[nodiscard]] const Patches& patches() const { return patches_; }
  [[nodiscard]] const ViewFactors& factors() const { return factors_; }
  [[nodiscard]] const Radiosity& radiosity() const { return radiosity_; }

  /// Light at these temperatures (by unknown, K).
  [[nodiscard]] PatchLight light(const Unknowns& unknowns, std::span<const double> temperature) const;

  [[nodiscard]] bool lasting() const override { return true; }
  [[nodiscard]] std::optional<Bend> bend() const override;
  [[nodiscard]] Rest rest() const override { return Rest::Enclosed; }
  void addConstant(const HeatGround&, SparseMatrix&, std::span<double>) const override {}
  void addFlow(const HeatGround& ground, std::span<const double> temperature, std::span<double> balance) const override;
  /// 4 ε σ T³ of each place.
  void addSlope(const HeatGround& ground, std::span<const double> temperature, SparseMatrix& matrix) const override;
  /// What arrives from other patches.
  void addRest(const HeatGround& ground, std::span<const double> temperature, std::span<const double> direction,
               double tolerance, std::span<double> rest) const override;
  void arrivals(const HeatGround& ground, const FlowState& state, std::span<const char> wanted,
                const ArrivalVisit& visit) const override;
  /// What comes through its opening.
  [[nodiscard]] std::vector<FlowFigure> figures(const HeatGround& ground, const FlowState& state) const override;
  void outside(const HeatGround&, TemperatureSpan& span) const override;
  void ownHeat(const std::function<void(const OwnHeat&)>&) const override {}
  [[nodiscard]] std::string_view unsolved() const override;

  /// Net heat into each patch, W.
  [[nodiscard]] Eigen::VectorXd received(const PatchLight& light) const;
  /// Net heat through the opening into the enclosure, W.
  [[nodiscard]] double throughOpening(const PatchLight& light) const;
  /// What leaves each patch straight for the opening less the reverse, W.
  [[nodiscard]] Eigen::VectorXd outOfOpening(const PatchLight& light) const;
  /// Calls with (patch, patch, W) for every pair: what leaves the first straight for the second minus the reverse.
  template <class Visit>
  void eachExchange(const PatchLight& light, Visit&& visit) const
  {
    for (Eigen::Index row = 0; row < factors_.exchange.outerSize(); ++row)
      for (UpperHalf::InnerIterator entry(factors_.exchange, row); entry; ++entry)
        visit(static_cast<std::size_t>(row), static_cast<std::size_t>(entry.col()),
              entry.value() * (light.leaving[row] - light.leaving[entry.col()]));
  }

  /// Net heat into each patch as patches twice as large would have it, W: neighbours two by two are taken as one, with
  /// the mean of what they emit and the sums of what they see. How far it lies from \ref received says what the size
  /// of the patches is worth.
  [[nodiscard]] Eigen::VectorXd receivedByPairs(const Unknowns& unknowns, std::span<const double> temperature) const;

  /// What the nodes of the element that a triangle belongs to receive through the triangle at these temperatures, W.
  [[nodiscard]] NodeVector triangleFlow(const Unknowns& unknowns, std::span<const double> temperature,
                                        const PatchLight& light, std::size_t triangle) const;

private:
  /// The same for all triangles of the patches, by triangle of the mesh.
  [[nodiscard]] std::vector<NodeVector> flowsOf(const Unknowns& unknowns, std::span<const double> temperature) const;
  [[nodiscard]] Eigen::VectorXd blackLight(const Unknowns& unknowns, std::span<const double> temperature) const;
  /// Calls with (shape functions, m²) of every point of a triangle.
  template <class Visit>
  void eachPoint(std::size_t triangle, Visit&& visit) const
  {
    for (std::size_t p = 0; p < 3; ++p)
      visit(shapes_[triangle % shapes_.size()][p], area_[triangle][p]);
  }
  [[nodiscard]] SurfaceNodes nodes(const Unknowns& unknowns, std::size_t triangle) const;
  /// What each patch emits more, and who gets what arrives, per K and W/m² at its nodes: sparse, row by patch.
  struct Coupling {
    std::vector<double> temperature; ///< that it holds for, by unknown, K
    std::vector<std::size_t> start;  ///< of each row, one more at the end
    std::vector<UnknownId> unknown;
    std::vector<double> emits; ///< ∫ N d(T⁴)/dT dA, K³·m²
    std::vector<double> takes; ///< ∫ N dA, m²
  };
  [[nodiscard]] const Coupling& couplingAt(const Unknowns& unknowns, std::span<const double> temperature) const;
  /// Takes emissivities at these temperatures, where they have curves.
  void follow(const Unknowns& unknowns, std::span<const double> temperature) const;

  Patches patches_;
  ViewFactors factors_;
  mutable Eigen::VectorXd emissivity_; ///< at the temperatures last asked for
  std::vector<std::shared_ptr<const Property>> curves_;
  bool following_ = false;                   ///< is there a curve?
  std::optional<double> opening_;            ///< K
  [[nodiscard]] double openingLight() const; ///< σ T⁴, W/m²
  mutable Eigen::VectorXd reflected_;        ///< the last solution: the next one is near
  struct Known {
    Eigen::VectorXd emitted; ///< W/m²
    PatchLight light;
  };
  mutable std::array<Known, 2> known_;            ///< the last one first: of now, and of the state that it left
  mutable Coupling coupling_;                     ///< that was asked for last
  std::vector<std::array<double, 3>> area_;       ///< exact, by triangle of the mesh and its points, m²
  std::vector<std::array<NodeVector, 3>> shapes_; ///< shape functions at the points, by piece of an element
  mutable Radiosity radiosity_;
};

} // namespace kiln
