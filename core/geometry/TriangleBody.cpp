// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "geometry/TriangleBody.h"

#include "base/At.h"
#include "geometry/SurfaceSoup.h"
#include "geometry/TakenShape.h"
#include "units/Quantity.h"

#include <BRepBndLib.hxx>
#include <BRepBuilderAPI_MakeEdge.hxx>
#include <BRepBuilderAPI_MakeFace.hxx>
#include <BRepBuilderAPI_MakeVertex.hxx>
#include <BRepMesh_IncrementalMesh.hxx>
#include <BRep_Builder.hxx>
#include <BRep_Tool.hxx>
#include <Bnd_Box.hxx>
#include <Poly_Triangulation.hxx>
#include <ShapeUpgrade_UnifySameDomain.hxx>
#include <Standard_Failure.hxx>
#include <TopExp.hxx>
#include <TopExp_Explorer.hxx>
#include <TopTools_IndexedMapOfShape.hxx>
#include <TopoDS.hxx>
#include <TopoDS_Edge.hxx>
#include <TopoDS_Shell.hxx>
#include <TopoDS_Solid.hxx>
#include <TopoDS_Vertex.hxx>
#include <TopoDS_Wire.hxx>
#include <fstream>
#include <gp_Pln.hxx>
#include <map>

namespace kiln
{
namespace
{

/// A shell of flat triangles that share their edges.
class ShellBuilder
{
public:
  ShellBuilder(const TriangleShell& shell, double unit) : shell_(shell)
  {
    for (const Vec3& point : shell.points) {
      const Vec3 place = unit * point;
      places_.emplace_back(place.x(), place.y(), place.z());
      vertices_.push_back(BRepBuilderAPI_MakeVertex(places_.back()).Vertex());
    }
  }

  /// Its faces, with the number of the region each belongs to.
  std::vector<std::pair<TopoDS_Face, int>> faces;

  TopoDS_Shell build()
  {
    TopoDS_Shell skin;
    builder_.MakeShell(skin);
    for (std::size_t t = 0; t < shell_.triangles.size(); ++t) {
      const auto& corner = shell_.triangles[t];
      const gp_Vec a(places_[at(corner[0])], places_[at(corner[1])]);
      const gp_Vec b(places_[at(corner[0])], places_[at(corner[2])]);
      TopoDS_Wire wire;
      builder_.MakeWire(wire);
      for (std::size_t i = 0; i < 3; ++i)
        builder_.Add(wire, edge(corner[i], corner[(i + 1) % 3]));
      wire.Closed(true);
      const TopoDS_Face face =
          BRepBuilderAPI_MakeFace(gp_Pln(places_[at(corner[0])], gp_Dir(a.Crossed(b))), wire, true).Face();
      builder_.Add(skin, face);
      faces.emplace_back(face, shell_.face[t]);
    }
    skin.Closed(true);
    return skin;
  }

private:
  TopoDS_Shape edge(int from, int to)
  {
    const auto key = std::minmax(from, to);
    auto found = edges_.find(key);
    if (found == edges_.end())
      found = edges_.emplace(key, BRepBuilderAPI_MakeEdge(vertices_[at(key.first)], vertices_[at(key.second)]).Edge())
                  .first;
    return from < to ? TopoDS_Shape(found->second) : found->second.Reversed();
  }

