// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "heat/Conditions.h"

#include "base/At.h"
#include "geometry/SurfaceFaces.h"
#include "heat/Joints.h"
#include "heat/TermResolver.h"
#include "heat/boundaries/Correlations.h"
#include "heat/boundaries/Finishes.h"
#include "heat/boundaries/HeldTemperature.h"
#include "heat/boundaries/SourceFlow.h"
#include "heat/boundaries/SurfaceFlow.h"
#include "heat/network/JouleHeat.h"
#include "heat/radiation/EnclosureResolver.h"
#include "model/Edit.h"

#include <algorithm>
#include <cmath>
#include <limits>
#include <thread>

namespace kiln
{
namespace
{

Vec3 placeOf(const Number3& n) { return {n.x.si, n.y.si, n.z.si}; }

class Resolver
{
public:
  /// \param before  conditions of the same mesh; may be null
  Resolver(const Project& project, const Mesh& mesh, const ViewFactorSource& viewFactors, const Conditions* before)
      : project_(project), mesh_(mesh), viewFactors_(viewFactors), formulas_(project),
        terms_(project, mesh, areaScale_, result_)
  {
    result_.volume = before != nullptr ? before->volume : integratedVolumes(mesh);
    result_.area = before != nullptr ? before->area : integratedAreas(mesh);
    areaScale_ = result_.area;
    for (std::size_t f = 0; f < areaScale_.size(); ++f)
      areaScale_[f] = areaScale_[f] > 0 ? mesh.geometry.faces[f].area / areaScale_[f] : 1;
  }

  Expected<Conditions> resolve(Conditions* before)
  {
    if (before == nullptr) {
      addMaterials();
      addJoints();
    } else {
      keep(*before);
    }
    terms_.numberNodes();
    for (std::size_t i = 0; i < project_.sources.size(); ++i)
      if (!project_.sources[i].muted)
        std::visit([&](const auto& heat) { addSource(static_cast<int>(i), heat); }, project_.sources[i].heat);
    for (std::size_t i = 0; i < project_.boundaries.size(); ++i)
      if (project_.boundaries[i].muted)
        terms_.reserveFor(project_.boundaries[i]);
      else
        std::visit([&](const auto& condition) { addBoundary(static_cast<int>(i), condition); },
                   project_.boundaries[i].condition);
    terms_.addNodesAndLinks();
    addElectric();
    if (!failed_)
      failed_ = terms_.failed();
    for (std::size_t i = 0; before == nullptr && i < project_.enclosures.size() && !failed_; ++i)
      if (!project_.enclosures[i].muted)
        addEnclosure(static_cast<int>(i));
    if (failed_) {
      if (before != nullptr)
        giveBack(*before);
      return tl::unexpected(*failed_);
    }
    giveHeldToTheLast();
    if (temperatures_ > 0)
      result_.startTemperature = temperatureSum_ / temperatures_;
    return std::move(result_);
  }

private:
  void giveBack(Conditions& before)
  {
    before.unknowns = std::move(result_.unknowns);
    before.unknowns.count = countBefore_;
  }

  void keep(Conditions& before)
  {
    result_.conductivity = before.conductivity;
    std::copy_if(before.flows.begin(), before.flows.end(), std::back_inserter(result_.flows),
                 [](const auto& flow) { return flow->lasting(); });
    result_.beams = before.beams;
    countBefore_ = before.unknowns.count;
    result_.unknowns = std::move(before.unknowns);
    result_.unknowns.count = static_cast<Index>(result_.unknowns.node.size()); // lumped ones are counted anew
    result_.startTemperature = before.startTemperature;
  }

  void fail(const std::string& object, const std::string& problem, const std::string& remedy)
  {
    if (!failed_)
      failed_ = Failure{Failure::Kind::NotReady, object, problem, remedy};
  }

  void addMaterials()
  {
    for (const GeometryPart& part : mesh_.geometry.parts) {
      const Part* own = findById(project_.parts, part.id);
      const Material* material = own != nullptr ? findById(project_.materials, own->material) : nullptr;
      if (material == nullptr)
        fail("part " + part.name, "It has no material.", "Choose a material for it.");
      if (material != nullptr)
        result_.conductivity.emplace_back(*material, *own);
      else
        result_.conductivity.emplace_back(0.0);
    }
  }

