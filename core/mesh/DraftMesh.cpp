// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "mesh/DraftMesh.h"

#include "geometry/Brep.h"

#include <BRepBndLib.hxx>
#include <BRepMesh_IncrementalMesh.hxx>
#include <BRep_Builder.hxx>
#include <BRep_Tool.hxx>
#include <Bnd_Box.hxx>
#include <Poly_Triangulation.hxx>
#include <Standard_Failure.hxx>
#include <TopLoc_Location.hxx>
#include <TopoDS_Compound.hxx>
#include <cmath>
#include <numeric>

namespace kiln
{
namespace
{

/// Adds a face's triangles, their normals out of its first part.
void addFace(const TopoDS_Face& face, bool reversed, FaceId index, Mesh& mesh)
{
  TopLoc_Location location;
  const Handle(Poly_Triangulation) triangles = BRep_Tool::Triangulation(face, location);
  if (triangles.IsNull())
    return;
  const auto first = static_cast<std::int32_t>(mesh.nodes.size());
  for (int i = 1; i <= triangles->NbNodes(); ++i) {
    const gp_Pnt p = triangles->Node(i).Transformed(location.Transformation());
    mesh.nodes.emplace_back(p.X(), p.Y(), p.Z());
  }
  for (int i = 1; i <= triangles->NbTriangles(); ++i) {
    int a = 0, b = 0, c = 0;
    triangles->Triangle(i).Get(a, b, c);
    if (reversed)
      std::swap(b, c);
    mesh.triangles.push_back({NodeId(first + a - 1), NodeId(first + b - 1), NodeId(first + c - 1)});
    mesh.triangleFace.push_back(index);
    mesh.triangleTets.push_back({-1, -1});
  }
}

} // namespace

Expected<Mesh> draftMesh(const Geometry& geometry)
{
  try {
    TopoDS_Compound all;
    const BRep_Builder builder;
    builder.MakeCompound(all);
    for (const TopoDS_Face& face : geometry.brep->faces)
      builder.Add(all, face);
    Bnd_Box box;
    BRepBndLib::Add(all, box);
    constexpr double chord = 1e-3; // of the model's extent
    constexpr double angle = 0.35; // rad between neighbouring triangles
    const BRepMesh_IncrementalMesh mesher(all, chord * std::sqrt(box.SquareExtent()), false, angle, true);
    Mesh mesh;
    mesh.geometry = geometry.table;
    for (std::size_t f = 0; f < geometry.brep->faces.size(); ++f)
      addFace(geometry.brep->faces[f], geometry.brep->reversed[f], FaceId(f), mesh);
    if (mesh.geometry.section.is()) { // every node is a column by itself
      mesh.column.resize(mesh.nodes.size());
      std::iota(mesh.column.begin(), mesh.column.end(), NodeId(0));
    }
    return mesh;
  } catch (const Standard_Failure&) {
    return failure(Failure::Kind::NotReady, "project", "Its faces could not be drawn.",
                   "Check the dimensions of the part that changed last.");
  }
}

} // namespace kiln
