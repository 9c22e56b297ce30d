// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "io/InputHash.h"

#include "base/TextHash.h"
#include "io/ContentHash.h"
#include "model/Edit.h"
#include "model/Fields.h"
#include "model/Formula.h"
#include "model/SteadyView.h"
#include "model/TimeSeries.h"

#include <algorithm>
#include <set>

namespace kiln
{
namespace
{

/// Changes whenever the program would compute something else from the same inputs.
constexpr std::string_view methodVersion = "6";

std::string hashOf(Project& project, std::string_view before)
{
  ContentText content;
  content.bytes = std::string(methodVersion) + std::string(before);
  describe(content, project);
  return textHash(content.bytes);
}

template <class List>
void strip(List& list)
{
  for (auto& item : list) {
    item.name.clear();
    item.comment.clear();
    item.unknown.clear();
  }
}

template <class List>
void dropMuted(List& list)
{
  std::erase_if(list, [](const auto& item) { return item.muted; });
}

/// Texts of tables do not matter.
void stripTable(Property& property)
{
  for (TablePoint& point : property.table)
    point.at.text = point.value.text = {};
}

/// Leaves only what can change a result.
/// \param keepParameters  for what they do in time
Project essence(Project project, bool keepParameters = false)
{
  std::erase_if(project.parts, [&](const Part& part) { return isMuted(project, part); });
  dropMuted(project.sources);
  dropMuted(project.boundaries);
  dropMuted(project.enclosures);
  dropMuted(project.links);
  bool keepsFormulas = false;
  for (Field& field : fields(project)) {
    Number* value = field.value();
    if (value == nullptr || (keepParameters && variesInTime(project, *value)))
      continue;
    if (field.varies && variesInPlace(project, *value)) { // counts as it is written, and its parameters with it
      keepsFormulas = true;
      continue;
    }
    value->text.clear();
    value->formula = false;
    if (field.property != nullptr)
      stripTable(*field.property);
    else if (field.optionalProperty != nullptr)
      stripTable(**field.optionalProperty);
  }
  for (Material& material : project.materials)
    material.source.clear();
  if (!keepsFormulas && !keepParameters)
    project.parameters.clear();
  for (Parameter& parameter : project.parameters) {
    parameter.comment.clear();
    parameter.pointsFrom.clear();
    parameter.low.reset();
    parameter.high.reset();
  }
  if (project.environment)
    project.environment->unknown.clear();
  strip(project.materials);
  strip(project.finishes);
  strip(project.groups);
  strip(project.parts);
  strip(project.surfaces);
  strip(project.sources);
  strip(project.boundaries);
  strip(project.contacts);
  strip(project.enclosures);
  strip(project.nodes);
  strip(project.links);
  for (Part& part : project.parts)
    for (ShapeStep& step : part.steps)
      step.unknown.clear();
  for (GeometryFile& file : project.files) {
    file.path.clear();
    file.linked = false;
    file.hash.clear();
    file.faceAngle.reset();
    file.removeBelow.reset();
    for (TakenBody& body : file.bodies) { // its own hash stands for its shape
      body.name.clear();
      body.shape = {};
    }
  }
  strip(project.files);
  project.name.clear();
  project.comment.clear();
  project.cases.clear();
  project.lines.clear();
  project.network.clear();
  for (Watch& watch : project.watches) {
    watch.name.clear();
    watch.comment.clear();
    watch.upper.reset();
    watch.lower.reset();
  }
  project.unknown.clear();
  project.mesh.unknown.clear();
  project.shapes.unknown.clear();
  if (project.section)
    project.section->unknown.clear();
  return project;
}

/// Surfaces that others leave out, and those these leave out, and so on.
void addExceptions(const Project& project, std::set<std::string>& used)
{
  for (std::size_t before = 0; before != used.size();) {
    before = used.size();
    for (const Surface& surface : project.surfaces)
      if (used.contains(surface.id))
        used.insert(surface.except.begin(), surface.except.end());
  }
}

/// Surfaces that a source, boundary, finish or watch uses, directly or through an exception. After dropUnusedWatches().
void dropUnusedSurfaces(Project& project)
{
  std::set<std::string> used;
  for (const HeatSource& source : project.sources)
    used.insert(surfaceOf(source));
  for (const Boundary& boundary : project.boundaries)
    used.insert(surfaceOf(boundary));
  for (const HeatSource& source : project.sources)
    if (const auto* beam = std::get_if<Beam>(&source.heat))
      used.insert(beam->surfaces.begin(), beam->surfaces.end());
  for (const Link& link : project.links)
    std::visit(
        [&](const auto& kind) {
          if constexpr (requires { kind.endA; })
            used.insert({kind.endA, kind.endB});
        },
        link.exchange);
  for (const Finish& finish : project.finishes)
    used.insert(finish.surfaces.begin(), finish.surfaces.end());
  for (const Enclosure& enclosure : project.enclosures)
    used.insert(enclosure.surfaces.begin(), enclosure.surfaces.end());
  for (const Watch& watch : project.watches) // those that something waits for or follows
    std::visit(
        [&](const auto& figure) {
          if constexpr (requires { figure.surface; })
            used.insert(figure.surface);
        },
        watch.figure);
  addExceptions(project, used);
  std::erase_if(project.surfaces, [&](const Surface& surface) { return !used.contains(surface.id); });
}

/// Leaves the surfaces that set a mesh size, and those their rules leave out.
void dropSizeless(Project& project)
{
  std::set<std::string> used;
  for (const Surface& surface : project.surfaces)
    if (surface.meshSize)
      used.insert(surface.id);
  addExceptions(project, used);
  std::erase_if(project.surfaces, [&](const Surface& surface) { return !used.contains(surface.id); });
  strip(project.surfaces);
}

void dropUnusedMaterials(Project& project)
{
  std::set<std::string> used;
  for (const Part& part : project.parts)
    used.insert(part.material);
  for (const Boundary& boundary : project.boundaries)
    if (const auto* sheet = std::get_if<Sheet>(&boundary.condition))
      used.insert(sheet->material);
  for (const Link& link : project.links)
    if (const auto* wire = std::get_if<Wire>(&link.exchange))
      used.insert(wire->material);
  std::erase_if(project.materials, [&](const Material& material) { return !used.contains(material.id); });
  for (Material& material : project.materials)
    material.serviceTemperature.reset();
}

/// Only watches that something follows or waits for can change a result.
void dropUnusedWatches(Project& project, const TransientRun& run)
{
  std::set<std::string> used;
  for (const Link& link : project.links) // that end at a watched point
    std::visit(
        [&](const auto& kind) {
          if constexpr (requires { kind.endA; })
            used.insert({kind.endA, kind.endB});
        },
        link.exchange);
  for (const HeatSource& source : project.sources) {
    used.insert(source.follows);
    if (source.thermostat)
      used.insert(source.thermostat->watch);
  }
  for (const EndRule& rule : run.ends)
    if (const auto* value = std::get_if<EndAtValue>(&rule.when))
      used.insert(value->watch);
  for (const RunRule& rule : run.rules)
    used.insert(rule.watch);
  for (const Watch& watch : project.watches)
    if (const auto* between = std::get_if<BetweenWatches>(&watch.figure); between != nullptr && used.contains(watch.id))
      used.insert({between->hot, between->cold, between->heat});
  std::erase_if(project.watches, [&](const Watch& watch) { return !used.contains(watch.id); });
}

/// A steady case reads neither what stores heat nor what happens in time.
void dropStores(Project& project)
{
  for (Material& material : project.materials) {
    material.density.reset();
    material.specificHeat.reset();
    material.latentHeat.reset();
  }
  for (Node& node : project.nodes)
    node.storage = {};
  for (HeatSource& source : project.sources)
    source.thermostat.reset();
}

} // namespace

std::string solutionHash(const Project& project, const Case& oneCase)
{
  if (oneCase.kind != "transient")
    return inputHashes(steadyProject(project, oneCase).value_or(project)).solution;
  Project full = essence(project, true);
  dropUnusedWatches(full, oneCase.run.value_or(TransientRun{}));
  dropUnusedSurfaces(full);
  dropUnusedMaterials(full);
  Case own;
  own.kind = oneCase.kind;
  own.run = oneCase.run;
  if (own.run)
    own.run->settleBand.reset(); // only read from the result
  full.cases.push_back(std::move(own));
  for (const std::string& id : startsFrom(project, oneCase)) { // what it starts from counts with what is its own
    Case before = *findById(project.cases, id);
    before.name = before.comment = {};
    before.unknown.clear();
    full.cases.push_back(std::move(before));
  }
  return hashOf(full, "transient");
}

std::vector<std::string> startsFrom(const Project& project, const Case& oneCase)
{
  std::vector<std::string> found;
  for (const Case* one = &oneCase; one->run;) {
    const auto* start = std::get_if<StartFromCase>(&one->run->start);
    if (start == nullptr || !start->project.empty())
      break;
    one = findById(project.cases, start->of);
    if (one == nullptr || one->id == oneCase.id || std::find(found.begin(), found.end(), one->id) != found.end())
      break;
    found.push_back(one->id);
  }
  return found;
}

std::string courseHash(const Project& project, const Case& oneCase)
{
  Case own = oneCase;
  if (own.run) {
    TransientRun& run = *own.run;
    run.ends.clear();
    run.endWhenAll = run.thenSteady = false;
    for (std::optional<Number>* number :
         {&run.longest, &run.tolerance, &run.largestStep, &run.convergence, &run.storeWithin, &run.storeEvery})
      number->reset();
    run.storeAlso.clear();
    run.storeParts.clear();
  }
  return solutionHash(project, own);
}

InputHashes inputHashes(const Project& project)
{
  Project full = essence(project);
  dropStores(full);
  dropUnusedWatches(full, {});
  dropUnusedSurfaces(full);
  dropUnusedMaterials(full);

  Project meshed;
  meshed.parts = full.parts;
  meshed.mesh = full.mesh;
  meshed.section = full.section;
  meshed.shapes = full.shapes;
  meshed.files = full.files;
  meshed.surfaces = project.surfaces; // those that set a size, used or not
  dropSizeless(meshed);
  for (Part& part : meshed.parts) {
    part.material.clear();
    part.materialAxes = {};
  }
  Project shaped = meshed;
  shaped.mesh = {};
  shaped.surfaces.clear();
  for (Part& part : shaped.parts)
    part.meshSize.reset();

  InputHashes hashes;
  hashes.geometry = hashOf(shaped, "geometry");
  hashes.mesh = hashOf(meshed, "mesh");
  hashes.solution = hashOf(full, "steady");
  return hashes;
}

} // namespace kiln
