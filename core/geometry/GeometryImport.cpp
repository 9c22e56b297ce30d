// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "geometry/GeometryImport.h"

#include "base/TextHash.h"
#include "geometry/NamedFaces.h"
#include "geometry/PartBody.h"
#include "geometry/ShapeSteps.h"
#include "geometry/StepFile.h"
#include "geometry/TakenShape.h"
#include "geometry/TriangleBody.h"
#include "model/Edit.h"

#include <BRepAdaptor_Surface.hxx>
#include <BRepAlgoAPI_Defeaturing.hxx>
#include <BRepBndLib.hxx>
#include <BRepCheck_Analyzer.hxx>
#include <BRep_Tool.hxx>
#include <Bnd_Box.hxx>
#include <ShapeFix_Shape.hxx>
#include <Standard_Failure.hxx>
#include <TopExp.hxx>
#include <TopExp_Explorer.hxx>
#include <TopTools_IndexedDataMapOfShapeListOfShape.hxx>
#include <TopoDS.hxx>
#include <TopoDS_Edge.hxx>
#include <algorithm>
#include <cctype>
#include <fstream>
#include <gp_Pln.hxx>
#include <iterator>
#include <optional>
#include <set>

namespace kiln
{
namespace
{

std::string lowered(std::string text)
{
  for (char& letter : text)
    letter = static_cast<char>(std::tolower(static_cast<unsigned char>(letter)));
  return text;
}

/// Edges that only one face has: there the skin leaks.
int openEdges(const TopoDS_Shape& shape)
{
  TopTools_IndexedDataMapOfShapeListOfShape map;
  TopExp::MapShapesAndAncestors(shape, TopAbs_EDGE, TopAbs_FACE, map);
  int open = 0;
  for (int i = 1; i <= map.Extent(); ++i)
    if (const TopoDS_Edge edge = TopoDS::Edge(map.FindKey(i)); !BRep_Tool::Degenerated(edge))
      open += map(i).Extent() == 1 && !BRep_Tool::IsClosed(edge, TopoDS::Face(map(i).First())) ? 1 : 0;
  return open;
}

/// Faces of one plane without a solid: an area for section models.
bool isArea(const TopoDS_Shape& shape)
{
  if (TopExp_Explorer(shape, TopAbs_SOLID).More())
    return false;
  std::optional<gp_Pln> plane;
  for (TopExp_Explorer faces(shape, TopAbs_FACE); faces.More(); faces.Next()) {
    const BRepAdaptor_Surface surface(TopoDS::Face(faces.Current()));
    constexpr double tolerance = 1e-7; // m, rad
    if (surface.GetType() != GeomAbs_Plane)
      return false;
    if (!plane)
      plane = surface.Plane();
    else if (plane->Distance(surface.Plane().Location()) > tolerance ||
             !plane->Axis().IsParallel(surface.Plane().Axis(), tolerance))
      return false;
  }
  return plane.has_value();
}

/// Mends what the kernel can mend. \return what is wrong with it still, empty when it is sound
std::string heal(TopoDS_Shape& shape, FoundBody& found)
{
  if (isArea(shape)) {
    found.note = "flat: for a section model";
    return "";
  }
  if (!BRepCheck_Analyzer(shape).IsValid()) {
    ShapeFix_Shape fix(shape);
    fix.Perform();
    if (BRepCheck_Analyzer(fix.Shape()).IsValid()) {
      shape = fix.Shape();
      found.note = "mended: its edges did not fit its faces";
    }
  }
  if (const int open = openEdges(shape); open > 0)
    return "Its skin leaks at " + std::to_string(open) + " edges";
  TopExp_Explorer solids(shape, TopAbs_SOLID);
  if (!solids.More())
    return "It is a surface, not a solid";
  if (volumeOf(shape) < 0)
    shape.Reverse();
  if (volumeOf(shape) <= 0)
    return "It encloses no volume";
  return BRepCheck_Analyzer(shape).IsValid() ? "" : "Its faces cross each other or do not meet";
}

/// Takes away round faces of a small radius, where the kernel can close the rest.
void removeSmall(TopoDS_Shape& shape, double below, FoundBody& found)
{
  const TopTools_ListOfShape small = smallRoundFaces(shape, below);
  if (small.IsEmpty())
    return;
  BRepAlgoAPI_Defeaturing without;
  without.SetShape(shape);
  without.AddFacesToRemove(small);
  without.Build();
  const bool done = without.IsDone() && BRepCheck_Analyzer(without.Shape()).IsValid() &&
                    facesInOrder(without.Shape()).size() < facesInOrder(shape).size();
  if (done)
    shape = without.Shape();
  found.note += (found.note.empty() ? "" : "; ") + std::to_string(small.Extent()) +
                (done ? " small round faces removed" : " small round faces could not be removed");
}

FoundBody judged(NamedShape given, const std::string& id, double removeBelow)
{
  FoundBody found;
  found.body.id = id;
  found.body.name = given.name;
  try {
    found.problem = heal(given.shape, found);
    if (found.problem.empty() && removeBelow > 0)
      removeSmall(given.shape, removeBelow, found);
    if (found.problem.empty()) {
      found.volume = volumeOf(given.shape);
      const std::vector<std::string> faces = given.faces;
      found.body = takeBody(given.shape, id, given.name);
      if (faces.size() == found.body.faces.size())
        found.body.faces = faces;
    }
    Bnd_Box box;
    BRepBndLib::AddOptimal(given.shape, box, false, false);
    if (!box.IsVoid()) {
      const gp_Pnt low = box.CornerMin();
      const gp_Pnt high = box.CornerMax();
      found.low = {low.X(), low.Y(), low.Z()};
      found.high = {high.X(), high.Y(), high.Z()};
    }
  } catch (const Standard_Failure&) {
    found.problem = "The geometry kernel gave up on it";
  }
  return found;
}

/// Same volume and same size in some order of its sides.
bool sameBody(const FoundBody& a, const FoundBody& b)
{
  constexpr double share = 1e-6;
  const auto sides = [](const FoundBody& body) {
    Vec3 size = body.high - body.low;
    std::sort(size.begin(), size.end());
    return size;
  };
  return a.body.faces.size() == b.body.faces.size() && std::abs(a.volume - b.volume) <= share * a.volume &&
         (sides(a) - sides(b)).norm() <= share * sides(a).norm();
}

std::string fileHash(const std::filesystem::path& path)
{
  std::ifstream in(path, std::ios::binary);
  const std::string bytes((std::istreambuf_iterator<char>(in)), std::istreambuf_iterator<char>());
  return textHash(bytes);
}

/// Lower-case letters, digits and hyphens: an id made of a name.
std::string idFrom(const std::string& name)
{
  std::string id;
  for (const char letter : lowered(name))
    if (std::isalnum(static_cast<unsigned char>(letter)) != 0)
      id += letter;
    else if (!id.empty() && id.back() != '-')
      id += '-';
  while (!id.empty() && id.back() == '-')
    id.pop_back();
  return id.empty() || std::isdigit(static_cast<unsigned char>(id.front())) != 0 ? "body" : id;
}

} // namespace

Expected<FoundGeometry> readGeometry(const std::filesystem::path& path, const ImportSettings& settings,
                                     const Progress& progress)
{
  const std::string kind = lowered(path.extension().string());
  std::error_code ignored;
  if (!std::filesystem::is_regular_file(path, ignored))
    return failure(Failure::Kind::Unreadable, "file " + path.string(), "There is no such file.", "Choose another.");
  Expected<std::vector<NamedShape>> shapes = std::vector<NamedShape>{};
  progress("read", 0.05, path.filename().string());
  if (kind == ".step" || kind == ".stp")
    shapes = readStep(path, progress);
  else if (kind == ".stl" || kind == ".obj" || kind == ".ply")
    shapes = readTriangles(path, settings.unit, settings.featureAngle);
  else
    return failure(Failure::Kind::Unreadable, "file " + path.filename().string(), "This kind of file cannot be read.",
                   "Choose a STEP, STL, OBJ or PLY file.");
  if (!shapes)
    return tl::unexpected(shapes.error());
  FoundGeometry found;
  found.file.id = "file-1";
  found.file.name = path.filename().string();
  found.file.path = path.string();
  found.file.hash = fileHash(path);
  found.file.unit = {settings.unit, formatQuantity(settings.unit, Quantity::Length)};
  if (kind != ".step" && kind != ".stp")
    found.file.faceAngle = Number{settings.featureAngle, formatQuantity(settings.featureAngle, Quantity::Angle)};
  if (settings.removeBelow > 0)
    found.file.removeBelow = Number{settings.removeBelow, formatQuantity(settings.removeBelow, Quantity::Length)};
  for (std::size_t i = 0; i < shapes->size(); ++i) {
    NamedShape& shape = (*shapes)[i];
    progress("check", 0.3 + 0.7 * static_cast<double>(i) / static_cast<double>(shapes->size()), shape.name);
    const std::string problem = shape.problem;
    const std::string colour = shape.colour;
    const std::string id = "b" + std::to_string(i + 1);
    FoundBody body;
    if (problem.empty()) {
      body = judged(std::move(shape), id, settings.removeBelow);
    } else {
      body.body.id = id;
      body.body.name = shape.name;
      body.problem = problem;
    }
    body.colour = colour;
    for (const FoundBody& other : found.bodies)
      if (body.problem.empty() && other.problem.empty() && other.sameAs.empty() && sameBody(other, body)) {
        body.sameAs = other.body.id;
        break;
      }
    if (body.problem.empty())
      found.file.bodies.push_back(body.body);
    found.bodies.push_back(std::move(body));
  }
  if (found.bodies.empty())
    return failure(Failure::Kind::Unreadable, "file " + path.filename().string(), "It holds no solid.",
                   "Write the solids themselves, not only their drawing.");
  return found;
}

Project projectOf(const FoundGeometry& found)
{
  Project project;
  project.name = found.file.name;
  project.mesh.secondOrder = true; // a quick look is asked for
  project.files.push_back(found.file);
  std::set<std::string> ids{found.file.id};
  for (const TakenBody& body : found.file.bodies) {
    Part part;
    part.id = idFrom(body.name);
    for (int n = 2; !ids.insert(part.id).second; ++n)
      part.id = idFrom(body.name) + "-" + std::to_string(n);
    part.name = body.name;
    part.shape.form = FileBody{found.file.id, body.id};
    for (const FoundBody& whole : found.bodies)
      if (whole.body.id == body.id)
        part.colour = whole.colour;
    project.parts.push_back(std::move(part));
  }
  return project;
}

Expected<void> writeGeometry(const Project& project, const std::filesystem::path& path)
{
  std::vector<NamedShape> shapes;
  for (const Part& part : project.parts) {
    if (isMuted(project, part))
      continue;
    Expected<NamedBody> body = buildPart(project, part);
    if (!body)
      return tl::unexpected(body.error());
    shapes.push_back({part.name, body->shape, {}, {}, part.colour});
  }
  if (shapes.empty())
    return failure(Failure::Kind::NotReady, "project " + project.name, "It has no part to write.", "Add a part.");
  const std::string kind = lowered(path.extension().string());
  if (kind == ".stl")
    return writeTriangles(shapes, path);
  if (kind == ".step" || kind == ".stp")
    return writeStep(shapes, path);
  return failure(Failure::Kind::Unwritable, "file " + path.filename().string(), "This kind of file cannot be written.",
                 "Name it *.step or *.stl.");
}

} // namespace kiln
