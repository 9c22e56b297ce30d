// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "heat/boundaries/JumpContact.h"

#include "heat/elements/Radiating.h"
#include "heat/elements/SparseMatrix.h"

#include <algorithm>

namespace kiln
{
namespace
{

/// Adds a block that couples both sides: itself on each, minus itself across.
void addBoth(const HeatGround& ground, std::size_t element, const NodeMatrix& block, SparseMatrix& matrix)
{
  const NodeMatrix across = -block;
  for (std::size_t row = 0; row < 2; ++row)
    for (std::size_t column = 0; column < 2; ++column)
      addLower(ground.nodes(element, row), ground.nodes(element, column), row == column ? block : across, matrix);
}

} // namespace

std::optional<Bend> JumpContact::bend() const
{
  constexpr Bend radiates{"radiation across a gap", "Check that the emissivities of the gap's sides are right."};
  const auto grey = [](const OnFace& own) { return own.radiation > 0; };
  return std::any_of(faces_.begin(), faces_.end(), grey) ? std::optional(radiates) : std::nullopt;
}

void JumpContact::couple(const HeatGround& ground, PatternBuilder& builder) const
{
  for (const OnFace& own : faces_)
    for (const std::int32_t e : ground.elementsOf(own.face)) {
      const SurfaceNodes first = ground.nodes(static_cast<std::size_t>(e), 0);
      const SurfaceNodes second = ground.nodes(static_cast<std::size_t>(e), 1);
      std::array<UnknownId, 12> both{};
      std::copy(second.begin(), second.end(), std::copy(first.begin(), first.end(), both.begin()));
      builder.couple(std::span(both.data(), first.count + second.count));
    }
}

void JumpContact::addConstant(const HeatGround& ground, SparseMatrix& matrix, std::span<double>) const
{
  for (const OnFace& own : faces_)
    for (const std::int32_t e : ground.elementsOf(own.face))
      addBoth(ground, static_cast<std::size_t>(e),
              own.conductance * elementMass(ground.mesh(), static_cast<std::size_t>(e)), matrix);
}

JumpContact::Light JumpContact::lightOf(const OnFace& own, const Mesh& mesh, std::size_t element,
                                        const NodeVector& side0, const NodeVector& side1)
{
  Light light{NodeVector::Zero(side0.size()), NodeMatrix::Zero(side0.size(), side0.size()), {}};
  light.slope1 = light.slope0;
  for (const SurfacePoint& point : pointsOf(mesh, element)) {
    const NodeVector& n = point.shape;
    const double a = n.dot(side0);
    const double b = n.dot(side1);
    const double weight = stefanBoltzmann * own.radiation * point.area;
    light.watts += weight * (fourth(b) - fourth(a)) * n;
    light.slope0 += weight * slopeOfFourth(a) * n * n.transpose();
    light.slope1 += weight * slopeOfFourth(b) * n * n.transpose();
  }
  return light;
}

template <class Visit>
void JumpContact::eachLight(const HeatGround& ground, std::span<const double> temperature, Visit&& visit) const
{
  for (const OnFace& own : faces_)
    if (own.radiation > 0)
      for (const std::int32_t t : ground.elementsOf(own.face)) {
        const auto e = static_cast<std::size_t>(t);
        visit(e, lightOf(own, ground.mesh(), e, ground.values(e, 0, temperature), ground.values(e, 1, temperature)));
      }
}

void JumpContact::addFlow(const HeatGround& ground, std::span<const double> temperature,
                          std::span<double> balance) const
{
  eachLight(ground, temperature, [&](std::size_t e, const Light& light) {
    addTo(ground.nodes(e, 0), light.watts, balance);
    addTo(ground.nodes(e, 1), -light.watts, balance);
  });
}

/// Both sides with their mean slope: the symmetric part.
void JumpContact::addSlope(const HeatGround& ground, std::span<const double> temperature, SparseMatrix& matrix) const
{
  eachLight(ground, temperature,
            [&](std::size_t e, const Light& light) { addBoth(ground, e, (light.slope0 + light.slope1) / 2, matrix); });
}

void JumpContact::addRest(const HeatGround& ground, std::span<const double> temperature,
                          std::span<const double> direction, double, std::span<double> rest) const
{
  eachLight(ground, temperature, [&](std::size_t e, const Light& light) {
    const NodeMatrix half = (light.slope0 - light.slope1) / 2;
    const NodeVector beyond = half * (ground.values(e, 0, direction) + ground.values(e, 1, direction));
    addTo(ground.nodes(e, 0), beyond, rest);
    addTo(ground.nodes(e, 1), -beyond, rest);
  });
}

void JumpContact::arrivals(const HeatGround& ground, const FlowState& state, std::span<const char>,
                           const ArrivalVisit& visit) const
{
  for (const OnFace& own : faces_)
    for (const std::int32_t t : ground.elementsOf(own.face)) {
      const auto e = static_cast<std::size_t>(t);
      const NodeVector side0 = ground.values(e, 0, state.temperature);
      const NodeVector side1 = ground.values(e, 1, state.temperature);
      NodeVector watts = own.conductance * (elementMass(ground.mesh(), e) * (side1 - side0));
      if (own.radiation > 0)
        watts += lightOf(own, ground.mesh(), e, side0, side1).watts;
      for (std::size_t side = 0; side < 2; ++side) {
        const SurfaceNodes nodes = ground.nodes(e, side);
        visit({ground.partAt(own.face, side),
               own.face,
               {nodes.begin(), nodes.count},
               {watts.data(), static_cast<std::size_t>(watts.size())}});
        watts = -watts;
      }
    }
}

std::vector<FlowFigure> JumpContact::figures(const HeatGround& ground, const FlowState& state) const
{
  double across = 0;
  bool first = true; // sides take turns
  arrivals(ground, state, {}, [&](const Arrival& arrival) {
    across -= first ? arrival.total() : 0;
    first = !first;
  });
  return {{owner(), across, 0}};
}

} // namespace kiln
