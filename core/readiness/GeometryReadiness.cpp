// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "base/At.h"
#include "geometry/SurfaceFaces.h"
#include "geometry/TouchingPairs.h"
#include "heat/boundaries/Finishes.h"
#include "heat/boundaries/GapCrossing.h"
#include "mesh/CountEstimate.h"
#include "model/Edit.h"
#include "model/Fields.h"
#include "model/Formula.h"
#include "model/PointCloud.h"
#include "readiness/NetworkReadiness.h"
#include "readiness/PhysicsReadiness.h"
#include "readiness/Readiness.h"
#include "readiness/WaysOut.h"
#include "units/Quantity.h"

#include <algorithm>
#include <cmath>
#include <limits>
#include <map>
#include <numeric>
#include <set>

namespace kiln
{
namespace
{

using Severity = Finding::Severity;

class GeometryCheck
{
public:
  GeometryCheck(const Project& project, const FaceTable& geometry) : project_(project), geometry_(geometry)
  {
    for (const Surface& surface : project.surfaces)
      faces_.emplace(surface.id, facesOf(project, geometry, surface));
  }

  std::vector<Finding> run()
  {
    findings_ = checkShapes(project_, geometry_);
    checkSurfaces();
    checkEmissivities();
    checkEnclosures();
    // In time heat can also just be stored.
    const auto isSteady = [](const Case& one) { return one.kind == Case::Kind::Steady; };
    if (std::any_of(project_.cases.begin(), project_.cases.end(), isSteady)) {
      const std::vector<Finding> lost = checkWaysOut(project_, geometry_);
      findings_.insert(findings_.end(), lost.begin(), lost.end());
    }
    checkContacts();
    checkOverlaps();
    checkInsulated();
    checkExtents();
    checkStoring();
    const std::vector<Finding> doubts = checkDoubtsOn(project_, geometry_);
    findings_.insert(findings_.end(), doubts.begin(), doubts.end());
    const std::vector<Finding> impossible = checkPhysicsOn(project_, geometry_);
    findings_.insert(findings_.end(), impossible.begin(), impossible.end());
    return std::move(findings_);
  }

private:
  void add(Severity severity, const std::string& id, const std::string& object, const std::string& problem,
           const std::string& remedy, std::vector<FaceId> faces = {}, std::vector<Mend> mends = {})
  {
    findings_.push_back({severity, id, object, problem, remedy, std::move(faces), std::move(mends)});
  }
  [[nodiscard]] const std::string& partName(PartId part) const { return geometry_.parts[at(part)].name; }
  [[nodiscard]] static std::string areaText(double area) { return formatQuantity(area, Quantity::Area, {}, 3); }

  /// Surfaces that something unmuted stands on.
  [[nodiscard]] std::set<std::string> usedSurfaces() const
  {
    std::set<std::string> used;
    for (const HeatSource& source : project_.sources)
      if (!source.muted)
        used.insert(surfaceOf(source));
    for (const Boundary& boundary : project_.boundaries)
      if (!boundary.muted)
        used.insert(surfaceOf(boundary));
    for (const Enclosure& enclosure : project_.enclosures)
      if (!enclosure.muted)
        used.insert(enclosure.surfaces.begin(), enclosure.surfaces.end());
    for (const HeatSource& source : project_.sources)
      if (const auto* beam = std::get_if<Beam>(&source.heat); beam != nullptr && !source.muted)
        used.insert(beam->surfaces.begin(), beam->surfaces.end());
    for (const Link& link : project_.links)
      std::visit(
          [&](const auto& kind) {
            if constexpr (requires { kind.endA; })
              for (const std::string& end : {kind.endA, kind.endB})
                if (!link.muted && findById(project_.surfaces, end) != nullptr)
                  used.insert(end);
          },
          link.exchange);
    used.erase("");
    return used;
  }

