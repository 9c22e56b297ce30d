// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "geometry/NamedFaces.h"

#include <BRepAdaptor_Surface.hxx>
#include <BRepGProp.hxx>
#include <GProp_GProps.hxx>
#include <TopExp.hxx>
#include <TopExp_Explorer.hxx>
#include <TopoDS.hxx>
#include <algorithm>
#include <gp_Pln.hxx>

namespace kiln
{

std::vector<TopoDS_Face> facesNamed(const NamedBody& body, const std::string& name)
{
  std::vector<TopoDS_Face> faces;
  for (const auto& [face, own] : body.names) {
    const auto same = [&face = face](const TopoDS_Face& other) { return other.IsSame(face); };
    if (own == name && std::none_of(faces.begin(), faces.end(), same)) // joined faces have their name from both
      faces.push_back(face);
  }
  return faces;
}

std::vector<std::string> namesOf(const NamedBody& body, const TopoDS_Shape& face)
{
  std::vector<std::string> names;
  for (const auto& [own, name] : body.names)
    if (own.IsSame(face))
      names.push_back(name);
  return names;
}

TopoDS_Face orientedIn(const TopoDS_Shape& body, const TopoDS_Face& face)
{
  for (TopExp_Explorer faces(body, TopAbs_FACE); faces.More(); faces.Next())
    if (faces.Current().IsSame(face))
      return TopoDS::Face(faces.Current());
  return face;
}

std::optional<gp_Dir> flatNormal(const TopoDS_Face& face)
{
  const BRepAdaptor_Surface surface(face);
  if (surface.GetType() != GeomAbs_Plane)
    return std::nullopt;
  gp_Dir normal = surface.Plane().Position().Direction();
  if (!surface.Plane().Direct())
    normal.Reverse();
  if (face.Orientation() == TopAbs_REVERSED)
    normal.Reverse();
  return normal;
}

double volumeOf(const TopoDS_Shape& shape)
{
  GProp_GProps properties;
  BRepGProp::VolumeProperties(shape, properties);
  return properties.Mass();
}

EdgeFaces edgeFaces(const TopoDS_Shape& shape)
{
  EdgeFaces map;
  TopExp::MapShapesAndAncestors(shape, TopAbs_EDGE, TopAbs_FACE, map);
  return map;
}

} // namespace kiln
