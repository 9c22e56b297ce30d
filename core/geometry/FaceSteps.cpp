// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "geometry/FaceSteps.h"

#include "geometry/NamedFaces.h"

#include <BRepAlgoAPI_Fuse.hxx>
#include <BRepBndLib.hxx>
#include <BRepBuilderAPI_Copy.hxx>
#include <BRepCheck_Analyzer.hxx>
#include <BRepLib.hxx>
#include <BRepOffsetAPI_DraftAngle.hxx>
#include <BRepOffset_MakeSimpleOffset.hxx>
#include <BRepPrimAPI_MakePrism.hxx>
#include <BRep_Builder.hxx>
#include <Bnd_Box.hxx>
#include <TopExp_Explorer.hxx>
#include <TopoDS.hxx>
#include <TopoDS_Edge.hxx>
#include <TopoDS_Shell.hxx>
#include <TopoDS_Solid.hxx>
#include <gp_Pln.hxx>

namespace kiln
{
namespace
{

/// The sweep of a face: its end is called like the face, its sides like the face's neighbours.
NamedBody sweepOf(const NamedBody& body, const TopoDS_Face& face, const gp_Vec& path)
{
  BRepPrimAPI_MakePrism sweep(face, path);
  NamedBody tool{sweep.Shape(), {}};
  for (const std::string& name : namesOf(body, face))
    tool.names.emplace_back(TopoDS::Face(sweep.LastShape()), name);
  const EdgeFaces map = edgeFaces(body.shape);
  for (TopExp_Explorer edges(face, TopAbs_EDGE); edges.More(); edges.Next())
    for (const TopoDS_Shape& side : sweep.Generated(edges.Current()))
      for (const TopoDS_Shape& neighbour : map.FindFromKey(edges.Current()))
        if (!neighbour.IsSame(face))
          for (const std::string& name : namesOf(body, neighbour))
            tool.names.emplace_back(TopoDS::Face(side), name);
  return tool;
}

/// The body with a layer joined to it.
NamedBody joinedSmoothly(const NamedBody& body, const NamedBody& layer)
{
  BRepAlgoAPI_Fuse operation(body.shape, layer.shape);
  operation.SimplifyResult();
  NamedBody joined{operation.Shape(), {}};
  carryNames(operation, body, joined);
  carryNames(operation, layer, joined);
  return joined;
}

/// What a closed face encloses.
TopoDS_Shape inside(const TopoDS_Face& face)
{
  const BRep_Builder builder;
  TopoDS_Shell shell;
  builder.MakeShell(shell);
  builder.Add(shell, face);
  shell.Closed(true);
  TopoDS_Solid solid;
  builder.MakeSolid(solid);
  builder.Add(solid, shell);
  BRepLib::OrientClosedSolid(solid);
  return solid;
}

/// Between a closed face, a sphere or a torus, and its offset.
NamedBody layerAround(const NamedBody& body, const TopoDS_Face& face, const TopoDS_Face& far)
{
  NamedBody own{inside(face), {}};
  NamedBody moved{inside(far), {}};
  for (const std::string& name : namesOf(body, face))
    moved.names.emplace_back(far, name);
  return volumeOf(own.shape) < volumeOf(moved.shape) ? cutBy(moved, own) : cutBy(own, moved);
}

/// Calls the rim of a layer like the neighbours of the face.
void nameRim(const NamedBody& body, const TopoDS_Face& face, const TopoDS_Shape& far, NamedBody& layer)
{
  const EdgeFaces inLayer = edgeFaces(layer.shape);
  const EdgeFaces inBody = edgeFaces(body.shape);
  for (TopExp_Explorer edges(face, TopAbs_EDGE); edges.More(); edges.Next()) {
    if (!inLayer.Contains(edges.Current()))
      continue;
    for (const TopoDS_Shape& rim : inLayer.FindFromKey(edges.Current()))
      if (!rim.IsSame(face) && !rim.IsSame(far))
        for (const TopoDS_Shape& neighbour : inBody.FindFromKey(edges.Current()))
          if (!neighbour.IsSame(face))
            for (const std::string& name : namesOf(body, neighbour))
              layer.names.emplace_back(TopoDS::Face(rim), name);
  }
}

/// With faces of its own: a body is not joined with a layer whose inner side is its very own face.
NamedBody copyOf(NamedBody body)
{
  BRepBuilderAPI_Copy own(body.shape);
  body.shape = own.Shape();
  for (auto& [named, name] : body.names)
    named = TopoDS::Face(own.ModifiedShape(named));
  return body;
}

/// The layer between a face and its offset, outwards when positive; the far side is called like the face. Nothing when
/// the kernel cannot make it.
std::optional<NamedBody> layerOn(const NamedBody& body, const TopoDS_Face& face, double thickness)
{
  BRepOffset_MakeSimpleOffset operation(face, thickness);
  operation.SetBuildSolidFlag(true);
  operation.Perform();
  const TopoDS_Shape& made = operation.GetResultShape();
  if (made.IsNull() || !BRepCheck_Analyzer(made).IsValid())
    return std::nullopt;
  if (made.ShapeType() == TopAbs_FACE) // it has no rim, which the kernel counts as a failure
    return layerAround(body, face, TopoDS::Face(made));
  if (!operation.IsDone() || made.ShapeType() != TopAbs_SOLID)
    return std::nullopt;
  TopoDS_Solid solid = TopoDS::Solid(made);
  BRepLib::OrientClosedSolid(solid);
  NamedBody layer{solid, {}};
  const TopoDS_Shape far = operation.Generated(face);
  for (const std::string& name : namesOf(body, face))
    layer.names.emplace_back(TopoDS::Face(far), name);
  nameRim(body, face, far, layer);
  return copyOf(std::move(layer));
}

} // namespace

tl::unexpected<StepProblem> noFace(const std::string& name)
{
  return tl::unexpected(StepProblem{name.empty() ? "It names no face" : "There is no face “" + name + "”",
                                    "Name a face of this part, for example part.top."});
}

Outcome after(const NamedBody& body, const PushFace& push)
{
  const std::vector<TopoDS_Face> faces = facesNamed(body, push.face);
  if (faces.empty())
    return noFace(push.face);
  NamedBody result = body;
  for (const TopoDS_Face& wanted : faces) {
    const TopoDS_Face face = orientedIn(body.shape, wanted);
    const auto normal = flatNormal(face);
    if (!normal)
      return tl::unexpected(StepProblem{"Only flat faces can be pushed", "Name a flat face."});
    const NamedBody tool = sweepOf(body, face, gp_Vec(*normal) * push.distance.si);
    if (push.distance.si > 0) {
      result = joinedSmoothly(result, tool);
    } else if (push.distance.si < 0) {
      result = cutBy(result, tool);
    }
  }
  return result;
}

Outcome after(const NamedBody& body, const TiltFace& tilt)
{
  const std::vector<TopoDS_Face> faces = facesNamed(body, tilt.face);
  if (faces.empty())
    return noFace(tilt.face);
  if (tilt.angle.si == 0)
    return body;
  BRepOffsetAPI_DraftAngle operation(body.shape);
  for (const TopoDS_Face& face : faces) {
    Bnd_Box box;
    BRepBndLib::AddOptimal(face, box, false, false);
    const gp_Pln base(gp_Pnt(0, 0, box.CornerMin().Z()), gp_Dir(0, 0, 1));
    operation.Add(face, gp_Dir(0, 0, 1), -tilt.angle.si, base);
    if (!operation.AddDone())
      return tl::unexpected(StepProblem{"This face cannot be tilted", "Tilt a flat or round side face."});
  }
  operation.Build();
  if (!operation.IsDone())
    return tl::unexpected(StepProblem{"The face cannot be tilted so far", "Make the angle smaller."});
  NamedBody result{operation.Shape(), {}};
  for (const auto& [face, name] : body.names)
    result.names.emplace_back(TopoDS::Face(operation.ModifiedShape(face)), name);
  return result;
}

Outcome after(const NamedBody& body, const ThickenFace& thicken)
{
  const std::vector<TopoDS_Face> faces = facesNamed(body, thicken.face);
  if (faces.empty())
    return noFace(thicken.face);
  NamedBody result = body;
  for (const TopoDS_Face& face : faces) {
    const double thickness = thicken.thickness.si;
    if (thickness == 0)
      continue;
    const TopoDS_Face oriented = orientedIn(body.shape, face);
    // On a flat face the layer is what a push sweeps, which joins whatever steps came before.
    const auto normal = flatNormal(oriented);
    const std::optional<NamedBody> layer =
        normal ? copyOf(sweepOf(body, oriented, gp_Vec(*normal) * thickness)) : layerOn(body, oriented, thickness);
    if (!layer)
      return tl::unexpected(StepProblem{"No even layer of this thickness fits on the face", "Make it thinner."});
    NamedBody next = thickness > 0 ? joinedSmoothly(result, *layer) : cutBy(result, *layer);
    const double grown = volumeOf(next.shape) - volumeOf(result.shape);
    if (!BRepCheck_Analyzer(next.shape).IsValid() || grown * thickness <= 0)
      return tl::unexpected(
          StepProblem{"The layer could not be joined with the body", "Change its thickness a little."});
    result = std::move(next);
  }
  return result;
}

} // namespace kiln