  void checkSurfaces()
  {
    const std::set<std::string> used = usedSurfaces();
    for (const Surface& surface : project_.surfaces) {
      const SurfaceFaces& picked = faces_.at(surface.id);
      const std::string object = "surface " + surface.name;
      if (picked.faces.empty())
        add(used.contains(surface.id) ? Severity::Error : Severity::Hint, surface.id, object, "Its rule picks no face.",
            "Change the rule, or switch on the part it names.");
      else
        for (const std::string& missing : picked.notFound)
          add(Severity::Hint, surface.id, object, "“" + missing + "” in its rule picks nothing.",
              "Correct the name, or remove it from the rule.", {},
              {{Mend::Action::RemoveFromRule, "Remove it from the rule", {surface.id, missing}}});
    }
    for (const HeatSource& source : project_.sources)
      checkSourceParts(source);
    checkHeldParts();
  }

  void checkSourceParts(const HeatSource& source)
  {
    if (source.muted)
      return;
    const std::vector<std::string>* parts = nullptr;
    if (const auto* heat = std::get_if<PartPower>(&source.heat))
      parts = &heat->parts;
    if (const auto* heat = std::get_if<PartDensity>(&source.heat))
      parts = &heat->parts;
    if (parts == nullptr || parts->empty())
      return;
    const std::vector<std::string> ids = expandGroups(project_, *parts);
    if (std::none_of(ids.begin(), ids.end(), [&](const auto& id) { return geometry_.partIndex(id) != noPart; }))
      add(Severity::Error, source.id, "source " + source.name, "All its parts are switched off.",
          "Switch one of them on, or the source off.");
  }

  void checkHeldParts()
  {
    for (const Boundary& boundary : project_.boundaries)
      if (const auto* fixed = std::get_if<FixedPart>(&boundary.condition); fixed != nullptr && !boundary.muted)
        if (geometry_.partIndex(fixed->part) == noPart)
          add(Severity::Error, boundary.id, "boundary " + boundary.name, "Its part is switched off.",
              "Switch it on, or the boundary off.");
  }

  void checkEmissivities()
  {
    for (const Boundary& boundary : project_.boundaries) {
      const auto* radiation = std::get_if<Radiation>(&boundary.condition);
      if (radiation == nullptr || boundary.muted || !faces_.contains(radiation->surface))
        continue;
      std::set<PartId> without;
      for (const FaceId face : faces_.at(radiation->surface).faces)
        if (!emissivityOf(project_, geometry_, face))
          without.insert(geometry_.faces[at(face)].parts[0]);
      for (const PartId part : without)
        add(Severity::Error, boundary.id, "boundary " + boundary.name, "Part " + partName(part) + " has no emissivity.",
            "Give the surface a finish, or the material a typical emissivity.");
    }
  }

  void checkEnclosures()
  {
    for (const Enclosure& enclosure : project_.enclosures) {
      if (enclosure.muted)
        continue;
      std::set<PartId> without;
      std::vector<FaceId> inner;
      for (const std::string& surface : enclosure.surfaces)
        if (const auto found = faces_.find(surface); found != faces_.end())
          for (const FaceId face : found->second.faces) {
            if (!geometry_.faces[at(face)].exposed())
              inner.push_back(face);
            else if (!emissivityOf(project_, geometry_, face))
              without.insert(geometry_.faces[at(face)].parts[0]);
          }
      for (const PartId part : without)
        add(Severity::Error, enclosure.id, "enclosure " + enclosure.name,
            "Part " + partName(part) + " has no emissivity.",
            "Give the surface a finish, or the material a typical emissivity.");
      if (!inner.empty())
        add(Severity::Hint, enclosure.id, "enclosure " + enclosure.name,
            std::to_string(inner.size()) + " of its faces touch another part; they take no part in it.",
            "Take them out of its surfaces.", inner);
    }
  }

