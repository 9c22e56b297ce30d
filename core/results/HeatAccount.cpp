// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "results/HeatAccount.h"

#include "geometry/SurfaceFaces.h"
#include "heat/Conduction.h"
#include "heat/SurfaceFlow.h"
#include "heat/ThermalSystem.h"

#include <algorithm>
#include <cmath>
#include <map>
#include <set>
#include <unordered_map>

namespace kiln
{
namespace
{

std::size_t at(std::int64_t i) { return static_cast<std::size_t>(i); }

/// Gradients of the four shape functions of a linear tetrahedron, 4×3, 1/m.
Eigen::Matrix<double, 4, 3> gradientsOf(const Mesh& mesh, const Tet& tet)
{
  const Vec3& a = mesh.nodes[at(tet[0])];
  const Vec3 e1 = mesh.nodes[at(tet[1])] - a;
  const Vec3 e2 = mesh.nodes[at(tet[2])] - a;
  const Vec3 e3 = mesh.nodes[at(tet[3])] - a;
  const double sixVolumes = e1.dot(e2.cross(e3));
  Eigen::Matrix<double, 4, 3> gradients;
  gradients.row(1) = e2.cross(e3) / sixVolumes;
  gradients.row(2) = e3.cross(e1) / sixVolumes;
  gradients.row(3) = e1.cross(e2) / sixVolumes;
  gradients.row(0) = -(gradients.row(1) + gradients.row(2) + gradients.row(3));
  return gradients;
}

class Accountant
{
public:
  Accountant(const Project& project, const Mesh& mesh, const Conditions& conditions, const ThermalSystem& system,
             std::span<const double> temperature, std::span<const double> storing)
      : project_(project), mesh_(mesh), conditions_(conditions), system_(system), temperature_(temperature),
        storing_(storing), trianglesOfFace_(mesh.geometry.faces.size()), elementsOfFace_(elementsByFace(mesh)),
        perfect_(mesh.geometry.faces.size(), false)
  {
    account_.source.assign(project.sources.size(), 0);
    account_.boundary.assign(project.boundaries.size(), 0);
    account_.node.assign(project.nodes.size(), 0);
    account_.link.assign(project.links.size(), 0);
    account_.faceHeat.assign(mesh.geometry.faces.size(), 0);
    account_.contactHeat.assign(mesh.geometry.faces.size(), 0);
    for (std::size_t t = 0; t < mesh.triangles.size(); ++t) {
      const auto f = at(mesh.triangleFace[t]);
      trianglesOfFace_[f].push_back(t);
      const auto& sides = conditions.unknowns.ofTriangle[t];
      if (mesh.geometry.faces[f].contact() && sides[0] == sides[1])
        perfect_[f] = true;
    }
    // A jump face may share its rim nodes with a perfect one; only faces whose every triangle is joined are perfect.
    for (std::size_t t = 0; t < mesh.triangles.size(); ++t)
      if (const auto& sides = conditions.unknowns.ofTriangle[t]; sides[0] != sides[1])
        perfect_[at(mesh.triangleFace[t])] = false;
  }

  HeatAccount borders()
  {
    addSources();
    addFaceBoundaries();
    addFixed();
    for (const Conditions::Enclosed& enclosed : conditions_.enclosures) {
      const EnclosureExchange& exchange = *enclosed.exchange;
      account_.enclosures.emplace_back().opening =
          exchange.throughOpening(exchange.light(conditions_.unknowns, temperature_));
    }
    total();
    return std::move(account_);
  }

  HeatAccount run()
  {
    addSources();
    addFaceBoundaries();
    addFixed();
    addJumpContacts();
    addPerfectContacts();
    addCrossings();
    for (const Conditions::Enclosed& enclosed : conditions_.enclosures)
      addEnclosure(enclosed);
    total();
    return std::move(account_);
  }

private:
  void total()
  {
    for (std::size_t i = 0; i < account_.source.size(); ++i)
      addFlow(account_.source[i]);
    for (std::size_t i = 0; i < account_.boundary.size(); ++i)
      addFlow(account_.boundary[i]);
    addTerms();
    for (const double watts : account_.node)
      addFlow(watts);
    for (const EnclosureFigure& enclosure : account_.enclosures)
      addFlow(enclosure.opening);
    for (const double watts : storing_)
      account_.stored += watts;
    account_.imbalance = account_.in - account_.out - account_.stored;
  }

