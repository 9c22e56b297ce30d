// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
//
// What is selected, and what lights up in the scene for it.
#include "document/Document.h"

#include "heat/boundaries/GapCrossing.h"

#include "geometry/SurfaceFaces.h"
#include "geometry/TouchingPairs.h"
#include "model/Edit.h"

#include <algorithm>
#include <utility>

namespace kiln
{

void Document::toggleStep(const std::string& step)
{
  if (!openSteps_.erase(step))
    openSteps_.insert(step);
  emit projectChanged(); // opened rows build themselves anew
}

void Document::toggleGroup(const std::string& groupId)
{
  if (!foldedGroups_.erase(groupId))
    foldedGroups_.insert(groupId);
  emit foldingChanged();
}

void Document::toggleSelected(const std::string& objectId)
{
  if (std::erase(selectedIds_, objectId) == 0)
    selectedIds_.push_back(objectId);
  selectedId_ = selectedIds_.empty() ? std::string() : selectedIds_.front();
  light();
}

/// The same again on another mesh.
void Document::relight()
{
  if (pickedFaces_.empty())
    light();
  else
    pickFaces(std::vector<std::string>(pickedFaces_));
}

void Document::pickFaces(std::vector<std::string> faces)
{
  pickedFaces_ = std::move(faces);
  const auto mesh = shownMesh();
  if (mesh && !pickedFaces_.empty()) {
    Surface surface;
    surface.faces = pickedFaces_;
    const std::vector<int> found = facesOf(shownProject_, mesh->geometry, surface).faces;
    litFaces_ = {found.begin(), found.end()};
    litParts_.clear();
  }
  emit selectionChanged();
  emit pickedFacesChanged();
}

void Document::select(const std::string& objectId)
{
  if (objectId != selectedId_ || selectedIds_.size() != 1)
    selectedIds_ = objectId.empty() ? std::vector<std::string>{} : std::vector<std::string>{objectId};
  selectedId_ = objectId;
  if (!pickedFaces_.empty()) {
    pickedFaces_.clear();
    emit pickedFacesChanged();
  }
  light();
}

/// Lights what belongs to the selected object.
void Document::light()
{
  const std::string& objectId = selectedId_;
  litFaces_.clear();
  litParts_.clear();
  const std::shared_ptr<const Mesh> mesh = shownMesh();
  if (mesh) {
    const FaceTable& geometry = mesh->geometry;
    const auto lightPart = [&](const std::string& id) {
      if (const int part = geometry.partIndex(id); part != noPart)
        litParts_.insert(part);
    };
    const auto lightSurface = [&](const std::string& id) {
      for (const int face : facesOf(shownProject_, geometry, id).faces)
        litFaces_.insert(face);
    };
    lightPart(objectId);
    lightSurface(objectId);
    if (const Boundary* boundary = findById(project_.boundaries, objectId)) {
      lightSurface(surfaceOf(*boundary));
      if (const auto* fixed = std::get_if<FixedPart>(&boundary->condition))
        lightPart(fixed->part);
    }
    if (const HeatSource* source = findById(project_.sources, objectId)) {
      lightSurface(surfaceOf(*source));
      std::visit(
          [&](const auto& heat) {
            if constexpr (requires { heat.parts; })
              for (const std::string& part : expandGroups(project_, heat.parts))
                lightPart(part);
          },
          source->heat);
    }
    for (const TouchingPair& pair : touchingPairs(geometry)) {
      const std::string& a = geometry.parts[static_cast<std::size_t>(pair.partA)].id;
      const std::string& b = geometry.parts[static_cast<std::size_t>(pair.partB)].id;
      if (objectId == pairId(a, b))
        litFaces_.insert(pair.faces.begin(), pair.faces.end());
    }
    for (const ContactPiece& piece : contactPieces(project_, geometry))
      if (piece.contact != nullptr && piece.contact->id == objectId)
        litFaces_.insert(piece.faces.begin(), piece.faces.end());
    if (const Enclosure* enclosure = findById(project_.enclosures, objectId))
      for (const std::string& surface : enclosure->surfaces)
        lightSurface(surface);
    if (const Contact* contact = findById(project_.contacts, objectId))
      lightGap(*mesh, *contact);
  }
  emit selectionChanged();
}

/// Both sides of a gap between parts that share no faces.
void Document::lightGap(const Mesh& mesh, const Contact& contact)
{
  const auto* gap = std::get_if<Gap>(&contact.exchange);
  const int a = mesh.geometry.partIndex(contact.partA);
  const int b = mesh.geometry.partIndex(contact.partB);
  if (gap == nullptr || a == noPart || b == noPart || touch(mesh.geometry, a, b))
    return;
  for (const GapPoint& point : pointsAcross(mesh, a, b, gapReach * gap->thickness.si))
    for (const std::size_t element : {point.elementA, point.elementB})
      litFaces_.insert(elementFace(mesh, element));
}

void Document::lightFaces(const std::vector<int>& faces)
{
  litFaces_ = {faces.begin(), faces.end()};
  litParts_.clear();
  emit selectionChanged();
}

} // namespace kiln