  void checkContacts()
  {
    std::vector<ContactClash> clashes;
    const std::vector<ContactPiece> pieces = contactPieces(project_, geometry_, &clashes);
    for (const ContactClash& clash : clashes)
      add(Severity::Error, clash.second->id, "contact " + clash.second->name,
          "It and contact " + clash.first->name + " both claim " + areaText(clash.area) + " of the same faces.",
          "Take these faces out of one of their surfaces.");
    for (const Contact& contact : project_.contacts) {
      const PartId a = geometry_.partIndex(contact.partA);
      const PartId b = geometry_.partIndex(contact.partB);
      if (a == noPart || b == noPart || contact.muted)
        continue;
      if (touch(geometry_, a, b)) {
        if (std::none_of(pieces.begin(), pieces.end(), [&](const auto& piece) { return piece.contact == &contact; }) &&
            !contact.surface.empty())
          add(Severity::Hint, contact.id, "contact " + contact.name,
              "None of the faces that its parts share lies in its surface; it does nothing.",
              "Choose another surface, or remove the contact.", {},
              {{Mend::Action::RemoveObject, "Remove the contact", {contact.id}}});
        continue;
      }
      if (const auto* gap = std::get_if<Gap>(&contact.exchange))
        checkReach(contact, *gap, a, b);
      else
        add(Severity::Hint, contact.id, "contact " + contact.name, "Its parts do not touch; it does nothing.",
            "Move the parts together, make it a gap, or remove the contact.", {},
            {{Mend::Action::RemoveObject, "Remove the contact", {contact.id}}});
    }
    for (const ContactPiece& pair : pieces) {
      if (pair.contact != nullptr)
        continue;
      const Contact* off =
          findContact(project_, geometry_.parts[at(pair.partA)].id, geometry_.parts[at(pair.partB)].id);
      if (off != nullptr)
        add(Severity::Hint, off->id, "contact " + off->name,
            "It is switched off: heat passes freely where its parts touch (" + areaText(pair.area) + ").",
            "Switch it on, or give it the kind “no exchange” where nothing is to pass.", pair.faces);
      else
        add(Severity::Hint, pairId(geometry_.parts[at(pair.partA)].id, geometry_.parts[at(pair.partB)].id),
            "contact " + partName(pair.partA) + " | " + partName(pair.partB),
            "It is perfect only because nothing was set (" + areaText(pair.area) + ").",
            "Set how well the parts touch, or confirm that it is perfect.", pair.faces,
            {{Mend::Action::ConfirmPerfect,
              "Confirm that it is perfect",
              {geometry_.parts[at(pair.partA)].id, geometry_.parts[at(pair.partB)].id}}});
    }
    for (const NearMiss& miss : geometry_.nearMisses)
      if (!bridged(miss))
        add(Severity::Hint, geometry_.parts[at(miss.partA)].id,
            "parts " + partName(miss.partA) + " and " + partName(miss.partB),
            "They are " + formatQuantity(miss.gap, Quantity::Length, {}, 3) +
                " apart but do not touch: no heat crosses.",
            "Move them together, or let heat cross the gap.");
    for (const NearMiss& miss : geometry_.nearMisses)
      for (Finding& finding : findings_)
        if (finding.object == "parts " + partName(miss.partA) + " and " + partName(miss.partB)) {
          finding.place = miss.place;
          finding.mends = nearMissMends(miss);
        }
  }

  /// Boxes that lie farther apart than a gap reaches cannot have sides that look at each other across it.
  void checkReach(const Contact& contact, const Gap& gap, int a, int b)
  {
    const GeometryPart& first = geometry_.parts[at(a)];
    const GeometryPart& second = geometry_.parts[at(b)];
    const double apart = (first.low - second.high).cwiseMax(second.low - first.high).cwiseMax(0).norm();
    if (apart > gapReach * gap.thickness.si)
      add(Severity::Error, contact.id, "contact " + contact.name,
          "Its parts are " + formatQuantity(apart, Quantity::Length, {}, 3) +
              " apart, much more than its thickness of " + formatQuantity(gap.thickness.si, Quantity::Length, {}, 3) +
              ".",
          "Correct its thickness, move the parts together, or remove the contact.", {},
          {{Mend::Action::RemoveObject, "Remove the contact", {contact.id}}});
  }

  /// Ways to let heat cross between parts that nearly touch.
  [[nodiscard]] std::vector<Mend> nearMissMends(const NearMiss& miss) const
  {
    const std::string& a = geometry_.parts[at(miss.partA)].id;
    const std::string& b = geometry_.parts[at(miss.partB)].id;
    std::vector<Mend> mends = snapMends(miss);
    mends.push_back({Mend::Action::BridgeGap, "Let heat cross the gap", {a, b, plainNumber(miss.gap)}});
    constexpr double widestTolerance = 5e-5; // m; more would eat small features
    if (miss.gap * 1.2 < widestTolerance)
      mends.push_back({Mend::Action::WidenTolerance,
                       "Let parts closer than " + formatQuantity(miss.gap * 1.2, Quantity::Length, {}, 2) + " touch",
                       {plainNumber(miss.gap * 1.2)}});
    return mends;
  }

