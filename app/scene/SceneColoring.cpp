// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "scene/SceneColoring.h"

#include "fields/QuantityField.h"
#include "geometry/SurfaceFaces.h"
#include "heat/radiation/EnclosurePatches.h"
#include "look/Language.h"
#include "look/Theme.h"
#include "mesh/MeshQuality.h"
#include "results/FaceFlows.h"
#include "results/ResultFields.h"
#include "scene/ColorMap.h"

#include <QCoreApplication>
#include <cmath>
#include <map>
#include <set>

namespace kiln
{
namespace
{

QString tr(const char* text) { return QCoreApplication::translate("kiln::SceneColoring", text); }

} // namespace

QColor partColor(const Project& project, const Part& part)
{
  if (!part.colour.empty())
    return QColor(QString::fromStdString(part.colour));
  const auto index = static_cast<int>(&part - project.parts.data());
  constexpr int apart = 3; // neighbours in the list of colours look alike
  return kindColor(index * apart + 1);
}

QStringList shownNames()
{
  QStringList names;
  for (const KindSpec& kind : describing::shownKinds)
    names << inWords(kind.label);
  return names;
}

bool isPerElement(const View& look)
{
  const Shown by = look.shown;
  const bool flux = by == Shown::HeatFlux || by == Shown::FluxX || by == Shown::FluxY || by == Shown::FluxZ;
  return by == Shown::ElementFlux || by == Shown::MeshQuality || by == Shown::FaceFlow ||
         (look.raw && (flux || by == Shown::Gradient));
}

bool isAboutZero(Shown by)
{
  return by == Shown::Difference || by == Shown::FluxX || by == Shown::FluxY || by == Shown::FluxZ ||
         by == Shown::FaceFlow;
}

bool isAsSet(Shown by)
{
  return by == Shown::Material || by == Shown::Conductivity || by == Shown::Condition || by == Shown::Patches ||
         by == Shown::Part;
}

std::shared_ptr<const PartwiseField> SceneColoring::field(Shown by, const View& look) const
{
  if (by == Shown::Difference) {
    const auto difference = document_.difference();
    return difference ? difference->kelvin : nullptr;
  }
  const auto result = document_.shownState().result;
  const auto temperature = document_.shownTemperature();
  if (!isSolutionField(by) || !result || !temperature)
    return nullptr;
  return std::make_shared<PartwiseField>(
      fieldValues(document_.shownProject(), *result, *temperature, by, look.materialAxes));
}

/// Of every face: by the ledger where it is known of the shown instant, else by the flux at it.
std::vector<double> SceneColoring::faceWatts() const
{
  const auto result = document_.shownState().result;
  const auto temperature = document_.shownTemperature();
  std::vector<double> watts(result->mesh.geometry.faces.size(), 0);
  if (!temperature)
    return watts;
  const bool stored = temperature.get() == &result->temperature;
  const std::vector<Vec3> flux = stored ? result->flux : elementFlux(document_.shownProject(), *result, *temperature);
  for (const FaceFlow& flow : faceFlows(result->mesh, result->faceHeat, result->contactHeat, flux))
    watts[static_cast<std::size_t>(flow.face)] = stored ? flow.ledger : flow.insulated ? 0 : flow.byFlux;
  return watts;
}

Coloring SceneColoring::coloring(Shown by, const Mesh* mesh, bool solved, Key& key, const View& look) const
{
  Coloring result;
  View own = look;
  own.shown = by;
  if (by == Shown::Difference && !document_.difference())
    solved = false; // grey rather than temperatures that mean something else
  result.byValue = solved && quantityOf(by) && !isPerElement(own);
  if (mesh == nullptr || result.byValue)
    return result;
  colorParts(by, *mesh, result, key);
  if (by == Shown::Condition)
    result.faceColor = conditionColors(*mesh, key);
  if (by == Shown::Patches)
    result.skinColor = patchColors(*mesh, key);
  if (by == Shown::MeshQuality)
    for (std::size_t t = 0; t < mesh->tets.size(); ++t)
      result.tetValue.push_back(smallestDihedral(*mesh, t));
  const auto state = document_.shownState().result;
  if (const auto temperature = document_.shownTemperature();
      solved && state && temperature && isPerElement(own) && by != Shown::MeshQuality)
    result.tetValue = elementValues(document_.shownProject(), *state, *temperature, by, look.materialAxes);
  if (by == Shown::FaceFlow && solved && state)
    result.faceValue = faceWatts();
  return result;
}

/// Every part in its own colour: that of its file or the one chosen for it, else one that the program chooses.
void SceneColoring::colorEachPart(const Mesh& mesh, Coloring& coloring, Key& key) const
{
  constexpr std::size_t mostNames = 12;
  for (const GeometryPart& own : mesh.geometry.parts) {
    const Part* part = findById(document_.shownProject().parts, own.id);
    const QColor color = part != nullptr ? partColor(document_.shownProject(), *part) : QColor();
    coloring.partColor.push_back(color);
    if (key.size() < mostNames)
      key.emplace_back(color, QString::fromStdString(own.name));
  }
}

void SceneColoring::colorParts(Shown by, const Mesh& mesh, Coloring& coloring, Key& key) const
{
  if (by == Shown::Part)
    return colorEachPart(mesh, coloring, key);
  const QColor plain(150, 152, 156);
  const bool telling = by != Shown::Condition && by != Shown::Patches; // else the parts are a quiet ground
  const Project& project = document_.shownProject();
  std::set<std::size_t> used;
  for (const GeometryPart& own : mesh.geometry.parts) {
    const Part* part = findById(project.parts, own.id);
    QColor color = plain;
    for (std::size_t m = 0; part != nullptr && telling && m < project.materials.size(); ++m)
      if (project.materials[m].id == part->material) {
        color = materialColor(m, by == Shown::Conductivity);
        used.insert(m);
      }
    coloring.partColor.push_back(color);
  }
  if (quantityOf(by)) // nothing to show yet; a key would hide the caption's question
    return;
  for (const std::size_t m : used) {
    QString name = QString::fromStdString(project.materials[m].name);
    if (by == Shown::Conductivity)
      name += "  " + shownText(project.materials[m].conductivity, Quantity::Conductivity, TemperatureUnit::Celsius);
    key.emplace_back(materialColor(m, by == Shown::Conductivity), name);
  }
}

/// Faces with the same conditions share a colour; the key names the conditions.
std::vector<QColor> SceneColoring::conditionColors(const Mesh& mesh, Key& key) const
{
  std::vector<QStringList> conditions(mesh.geometry.faces.size());
  const auto add = [&](const std::string& surface, const std::string& name) {
    for (const FaceId face : facesOf(document_.shownProject(), mesh.geometry, surface).faces)
      conditions[static_cast<std::size_t>(face)] << QString::fromStdString(name);
  };
  for (const Boundary& boundary : document_.shownProject().boundaries)
    if (!boundary.muted && !surfaceOf(boundary).empty())
      add(surfaceOf(boundary), boundary.name);
  for (const HeatSource& source : document_.shownProject().sources)
    if (!source.muted && !surfaceOf(source).empty())
      add(surfaceOf(source), source.name);
  const QColor insulated = theme().dark ? QColor(90, 94, 100) : QColor(198, 200, 204);
  std::map<QString, QColor> colorOf;
  std::vector<QColor> colors(conditions.size());
  for (std::size_t f = 0; f < colors.size(); ++f) {
    if ((!mesh.geometry.faces[f].exposed() || mesh.geometry.faces[f].aside) && conditions[f].empty())
      continue;
    const QString name = conditions[f].empty() ? tr("insulated by default") : conditions[f].join(" + ");
    const auto [found, isNew] =
        colorOf.emplace(name, conditions[f].empty() ? insulated : kindColor(static_cast<int>(colorOf.size()) * 3 + 1));
    if (isNew)
      key.emplace_back(found->second, name);
    colors[f] = found->second;
  }
  return colors;
}

/// Neighbouring patches get different shades of their enclosure's colour.
std::vector<QColor> SceneColoring::patchColors(const Mesh& mesh, Key& key) const
{
  std::vector<QColor> colors(mesh.triangles.size());
  const Project& project = document_.shownProject();
  int count = 0;
  for (const Enclosure& enclosure : project.enclosures) {
    if (enclosure.muted)
      continue;
    const Patches patches = enclosurePatches(project, mesh, enclosure);
    const QColor own = kindColor(3 * count++ + 1);
    for (std::size_t t = 0; t < colors.size(); ++t)
      if (const std::int32_t patch = patches.ofTriangle[t]; patch >= 0) {
        constexpr double golden = 0.618033988749895; // spreads the shades of successive patches
        const double shade = std::fmod(patch * golden, 1.0);
        colors[t] = shade < 0.5 ? own.darker(100 + static_cast<int>(90 * shade))
                                : own.lighter(100 + static_cast<int>(90 * (shade - 0.5)));
      }
    key.emplace_back(own, QString::fromStdString(enclosure.name) + "  " + tr("%1 patches").arg(patches.count()));
  }
  if (key.empty())
    key.emplace_back(QColor(150, 152, 156), tr("no enclosure"));
  return colors;
}

/// A kind of its own, or its place between the best insulation and copper.
QColor SceneColoring::materialColor(std::size_t index, bool byConductivity) const
{
  constexpr double lowest = 0.01, decades = 5; // W/(m·K)
  const double k = document_.shownProject().materials[index].conductivity.si;
  return byConductivity ? kilnGlow(std::log10(std::max(k, lowest) / lowest) / decades)
                        : kindColor(static_cast<int>(index));
}

} // namespace kiln