  [[nodiscard]] SurfaceNodes nodes(std::size_t element, std::size_t side) const
  {
    return nodesOf(mesh_, conditions_.unknowns, element, side);
  }
  [[nodiscard]] NodeVector values(std::size_t element, std::size_t side) const
  {
    return valuesAt(nodes(element, side), temperature_);
  }

  void addFlow(double watts) { (watts > 0 ? account_.in : account_.out) += std::abs(watts); }

  /// Terms come after the other flows are summed: those that only move heat bring nothing from outside, whatever their
  /// figure says.
  void addTerms()
  {
    for (const auto& term : conditions_.terms) {
      const std::vector<double> flows = term->flows(temperature_);
      double total = 0;
      for (std::size_t i = 0; i < flows.size(); ++i) {
        total += flows[i];
        if (term->receivers()[i].face >= 0)
          account_.faceHeat[at(term->receivers()[i].face)] += flows[i];
      }
      const TermOwner& owner = term->owner();
      const bool only = std::abs(total) <= rounding(flows);
      switch (owner.kind) {
      case TermOwner::Kind::Source:
        account_.source[at(owner.index)] += total;
        if (const auto* beam = std::get_if<Beam>(&project_.sources[at(owner.index)].heat))
          addCaught(project_.sources[at(owner.index)].id, *beam, *term, flows);
        break;
      case TermOwner::Kind::Boundary:
        // A stretch of a flow passage has no face: what it takes up came through the surface, which counts.
        if (owner.index >= 0 && dynamic_cast<const StreamTerm*>(term.get()) == nullptr)
          account_.boundary[at(owner.index)] += term->figure(temperature_);
        break;
      case TermOwner::Kind::Node:
        account_.node[at(owner.index)] += total;
        continue; // summed with what holds it
      case TermOwner::Kind::Link:
        account_.link[at(owner.index)] += term->figure(temperature_);
        break;
      }
      if (!only && term != std::static_pointer_cast<const HeatTerm>(conditions_.electric))
        addFlow(total);
    }
    if (conditions_.electric)
      account_.electrodes = conditions_.electric->electrodes(temperature_);
    for (const ElectrodeFigure& electrode : account_.electrodes) {
      account_.boundary[at(electrode.boundary)] += electrode.watts;
      addFlow(electrode.watts);
    }
  }
  void addCaught(const std::string& source, const Beam& beam, const HeatTerm& term, const std::vector<double>& flows)
  {
    for (const std::string& surface : beam.surfaces) {
      const std::vector<int> faces = facesOf(project_, mesh_.geometry, surface).faces;
      CaughtHeat caught{source, surface, 0};
      for (std::size_t i = 0; i < flows.size(); ++i)
        if (std::binary_search(faces.begin(), faces.end(), term.receivers()[i].face))
          caught.watts += flows[i];
      account_.caught.push_back(std::move(caught));
    }
  }
  static double rounding(const std::vector<double>& flows)
  {
    double size = 0;
    for (const double watts : flows)
      size += std::abs(watts);
    return 1e-12 * size;
  }

  void addOnFace(double& total, int face, double watts)
  {
    total += watts;
    account_.faceHeat[at(face)] += watts;
  }

  void addSources()
  {
    for (const Conditions::PartHeat& heat : conditions_.partHeat)
      for (std::size_t e = 0; e < tetElements(mesh_); ++e)
        if (elementPart(mesh_, e) == heat.part)
          account_.source[at(heat.source)] += heatInto(heat, mesh_, e).sum();
    for (const Conditions::FaceHeat& heat : conditions_.faceHeat)
      for (const std::int32_t e : elementsOfFace_[at(heat.face)])
        addOnFace(account_.source[at(heat.source)], heat.face, flowOf(heat, mesh_, at(e)).watts.sum());
    for (const Conditions::PointHeat& heat : conditions_.pointHeat)
      account_.source[at(heat.source)] += heat.power;
  }

