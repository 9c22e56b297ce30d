// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "geometry/ShapeSteps.h"

#include "geometry/FaceSampling.h"
#include "geometry/FaceSteps.h"
#include "geometry/NamedFaces.h"

#include <BRepAdaptor_Surface.hxx>
#include <BRepAlgoAPI_Cut.hxx>
#include <BRepAlgoAPI_Defeaturing.hxx>
#include <BRepAlgoAPI_Fuse.hxx>
#include <BRepAlgoAPI_Splitter.hxx>
#include <BRepBndLib.hxx>
#include <BRepBuilderAPI_MakeEdge.hxx>
#include <BRepBuilderAPI_MakeFace.hxx>
#include <BRepBuilderAPI_MakeWire.hxx>
#include <BRepCheck_Analyzer.hxx>
#include <BRepClass_FaceClassifier.hxx>
#include <BRepFilletAPI_MakeChamfer.hxx>
#include <BRepFilletAPI_MakeFillet.hxx>
#include <BRepGProp.hxx>
#include <BRepOffsetAPI_DraftAngle.hxx>
#include <BRepPrimAPI_MakePrism.hxx>
#include <BRep_Builder.hxx>
#include <BRep_Tool.hxx>
#include <Bnd_Box.hxx>
#include <GProp_GProps.hxx>
#include <TopExp.hxx>
#include <TopExp_Explorer.hxx>
#include <TopTools_IndexedDataMapOfShapeListOfShape.hxx>
#include <TopTools_IndexedMapOfShape.hxx>
#include <TopoDS.hxx>
#include <TopoDS_Compound.hxx>
#include <algorithm>
#include <cmath>
#include <gp_Ax3.hxx>
#include <gp_Circ.hxx>
#include <gp_Pln.hxx>
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

// ---- split lines ----

/// Where a split line is drawn: origin in the middle of the face, third axis along its normal.
gp_Ax3 frameOn(const TopoDS_Face& face, const gp_Dir& normal)
{
  GProp_GProps properties;
  BRepGProp::SurfaceProperties(face, properties);
  constexpr double alongX = 0.9; // the face looks along x
  const gp_Dir along = std::abs(normal.X()) > alongX ? gp_Dir(0, 1, 0) : gp_Dir(1, 0, 0);
  return gp_Ax3(properties.CentreOfMass(), normal, along);
}

struct SplitTool {
  TopoDS_Shape shape;                              ///< a face for a closed line, an edge for an open one
  std::optional<std::pair<gp_Pnt, gp_Dir>> leftOf; ///< of an open line: a point on it and the direction to its left
};

gp_Pnt placeIn(const gp_Ax3& frame, double a, double b)
{
  return frame.Location().Translated(gp_Vec(frame.XDirection()) * a + gp_Vec(frame.YDirection()) * b);
}

TopoDS_Face outlineOn(const gp_Ax3& frame, const std::vector<OutlinePoint>& outline)
{
  gp_Trsf place;
  place.SetTransformation(frame, gp_Ax3());
  return TopoDS::Face(outlineFace(outline, false).Moved(TopLoc_Location(place)));
}

SplitTool toolOf(const SplitByLine& line, const gp_Ax3& frame, double reach)
{
  const gp_Pnt from = placeIn(frame, line.fromA.si, line.fromB.si);
  const gp_Pnt to = placeIn(frame, line.toA.si, line.toB.si);
  const gp_Vec along = gp_Vec(from, to).Normalized() * reach;
  return {BRepBuilderAPI_MakeEdge(from.Translated(-along), to.Translated(along)).Edge(),
          std::pair(from, gp_Dir(gp_Vec(frame.Direction()).Crossed(along)))};
}
SplitTool toolOf(const SplitByRectangle& r, const gp_Ax3& frame, double /*reach*/)
{
  const auto corner = [&](double a, double b) {
    return OutlinePoint{{r.centreA.si + a * r.sizeA.si / 2, {}}, {r.centreB.si + b * r.sizeB.si / 2, {}}, {}};
  };
  return {outlineOn(frame, {corner(-1, -1), corner(1, -1), corner(1, 1), corner(-1, 1)}), {}};
}
SplitTool toolOf(const SplitByCircle& c, const gp_Ax3& frame, double /*reach*/)
{
  const gp_Circ circle(gp_Ax2(placeIn(frame, c.centreA.si, c.centreB.si), frame.Direction()), c.radius.si);
  return {BRepBuilderAPI_MakeFace(BRepBuilderAPI_MakeWire(BRepBuilderAPI_MakeEdge(circle).Edge()).Wire(), true).Face(),
          {}};
}
SplitTool toolOf(const SplitByOutline& o, const gp_Ax3& frame, double /*reach*/)
{
  return {outlineOn(frame, o.outline), {}};
}

bool isInside(const SplitTool& tool, const TopoDS_Face& piece)
{
  const std::vector<FaceSample> samples = samplesOn(piece, 3);
  if (samples.empty())
    return false;
  const gp_Pnt place(samples.front().place.x(), samples.front().place.y(), samples.front().place.z());
  if (tool.leftOf)
    return gp_Vec(tool.leftOf->first, place).Dot(gp_Vec(tool.leftOf->second)) > 0;
  constexpr double tolerance = 1e-7; // m
  BRepClass_FaceClassifier classifier(TopoDS::Face(tool.shape), place, tolerance);
  return classifier.State() == TopAbs_IN;
}

Outcome after(const NamedBody& body, const SplitFace& split, const std::string& prefix)
{
  const std::vector<TopoDS_Face> faces = facesNamed(body, split.face);
  if (faces.empty())
    return noFace(split.face);
  const TopoDS_Face face = orientedIn(body.shape, faces.front());
  const auto normal = flatNormal(face);
  if (!normal)
    return tl::unexpected(StepProblem{"Only flat faces can be divided", "Name a flat face."});
  if (const auto* outline = std::get_if<SplitByOutline>(&split.line))
    if (const auto problem = problemOf(Prism{outline->outline, {1, {}}, {}}))
      return tl::unexpected(StepProblem{*problem, "Correct the outline."});
  Bnd_Box box;
  BRepBndLib::Add(face, box);
  const SplitTool tool =
      std::visit([&](const auto& line) { return toolOf(line, frameOn(face, *normal), std::sqrt(box.SquareExtent())); },
                 split.line);
  BRepAlgoAPI_Splitter operation;
  TopTools_ListOfShape arguments, tools;
  arguments.Append(body.shape);
  tools.Append(tool.shape);
  operation.SetArguments(arguments);
  operation.SetTools(tools);
  operation.SetNonDestructive(true);
  operation.Build();
  if (!operation.IsDone() || operation.Modified(face).Extent() < 2)
    return tl::unexpected(
        StepProblem{"The line does not divide the face", "Move it onto the face, or make it larger."});
  NamedBody result{operation.Shape(), {}};
  carryNames(operation, body, result);
  for (const TopoDS_Shape& piece : operation.Modified(face))
    result.names.emplace_back(TopoDS::Face(piece),
                              prefix + (isInside(tool, TopoDS::Face(piece)) ? ".inside" : ".outside"));
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