  template <class Flow, class... Args>
  void add(Args&&... args)
  {
    result_.flows.push_back(std::make_shared<const Flow>(std::forward<Args>(args)...));
  }
  void addJoints()
  {
    Expected<Joints> joints = resolveJoints(project_, mesh_, areaScale_);
    if (!joints)
      return fail(joints.error().object, joints.error().problem, joints.error().remedy);
    result_.unknowns = std::move(joints->unknowns);
    result_.flows = std::move(joints->flows);
  }

  /// A formula of x, y, z as a function; nothing for a plain number.
  PlaceFunction varying(const Number& number, Quantity quantity, const std::string& object)
  {
    if (!variesInPlace(project_, number))
      return {};
    auto function = formulas_.atPlaces(number.text, quantity);
    if (!function) {
      fail(object, function.error().problem, function.error().remedy);
      return {};
    }
    return *function;
  }

  [[nodiscard]] std::vector<PartId> partIndices(const std::vector<std::string>& ids) const
  {
    std::vector<PartId> indices;
    for (const std::string& id : expandGroups(project_, ids))
      if (const PartId part = mesh_.geometry.partIndex(id); part != noPart)
        indices.push_back(part);
    return indices;
  }
  [[nodiscard]] double exactVolume(PartId part) const { return mesh_.geometry.parts[at(part)].volume; }
  [[nodiscard]] std::vector<FaceId> facesOn(const std::string& surface) const
  {
    return facesOf(project_, mesh_.geometry, surface).faces;
  }

  void addSource(int source, const Beam& beam) { terms_.addBeam(source, beam); }
  void addSource(int source, const PartPower& heat)
  {
    if (!heat.power.table.empty())
      return terms_.addFollowing(source, terms_.inParts(heat.parts), heat.power, true);
    const std::vector<PartId> parts = partIndices(heat.parts);
    double volume = 0;
    for (const PartId part : parts)
      volume += exactVolume(part);
    std::vector<VolumeHeat::InPart> in;
    for (const PartId part : parts)
      in.push_back(
          {part, heat.power.si / volume * exactVolume(part) / result_.volume[at(part)], 1, result_.volume[at(part)]});
    add<VolumeHeat>(sourceOwner(source), std::move(in));
  }
  void addSource(int source, const PartDensity& heat)
  {
    if (!heat.density.table.empty())
      return terms_.addFollowing(source, terms_.inParts(heat.parts), heat.density, false);
    const PlaceFunction place = varying(heat.density, Quantity::HeatDensity, sourceName(source));
    std::vector<VolumeHeat::InPart> in;
    for (const PartId part : partIndices(heat.parts)) {
      const double scale = exactVolume(part) / result_.volume[at(part)];
      in.push_back({part, heat.density.si * scale, scale, result_.volume[at(part)], place});
    }
    add<VolumeHeat>(sourceOwner(source), std::move(in));
  }
  void addSource(int source, const SurfacePower& heat)
  {
    if (!heat.power.table.empty())
      return terms_.addFollowing(source, terms_.onSurface(heat.surface), heat.power, true);
    const SurfaceFaces on = facesOf(project_, mesh_.geometry, heat.surface);
    addToFaces<FaceHeat>(sourceOwner(source), on.faces, [&](FaceId face, double scale) {
      return FaceHeat{face, heat.power.si / on.area * scale, 1, {}};
    });
  }
  void addSource(int source, const SurfaceFlux& heat)
  {
    if (!heat.flux.table.empty())
      return terms_.addFollowing(source, terms_.onSurface(heat.surface), heat.flux, false);
    const PlaceFunction place = varying(heat.flux, Quantity::HeatFlux, sourceName(source));
    addToFaces<FaceHeat>(sourceOwner(source), facesOn(heat.surface), [&](FaceId face, double scale) {
      return FaceHeat{face, heat.flux.si * scale, scale, place};
    });
  }
  void addSource(int source, const PointPower& heat)
  {
    if (!heat.power.table.empty())
      return terms_.addFollowing(source, terms_.atPoint(placeOf(heat.place)), heat.power, true);
    add<PointHeat>(sourceOwner(source), placeOf(heat.place), heat.power.si);
  }