  void addFaceBoundaries()
  {
    const auto add = [&](const auto& condition) {
      for (const std::int32_t e : elementsOfFace_[at(condition.face)])
        addOnFace(account_.boundary[at(condition.boundary)], condition.face,
                  flowOf(condition, mesh_, at(e), values(at(e), 0)).watts.sum());
    };
    std::for_each(conditions_.convection.begin(), conditions_.convection.end(), add);
    std::for_each(conditions_.radiation.begin(), conditions_.radiation.end(), add);
  }

  void addFixed()
  {
    if (conditions_.fixed.empty())
      return;
    std::vector<double> balance = system_.balance(temperature_);
    for (std::size_t i = 0; i < storing_.size(); ++i)
      balance[i] -= storing_[i];           // what is stored there need not be brought in
    std::unordered_map<Index, int> holder; // later boundaries win
    for (const Conditions::Fixed& fixed : conditions_.fixed)
      for (const Index unknown : fixed.unknowns) {
        if (fixed.node >= 0)
          account_.node[at(fixed.node)] -= balance[at(unknown)];
        else
          holder[unknown] = fixed.boundary;
      }
    for (const auto& [unknown, boundary] : holder)
      account_.boundary[at(boundary)] -= balance[at(unknown)];
    shareReactions(holder, balance);
  }

  /// What holds a surface comes in through the faces of that surface, by area; what holds a part or a point arises
  /// within and crosses no face.
  void shareReactions(const std::unordered_map<Index, int>& holder, const std::vector<double>& balance)
  {
    std::map<int, std::vector<int>> facesOfHeld; // by boundary
    for (const Conditions::Fixed& fixed : conditions_.fixed)
      if (fixed.boundary >= 0)
        if (const auto* held = std::get_if<FixedSurface>(&project_.boundaries[at(fixed.boundary)].condition))
          facesOfHeld[fixed.boundary] = facesOf(project_, mesh_.geometry, held->surface).faces;
    std::unordered_map<Index, double> area;
    const auto eachHeld = [&](auto&& visit) {
      for (std::size_t t = 0; t < mesh_.triangles.size(); ++t) {
        const int face = mesh_.triangleFace[t];
        if (!mesh_.geometry.faces[at(face)].exposed())
          continue;
        for (const Index u : conditions_.unknowns.ofTriangle[t][0])
          if (const auto own = holder.find(u); own != holder.end())
            if (const auto faces = facesOfHeld.find(own->second);
                faces != facesOfHeld.end() && std::binary_search(faces->second.begin(), faces->second.end(), face))
              visit(face, u, triangleArea(mesh_, t) / 3);
      }
    };
    eachHeld([&](int, Index u, double share) { area[u] += share; });
    eachHeld([&](int face, Index u, double share) { account_.faceHeat[at(face)] -= balance[at(u)] * share / area[u]; });
  }

  /// Parts that are held as a whole: the heat of their contacts is known from the other side alone.
  [[nodiscard]] std::vector<bool> heldParts() const
  {
    std::vector<bool> held(mesh_.geometry.parts.size(), false);
    for (const Conditions::Fixed& fixed : conditions_.fixed)
      if (fixed.boundary >= 0)
        if (const auto* own = std::get_if<FixedPart>(&project_.boundaries[at(fixed.boundary)].condition))
          if (const int part = mesh_.geometry.partIndex(own->part); part != noPart)
            held[at(part)] = true;
    return held;
  }

  void addJumpContacts()
  {
    for (const Conditions::FaceContact& c : conditions_.contacts)
      for (const std::int32_t e : elementsOfFace_[at(c.face)])
        if (!mesh_.geometry.faces[at(c.face)].exposed()) // else it is what lies under a sheet
          account_.contactHeat[at(c.face)] -= flowOf(c, mesh_, at(e), values(at(e), 0), values(at(e), 1)).watts.sum();
  }

