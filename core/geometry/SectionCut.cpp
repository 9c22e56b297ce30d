// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "geometry/SectionCut.h"

#include "geometry/FaceSampling.h"

#include <BRepAdaptor_Curve.hxx>
#include <BRepAlgoAPI_Common.hxx>
#include <BRepBndLib.hxx>
#include <BRepBuilderAPI_MakeFace.hxx>
#include <BRepBuilderAPI_MakeVertex.hxx>
#include <BRepExtrema_DistShapeShape.hxx>
#include <BRepGProp.hxx>
#include <BRepPrimAPI_MakePrism.hxx>
#include <BRep_Builder.hxx>
#include <BRep_Tool.hxx>
#include <Bnd_Box.hxx>
#include <GProp_GProps.hxx>
#include <Standard_Failure.hxx>
#include <TopExp.hxx>
#include <TopExp_Explorer.hxx>
#include <TopTools_IndexedMapOfShape.hxx>
#include <TopoDS_Compound.hxx>
#include <TopoDS_Edge.hxx>
#include <TopoDS_Vertex.hxx>
#include <cmath>
#include <gp_Pln.hxx>
#include <map>
#include <numbers>

namespace kiln
{
namespace
{

gp_Dir directionOf(int axis) { return {axis == 0 ? 1.0 : 0.0, axis == 1 ? 1.0 : 0.0, axis == 2 ? 1.0 : 0.0}; }

gp_Pnt placeOn(const SectionFrame& frame)
{
  gp_Pnt place(frame.turned ? frame.axis : 0, 0, 0);
  place.SetCoord(frame.across + 1, frame.at);
  return place;
}

/// The plane as a face that reaches beyond everything; right of the axis only where it is turned.
TopoDS_Face planeFace(const SectionFrame& frame, double reach)
{
  const gp_Dir right = frame.across == 0 ? gp_Dir(0, 1, 0) : gp_Dir(1, 0, 0);
  const gp_Pln plane(gp_Ax3(placeOn(frame), directionOf(frame.across), right));
  return BRepBuilderAPI_MakeFace(plane, frame.turned ? 0 : -reach, reach, -reach, reach).Face();
}

/// An edge of a cut area with the names of the body's faces it lies in.
struct NamedEdge {
  TopoDS_Edge edge;
  std::vector<std::string> names;
};
struct CutArea {
  TopoDS_Face face;
  std::vector<NamedEdge> edges;
};

std::vector<std::string> namesAlong(const TopoDS_Edge& edge, const NamedBody& body, const std::vector<Bnd_Box>& boxes)
{
  const BRepAdaptor_Curve curve(edge);
  constexpr double within = 0.4321; // of the edge: nowhere special
  const gp_Pnt place = curve.Value(curve.FirstParameter() + within * (curve.LastParameter() - curve.FirstParameter()));
  const TopoDS_Shape vertex = BRepBuilderAPI_MakeVertex(place).Vertex();
  constexpr double near = 1e-6; // m
  std::vector<std::string> names;
  for (std::size_t f = 0; f < body.names.size(); ++f) {
    if (boxes[f].IsOut(place))
      continue;
    const BRepExtrema_DistShapeShape distance(vertex, body.names[f].first);
    if (distance.IsDone() && distance.Value() < near)
      names.push_back(body.names[f].second);
  }
  return names;
}

std::vector<CutArea> areasOf(const NamedBody& body, const TopoDS_Face& plane)
{
  std::vector<Bnd_Box> boxes(body.names.size());
  for (std::size_t f = 0; f < boxes.size(); ++f) {
    BRepBndLib::Add(body.names[f].first, boxes[f]);
    boxes[f].Enlarge(1e-6);
  }
  std::vector<CutArea> areas;
  for (TopExp_Explorer solids(body.shape, TopAbs_SOLID); solids.More(); solids.Next()) {
    BRepAlgoAPI_Common cut(plane, solids.Current());
    for (TopExp_Explorer faces(cut.Shape(), TopAbs_FACE); faces.More(); faces.Next()) {
      CutArea area{TopoDS::Face(faces.Current()), {}};
      TopTools_IndexedMapOfShape edges;
      TopExp::MapShapes(area.face, TopAbs_EDGE, edges);
      for (int e = 1; e <= edges.Extent(); ++e)
        area.edges.push_back({TopoDS::Edge(edges(e)), namesAlong(TopoDS::Edge(edges(e)), body, boxes)});
      areas.push_back(std::move(area));
    }
  }
  return areas;
}

/// Faces of a body without a solid that lie in the plane; their edges are called e1, e2, … after the face.
std::vector<CutArea> flatAreasOf(const NamedBody& body, const SectionFrame& frame)
{
  std::vector<CutArea> areas;
  for (const auto& [face, name] : body.names) {
    if (TopExp_Explorer(body.shape, TopAbs_SOLID).More())
      break;
    CutArea area{face, {}};
    bool inPlane = true;
    for (TopExp_Explorer corners(face, TopAbs_VERTEX); corners.More(); corners.Next()) {
      constexpr double near = 1e-6; // m
      const gp_Pnt place = BRep_Tool::Pnt(TopoDS::Vertex(corners.Current()));
      inPlane = inPlane && std::abs(place.Coord(frame.across + 1) - frame.at) < near;
    }
    if (!inPlane)
      continue;
    TopTools_IndexedMapOfShape edges;
    TopExp::MapShapes(face, TopAbs_EDGE, edges);
    for (int e = 1; e <= edges.Extent(); ++e)
      area.edges.push_back({TopoDS::Edge(edges(e)), {name + "e" + std::to_string(e)}});
    areas.push_back(std::move(area));
  }
  return areas;
}

/// Draws the areas out to both sides of the plane.
NamedBody drawnOut(const std::string& id, const std::vector<CutArea>& areas, const SectionFrame& frame, double half)
{
  NamedBody body;
  if (areas.empty())
    return body;
  TopoDS_Compound all;
  const BRep_Builder builder;
  builder.MakeCompound(all);
  const gp_Vec out(directionOf(frame.across));
  gp_Trsf back;
  back.SetTranslation(-half * out);
  const TopLoc_Location moved(back);
  for (const CutArea& area : areas) {
    BRepPrimAPI_MakePrism sweep(area.face.Moved(moved), 2 * half * out);
    builder.Add(all, sweep.Shape());
    body.names.emplace_back(TopoDS::Face(sweep.FirstShape()), id + ".front");
    body.names.emplace_back(TopoDS::Face(sweep.LastShape()), id + ".back");
    for (const NamedEdge& edge : area.edges)
      for (const TopoDS_Shape& side : sweep.Generated(edge.edge.Moved(moved)))
        for (const std::string& name : edge.names)
          body.names.emplace_back(TopoDS::Face(side), name);
  }
  body.shape = all;
  return body;
}

/// Length of a swept edge: its face is as long as the model was drawn out.
double lengthOf(const Face& face, double half) { return face.area / (2 * half); }

} // namespace

SectionFrame sectionFrameOf(const Project& project)
{
  SectionFrame frame;
  if (!project.section)
    return frame;
  if (const auto* plane = std::get_if<PlaneSection>(&project.section->cut)) {
    frame.across = static_cast<int>(plane->across);
    frame.at = plane->at.si;
    frame.depth = plane->depth ? plane->depth->si : 1;
  } else {
    const auto& turned = std::get<TurnedSection>(project.section->cut);
    frame.across = 1;
    frame.at = turned.axisY.si;
    frame.axis = turned.axisX.si;
    frame.turned = true;
  }
  return frame;
}

Expected<void> cutBySection(const SectionFrame& frame, std::vector<SectionBody>& bodies)
{
  Bnd_Box everything;
  for (const SectionBody& body : bodies)
    BRepBndLib::Add(body.body.shape, everything);
  everything.Add(placeOn(frame));
  const TopoDS_Face plane = planeFace(frame, 2 * std::sqrt(everything.SquareExtent()) + 1);
  std::vector<std::vector<CutArea>> areas;
  Bnd_Box cut;
  for (const SectionBody& body : bodies) {
    areas.push_back(areasOf(body.body, plane));
    for (CutArea& area : flatAreasOf(body.body, frame))
      areas.back().push_back(std::move(area));
    for (const CutArea& area : areas.back())
      BRepBndLib::Add(area.face, cut);
  }
  if (cut.IsVoid())
    return failure(Failure::Kind::NotReady, "section", "Its plane meets no part.",
                   "Set it elsewhere, or move the parts.");
  const double half = std::sqrt(cut.SquareExtent());
  for (std::size_t b = 0; b < bodies.size(); ++b)
    bodies[b].body = drawnOut(bodies[b].id, areas[b], frame, half);
  return {};
}

void measureSection(const SectionFrame& frame, Brep& brep, FaceTable& table)
{
  table.section = frame;
  if (table.faces.empty())
    return;
  double half = 0; // that everything was drawn out by
  for (const Face& face : table.faces)
    half = std::max(half, std::abs(face.centroid[frame.across] - frame.at));
  const auto turn = [&](double x) { return 2 * std::numbers::pi * std::abs(x - frame.axis); };
  for (GeometryPart& part : table.parts) {
    part.volume = 0;
    part.low[frame.across] = part.high[frame.across] = frame.at;
  }
  std::map<PartId, std::vector<FaceId>> backs;
  for (std::size_t f = 0; f < table.faces.size(); ++f) {
    Face& face = table.faces[f];
    const double side = face.centroid[frame.across] - frame.at;
    const double slack = 1e-6 * half;
    if (std::abs(side) > half - slack && face.exposed()) {
      face.aside = true;
      if (side < 0) {
        brep.areas.push_back({brep.faces[f], face.parts[0], FaceId(f), {}});
        table.parts[static_cast<std::size_t>(face.parts[0])].volume +=
            face.area * (frame.turned ? turn(face.centroid.x()) : frame.depth);
      } else {
        backs[face.parts[0]].push_back(FaceId(f));
      }
    } else {
      const double length = lengthOf(face, half);
      face.width = length;
      face.area = length * (frame.turned ? turn(face.centroid.x()) : frame.depth);
      face.aside = frame.turned && face.planar && std::abs(face.centroid.x() - frame.axis) < slack;
    }
    face.centroid = frame.flat(face.centroid);
  }
  for (SectionArea& area : brep.areas)
    for (const FaceId back : backs[area.part])
      if ((table.faces[static_cast<std::size_t>(back)].centroid -
           table.faces[static_cast<std::size_t>(area.front)].centroid)
              .norm() < 1e-6 * half)
        area.back = back;
  for (Face& face : table.faces)
    if (face.aside && frame.turned) {
      face.area = 0;
      face.names.clear();
    }
}

} // namespace kiln
