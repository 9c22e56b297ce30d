// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "heat/TermResolver.h"

#include "base/At.h"
#include "geometry/SurfaceFaces.h"
#include "heat/boundaries/DirectedHeat.h"
#include "heat/boundaries/Finishes.h"
#include "heat/boundaries/HeldTemperature.h"
#include "heat/elements/Location.h"
#include "heat/elements/SurfaceElement.h"
#include "heat/network/WireTerm.h"
#include "model/Edit.h"

#include <algorithm>
#include <cmath>
#include <limits>
#include <map>
#include <numbers>
#include <tuple>

namespace kiln
{
namespace
{

std::string boundaryName(const Project& project, int index) { return "boundary " + project.boundaries[at(index)].name; }

} // namespace

TermResolver::TermResolver(const Project& project, const Mesh& mesh, const std::vector<double>& areaScale,
                           Conditions& conditions)
    : project_(project), mesh_(mesh), areaScale_(areaScale), conditions_(conditions)
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
    conditions_.nodeUnknowns.push_back(node.muted ? noUnknown : newUnknown());
}

UnknownId TermResolver::newUnknown() { return UnknownId(conditions_.unknowns.count++); }

UnknownId TermResolver::nodeUnknown(const std::string& id) const
{
  for (std::size_t i = 0; i < project_.nodes.size(); ++i)
    if (project_.nodes[i].id == id)
      return conditions_.nodeUnknowns[i];
  return noUnknown;
}

namespace
{

/// Collects places; those of one unknown on one face or part are one.
class PlaceCollector
{
public:
  void add(Receiver receiver, std::span<const UnknownShare> shares)
  {
    const auto whole = std::find_if(shares.begin(), shares.end(), [](const UnknownShare& s) { return s.share == 1; });
    if (whole == shares.end()) {
      made_.add(receiver, shares);
      return;
    }
    const auto [found, fresh] = single_.try_emplace({whole->unknown, receiver.face, receiver.part}, receiver);
    if (!fresh)
      found->second.weight += receiver.weight;
  }
  [[nodiscard]] Receivers made()
  {
    for (const auto& [key, receiver] : single_) {
      const UnknownShare own{std::get<0>(key), 1};
      made_.add(receiver, std::span(&own, 1));
    }
    single_.clear();
    return std::move(made_);
  }

private:
  Receivers made_;
  std::map<std::tuple<UnknownId, FaceId, PartId>, Receiver> single_;
};

template <class Nodes, class Shape>
std::vector<UnknownShare> sharesBy(const Nodes& nodes, const Shape& shape)
{
  std::vector<UnknownShare> shares;
  for (std::size_t i = 0; i < nodes.count; ++i)
    shares.push_back({nodes.own[i], shape[static_cast<Eigen::Index>(i)]});
  return shares;
}

} // namespace

Receivers TermResolver::inParts(const std::vector<std::string>& parts) const
{
  PlaceCollector places;
  for (const std::string& id : expandGroups(project_, parts)) {
    const PartId part = mesh_.geometry.partIndex(id);
    if (part == noPart)
      continue;
    const double scale = mesh_.geometry.parts[at(part)].volume / conditions_.volume[at(part)];
    for (std::size_t e = 0; e < tetElements(mesh_); ++e)
      if (elementPart(mesh_, e) == part)
        for (const VolumePoint& point : volumePoints(mesh_, e))
          places.add({scale * point.volume, part, {}, Vec3::Zero()},
                     sharesBy(volumeNodes(mesh_, conditions_.unknowns, e), point.shape));
  }
  return places.made();
}

Receivers TermResolver::onFaces(const std::vector<FaceId>& faces) const
{
  PlaceCollector places;
  for (std::size_t e = 0; e < triangleElements(mesh_); ++e) {
    const FaceId face = elementFace(mesh_, e);
    if (!std::binary_search(faces.begin(), faces.end(), face))
      continue;
    const PartId part = mesh_.geometry.faces[at(face)].parts[0];
    for (const SurfacePoint& point : pointsOf(mesh_, e))
      places.add({areaScale_[at(face)] * point.area, part, face, placeAt(mesh_, e, point.l)},
                 sharesBy(nodesOf(mesh_, conditions_.unknowns, e, 0), point.shape));
  }
  return places.made();
}

Receivers TermResolver::onSurface(const std::string& surface) const
{
  return onFaces(facesOf(project_, mesh_.geometry, surface).faces);
}

Receivers TermResolver::atPoint(const Vec3& place) const
{
  Receivers receivers;
  const Location location = locate(mesh_, place);
  receivers.add({1, mesh_.tetPart[location.tet], {}, place}, sharesAt(mesh_, conditions_.unknowns, location));
  return receivers;
}