  void addCrossings()
  {
    const auto& parts = mesh_.geometry.parts;
    for (const GapCrossing& crossing : conditions_.crossings) {
      ContactFigure figure{parts[at(crossing.partA)].id, parts[at(crossing.partB)].id, 0, 0};
      for (const GapPoint& point : crossing.points) {
        const double watts = crossing.flowAt(conditions_.unknowns, point, temperature_);
        figure.area += point.area;
        figure.watts += watts;
        account_.faceHeat[at(elementFace(mesh_, point.elementA))] -= watts;
        account_.faceHeat[at(elementFace(mesh_, point.elementB))] += watts;
      }
      account_.gaps.push_back(std::move(figure));
    }
  }

  void addOpeningShares(const EnclosureExchange& exchange, const PatchLight& light, EnclosureFigure& figure) const
  {
    const Eigen::VectorXd out = exchange.outOfOpening(light);
    std::map<int, double> byPart;
    for (std::size_t p = 0; p < exchange.patches().count(); ++p)
      byPart[mesh_.geometry.faces[at(exchange.patches().face[p])].parts[0]] += out[static_cast<Eigen::Index>(p)];
    for (const auto& [part, watts] : byPart)
      figure.throughOpening.push_back({mesh_.geometry.parts[at(part)].id, watts});
  }

  /// Part to part; every pair of patches is visited, so the sums lie in a plain table.
  void addExchanges(const EnclosureExchange& exchange, const PatchLight& light, EnclosureFigure& figure) const
  {
    const std::size_t parts = mesh_.geometry.parts.size();
    std::vector<std::size_t> partOf;
    for (const int face : exchange.patches().face)
      partOf.push_back(at(mesh_.geometry.faces[at(face)].parts[0]));
    std::vector<double> between(parts * parts, 0.0);
    std::vector<char> seen(parts * parts, 0);
    exchange.eachExchange(light, [&](std::size_t i, std::size_t j, double watts) {
      const auto [low, high] = std::minmax(partOf[i], partOf[j]);
      between[low * parts + high] += partOf[i] == low ? watts : -watts;
      seen[low * parts + high] = 1;
    });
    for (std::size_t a = 0; a < parts; ++a)
      for (std::size_t b = a + 1; b < parts; ++b)
        if (seen[a * parts + b] != 0)
          figure.exchanges.push_back({mesh_.geometry.parts[a].id, mesh_.geometry.parts[b].id, between[a * parts + b]});
  }

  void addEnclosure(const Conditions::Enclosed& enclosed)
  {
    const EnclosureExchange& exchange = *enclosed.exchange;
    const PatchLight light = exchange.light(conditions_.unknowns, temperature_);
    const Eigen::VectorXd received = exchange.received(light);
    const Enclosure& own = project_.enclosures[at(enclosed.enclosure)];
    EnclosureFigure figure;
    figure.id = own.id;
    std::map<int, double> byFace;
    for (std::size_t p = 0; p < exchange.patches().count(); ++p)
      byFace[exchange.patches().face[p]] += received[static_cast<Eigen::Index>(p)];
    for (const auto& [face, watts] : byFace)
      account_.faceHeat[at(face)] += watts;
    for (const std::string& surface : own.surfaces) {
      double watts = 0;
      for (const int face : facesOf(project_, mesh_.geometry, surface).faces)
        if (const auto found = byFace.find(face); found != byFace.end())
          watts += found->second;
      figure.surfaces.push_back({surface, watts});
    }
    addExchanges(exchange, light, figure);
    std::map<int, double> byPart;
    for (const auto& [face, watts] : byFace)
      byPart[mesh_.geometry.faces[at(face)].parts[0]] += watts;
    for (const auto& [part, watts] : byPart)
      figure.moved += std::max(watts, 0.0);
    figure.opening = exchange.throughOpening(light);
    if (own.opening)
      addOpeningShares(exchange, light, figure);
    figure.patches = static_cast<int>(exchange.patches().count());
    figure.rays = exchange.factors().rays;
    figure.escaped = exchange.factors().escaped;
    figure.reciprocityError = exchange.factors().reciprocityError;
    figure.correction = exchange.factors().correction;
    account_.enclosures.push_back(std::move(figure));
  }

