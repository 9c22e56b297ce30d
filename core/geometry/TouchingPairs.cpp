// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "geometry/TouchingPairs.h"

#include "geometry/SurfaceFaces.h"

#include <algorithm>
#include <iterator>
#include <limits>
#include <map>

namespace kiln
{
namespace
{

struct ConductanceOf {
  double area;

  double operator()(const PerfectContact&) const { return std::numeric_limits<double>::infinity(); }
  double operator()(const NoContact&) const { return 0; }
  double operator()(const AreaConductance& c) const { return c.conductance.si; }
  double operator()(const AreaResistance& r) const { return 1 / r.resistance.si; }
  double operator()(const TotalResistance& r) const { return 1 / (r.resistance.si * area); }
  double operator()(const Gap& g) const { return g.conductivity.si / g.thickness.si; } // radiation comes on top
};

} // namespace

std::vector<TouchingPair> touchingPairs(const FaceTable& geometry)
{
  std::map<std::pair<PartId, PartId>, TouchingPair> pairs;
  for (std::size_t f = 0; f < geometry.faces.size(); ++f) {
    const Face& face = geometry.faces[f];
    if (!face.contact())
      continue;
    const auto [a, b] = std::minmax(face.parts[0], face.parts[1]);
    TouchingPair& pair = pairs[{a, b}];
    pair.partA = a;
    pair.partB = b;
    pair.faces.push_back(FaceId(f));
    pair.area += face.area;
  }
  std::vector<TouchingPair> list;
  for (auto& [key, pair] : pairs)
    list.push_back(std::move(pair));
  return list;
}

bool touch(const FaceTable& geometry, PartId partA, PartId partB)
{
  return std::any_of(geometry.faces.begin(), geometry.faces.end(),
                     [&](const Face& face) { return face.contact() && face.touches(partA) && face.touches(partB); });
}

std::vector<ContactPiece> contactPieces(const Project& project, const FaceTable& geometry,
                                        std::vector<ContactClash>* clashes)
{
  std::map<const Contact*, std::vector<FaceId>> claimed; // faces, by the contact that names them
  for (const Contact& contact : project.contacts)
    if (!contact.surface.empty() && !contact.muted)
      claimed[&contact] = facesOf(project, geometry, contact.surface).faces;
  const auto claims = [&](const Contact& contact, FaceId face) {
    const std::vector<FaceId>& faces = claimed[&contact];
    return std::find(faces.begin(), faces.end(), face) != faces.end();
  };
  std::vector<ContactPiece> pieces;
  for (const TouchingPair& pair : touchingPairs(geometry)) {
    const std::string& a = geometry.parts[static_cast<std::size_t>(pair.partA)].id;
    const std::string& b = geometry.parts[static_cast<std::size_t>(pair.partB)].id;
    const Contact* whole = findContact(project, a, b);
    std::vector<ContactPiece> own{
        {{pair.partA, pair.partB, {}, 0}, whole != nullptr && !whole->muted ? whole : nullptr}};
    for (const Contact& contact : project.contacts)
      if (!contact.surface.empty() && !contact.muted && joins(contact, a, b))
        own.push_back({{pair.partA, pair.partB, {}, 0}, &contact});
    for (const FaceId face : pair.faces) {
      ContactPiece* found = nullptr;
      const double area = geometry.faces[static_cast<std::size_t>(face)].area;
      for (std::size_t i = 1; i < own.size(); ++i) {
        if (!claims(*own[i].contact, face))
          continue;
        if (found != nullptr && clashes != nullptr)
          clashes->push_back({found->contact, own[i].contact, area});
        found = found != nullptr ? found : &own[i];
      }
      found = found != nullptr ? found : &own.front();
      found->faces.push_back(face);
      found->area += area;
    }
    std::erase_if(own, [](const ContactPiece& piece) { return piece.faces.empty(); });
    std::move(own.begin(), own.end(), std::back_inserter(pieces));
  }
  return pieces;
}

double contactConductance(const ContactPiece& piece)
{
  if (piece.contact == nullptr)
    return std::numeric_limits<double>::infinity();
  return std::visit(ConductanceOf{piece.area}, piece.contact->exchange);
}

} // namespace kiln
