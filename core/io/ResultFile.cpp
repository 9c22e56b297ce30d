// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "io/ResultFile.h"

#include "io/AtomicFile.h"
#include "io/DescribeResult.h"
#include "io/Hdf5.h"
#include "io/JsonId.h"
#include "io/JsonText.h"

#include <algorithm>

namespace kiln
{
namespace
{

constexpr int layoutVersion = 5;

Json vecJson(const Vec3& v) { return Json::array({v.x(), v.y(), v.z()}); }

Vec3 vecFrom(const Json& json)
{
  return {json.at(0).get<double>(), json.at(1).get<double>(), json.at(2).get<double>()};
}

Json geometryJson(const Mesh& mesh)
{
  Json json;
  json["parts"] = json["faces"] = Json::array(); // a network of nodes has neither
  for (const GeometryPart& part : mesh.geometry.parts)
    json["parts"].push_back({{"id", part.id},
                             {"name", part.name},
                             {"volume", part.volume},
                             {"low", vecJson(part.low)},
                             {"high", vecJson(part.high)}});
  for (const Face& face : mesh.geometry.faces)
    json["faces"].push_back({{"parts", face.parts},
                             {"names", face.names},
                             {"area", face.area},
                             {"centroid", vecJson(face.centroid)},
                             {"normal", vecJson(face.normal)},
                             {"normalSpread", face.normalSpread},
                             {"planar", face.planar},
                             {"width", face.width},
                             {"aside", face.aside}});
  json["nearMisses"] = Json::array();
  for (const NearMiss& miss : mesh.geometry.nearMisses)
    json["nearMisses"].push_back(
        {{"parts", {miss.partA, miss.partB}}, {"gap", miss.gap}, {"place", vecJson(miss.place)}});
  json["voids"] = Json::array();
  for (const Void& space : mesh.voids)
    json["voids"].push_back({{"volume", space.volume}, {"faces", space.faces}});
  json["smallestDihedral"] = mesh.smallestDihedral;
  json["order"] = mesh.order;
  if (const SectionFrame& s = mesh.geometry.section; s.is())
    json["section"] = {{"across", s.across}, {"at", s.at}, {"turned", s.turned}, {"axis", s.axis}, {"depth", s.depth}};
  return json;
}

void readGeometry(const Json& json, Mesh& mesh)
{
  for (const Json& part : json.at("parts"))
    mesh.geometry.parts.push_back(
        {part.at("id"), part.at("name"), part.at("volume"), vecFrom(part.at("low")), vecFrom(part.at("high"))});
  for (const Json& face : json.at("faces"))
    mesh.geometry.faces.push_back({face.at("parts").get<std::array<PartId, 2>>(), face.at("names"), face.at("area"),
                                   vecFrom(face.at("centroid")), vecFrom(face.at("normal")), face.at("normalSpread"),
                                   face.at("planar"), face.at("width"), face.value("aside", false)});
  for (const Json& miss : json.at("nearMisses"))
    mesh.geometry.nearMisses.push_back({miss.at("parts").at(0).get<PartId>(), miss.at("parts").at(1).get<PartId>(),
                                        miss.at("gap"), vecFrom(miss.at("place"))});
  for (const Json& space : json.at("voids"))
    mesh.voids.push_back({space.at("volume"), space.at("faces").get<std::vector<FaceId>>()});
  mesh.smallestDihedral = json.at("smallestDihedral");
  mesh.order = json.value("order", 1);
  if (const auto s = json.find("section"); s != json.end())
    mesh.geometry.section = {s->at("across"), s->at("at"), s->at("turned"), s->at("axis"), s->at("depth")};
}

template <class Row>
std::vector<std::int32_t> flat(const std::vector<Row>& rows)
{
  std::vector<std::int32_t> values;
  values.reserve(rows.size() * std::tuple_size_v<Row>);
  for (const Row& row : rows)
    values.insert(values.end(), row.begin(), row.end());
  return values;
}

template <class Row>
std::vector<Row> rowsOf(const std::vector<std::int32_t>& values)
{
  constexpr std::size_t width = std::tuple_size_v<Row>;
  std::vector<Row> rows(values.size() / width);
  for (std::size_t i = 0; i < rows.size() * width; ++i)
    rows[i / width][i % width] = typename Row::value_type(values[i]);
  return rows;
}

std::span<const double> flat(const std::vector<Vec3>& rows)
{
  static_assert(sizeof(Vec3) == 3 * sizeof(double));
  return {rows.empty() ? nullptr : rows.front().data(), rows.size() * 3};
}

std::vector<Vec3> vectorsOf(const std::vector<double>& values)
{
  std::vector<Vec3> rows(values.size() / 3);
  for (std::size_t i = 0; i < rows.size(); ++i)
    rows[i] = Vec3(values[3 * i], values[3 * i + 1], values[3 * i + 2]);
  return rows;
}

template <class Id>
std::vector<std::int32_t> numbersOf(const std::vector<Id>& ids)
{
  return {ids.begin(), ids.end()};
}

template <class Id>
std::vector<Id> idsOf(const std::vector<std::int32_t>& numbers)
{
  std::vector<Id> ids;
  ids.reserve(numbers.size());
  for (const std::int32_t number : numbers)
    ids.emplace_back(number);
  return ids;
}

void writeMesh(Hdf5Writer& writer, const Mesh& mesh)
{
  writer.write("/mesh/nodes", flat(mesh.nodes), 3);
  writer.write("/mesh/tets", flat(mesh.tets), 4);
  writer.write("/mesh/tetPart", numbersOf(mesh.tetPart));
  writer.write("/mesh/triangles", flat(mesh.triangles), 3);
  writer.write("/mesh/triangleFace", numbersOf(mesh.triangleFace));
  writer.write("/mesh/triangleTets", flat(mesh.triangleTets), 2);
  if (!mesh.column.empty())
    writer.write("/mesh/column", numbersOf(mesh.column));
  writer.writeText("/mesh/geometry", geometryJson(mesh).dump());
}

template <class Number>
bool inRange(const std::vector<Number>& values, std::size_t count, std::int32_t lowest = 0)
{
  return std::all_of(values.begin(), values.end(),
                     [&](std::int32_t v) { return v >= lowest && v < static_cast<std::int32_t>(count); });
}

/// Faces and voids refer to parts and faces that exist.
bool consistent(const Mesh& mesh)
{
  const auto parts = static_cast<int>(mesh.geometry.parts.size());
  const auto faces = static_cast<int>(mesh.geometry.faces.size());
  return std::all_of(mesh.geometry.faces.begin(), mesh.geometry.faces.end(),
                     [&](const Face& f) {
                       return f.parts[0] >= 0 && f.parts[0] < parts && f.parts[1] >= noPart && f.parts[1] < parts;
                     }) &&
         std::all_of(mesh.geometry.nearMisses.begin(), mesh.geometry.nearMisses.end(),
                     [&](const NearMiss& m) {
                       return std::min(m.partA, m.partB) >= 0 && std::max(m.partA, m.partB) < parts;
                     }) &&
         std::all_of(mesh.voids.begin(), mesh.voids.end(), [&](const Void& v) {
           return std::all_of(v.faces.begin(), v.faces.end(), [&](int f) { return f >= 0 && f < faces; });
         });
}

/// A tet lies in the part of its face's side, so that every corner of a triangle has an unknown.
bool sidesMatch(const Mesh& mesh)
{
  if (mesh.tets.empty())
    return true; // faces drawn while editing
  for (std::size_t t = 0; t < mesh.triangles.size(); ++t)
    for (std::size_t side = 0; side < 2; ++side) {
      const PartId part = mesh.geometry.faces[static_cast<std::size_t>(mesh.triangleFace[t])].parts[side];
      const std::int32_t tet = mesh.triangleTets[t][side];
      if ((part == noPart) != (tet < 0))
        return false;
      if (tet < 0)
        continue;
      const Tet& corners = mesh.tets[static_cast<std::size_t>(tet)];
      for (const int node : mesh.triangles[t])
        if (std::find(corners.begin(), corners.end(), node) == corners.end())
          return false;
      if (mesh.tetPart[static_cast<std::size_t>(tet)] != part)
        return false;
    }
  return true;
}

bool readMesh(Hdf5Reader& reader, Mesh& mesh)
{
  mesh.nodes = vectorsOf(reader.doubles("/mesh/nodes"));
  const std::vector<std::int32_t> tets = reader.integers("/mesh/tets");
  const std::vector<std::int32_t> triangles = reader.integers("/mesh/triangles");
  const std::vector<std::int32_t> sides = reader.integers("/mesh/triangleTets");
  mesh.tetPart = idsOf<PartId>(reader.integers("/mesh/tetPart"));
  mesh.triangleFace = idsOf<FaceId>(reader.integers("/mesh/triangleFace"));
  const std::string geometry = reader.text("/mesh/geometry");
  if (reader.failed())
    return false;
  readGeometry(Json::parse(geometry), mesh);
  if (mesh.geometry.section.is()) {
    const std::vector<std::int32_t> column = reader.integers("/mesh/column");
    mesh.column = idsOf<NodeId>(column);
    if (reader.failed() || column.size() != mesh.nodes.size() || !inRange(column, mesh.nodes.size()) ||
        mesh.geometry.section.across > 2)
      return false;
  }
  mesh.tets = rowsOf<Tet>(tets);
  mesh.triangles = rowsOf<NodeTriangle>(triangles);
  mesh.triangleTets = rowsOf<std::array<std::int32_t, 2>>(sides);
  return inRange(tets, mesh.nodes.size()) && inRange(triangles, mesh.nodes.size()) &&
         inRange(sides, mesh.tets.size(), -1) && inRange(mesh.tetPart, mesh.geometry.parts.size()) &&
         inRange(mesh.triangleFace, mesh.geometry.faces.size()) && mesh.tetPart.size() == mesh.tets.size() &&
         mesh.triangleFace.size() == mesh.triangles.size() && mesh.triangleTets.size() == mesh.triangles.size() &&
         consistent(mesh) && sidesMatch(mesh);
}

std::string summaryText(const CaseResult& result)
{
  JsonWriter writer;
  writer.json["layout"] = layoutVersion;
  describe(writer, const_cast<CaseResult&>(result)); // a writer changes nothing
  return writer.json.dump();
}

/// \return false where it is not whole, or of another version
bool readSummary(const Json& json, CaseResult& result)
{
  RecordReader reader(json);
  describe(reader, result);
  return !reader.failed() && json.at("layout") == layoutVersion;
}

tl::unexpected<Failure> damaged(const std::filesystem::path& file)
{
  return failure(Failure::Kind::Unreadable, "file " + file.string(), "It is damaged or of another version.",
                 "Solve the case again.");
}

} // namespace

std::string resultBytes(const CaseResult& result)
{
  Hdf5Writer writer;
  writeMesh(writer, result.mesh);
  writer.writeText("/summary", summaryText(result));
  std::vector<std::uint8_t> jump(result.jump.begin(), result.jump.end());
  writer.write("/solution/faceJump", jump);
  writer.write("/solution/unknownNode", numbersOf(result.unknowns.node));
  writer.write("/solution/tetUnknowns", flat(result.unknowns.ofTet), 4);
  writer.write("/solution/temperature", result.temperature);
  writer.write("/solution/flux", flat(result.flux), 3);
  writer.write("/solution/faceHeat", result.faceHeat);
  writer.write("/solution/contactHeat", result.contactHeat);
  return writer.finish();
}

Expected<void> saveResult(const CaseResult& result, const std::filesystem::path& file)
{
  return writeAtomically(file, resultBytes(result));
}

Expected<CaseResult> loadStored(const std::filesystem::path& folder, const Case& oneCase)
{
  const auto stored = storedCase(folder, oneCase.id);
  if (!stored)
    return tl::unexpected(stored.error());
  if (!*stored)
    return failure(Failure::Kind::Unreadable, "case " + oneCase.name, "It has no result in " + folder.string() + ".",
                   "Solve it first.");
  return loadResult((*stored)->result);
}

Expected<CaseResult> loadResult(const std::filesystem::path& file)
{
  Expected<Hdf5Reader> reader = Hdf5Reader::open(file);
  if (!reader)
    return tl::unexpected(reader.error());
  CaseResult result;
  try {
    if (!readMesh(*reader, result.mesh))
      return damaged(file);
    if (!readSummary(Json::parse(reader->text("/summary")), result))
      return damaged(file);
    const std::vector<std::uint8_t> jump = reader->bytes("/solution/faceJump");
    result.jump.assign(jump.begin(), jump.end());
    result.temperature = reader->doubles("/solution/temperature");
    result.flux = vectorsOf(reader->doubles("/solution/flux"));
    result.faceHeat = reader->doubles("/solution/faceHeat");
    result.contactHeat = reader->doubles("/solution/contactHeat");
  } catch (const std::exception&) { // damaged JSON, or sizes that cannot be
    return damaged(file);
  }
  const std::size_t faces = result.mesh.geometry.faces.size();
  if (reader->failed() || result.jump.size() != faces || result.faceHeat.size() != faces ||
      result.contactHeat.size() != faces)
    return damaged(file);
  result.unknowns = numberUnknowns(result.mesh, result.jump);
  if (result.temperature.size() != static_cast<std::size_t>(result.unknowns.count))
    return damaged(file);
  return result;
}

Expected<void> saveMesh(const StoredMesh& stored, const std::filesystem::path& file)
{
  Hdf5Writer writer;
  writeMesh(writer, stored.mesh);
  writer.writeText("/summary", Json{{"layout", layoutVersion}, {"meshHash", stored.hash}}.dump());
  return writeAtomically(file, writer.finish());
}

Expected<StoredMesh> loadMesh(const std::filesystem::path& file)
{
  Expected<Hdf5Reader> reader = Hdf5Reader::open(file);
  if (!reader)
    return tl::unexpected(reader.error());
  StoredMesh stored;
  try {
    const Json summary = Json::parse(reader->text("/summary"));
    if (summary.at("layout") != layoutVersion || !readMesh(*reader, stored.mesh))
      return damaged(file);
    stored.hash = summary.at("meshHash");
  } catch (const std::exception&) { // damaged JSON, or sizes that cannot be
    return damaged(file);
  }
  return stored;
}

std::filesystem::path draftFile(const std::filesystem::path& folder, bool fused)
{
  return folder / (fused ? ".draft.h5" : ".loose.h5");
}

std::filesystem::path meshFile(const std::filesystem::path& folder)
{
  return folder / ".mesh.h5"; // a safe case name never starts with a point
}

} // namespace kiln