  /// One-sided flows at the nodes of perfect contacts. Key: unknown and part.
  struct Side {
    double rest = 0; // what the part receives at the node and must hand on, W
    double raw = 0;  // the same from element fluxes, W
    double area = 0; // of its perfect faces at the node, m²
  };
  using Sides = std::unordered_map<std::uint64_t, Side>;

  static std::uint64_t key(Index unknown, int part)
  {
    return static_cast<std::uint64_t>(unknown) << 32U | static_cast<std::uint64_t>(part);
  }

  /// Outward flux of the element behind a side of a triangle, W/m².
  [[nodiscard]] double outwardFlux(std::size_t triangle, std::size_t side) const
  {
    const auto t = at(mesh_.triangleTets[triangle][side]);
    const Triangle& corner = mesh_.triangles[triangle];
    const Vec3& a = mesh_.nodes[at(corner[0])];
    const Vec3 normal = (mesh_.nodes[at(corner[1])] - a).cross(mesh_.nodes[at(corner[2])] - a).normalized();
    Eigen::Vector4d values;
    for (std::size_t i = 0; i < 4; ++i)
      values[static_cast<Eigen::Index>(i)] = temperature_[at(conditions_.unknowns.ofTet[t][i])];
    const Vec3 gradient = gradientsOf(mesh_, mesh_.tets[t]).transpose() * values;
    const double along = -(conditions_.conductivity[at(mesh_.tetPart[t])].at(values.mean()) * gradient).dot(normal);
    return side == 0 ? along : -along;
  }

  void addPerfectContacts()
  {
    Sides sides;
    for (std::size_t f = 0; f < perfect_.size(); ++f)
      if (perfect_[f])
        for (const std::size_t t : trianglesOfFace_[f])
          for (std::size_t s = 0; s < 2; ++s)
            for (const Index u : conditions_.unknowns.ofTriangle[t][s]) {
              Side& side = sides[key(u, mesh_.geometry.faces[f].parts[s])];
              side.raw += outwardFlux(t, s) * triangleArea(mesh_, t) / 3;
              side.area += triangleArea(mesh_, t) / 3;
            }
    if (sides.empty())
      return;
    const std::vector<bool> held = heldParts();
    collectRests(sides, held);
    std::vector<char> fixed(at(conditions_.unknowns.count), 0); // by something else than a whole part
    for (const Conditions::Fixed& own : conditions_.fixed)
      if (own.boundary < 0 || !std::holds_alternative<FixedPart>(project_.boundaries[at(own.boundary)].condition))
        for (const Index u : own.unknowns)
          fixed[at(u)] = 1;
    for (std::size_t f = 0; f < perfect_.size(); ++f)
      if (perfect_[f])
        for (std::size_t s = 0; s < 2; ++s) {
          const std::array<int, 2>& parts = mesh_.geometry.faces[f].parts;
          const bool own = held[at(parts[s])];
          const bool other = held[at(parts[1 - s])];
          if (own && !other)
            continue;
          const double weight = (s == 0 ? 1 : -1) * (other && !own ? 1.0 : 0.5);
          for (const std::size_t t : trianglesOfFace_[f])
            for (const Index u : conditions_.unknowns.ofTriangle[t][s]) {
              const Side& side = sides.at(key(u, parts[s]));
              const double share = triangleArea(mesh_, t) / 3;
              const double correction =
                  fixed[at(u)] != 0 || (own && other) ? 0 : (side.rest - side.raw) * share / side.area;
              account_.contactHeat[f] += weight * (outwardFlux(t, s) * share + correction);
            }
        }
  }

  void addRest(Sides& sides, Index unknown, int part, double watts) const
  {
    if (const auto found = sides.find(key(unknown, part)); found != sides.end())
      found->second.rest += watts;
  }