  const TriangleShell& shell_;
  BRep_Builder builder_;
  std::vector<gp_Pnt> places_;
  std::vector<TopoDS_Vertex> vertices_;
  std::map<std::pair<int, int>, TopoDS_Edge> edges_;
};

Bnd_Box boxOf(const TriangleShell& shell)
{
  Bnd_Box box;
  for (const Vec3& point : shell.points)
    box.Add(gp_Pnt(point.x(), point.y(), point.z()));
  return box;
}

bool isInside(const Bnd_Box& inner, const Bnd_Box& outer)
{
  return !inner.IsVoid() && !outer.IsVoid() && !outer.IsOut(inner.CornerMin()) && !outer.IsOut(inner.CornerMax());
}

std::string problemOf(const TriangleShell& shell, double unit)
{
  const auto where = [&] {
    const Vec3 place = unit * shell.faultAt;
    return ", the first near (" + formatQuantity(place.x(), Quantity::Length) + ", " +
           formatQuantity(place.y(), Quantity::Length) + ", " + formatQuantity(place.z(), Quantity::Length) + ")";
  };
  if (shell.openEdges > 0)
    return "Its skin leaks at " + std::to_string(shell.openEdges) + " edges" + where();
  if (shell.crossings > 0)
    return std::to_string(shell.crossings) + " pairs of its triangles cut each other" + where();
  constexpr std::size_t most = 60000;
  if (shell.triangles.size() > most)
    return "It has " + std::to_string(shell.triangles.size()) + " triangles; more than " + std::to_string(most) +
           " are not taken as one body";
  return {};
}

NamedShape solidOf(const std::vector<const TriangleShell*>& skins, double unit, const std::string& name)
{
  const BRep_Builder builder;
  TopoDS_Solid solid;
  builder.MakeSolid(solid);
  std::vector<std::pair<TopoDS_Face, int>> faces;
  int regions = 0;
  for (std::size_t i = 0; i < skins.size(); ++i) {
    ShellBuilder shell(*skins[i], unit);
    const TopoDS_Shape skin = shell.build();
    builder.Add(solid, i == 0 ? skin : skin.Reversed());
    for (const auto& [face, region] : shell.faces)
      faces.emplace_back(face, region + regions);
    for (const int region : skins[i]->face)
      regions = std::max(regions, region + 1);
  }
  ShapeUpgrade_UnifySameDomain merge(solid, true, true, false);
  merge.Build();
  NamedShape named{name, merge.Shape(), {}, {}};
  const Handle(BRepTools_History) history = merge.History();
  TopTools_IndexedMapOfShape order;
  TopExp::MapShapes(named.shape, TopAbs_FACE, order);
  named.faces.resize(static_cast<std::size_t>(order.Extent()), "f1");
  for (const auto& [face, region] : faces) {
    const TopTools_ListOfShape& after = history->Modified(face);
    if (const int f = order.FindIndex(after.IsEmpty() ? TopoDS_Shape(face) : after.First()); f > 0)
      named.faces[at(f - 1)] = "f" + std::to_string(region + 1);
  }
  return named;
}

} // namespace

Expected<std::vector<NamedShape>> readTriangles(const std::filesystem::path& path, double unit, double featureAngle)
{
  const Expected<std::vector<TriangleShell>> shells = readShells(path, featureAngle);
  if (!shells)
    return tl::unexpected(shells.error());
  std::vector<NamedShape> solids;
  const std::string base = path.stem().string();
  std::map<std::string, int> numbers; // of solids with one name
  for (const TriangleShell& outer : *shells) {
    if (outer.inward && shells->size() > 1)
      continue;
    std::vector<const TriangleShell*> skins{&outer};
    for (const TriangleShell& other : *shells)
      if (other.inward && &other != &outer && isInside(boxOf(other), boxOf(outer)))
        skins.push_back(&other);
    std::string name = shells->size() == 1 ? base : base + " " + std::to_string(solids.size() + 1);
    if (!outer.name.empty()) {
      const auto alike = std::count_if(shells->begin(), shells->end(), [&](const TriangleShell& other) {
        return other.name == outer.name && !other.inward;
      });
      name = alike == 1 ? outer.name : outer.name + " " + std::to_string(++numbers[outer.name]);
    }
    std::string problem;
    for (const TriangleShell* skin : skins)
      problem = problem.empty() ? problemOf(*skin, unit) : problem;
    try {
      solids.push_back(problem.empty() ? solidOf(skins, unit, name) : NamedShape{name, {}, {}, problem});
    } catch (const Standard_Failure&) {
      solids.push_back({name, {}, {}, "It could not be made a solid"});
    }
  }
  return solids;
}

Expected<void> writeTriangles(const std::vector<NamedShape>& shapes, const std::filesystem::path& path)
{
  constexpr double chord = 0.2e-3; // m, distance of the triangles from round faces
  constexpr double angle = 0.3;    // rad
  constexpr double millimetres = 1e3;
  std::ofstream out(path);
  out.precision(9);
  for (const NamedShape& named : shapes) {
    out << "solid " << named.name << "\n";
    const BRepMesh_IncrementalMesh meshed(named.shape, chord, false, angle); // kept within the shape
    for (TopExp_Explorer faces(named.shape, TopAbs_FACE); faces.More(); faces.Next()) {
      TopLoc_Location place;
      const TopoDS_Face& face = TopoDS::Face(faces.Current());
      const Handle(Poly_Triangulation) mesh = BRep_Tool::Triangulation(face, place);
      for (int t = 1; !mesh.IsNull() && t <= mesh->NbTriangles(); ++t) {
        int a = 0, b = 0, c = 0;
        mesh->Triangle(t).Get(a, b, c);
        if (face.Orientation() == TopAbs_REVERSED)
          std::swap(b, c);
        const std::array<gp_Pnt, 3> corners{mesh->Node(a).Transformed(place), mesh->Node(b).Transformed(place),
                                            mesh->Node(c).Transformed(place)};
        const gp_Vec normal = gp_Vec(corners[0], corners[1]).Crossed(gp_Vec(corners[0], corners[2]));
        const double length = std::max(normal.Magnitude(), 1e-300);
        out << "facet normal " << normal.X() / length << " " << normal.Y() / length << " " << normal.Z() / length
            << "\nouter loop\n";
        for (const gp_Pnt& p : corners)
          out << "vertex " << p.X() * millimetres << " " << p.Y() * millimetres << " " << p.Z() * millimetres << "\n";
        out << "endloop\nendfacet\n";
      }
    }
    out << "endsolid " << named.name << "\n";
  }
  out.close();
  if (!out)
    return failure(Failure::Kind::Unwritable, "file " + path.string(), "It could not be written.",
                   "Check that the folder exists and the disk has space.");
  return {};
}

} // namespace kiln
