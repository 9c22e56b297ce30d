// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "geometry/Geometry.h"

#include "geometry/Brep.h"
#include "geometry/FaceSampling.h"
#include "geometry/PartBody.h"
#include "geometry/SectionCut.h"
#include "geometry/ShapeSteps.h"
#include "geometry/TakenShape.h"
#include "model/Edit.h"
#include "units/Quantity.h"

#include <BOPAlgo_Builder.hxx>
#include <BRepAdaptor_Surface.hxx>
#include <BRepBndLib.hxx>
#include <BRepGProp.hxx>
#include <Bnd_Box.hxx>
#include <GProp_GProps.hxx>
#include <OSD_Parallel.hxx>
#include <Standard_Failure.hxx>
#include <TopExp_Explorer.hxx>
#include <TopTools_IndexedMapOfShape.hxx>
#include <TopoDS.hxx>
#include <algorithm>
#include <cmath>
#include <map>
#include <optional>
#include <sstream>

namespace kiln
{
namespace
{

struct PartBody {
  const Part* part;
  NamedBody body;
};

Vec3 vec(const gp_Pnt& p) { return {p.X(), p.Y(), p.Z()}; }

std::string placeText(const Vec3& place)
{
  const auto text = [](double x) {
    constexpr double grain = 1e-6; // m
    return formatQuantity(std::round(x / grain) * grain + 0.0, Quantity::Length);
  };
  return "(" + text(place.x()) + ", " + text(place.y()) + ", " + text(place.z()) + ")";
}

std::vector<TopoDS_Shape> piecesOf(BOPAlgo_Builder& fuse, const TopoDS_Shape& original)
{
  if (fuse.IsDeleted(original))
    return {};
  const TopTools_ListOfShape& modified = fuse.Modified(original);
  if (modified.IsEmpty())
    return {original};
  return {modified.begin(), modified.end()};
}

GProp_GProps volumeProperties(const TopoDS_Shape& shape)
{
  GProp_GProps properties;
  BRepGProp::VolumeProperties(shape, properties);
  return properties;
}

/// Gathers the fused solids of every part; a solid that two parts claim is an overlap.
Expected<void> collectSolids(const std::vector<PartBody>& bodies, BOPAlgo_Builder& fuse, Brep& brep)
{
  TopTools_IndexedMapOfShape known;
  for (std::size_t p = 0; p < bodies.size(); ++p)
    for (TopExp_Explorer solids(bodies[p].body.shape, TopAbs_SOLID); solids.More(); solids.Next())
      for (const TopoDS_Shape& piece : piecesOf(fuse, solids.Current())) {
        if (const int index = known.FindIndex(piece); index > 0) {
          const auto other = static_cast<std::size_t>(brep.solidPart[static_cast<std::size_t>(index - 1)]);
          if (other == p)
            continue;
          const GProp_GProps overlap = volumeProperties(piece);
          constexpr double cubicCentimetres = 1e6;
          std::ostringstream size;
          size.precision(3);
          size << overlap.Mass() * cubicCentimetres;
          const Vec3 place = vec(overlap.CentreOfMass());
          return tl::unexpected(Failure{Failure::Kind::NotReady,
                                        "parts " + bodies[other].part->name + " and " + bodies[p].part->name,
                                        "They overlap by " + size.str() + " cm³ around " + placeText(place) + ".",
                                        "Move one of them, or say which one keeps the space.",
                                        {bodies[other].part->id, bodies[p].part->id},
                                        std::array{place.x(), place.y(), place.z()}});
        }
        known.Add(piece);
        brep.solids.push_back(TopoDS::Solid(piece));
        brep.solidPart.push_back(PartId(p));
      }
  return {};
}

void collectFaces(const Brep& solids, Brep& brep, FaceTable& table)
{
  TopTools_IndexedMapOfShape known;
  for (std::size_t s = 0; s < solids.solids.size(); ++s)
    for (TopExp_Explorer faces(solids.solids[s], TopAbs_FACE); faces.More(); faces.Next()) {
      const TopoDS_Shape& shape = faces.Current();
      if (shape.Orientation() != TopAbs_FORWARD && shape.Orientation() != TopAbs_REVERSED)
        continue; // internal faces bound nothing
      const auto index = static_cast<std::size_t>(known.Add(shape)) - 1;
      if (index == brep.faces.size()) {
        brep.faces.push_back(TopoDS::Face(shape.Oriented(TopAbs_FORWARD)));
        table.faces.emplace_back();
      }
      const std::size_t side = shape.Orientation() == TopAbs_FORWARD ? 0 : 1;
      table.faces[index].parts[side] = solids.solidPart[s];
    }
  for (Face& face : table.faces) {
    const bool reversed = face.parts[0] == noPart;
    if (reversed)
      std::swap(face.parts[0], face.parts[1]);
    brep.reversed.push_back(reversed);
  }
}

void nameFaces(const std::vector<PartBody>& bodies, BOPAlgo_Builder& fuse, const Brep& brep, FaceTable& table)
{
  TopTools_IndexedMapOfShape index;
  for (const TopoDS_Face& face : brep.faces)
    index.Add(face);
  for (const PartBody& body : bodies)
    for (const auto& [face, name] : body.body.names)
      for (const TopoDS_Shape& piece : piecesOf(fuse, face)) {
        const int at = index.FindIndex(piece);
        if (at == 0)
          continue;
        std::vector<std::string>& names = table.faces[static_cast<std::size_t>(at - 1)].names;
        if (std::find(names.begin(), names.end(), name) == names.end())
          names.push_back(name);
      }
}

void measureFaces(const Brep& brep, FaceTable& table)
{
  OSD_Parallel::For(0, static_cast<int>(table.faces.size()), [&](int index) {
    const auto f = static_cast<std::size_t>(index);
    GProp_GProps properties;
    constexpr double exact = 1e-6; // of a round face with a bent border: usually its quadrature misses 1e-4
    if (BRepAdaptor_Surface(brep.faces[f], false).GetType() == GeomAbs_Cylinder)
      BRepGProp::SurfaceProperties(brep.faces[f], properties, exact);
    else
      BRepGProp::SurfaceProperties(brep.faces[f], properties);
    Face& face = table.faces[f];
    face.area = properties.Mass();
    face.centroid = vec(properties.CentreOfMass());
    const FaceNormals normals = sampleNormals(brep.faces[f]);
    face.normal = brep.reversed[f] ? Vec3(-normals.mean) : normals.mean;
    face.normalSpread = normals.spread;
    face.planar = normals.planar;
    GProp_GProps edges;
    BRepGProp::LinearProperties(brep.faces[f], edges);
    face.width = edges.Mass() > 0 ? 2 * face.area / edges.Mass() : std::sqrt(face.area);
  });
}

std::vector<GeometryPart> measureParts(const std::vector<PartBody>& bodies, const Brep& brep)
{
  std::vector<GeometryPart> parts;
  for (const PartBody& body : bodies) {
    Bnd_Box box;
    BRepBndLib::AddOptimal(body.body.shape, box, false, false);
    GeometryPart part{body.part->id, body.part->name, 0, vec(box.CornerMin()), vec(box.CornerMax())};
    parts.push_back(std::move(part));
  }
  for (std::size_t s = 0; s < brep.solids.size(); ++s)
    parts[static_cast<std::size_t>(brep.solidPart[s])].volume += volumeProperties(brep.solids[s]).Mass();
  return parts;
}

Expected<Geometry> fuseParts(const Project& project, const std::vector<PartBody>& bodies)
{
  BOPAlgo_Builder fuse;
  for (const PartBody& body : bodies)
    for (TopExp_Explorer solids(body.body.shape, TopAbs_SOLID); solids.More(); solids.Next())
      fuse.AddArgument(solids.Current());
  fuse.SetFuzzyValue(project.shapes.tolerance ? project.shapes.tolerance->si : fuseTolerance);
  fuse.SetNonDestructive(true);
  fuse.SetRunParallel(true);
  fuse.SetUseOBB(true);
  fuse.SetCheckInverted(true);
  const bool single = fuse.Arguments().Extent() == 1;
  if (!single)
    fuse.Perform();
  if (!single && fuse.HasErrors()) {
    std::ostringstream report;
    fuse.GetReport()->Dump(report, Message_Fail);
    return failure(Failure::Kind::NotReady, "project " + project.name,
                   "The parts could not be fused: " + report.str() + ".",
                   "Switch parts off one after the other to find the one that stands in the way.");
  }
  auto brep = std::make_shared<Brep>();
  Geometry geometry;
  if (auto collected = collectSolids(bodies, fuse, *brep); !collected)
    return tl::unexpected(collected.error());
  geometry.table.parts = measureParts(bodies, *brep);
  collectFaces(*brep, *brep, geometry.table);
  nameFaces(bodies, fuse, *brep, geometry.table);
  measureFaces(*brep, geometry.table);
  brep->thickness = wallThickness(*brep, geometry.table);
  if (project.section)
    measureSection(sectionFrameOf(project), *brep, geometry.table);
  geometry.table.nearMisses = findNearMisses(*brep, geometry.table);
  geometry.brep = std::move(brep);
  return geometry;
}

/// What of the bodies lies in the plane of a section model.
Expected<void> cutForSection(const Project& project, std::vector<PartBody>& bodies)
{
  if (!project.section)
    return {};
  std::vector<SectionBody> own;
  for (const PartBody& body : bodies)
    own.push_back({body.part->id, body.part->name, body.body});
  if (auto cut = cutBySection(sectionFrameOf(project), own); !cut)
    return cut;
  for (std::size_t b = 0; b < bodies.size(); ++b)
    bodies[b].body = std::move(own[b].body);
  std::erase_if(bodies, [](const PartBody& body) { return body.body.shape.IsNull(); });
  return {};
}

/// Every body as it is, with its own faces.
Geometry looseGeometry(const Project& project, const std::vector<PartBody>& bodies)
{
  auto brep = std::make_shared<Brep>();
  for (std::size_t p = 0; p < bodies.size(); ++p)
    for (TopExp_Explorer solids(bodies[p].body.shape, TopAbs_SOLID); solids.More(); solids.Next()) {
      brep->solids.push_back(TopoDS::Solid(solids.Current()));
      brep->solidPart.push_back(PartId(p));
    }
  Geometry geometry;
  geometry.table.parts = measureParts(bodies, *brep);
  collectFaces(*brep, *brep, geometry.table);
  TopTools_IndexedMapOfShape index;
  for (const TopoDS_Face& face : brep->faces)
    index.Add(face);
  for (const PartBody& body : bodies)
    for (const auto& [face, name] : body.body.names)
      if (const int at = index.FindIndex(face); at != 0)
        geometry.table.faces[static_cast<std::size_t>(at - 1)].names.push_back(name);
  measureFaces(*brep, geometry.table);
  if (project.section)
    measureSection(sectionFrameOf(project), *brep, geometry.table);
  geometry.brep = std::move(brep);
  return geometry;
}

tl::unexpected<Failure> notFused(const Project& project)
{
  return failure(Failure::Kind::NotReady, "project " + project.name, "The parts could not be fused.",
                 "Switch parts off one after the other to find the one that stands in the way.");
}

} // namespace

struct PartCache::Bodies {
  std::map<std::string, std::pair<Part, NamedBody>> built;
};
PartCache::PartCache() : bodies_(std::make_unique<Bodies>()) {}
PartCache::~PartCache() = default;

/// Gets the bodies of a project through a cache.
class PartBodies
{
public:
  static Expected<std::vector<PartBody>> of(const Project& project, PartCache& cache)
  {
    auto& built = cache.bodies_->built;
    std::vector<Making> made;
    std::vector<std::size_t> missing;
    for (const Part& part : project.parts) {
      if (isMuted(project, part))
        continue;
      Making one{&part, shapeOnly(project, part), {}, {}};
      const auto kept = built.find(part.id);
      if (kept != built.end() && kept->second.first == one.shape && !reachesUp(part))
        one.body = kept->second.second;
      else if (!(one.twin = twinOf(one, made)))
        missing.push_back(made.size());
      made.push_back(std::move(one));
    }
    OSD_Parallel::For(0, static_cast<int>(missing.size()), [&](int i) {
      Making& one = made[missing[static_cast<std::size_t>(i)]];
      one.body = buildPart(project, reachesUp(*one.part) ? *one.part : one.shape);
    });
    std::vector<PartBody> bodies;
    for (Making& one : made) {
      if (one.twin)
        one.body = renamed(made[*one.twin], one.part->id);
      if (!*one.body)
        return tl::unexpected(one.body->error());
      built.insert_or_assign(one.part->id, std::pair(one.shape, **one.body));
      bodies.push_back({one.part, **one.body});
      if (one.part->shape.placement != Placement{} && !reachesUp(*one.part))
        bodies.back().body = moved(std::move(bodies.back().body), transformOf(one.part->shape.placement));
    }
    if (bodies.empty())
      return failure(Failure::Kind::NotReady, "project " + project.name, "It has no part to solve.",
                     "Add a part, or switch one on.");
    for (PartBody& yielding : bodies)
      for (const std::string& keeper : yielding.part->yieldsTo)
        for (const PartBody& other : bodies)
          if (other.part->id == keeper && other.part != yielding.part)
            yielding.body = cutBy(yielding.body, other.body);
    return bodies;
  }

private:
  struct Making {
    const Part* part;
    Part shape;
    std::optional<Expected<NamedBody>> body;
    std::optional<std::size_t> twin; ///< the one with the same shape, which is built once
  };

