// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "heat/JouleHeat.h"

#include "geometry/SurfaceFaces.h"
#include "geometry/TouchingPairs.h"
#include "heat/Element.h"
#include "heat/SurfaceElement.h"
#include "heat/ThermalSystem.h"

#include <Eigen/IterativeLinearSolvers>
#include <algorithm>
#include <map>

namespace kiln
{
namespace
{

std::size_t at(std::int64_t i) { return static_cast<std::size_t>(i); }

/// Faces of a touching pair where the potential jumps, with their conductance in S/m² (0: no current passes).
std::optional<double> electricJump(const Project& project, const FaceTable& geometry, const TouchingPair& pair)
{
  const Contact* contact = findContact(project, geometry.parts[at(pair.partA)].id, geometry.parts[at(pair.partB)].id);
  if (contact == nullptr)
    return std::nullopt;
  if (contact->electricResistance)
    return 1 / contact->electricResistance->si;
  const bool apart =
      std::holds_alternative<NoContact>(contact->exchange) || std::holds_alternative<Gap>(contact->exchange);
  return apart ? std::optional(0.0) : std::nullopt;
}

} // namespace

namespace
{

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
  std::vector<std::size_t> tets;
  for (std::size_t t = 0; t < mesh.tets.size(); ++t) {
    if (!sigma[at(mesh.tetPart[t])])
      continue;
    tets.push_back(t);
    for (const Index u : thermal.ofTet[t])
      if (receiverOf[at(u)] < 0) {
        receiverOf[at(u)] = static_cast<Index>(receivers.size());
        const UnknownShare own{u, 1};
        receivers.add({1, mesh.tetPart[t], -1, Vec3::Zero()}, std::span(&own, 1));
      }
  }
  std::shared_ptr<JouleHeat> made(new JouleHeat(TermOwner{TermOwner::Kind::Boundary, -1}, std::move(receivers)));
  made->mesh_ = &mesh;
  made->thermal_ = thermal;
  made->constant_ = std::all_of(sigma.begin(), sigma.end(), [](const auto& s) { return !s || s->table.empty(); });
  made->sigma_ = std::move(sigma);
  made->tets_ = std::move(tets);
  made->receiverOf_ = std::move(receiverOf);

