// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "geometry/TakenElements.h"

#include "base/PackedText.h"
#include "geometry/Forms.h"
#include "geometry/ShapeSteps.h"
#include "geometry/TakenShape.h"
#include "model/Edit.h"

#include <algorithm>
#include <cstring>
#include <map>
#include <sstream>

namespace kiln
{
namespace
{

/// Numbers as bytes, one after the other.
template <class T>
void put(std::string& bytes, const T& value)
{
  bytes.append(reinterpret_cast<const char*>(&value), sizeof value);
}

template <class T>
T take(const std::string& bytes, std::size_t& at)
{
  T value{};
  std::memcpy(&value, bytes.data() + at, sizeof value);
  at += sizeof value;
  return value;
}

TakenElements moved(TakenElements elements, const gp_Trsf& transform)
{
  for (Vec3& node : elements.nodes) {
    const gp_Pnt place = gp_Pnt(node.x(), node.y(), node.z()).Transformed(transform);
    node = Vec3(place.X(), place.Y(), place.Z());
  }
  return elements;
}

void append(TakenElements& all, const TakenElements& more)
{
  const auto first = static_cast<std::int32_t>(all.nodes.size());
  all.nodes.insert(all.nodes.end(), more.nodes.begin(), more.nodes.end());
  for (std::array<std::int32_t, 4> tet : more.tets) {
    for (std::int32_t& node : tet)
      node += first;
    all.tets.push_back(tet);
  }
}

} // namespace

double volumeOf(const TakenElements& elements, const std::array<std::int32_t, 4>& tet)
{
  const auto node = [&](std::size_t i) -> const Vec3& { return elements.nodes[static_cast<std::size_t>(tet[i])]; };
  return (node(1) - node(0)).cross(node(2) - node(0)).dot(node(3) - node(0)) / 6;
}

std::vector<std::array<std::int32_t, 3>> outerSides(const TakenElements& elements)
{
  using Side = std::array<std::int32_t, 3>;
  constexpr std::array<std::array<std::size_t, 3>, 4> sides{{{0, 2, 1}, {0, 1, 3}, {1, 2, 3}, {0, 3, 2}}};
  std::map<Side, std::pair<Side, int>> seen; // by sorted corners: as it is, how often
  for (const auto& tet : elements.tets)
    for (const auto& side : sides) {
      const Side own{tet[side[0]], tet[side[1]], tet[side[2]]};
      Side key = own;
      std::sort(key.begin(), key.end());
      auto& found = seen[key];
      found.first = own;
      ++found.second;
    }
  std::vector<Side> outer;
  for (const auto& [key, side] : seen)
    if (side.second == 1)
      outer.push_back(side.first);
  return outer;
}

SharedText packElements(const TakenElements& elements)
{
  std::string bytes;
  for (const Vec3& node : elements.nodes)
    for (int d = 0; d < 3; ++d)
      put(bytes, node[d]);
  for (const auto& tet : elements.tets)
    put(bytes, tet);
  return SharedText(std::to_string(elements.nodes.size()) + " " + std::to_string(elements.tets.size()) + " " +
                    packedText(bytes));
}

Expected<TakenElements> elementsOf(const TakenBody& body)
{
  const auto damaged = [&] {
    return failure(Failure::Kind::Unreadable, "body " + body.name, "The elements embedded with it are damaged.",
                   "Read its file again, or let its part be meshed anew.");
  };
  constexpr std::size_t nodeBytes = 3 * sizeof(double);
  constexpr std::size_t tetBytes = 4 * sizeof(std::int32_t);
  std::istringstream text(body.elements.text());
  std::uint64_t nodes = 0, tets = 0;
  std::string packed;
  text >> nodes >> tets >> packed;
  const auto bytes = unpackedText(packed);
  if (!bytes || nodes > bytes->size() || tets > bytes->size() || bytes->size() != nodeBytes * nodes + tetBytes * tets)
    return damaged();
  std::size_t at = 0;
  TakenElements elements;
  for (std::uint64_t i = 0; i < nodes; ++i) {
    Vec3 node;
    for (int d = 0; d < 3; ++d)
      node[d] = take<double>(*bytes, at);
    if (!node.allFinite())
      return damaged();
    elements.nodes.push_back(node);
  }
  for (std::uint64_t i = 0; i < tets; ++i) {
    elements.tets.push_back(take<std::array<std::int32_t, 4>>(*bytes, at));
    for (const std::int32_t node : elements.tets.back())
      if (node < 0 || static_cast<std::uint64_t>(node) >= nodes)
        return damaged();
  }
  return elements;
}

bool hasElements(const Project& project, const Part& part)
{
  const auto* form = std::get_if<FileBody>(&part.shape.form);
  const TakenBody* body = form != nullptr ? findBody(project, *form) : nullptr;
  return body != nullptr && !body->elements.empty();
}

bool keepsElements(const Project& project, const Part& part)
{
  return hasElements(project, part) && !std::get<FileBody>(part.shape.form).meshAnew && !project.section &&
         std::all_of(part.steps.begin(), part.steps.end(), [](const ShapeStep& step) { return step.muted; }) &&
         part.yieldsTo.empty();
}

const Part* firstThatKeeps(const Project& project)
{
  const auto found = std::find_if(project.parts.begin(), project.parts.end(), [&](const Part& part) {
    return !isMuted(project, part) && keepsElements(project, part);
  });
  return found != project.parts.end() ? &*found : nullptr;
}

ElementCount keptCount(const Project& project, const Part& part)
{
  ElementCount count;
  std::istringstream(findBody(project, std::get<FileBody>(part.shape.form))->elements.text()) >> count.nodes >>
      count.tets;
  const auto copies = static_cast<double>(copiesOf(part.repeat).size());
  return {count.nodes * copies, count.tets * copies};
}

Expected<std::vector<KeptElements>> keptElements(const Project& project, const FaceTable& table)
{
  std::vector<KeptElements> kept;
  for (std::size_t p = 0; p < table.parts.size(); ++p) {
    const Part* part = findById(project.parts, table.parts[p].id);
    if (part == nullptr || !keepsElements(project, *part))
      continue;
    const Expected<TakenElements> own = elementsOf(*findBody(project, std::get<FileBody>(part->shape.form)));
    if (!own)
      return tl::unexpected(own.error());
    const gp_Trsf placement = transformOf(part->shape.placement);
    KeptElements all{PartId(p), {}};
    for (const gp_Trsf& copy : copiesOf(part->repeat))
      append(all.elements, moved(*own, placement * copy));
    kept.push_back(std::move(all));
  }
  return kept;
}

} // namespace kiln