  void addElectric()
  {
    const auto carries = [](const Boundary& b) {
      return !b.muted &&
             (std::holds_alternative<FixedVoltage>(b.condition) || std::holds_alternative<CurrentIn>(b.condition));
    };
    if (std::none_of(project_.boundaries.begin(), project_.boundaries.end(), carries))
      return;
    auto made = JouleHeat::make(project_, mesh_, result_.unknowns);
    if (!made)
      return fail(made.error().object, made.error().problem, made.error().remedy);
    if (*made)
      result_.flows.push_back(*made);
  }

  void addEnclosure(int index)
  {
    auto exchange = resolveEnclosure(project_, index, mesh_, areaScale_, viewFactors_);
    if (!exchange)
      return fail(exchange.error().object, exchange.error().problem, exchange.error().remedy);
    if (const auto& opening = project_.enclosures[at(index)].opening)
      noteTemperature(opening->si);
    result_.flows.push_back(std::move(*exchange));
  }

  static FlowOwner sourceOwner(int source) { return {FlowOwner::Kind::Source, source}; }
  static FlowOwner boundaryOwner(int boundary) { return {FlowOwner::Kind::Boundary, boundary}; }
  /// \param made  the flow of a face, from its index and its exact over its meshed area
  template <class OnFace, class Make>
  void addToFaces(FlowOwner owner, const std::vector<FaceId>& faces, Make&& made)
  {
    std::vector<OnFace> on;
    for (const FaceId face : faces)
      on.push_back(made(face, areaScale_[at(face)]));
    add<FaceFlow<OnFace>>(owner, std::move(on));
  }
  [[nodiscard]] std::string sourceName(int source) const { return "source " + project_.sources[at(source)].name; }
  [[nodiscard]] std::string boundaryName(int boundary) const
  {
    return "boundary " + project_.boundaries[at(boundary)].name;
  }

  void noteTemperature(double temperature)
  {
    temperatureSum_ += temperature;
    ++temperatures_;
  }