  /// An earlier part that differs in its name and place alone.
  static std::optional<std::size_t> twinOf(const Making& one, const std::vector<Making>& made)
  {
    if (reachesUp(*one.part) || namesFaces(*one.part))
      return {};
    for (std::size_t i = 0; i < made.size(); ++i) {
      const Part& other = made[i].shape;
      if (!made[i].twin && other.shape == one.shape.shape && other.steps == one.shape.steps &&
          other.repeat == one.shape.repeat && other.comment == one.shape.comment && !reachesUp(*made[i].part))
        return i;
    }
    return {};
  }
  /// Steps that work on a face carry its name, which begins with the part's.
  static bool namesFaces(const Part& part)
  {
    return std::any_of(part.steps.begin(), part.steps.end(), [](const ShapeStep& step) {
      return !std::holds_alternative<Join>(step.action) && !std::holds_alternative<Cut>(step.action);
    });
  }
  /// The body of another part with its faces named after this one; its failure too.
  static Expected<NamedBody> renamed(const Making& twin, const std::string& id)
  {
    Expected<NamedBody> body = *twin.body;
    if (!body)
      return body;
    for (auto& [face, name] : body->names)
      name.replace(0, twin.part->id.size(), id);
    return body;
  }

  /// What of a part makes its body, before it is put in its place.
  static Part shapeOnly(const Project& project, const Part& part)
  {
    Part shape;
    shape.id = part.id;
    shape.name = part.name; // for what is said when it fails
    shape.comment = project.section ? "section" : "";
    shape.shape = part.shape;
    shape.shape.placement = {};
    shape.steps = part.steps;
    shape.repeat = part.repeat;
    for (const FileBody& taken : fileBodiesOf(part))
      if (const TakenBody* body = findBody(project, taken))
        for (const std::string& face : body->faces) // its file may have been read again
          shape.comment += body->hash + face;
    return shape;
  }
  static bool reachesUp(const Part& part)
  {
    const auto reaches = [](PlacedForm form) {
      const auto reach = reachOf(form.form);
      return reach && !reach->upTo->empty();
    };
    return reaches(part.shape) || std::any_of(part.steps.begin(), part.steps.end(), [&](const ShapeStep& step) {
             const auto* join = std::get_if<Join>(&step.action);
             const auto* cut = std::get_if<Cut>(&step.action);
             return (join != nullptr && reaches(join->shape)) || (cut != nullptr && reaches(cut->shape));
           });
  }
};

Expected<Geometry> buildLoose(const Project& project, PartCache& cache)
{
  Expected<std::vector<PartBody>> bodies = PartBodies::of(project, cache);
  if (!bodies)
    return tl::unexpected(bodies.error());
  try {
    if (auto cut = cutForSection(project, *bodies); !cut)
      return tl::unexpected(cut.error());
    return looseGeometry(project, *bodies);
  } catch (const Standard_Failure&) {
    return notFused(project);
  }
}

Expected<Geometry> buildGeometry(const Project& project, PartCache& cache)
{
  Expected<std::vector<PartBody>> bodies = PartBodies::of(project, cache);
  if (!bodies)
    return tl::unexpected(bodies.error());
  try {
    if (auto cut = cutForSection(project, *bodies); !cut)
      return tl::unexpected(cut.error());
    return fuseParts(project, *bodies);
  } catch (const Standard_Failure&) {
    return notFused(project);
  }
}

Expected<Geometry> buildGeometry(const Project& project)
{
  PartCache cache;
  return buildGeometry(project, cache);
}

} // namespace kiln
