// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "heat/Joints.h"

#include "base/At.h"
#include "geometry/SurfaceFaces.h"
#include "geometry/TouchingPairs.h"
#include "heat/boundaries/GapCrossing.h"
#include "heat/boundaries/JumpContact.h"
#include "model/Edit.h"

#include <cmath>

namespace kiln
{
namespace
{

/// Effective emissivity of two facing grey plates, 1/(1/ε₁ + 1/ε₂ − 1); 0 where radiation is not asked for.
double gapEmissivity(const Gap& gap)
{
  if (!gap.emissivityA || !gap.emissivityB)
    return 0;
  return 1 / (1 / gap.emissivityA->si + 1 / gap.emissivityB->si - 1);
}

double gapEmissivity(const ContactPiece& piece)
{
  const Gap* gap = piece.contact != nullptr ? std::get_if<Gap>(&piece.contact->exchange) : nullptr;
  return gap != nullptr ? gapEmissivity(*gap) : 0;
}

class JointResolver
{
public:
  JointResolver(const Project& project, const Mesh& mesh, const std::vector<double>& areaScale)
      : project_(project), mesh_(mesh), areaScale_(areaScale), jump_(mesh.geometry.faces.size(), false)
  {
  }

  Expected<Joints> resolve()
  {
    for (const ContactPiece& piece : contactPieces(project_, mesh_.geometry))
      addTouching(piece);
    for (const Boundary& boundary : project_.boundaries)
      if (const auto* sheet = std::get_if<Sheet>(&boundary.condition);
          sheet != nullptr && sheet->through && !boundary.muted)
        addBeneath(*sheet);
    joints_.unknowns = numberUnknowns(mesh_, jump_);
    for (const Contact& contact : project_.contacts)
      if (const auto* gap = std::get_if<Gap>(&contact.exchange); gap != nullptr && !contact.muted)
        if (const auto crossed = addCrossing(contact, *gap); !crossed)
          return tl::unexpected(crossed.error());
    return std::move(joints_);
  }

private:
  template <class Flow, class... Args>
  void add(Args&&... args)
  {
    joints_.flows.push_back(std::make_shared<const Flow>(std::forward<Args>(args)...));
  }
  /// None: no contact says it.
  [[nodiscard]] FlowOwner ownerOf(const Contact* contact) const
  {
    return {FlowOwner::Kind::Contact, contact != nullptr ? static_cast<int>(contact - project_.contacts.data()) : -1};
  }

  void addTouching(const ContactPiece& piece)
  {
    const double conductance = contactConductance(piece);
    if (std::isinf(conductance))
      return;
    std::vector<JumpContact::OnFace> on;
    for (const FaceId face : piece.faces) {
      jump_[at(face)] = true;
      on.push_back({face, conductance * areaScale_[at(face)], gapEmissivity(piece) * areaScale_[at(face)]});
    }
    if (conductance > 0)
      add<JumpContact>(ownerOf(piece.contact), std::move(on));
  }

  /// What lies between a sheet with temperatures of its own and the part.
  void addBeneath(const Sheet& sheet)
  {
    std::vector<JumpContact::OnFace> on;
    for (const FaceId face : facesOf(project_, mesh_.geometry, sheet.surface).faces)
      if (mesh_.geometry.faces[at(face)].exposed() && !jump_[at(face)]) {
        jump_[at(face)] = true;
        on.push_back({face, areaScale_[at(face)] / sheet.through->si});
      }
    add<JumpContact>(FlowOwner{FlowOwner::Kind::Parts, -1}, std::move(on));
  }

  /// A gap between parts that share no faces is empty space that heat crosses.
  Expected<void> addCrossing(const Contact& contact, const Gap& gap)
  {
    const PartId partA = mesh_.geometry.partIndex(contact.partA);
    const PartId partB = mesh_.geometry.partIndex(contact.partB);
    if (partA == noPart || partB == noPart || touch(mesh_.geometry, partA, partB) ||
        &contact != findContact(project_, contact.partA, contact.partB))
      return {};
    const double reach = gapReach * gap.thickness.si;
    auto points = pointsAcross(mesh_, partA, partB, reach);
    if (points.empty())
      return failure(Failure::Kind::NotReady, "contact " + contact.name,
                     "No faces of its parts look at each other from closer than " +
                         formatQuantity(reach, Quantity::Length, {}, 3) + ".",
                     "Correct its thickness, move the parts together, or remove the contact.");
    add<GapCrossing>(ownerOf(&contact), partA, partB,
                     GapCrossing::Law{gap.conductivity.si / gap.thickness.si, gapEmissivity(gap)}, std::move(points));
    return {};
  }

  const Project& project_;
  const Mesh& mesh_;
  const std::vector<double>& areaScale_;
  std::vector<bool> jump_; // by face
  Joints joints_;
};

} // namespace

Expected<Joints> resolveJoints(const Project& project, const Mesh& mesh, const std::vector<double>& areaScale)
{
  return JointResolver(project, mesh, areaScale).resolve();
}

} // namespace kiln