  /// Everything a part receives at its contact nodes except through perfect contacts.
  void collectRests(Sides& sides, const std::vector<bool>& held) const
  {
    std::vector<char> interesting(at(conditions_.unknowns.count), 0);
    for (const auto& [pair, side] : sides)
      interesting[pair >> 32U] = 1;
    for (std::size_t e = 0; e < tetElements(mesh_); ++e) {
      const VolumeNodes own = volumeNodes(mesh_, conditions_.unknowns, e);
      if (std::none_of(own.begin(), own.end(), [&](Index u) { return interesting[at(u)] != 0; }))
        continue;
      const int part = elementPart(mesh_, e);
      VolumeVector received = -conducted(mesh_, conditions_, e, temperature_);
      for (const Conditions::PartHeat& heat : conditions_.partHeat)
        if (heat.part == part)
          received += heatInto(heat, mesh_, e);
      for (std::size_t i = 0; i < own.count; ++i)
        addRest(sides, own.own[i], part, received[static_cast<Eigen::Index>(i)]);
    }
    collectStored(sides, held);
    collectFaceRests(sides);
  }

  /// What an unknown shared by several parts stores is shared by their capacities there; held parts store nothing new.
  void collectStored(Sides& sides, const std::vector<bool>& held) const
  {
    if (storing_.empty())
      return;
    std::vector<double> capacity; // by part, J/(m³·K)
    for (const GeometryPart& part : mesh_.geometry.parts) {
      const Part* own = findById(project_.parts, part.id);
      const Material* material = own != nullptr ? findById(project_.materials, own->material) : nullptr;
      const bool known = material != nullptr && material->density && material->specificHeat;
      const bool stays = held[capacity.size()];
      capacity.push_back(stays ? 0 : known ? material->density->si * material->specificHeat->si : 1);
    }
    std::vector<double> all(storing_.size(), 0.0);
    std::unordered_map<std::uint64_t, double> own;
    for (std::size_t t = 0; t < mesh_.tets.size(); ++t)
      for (const Index u : conditions_.unknowns.ofTet[t]) {
        const double share = capacity[at(mesh_.tetPart[t])] * tetVolume(mesh_, t);
        all[at(u)] += share;
        if (sides.contains(key(u, mesh_.tetPart[t])))
          own[key(u, mesh_.tetPart[t])] += share;
      }
    for (const auto& [pair, share] : own) {
      const auto unknown = static_cast<Index>(pair >> 32U);
      if (all[at(unknown)] > 0)
        sides[pair].rest -= storing_[at(unknown)] * share / all[at(unknown)];
    }
  }

  void collectFaceRests(Sides& sides) const
  {
    const auto eachElement = [&](int face, std::size_t side, auto&& flowsOf) {
      for (const std::int32_t e : elementsOfFace_[at(face)]) {
        const NodeVector flows = flowsOf(at(e));
        const SurfaceNodes own = nodes(at(e), side);
        const std::array<int, 2>& parts = mesh_.geometry.faces[at(face)].parts;
        for (std::size_t i = 0; i < own.count; ++i)
          addRest(sides, own.own[i], parts[mesh_.geometry.faces[at(face)].exposed() ? 0 : side],
                  flows[static_cast<Eigen::Index>(i)]);
      }
    };
    for (const Conditions::FaceHeat& heat : conditions_.faceHeat)
      eachElement(heat.face, 0, [&](std::size_t e) { return flowOf(heat, mesh_, e).watts; });
    const auto onFace = [&](const auto& condition) {
      eachElement(condition.face, 0, [&](std::size_t e) { return flowOf(condition, mesh_, e, values(e, 0)).watts; });
    };
    std::for_each(conditions_.convection.begin(), conditions_.convection.end(), onFace);
    std::for_each(conditions_.radiation.begin(), conditions_.radiation.end(), onFace);
    std::for_each(conditions_.sheets.begin(), conditions_.sheets.end(), onFace);
    for (const Conditions::FaceContact& c : conditions_.contacts)
      for (std::size_t side = 0; side < 2; ++side)
        eachElement(c.face, side, [&](std::size_t e) -> NodeVector {
          return flowOf(c, mesh_, e, values(e, side), values(e, 1 - side)).watts;
        });
    collectGapRests(sides);
    for (const auto& term : conditions_.terms) {
      const std::vector<double> flows = term->flows(temperature_);
      for (std::size_t i = 0; i < flows.size(); ++i)
        if (const Receiver& r = term->receivers()[i]; r.part != noPart)
          for (const UnknownShare& own : term->receivers().sharesOf(r))
            addRest(sides, own.unknown, r.part, own.share * flows[i]);
    }
    for (const Conditions::Enclosed& enclosed : conditions_.enclosures) {
      const EnclosureExchange& exchange = *enclosed.exchange;
      const PatchLight light = exchange.light(conditions_.unknowns, temperature_);
      for (std::size_t p = 0; p < exchange.patches().count(); ++p)
        for (const std::size_t t : exchange.patches().triangles[p]) {
          const NodeVector flow = exchange.triangleFlow(conditions_.unknowns, temperature_, light, t);
          const SurfaceNodes own = nodes(t / trianglePieces(mesh_.order), 0);
          for (std::size_t i = 0; i < own.count; ++i)
            addRest(sides, own.own[i], mesh_.geometry.faces[at(mesh_.triangleFace[t])].parts[0],
                    flow[static_cast<Eigen::Index>(i)]);
        }
    }
  }

