// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "heat/Conditions.h"

#include "base/At.h"
#include "geometry/SurfaceFaces.h"
#include "geometry/TouchingPairs.h"
#include "heat/TermResolver.h"
#include "heat/boundaries/Correlations.h"
#include "heat/boundaries/Finishes.h"
#include "heat/boundaries/GapCrossing.h"
#include "heat/boundaries/HeldTemperature.h"
#include "heat/boundaries/JumpContact.h"
#include "heat/boundaries/SourceFlow.h"
#include "heat/boundaries/SurfaceFlow.h"
#include "heat/network/JouleHeat.h"
#include "heat/radiation/EnclosureExchange.h"
#include "heat/radiation/EnclosurePatches.h"
#include "model/Edit.h"

#include <algorithm>
#include <cmath>
#include <limits>
#include <map>
#include <set>
#include <thread>

namespace kiln
{
namespace
{

Vec3 placeOf(const Number3& n) { return {n.x.si, n.y.si, n.z.si}; }

class Resolver
{
public:
  Resolver(const Project& project, const Mesh& mesh, const ViewFactorSource& viewFactors)
      : project_(project), mesh_(mesh), viewFactors_(viewFactors), formulas_(project),
        volumes_(integratedVolumes(mesh)), areaScale_(integratedAreas(mesh)), terms_(project, mesh, areaScale_, result_)
  {
    for (std::size_t f = 0; f < areaScale_.size(); ++f)
      areaScale_[f] = areaScale_[f] > 0 ? mesh.geometry.faces[f].area / areaScale_[f] : 1;
  }

