// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "geometry/TakenShape.h"

#include "base/PackedText.h"
#include "base/TextHash.h"

#include <BinTools.hxx>
#include <Standard_Failure.hxx>
#include <TopExp.hxx>
#include <TopTools_IndexedMapOfShape.hxx>
#include <TopoDS.hxx>
#include <map>
#include <mutex>
#include <sstream>

namespace kiln
{
namespace
{

tl::unexpected<Failure> damaged(const TakenBody& body)
{
  return failure(Failure::Kind::Unreadable, "body " + body.name, "Its embedded shape is damaged.",
                 "Read its file again.");
}

} // namespace

std::vector<TopoDS_Face> facesInOrder(const TopoDS_Shape& shape)
{
  TopTools_IndexedMapOfShape map;
  TopExp::MapShapes(shape, TopAbs_FACE, map);
  std::vector<TopoDS_Face> faces;
  for (int i = 1; i <= map.Extent(); ++i)
    faces.push_back(TopoDS::Face(map(i)));
  return faces;
}

TakenBody takeBody(const TopoDS_Shape& shape, const std::string& id, const std::string& name)
{
  std::ostringstream stream;
  BinTools::Write(shape, stream, false, false, BinTools_FormatVersion_CURRENT);
  const std::string bytes = stream.str();
  TakenBody body{id, name, {}, textHash(bytes), SharedText(packedText(bytes))};
  const std::size_t faces = facesInOrder(shape).size();
  for (std::size_t f = 1; f <= faces; ++f)
    body.faces.push_back("f" + std::to_string(f));
  return body;
}

Expected<TopoDS_Shape> shapeOf(const TakenBody& body)
{
  static std::mutex guard;
  static std::map<std::string, TopoDS_Shape> known; // by the hash of what was decoded
  const std::scoped_lock lock(guard);
  const auto bytes = known.contains(body.hash) ? std::nullopt : unpackedText(body.shape.text());
  if (const auto found = known.find(body.hash); found != known.end())
    return found->second;
  if (!bytes || textHash(*bytes) != body.hash)
    return damaged(body);
  TopoDS_Shape shape;
  try {
    std::istringstream stream(*bytes);
    BinTools::Read(shape, stream);
  } catch (const Standard_Failure&) {
    return damaged(body);
  }
  if (shape.IsNull() || facesInOrder(shape).size() != body.faces.size())
    return damaged(body);
  constexpr std::size_t most = 1000; // bodies
  if (known.size() > most)
    known.clear();
  known.emplace(body.hash, shape);
  return shape;
}

std::vector<FileBody> fileBodiesOf(const Part& part)
{
  std::vector<FileBody> bodies;
  const auto add = [&](const PlacedForm& form) {
    if (const auto* taken = std::get_if<FileBody>(&form.form))
      bodies.push_back(*taken);
  };
  add(part.shape);
  for (const ShapeStep& step : part.steps) {
    if (const auto* join = std::get_if<Join>(&step.action))
      add(join->shape);
    if (const auto* cut = std::get_if<Cut>(&step.action))
      add(cut->shape);
  }
  return bodies;
}

const TakenBody* findBody(const Project& project, const FileBody& form)
{
  const GeometryFile* file = findById(project.files, form.file);
  return file != nullptr ? findById(file->bodies, form.body) : nullptr;
}

Expected<NamedBody> makeFileBody(const Project& project, const FileBody& form, const std::string& prefix)
{
  const TakenBody* body = findBody(project, form);
  if (body == nullptr)
    return failure(Failure::Kind::NotReady, "file " + form.file, "It has no body “" + form.body + "”.",
                   "Read the file again, or choose another body.");
  const Expected<TopoDS_Shape> shape = shapeOf(*body);
  if (!shape)
    return tl::unexpected(shape.error());
  NamedBody named{*shape, {}};
  const std::vector<TopoDS_Face> faces = facesInOrder(*shape);
  for (std::size_t f = 0; f < faces.size(); ++f)
    named.names.emplace_back(faces[f], prefix + "." + body->faces[f]);
  return named;
}

} // namespace kiln