  /// What comes across empty gaps arrives at the exposed triangles of both parts.
  void collectGapRests(Sides& sides) const
  {
    for (const GapCrossing& crossing : conditions_.crossings) {
      std::vector<double> arrived(temperature_.size(), 0.0);
      crossing.addFlow(conditions_.unknowns, temperature_, arrived);
      for (const auto& [ofA, part] : {std::pair(true, crossing.partA), std::pair(false, crossing.partB)}) {
        std::set<Index> touched;
        for (const GapPoint& point : crossing.points)
          for (const Index u : nodes(ofA ? point.elementA : point.elementB, 0))
            touched.insert(u);
        for (const Index u : touched)
          addRest(sides, u, part, arrived[at(u)]);
      }
    }
  }

  const Project& project_;
  const Mesh& mesh_;
  const Conditions& conditions_;
  const ThermalSystem& system_;
  std::span<const double> temperature_;
  std::span<const double> storing_;
  std::vector<std::vector<std::size_t>> trianglesOfFace_;
  std::vector<std::vector<std::int32_t>> elementsOfFace_;
  std::vector<bool> perfect_;
  HeatAccount account_;
};

} // namespace

double HeatAccount::relativeImbalance() const
{
  const double size = std::max({in, out, floor});
  return size > 0 ? std::abs(imbalance) / size : 0;
}

HeatAccount accountHeat(const Project& project, const Mesh& mesh, const Conditions& conditions,
                        std::span<const double> temperature, std::span<const double> storing)
{
  return accountHeat(project, mesh, conditions, ThermalSystem(mesh, conditions), temperature, storing);
}

HeatAccount accountHeat(const Project& project, const Mesh& mesh, const Conditions& conditions,
                        const ThermalSystem& system, std::span<const double> temperature,
                        std::span<const double> storing)
{
  HeatAccount account = Accountant(project, mesh, conditions, system, temperature, storing).run();
  account.floor = system.noiseFloor(temperature);
  return account;
}

HeatAccount accountBorders(const Project& project, const Mesh& mesh, const Conditions& conditions,
                           const ThermalSystem& system, std::span<const double> temperature,
                           std::span<const double> storing)
{
  return Accountant(project, mesh, conditions, system, temperature, storing).borders();
}

std::vector<Vec3> heatFlux(const Mesh& mesh, const Conditions& conditions, std::span<const double> temperature)
{
  std::vector<Vec3> flux;
  flux.reserve(mesh.tets.size());
  for (std::size_t t = 0; t < mesh.tets.size(); ++t) {
    Eigen::Vector4d values;
    for (std::size_t i = 0; i < 4; ++i)
      values[static_cast<Eigen::Index>(i)] = temperature[at(conditions.unknowns.ofTet[t][i])];
    const Vec3 gradient = gradientsOf(mesh, mesh.tets[t]).transpose() * values;
    flux.emplace_back(-(conditions.conductivity[at(mesh.tetPart[t])].at(values.mean()) * gradient));
  }
  return flux;
}

} // namespace kiln
