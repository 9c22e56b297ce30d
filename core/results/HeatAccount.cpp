// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "results/HeatAccount.h"

#include "base/At.h"
#include "geometry/SurfaceFaces.h"
#include "heat/ThermalSystem.h"
#include "heat/boundaries/GapCrossing.h"
#include "heat/boundaries/HeldTemperature.h"
#include "heat/boundaries/SourceFlow.h"
#include "heat/network/JouleHeat.h"
#include "heat/radiation/EnclosureExchange.h"
#include "results/PerfectContacts.h"

#include <algorithm>
#include <cmath>
#include <map>

namespace kiln
{
namespace
{

class Accountant
{
public:
  Accountant(const Project& project, const Mesh& mesh, const Conditions& conditions, const ThermalSystem& system,
             std::span<const double> temperature, std::span<const double> storing)
      : project_(project), mesh_(mesh), conditions_(conditions), system_(system),
        reaction_(system.reaction(temperature, storing)), state_{temperature, reaction_}, storing_(storing)
  {
    account_.source.assign(project.sources.size(), 0);
    account_.boundary.assign(project.boundaries.size(), 0);
    account_.node.assign(project.nodes.size(), 0);
    account_.link.assign(project.links.size(), 0);
    account_.faceHeat.assign(mesh.geometry.faces.size(), 0);
    account_.contactHeat.assign(mesh.geometry.faces.size(), 0);
  }

  HeatAccount borders()
  {
    for (const auto& flow : conditions_.flows)
      addLines(*flow, flow->figures(system_.ground(), state_));
    closeLedger();
    return std::move(account_);
  }

  HeatAccount run()
  {
    addArrivals();
    closeLedger();
    for (const GapCrossing* crossing : flowsOf<GapCrossing>(conditions_.flows))
      addCrossing(*crossing);
    for (const EnclosureExchange* exchange : flowsOf<EnclosureExchange>(conditions_.flows))
      addEnclosure(*exchange);
    return std::move(account_);
  }

private:
  /// Where what an owner's flows show is summed; nothing for one that the ledger has no line for.
  double* lineOf(const FlowOwner& owner)
  {
    switch (owner.kind) {
    case FlowOwner::Kind::Source:
      return &account_.source[at(owner.index)];
    case FlowOwner::Kind::Boundary:
      return &account_.boundary[at(owner.index)];
    case FlowOwner::Kind::Node:
      return &account_.node[at(owner.index)];
    case FlowOwner::Kind::Link:
      return &account_.link[at(owner.index)];
    case FlowOwner::Kind::Parts:
    case FlowOwner::Kind::Contact:
    case FlowOwner::Kind::Enclosure:
      break;
    }
    return nullptr;
  }

  /// Lines of the ledger that an owner's flows give.
  void addLines(const HeatFlow& flow, const std::vector<FlowFigure>& figures)
  {
    if (flow.owner().kind == FlowOwner::Kind::Contact || flow.owner().kind == FlowOwner::Kind::Parts)
      return; // they move heat within
    for (const FlowFigure& figure : figures) {
      if (double* line = lineOf(figure.owner))
        *line += figure.shown;
      fromOutside_[figure.owner] += figure.fromOutside;
    }
  }

  void closeLedger()
  {
    Passing passing;
    for (const auto& [owner, watts] : fromOutside_)
      passing.take(watts);
    account_.in = passing.in;
    account_.out = passing.out;
    for (const double watts : storing_)
      account_.stored += watts;
    account_.imbalance = account_.in - account_.out - account_.stored;
    for (const JouleHeat* electric : flowsOf<JouleHeat>(conditions_.flows))
      account_.electrodes = electric->electrodes(state_.temperature);
  }

  /// Face by face with the lines of the ledger, and what perfect contacts hand on.
  void addArrivals()
  {
    PerfectContacts perfect(project_, mesh_, conditions_, state_.temperature);
    system_.eachFlow([&](const HeatFlow& flow) {
      const bool contact = flow.owner().kind == FlowOwner::Kind::Contact;
      std::map<FaceId, double> byFace;
      std::map<PartId, double> byPart;
      double arrived = 0;
      flow.arrivals(system_.ground(), state_, perfect.wanted(), [&](const Arrival& arrival) {
        perfect.take(arrival);
        if (arrival.part >= 0)
          byPart[arrival.part] += arrival.total();
        if (arrival.face < 0)
          return;
        const Face& face = mesh_.geometry.faces[at(arrival.face)];
        const double watts = arrival.total();
        arrived += watts;
        if (contact && face.contact())
          account_.contactHeat[at(arrival.face)] -= arrival.part == face.parts[0] ? watts : 0;
        else
          byFace[arrival.face] += watts;
      });
      for (const auto& [face, watts] : byFace)
        account_.faceHeat[at(face)] += watts;
      addLines(flow, flow.figuresFrom(system_.ground(), state_, arrived));
      addCaught(flow, byFace);
      addWithin(flow, byPart);
      addPaths(flow.owner(), byPart);
    });
    for (const auto& [ends, watts] : paths_)
      account_.paths.push_back({ends.first, mesh_.geometry.parts[at(ends.second)].id, watts});
    perfect.takeStored(storing_);
    perfect.addTo(account_.contactHeat);
  }

