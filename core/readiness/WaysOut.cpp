// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "readiness/WaysOut.h"

#include "base/At.h"
#include "base/Joining.h"
#include "geometry/SurfaceFaces.h"
#include "geometry/TouchingPairs.h"

#include <algorithm>
#include <limits>
#include <map>
#include <set>

namespace kiln
{
namespace
{

/// Parts and nodes joined by whatever heat crosses form islands; an island must be anchored somewhere.
class Islands
{
public:
  Islands(const Project& project, const FaceTable& geometry)
      : project_(project), geometry_(geometry), parts_(static_cast<int>(geometry.parts.size())),
        islands_(geometry.parts.size() + project.nodes.size())
  {
  }

  std::vector<Finding> run()
  {
    joinContacts();
    for (const Enclosure& enclosure : project_.enclosures)
      if (!enclosure.muted)
        joinEnclosure(enclosure);
    for (const Link& link : project_.links)
      if (!link.muted)
        joinLink(link);
    for (const Boundary& boundary : project_.boundaries)
      if (!boundary.muted)
        addBoundary(boundary);
    for (std::size_t n = 0; n < project_.nodes.size(); ++n)
      if (project_.nodes[n].temperature)
        anchors_.push_back(parts_ + static_cast<int>(n));
    return lost();
  }

private:
  void join(int a, int b)
  {
    if (a >= 0 && b >= 0)
      islands_.join(at(a), at(b));
  }

  void joinContacts()
  {
    for (const ContactPiece& piece : contactPieces(project_, geometry_))
      if (contactConductance(piece) > 0)
        join(piece.partA, piece.partB);
    for (const Contact& contact : project_.contacts)
      if (std::holds_alternative<Gap>(contact.exchange) && !contact.muted)
        join(geometry_.partIndex(contact.partA), geometry_.partIndex(contact.partB));
  }

  [[nodiscard]] std::vector<PartId> partsOn(const std::string& surface) const
  {
    std::vector<PartId> parts;
    for (const FaceId face : facesOf(project_, geometry_, surface).faces)
      for (const PartId part : geometry_.faces[at(face)].parts)
        if (part != noPart)
          parts.push_back(part);
    return parts;
  }

  /// Surfaces of an enclosure exchange heat; those that see its opening are held by it.
  void joinEnclosure(const Enclosure& enclosure)
  {
    PartId first;
    for (const std::string& surface : enclosure.surfaces)
      for (const PartId part : partsOn(surface)) {
        first = first == noPart ? part : first;
        join(first, part);
        if (enclosure.opening)
          anchors_.push_back(part);
      }
  }

  /// Every part or node a link's end names.
  [[nodiscard]] std::vector<int> bodiesOf(const std::string& end) const
  {
    for (std::size_t n = 0; n < project_.nodes.size(); ++n)
      if (project_.nodes[n].id == end && !project_.nodes[n].muted)
        return {parts_ + static_cast<int>(n)};
    if (const PartId part = geometry_.partIndex(end); part != noPart)
      return {part};
    if (const Watch* watch = findById(project_.watches, end))
      if (const auto* point = std::get_if<PointFigure>(&watch->figure); point != nullptr && parts_ > 0)
        return {partNearest({point->place.x.si, point->place.y.si, point->place.z.si})};
    const std::vector<PartId> parts = partsOn(end);
    return {parts.begin(), parts.end()};
  }

  void joinLink(const Link& link)
  {
    std::visit(
        [&](const auto& kind) {
          if constexpr (requires { kind.upstream; }) {
            for (const int body : bodiesOf(kind.downstream)) // a flow carries its heat on
              anchors_.push_back(body);
          } else {
            for (const int a : bodiesOf(kind.endA))
              for (const int b : bodiesOf(kind.endB))
                join(a, b);
            if constexpr (std::is_same_v<std::decay_t<decltype(kind)>, Wire>)
              if (kind.coefficient) // it loses heat at its side
                for (const int body : bodiesOf(kind.endA))
                  anchors_.push_back(body);
          }
        },
        link.exchange);
  }

