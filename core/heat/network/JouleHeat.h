// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "base/Failure.h"
#include "heat/elements/SparseMatrix.h"
#include "heat/elements/Unknowns.h"
#include "heat/network/Electrode.h"
#include "heat/network/HeatTerm.h"

namespace kiln
{

/// Heat of an electric current: ∇·(σ ∇φ) = 0 in the parts that conduct, solved with the elements of the temperature,
/// bent ones too, gives the heat σ|∇φ|² at the points of every element and (φ₁ − φ₂)²/R at those of contacts with an
/// electric resistance; it goes to the nodes by the shape functions of the temperature. σ is that of the temperature at
/// each point. What the electrodes put in equals what the parts get, to the solver's tolerance.
class JouleHeat : public HeatTerm
{
public:
  /// \param mesh     must outlive this
  /// \param thermal  unknowns of the temperatures
  /// Fails when no voltage is fixed somewhere on the parts that conduct.
  static Expected<std::shared_ptr<const JouleHeat>> make(const Project& project, const Mesh& mesh,
                                                         const Unknowns& thermal);

  [[nodiscard]] std::vector<double> flows(std::span<const double> temperature) const override;
  void addSlope(const HeatGround&, std::span<const double>, SparseMatrix&) const override {} // lags one Newton step
  void addRest(const HeatGround&, std::span<const double>, std::span<const double>, double,
               std::span<double>) const override
  {
  }
  [[nodiscard]] Rest rest() const override { return Rest::None; }
  /// What each electrode puts in.
  [[nodiscard]] std::vector<FlowFigure> figures(const HeatGround& ground, const FlowState& state) const override;
  void ownHeat(const std::function<void(const OwnHeat&)>& visit) const override;
  [[nodiscard]] std::string_view unsolved() const override { return converged_ ? "" : "The electric potential"; }

  [[nodiscard]] std::vector<ElectrodeFigure> electrodes(std::span<const double> temperature) const;

private:
  struct Electrode {
    int boundary;
    bool fixed;
    double value; // V or A
    std::vector<std::pair<UnknownId, double>> shares;
  };
  struct Resistance {
    std::size_t element; // of the surface
    double conductance;  // S/m²
  };
  JouleHeat(FlowOwner owner, Receivers receivers) : HeatTerm(owner, std::move(receivers)) {}
  [[nodiscard]] Expected<std::optional<Electrode>> electrodeOn(const Project& project, int index) const;
  void buildPattern();
  [[nodiscard]] SparseMatrix assemble(std::span<const double> temperature) const;
  [[nodiscard]] std::vector<double> impose(SparseMatrix& matrix) const;
  void collectHeat(std::span<const double> temperature) const;
  void solve(std::span<const double> temperature) const;
  void heatElement(std::size_t element, std::span<const double> temperature) const;
  void heatContact(const Resistance& resistance) const;
  void addElement(std::size_t element, std::span<const double> temperature, SparseMatrix& matrix) const;
  void addContact(const Resistance& resistance, SparseMatrix& matrix) const;
  void give(UnknownId thermal, double watts) const;

  const Mesh* mesh_ = nullptr;
  Unknowns thermal_;
  Unknowns electric_;
  std::vector<std::shared_ptr<const Property>> sigma_; // by part, S/m, nothing: does not conduct
  std::vector<std::size_t> elements_;                  // of the parts that conduct
  std::vector<Electrode> electrodes_;
  std::vector<Resistance> resistances_;
  std::vector<Index> receiverOf_; // by thermal unknown
  SparseMatrix pattern_;
  bool constant_ = true;

  mutable std::vector<double> solvedAt_; // temperatures of the last solution
  mutable std::vector<double> potential_, heat_, current_;
  mutable bool converged_ = true;
};

} // namespace kiln
