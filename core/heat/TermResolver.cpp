// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "heat/TermResolver.h"

#include "geometry/SurfaceFaces.h"
#include "heat/DirectedHeat.h"
#include "heat/Location.h"
#include "heat/WireTerm.h"
#include "model/Edit.h"

#include <algorithm>
#include <cmath>
#include <limits>
#include <map>
#include <numbers>

namespace kiln
{
namespace
{

std::size_t at(std::int64_t i) { return static_cast<std::size_t>(i); }

std::string boundaryName(const Project& project, int index) { return "boundary " + project.boundaries[at(index)].name; }

} // namespace

TermResolver::TermResolver(const Project& project, const Mesh& mesh, const std::vector<double>& areaScale,
                           Conditions& conditions)
    : project_(project), mesh_(mesh), areaScale_(areaScale), volumes_(meshedVolumes(mesh)), conditions_(conditions)
{
}

void TermResolver::fail(const std::string& object, const std::string& problem, const std::string& remedy)
{
  if (!failed_)
    failed_ = Failure{Failure::Kind::NotReady, object, problem, remedy};
}

void TermResolver::numberNodes()
{
  for (const Node& node : project_.nodes)
    conditions_.nodeUnknowns.push_back(node.muted ? -1 : newUnknown());
}

Index TermResolver::newUnknown() { return conditions_.unknowns.count++; }

Index TermResolver::nodeUnknown(const std::string& id) const
{
  for (std::size_t i = 0; i < project_.nodes.size(); ++i)
    if (project_.nodes[i].id == id)
      return conditions_.nodeUnknowns[i];
  return -1;
}

std::vector<Receiver> TermResolver::inParts(const std::vector<std::string>& parts) const
{
  std::map<std::pair<Index, int>, double> weights;
  for (const std::string& id : expandGroups(project_, parts)) {
    const int part = mesh_.geometry.partIndex(id);
    if (part == noPart)
      continue;
    const double scale = mesh_.geometry.parts[at(part)].volume / volumes_[at(part)];
    for (std::size_t t = 0; t < mesh_.tets.size(); ++t)
      if (mesh_.tetPart[t] == part)
        for (const Index unknown : conditions_.unknowns.ofTet[t])
          weights[{unknown, part}] += scale * tetVolume(mesh_, t) / 4;
  }
  std::vector<Receiver> receivers;
  receivers.reserve(weights.size());
  for (const auto& [key, weight] : weights)
    receivers.push_back({key.first, weight, key.second, -1, Vec3::Zero()});
  return receivers;
}

std::vector<Receiver> TermResolver::onSurface(const std::string& surface) const
{
  const std::vector<int> faces = facesOf(project_, mesh_.geometry, surface).faces;
  std::map<std::pair<Index, int>, double> weights;
  for (std::size_t t = 0; t < mesh_.triangles.size(); ++t) {
    const int face = mesh_.triangleFace[t];
    if (std::binary_search(faces.begin(), faces.end(), face))
      for (const Index unknown : conditions_.unknowns.ofTriangle[t][0])
        weights[{unknown, face}] += areaScale_[at(face)] * triangleArea(mesh_, t) / 3;
  }
  std::vector<Receiver> receivers;
  receivers.reserve(weights.size());
  for (const auto& [key, weight] : weights)
    receivers.push_back({key.first, weight, mesh_.geometry.faces[at(key.second)].parts[0], key.second,
                         mesh_.placeOf(conditions_.unknowns.node[at(key.first)])});
  return receivers;
}

std::vector<Receiver> TermResolver::atPoint(const Vec3& place) const
{
  std::vector<Receiver> receivers;
  const Location location = locate(mesh_, place);
  for (std::size_t i = 0; i < 4; ++i)
    receivers.push_back({conditions_.unknowns.ofTet[location.tet][i], location.weights[static_cast<Eigen::Index>(i)],
                         mesh_.tetPart[location.tet], -1, place});
  return receivers;
}

std::vector<Receiver> TermResolver::receiversOf(const std::string& end) const
{
  if (const Index node = nodeUnknown(end); node >= 0)
    return {{node, 1, noPart, -1, Vec3::Zero()}};
  if (const Watch* watch = findById(project_.watches, end))
    if (const auto* point = std::get_if<PointFigure>(&watch->figure))
      return atPoint({point->place.x.si, point->place.y.si, point->place.z.si});
  std::vector<Receiver> receivers = findById(project_.surfaces, end) != nullptr ? onSurface(end) : inParts({end});
  double sum = 0;
  for (const Receiver& r : receivers)
    sum += r.weight;
  for (Receiver& r : receivers)
    r.weight /= sum; // the link's conductance is shared
  return receivers;
}

void TermResolver::addNodesAndLinks()
{
  for (std::size_t i = 0; i < project_.nodes.size(); ++i) {
    const Node& node = project_.nodes[i];
    const Index unknown = conditions_.nodeUnknowns[i];
    if (unknown < 0)
      continue;
    const TermOwner owner{TermOwner::Kind::Node, static_cast<int>(i)};
    if (node.power)
      add(std::make_shared<FollowingHeat>(owner, std::vector<Receiver>{{unknown, 1, noPart, -1, Vec3::Zero()}},
                                          *node.power, std::nullopt));
    if (node.temperature)
      conditions_.fixed.push_back({-1, node.temperature->si, {unknown}, {}, static_cast<int>(i)});
  }
  for (std::size_t i = 0; i < project_.links.size(); ++i) {
    const Link& link = project_.links[i];
    const int index = static_cast<int>(i);
    if (const auto* conductor = std::get_if<Conductor>(&link.exchange)) {
      ExchangeLaw law;
      law.conductance = conductor->conductance.si;
      addLink(index, link.muted, conductor->endA, conductor->endB, law);
    } else if (const auto* radiation = std::get_if<RadiationLink>(&link.exchange)) {
      ExchangeLaw law;
      law.radiation = radiation->exchangeArea.si;
      addLink(index, link.muted, radiation->endA, radiation->endB, law);
    } else if (const auto* flow = std::get_if<FlowLink>(&link.exchange)) {
      const Index up = nodeUnknown(flow->upstream);
      const Index down = nodeUnknown(flow->downstream);
      if (up >= 0 && down >= 0 && !link.muted)
        add(std::make_shared<StreamTerm>(TermOwner{TermOwner::Kind::Link, index}, up, down,
                                         flow->massFlow.si * flow->specificHeat.si));
    } else if (const auto* wire = std::get_if<Wire>(&link.exchange)) {
      addWire(index, link, *wire);
    }
  }
}

void TermResolver::addWire(int index, const Link& link, const Wire& wire)
{
  const std::vector<Receiver> a = receiversOf(wire.endA);
  const std::vector<Receiver> b = receiversOf(wire.endB);
  if (a.empty() || b.empty())
    return; // an end is muted
  const Material* material = findById(project_.materials, wire.material);
  if (material == nullptr)
    return fail("link " + link.name, "The wire has no material.", "Choose the material it is made of.");
  const Index first = conditions_.unknowns.count;
  conditions_.unknowns.count += WireTerm::cells;
  if (link.muted)
    return; // it may work at another instant
  const double diameter = wire.diameter.si;
  WireLaw law;
  law.length = wire.length.si;
  law.section = std::numbers::pi * diameter * diameter / 4;
  law.conductivity = material->conductivity;
  law.power = wire.power ? wire.power->si : 0;
  law.sideConductance = wire.coefficient ? wire.coefficient->si * std::numbers::pi * diameter * law.length : 0;
  law.ambient = wire.ambient ? wire.ambient->si : law.ambient;
  conditions_.wires.push_back({index, first, law.section * law.length / WireTerm::cells});
  add(std::make_shared<WireTerm>(TermOwner{TermOwner::Kind::Link, index}, a, b, first, std::move(law)));
}

/// A node at one end carries the link itself; between two bodies stands one more unknown, halfway.
void TermResolver::addLink(int link, bool muted, const std::string& endA, const std::string& endB, ExchangeLaw law)
{
  const TermOwner owner{TermOwner::Kind::Link, link};
  std::vector<Receiver> a = receiversOf(endA);
  std::vector<Receiver> b = receiversOf(endB);
  if (a.empty() || b.empty())
    return; // an end is muted
  if (muted) {
    if (a.size() > 1 && b.size() > 1)
      newUnknown(); // it may work at another instant
    return;
  }
  if (a.size() == 1) {
    add(std::make_shared<NodeExchange>(owner, std::move(b), a.front().unknown, law));
    return;
  }
  if (b.size() == 1) {
    add(std::make_shared<NodeExchange>(owner, std::move(a), b.front().unknown, law, NodeExchange::Shown::OutOfPlaces));
    return;
  }
  law.conductance *= 2;
  law.radiation *= 2;
  const Index between = newUnknown();
  add(std::make_shared<NodeExchange>(owner, std::move(b), between, law));
  add(std::make_shared<NodeExchange>(owner, std::move(a), between, law, NodeExchange::Shown::Nothing));
}

void TermResolver::addToNode(int boundary, const std::string& surface, const std::string& node, const ExchangeLaw& law)
{
  const Index unknown = nodeUnknown(node);
  if (unknown < 0)
    return; // muted: the surface is insulated
  add(std::make_shared<NodeExchange>(TermOwner{TermOwner::Kind::Boundary, boundary}, onSurface(surface), unknown, law));
}

void TermResolver::addRadiationToNode(int boundary, const Radiation& radiation)
{
  const Index unknown = nodeUnknown(radiation.node);
  if (unknown < 0)
    return;
  std::vector<Receiver> places = onSurface(radiation.surface);
  std::map<int, double> ofFace;
  for (Receiver& place : places) {
    if (!ofFace.contains(place.face)) {
      const auto emissivity = emissivityOf(project_, mesh_.geometry, place.face);
      if (!emissivity)
        return fail(boundaryName(project_, boundary),
                    "Part " + mesh_.geometry.parts[at(place.part)].name + " has no emissivity.",
                    "Give the surface a finish, or its material a typical emissivity.");
      ofFace[place.face] = emissivity->si;
    }
    place.weight *= ofFace[place.face];
  }
  ExchangeLaw law;
  law.radiation = radiation.viewFactor.si;
  add(std::make_shared<NodeExchange>(TermOwner{TermOwner::Kind::Boundary, boundary}, std::move(places), unknown, law));
}

void TermResolver::addPassage(int boundary, const FlowPassage& passage)
{
  const Vec3 direction(passage.direction.x.si, passage.direction.y.si, passage.direction.z.si);
  if (direction.norm() <= 0)
    return fail(boundaryName(project_, boundary), "Its flow has no direction.",
                "Give the direction, for example 1, 0, 0.");
  const std::vector<int> faces = facesOf(project_, mesh_.geometry, passage.surface).faces;
  const auto count = static_cast<int>(passage.stretches.si);
  double low = std::numeric_limits<double>::infinity();
  double high = -low;
  const Vec3 along = direction.normalized();
  const auto eachTriangle = [&](auto&& visit) {
    for (std::size_t t = 0; t < mesh_.triangles.size(); ++t)
      if (std::binary_search(faces.begin(), faces.end(), mesh_.triangleFace[t]))
        visit(t);
  };
  eachTriangle([&](std::size_t t) {
    for (const int node : mesh_.triangles[t]) {
      low = std::min(low, along.dot(mesh_.nodes[at(node)]));
      high = std::max(high, along.dot(mesh_.nodes[at(node)]));
    }
  });
  // A triangle that lies in several stretches is shared out: an even sample of its area tells how.
  std::vector<std::map<std::pair<Index, int>, double>> weights(at(count));
  eachTriangle([&](std::size_t t) {
    const int face = mesh_.triangleFace[t];
    constexpr int cuts = 4; // 16 equal small triangles
    const double share = areaScale_[at(face)] * triangleArea(mesh_, t) / (cuts * cuts);
    for (const Vec3& l : evenPlaces(cuts)) {
      Vec3 place = Vec3::Zero();
      for (int i = 0; i < 3; ++i)
        place += l[i] * mesh_.nodes[at(mesh_.triangles[t][at(i)])];
      const double way = (along.dot(place) - low) / std::max(high - low, 1e-300);
      auto& own = weights[at(std::clamp(static_cast<int>(way * count), 0, count - 1))];
      for (int i = 0; i < 3; ++i)
        own[{conditions_.unknowns.ofTriangle[t][0][at(i)], face}] += l[i] * share;
    }
  });
  const TermOwner owner{TermOwner::Kind::Boundary, boundary};
  const double rate = passage.massFlow.si * passage.specificHeat.si;
  ExchangeLaw law;
  law.conductance = passage.coefficient.table.empty() ? passage.coefficient.si : 1;
  if (!passage.coefficient.table.empty())
    law.curve = std::make_shared<const Property>(passage.coefficient);
  Index before = -1;
  for (const auto& stretch : weights) {
    const Index here = newUnknown();
    std::vector<Receiver> places;
    for (const auto& [key, weight] : stretch)
      places.push_back({key.first, weight, mesh_.geometry.faces[at(key.second)].parts[0], key.second, Vec3::Zero()});
    add(std::make_shared<StreamTerm>(owner, before, here, rate, passage.inlet.si));
    if (!places.empty())
      add(std::make_shared<NodeExchange>(owner, std::move(places), here, law));
    before = here;
  }
  conditions_.outlets.push_back({boundary, before});
}

void TermResolver::reserveFor(const Boundary& boundary)
{
  if (const auto* passage = std::get_if<FlowPassage>(&boundary.condition))
    conditions_.unknowns.count += static_cast<Index>(passage->stretches.si);
}

void TermResolver::addBeam(int source, const Beam& beam)
{
  const Vec3 from(beam.from.x.si, beam.from.y.si, beam.from.z.si);
  if (from.norm() <= 0)
    return fail("source " + project_.sources[at(source)].name, "Its beam has no direction.",
                "Give the direction it comes from, for example 0, 0, 1 for straight from above.");
  std::vector<int> faces;
  std::map<int, double> absorptance;
  for (const std::string& surface : beam.surfaces)
    for (const int face : facesOf(project_, mesh_.geometry, surface).faces) {
      if (!mesh_.geometry.faces[at(face)].exposed() || absorptance.contains(face))
        continue;
      const auto own = absorptanceOf(project_, mesh_.geometry, face);
      if (!own)
        return fail("source " + project_.sources[at(source)].name,
                    "Part " + mesh_.geometry.parts[at(mesh_.geometry.faces[at(face)].parts[0])].name +
                        " has no absorptance where the beam meets it.",
                    "Give the surface a finish with a solar absorptance, or at least an emissivity.");
      absorptance[face] = *own;
      faces.push_back(face);
    }
  std::map<std::pair<Index, int>, double> watts;
  if (!conditions_.beams)
    conditions_.beams = std::make_shared<BeamCaster>(mesh_);
  for (const LitTriangle& lit : conditions_.beams->lit(mesh_, faces, from)) {
    const int face = mesh_.triangleFace[lit.triangle];
    for (int i = 0; i < 3; ++i)
      watts[{conditions_.unknowns.ofTriangle[lit.triangle][0][at(i)], face}] +=
          beam.flux.si * absorptance[face] * areaScale_[at(face)] * lit.across[i];
  }
  std::vector<Receiver> receivers;
  for (const auto& [key, value] : watts)
    receivers.push_back({key.first, value, mesh_.geometry.faces[at(key.second)].parts[0], key.second, Vec3::Zero()});
  add(std::make_shared<FollowingHeat>(TermOwner{TermOwner::Kind::Source, source}, std::move(receivers),
                                      Property{1.0, ""}, std::nullopt));
}

void TermResolver::addFollowing(int source, std::vector<Receiver> receivers, const Property& heat, bool total)
{
  const HeatSource& own = project_.sources[at(source)];
  double sum = 0;
  for (const Receiver& r : receivers)
    sum += r.weight;
  std::optional<WatchProbe> probe;
  if (own.follows == "mean") {
    std::vector<std::pair<Index, double>> shares;
    for (const Receiver& r : receivers)
      shares.emplace_back(r.unknown, r.weight / sum);
    probe.emplace(WatchProbe::Kind::Weighted, std::move(shares));
  } else if (!own.follows.empty()) {
    if (const Watch* watch = findById(project_.watches, own.follows))
      probe = probeOf(project_, mesh_, conditions_.unknowns, conditions_.nodeUnknowns, *watch);
    if (!probe)
      return fail("source " + own.name, "It follows a watch that reads no temperature of this model.",
                  "Choose a watch of a temperature.");
  }
  if (total)
    for (Receiver& r : receivers)
      r.weight /= sum;
  add(std::make_shared<FollowingHeat>(TermOwner{TermOwner::Kind::Source, source}, std::move(receivers), heat,
                                      std::move(probe)));
}

} // namespace kiln