  void addBoundary(int boundary, const Convection& c)
  {
    const std::shared_ptr<const Property> curve =
        c.coefficient.table.empty() ? nullptr : std::make_shared<const Property>(c.coefficient);
    const PlaceFunction coefficient = varying(c.coefficient, Quantity::AreaConductance, boundaryName(boundary));
    if (!c.node.empty())
      return terms_.addToNode(boundary, c.surface, c.node,
                              ExchangeLaw{coefficient || curve ? 1 : c.coefficient.si, curve, coefficient, 0});
    const PlaceFunction ambient = varying(c.ambient, Quantity::Temperature, boundaryName(boundary));
    const std::shared_ptr<const Property> ambientCurve =
        c.ambient.table.empty() ? nullptr : std::make_shared<const Property>(c.ambient);
    addConvection(boundary, c.surface, c.coefficient.si, c.ambient.si, curve, coefficient, ambient, ambientCurve);
  }
  void addConvection(int boundary, const std::string& surface, double coefficient, double ambient,
                     const std::shared_ptr<const Property>& curve, const PlaceFunction& coefficientAt,
                     const PlaceFunction& ambientAt, const std::shared_ptr<const Property>& ambientCurve = nullptr)
  {
    noteTemperature(ambient);
    addToFaces<FaceConvection>(boundaryOwner(boundary), facesOn(surface), [&](FaceId face, double scale) {
      return FaceConvection{face, coefficient * scale, ambient, scale, curve, coefficientAt, ambientAt, ambientCurve};
    });
  }
  void addBoundary(int boundary, const CorrelatedConvection& c)
  {
    const auto curve = coefficientCurve(c, project_.environment.value_or(Environment{}));
    if (!curve) {
      fail(boundaryName(boundary), curve.error().problem, curve.error().remedy);
      return;
    }
    if (!c.node.empty())
      return terms_.addToNode(boundary, c.surface, c.node,
                              ExchangeLaw{1, std::make_shared<const Property>(*curve), {}, 0});
    addConvection(boundary, c.surface, curve->si, c.ambient.si, std::make_shared<const Property>(*curve), {}, {});
  }
  void addBoundary(int boundary, const BodyContact& c)
  {
    if (!c.node.empty())
      return terms_.addToNode(boundary, c.surface, c.node, ExchangeLaw{c.conductance.si, nullptr, {}, 0});
    addConvection(boundary, c.surface, c.conductance.si, c.temperature.si, nullptr, {}, {});
  }
  void addBoundary(int boundary, const FlowPassage& passage)
  {
    noteTemperature(passage.inlet.si);
    terms_.addPassage(boundary, passage);
  }
  void addBoundary(int, const FixedVoltage&) {} // see ElectricField
  void addBoundary(int, const CurrentIn&) {}
  void addBoundary(int boundary, const Sheet& sheet)
  {
    const Material* material = findById(project_.materials, sheet.material);
    if (material == nullptr)
      return fail(boundaryName(boundary), "It has no material.", "Choose one.");
    const auto conductivity = std::make_shared<const Property>(material->conductivity);
    addToFaces<FaceSheet>(boundaryOwner(boundary), facesOn(sheet.surface), [&](FaceId face, double scale) {
      return FaceSheet{face, sheet.thickness.si * scale, conductivity, sheet.material};
    });
  }
  void addBoundary(int boundary, const Radiation& r)
  {
    if (!r.node.empty())
      return terms_.addRadiationToNode(boundary, r);
    noteTemperature(r.surroundings.si);
    std::vector<FaceRadiation> on;
    for (const FaceId face : facesOn(r.surface)) {
      const auto emissivity = emissivityOf(project_, mesh_.geometry, face);
      const double scale = r.viewFactor.si * areaScale_[at(face)];
      if (!emissivity)
        fail(boundaryName(boundary),
             "Part " + mesh_.geometry.parts[at(mesh_.geometry.faces[at(face)].parts[0])].name + " has no emissivity.",
             "Give the surface a finish, or its material a typical emissivity.");
      else
        on.push_back({face, emissivity->si * scale, r.surroundings.si,
                      emissivity->table.empty() ? nullptr : std::make_shared<const Property>(*emissivity), scale});
    }
    add<FaceFlow<FaceRadiation>>(boundaryOwner(boundary), std::move(on));
  }
  void addBoundary(int boundary, const FixedSurface& f)
  {
    std::vector<FaceId> faces = facesOn(f.surface);
    std::vector<char> on(mesh_.geometry.faces.size(), 0);
    for (const FaceId face : faces)
      on[at(face)] = 1;
    std::vector<char> held(at(result_.unknowns.count), 0);
    for (std::size_t t = 0; t < mesh_.triangles.size(); ++t)
      if (on[at(mesh_.triangleFace[t])] != 0)
        for (const auto& side : result_.unknowns.ofTriangle[t])
          for (const UnknownId unknown : side)
            if (unknown >= 0)
              held[at(unknown)] = 1;
    addHeld(boundary, f.temperature, marked(held), {noPart, std::move(faces)});
  }
  void addBoundary(int boundary, const FixedPart& f)
  {
    const PartId part = mesh_.geometry.partIndex(f.part);
    std::vector<char> held(at(result_.unknowns.count), 0);
    for (std::size_t t = 0; t < mesh_.tets.size(); ++t)
      if (mesh_.tetPart[t] == part)
        for (const UnknownId unknown : result_.unknowns.ofTet[t])
          held[at(unknown)] = 1;
    addHeld(boundary, f.temperature, marked(held), {part, {}});
  }
  void addBoundary(int boundary, const FixedPoint& f)
  {
    const Vec3 place = placeOf(f.place);
    UnknownId nearest;
    double distance = std::numeric_limits<double>::infinity();
    for (std::size_t i = 0; i < result_.unknowns.node.size(); ++i) {
      const double away = (mesh_.placeOf(result_.unknowns.node[i]) - place).squaredNorm();
      if (away < distance) {
        distance = away;
        nearest = UnknownId(i);
      }
    }
    addHeld(boundary, f.temperature, {nearest}, {});
  }
  static std::vector<UnknownId> marked(const std::vector<char>& marks)
  {
    std::vector<UnknownId> unknowns;
    for (std::size_t u = 0; u < marks.size(); ++u)
      if (marks[u] != 0)
        unknowns.emplace_back(u);
    return unknowns;
  }
  void addHeld(int boundary, const Number& temperature, const std::vector<UnknownId>& unknowns,
               HeldTemperature::What what)
  {
    noteTemperature(temperature.si);
    const PlaceFunction place = varying(temperature, Quantity::Temperature, boundaryName(boundary));
    std::vector<HeldTemperature::One> held;
    for (const UnknownId unknown : unknowns)
      held.push_back({unknown, place ? place(mesh_.placeOf(result_.unknowns.node[at(unknown)])) : temperature.si});
    add<HeldTemperature>(boundaryOwner(boundary), std::move(held), std::move(what));
  }
  /// Where two hold the same, the later one does.
  void giveHeldToTheLast()
  {
    std::vector<char> taken(at(result_.unknowns.count), 0);
    for (auto flow = result_.flows.rbegin(); flow != result_.flows.rend(); ++flow)
      if (const auto* own = dynamic_cast<const HeldTemperature*>(flow->get())) {
        auto alone = own->without(taken);
        for (const HeldTemperature::One& one : alone->all())
          taken[at(one.unknown)] = 1;
        *flow = std::move(alone);
      }
  }

