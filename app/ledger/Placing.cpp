// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "ledger/Placing.h"

#include "model/RoundNumber.h"

#include <QCoreApplication>
#include <algorithm>

namespace kiln
{
namespace
{

QString tr(const char* text) { return QCoreApplication::translate("Placing", text); }

const Face* faceNamed(const FaceTable& geometry, const std::string& name)
{
  for (const Face& face : geometry.faces)
    if (std::find(face.names.begin(), face.names.end(), name) != face.names.end())
      return &face;
  return nullptr;
}

} // namespace

const std::vector<std::pair<const char*, Placing>>& placings()
{
  static const std::vector<std::pair<const char*, Placing>> list{
      {QT_TRANSLATE_NOOP("Placing", "Sit on it"), Placing::SitOn},
      {QT_TRANSLATE_NOOP("Placing", "Centre on it"), Placing::CentreOn},
      {QT_TRANSLATE_NOOP("Placing", "Sit on it, centred"), Placing::SitCentred},
      {QT_TRANSLATE_NOOP("Placing", "Align the low edges"), Placing::AlignLow},
      {QT_TRANSLATE_NOOP("Placing", "Align the high edges"), Placing::AlignHigh}};
  return list;
}

std::optional<Number3> placedOnPicked(const Document& document, const std::string& partId, Placing how, QString& why)
{
  const auto mesh = document.shownMesh();
  const Part* part = findById(document.project().parts, partId);
  if (!mesh || part == nullptr || !document.geometryIsCurrent()) {
    why = tr("The shapes are still being built; try again in a moment.");
    return std::nullopt;
  }
  const FaceTable& geometry = mesh->geometry;
  const Face* target = nullptr;
  for (const std::string& name : document.pickedFaces())
    if (!name.starts_with(partId + "."))
      target = faceNamed(geometry, name);
  const int own = geometry.partIndex(partId);
  if (target == nullptr || own == noPart) {
    why = tr("Click a flat face of another part in the scene first.");
    return std::nullopt;
  }
  Eigen::Index axis = 0;
  const double along = target->normal.cwiseAbs().maxCoeff(&axis);
  if (!target->planar || along < 1 - 1e-6) {
    why = tr("The picked face is not flat across an axis; place the part by numbers.");
    return std::nullopt;
  }
  const GeometryPart& box = geometry.parts[static_cast<std::size_t>(own)];
  const GeometryPart& other = geometry.parts[static_cast<std::size_t>(target->parts[0])];
  Vec3 move = Vec3::Zero();
  if (how == Placing::SitOn || how == Placing::SitCentred)
    move[axis] = target->centroid[axis] - (target->normal[axis] > 0 ? box.low[axis] : box.high[axis]);
  for (Eigen::Index i = 0; i < 3; ++i) {
    if (i == axis)
      continue;
    if (how == Placing::CentreOn || how == Placing::SitCentred)
      move[i] = target->centroid[i] - (box.low[i] + box.high[i]) / 2;
    if (how == Placing::AlignLow)
      move[i] = other.low[i] - box.low[i];
    if (how == Placing::AlignHigh)
      move[i] = other.high[i] - box.high[i];
  }
  const Number3& now = part->shape.placement.position;
  return Number3{move.x() != 0 ? lengthNumber(now.x.si + move.x()) : now.x,
                 move.y() != 0 ? lengthNumber(now.y.si + move.y()) : now.y,
                 move.z() != 0 ? lengthNumber(now.z.si + move.z()) : now.z};
}

} // namespace kiln
