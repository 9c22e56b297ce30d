// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "geometry/ShapeSteps.h"

#include "geometry/DividedFace.h"
#include "geometry/FaceSteps.h"
#include "geometry/NamedFaces.h"

#include <BRepAdaptor_Surface.hxx>
#include <BRepAlgoAPI_Cut.hxx>
#include <BRepAlgoAPI_Defeaturing.hxx>
#include <BRepAlgoAPI_Fuse.hxx>
#include <BRepCheck_Analyzer.hxx>
#include <BRepFilletAPI_MakeChamfer.hxx>
#include <BRepFilletAPI_MakeFillet.hxx>
#include <BRep_Builder.hxx>
#include <BRep_Tool.hxx>
#include <TopExp_Explorer.hxx>
#include <TopTools_IndexedMapOfShape.hxx>
#include <TopoDS.hxx>
#include <TopoDS_Compound.hxx>
#include <algorithm>
#include <cmath>
#include <numbers>

namespace kiln
{
namespace
{

// ---- join and cut, repeated ----

NamedBody joinedWith(const NamedBody& body, const NamedBody& tool)
{
  BRepAlgoAPI_Fuse operation(body.shape, tool.shape);
  if (!operation.IsDone())
    throw Standard_Failure("the kernel could not join the shapes");
  NamedBody result{operation.Shape(), {}};
  carryNames(operation, body, result);
  carryNames(operation, tool, result);
  return result;
}

// ---- edges ----

std::vector<TopoDS_Edge> edgesBetween(const NamedBody& body, const std::vector<std::string>& names)
{
  const auto named = [&](const TopoDS_Shape& face) {
    const std::vector<std::string> own = namesOf(body, face);
    return std::any_of(own.begin(), own.end(),
                       [&](const auto& name) { return std::find(names.begin(), names.end(), name) != names.end(); });
  };
  std::vector<TopoDS_Edge> edges;
  const EdgeFaces map = edgeFaces(body.shape);
  for (int i = 1; i <= map.Extent(); ++i) {
    const TopTools_ListOfShape& faces = map(i);
    const TopoDS_Edge& edge = TopoDS::Edge(map.FindKey(i));
    if (faces.Extent() != 2 || faces.First().IsSame(faces.Last()) || BRep_Tool::Degenerated(edge))
      continue;
    const int hits = (named(faces.First()) ? 1 : 0) + (named(faces.Last()) ? 1 : 0);
    if (hits == 2 || (hits == 1 && names.size() == 1))
      edges.push_back(edge);
  }
  return edges;
}

/// Names faces that nothing else named.
void nameTheRest(NamedBody& body, const std::string& name)
{
  TopTools_IndexedMapOfShape known;
  for (const auto& [face, own] : body.names)
    known.Add(face);
  for (TopExp_Explorer faces(body.shape, TopAbs_FACE); faces.More(); faces.Next())
    if (!known.Contains(faces.Current()))
      body.names.emplace_back(TopoDS::Face(faces.Current()), name);
}

template <class Operation>
Outcome treatedEdges(const NamedBody& body, const std::vector<std::string>& faces, double size,
                     const std::string& newName)
{
  for (const std::string& name : faces)
    if (facesNamed(body, name).empty())
      return noFace(name);
  const std::vector<TopoDS_Edge> edges = edgesBetween(body, faces);
  if (edges.empty())
    return tl::unexpected(StepProblem{"The named faces share no edge", "Name two faces that meet, or one face alone."});
  Operation operation(body.shape);
  for (const TopoDS_Edge& edge : edges)
    operation.Add(size, edge);
  operation.Build();
  if (!operation.IsDone())
    return tl::unexpected(StepProblem{"Its edges could not be treated with this size", "Make it smaller."});
  NamedBody result{operation.Shape(), {}};
  carryNames(operation, body, result);
  nameTheRest(result, newName);
  return result;
}

tl::unexpected<StepProblem> notMade(const Failure& failure)
{
  return tl::unexpected(StepProblem{failure.object + ": " + failure.problem, failure.remedy});
}

Outcome after(const NamedBody& body, const Join& join, const std::string& prefix, const FormMaker& make)
{
  const Expected<NamedBody> tool = make(join.shape, prefix);
  if (!tool)
    return notMade(tool.error());
  return joinedWith(body, repeated(*tool, join.repeat, prefix));
}
Outcome after(const NamedBody& body, const Cut& cut, const std::string& prefix, const FormMaker& make)
{
  const Expected<NamedBody> tool = make(cut.shape, prefix);
  if (!tool)
    return notMade(tool.error());
  return cutBy(body, repeated(*tool, cut.repeat, prefix));
}
Outcome after(const NamedBody& body, const RoundEdges& round, const std::string& prefix)
{
  return treatedEdges<BRepFilletAPI_MakeFillet>(body, round.faces, round.radius.si, prefix + ".round");
}
Outcome after(const NamedBody& body, const BevelEdges& bevel, const std::string& prefix)
{
  return treatedEdges<BRepFilletAPI_MakeChamfer>(body, bevel.faces, bevel.distance.si, prefix + ".bevel");
}
Outcome after(const NamedBody& body, const RemoveFaces& remove, const std::string&)
{
  TopTools_ListOfShape faces = smallRoundFaces(body.shape, remove.roundBelow.si);
  for (const auto& [face, name] : body.names)
    if (std::find(remove.faces.begin(), remove.faces.end(), name) != remove.faces.end())
      faces.Append(face);
  if (faces.IsEmpty())
    return tl::unexpected(StepProblem{"It finds no face to remove", "Name a face, or give a larger radius."});
  BRepAlgoAPI_Defeaturing operation;
  operation.SetShape(body.shape);
  operation.AddFacesToRemove(faces);
  operation.Build();
  if (!operation.IsDone() || !BRepCheck_Analyzer(operation.Shape()).IsValid())
    return tl::unexpected(StepProblem{"What lies around these faces cannot close the place they leave",
                                      "Remove whole features: every face of a hole, a rounding or a boss."});
  NamedBody result{operation.Shape(), {}};
  carryNames(operation, body, result);
  return result;
}

} // namespace

TopTools_ListOfShape smallRoundFaces(const TopoDS_Shape& shape, double below)
{
  TopTools_ListOfShape small;
  for (TopExp_Explorer faces(shape, TopAbs_FACE); below > 0 && faces.More(); faces.Next()) {
    const BRepAdaptor_Surface surface(TopoDS::Face(faces.Current()));
    if ((surface.GetType() == GeomAbs_Cylinder && surface.Cylinder().Radius() < below) ||
        (surface.GetType() == GeomAbs_Torus && surface.Torus().MinorRadius() < below) ||
        (surface.GetType() == GeomAbs_Sphere && surface.Sphere().Radius() < below))
      small.Append(faces.Current());
  }
  return small;
}

NamedBody cutBy(const NamedBody& body, const NamedBody& tool)
{
  BRepAlgoAPI_Cut operation(body.shape, tool.shape);
  if (!operation.IsDone())
    throw Standard_Failure("the kernel could not cut the shapes");
  NamedBody result{operation.Shape(), {}};
  carryNames(operation, body, result);
  carryNames(operation, tool, result);
  return result;
}

Outcome afterStep(const NamedBody& body, const ShapeStep& step, const std::string& prefix, const FormMaker& make)
{
  return std::visit(
      [&](const auto& action) {
        if constexpr (requires { after(body, action); })
          return after(body, action);
        else if constexpr (requires { after(body, action, prefix, make); })
          return after(body, action, prefix, make);
        else
          return after(body, action, prefix);
      },
      step.action);
}

std::vector<gp_Trsf> copiesOf(const Repeat& repeat)
{
  if (std::holds_alternative<Once>(repeat))
    return {gp_Trsf()};
  std::vector<gp_Trsf> copies;
  if (const auto* row = std::get_if<Row>(&repeat))
    for (int i = 0; i < static_cast<int>(row->count.si); ++i) {
      gp_Trsf step;
      step.SetTranslation(gp_Vec(row->pitch.x.si, row->pitch.y.si, row->pitch.z.si) * i);
      copies.push_back(step);
    }
  if (const auto* ring = std::get_if<Ring>(&repeat)) {
    const int count = static_cast<int>(ring->count.si);
    const double angle = ring->angle.si != 0 ? ring->angle.si : 2 * std::numbers::pi / std::max(count, 1);
    const gp_Pnt centre(ring->centre.x.si, ring->centre.y.si, ring->centre.z.si);
    const gp_Vec axis(ring->axis.x.si, ring->axis.y.si, ring->axis.z.si);
    for (int i = 0; i < count; ++i) {
      gp_Trsf step;
      if (i > 0)
        step.SetRotation(gp_Ax1(centre, gp_Dir(axis)), angle * i);
      copies.push_back(step);
    }
  }
  return copies;
}

NamedBody repeated(const NamedBody& body, const Repeat& repeat, const std::string& prefix)
{
  const std::vector<gp_Trsf> copies = copiesOf(repeat);
  if (copies.size() < 2)
    return body;
  TopoDS_Compound all;
  const BRep_Builder builder;
  builder.MakeCompound(all);
  NamedBody result;
  for (std::size_t i = 0; i < copies.size(); ++i) {
    const NamedBody copy = moved(body, copies[i]);
    builder.Add(all, copy.shape);
    for (const auto& [face, name] : copy.names) {
      result.names.emplace_back(face, name);
      // The one copy by itself, for picking by hand.
      result.names.emplace_back(face, prefix + "#" + std::to_string(i + 1) + name.substr(prefix.size()));
    }
  }
  result.shape = all;
  return result;
}

} // namespace kiln