  const Project& project_;
  const Mesh& mesh_;
  const ViewFactorSource& viewFactors_;
  Formulas formulas_;
  std::vector<double> areaScale_; // exact over meshed, by face
  Conditions result_;
  Index countBefore_ = 0;
  TermResolver terms_;
  double temperatureSum_ = 0;
  int temperatures_ = 0;
  std::optional<Failure> failed_;
};

} // namespace

std::map<std::string, UnknownId> lumpedOf(const Project& project, const Conditions& conditions)
{
  std::map<std::string, UnknownId> lumped;
  for (std::size_t n = 0; n < project.nodes.size() && n < conditions.nodeUnknowns.size(); ++n)
    if (conditions.nodeUnknowns[n] >= 0)
      lumped.emplace(project.nodes[n].id, conditions.nodeUnknowns[n]);
  for (const Conditions::Outlet& outlet : conditions.outlets)
    lumped.emplace(project.boundaries[at(outlet.boundary)].id, outlet.unknown);
  return lumped;
}

std::string ownerName(const Project& project, const FlowOwner& owner)
{
  const auto in = [&](const char* kind, const auto& list) {
    return owner.index < 0 ? std::string(kind) : kind + (" " + list[at(owner.index)].name);
  };
  switch (owner.kind) {
  case FlowOwner::Kind::Source:
    return in("source", project.sources);
  case FlowOwner::Kind::Boundary:
    return in("boundary", project.boundaries);
  case FlowOwner::Kind::Node:
    return in("node", project.nodes);
  case FlowOwner::Kind::Link:
    return in("link", project.links);
  case FlowOwner::Kind::Contact:
    return in("contact", project.contacts);
  case FlowOwner::Kind::Enclosure:
    return in("enclosure", project.enclosures);
  case FlowOwner::Kind::Parts:
    break;
  }
  return "project";
}

Expected<Conditions> resolveConditions(const Project& project, const Mesh& mesh, const ViewFactorSource& viewFactors)
{
  return Resolver(project, mesh, viewFactors, nullptr).resolve(nullptr);
}

Expected<Conditions> resolveAgain(const Project& project, const Mesh& mesh, Conditions& before)
{
  const auto none = [](const Mesh&, const Patches&, const Eigen::VectorXd&, int, bool) -> Expected<ViewFactors> {
    return ViewFactors{};
  };
  const ViewFactorSource source = none; // enclosures stay as they are
  return Resolver(project, mesh, source, &before).resolve(&before);
}

Expected<Conditions> resolveConditions(const Project& project, const Mesh& mesh)
{
  const auto cast = [](const Mesh& seen, const Patches& patches, const Eigen::VectorXd& areas, int rays, bool open) {
    return castViewFactors(seen, patches, areas, rays, open, std::thread::hardware_concurrency(), noProgress);
  };
  return resolveConditions(project, mesh, cast);
}

} // namespace kiln