  void addBoundary(const Boundary& boundary)
  {
    if (std::holds_alternative<FixedVoltage>(boundary.condition) ||
        std::holds_alternative<CurrentIn>(boundary.condition) || std::holds_alternative<Sheet>(boundary.condition))
      return;
    if (const std::string& node = nodeOf(boundary); !node.empty()) {
      for (const PartId part : partsOn(surfaceOf(boundary)))
        for (const int body : bodiesOf(node))
          join(part, body);
      return;
    }
    if (const auto* fixed = std::get_if<FixedPart>(&boundary.condition))
      anchors_.push_back(geometry_.partIndex(fixed->part));
    if (const auto* fixed = std::get_if<FixedPoint>(&boundary.condition))
      anchors_.push_back(partNearest(Vec3(fixed->place.x.si, fixed->place.y.si, fixed->place.z.si)));
    const auto* convection = std::get_if<Convection>(&boundary.condition);
    if (convection != nullptr && convection->coefficient.si <= 0)
      return;
    for (const PartId part : partsOn(surfaceOf(boundary)))
      anchors_.push_back(part);
  }

  /// By bounding boxes: good enough to say which part a point holds.
  [[nodiscard]] PartId partNearest(const Vec3& place) const
  {
    PartId best(0);
    double distance = std::numeric_limits<double>::infinity();
    double bestVolume = 0;
    for (std::size_t p = 0; p < geometry_.parts.size(); ++p) {
      const GeometryPart& part = geometry_.parts[p];
      const double away = (part.low - place).cwiseMax(place - part.high).cwiseMax(0).norm();
      if (away < distance || (away == distance && part.volume < bestVolume)) {
        distance = away;
        bestVolume = part.volume;
        best = PartId(p);
      }
    }
    return best;
  }

  std::vector<Finding> lost()
  {
    std::set<std::size_t> anchored;
    for (const int body : anchors_)
      if (body >= 0)
        anchored.insert(islands_.find(at(body)));
    std::map<std::size_t, std::vector<int>> islands;
    const int bodies = parts_ + static_cast<int>(project_.nodes.size());
    for (int body = 0; body < bodies; ++body)
      if (const std::size_t island = islands_.find(at(body)); !anchored.contains(island) && !isMutedNode(body))
        islands[island].push_back(body);
    std::vector<Finding> findings;
    for (const auto& [first, members] : islands)
      findings.push_back(findingFor(members));
    return findings;
  }
  [[nodiscard]] bool isMutedNode(int body) const { return body >= parts_ && project_.nodes[at(body - parts_)].muted; }

  [[nodiscard]] Finding findingFor(const std::vector<int>& bodies) const
  {
    std::string names;
    bool anyPart = false;
    for (const int body : bodies) {
      anyPart = anyPart || body < parts_;
      names += (names.empty() ? "" : ", ") +
               (body < parts_ ? geometry_.parts[at(body)].name : project_.nodes[at(body - parts_)].name);
    }
    const int first = bodies.front();
    if (!anyPart)
      return {Finding::Severity::Error, project_.nodes[at(first - parts_)].id,
              (bodies.size() > 1 ? "nodes " : "node ") + names,
              "There is no path for heat out of it: no link, flow or surface ties it to anything at a temperature.",
              "Link it, let a boundary exchange with it, or hold its temperature."};
    return {Finding::Severity::Error, geometry_.parts[at(first)].id, (bodies.size() > 1 ? "parts " : "part ") + names,
            "There is no path for heat out of it: no boundary on it and no contact to a part that has one.",
            "Add a boundary, or let it touch another part."};
  }

  const Project& project_;
  const FaceTable& geometry_;
  int parts_;
  Joining islands_;
  std::vector<int> anchors_;
};

} // namespace

std::vector<Finding> checkWaysOut(const Project& project, const FaceTable& geometry)
{
  return Islands(project, geometry).run();
}

} // namespace kiln
