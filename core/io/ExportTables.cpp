// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "io/ExportTables.h"

#include "base/At.h"
#include "heat/elements/Location.h"
#include "heat/elements/Unknowns.h"
#include "io/Export.h"
#include "io/TextTable.h"
#include "results/FaceFlows.h"
#include "results/PartLocator.h"
#include "results/ResultFields.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <cstdio>
#include <limits>
#include <sstream>

namespace kiln
{

using namespace texttable;

namespace
{

std::string number(double value)
{
  std::array<char, 40> text{};
  std::snprintf(text.data(), text.size(), "%.9g", value);
  return text.data();
}

std::string celsius(double kelvin) { return number(toDisplay(kelvin, Quantity::Temperature)); }

/// What the triangles of a face say together.
struct OnFace {
  double area = 0, kelvinArea = 0;
  double low = std::numeric_limits<double>::infinity(), high = -std::numeric_limits<double>::infinity();
  Vec3 middleArea = Vec3::Zero();
};

std::vector<OnFace> onFaces(const CaseResult& result)
{
  const Mesh& mesh = result.mesh;
  std::vector<OnFace> faces(mesh.geometry.faces.size());
  for (std::size_t t = 0; t < mesh.triangles.size(); ++t) {
    OnFace& face = faces[at(mesh.triangleFace[t])];
    const double area = triangleArea(mesh, t);
    face.area += area;
    for (std::size_t i = 0; i < 3; ++i) { // linear on each triangle
      const double kelvin = result.temperature[at(result.unknowns.ofTriangle[t][0][i])];
      face.kelvinArea += area * kelvin / 3;
      face.middleArea += area * mesh.placeOf(mesh.triangles[t][i]) / 3;
      face.low = std::min(face.low, kelvin);
      face.high = std::max(face.high, kelvin);
    }
  }
  return faces;
}

} // namespace

std::string facesCsv(const Project& project, const CaseResult& result)
{
  const Mesh& mesh = result.mesh;
  const std::vector<OnFace> faces = onFaces(result);
  const auto nameOf = [&](PartId part) {
    const GeometryPart& own = mesh.geometry.parts[at(part)];
    const Part* named = findById(project.parts, own.id);
    return csvField(named != nullptr ? named->name : own.name);
  };
  std::string csv = "face,part,touches,area [m2],x [m],y [m],z [m],mean temperature [degC],lowest [degC],highest "
                    "[degC],heat [W],heat flux [W/m2]\n";
  for (const FaceFlow& flow : faceFlows(mesh, result.faceHeat, result.contactHeat, result.flux)) {
    const Face& face = mesh.geometry.faces[at(flow.face)];
    const OnFace& own = faces[at(flow.face)];
    if (own.area <= 0)
      continue;
    const Vec3 middle = own.middleArea / own.area;
    csv += csvField(face.names.empty() ? std::string() : face.names.front()) + "," + nameOf(face.parts[0]) + "," +
           (face.contact() ? nameOf(face.parts[1]) : std::string()) + "," + number(own.area);
    for (int d = 0; d < 3; ++d)
      csv += "," + number(middle[d]);
    csv += "," + celsius(own.kelvinArea / own.area) + "," + celsius(own.low) + "," + celsius(own.high) + "," +
           number(flow.ledger) + "," + number(flow.ledger / own.area) + "\n";
  }
  return csv;
}

Expected<std::vector<Vec3>> readPlaces(std::string_view text, const std::string& shownName)
{
  constexpr std::size_t columns = 3;
  std::istringstream stream{std::string(text)};
  std::string line;
  std::getline(stream, line);
  int row = 1;
  const auto wrong = [&](const std::string& problem, const std::string& remedy) {
    return failure(Failure::Kind::Unreadable, "file " + shownName + ", line " + std::to_string(row), problem, remedy);
  };
  const std::vector<std::string> units = unitsOf(line);
  const bool known =
      units.size() >= columns && std::all_of(units.begin(), units.begin() + columns,
                                             [](const auto& one) { return quantityOfUnit(one) == Quantity::Length; });
  if (!known)
    return wrong("It does not name three columns with a unit of length in [ ].",
                 "Write the first line like: x [mm]; y [mm]; z [mm].");
  std::vector<Vec3> places;
  while (std::getline(stream, line)) {
    ++row;
    if (trimmed(line).empty())
      continue;
    std::vector<std::string> cells = cellsOf(line, separatorOf(line));
    if (separatorOf(line) != ',') // then a comma is that of a number
      for (std::string& cell : cells)
        std::replace(cell.begin(), cell.end(), ',', '.');
    Vec3 place = Vec3::Zero();
    for (std::size_t i = 0; i < columns; ++i) {
      const auto value = parseQuantity((cells.size() >= columns ? cells[i] : "?") + " " + units[i], Quantity::Length);
      if (!value || !std::isfinite(value->si))
        return wrong("It does not begin with three numbers: “" + trimmed(line).substr(0, 60) + "”.",
                     "Correct the line; every row has x, y and z.");
      place[static_cast<Eigen::Index>(i)] = value->si;
    }
    places.push_back(place);
  }
  if (places.empty())
    return wrong("There are no places below the first line.", "Add rows of x, y and z.");
  return places;
}

std::string placesCsv(const Project& project, const CaseResult& result, const std::vector<Vec3>& places,
                      std::size_t& outside)
{
  const Mesh& mesh = result.mesh;
  std::vector<PartLocator> locators;
  for (std::size_t p = 0; p < mesh.geometry.parts.size(); ++p)
    locators.emplace_back(mesh, PartId(p));
  const std::vector<Vec3> flux = elementFlux(project, result, result.temperature);
  std::string csv = "x [m],y [m],z [m],part,temperature [degC],flux x [W/m2],flux y [W/m2],flux z [W/m2],outside [m]\n";
  outside = 0;
  for (const Vec3& place : places) {
    Location best;
    best.distance = std::numeric_limits<double>::infinity();
    for (const PartLocator& locator : locators)
      if (!locator.empty())
        if (const Location here = locator.find(place); here.distance < best.distance)
          best = here;
    csv += number(place.x()) + "," + number(place.y()) + "," + number(place.z()) + ",";
    constexpr double touching = 1e-6; // m
    if (best.distance > touching) {
      ++outside;
      csv += ",,,,," + number(best.distance) + "\n";
      continue;
    }
    double kelvin = 0;
    for (const UnknownShare& share : sharesAt(mesh, result.unknowns, best))
      kelvin += share.share * result.temperature[at(share.unknown)];
    const GeometryPart& part = mesh.geometry.parts[at(mesh.tetPart[best.tet])];
    const Part* named = findById(project.parts, part.id);
    csv += csvField(named != nullptr ? named->name : part.name) + "," + celsius(kelvin);
    for (int d = 0; d < 3; ++d)
      csv += "," + number(flux[best.tet][d]);
    csv += ",0\n";
  }
  return csv;
}

} // namespace kiln