  Expected<Conditions> resolve(const Conditions* before = nullptr)
  {
    if (before == nullptr) {
      addMaterials();
      addContacts();
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
        addEnclosure(static_cast<int>(i), project_.enclosures[i]);
    if (failed_)
      return tl::unexpected(*failed_);
    giveHeldToTheLast();
    if (temperatures_ > 0)
      result_.startTemperature = temperatureSum_ / temperatures_;
    return std::move(result_);
  }

private:
  void keep(const Conditions& before)
  {
    result_.conductivity = before.conductivity;
    std::copy_if(before.flows.begin(), before.flows.end(), std::back_inserter(result_.flows),
                 [](const auto& flow) { return flow->lasting(); });
    result_.beams = before.beams;
    result_.unknowns = before.unknowns;
    result_.unknowns.count = static_cast<Index>(before.unknowns.node.size()); // lumped ones are counted anew
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
        fail("part " + part.name, "It has no material.", "Give it one.");
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
  /// An object of a list as an owner; none: no object says it.
  template <class Object>
  static FlowOwner ownerIn(FlowOwner::Kind kind, const std::vector<Object>& list, const Object* object)
  {
    return {kind, object != nullptr ? static_cast<int>(object - list.data()) : -1};
  }

  void addContacts()
  {
    std::vector<bool> jump(mesh_.geometry.faces.size(), false);
    for (const ContactPiece& piece : contactPieces(project_, mesh_.geometry)) {
      const double conductance = contactConductance(piece);
      if (std::isinf(conductance))
        continue;
      std::vector<JumpContact::OnFace> on;
      for (const int face : piece.faces) {
        jump[at(face)] = true;
        on.push_back({face, conductance * areaScale_[at(face)], gapEmissivity(piece) * areaScale_[at(face)]});
      }
      if (conductance > 0)
        add<JumpContact>(ownerIn(FlowOwner::Kind::Contact, project_.contacts, piece.contact), std::move(on));
    }
    for (std::size_t b = 0; b < project_.boundaries.size(); ++b)
      if (const auto* sheet = std::get_if<Sheet>(&project_.boundaries[b].condition);
          sheet != nullptr && sheet->through && !project_.boundaries[b].muted) {
        std::vector<JumpContact::OnFace> on;
        for (const int face : facesOn(sheet->surface))
          if (mesh_.geometry.faces[at(face)].exposed() && !jump[at(face)]) {
            jump[at(face)] = true;
            on.push_back({face, areaScale_[at(face)] / sheet->through->si});
          }
        add<JumpContact>(FlowOwner{FlowOwner::Kind::Parts, -1}, std::move(on));
      }
    result_.unknowns = numberUnknowns(mesh_, jump);
    for (const Contact& contact : project_.contacts)
      if (const auto* gap = std::get_if<Gap>(&contact.exchange))
        addCrossing(contact, *gap);
  }

  /// A gap between parts that share no faces is empty space that heat crosses.
  void addCrossing(const Contact& contact, const Gap& gap)
  {
    const int partA = mesh_.geometry.partIndex(contact.partA);
    const int partB = mesh_.geometry.partIndex(contact.partB);
    if (partA == noPart || partB == noPart || touch(mesh_.geometry, partA, partB) ||
        &contact != findContact(project_, contact.partA, contact.partB))
      return;
    auto points = pointsAcross(mesh_, partA, partB, gapReach * gap.thickness.si);
    if (points.empty())
      fail("contact " + contact.name,
           "No faces of its parts look at each other from closer than " +
               formatQuantity(gapReach * gap.thickness.si, Quantity::Length, {}, 3) + ".",
           "Correct its thickness, move the parts together, or remove the contact.");
    add<GapCrossing>(ownerIn(FlowOwner::Kind::Contact, project_.contacts, &contact), partA, partB,
                     GapCrossing::Law{gap.conductivity.si / gap.thickness.si, gapEmissivity(gap)}, std::move(points));
  }

  /// Effective emissivity of two facing grey plates, 1/(1/ε₁ + 1/ε₂ − 1); 0 where radiation is not asked for.
  static double gapEmissivity(const Gap& gap)
  {
    if (!gap.emissivityA || !gap.emissivityB)
      return 0;
    return 1 / (1 / gap.emissivityA->si + 1 / gap.emissivityB->si - 1);
  }
  static double gapEmissivity(const ContactPiece& piece)
  {
    const Gap* gap = piece.contact != nullptr ? std::get_if<Gap>(&piece.contact->exchange) : nullptr;
    return gap != nullptr ? gapEmissivity(*gap) : 0;
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

  [[nodiscard]] std::vector<int> partIndices(const std::vector<std::string>& ids) const
  {
    std::vector<int> indices;
    for (const std::string& id : expandGroups(project_, ids))
      if (const int part = mesh_.geometry.partIndex(id); part != noPart)
        indices.push_back(part);
    return indices;
  }
  [[nodiscard]] double exactVolume(int part) const { return mesh_.geometry.parts[at(part)].volume; }
  [[nodiscard]] std::vector<int> facesOn(const std::string& surface) const
  {
    return facesOf(project_, mesh_.geometry, surface).faces;
  }

  void addSource(int source, const Beam& beam) { terms_.addBeam(source, beam); }
  void addSource(int source, const PartPower& heat)
  {
    if (!heat.power.table.empty())
      return terms_.addFollowing(source, terms_.inParts(heat.parts), heat.power, true);
    const std::vector<int> parts = partIndices(heat.parts);
    double volume = 0;
    for (const int part : parts)
      volume += exactVolume(part);
    std::vector<VolumeHeat::InPart> in;
    for (const int part : parts)
      in.push_back({part, heat.power.si / volume * exactVolume(part) / volumes_[at(part)], 1, volumes_[at(part)]});
    add<VolumeHeat>(sourceOwner(source), std::move(in));
  }
  void addSource(int source, const PartDensity& heat)
  {
    if (!heat.density.table.empty())
      return terms_.addFollowing(source, terms_.inParts(heat.parts), heat.density, false);
    const PlaceFunction place = varying(heat.density, Quantity::HeatDensity, sourceName(source));
    std::vector<VolumeHeat::InPart> in;
    for (const int part : partIndices(heat.parts)) {
      const double scale = exactVolume(part) / volumes_[at(part)];
      in.push_back({part, heat.density.si * scale, scale, volumes_[at(part)], place});
    }
    add<VolumeHeat>(sourceOwner(source), std::move(in));
  }
  void addSource(int source, const SurfacePower& heat)
  {
    if (!heat.power.table.empty())
      return terms_.addFollowing(source, terms_.onSurface(heat.surface), heat.power, true);
    const SurfaceFaces on = facesOf(project_, mesh_.geometry, heat.surface);
    addToFaces<FaceHeat>(sourceOwner(source), on.faces, [&](int face, double scale) {
      return FaceHeat{face, heat.power.si / on.area * scale, 1, {}};
    });
  }
  void addSource(int source, const SurfaceFlux& heat)
  {
    if (!heat.flux.table.empty())
      return terms_.addFollowing(source, terms_.onSurface(heat.surface), heat.flux, false);
    const PlaceFunction place = varying(heat.flux, Quantity::HeatFlux, sourceName(source));
    addToFaces<FaceHeat>(sourceOwner(source), facesOn(heat.surface), [&](int face, double scale) {
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

  void addEnclosure(int index, const Enclosure& enclosure)
  {
    constexpr double usualRays = 1000;
    Patches patches = enclosurePatches(project_, mesh_, enclosure);
    const auto count = static_cast<Eigen::Index>(patches.count());
    Eigen::VectorXd areas(count);
    Eigen::VectorXd scale(count);
    Eigen::VectorXd emissivity(count);
    std::vector<std::shared_ptr<const Property>> curves(patches.count());
    std::map<int, Property> ofFace;
    for (Eigen::Index p = 0; p < count; ++p) {
      const auto patch = static_cast<std::size_t>(p);
      const int face = patches.face[patch];
      if (!ofFace.contains(face))
        ofFace[face] = emissivityOf(project_, mesh_.geometry, face).value_or(Property{-1, ""});
      if (ofFace[face].si < 0)
        return fail("enclosure " + enclosure.name,
                    "Part " + mesh_.geometry.parts[at(mesh_.geometry.faces[at(face)].parts[0])].name +
                        " has no emissivity.",
                    "Give the surface a finish, or its material a typical emissivity.");
      emissivity[p] = ofFace[face].si;
      if (!ofFace[face].table.empty())
        curves[patch] = std::make_shared<const Property>(ofFace[face]);
      scale[p] = areaScale_[at(face)];
      areas[p] = 0;
      for (const std::size_t t : patches.triangles[patch])
        for (const SurfacePoint& point : pointsOfPiece(mesh_, t))
          areas[p] += scale[p] * point.area;
    }
    const int rays = static_cast<int>(enclosure.rays ? enclosure.rays->si : usualRays);
    Expected<ViewFactors> factors = viewFactors_(mesh_, patches, areas, rays, enclosure.opening.has_value());
    if (!factors)
      return fail("enclosure " + enclosure.name, factors.error().problem, factors.error().remedy);
    if (enclosure.opening)
      noteTemperature(enclosure.opening->si);
    add<EnclosureExchange>(FlowOwner{FlowOwner::Kind::Enclosure, index}, mesh_, std::move(patches), std::move(*factors),
                           std::move(scale), std::move(emissivity), std::move(curves),
                           enclosure.opening ? std::optional(enclosure.opening->si) : std::nullopt);
  }

  static FlowOwner sourceOwner(int source) { return {FlowOwner::Kind::Source, source}; }
  static FlowOwner boundaryOwner(int boundary) { return {FlowOwner::Kind::Boundary, boundary}; }
  /// \param made  the flow of a face, from its index and its exact over its meshed area
  template <class OnFace, class Make>
  void addToFaces(FlowOwner owner, const std::vector<int>& faces, Make&& made)
  {
    std::vector<OnFace> on;
    for (const int face : faces)
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
    addToFaces<FaceConvection>(boundaryOwner(boundary), facesOn(surface), [&](int face, double scale) {
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
    addToFaces<FaceSheet>(boundaryOwner(boundary), facesOn(sheet.surface), [&](int face, double scale) {
      return FaceSheet{face, sheet.thickness.si * scale, conductivity, sheet.material};
    });
  }
  void addBoundary(int boundary, const Radiation& r)
  {
    if (!r.node.empty())
      return terms_.addRadiationToNode(boundary, r);
    noteTemperature(r.surroundings.si);
    std::vector<FaceRadiation> on;
    for (const int face : facesOn(r.surface)) {
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
    std::vector<int> faces = facesOn(f.surface);
    std::set<Index> held;
    for (std::size_t t = 0; t < mesh_.triangles.size(); ++t)
      if (std::binary_search(faces.begin(), faces.end(), mesh_.triangleFace[t]))
        for (const auto& side : result_.unknowns.ofTriangle[t])
          for (const Index unknown : side)
            if (unknown >= 0)
              held.insert(unknown);
    addHeld(boundary, f.temperature, held, {noPart, std::move(faces)});
  }
  void addBoundary(int boundary, const FixedPart& f)
  {
    const int part = mesh_.geometry.partIndex(f.part);
    std::set<Index> held;
    for (std::size_t t = 0; t < mesh_.tets.size(); ++t)
      if (mesh_.tetPart[t] == part)
        held.insert(result_.unknowns.ofTet[t].begin(), result_.unknowns.ofTet[t].end());
    addHeld(boundary, f.temperature, held, {part, {}});
  }
  void addBoundary(int boundary, const FixedPoint& f)
  {
    const Vec3 place = placeOf(f.place);
    Index nearest = -1;
    double distance = std::numeric_limits<double>::infinity();
    for (std::size_t i = 0; i < result_.unknowns.node.size(); ++i) {
      const double away = (mesh_.placeOf(result_.unknowns.node[i]) - place).squaredNorm();
      if (away < distance) {
        distance = away;
        nearest = static_cast<Index>(i);
      }
    }
    addHeld(boundary, f.temperature, {nearest}, {});
  }
  void addHeld(int boundary, const Number& temperature, const std::set<Index>& unknowns, HeldTemperature::What what)
  {
    noteTemperature(temperature.si);
    const PlaceFunction place = varying(temperature, Quantity::Temperature, boundaryName(boundary));
    std::vector<HeldTemperature::One> held;
    for (const Index unknown : unknowns)
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
  std::vector<double> volumes_;
  std::vector<double> areaScale_; // exact over meshed, by face
  Conditions result_;
  TermResolver terms_;
  double temperatureSum_ = 0;
  int temperatures_ = 0;
  std::optional<Failure> failed_;
};

} // namespace

std::map<std::string, Index> lumpedOf(const Project& project, const Conditions& conditions)
{
  std::map<std::string, Index> lumped;
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
  return Resolver(project, mesh, viewFactors).resolve();
}

Expected<Conditions> resolveAgain(const Project& project, const Mesh& mesh, const Conditions& before)
{
  const auto none = [](const Mesh&, const Patches&, const Eigen::VectorXd&, int, bool) -> Expected<ViewFactors> {
    return ViewFactors{};
  };
  const ViewFactorSource source = none; // enclosures stay as they are
  return Resolver(project, mesh, source).resolve(&before);
}

Expected<Conditions> resolveConditions(const Project& project, const Mesh& mesh)
{
  const auto cast = [](const Mesh& seen, const Patches& patches, const Eigen::VectorXd& areas, int rays, bool open) {
    return castViewFactors(seen, patches, areas, rays, open, std::thread::hardware_concurrency(), noProgress);
  };
  return resolveConditions(project, mesh, cast);
}

} // namespace kiln
