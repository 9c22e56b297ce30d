// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "document/Lighting.h"

#include "geometry/SurfaceFaces.h"
#include "geometry/TouchingPairs.h"
#include "heat/boundaries/GapCrossing.h"
#include "model/Edit.h"
#include "model/References.h"

namespace kiln
{
namespace
{

/// Both sides of a gap between parts that share no faces.
void lightGap(const Mesh& mesh, const Contact& contact, Lit& lit)
{
  const auto* gap = std::get_if<Gap>(&contact.exchange);
  const PartId a = mesh.geometry.partIndex(contact.partA);
  const PartId b = mesh.geometry.partIndex(contact.partB);
  if (gap == nullptr || a == noPart || b == noPart || touch(mesh.geometry, a, b))
    return;
  for (const GapPoint& point : pointsAcross(mesh, a, b, gapReach * gap->thickness.si))
    for (const std::size_t element : {point.elementA, point.elementB})
      lit.faces.insert(elementFace(mesh, element));
}

void lightContacts(const Project& shown, const Mesh& mesh, const std::string& id, Lit& lit)
{
  const FaceTable& geometry = mesh.geometry;
  for (const TouchingPair& pair : touchingPairs(geometry)) {
    const std::string& a = geometry.parts[static_cast<std::size_t>(pair.partA)].id;
    const std::string& b = geometry.parts[static_cast<std::size_t>(pair.partB)].id;
    if (id == pairId(a, b))
      lit.faces.insert(pair.faces.begin(), pair.faces.end());
  }
  for (const ContactPiece& piece : contactPieces(shown, geometry))
    if (piece.contact != nullptr && piece.contact->id == id)
      lit.faces.insert(piece.faces.begin(), piece.faces.end());
  if (const Contact* contact = findById(shown.contacts, id))
    lightGap(mesh, *contact, lit);
}

} // namespace

Lit litBy(const Project& shown, const Mesh& mesh, const std::string& objectId)
{
  Lit lit;
  const auto light = [&](const std::string& id) {
    if (const PartId part = mesh.geometry.partIndex(id); part != noPart)
      lit.parts.insert(part);
    for (const FaceId face : facesOf(shown, mesh.geometry, id).faces)
      lit.faces.insert(face);
  };
  light(objectId);
  constexpr Refers standing = Refers::Source | Refers::Boundary | Refers::Enclosure;
  if (kindOfObject(shown, objectId) & standing) // on what it names
    forEachReference(shown, [&](const ReferenceUse& use) {
      if (use.holderId == objectId && use.text != nullptr && use.ofObject &&
          use.spec.to & (Refers::Surface | Refers::Part))
        for (const std::string& id : expandGroups(shown, {*use.text}))
          light(id);
    });
  lightContacts(shown, mesh, objectId, lit);
  return lit;
}

Lit litFaces(const Project& shown, const Mesh& mesh, const std::vector<std::string>& names)
{
  Surface surface;
  surface.faces = names;
  const std::vector<FaceId> found = facesOf(shown, mesh.geometry, surface).faces;
  return {{found.begin(), found.end()}, {}};
}

} // namespace kiln