  /// What arises within parts need not have been among the arrivals.
  void addWithin(const HeatFlow& flow, std::map<PartId, double>& byPart) const
  {
    if (const auto* volume = dynamic_cast<const VolumeHeat*>(&flow)) {
      byPart.clear();
      for (const auto& [part, watts] : volume->intoParts(system_.ground()))
        byPart[part] += watts;
    } else if (const auto* held = dynamic_cast<const HeldTemperature*>(&flow); held != nullptr && byPart.empty()) {
      for (const HeldTemperature::One& one : held->all())
        if (const PartId part = held->what().part >= 0 ? held->what().part : partOf(one.unknown); part >= 0)
          byPart[part] += state_.reaction[at(one.unknown)];
    }
  }

  /// One that the unknown belongs to; none for a lumped one.
  [[nodiscard]] PartId partOf(UnknownId unknown) const
  {
    const auto& all = conditions_.unknowns.ofTet;
    for (std::size_t t = 0; t < all.size(); ++t)
      if (std::find(all[t].begin(), all[t].end(), unknown) != all[t].end())
        return mesh_.tetPart[t];
    return noPart;
  }

  void addPaths(const FlowOwner& owner, const std::map<PartId, double>& byPart)
  {
    const std::string* id = &electricHeat;
    switch (owner.index < 0 ? FlowOwner::Kind::Parts : owner.kind) {
    case FlowOwner::Kind::Source:
      id = &project_.sources[at(owner.index)].id;
      break;
    case FlowOwner::Kind::Boundary:
      id = &project_.boundaries[at(owner.index)].id;
      break;
    case FlowOwner::Kind::Link:
      id = &project_.links[at(owner.index)].id;
      break;
    case FlowOwner::Kind::Enclosure:
      id = &project_.enclosures[at(owner.index)].id;
      break;
    case FlowOwner::Kind::Parts:
      if (owner.kind == FlowOwner::Kind::Parts) // it moves within parts
        return;
      break; // of none in particular: what currents do
    case FlowOwner::Kind::Contact:
    case FlowOwner::Kind::Node:
      return;
    }
    for (const auto& [part, watts] : byPart)
      paths_[{*id, part}] += watts;
  }

  void addCaught(const HeatFlow& flow, const std::map<FaceId, double>& byFace)
  {
    if (flow.owner().kind != FlowOwner::Kind::Source)
      return;
    const HeatSource& source = project_.sources[at(flow.owner().index)];
    const auto* beam = std::get_if<Beam>(&source.heat);
    for (std::size_t s = 0; beam != nullptr && s < beam->surfaces.size(); ++s) {
      CaughtHeat caught{source.id, beam->surfaces[s], 0};
      for (const FaceId face : facesOf(project_, mesh_.geometry, beam->surfaces[s]).faces)
        if (const auto found = byFace.find(face); found != byFace.end())
          caught.watts += found->second;
      account_.caught.push_back(std::move(caught));
    }
  }

  void addCrossing(const GapCrossing& crossing)
  {
    const auto& parts = mesh_.geometry.parts;
    account_.gaps.push_back({parts[at(crossing.partA())].id, parts[at(crossing.partB())].id, crossing.area(),
                             crossing.figures(system_.ground(), state_).front().shown});
  }

  void addOpeningShares(const EnclosureExchange& exchange, const PatchLight& light, EnclosureFigure& figure) const
  {
    const Eigen::VectorXd out = exchange.outOfOpening(light);
    std::map<PartId, double> byPart;
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
    for (const FaceId face : exchange.patches().face)
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

  void addEnclosure(const EnclosureExchange& exchange)
  {
    const PatchLight light = exchange.light(conditions_.unknowns, state_.temperature);
    const Eigen::VectorXd received = exchange.received(light);
    const Enclosure& own = project_.enclosures[at(exchange.owner().index)];
    EnclosureFigure figure;
    figure.id = own.id;
    std::map<FaceId, double> byFace;
    for (std::size_t p = 0; p < exchange.patches().count(); ++p)
      byFace[exchange.patches().face[p]] += received[static_cast<Eigen::Index>(p)];
    for (const std::string& surface : own.surfaces) {
      double watts = 0;
      for (const FaceId face : facesOf(project_, mesh_.geometry, surface).faces)
        if (const auto found = byFace.find(face); found != byFace.end())
          watts += found->second;
      figure.surfaces.push_back({surface, watts});
    }
    addExchanges(exchange, light, figure);
    std::map<PartId, double> byPart;
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

  const Project& project_;
  const Mesh& mesh_;
  const Conditions& conditions_;
  const ThermalSystem& system_;
  std::vector<double> reaction_;
  FlowState state_;
  std::span<const double> storing_;
  std::map<FlowOwner, double> fromOutside_;
  std::map<std::pair<std::string, PartId>, double> paths_; ///< by owner and part
  HeatAccount account_;
};

} // namespace

double HeatAccount::relativeImbalance() const
{
  const double size = std::max({in, out, floor});
  return size > 0 ? std::abs(imbalance) / size : 0;
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

} // namespace kiln
