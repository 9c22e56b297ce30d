// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "base/Failure.h"
#include "heat/Conductivity.h"
#include "heat/EnclosureExchange.h"
#include "heat/GapCrossing.h"
#include "heat/HeatTerm.h"
#include "heat/JouleHeat.h"
#include "heat/Unknowns.h"
#include "model/Formula.h"
#include "model/Project.h"

#include <Eigen/Core>
#include <memory>
#include <vector>

namespace kiln
{

class BeamCaster;

/// Where what the engineer set lands on the mesh: plain lists by part and face index.
/// Coefficients per area and per volume are already scaled from the exact to the meshed area and volume, so that
/// watts do not depend on how well chords follow a round face.
struct Conditions {
  struct PartHeat {
    int source, part;
    double density;          // W/m³
    double scale = 1;        // exact over meshed volume, for densityAt
    PlaceFunction densityAt; // W/m³, where it varies in place
  };
  struct FaceHeat {
    int source, face;
    double flux;          // W/m²
    double scale = 1;     // exact over meshed area, for fluxAt
    PlaceFunction fluxAt; // W/m², where it varies in place
  };
  struct PointHeat {
    int source;
    Vec3 place;
    double power; // W
  };
  struct FaceConvection {
    int boundary, face;
    double coefficient, ambient;           // W/(m²·K), K
    double scale = 1;                      // exact over meshed area, for what follows
    std::shared_ptr<const Property> curve; // W/(m²·K) against the surface temperature
    PlaceFunction coefficientAt, ambientAt;
    std::shared_ptr<const Property> ambientCurve{}; // K against the surface temperature

    [[nodiscard]] bool plain() const { return !curve && !coefficientAt && !ambientAt && !ambientCurve; }
  };
  struct FaceRadiation {
    int boundary, face;
    double emissivity, surroundings;       // with view factor; K
    std::shared_ptr<const Property> curve; // emissivity against the surface temperature
    double scale = 1;                      // view factor times exact over meshed area, for the curve
  };
  /// Conducts along a face: in-plane flux k δ per length.
  struct FaceSheet {
    int boundary, face;
    double thickness;                             // m, scaled so that it has its exact volume
    std::shared_ptr<const Property> conductivity; // W/(m·K)
  };
  /// The last unknown of a flow passage.
  struct Outlet {
    int boundary;
    Index unknown;
  };
  /// The cells of a wire, one unknown each.
  struct WireCells {
    int link;
    Index first;
    double volume; // m³, of one cell
  };
  struct FaceContact {
    int face;
    double conductance;   // W/(m²·K)
    double radiation = 0; // effective emissivity across a gap
  };
  struct Enclosed {
    int enclosure;
    std::shared_ptr<const EnclosureExchange> exchange;
  };
  struct Fixed {
    int boundary;
    double temperature; // K
    std::vector<Index> unknowns;
    std::vector<double> temperatures; // by unknown, where they vary in place
    int node = -1;                    // of the project that is held, where it is one; boundary is -1 then

    [[nodiscard]] double temperatureAt(std::size_t i) const
    {
      return temperatures.empty() ? temperature : temperatures[i];
    }
  };

  std::vector<Conductivity> conductivity; ///< by part
  std::vector<PartHeat> partHeat;
  std::vector<FaceHeat> faceHeat;
  std::vector<PointHeat> pointHeat;
  std::vector<FaceConvection> convection;
  std::vector<FaceRadiation> radiation;
  std::vector<FaceSheet> sheets;
  std::vector<FaceContact> contacts;  ///< only those with a jump and some conductance
  std::vector<GapCrossing> crossings; ///< of gaps between parts that share no faces
  std::vector<Enclosed> enclosures;
  std::vector<Fixed> fixed; ///< later ones win where they meet
  std::vector<std::shared_ptr<const HeatTerm>> terms;
  std::vector<Index> nodeUnknowns; ///< by index in Project::nodes, -1 for a muted one
  std::vector<Outlet> outlets;
  std::vector<WireCells> wires;
  std::shared_ptr<const JouleHeat> electric; ///< also one of the terms
  std::shared_ptr<BeamCaster> beams;         ///< where there is a beam
  Unknowns unknowns;
  double startTemperature = 293.15; ///< K, a sensible first guess
};

/// Emissivity of a face: the last finish that covers it, else the typical one of its part's material.
/// \return nothing when neither is known
[[nodiscard]] std::optional<Property> emissivityOf(const Project& project, const FaceTable& geometry, int face);

/// Solar absorptance of a face: that of the last finish that covers it, else its emissivity.
[[nodiscard]] std::optional<double> absorptanceOf(const Project& project, const FaceTable& geometry, int face);

/// Resolves a project (muted parts, sources and boundaries left out) on its mesh.
/// Fails naming the object when something it needs is missing; readiness reports all of these at once.
[[nodiscard]] Expected<Conditions> resolveConditions(const Project& project, const Mesh& mesh);
/// \param viewFactors  where those of enclosures come from
[[nodiscard]] Expected<Conditions> resolveConditions(const Project& project, const Mesh& mesh,
                                                     const ViewFactorSource& viewFactors);

/// The same model with other values, at another instant: unknowns, conductivities, contacts and enclosures are those of
/// \p before.
[[nodiscard]] Expected<Conditions> resolveAgain(const Project& project, const Mesh& mesh, const Conditions& before);

} // namespace kiln