  /// Moving the second part against the first, where they stand apart along one axis.
  [[nodiscard]] std::vector<Mend> snapMends(const NearMiss& miss) const
  {
    const GeometryPart& a = geometry_.parts[at(miss.partA)];
    const GeometryPart& b = geometry_.parts[at(miss.partB)];
    constexpr double slack = 2e-6; // m, boxes are a little wide
    for (Eigen::Index axis = 0; axis < 3; ++axis)
      for (const double by : {a.high[axis] - b.low[axis], a.low[axis] - b.high[axis]})
        if (std::abs(by) > slack && std::abs(by) < miss.gap + slack) {
          Vec3 move = Vec3::Zero();
          move[axis] = by;
          return {{Mend::Action::MovePart,
                   "Move " + b.name + " against " + a.name,
                   {b.id, plainNumber(move.x()), plainNumber(move.y()), plainNumber(move.z())}}};
        }
    return {};
  }

  [[nodiscard]] bool bridged(const NearMiss& miss) const
  {
    const Contact* contact =
        findContact(project_, geometry_.parts[at(miss.partA)].id, geometry_.parts[at(miss.partB)].id);
    return contact != nullptr &&
           (std::holds_alternative<Gap>(contact->exchange) || std::holds_alternative<NoContact>(contact->exchange));
  }

  void checkOverlaps()
  {
    for (const Boundary& boundary : project_.boundaries)
      if (!boundary.muted && !std::holds_alternative<FixedPart>(boundary.condition) &&
          faces_.contains(surfaceOf(boundary)))
        checkBoundaryFaces(boundary);
  }

  void checkBoundaryFaces(const Boundary& boundary)
  {
    if (std::holds_alternative<FixedSurface>(boundary.condition))
      return;
    std::vector<FaceId> inner;
    double touching = 0;
    double all = 0;
    for (const FaceId face : faces_.at(surfaceOf(boundary)).faces) {
      all += geometry_.faces[at(face)].area;
      if (geometry_.faces[at(face)].exposed())
        continue;
      inner.push_back(face);
      touching += geometry_.faces[at(face)].area;
    }
    if (!inner.empty())
      add(Severity::Hint, boundary.id, "boundary " + boundary.name,
          std::to_string(inner.size()) + " of its faces touch another part: " + areaText(touching) + " of its " +
              areaText(all) + ", " + formatQuantity(100 * touching / all, Quantity::Plain, {}, 2) +
              " %, are covered, and it works there all the same.",
          "Take them out of its surface, unless a gap to the surroundings is meant.", inner);
  }

  /// Faces that lie outside the points a value is read from.
  void checkExtents()
  {
    if (std::all_of(project_.parameters.begin(), project_.parameters.end(),
                    [](const Parameter& parameter) { return parameter.points.empty(); }))
      return;
    Project walked = project_;
    for (const Field& field : fields(walked))
      if (const Number* value = field.value(); value != nullptr && field.varies && value->formula)
        for (const std::string& name : namesIn(value->text))
          for (const Parameter& parameter : project_.parameters)
            if (parameter.name == name && !parameter.points.empty())
              checkExtent(field, parameter);
  }
  void checkExtent(const Field& field, const Parameter& parameter)
  {
    const Boundary* boundary = findById(project_.boundaries, field.objectId);
    const HeatSource* source = findById(project_.sources, field.objectId);
    const std::string surface = boundary != nullptr ? surfaceOf(*boundary)
                                : source != nullptr ? surfaceOf(*source)
                                                    : std::string();
    const auto picked = faces_.find(surface);
    if (picked == faces_.end())
      return;
    const PointCloud cloud(parameter.points);
    std::vector<FaceId> outside;
    for (const FaceId face : picked->second.faces)
      if (!cloud.covers(geometry_.faces[at(face)].centroid))
        outside.push_back(face);
    if (!outside.empty())
      add(Severity::Hint, field.objectId, field.objectName,
          field.label + ": " + std::to_string(outside.size()) + " of its faces lie outside the points of “" +
              parameter.name + "”; the value at the border of the points holds there.",
          "Check the unit and origin of the points, or measure there too.", outside);
  }

