// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "heat/network/JouleHeat.h"

#include "base/At.h"
#include "geometry/SurfaceFaces.h"
#include "geometry/TouchingPairs.h"
#include "heat/elements/SurfaceElement.h"
#include "heat/elements/VolumeElement.h"

#include <Eigen/IterativeLinearSolvers>
#include <algorithm>
#include <cmath>
#include <map>

namespace kiln
{
namespace
{

/// Faces of a touching pair where the potential jumps, with their conductance in S/m² (0: no current passes).
std::optional<double> electricJump(const Contact* contact)
{
  if (contact == nullptr)
    return std::nullopt;
  if (contact->electricResistance)
    return 1 / contact->electricResistance->si;
  const bool apart =
      std::holds_alternative<NoContact>(contact->exchange) || std::holds_alternative<Gap>(contact->exchange);
  return apart ? std::optional(0.0) : std::nullopt;
}

/// Conjugate gradients with an incomplete factorisation; on entry \p potential is the guess.
/// \return whether the potential is good to the tolerance
bool solvePotential(const SparseMatrix& matrix, const std::vector<double>& right, std::vector<double>& potential)
{
  using Symmetric = Eigen::SparseMatrix<double, Eigen::RowMajor>;
  const Eigen::Map<const Symmetric> mapped(matrix.rows(), matrix.rows(),
                                           static_cast<Eigen::Index>(matrix.values.size()), matrix.rowStart.data(),
                                           matrix.columns.data(), matrix.values.data());
  const Eigen::SparseMatrix<double> columns = mapped;
  Eigen::ConjugateGradient<Eigen::SparseMatrix<double>, Eigen::Lower | Eigen::Upper, Eigen::IncompleteCholesky<double>>
      solver;
  solver.setTolerance(1e-12);
  solver.compute(columns);
  const auto size = static_cast<Eigen::Index>(right.size());
  const Eigen::Map<const Eigen::VectorXd> b(right.data(), size);
  Eigen::Map<Eigen::VectorXd> x(potential.data(), size);
  x = solver.solveWithGuess(b, x).eval();
  constexpr double enough = 1e-8; // of the currents; the heat goes with their square
  return x.allFinite() && (b - mapped * x).norm() <= enough * b.norm();
}

} // namespace

Expected<std::shared_ptr<const JouleHeat>> JouleHeat::make(const Project& project, const Mesh& mesh,
                                                           const Unknowns& thermal)
{
  std::vector<std::shared_ptr<const Property>> sigma;
  for (const GeometryPart& part : mesh.geometry.parts) {
    const Part* own = findById(project.parts, part.id);
    const Material* material = own != nullptr ? findById(project.materials, own->material) : nullptr;
    sigma.push_back(material != nullptr && material->electricConductivity
                        ? std::make_shared<const Property>(*material->electricConductivity)
                        : nullptr);
  }
  Receivers receivers;
  std::vector<Index> receiverOf(at(thermal.count), -1);
  std::vector<std::size_t> elements;
  for (std::size_t e = 0; e < tetElements(mesh); ++e) {
    if (!sigma[at(elementPart(mesh, e))])
      continue;
    elements.push_back(e);
    for (const UnknownId u : volumeNodes(mesh, thermal, e))
      if (receiverOf[at(u)] < 0) {
        receiverOf[at(u)] = static_cast<Index>(receivers.size());
        const UnknownShare own{u, 1};
        receivers.add({1, elementPart(mesh, e), {}, Vec3::Zero()}, std::span(&own, 1));
      }
  }
  std::shared_ptr<JouleHeat> made(new JouleHeat(FlowOwner{FlowOwner::Kind::Boundary, -1}, std::move(receivers)));
  made->mesh_ = &mesh;
  made->thermal_ = thermal;
  made->constant_ = std::all_of(sigma.begin(), sigma.end(), [](const auto& s) { return !s || s->table.empty(); });
  made->sigma_ = std::move(sigma);
  made->elements_ = std::move(elements);
  made->receiverOf_ = std::move(receiverOf);

  std::vector<bool> jump(mesh.geometry.faces.size(), false);
  std::map<FaceId, double> conductance; // by face
  for (const ContactPiece& piece : contactPieces(project, mesh.geometry))
    if (const auto passes = electricJump(piece.contact))
      for (const FaceId face : piece.faces) {
        jump[at(face)] = true;
        if (*passes > 0 && made->sigma_[at(piece.partA)] && made->sigma_[at(piece.partB)])
          conductance[face] = *passes;
      }
  made->electric_ = numberUnknowns(mesh, jump);
  for (std::size_t e = 0; e < triangleElements(mesh); ++e)
    if (const auto found = conductance.find(elementFace(mesh, e)); found != conductance.end())
      made->resistances_.push_back({e, found->second});

  bool grounded = false;
  for (std::size_t b = 0; b < project.boundaries.size(); ++b) {
    auto electrode = made->electrodeOn(project, static_cast<int>(b));
    if (!electrode)
      return tl::unexpected(electrode.error());
    if (!*electrode)
      continue;
    grounded = grounded || (*electrode)->fixed;
    made->electrodes_.push_back(std::move(**electrode));
  }
  if (made->electrodes_.empty())
    return std::shared_ptr<const JouleHeat>();
  if (!grounded)
    return failure(Failure::Kind::NotReady,
                   "boundary " + project.boundaries[at(made->electrodes_.front().boundary)].name,
                   "Current is given, but nowhere a voltage: the potential is only known up to a constant.",
                   "Fix the voltage of one surface, for example 0 V where the current leaves.");
  made->buildPattern();
  return std::shared_ptr<const JouleHeat>(std::move(made));
}

/// A boundary as an electrode; nothing when it is none. Fails where its surface lies on no part that conducts.
Expected<std::optional<JouleHeat::Electrode>> JouleHeat::electrodeOn(const Project& project, int index) const
{
  const Boundary& boundary = project.boundaries[at(index)];
  const auto* voltage = std::get_if<FixedVoltage>(&boundary.condition);
  const auto* current = std::get_if<CurrentIn>(&boundary.condition);
  if (boundary.muted || (voltage == nullptr && current == nullptr))
    return std::optional<Electrode>();
  Electrode electrode{index, voltage != nullptr, voltage != nullptr ? voltage->voltage.si : current->current.si, {}};
  const std::vector<FaceId> faces = facesOf(project, mesh_->geometry, surfaceOf(boundary)).faces;
  std::map<UnknownId, double> shares;
  double area = 0;
  for (std::size_t e = 0; e < triangleElements(*mesh_); ++e)
    if (std::binary_search(faces.begin(), faces.end(), elementFace(*mesh_, e)))
      for (std::size_t side = 0; side < 2; ++side) {
        const PartId part = mesh_->geometry.faces[at(elementFace(*mesh_, e))].parts[side];
        if (part == noPart || !sigma_[at(part)])
          continue;
        const NodeVector load = elementLoad(*mesh_, e);
        const SurfaceNodes nodes = nodesOf(*mesh_, electric_, e, side);
        for (std::size_t i = 0; i < nodes.count; ++i)
          shares[nodes.own[i]] += load[static_cast<Eigen::Index>(i)];
        area += load.sum();
      }
  if (area <= 0)
    return failure(Failure::Kind::NotReady, "boundary " + boundary.name,
                   "Its surface lies on no part that conducts electricity.",
                   "Give the part's material an electric conductivity, or choose another surface.");
  for (const auto& [unknown, share] : shares)
    electrode.shares.emplace_back(unknown, share / area);
  return std::optional<Electrode>(std::move(electrode));
}

void JouleHeat::buildPattern()
{
  PatternBuilder builder(electric_.count);
  for (UnknownId u(0); u < electric_.count; ++u)
    builder.couple(std::array{u});
  for (const std::size_t e : elements_) {
    const VolumeNodes nodes = volumeNodes(*mesh_, electric_, e);
    builder.couple(std::span(nodes.begin(), nodes.end()));
  }
  for (const Resistance& r : resistances_) {
    std::vector<UnknownId> both;
    for (std::size_t side = 0; side < 2; ++side) {
      const SurfaceNodes nodes = nodesOf(*mesh_, electric_, r.element, side);
      both.insert(both.end(), nodes.begin(), nodes.end());
    }
    builder.couple(both);
  }
  pattern_ = builder.build();
}

void JouleHeat::addElement(std::size_t element, std::span<const double> temperature, SparseMatrix& matrix) const
{
  const VolumeVector kelvin = valuesOf(volumeNodes(*mesh_, thermal_, element), temperature);
  const VolumeNodes own = volumeNodes(*mesh_, electric_, element);
  const auto count = static_cast<Eigen::Index>(own.count);
  VolumeMatrix conducts = VolumeMatrix::Zero(count, count);
  for (const VolumePoint& point : volumePoints(*mesh_, element)) {
    const double sigma = valueAt(*sigma_[at(elementPart(*mesh_, element))], point.shape.dot(kelvin)).value;
    const VolumeSlopes slopes = slopesAt(*mesh_, element, point.l);
    conducts += sigma * point.volume * slopes * slopes.transpose();
  }
  for (std::size_t i = 0; i < own.count; ++i)
    for (std::size_t j = 0; j < own.count; ++j)
      matrix.values[at(matrix.position(own.own[i], own.own[j]))] +=
          conducts(static_cast<Eigen::Index>(i), static_cast<Eigen::Index>(j));
}

void JouleHeat::addContact(const Resistance& resistance, SparseMatrix& matrix) const
{
  const std::array sides{nodesOf(*mesh_, electric_, resistance.element, 0),
                         nodesOf(*mesh_, electric_, resistance.element, 1)};
  for (const SurfacePoint& point : pointsOf(*mesh_, resistance.element))
    for (std::size_t a = 0; a < 2; ++a)
      for (std::size_t b = 0; b < 2; ++b)
        for (std::size_t i = 0; i < sides[a].count; ++i)
          for (std::size_t j = 0; j < sides[b].count; ++j)
            matrix.values[at(matrix.position(sides[a].own[i], sides[b].own[j]))] +=
                (a == b ? 1 : -1) * resistance.conductance * point.area * point.shape[static_cast<Eigen::Index>(i)] *
                point.shape[static_cast<Eigen::Index>(j)];
}

SparseMatrix JouleHeat::assemble(std::span<const double> temperature) const
{
  SparseMatrix matrix = pattern_;
  std::fill(matrix.values.begin(), matrix.values.end(), 0.0);
  for (const std::size_t e : elements_)
    addElement(e, temperature, matrix);
  for (const Resistance& r : resistances_)
    addContact(r, matrix);
  return matrix;
}

/// Brings held voltages into the matrix and the currents, A, into the right side.
std::vector<double> JouleHeat::impose(SparseMatrix& matrix) const
{
  std::vector<double> right(at(electric_.count), 0.0);
  std::vector<char> held(right.size(), 0);
  for (const Electrode& electrode : electrodes_)
    for (const auto& [u, share] : electrode.shares) {
      if (electrode.fixed) {
        held[at(u)] = 1;
        potential_[at(u)] = electrode.value;
      } else {
        right[at(u)] += share * electrode.value;
      }
    }
  for (Index row = 0; row < matrix.rows(); ++row) {
    double& diagonal = matrix.values[at(matrix.position(row, row))];
    for (Index i = matrix.rowStart[at(row)]; i < matrix.rowStart[at(row) + 1]; ++i) {
      const Index column = matrix.columns[at(i)];
      double& value = matrix.values[at(i)];
      if (row == column)
        continue;
      if (held[at(column)] != 0 && held[at(row)] == 0)
        right[at(row)] -= value * potential_[at(column)];
      if (held[at(row)] != 0 || held[at(column)] != 0)
        value = 0;
    }
    if (diagonal <= 0)
      diagonal = 1; // outside the parts that conduct
    if (held[at(row)] != 0)
      right[at(row)] = diagonal * potential_[at(row)];
  }
  return right;
}

void JouleHeat::give(UnknownId thermal, double watts) const { heat_[at(receiverOf_[at(thermal)])] += watts; }

void JouleHeat::heatElement(std::size_t element, std::span<const double> temperature) const
{
  const VolumeNodes nodes = volumeNodes(*mesh_, thermal_, element);
  const VolumeVector kelvin = valuesOf(nodes, temperature);
  const VolumeVector volts = valuesOf(volumeNodes(*mesh_, electric_, element), potential_);
  for (const VolumePoint& point : volumePoints(*mesh_, element)) {
    const double sigma = valueAt(*sigma_[at(elementPart(*mesh_, element))], point.shape.dot(kelvin)).value;
    const Vec3 gradient = slopesAt(*mesh_, element, point.l).transpose() * volts;
    const double watts = sigma * point.volume * gradient.squaredNorm();
    for (std::size_t i = 0; i < nodes.count; ++i)
      give(nodes.own[i], point.shape[static_cast<Eigen::Index>(i)] * watts);
  }
}

/// Half of the heat on each side.
void JouleHeat::heatContact(const Resistance& resistance) const
{
  const auto volts = [&](std::size_t side) {
    return valuesAt(nodesOf(*mesh_, electric_, resistance.element, side), potential_);
  };
  const NodeVector drop = volts(0) - volts(1);
  for (const SurfacePoint& point : pointsOf(*mesh_, resistance.element)) {
    const double watts = resistance.conductance * point.area * std::pow(point.shape.dot(drop), 2);
    for (std::size_t side = 0; side < 2; ++side) {
      const SurfaceNodes nodes = nodesOf(*mesh_, thermal_, resistance.element, side);
      for (std::size_t i = 0; i < nodes.count; ++i)
        give(nodes.own[i], point.shape[static_cast<Eigen::Index>(i)] * watts / 2);
    }
  }
}

void JouleHeat::collectHeat(std::span<const double> temperature) const
{
  heat_.assign(receivers().size(), 0.0);
  for (const std::size_t e : elements_)
    heatElement(e, temperature);
  for (const Resistance& r : resistances_)
    heatContact(r);
}

void JouleHeat::solve(std::span<const double> temperature) const
{
  if (!potential_.empty() &&
      (constant_ || std::equal(temperature.begin(), temperature.end(), solvedAt_.begin(), solvedAt_.end())))
    return;
  solvedAt_.assign(temperature.begin(), temperature.end());
  potential_.resize(at(electric_.count), 0.0);
  const SparseMatrix free = assemble(temperature);
  SparseMatrix matrix = free;
  const std::vector<double> right = impose(matrix);
  converged_ = solvePotential(matrix, right, potential_);
  current_.resize(potential_.size());
  multiply(free, potential_, current_);
  collectHeat(temperature);
}

std::vector<double> JouleHeat::flows(std::span<const double> temperature) const
{
  solve(temperature);
  return heat_;
}

std::vector<FlowFigure> JouleHeat::figures(const HeatGround&, const FlowState& state) const
{
  std::vector<FlowFigure> figures;
  for (const ElectrodeFigure& electrode : electrodes(state.temperature))
    figures.push_back({{FlowOwner::Kind::Boundary, electrode.boundary}, electrode.watts, electrode.watts});
  return figures;
}

void JouleHeat::ownHeat(const std::function<void(const OwnHeat&)>& visit) const
{
  visit({noPart, 0, std::numeric_limits<double>::infinity()});
}

std::vector<ElectrodeFigure> JouleHeat::electrodes(std::span<const double> temperature) const
{
  solve(temperature);
  std::vector<ElectrodeFigure> figures;
  for (const Electrode& electrode : electrodes_) {
    ElectrodeFigure figure{electrode.boundary, 0, 0, 0};
    for (const auto& [u, share] : electrode.shares) {
      const double amperes = electrode.fixed ? current_[at(u)] : share * electrode.value;
      figure.voltage += share * potential_[at(u)];
      figure.current += amperes;
      figure.watts += potential_[at(u)] * amperes;
    }
    figures.push_back(figure);
  }
  return figures;
}

} // namespace kiln
