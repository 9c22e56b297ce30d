// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "run/LaterWatches.h"

#include "geometry/SurfaceFaces.h"
#include "heat/watches/WatchReader.h"
#include "results/UnstoredParts.h"

#include <algorithm>

namespace kiln
{
namespace
{

/// What was recorded of the very thing that a watch is of, and its sign; nothing for watches of temperatures of parts.
std::pair<const RunTrace*, double> recordedOf(const RunRecord& record, const Watch& watch)
{
  using enum RunTrace::Kind;
  if (const auto* node = std::get_if<NodeFigure>(&watch.figure))
    return {record.find(NodeState, node->node), 1};
  if (const auto* link = std::get_if<LinkHeat>(&watch.figure))
    return {record.find(Link, link->link), 1};
  if (const auto* contact = std::get_if<ContactHeat>(&watch.figure)) {
    if (const RunTrace* same = record.find(Contact, pairId(contact->partA, contact->partB)))
      return {same, 1};
    return {record.find(Contact, pairId(contact->partB, contact->partA)), -1};
  }
  return {nullptr, 1};
}

/// Heat through a surface as the sum of what was recorded of the conditions on it, W at every step; nothing where one
/// of them reaches beyond it, or where heat crosses that was not recorded by condition.
std::optional<std::vector<double>> heatThrough(const Project& project, const FaceTable& geometry,
                                               const RunRecord& record, const std::string& surface)
{
  const std::vector<FaceId> faces = facesOf(project, geometry, surface).faces;
  const auto within = [&](const std::string& other) { // faces of another surface that are of this one, and all it has
    const std::vector<FaceId> all = facesOf(project, geometry, other).faces;
    const auto shared = std::count_if(
        all.begin(), all.end(), [&](FaceId face) { return std::binary_search(faces.begin(), faces.end(), face); });
    return std::pair(static_cast<std::size_t>(shared), all.size());
  };
  const auto meets = [&](const std::string& other) { return !other.empty() && within(other).first > 0; };
  const auto exposed = [&](FaceId face) { return geometry.faces[static_cast<std::size_t>(face)].exposed(); };
  if (faces.empty() || !std::all_of(faces.begin(), faces.end(), exposed))
    return std::nullopt;
  for (const Enclosure& enclosure : project.enclosures)
    if (!enclosure.muted && std::any_of(enclosure.surfaces.begin(), enclosure.surfaces.end(), meets))
      return std::nullopt;
  for (const Link& link : project.links)
    if (std::visit(
            [&](const auto& kind) {
              if constexpr (requires { kind.endA; })
                return meets(kind.endA) || meets(kind.endB);
              return false;
            },
            link.exchange))
      return std::nullopt;
  std::vector<double> watts(record.times.size(), 0.0);
  const auto add = [&](RunTrace::Kind kind, const std::string& id, const std::string& on) {
    const auto [shared, all] = within(on);
    const RunTrace* trace = record.find(kind, id);
    if (shared < all || trace == nullptr || trace->values.size() != watts.size())
      return false;
    for (std::size_t i = 0; i < watts.size(); ++i)
      watts[i] += trace->values[i];
    return true;
  };
  for (const Boundary& boundary : project.boundaries) {
    const std::string& on = surfaceOf(boundary);
    if (!meets(on) || std::holds_alternative<Sheet>(boundary.condition))
      continue;
    const bool plain = nodeOf(boundary).empty() && !std::holds_alternative<FlowPassage>(boundary.condition) &&
                       !std::holds_alternative<FixedVoltage>(boundary.condition) &&
                       !std::holds_alternative<CurrentIn>(boundary.condition);
    if (!plain || !add(RunTrace::Kind::Boundary, boundary.id, on))
      return std::nullopt;
  }
  for (const HeatSource& source : project.sources) {
    if (const auto* beam = std::get_if<Beam>(&source.heat))
      if (std::any_of(beam->surfaces.begin(), beam->surfaces.end(), meets))
        return std::nullopt;
    if (meets(surfaceOf(source)) && !add(RunTrace::Kind::Source, source.id, surfaceOf(source)))
      return std::nullopt;
  }
  return watts;
}

/// Is it of temperatures of the parts, which every stored instant has?
bool ofParts(const Watch& watch)
{
  return std::holds_alternative<PartFigure>(watch.figure) || std::holds_alternative<SurfaceFigure>(watch.figure) ||
         std::holds_alternative<PointFigure>(watch.figure);
}

/// Values, slopes and places at the stored instants, brought to the steps.
class Later
{
public:
  Later(const Watch& watch, WatchReader reader) : watch_(watch), reader_(std::move(reader)) {}