  /// Instants at a fixed interval can be more than a file may hold; with a tolerance there are never that many.
  void checkStoring()
  {
    constexpr double bytes = 4; // of a stored temperature
    const double field = bytes * estimateCount(project_, geometry_).nodes;
    for (const Case& one : project_.cases) {
      if (!one.run || !one.run->storeEvery)
        continue;
      std::optional<double> end;
      if (one.run->longest)
        end = one.run->longest->si;
      for (const EndRule& rule : one.run->ends)
        if (const auto* time = std::get_if<EndAtTime>(&rule.when))
          end = std::min(end.value_or(time->time.si), time->time.si);
      if (!end)
        continue;
      const double length = *end - (one.run->startTime ? one.run->startTime->si : 0);
      const double wanted = length / one.run->storeEvery->si * field;
      if (wanted > mostStored / 2)
        add(Severity::Hint, one.id, "case " + one.name,
            "An instant every " + formatQuantity(one.run->storeEvery->si, Quantity::Time) + " may need about " +
                plainNumber(std::round(wanted / 1e8) / 10) + " GB; beyond half a gigabyte fewer are kept.",
            "Store an instant every " + formatQuantity(2 * length * field / mostStored, Quantity::Time, {}, 2) +
                " or more seldom, or where the temperatures ask for it.");
    }
  }

  [[nodiscard]] bool hasMoreThanSheet(const std::string& surface) const
  {
    const auto other = [&](const Boundary& boundary) {
      return !boundary.muted && surfaceOf(boundary) == surface && !std::holds_alternative<Sheet>(boundary.condition);
    };
    return std::any_of(project_.boundaries.begin(), project_.boundaries.end(), other) ||
           std::any_of(project_.sources.begin(), project_.sources.end(),
                       [&](const HeatSource& source) { return !source.muted && surfaceOf(source) == surface; });
  }

  void checkInsulated()
  {
    std::vector<bool> covered(geometry_.faces.size(), false);
    std::set<std::string> used = usedSurfaces();
    for (const Boundary& boundary : project_.boundaries) // a sheet lets nothing in or out
      if (std::holds_alternative<Sheet>(boundary.condition) && !boundary.muted &&
          !hasMoreThanSheet(surfaceOf(boundary)))
        used.erase(surfaceOf(boundary));
    for (const std::string& surface : used)
      if (const auto found = faces_.find(surface); found != faces_.end())
        for (const FaceId face : found->second.faces)
          covered[at(face)] = true;
    std::map<PartId, std::vector<FaceId>> byPart;
    for (std::size_t f = 0; f < covered.size(); ++f)
      if (geometry_.faces[f].exposed() && !geometry_.faces[f].aside && !covered[f])
        byPart[geometry_.faces[f].parts[0]].push_back(FaceId(f));
    for (const auto& [part, faces] : byPart) {
      double area = 0;
      std::string names;
      std::set<std::string> known; // flat pieces of a skin of triangles share a name
      for (const FaceId face : faces) {
        area += geometry_.faces[at(face)].area;
        constexpr std::size_t mostNames = 60;
        if (!geometry_.faces[at(face)].names.empty() && names.size() < mostNames &&
            known.insert(geometry_.faces[at(face)].names.front()).second)
          names += (names.empty() ? "" : ", ") + geometry_.faces[at(face)].names.front();
      }
      add(Severity::Hint, geometry_.parts[at(part)].id, "part " + partName(part),
          std::to_string(faces.size()) + " face(s), " + areaText(area) + ", are insulated only by default (" + names +
              ").",
          "Put a boundary on them if heat should cross.", faces);
    }
  }

  const Project& project_;
  const FaceTable& geometry_;
  std::map<std::string, SurfaceFaces> faces_;
  std::vector<Finding> findings_;
};

} // namespace

std::vector<Finding> checkOnGeometry(const Project& project, const FaceTable& geometry)
{
  return GeometryCheck(project, geometry).run();
}

} // namespace kiln