Receivers TermResolver::receiversOf(const std::string& end) const
{
  if (const UnknownId node = nodeUnknown(end); node >= 0) {
    Receivers one;
    one.addUnknown(node);
    return one;
  }
  if (const Watch* watch = findById(project_.watches, end))
    if (const auto* point = std::get_if<PointFigure>(&watch->figure))
      return atPoint({point->place.x.si, point->place.y.si, point->place.z.si});
  Receivers receivers = findById(project_.surfaces, end) != nullptr ? onSurface(end) : inParts({end});
  if (!receivers.empty())
    receivers.scale(1 / receivers.totalWeight()); // the link's conductance is shared
  return receivers;
}

void TermResolver::addNodesAndLinks()
{
  for (std::size_t i = 0; i < project_.nodes.size(); ++i) {
    const Node& node = project_.nodes[i];
    const UnknownId unknown = conditions_.nodeUnknowns[i];
    if (unknown < 0)
      continue;
    const FlowOwner owner{FlowOwner::Kind::Node, static_cast<int>(i)};
    if (node.power)
      add(std::make_shared<FollowingHeat>(owner, receiversOf(node.id), *node.power, std::nullopt));
    if (node.temperature)
      add(std::make_shared<HeldTemperature>(owner, std::vector{HeldTemperature::One{unknown, node.temperature->si}},
                                            HeldTemperature::What{}));
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
      const UnknownId up = nodeUnknown(flow->upstream);
      const UnknownId down = nodeUnknown(flow->downstream);
      if (up >= 0 && down >= 0 && !link.muted)
        add(std::make_shared<StreamTerm>(FlowOwner{FlowOwner::Kind::Link, index}, up, down,
                                         flow->massFlow.si * flow->specificHeat.si));
    } else if (const auto* wire = std::get_if<Wire>(&link.exchange)) {
      addWire(index, link, *wire);
    }
  }
}

void TermResolver::addWire(int index, const Link& link, const Wire& wire)
{
  const Receivers a = receiversOf(wire.endA);
  const Receivers b = receiversOf(wire.endB);
  if (a.empty() || b.empty())
    return; // an end is muted
  const Material* material = findById(project_.materials, wire.material);
  if (material == nullptr)
    return fail("link " + link.name, "The wire has no material.", "Choose the material it is made of.");
  const UnknownId first(conditions_.unknowns.count);
  conditions_.unknowns.count += WireTerm::cells;
  if (link.muted)
    return; // it may work at another instant
  const double diameter = wire.diameter.si;
  WireLaw law;
  law.length = wire.length.si;
  law.section = std::numbers::pi * diameter * diameter / 4;
  law.conductivity = material->conductivity;
  law.material = material->id;
  law.power = wire.power ? wire.power->si : 0;
  law.sideConductance = wire.coefficient ? wire.coefficient->si * std::numbers::pi * diameter * law.length : 0;
  law.ambient = wire.ambient ? wire.ambient->si : law.ambient;
  add(std::make_shared<WireTerm>(FlowOwner{FlowOwner::Kind::Link, index}, a, b, first, std::move(law)));
}

/// A node at one end carries the link itself; between two bodies stands one more unknown, halfway.
void TermResolver::addLink(int link, bool muted, const std::string& endA, const std::string& endB, ExchangeLaw law)
{
  const FlowOwner owner{FlowOwner::Kind::Link, link};
  Receivers a = receiversOf(endA);
  Receivers b = receiversOf(endB);
  if (a.empty() || b.empty())
    return; // an end is muted
  const UnknownId nodeA = nodeUnknown(endA);
  const UnknownId nodeB = nodeUnknown(endB);
  if (muted) {
    if (nodeA < 0 && nodeB < 0)
      newUnknown(); // it may work at another instant
    return;
  }
  if (nodeA >= 0) {
    add(std::make_shared<NodeExchange>(owner, std::move(b), nodeA, law));
    return;
  }
  if (nodeB >= 0) {
    add(std::make_shared<NodeExchange>(owner, std::move(a), nodeB, law, NodeExchange::Shown::OutOfPlaces));
    return;
  }
  law.conductance *= 2;
  law.radiation *= 2;
  const UnknownId between = newUnknown();
  add(std::make_shared<NodeExchange>(owner, std::move(b), between, law));
  add(std::make_shared<NodeExchange>(owner, std::move(a), between, law, NodeExchange::Shown::Nothing));
}

