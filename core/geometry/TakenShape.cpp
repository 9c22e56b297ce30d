// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "geometry/TakenShape.h"

#include "base/TextHash.h"

#include <BinTools.hxx>
#include <Standard_Failure.hxx>
#include <TopExp.hxx>
#include <TopTools_IndexedMapOfShape.hxx>
#include <TopoDS.hxx>
#include <boost/beast/core/detail/base64.hpp>
#include <map>
#include <mutex>
#include <sstream>
#include <zlib.h>

namespace kiln
{
namespace
{

namespace base64 = boost::beast::detail::base64;

/// Compressed, led by its length, in base64.
std::string packed(const std::string& bytes)
{
  uLongf size = compressBound(bytes.size());
  std::string compressed(size, '\0');
  compress2(reinterpret_cast<Bytef*>(compressed.data()), &size, reinterpret_cast<const Bytef*>(bytes.data()),
            bytes.size(), Z_BEST_COMPRESSION);
  compressed.resize(size);
  std::string text(base64::encoded_size(size), '\0');
  text.resize(base64::encode(text.data(), compressed.data(), compressed.size()));
  return std::to_string(bytes.size()) + ":" + text;
}

std::optional<std::string> unpacked(const std::string& text)
{
  constexpr unsigned long long most = 1ULL << 31U; // bytes; more is no body but a damaged length
  const std::size_t colon = text.find(':');
  if (colon == std::string::npos)
    return std::nullopt;
  const unsigned long long length = std::strtoull(text.c_str(), nullptr, 10);
  if (length == 0 || length > most)
    return std::nullopt;
  std::string compressed(base64::decoded_size(text.size() - colon - 1), '\0');
  compressed.resize(base64::decode(compressed.data(), text.data() + colon + 1, text.size() - colon - 1).first);
  std::string bytes(length, '\0');
  uLongf size = length;
  const int result = uncompress(reinterpret_cast<Bytef*>(bytes.data()), &size,
                                reinterpret_cast<const Bytef*>(compressed.data()), compressed.size());
  return result == Z_OK && size == length ? std::optional(std::move(bytes)) : std::nullopt;
}

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
  TakenBody body{id, name, {}, textHash(bytes), SharedText(packed(bytes))};
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
  const auto bytes = known.contains(body.hash) ? std::nullopt : unpacked(body.shape.text());
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
