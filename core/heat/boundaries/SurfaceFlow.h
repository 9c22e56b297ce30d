// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "heat/elements/HeatFlow.h"
#include "model/Formula.h"
#include "model/Project.h"

#include <memory>
#include <string>

namespace kiln
{

/// What flows through the nodes of a surface element.
struct SurfaceFlow {
  NodeVector watts; ///< W
  NodeMatrix slope; ///< minus the derivative by the nodes' temperatures, W/K; symmetric

  explicit SurfaceFlow(const Mesh& mesh)
      : watts(NodeVector::Zero(mesh.order == 2 ? 6 : 3)), slope(NodeMatrix::Zero(watts.size(), watts.size()))
  {
  }
};

// What the engineer set, face by face. Coefficients per area are scaled from the exact to the meshed area, so that
// watts do not depend on how well chords follow a round face.

struct FaceHeat {
  FaceId face;
  double flux;          // W/m²
  double scale = 1;     // exact over meshed area, for fluxAt
  PlaceFunction fluxAt; // W/m², where it varies in place

  [[nodiscard]] std::optional<Bend> bend() const { return std::nullopt; }
  void outside(const HeatGround&, TemperatureSpan&) const {}
};
struct FaceConvection {
  FaceId face;
  double coefficient, ambient;           // W/(m²·K), K
  double scale = 1;                      // exact over meshed area, for what follows
  std::shared_ptr<const Property> curve; // W/(m²·K) against the surface temperature
  PlaceFunction coefficientAt, ambientAt;
  std::shared_ptr<const Property> ambientCurve{}; // K against the surface temperature

  [[nodiscard]] std::optional<Bend> bend() const;
  void outside(const HeatGround& ground, TemperatureSpan& span) const;
};
struct FaceRadiation {
  FaceId face;
  double emissivity, surroundings;       // with view factor; K
  std::shared_ptr<const Property> curve; // emissivity against the surface temperature
  double scale = 1;                      // view factor times exact over meshed area, for the curve

  [[nodiscard]] std::optional<Bend> bend() const;
  void outside(const HeatGround&, TemperatureSpan& span) const { span.take(surroundings); }
};
/// Conducts along a face: in-plane flux k δ per length. It brings nothing in, and stores.
struct FaceSheet {
  FaceId face;
  double thickness;                             // m, scaled so that it has its exact volume
  std::shared_ptr<const Property> conductivity; // W/(m·K)
  std::string material;                         // id

  [[nodiscard]] std::optional<Bend> bend() const;
  void outside(const HeatGround&, TemperatureSpan&) const {}
};

/// \param element  index of the surface element
/// \param values   temperatures of its nodes, K
/// Integrated at the points of the element (\ref pointsOf), where h(T), h(x) and T⁴ are taken.
[[nodiscard]] SurfaceFlow flowOf(const FaceConvection& convection, const Mesh& mesh, std::size_t element,
                                 const NodeVector& values);
[[nodiscard]] SurfaceFlow flowOf(const FaceRadiation& radiation, const Mesh& mesh, std::size_t element,
                                 const NodeVector& values);
/// Along the element from its warm nodes to its cold ones; they sum to nothing.
[[nodiscard]] SurfaceFlow flowOf(const FaceSheet& sheet, const Mesh& mesh, std::size_t element,
                                 const NodeVector& values);
[[nodiscard]] SurfaceFlow flowOf(const FaceHeat& heat, const Mesh& mesh, std::size_t element, const NodeVector&);

/// A flow through faces whose elements need not know of each other.
template <class OnFace>
class FaceFlow final : public HeatFlow
{
public:
  FaceFlow(FlowOwner owner, std::vector<OnFace> faces) : HeatFlow(owner), faces_(std::move(faces)) {}

  [[nodiscard]] bool lasting() const override { return false; }
  [[nodiscard]] std::optional<Bend> bend() const override;
  [[nodiscard]] Rest rest() const override { return Rest::None; }
  void addConstant(const HeatGround& ground, SparseMatrix& matrix, std::span<double> load) const override;
  void addFlow(const HeatGround& ground, std::span<const double> temperature, std::span<double> balance) const override;
  void addSlope(const HeatGround& ground, std::span<const double> temperature, SparseMatrix& matrix) const override;
  void addRest(const HeatGround&, std::span<const double>, std::span<const double>, double,
               std::span<double>) const override
  {
  }
  void arrivals(const HeatGround& ground, const FlowState& state, std::span<const char> wanted,
                const ArrivalVisit& visit) const override;
  [[nodiscard]] std::vector<FlowFigure> figures(const HeatGround& ground, const FlowState& state) const override;
  [[nodiscard]] std::vector<FlowFigure> figuresFrom(const HeatGround& ground, const FlowState& state,
                                                    double arrived) const override;
  void addPassing(const HeatGround& ground, const FlowState& state, Passing& passing) const override;
  void outside(const HeatGround& ground, TemperatureSpan& span) const override;
  void ownHeat(const std::function<void(const OwnHeat&)>& visit) const override;
  void ownVolumes(const HeatGround& ground, const std::function<void(const OwnVolume&)>& visit) const override;

private:
  template <class Visit>
  void eachElement(const HeatGround& ground, const OnFace& own, Visit&& visit) const;
  std::vector<OnFace> faces_;
};

extern template class FaceFlow<FaceHeat>;
extern template class FaceFlow<FaceConvection>;
extern template class FaceFlow<FaceRadiation>;
extern template class FaceFlow<FaceSheet>;

} // namespace kiln