void TermResolver::addToNode(int boundary, const std::string& surface, const std::string& node, const ExchangeLaw& law)
{
  const UnknownId unknown = nodeUnknown(node);
  if (unknown < 0)
    return; // muted: the surface is insulated
  add(std::make_shared<NodeExchange>(FlowOwner{FlowOwner::Kind::Boundary, boundary}, onSurface(surface), unknown, law));
}

void TermResolver::addRadiationToNode(int boundary, const Radiation& radiation)
{
  const UnknownId unknown = nodeUnknown(radiation.node);
  if (unknown < 0)
    return;
  const std::vector<FaceId> faces = facesOf(project_, mesh_.geometry, radiation.surface).faces;
  std::map<FaceId, Property> ofFace;
  for (const FaceId face : faces) {
    const auto emissivity = emissivityOf(project_, mesh_.geometry, face);
    if (!emissivity)
      return fail(boundaryName(project_, boundary),
                  "Part " + mesh_.geometry.parts[at(mesh_.geometry.faces[at(face)].parts[0])].name +
                      " has no emissivity.",
                  "Give the surface a finish, or its material a typical emissivity.");
    ofFace[face] = *emissivity;
  }
  const FlowOwner owner{FlowOwner::Kind::Boundary, boundary};
  const Receivers places = onFaces(faces);
  ExchangeLaw law;
  law.radiation = radiation.viewFactor.si;
  const auto plain = [&](const Receiver& r) { return ofFace[r.face].table.empty() ? ofFace[r.face].si : 0.0; };
  if (Receivers grey = places.chosen(plain); !grey.empty())
    add(std::make_shared<NodeExchange>(owner, std::move(grey), unknown, law));
  for (const auto& [face, emissivity] : ofFace)
    if (!emissivity.table.empty()) {
      law.emissivity = std::make_shared<const Property>(emissivity);
      add(std::make_shared<NodeExchange>(
          owner, places.chosen([&, on = face](const Receiver& r) { return r.face == on ? 1.0 : 0.0; }), unknown, law));
    }
}

/// Places on faces, gathered by stretches of equal length along a direction. A triangle that lies in several of them is
/// shared out: an even division of it tells how.
std::vector<Receivers> TermResolver::stretchesOf(const std::vector<FaceId>& faces, const Vec3& along, int count) const
{
  double low = std::numeric_limits<double>::infinity();
  double high = -low;
  std::vector<std::size_t> triangles;
  for (std::size_t t = 0; t < mesh_.triangles.size(); ++t)
    if (std::binary_search(faces.begin(), faces.end(), mesh_.triangleFace[t]))
      triangles.push_back(t);
  const auto wayOf = [&](std::size_t t, std::size_t i) { return along.dot(mesh_.nodes[at(mesh_.triangles[t][i])]); };
  for (const std::size_t t : triangles)
    for (std::size_t i = 0; i < 3; ++i) {
      low = std::min(low, wayOf(t, i));
      high = std::max(high, wayOf(t, i));
    }
  const auto stretchAt = [&](double way) {
    return std::clamp(static_cast<int>((way - low) / std::max(high - low, 1e-300) * count), 0, count - 1);
  };
  std::vector<PlaceCollector> places(at(count));
  for (const std::size_t t : triangles) {
    const FaceId face = mesh_.triangleFace[t];
    const PartId part = mesh_.geometry.faces[at(face)].parts[0];
    const SurfaceNodes nodes = nodesOf(mesh_, conditions_.unknowns, t / trianglePieces(mesh_.order), 0);
    const auto [first, last] = std::minmax({wayOf(t, 0), wayOf(t, 1), wayOf(t, 2)});
    constexpr double rim = 1e-9; // of the length
    const int stretch = stretchAt(first + rim * (high - low));
    if (stretch == stretchAt(last - rim * (high - low))) {
      for (const SurfacePoint& point : pointsOfPiece(mesh_, t))
        places[at(stretch)].add({areaScale_[at(face)] * point.area, part, face, Vec3::Zero()},
                                sharesBy(nodes, point.shape));
      continue;
    }
    constexpr int cuts = 6; // 36 equal small triangles
    const double share = areaScale_[at(face)] * triangleArea(mesh_, t) / (cuts * cuts);
    for (const Vec3& l : evenPlaces(cuts)) {
      const double way = l[0] * wayOf(t, 0) + l[1] * wayOf(t, 1) + l[2] * wayOf(t, 2);
      places[at(stretchAt(way))].add({share, part, face, Vec3::Zero()},
                                     sharesBy(nodes, shapeAt(mesh_, inElement(mesh_, t, l))));
    }
  }
  std::vector<Receivers> made;
  for (PlaceCollector& own : places)
    made.push_back(own.made());
  return made;
}