  std::vector<bool> jump(mesh.geometry.faces.size(), false);
  std::map<int, double> conductance; // by face
  for (const TouchingPair& pair : touchingPairs(mesh.geometry))
    if (const auto passes = electricJump(project, mesh.geometry, pair))
      for (const int face : pair.faces) {
        jump[at(face)] = true;
        if (*passes > 0 && made->sigma_[at(pair.partA)] && made->sigma_[at(pair.partB)])
          conductance[face] = *passes;
      }
  made->electric_ = numberUnknowns(mesh, jump);
  for (std::size_t t = 0; t < mesh.triangles.size(); ++t)
    if (const auto found = conductance.find(mesh.triangleFace[t]); found != conductance.end())
      made->resistances_.push_back({t, found->second});

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
  const std::vector<int> faces = facesOf(project, mesh_->geometry, surfaceOf(boundary)).faces;
  std::map<Index, double> shares;
  double area = 0;
  for (std::size_t t = 0; t < mesh_->triangles.size(); ++t)
    if (std::binary_search(faces.begin(), faces.end(), mesh_->triangleFace[t]))
      for (std::size_t side = 0; side < 2; ++side) {
        const int part = mesh_->geometry.faces[at(mesh_->triangleFace[t])].parts[side];
        if (part == noPart || !sigma_[at(part)])
          continue;
        for (const Index u : electric_.ofTriangle[t][side])
          shares[u] += triangleArea(*mesh_, t) / 3;
        area += triangleArea(*mesh_, t);
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
  for (Index u = 0; u < electric_.count; ++u)
    builder.couple(std::array{u});
  for (const std::size_t t : tets_)
    builder.couple(electric_.ofTet[t]);
  for (const Resistance& r : resistances_) {
    const auto& [a, b] = electric_.ofTriangle[r.triangle];
    builder.couple(std::array{a[0], a[1], a[2], b[0], b[1], b[2]});
  }
  pattern_ = builder.build();
}

double JouleHeat::sigmaOf(std::size_t tet, std::span<const double> temperature) const
{
  double mean = 0;
  for (const Index u : thermal_.ofTet[tet])
    mean += temperature[at(u)] / 4;
  return valueAt(*sigma_[at(mesh_->tetPart[tet])], mean).value;
}

void JouleHeat::addTet(std::size_t tet, double sigma, SparseMatrix& matrix) const
{
  const auto c = linearConductance(*mesh_, mesh_->tets[tet], Eigen::Matrix3d::Identity() * sigma);
  const auto& own = electric_.ofTet[tet];
  std::size_t k = 0;
  for (std::size_t i = 0; i < 4; ++i)
    for (std::size_t j = 0; j <= i; ++j, ++k) {
      matrix.values[at(matrix.position(own[i], own[j]))] += c[k];
      if (i != j)
        matrix.values[at(matrix.position(own[j], own[i]))] += c[k];
    }
}

SparseMatrix JouleHeat::assemble(std::span<const double> temperature) const
{
  SparseMatrix matrix = pattern_;
  std::fill(matrix.values.begin(), matrix.values.end(), 0.0);
  for (const std::size_t t : tets_)
    addTet(t, sigmaOf(t, temperature), matrix);
  for (const Resistance& r : resistances_) {
    const Eigen::Matrix3d mass = triangleMass<1>(r.conductance * triangleArea(*mesh_, r.triangle));
    const auto& sides = electric_.ofTriangle[r.triangle];
    for (std::size_t a = 0; a < 2; ++a)
      for (std::size_t b = 0; b < 2; ++b)
        for (int i = 0; i < 3; ++i)
          for (int j = 0; j < 3; ++j)
            matrix.values[at(matrix.position(sides[a][at(i)], sides[b][at(j)]))] += (a == b ? 1 : -1) * mass(i, j);
  }
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
    double* diagonal = nullptr;
    for (Index i = matrix.rowStart[at(row)]; i < matrix.rowStart[at(row) + 1]; ++i) {
      const Index column = matrix.columns[at(i)];
      double& value = matrix.values[at(i)];
      if (row == column) {
        diagonal = &value;
        continue;
      }
      if (held[at(column)] != 0 && held[at(row)] == 0)
        right[at(row)] -= value * potential_[at(column)];
      if (held[at(row)] != 0 || held[at(column)] != 0)
        value = 0;
    }
    if (*diagonal <= 0)
      *diagonal = 1; // outside the parts that conduct
    if (held[at(row)] != 0)
      right[at(row)] = *diagonal * potential_[at(row)];
  }
  return right;
}

void JouleHeat::collectHeat(std::span<const double> temperature) const
{
  heat_.assign(receivers().size(), 0.0);
  for (const std::size_t t : tets_) {
    const auto c = linearConductance(*mesh_, mesh_->tets[t], Eigen::Matrix3d::Identity() * sigmaOf(t, temperature));
    const auto& potentials = electric_.ofTet[t];
    double watts = 0;
    std::size_t k = 0;
    for (std::size_t i = 0; i < 4; ++i)
      for (std::size_t j = 0; j <= i; ++j, ++k)
        watts += (i == j ? 1 : 2) * c[k] * potential_[at(potentials[i])] * potential_[at(potentials[j])];
    for (const UnknownShare& own : sharesOver(*mesh_, thermal_, t))
      heat_[at(receiverOf_[at(own.unknown)])] += own.share * watts;
  }
  for (const Resistance& r : resistances_) {
    const auto& sides = electric_.ofTriangle[r.triangle];
    Vec3 drop;
    for (int i = 0; i < 3; ++i)
      drop[i] = potential_[at(sides[0][at(i)])] - potential_[at(sides[1][at(i)])];
    const double watts = drop.dot(triangleMass<1>(r.conductance * triangleArea(*mesh_, r.triangle)) * drop);
    // Half of it on each side.
    const double area = triangleArea(*mesh_, r.triangle);
    for (const SurfacePoint& point : pointsOfPiece(*mesh_, r.triangle))
      for (std::size_t side = 0; side < 2; ++side) {
        const SurfaceNodes nodes = nodesOf(*mesh_, thermal_, r.triangle / trianglePieces(mesh_->order), side);
        for (std::size_t i = 0; i < nodes.count; ++i)
          heat_[at(receiverOf_[at(nodes.own[i])])] +=
              point.area / area * point.shape[static_cast<Eigen::Index>(i)] * watts / 2;
      }
  }
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