  void read(std::span<const double> field, const Unknowns& unknowns)
  {
    const auto reading = reader_.read({field});
    values_.push_back(reading->value);
    places_.push_back(unknowns.node[static_cast<std::size_t>(*reading->at)]);
  }

  void addTo(RunRecord& record) const
  {
    using enum RunTrace::Kind;
    RunTrace value{Watch, watch_.id, {}};
    RunTrace slope{WatchSlope, watch_.id, {}};
    RunTrace place{WatchPlace, watch_.id, {}};
    for (const double time : record.times) {
      const auto after = std::upper_bound(record.instants.begin() + 1, record.instants.end() - 1, time);
      const auto i = static_cast<std::size_t>(after - record.instants.begin());
      const double length = record.instants[i] - record.instants[i - 1];
      slope.values.push_back(length > 0 ? (values_[i] - values_[i - 1]) / length : 0);
      value.values.push_back(values_[i - 1] + slope.values.back() * (time - record.instants[i - 1]));
      place.values.push_back(places_[time - record.instants[i - 1] < length / 2 ? i - 1 : i]);
    }
    for (RunTrace* trace : {&value, &slope, &place})
      record.traces.push_back(std::move(*trace));
  }

private:
  const kiln::Watch& watch_;
  WatchReader reader_;
  std::vector<double> values_, places_;
};

} // namespace

bool lacksWatches(const Project& project, const RunRecord& record)
{
  return record.instants.size() > 1 &&
         std::any_of(project.watches.begin(), project.watches.end(), [&](const Watch& watch) {
           return record.find(RunTrace::Kind::Watch, watch.id) == nullptr &&
                  (ofParts(watch) || std::holds_alternative<SurfaceHeat>(watch.figure) ||
                   recordedOf(record, watch).first != nullptr);
         });
}

void addLaterWatches(const Project& project, const Mesh& mesh, const Unknowns& unknowns, const InstantReader& fields,
                     RunRecord& record)
{
  if (record.instants.size() < 2)
    return;
  std::vector<Later> later;
  std::vector<RunTrace> copies;
  for (const Watch& watch : project.watches) {
    if (record.find(RunTrace::Kind::Watch, watch.id) != nullptr)
      continue;
    if (const auto [trace, sign] = recordedOf(record, watch); trace != nullptr) {
      RunTrace& copy = copies.emplace_back(RunTrace{RunTrace::Kind::Watch, watch.id, trace->values});
      for (double& value : copy.values)
        value *= sign;
    } else if (const auto* surface = std::get_if<SurfaceHeat>(&watch.figure)) {
      if (auto watts = heatThrough(project, mesh.geometry, record, surface->surface))
        copies.push_back({RunTrace::Kind::Watch, watch.id, std::move(*watts)});
    } else if (WatchReader reader({project, mesh, unknowns, {}}, watch); reader.ofTemperatures()) {
      later.emplace_back(watch, std::move(reader));
    }
  }
  for (std::size_t i = 0; !later.empty() && i < record.instants.size(); ++i) {
    auto field = fields.field(i);
    if (!field || field->size() != unknowns.node.size()) // of another mesh
      return;
    fillUnstored(record, mesh, unknowns, record.instants[i], *field);
    for (Later& one : later)
      one.read(*field, unknowns);
  }
  for (const Later& one : later)
    one.addTo(record);
  for (RunTrace& copy : copies)
    record.traces.push_back(std::move(copy));
}

} // namespace kiln
