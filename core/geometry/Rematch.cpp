// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "geometry/Rematch.h"

#include "base/Vec3.h"
#include "geometry/TakenShape.h"

#include <BRepAdaptor_Surface.hxx>
#include <BRepGProp.hxx>
#include <GProp_GProps.hxx>
#include <algorithm>
#include <cmath>
#include <limits>

namespace kiln
{
namespace
{

/// What a face or body is known by.
struct Mark {
  int kind = 0;    ///< of the surface
  double size = 0; ///< m² of a face, m³ of a body
  Vec3 centre = Vec3::Zero(), direction = Vec3::Zero();
};

Vec3 vec(const gp_XYZ& p) { return {p.X(), p.Y(), p.Z()}; }

Mark markOf(const TopoDS_Face& face)
{
  const BRepAdaptor_Surface surface(face);
  GProp_GProps properties;
  BRepGProp::SurfaceProperties(face, properties);
  Mark mark{surface.GetType(), properties.Mass(), vec(properties.CentreOfMass().XYZ()), Vec3::Zero()};
  if (surface.GetType() == GeomAbs_Plane)
    mark.direction = vec(surface.Plane().Axis().Direction().XYZ()) * (face.Orientation() == TopAbs_REVERSED ? -1 : 1);
  return mark;
}

struct Marked {
  const TakenBody* body = nullptr;
  Mark whole;
  std::vector<Mark> faces;
};

Expected<std::vector<Marked>> marksOf(const GeometryFile& file)
{
  std::vector<Marked> all;
  for (const TakenBody& body : file.bodies) {
    const Expected<TopoDS_Shape> shape = shapeOf(body);
    if (!shape)
      return tl::unexpected(shape.error());
    Marked& marked = all.emplace_back();
    marked.body = &body;
    GProp_GProps properties;
    BRepGProp::VolumeProperties(*shape, properties);
    marked.whole = {0, properties.Mass(), vec(properties.CentreOfMass().XYZ()), Vec3::Zero()};
    for (const TopoDS_Face& face : facesInOrder(*shape))
      marked.faces.push_back(markOf(face));
  }
  return all;
}

constexpr double far = 1.0; // two that differ by more are not the same

/// How unlike two marks are: 0 is the same.
double distance(const Mark& a, const Mark& b, double length)
{
  if (a.kind != b.kind || a.direction.dot(b.direction) < (a.direction.norm() > 0 ? 0.7 : -1))
    return std::numeric_limits<double>::infinity();
  return (a.centre - b.centre).norm() / length + 0.5 * std::abs(std::log(a.size / b.size)) +
         (a.direction - b.direction).norm();
}

/// Pairs the nearest first. \return by index of \p now: index of \p before, −1 for none
template <class Distance>
std::vector<int> pairsOf(std::size_t before, std::size_t now, const Distance& distanceOf)
{
  struct Candidate {
    double distance;
    std::size_t before, now;
  };
  std::vector<Candidate> candidates;
  for (std::size_t b = 0; b < before; ++b)
    for (std::size_t n = 0; n < now; ++n)
      if (const double d = distanceOf(b, n); d < far)
        candidates.push_back({d, b, n});
  std::stable_sort(candidates.begin(), candidates.end(),
                   [](const Candidate& a, const Candidate& b) { return a.distance < b.distance; });
  std::vector<int> found(now, -1);
  std::vector<bool> taken(before);
  for (const Candidate& candidate : candidates)
    if (found[candidate.now] < 0 && !taken[candidate.before]) {
      found[candidate.now] = static_cast<int>(candidate.before);
      taken[candidate.before] = true;
    }
  return found;
}

std::string freeFace(const std::vector<std::string>& used)
{
  for (std::size_t n = used.size() + 1;; ++n)
    if (std::string name = "f" + std::to_string(n); std::find(used.begin(), used.end(), name) == used.end())
      return name;
}

/// Gives the faces of a body the names of before.
void nameFaces(const Marked& before, const Marked& now, TakenBody& body, Rematch& result)
{
  constexpr double same = 1e-6;
  const double length = std::cbrt(std::max(before.whole.size, 1e-30));
  const std::vector<int> pairs = pairsOf(before.faces.size(), now.faces.size(), [&](std::size_t b, std::size_t n) {
    return distance(before.faces[b], now.faces[n], length);
  });
  std::vector<std::string> used = before.body->faces;
  std::vector<std::string> gone = before.body->faces;
  int moved = 0;
  int fresh = 0;
  for (std::size_t n = 0; n < pairs.size(); ++n) {
    if (pairs[n] < 0) {
      body.faces[n] = freeFace(used);
      used.push_back(body.faces[n]);
      ++fresh;
      continue;
    }
    const auto b = static_cast<std::size_t>(pairs[n]);
    body.faces[n] = before.body->faces[b];
    std::erase(gone, body.faces[n]);
    moved += distance(before.faces[b], now.faces[n], length) > same ? 1 : 0;
  }
  if (moved + fresh == 0 && gone.empty()) {
    result.kept.push_back(body.name);
    return;
  }
  std::string text = body.name + ": " + std::to_string(moved) + " faces moved or resized, " + std::to_string(fresh) +
                     " new, " + std::to_string(gone.size()) + " gone";
  for (const std::string& face : gone) {
    text += (&face == &gone.front() ? " (" : ", ") + face + (&face == &gone.back() ? ")" : "");
    result.goneFaces.push_back(body.id + "." + face);
  }
  result.changed.push_back(text);
}

} // namespace

Expected<Rematch> rematch(const GeometryFile& before, const GeometryFile& now)
{
  const auto old = marksOf(before);
  const auto fresh = marksOf(now);
  if (!old)
    return tl::unexpected(old.error());
  if (!fresh)
    return tl::unexpected(fresh.error());
  const std::vector<int> pairs = pairsOf(old->size(), fresh->size(), [&](std::size_t b, std::size_t n) {
    const Marked& was = (*old)[b];
    const Marked& is = (*fresh)[n];
    const double length = std::cbrt(std::max(was.whole.size, 1e-30));
    const double unlike = distance(was.whole, is.whole, length);
    return was.body->name == is.body->name ? 1e-3 * unlike : 0.5 + unlike;
  });
  Rematch result;
  result.file = before;
  result.file.path = now.path;
  result.file.hash = now.hash;
  result.file.unit = now.unit;
  result.file.faceAngle = now.faceAngle;
  result.file.removeBelow = now.removeBelow;
  result.file.bodies.clear();
  std::vector<bool> found(old->size());
  std::size_t number = before.bodies.size();
  for (std::size_t n = 0; n < fresh->size(); ++n) {
    TakenBody body = *(*fresh)[n].body;
    if (pairs[n] < 0) {
      do
        body.id = "b" + std::to_string(++number);
      while (findById(before.bodies, body.id) != nullptr);
      result.added.push_back(body.name);
    } else {
      const auto b = static_cast<std::size_t>(pairs[n]);
      found[b] = true;
      body.id = before.bodies[b].id;
      nameFaces((*old)[b], (*fresh)[n], body, result);
    }
    result.file.bodies.push_back(std::move(body));
  }
  for (std::size_t b = 0; b < found.size(); ++b)
    if (!found[b])
      result.gone.push_back(before.bodies[b].name);
  return result;
}

std::vector<std::string> takeAgain(Project& project, const Rematch& again, const GeometryFile& before)
{
  std::vector<std::string> lost;
  GeometryFile* file = findById(project.files, before.id);
  if (file == nullptr)
    return lost;
  *file = again.file;
  for (const TakenBody& body : before.bodies)
    if (findById(file->bodies, body.id) == nullptr) {
      bool used = false;
      for (const Part& part : project.parts)
        if (const std::vector<FileBody> own = fileBodiesOf(part);
            std::any_of(own.begin(), own.end(),
                        [&](const FileBody& one) { return one.file == before.id && one.body == body.id; })) {
          lost.push_back(part.id);
          used = true;
        }
      if (used)
        file->bodies.push_back(body); // nothing is lost: the part keeps its shape until it is removed
    }
  for (const TakenBody& body : again.file.bodies)
    if (findById(before.bodies, body.id) == nullptr) {
      Part part;
      part.id = freeId(project, "body");
      part.name = body.name;
      part.shape.form = FileBody{before.id, body.id};
      project.parts.push_back(std::move(part));
    }
  return lost;
}

} // namespace kiln
