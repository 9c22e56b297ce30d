// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "Asked.h"
#include "VtuImport.h"
#include "geometry/GeometryImport.h"
#include "geometry/LinkedShapes.h"
#include "geometry/MeshFileKinds.h"
#include "geometry/Rematch.h"
#include "io/ProjectFile.h"
#include "io/ResultFile.h"
#include "mesh/DraftMesh.h"

#include <algorithm>
#include <cctype>
#include <iostream>
#include <nlohmann/json.hpp>
#include <set>

namespace kiln::cli
{
namespace
{

using Json = nlohmann::ordered_json;

/// A failure while a file is taken in names that file.
ExitCode refusedIn(const std::filesystem::path& file, Failure failure, Reporter& reporter)
{
  const std::string name = file.filename().string();
  if (failure.object.find(name) == std::string::npos)
    failure.object = "file " + name + (failure.object.empty() ? "" : ", " + failure.object);
  return refused(failure, reporter);
}

/// A setting typed with its unit.
Expected<double> lengthOf(const std::string& text, Quantity quantity, const std::string& option)
{
  const auto parsed = parseQuantity(text, quantity);
  if (!parsed || parsed->si <= 0)
    return failure(Failure::Kind::NotReady, option + " " + text, "It is not a positive value that is understood.",
                   "Write for example " + option +
                       (quantity == Quantity::Angle ? " \"30 deg\"." : " mm or \"25.4 mm\"."));
  return parsed->si;
}

Expected<ImportSettings> settingsOf(const ImportRequest& request)
{
  ImportSettings settings;
  const bool named = !request.unit.empty() && std::isdigit(static_cast<unsigned char>(request.unit.front())) == 0;
  const auto unit = lengthOf((named ? "1 " : "") + request.unit, Quantity::Length, "--unit");
  const auto angle = lengthOf(request.angle, Quantity::Angle, "--angle");
  if (!unit || !angle)
    return tl::unexpected(!unit ? unit.error() : angle.error());
  settings.unit = *unit;
  settings.featureAngle = *angle;
  if (!request.removeBelow.empty()) {
    const auto below = lengthOf(request.removeBelow, Quantity::Length, "--remove-below");
    if (!below)
      return tl::unexpected(below.error());
    settings.removeBelow = *below;
  }
  return settings;
}

/// Faces by name: flat pieces of a skin of triangles share one.
std::size_t facesOf(const FoundBody& body)
{
  return std::set<std::string>(body.body.faces.begin(), body.body.faces.end()).size();
}

Json jsonOf(const FoundBody& body)
{
  return {{"stage", "body"},
          {"id", body.body.id},
          {"name", body.body.name},
          {"faces", facesOf(body)},
          {"volume", body.volume},
          {"low", {body.low.x(), body.low.y(), body.low.z()}},
          {"high", {body.high.x(), body.high.y(), body.high.z()}},
          {"note", body.note},
          {"problem", body.problem},
          {"sameAs", body.sameAs}};
}

void sayBody(const FoundBody& body, Reporter& reporter)
{
  const Vec3 size = body.high - body.low;
  std::string line = "  " + body.body.name + ": ";
  if (!body.problem.empty())
    line += "skipped. " + body.problem + ".";
  else
    line += formatQuantity(size.x(), Quantity::Length) + " × " + formatQuantity(size.y(), Quantity::Length) + " × " +
            formatQuantity(size.z(), Quantity::Length) + ", " + std::to_string(facesOf(body)) + " faces" +
            (body.sameAs.empty() ? "" : ", the same as " + body.sameAs);
  reporter.say(line + (body.note.empty() ? "" : " (" + body.note + ")"));
}

/// What was found, for looking at. Without it the window shows no picture, and all else works.
void drawBodies(Project project, const std::filesystem::path& file)
{
  if (file.empty())
    return;
  std::error_code ignored;
  std::filesystem::remove(file, ignored);
  PartCache cache;
  if (const Expected<Geometry> geometry = buildLoose(project, cache))
    if (Expected<Mesh> mesh = draftMesh(*geometry))
      (void)saveMesh({"", std::move(*mesh)}, file);
}

/// The parts that are solid; areas are only drawn when there is nothing else, as a section.
Project solidsOf(Project project, const FoundGeometry& found)
{
  const auto isFlat = [&](const Part& part) {
    const std::string& id = std::get<FileBody>(part.shape.form).body;
    return std::any_of(found.bodies.begin(), found.bodies.end(),
                       [&](const FoundBody& own) { return own.body.id == id && own.volume <= 0; });
  };
  if (std::all_of(project.parts.begin(), project.parts.end(), isFlat))
    project.section = Section{PlaneSection{}, {}};
  else
    std::erase_if(project.parts, isFlat);
  return project;
}

/// Reads a file again into a project that has it.
ExitCode readAgain(const ImportRequest& request, const FoundGeometry& found, Reporter& reporter)
{
  Expected<Project> project = loadProject(request.again);
  if (!project)
    return refused(project.error(), reporter);
  const GeometryFile* before = findById(project->files, request.fileId);
  if (before == nullptr)
    return refused({Failure::Kind::NotReady, "--again", "The project has no file “" + request.fileId + "”.",
                    "Name one of its files."},
                   reporter);
  const GeometryFile old = *before;
  const Expected<Rematch> again = rematch(old, found.file);
  if (!again)
    return refused(again.error(), reporter);
  const std::vector<std::string> lost = takeAgain(*project, *again, old);
  if (auto saved = saveProject(*project, request.to); !saved)
    return refused(saved.error(), reporter);
  const Json report{{"stage", "again"},      {"kept", again->kept}, {"changed", again->changed},
                    {"added", again->added}, {"gone", again->gone}, {"lostParts", lost}};
  if (reporter.isJson())
    std::cout << report.dump() << std::endl;
  for (const std::string& name : again->kept)
    reporter.say("  kept: " + name);
  for (const std::string& text : again->changed)
    reporter.say("  changed: " + text);
  for (const std::string& name : again->added)
    reporter.say("  new: " + name);
  for (const std::string& name : again->gone)
    reporter.say("  gone, its part keeps its old shape: " + name);
  return ExitCode::Solved;
}

/// A flat mesh is a section model of its own.
ExitCode takeAreas(const ImportRequest& request, const Project& project, Reporter& reporter)
{
  if (!request.again.empty())
    return refused({Failure::Kind::NotReady, "file " + request.file.filename().string(),
                    "It is a flat mesh, whose regions are shapes of their own.", "Take it into a new project."},
                   reporter);
  if (auto saved = saveProject(project, request.to); !saved)
    return refused(saved.error(), reporter);
  for (const Part& part : project.parts)
    reporter.say("  " + part.name);
  drawBodies(project, request.drawing);
  return ExitCode::Solved;
}

} // namespace

ExitCode import(const ImportRequest& request, Reporter& reporter)
{
  const Expected<ImportSettings> settings = settingsOf(request);
  if (!settings)
    return refused(settings.error(), reporter);
  std::string kind = request.file.extension().string();
  std::transform(kind.begin(), kind.end(), kind.begin(), [](unsigned char c) { return std::tolower(c); });
  const auto progress = [&](auto... args) { reporter.progress(args...); };
  const bool grid = kind.size() > 1 && isMeshFile(std::string_view(kind).substr(1));
  if (grid) {
    const auto areas = readAreas(request.file, settings->unit);
    if (!areas)
      return refusedIn(request.file, areas.error(), reporter);
    if (areas->has_value())
      return takeAreas(request, **areas, reporter);
  }
  const Expected<FoundGeometry> found =
      grid ? readMeshFile(request.file, *settings, progress) : readGeometry(request.file, *settings, progress);
  if (!found)
    return refusedIn(request.file, found.error(), reporter);
  for (const FoundBody& body : found->bodies)
    if (reporter.isJson())
      std::cout << jsonOf(body).dump() << std::endl;
    else
      sayBody(body, reporter);
  const Project project = projectOf(*found);
  drawBodies(solidsOf(project, *found), request.drawing);
  if (!request.again.empty())
    return readAgain(request, *found, reporter);
  if (auto saved = saveProject(project, request.to); !saved)
    return refused(saved.error(), reporter);
  return ExitCode::Solved;
}

ExitCode writeShapes(const Request& request, Reporter& reporter)
{
  Expected<Project> project = loadProject(request.file);
  if (!project)
    return refused(project.error(), reporter);
  if (auto filled = fillLinked(*project, request.file.parent_path()); !filled)
    return refused(filled.error(), reporter);
  // Under another name until it is whole, with the ending that says what it is.
  const std::filesystem::path& output = request.output;
  const std::filesystem::path aside =
      output.parent_path() / (output.stem().string() + ".half" + output.extension().string());
  auto written = writeGeometry(*project, aside);
  std::error_code error;
  if (written)
    std::filesystem::rename(aside, output, error);
  if (!written || error) {
    std::filesystem::remove(aside, error);
    return refused(!written ? written.error()
                            : Failure{Failure::Kind::Unwritable, "file " + output.string(), "It could not be written.",
                                      "Choose another place."},
                   reporter);
  }
  reporter.say(request.output.string());
  return ExitCode::Solved;
}

ExitCode faces(const Request& request, Reporter& reporter)
{
  Expected<Project> project = loadProject(request.file);
  if (!project)
    return refused(project.error(), reporter);
  if (auto filled = fillLinked(*project, request.file.parent_path()); !filled)
    return refused(filled.error(), reporter);
  const Expected<Geometry> geometry = buildGeometry(*project);
  if (!geometry)
    return refused(geometry.error(), reporter);
  const FaceTable& table = geometry->table;
  bool found = request.part.empty();
  for (std::size_t p = 0; p < table.parts.size(); ++p) {
    const GeometryPart& part = table.parts[p];
    if (!request.part.empty() && request.part != part.id && request.part != part.name)
      continue;
    found = true;
    reporter.say("part " + part.name + " (" + part.id + ")");
    for (const Face& face : table.faces) {
      const bool second = face.parts[1] == static_cast<int>(p);
      if (face.parts[0] != static_cast<int>(p) && !second)
        continue;
      std::string names;
      for (const std::string& name : face.names)
        names += (names.empty() ? "" : " = ") + name;
      const int other = face.parts[second ? 0 : 1];
      const auto metres = [](double value) { return formatQuantity(value, Quantity::Length, {}, 4); };
      reporter.say("  " + (names.empty() ? std::string("(no name)") : names) + "  " +
                   formatQuantity(face.area, Quantity::Area, {}, 4) + "  at " + metres(face.centroid.x()) + ", " +
                   metres(face.centroid.y()) + ", " + metres(face.centroid.z()) +
                   (other == noPart ? "  exposed" : "  touches " + table.parts[static_cast<std::size_t>(other)].name));
    }
  }
  if (!found)
    return refused({Failure::Kind::NotReady, "part " + request.part, "The project has no such part, or it is off.",
                    "Use an id or a name of its parts."},
                   reporter);
  return ExitCode::Solved;
}

} // namespace kiln::cli
