// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "mesh/VolumeMesh.h"
#include "results/Figures.h"
#include "run/CaseRun.h"

#include <QTemporaryDir>
#include <stdexcept>

/// Small projects and the whole path from project to figures, for tests.
namespace kiln::test
{

inline constexpr double zeroCelsius = 273.15; // K

inline Material material(const std::string& id, double conductivity)
{
  Material m;
  m.id = id;
  m.name = id;
  m.conductivity = {conductivity, {}};
  return m;
}

inline Part part(const std::string& id, const std::string& material, Form form, Vec3 position = Vec3::Zero())
{
  Part p;
  p.id = id;
  p.name = id;
  p.material = material;
  p.shape.form = std::move(form);
  p.shape.placement.position = {{position.x(), {}}, {position.y(), {}}, {position.z(), {}}};
  return p;
}

inline Form block(double x, double y, double z) { return Block{{x, {}}, {y, {}}, {z, {}}}; }

inline PlacedForm at(Form form, Vec3 place)
{
  return {std::move(form), {{{place.x(), {}}, {place.y(), {}}, {place.z(), {}}}, {}}};
}

inline ShapeStep cut(const std::string& id, Form form, Vec3 place = Vec3::Zero(), Repeat repeat = Once{})
{
  return {id, Cut{at(std::move(form), place), std::move(repeat)}, {}};
}

inline ShapeStep join(const std::string& id, Form form, Vec3 place = Vec3::Zero(), Repeat repeat = Once{})
{
  return {id, Join{at(std::move(form), place), std::move(repeat)}, {}};
}

inline Surface surface(const std::string& id, std::vector<std::string> faces)
{
  Surface s;
  s.id = id;
  s.name = id;
  s.faces = std::move(faces);
  return s;
}

inline Surface exposedOf(const std::string& id, std::vector<std::string> parts, std::vector<std::string> except = {})
{
  Surface s;
  s.id = id;
  s.name = id;
  s.exposedOf = std::move(parts);
  s.except = std::move(except);
  return s;
}

template <class Condition>
Boundary boundary(const std::string& id, Condition condition)
{
  Boundary b;
  b.id = id;
  b.name = id;
  b.condition = std::move(condition);
  return b;
}

template <class Heat>
HeatSource source(const std::string& id, Heat heat)
{
  HeatSource s;
  s.id = id;
  s.name = id;
  s.heat = std::move(heat);
  return s;
}

template <class Figure>
Watch watch(const std::string& id, Figure figure)
{
  Watch w;
  w.id = id;
  w.name = id;
  w.figure = std::move(figure);
  return w;
}

template <class Exchange>
Contact contact(const std::string& a, const std::string& b, Exchange exchange)
{
  Contact c;
  c.id = a + "|" + b;
  c.name = c.id;
  c.partA = a;
  c.partB = b;
  c.exchange = std::move(exchange);
  return c;
}

inline Number number(double si) { return {si, {}}; }

/// A property as a table of temperature and value.
inline Property table(std::vector<std::pair<double, double>> points)
{
  Property property;
  for (const auto& [at, value] : points)
    property.table.push_back({number(at), number(value)});
  property.si = property.table.front().value.si;
  return property;
}

inline Project projectWith(double meshSize)
{
  Project project;
  project.name = "test";
  project.mesh.size = number(meshSize);
  Case one;
  one.id = "steady";
  one.name = "Steady";
  project.cases = {one};
  return project;
}

/// Solves the first case through the whole path, files included. Throws with the reasons when it cannot.
inline CaseResult solve(const Project& project)
{
  const QTemporaryDir folder;
  auto result = runCase(project, project.cases.front(), folder.path().toStdString(), noProgress);
  if (!result) {
    std::string text = result.error().failure ? result.error().failure->sentence() : std::string();
    for (const Finding& finding : result.error().notReady)
      text += finding.sentence() + "\n";
    throw std::runtime_error(text);
  }
  return std::move(*result);
}

/// Geometry and mesh of a project. Throws with the reason when it cannot.
inline Mesh meshOf(const Project& project)
{
  const auto geometry = buildGeometry(project);
  if (!geometry)
    throw std::runtime_error(geometry.error().sentence());
  auto mesh = buildMesh(project, *geometry, noProgress);
  if (!mesh)
    throw std::runtime_error(mesh.error().sentence());
  return std::move(*mesh);
}

/// Largest |T − exact(place)| over all unknowns, K.
template <class Exact>
double largestError(const CaseResult& result, Exact&& exact)
{
  double worst = 0;
  for (std::size_t i = 0; i < result.temperature.size(); ++i)
    worst = std::max(worst, std::abs(result.temperature[i] -
                                     exact(result.mesh.nodes[static_cast<std::size_t>(result.unknowns.node[i])])));
  return worst;
}

inline double valueOf(const Project& project, const CaseResult& result, const std::string& watchId)
{
  for (const WatchFigure& figure : readWatches(project, result))
    if (figure.id == watchId && figure.value)
      return *figure.value;
  throw std::runtime_error("no value for watch " + watchId);
}

inline double wattsOf(const std::vector<LedgerFlow>& flows, const std::string& id)
{
  for (const LedgerFlow& flow : flows)
    if (flow.id == id)
      return flow.watts;
  throw std::runtime_error("no flow " + id);
}

/// Does any finding of this kind mention all the words?
inline bool mentions(const std::vector<Finding>& findings, Finding::Severity severity,
                     std::initializer_list<const char*> words)
{
  for (const Finding& finding : findings) {
    bool all = finding.severity == severity && !finding.remedy.empty();
    for (const char* word : words)
      all = all && finding.sentence().find(word) != std::string::npos;
    if (all)
      return true;
  }
  return false;
}

} // namespace kiln::test