void TermResolver::addPassage(int boundary, const FlowPassage& passage)
{
  const Vec3 direction(passage.direction.x.si, passage.direction.y.si, passage.direction.z.si);
  if (direction.norm() <= 0)
    return fail(boundaryName(project_, boundary), "Its flow has no direction.",
                "Give the direction, for example 1, 0, 0.");
  const std::vector<FaceId> faces = facesOf(project_, mesh_.geometry, passage.surface).faces;
  const FlowOwner owner{FlowOwner::Kind::Boundary, boundary};
  const double rate = passage.massFlow.si * passage.specificHeat.si;
  UnknownId before; // none: the inlet
  for (Receivers& places : stretchesOf(faces, direction.normalized(), static_cast<int>(passage.stretches.si))) {
    const UnknownId here = newUnknown();
    add(std::make_shared<StreamTerm>(owner, before, here, rate, passage.inlet.si));
    if (!places.empty())
      add(std::make_shared<PassageStretch>(owner, std::move(places), before, here, rate, passage.inlet.si,
                                           passage.coefficient));
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
    return fail("source " + project_.sources[at(source)].name, "Its rays have no direction.",
                "Give the direction it comes from, for example 0, 0, 1 for straight from above.");
  std::vector<FaceId> faces;
  std::map<FaceId, double> absorptance;
  for (const std::string& surface : beam.surfaces)
    for (const FaceId face : facesOf(project_, mesh_.geometry, surface).faces) {
      if (!mesh_.geometry.faces[at(face)].exposed() || absorptance.contains(face))
        continue;
      const auto own = absorptanceOf(project_, mesh_.geometry, face);
      if (!own)
        return fail("source " + project_.sources[at(source)].name,
                    "Part " + mesh_.geometry.parts[at(mesh_.geometry.faces[at(face)].parts[0])].name +
                        " has no absorptance where the rays meet it.",
                    "Give the surface a finish with a solar absorptance, or at least an emissivity.");
      absorptance[face] = *own;
      faces.push_back(face);
    }
  std::map<std::pair<UnknownId, FaceId>, double> watts;
  if (!conditions_.beams)
    conditions_.beams = std::make_shared<BeamCaster>(mesh_);
  for (const LitTriangle& lit : conditions_.beams->lit(mesh_, faces, from)) {
    const FaceId face = mesh_.triangleFace[lit.triangle];
    const SurfaceNodes nodes = nodesOf(mesh_, conditions_.unknowns, lit.triangle / trianglePieces(mesh_.order), 0);
    for (std::size_t i = 0; i < nodes.count; ++i)
      watts[{nodes.own[i], face}] +=
          beam.flux.si * absorptance[face] * areaScale_[at(face)] * lit.across[static_cast<Eigen::Index>(i)];
  }
  Receivers receivers;
  for (const auto& [key, value] : watts) {
    const UnknownShare own{key.first, 1};
    receivers.add({value, mesh_.geometry.faces[at(key.second)].parts[0], key.second, Vec3::Zero()}, std::span(&own, 1));
  }
  add(std::make_shared<FollowingHeat>(FlowOwner{FlowOwner::Kind::Source, source}, std::move(receivers),
                                      Property{1.0, ""}, std::nullopt));
}

void TermResolver::addFollowing(int source, Receivers receivers, const Property& heat, bool total)
{
  const HeatSource& own = project_.sources[at(source)];
  const double sum = receivers.totalWeight();
  std::optional<WatchProbe> probe;
  if (own.follows == "mean") {
    std::vector<WatchProbe::Share> shares;
    for (const Receiver& r : receivers)
      for (const UnknownShare& own : receivers.sharesOf(r))
        shares.push_back({own.unknown, own.share * r.weight / sum, r.part});
    probe.emplace(WatchProbe::Kind::Weighted, std::move(shares));
  } else if (!own.follows.empty()) {
    if (const Watch* watch = findById(project_.watches, own.follows))
      probe = probeOf({project_, mesh_, conditions_.unknowns, lumpedOf(project_, conditions_)}, *watch);
    if (!probe)
      return fail("source " + own.name, "It follows a watch that reads no temperature of this model.",
                  "Choose a watch of a temperature.");
  }
  if (total)
    receivers.scale(1 / sum);
  add(std::make_shared<FollowingHeat>(FlowOwner{FlowOwner::Kind::Source, source}, std::move(receivers), heat,
                                      std::move(probe)));
}

} // namespace kiln
