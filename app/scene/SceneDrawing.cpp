// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "scene/SceneDrawing.h"

#include "base/At.h"
#include "geometry/SurfaceFaces.h"
#include "mesh/MeshQuality.h"
#include "results/ResultFields.h"
#include "scene/ColorMap.h"
#include "scene/SceneExtras.h"

#include <algorithm>
#include <cmath>
#include <set>

namespace kiln
{
namespace
{

/// Round levels of the numbers that people read.
std::vector<double> readableLevels(const Coloring& colors, Quantity quantity, TemperatureUnit unit, int about)
{
  const double low = toDisplay(colors.low, quantity, unit);
  const double high = toDisplay(colors.high, quantity, unit);
  std::vector<double> levels = roundLevels(low, high, about);
  for (double& level : levels)
    level = colors.low + (level - low) / (high - low) * (colors.high - colors.low);
  return levels;
}

double densityOf(const View& look)
{
  constexpr double usual = 25;
  return look.density ? look.density->si : usual;
}

Vec3 middleOf(const DrawnSurface& surface, const Triangle& t)
{
  return (surface.points[at(t[0])] + surface.points[at(t[1])] + surface.points[at(t[2])]) / 3;
}

/// One of each cell of a grid.
class Thinned
{
public:
  explicit Thinned(double cell) : cell_(cell) {}
  bool take(const Vec3& place)
  {
    const auto index = [&](int axis) { return static_cast<long>(std::floor(place[axis] / cell_)); };
    return taken_.insert({index(0), index(1), index(2)}).second;
  }

private:
  double cell_;
  std::set<std::array<long, 3>> taken_;
};

} // namespace

SceneDrawing::SceneDrawing(Document& document, Preferences& preferences, SceneCanvas& canvas)
    : QObject(&canvas), document_(document), preferences_(preferences), canvas_(canvas)
{
}

QString SceneDrawing::partName(std::size_t part) const
{
  const GeometryPart& own = canvas_.model().source().mesh->geometry.parts[part];
  const Part* named = findById(document_.project().parts, own.id);
  return QString::fromStdString(named != nullptr ? named->name : own.name);
}

const LevelField* SceneDrawing::levelField()
{
  const SceneModel::Source& source = canvas_.model().source();
  if (!source.mesh || !source.temperature || source.mesh->tets.empty())
    return nullptr;
  const std::shared_ptr<const void> of =
      source.field ? std::shared_ptr<const void>(source.field) : std::shared_ptr<const void>(source.temperature);
  if (of != levelOf_ || !levelField_) {
    levelField_ = source.field ? std::make_unique<LevelField>(source.mesh, source.unknowns, source.field)
                               : std::make_unique<LevelField>(source.mesh, source.unknowns, source.temperature);
    levelOf_ = of;
  }
  return levelField_.get();
}

std::optional<std::pair<double, double>> SceneDrawing::span()
{
  const LevelField* field = levelField();
  return field != nullptr ? std::optional(std::pair(field->low(), field->high())) : std::nullopt;
}

const std::vector<Vec3>* SceneDrawing::flux()
{
  const auto result = document_.shownState().result;
  const auto temperature = document_.shownTemperature();
  if (!result || !temperature || canvas_.model().source().mesh.get() != &result->mesh)
    return nullptr;
  if (temperature != fluxOf_) {
    flux_ = temperature.get() == &result->temperature ? result->flux
                                                      : elementFlux(document_.shownProject(), *result, *temperature);
    fluxOf_ = temperature;
  }
  return &flux_;
}

const FluxField* SceneDrawing::fluxField(bool raw)
{
  const std::vector<Vec3>* own = flux();
  if (own == nullptr)
    return nullptr;
  if (waysOf_ != fluxOf_ || rawWays_ != raw || !fluxField_) {
    const auto result = document_.shownState().result;
    std::vector<char> passes;
    for (const double watts : result->faceHeat)
      passes.push_back(std::abs(watts) > result->heatFloor ? 1 : 0);
    fluxField_ =
        std::make_unique<FluxField>(canvas_.model().source().mesh, result->unknowns, *own, std::move(passes), raw);
    waysOf_ = fluxOf_;
    rawWays_ = raw;
  }
  return fluxField_.get();
}

void SceneDrawing::refresh(const View& look, const Coloring& colors)
{
  const bool asks = look.lines || look.level || look.flux != FluxLook::None || look.elementLines;
  if (!asks && !std::exchange(drawn_, asks))
    return; // there was nothing, and there is nothing
  drawn_ = asks;
  drawLines(look, colors);
  refreshLevel(look, colors);
  arrows_ = ways_ = 0;
  if (look.flux == FluxLook::Arrows)
    drawArrows(look, colors);
  else
    canvas_.extras().setArrows({});
  if (look.flux == FluxLook::Streamlines)
    drawWays(look);
  else
    canvas_.extras().setWays({});
  canvas_.extras().showElementLines(look.elementLines);
  canvas_.update();
  emit redrawn();
}

void SceneDrawing::drawLines(const View& look, const Coloring& colors)
{
  lines_.clear();
  labels_.clear();
  const auto quantity = quantityOf(look.shown);
  if (look.lines && quantity && colors.byValue) {
    const TemperatureUnit unit = preferences_.temperatureUnit();
    const std::vector<double> levels =
        readableLevels(colors, *quantity, unit, static_cast<int>(std::lround(look.lines->si)));
    for (const DrawnSurface* surface : {&canvas_.drawnSkin(), &canvas_.drawnCuts()})
      if (!surface->mapped().empty()) {
        auto own = levelLines(surface->points, surface->triangles, surface->mapped(), levels);
        lines_.insert(lines_.end(), std::make_move_iterator(own.begin()), std::make_move_iterator(own.end()));
      }
    std::map<double, const LevelLine*> longest;
    for (const LevelLine& line : lines_)
      if (const Vec3 place = line.middle(); !removes(canvas_.sections(), place, 1e-6)) {
        const LevelLine*& best = longest[line.level];
        if (best == nullptr || line.length() > best->length())
          best = &line;
      }
    for (const auto& [level, line] : longest)
      labels_.push_back({line->middle(), QString::fromStdString(formatQuantity(level, *quantity, unit, 4))});
  }
  if (canvas_.isFlat())
    drawFlatLines(look);
  else
    canvas_.extras().setLines(lines_);
}

void SceneDrawing::refreshLevel(const View& look, const Coloring& colors)
{
  levelWords_.clear();
  const LevelField* field = look.level && quantityOf(look.shown) ? levelField() : nullptr;
  canvas_.setGlass(field != nullptr && (!canvas_.isFlat() || look.levelLook != LevelLook::Surface));
  if (field == nullptr) {
    canvas_.extras().setLevel({});
    if (canvas_.isFlat())
      drawFlatLines(look);
    canvas_.update();
    return;
  }
  const double level = look.level->si;
  std::vector<char> parts;
  for (const PartLook own : canvas_.looks())
    parts.push_back(own == PartLook::Hidden ? 0 : 1);
  LevelShape shape;
  const LevelSurface surface = field->surfaceAt(level, parts);
  const bool flat = canvas_.isFlat(); // there a level is a line
  if (!flat)
    shape.points = surface.points;
  for (std::size_t t = 0; !flat && t < surface.triangles.size(); ++t) {
    const auto& [a, b, c] = surface.triangles[t];
    shape.triangles.push_back({a, b, c});
    shape.colors.push_back(colors.colorAt(level));
  }
  for (std::size_t p = 0; p < shape.points.size(); ++p)
    shape.points[p] += canvas_.model().offset(surface.pointPart[p]);
  if (look.levelLook == LevelLook::Surface) {
    levelWords_ = wordsOf(surface);
  } else {
    const bool above = look.levelLook == LevelLook::Above;
    const DrawnSurface& skin = canvas_.drawnSkin();
    const ClippedSurface clipped = clippedAt(skin.points, skin.triangles, skin.mapped(), level, above);
    const auto first = static_cast<int>(shape.points.size());
    shape.points.insert(shape.points.end(), clipped.points.begin(), clipped.points.end());
    for (const Triangle& t : clipped.triangles) {
      shape.triangles.push_back({first + t[0], first + t[1], first + t[2]});
      const double mean = (clipped.values[at(t[0])] + clipped.values[at(t[1])] + clipped.values[at(t[2])]) / 3;
      shape.colors.push_back(colors.colorAt(mean));
    }
    levelWords_ = wordsOf(above ? field->above(level) : field->below(level));
  }
  canvas_.extras().setLevel(shape);
  if (flat)
    drawFlatLines(look);
  canvas_.update();
}

/// The line of a level in a section model, with those of equal value; beneath heights they lie on the ground, too.
void SceneDrawing::drawFlatLines(const View& look)
{
  std::vector<LevelLine> all = lines_;
  const DrawnSurface& skin = canvas_.drawnSkin();
  if (look.level && quantityOf(look.shown) && !skin.mapped().empty()) {
    auto own = levelLines(skin.points, skin.triangles, skin.mapped(), {look.level->si});
    all.insert(all.end(), std::make_move_iterator(own.begin()), std::make_move_iterator(own.end()));
  }
  if (look.height && look.height->si > 0) {
    const SectionFrame& frame = canvas_.model().source().mesh->geometry.section;
    const std::size_t raised = all.size();
    for (std::size_t i = 0; i < raised; ++i) {
      LevelLine ground = all[i];
      for (Vec3& place : ground.points)
        place[frame.across] = frame.at;
      all.push_back(std::move(ground));
    }
  }
  canvas_.extras().setLines(all);
}

/// Of areas and volumes of a plane section that has no depth.
QString SceneDrawing::perDepth() const
{
  const auto& section = document_.shownProject().section;
  const auto* plane = section ? std::get_if<PlaneSection>(&section->cut) : nullptr;
  return plane != nullptr && !plane->depth ? tr(" per metre of depth") : QString();
}

QString SceneDrawing::wordsOf(const LevelSurface& surface) const
{
  if (surface.triangles.empty())
    return tr("nowhere in the parts");
  QStringList parts;
  for (std::size_t p = 0; p < surface.area.size(); ++p)
    if (surface.area[p] > 0)
      parts << partName(p);
  return tr("%1 in %2")
      .arg(QString::fromStdString(formatQuantity(surface.wholeArea(), Quantity::Area, {}, 3)) + perDepth(),
           parts.join(", "));
}

QString SceneDrawing::wordsOf(const LevelRegion& region) const
{
  if (region.whole <= 0)
    return tr("nowhere in the parts");
  QStringList parts;
  for (const PartId part : region.parts()) {
    const double share = region.share[at(part)];
    constexpr double percent = 100;
    parts << partName(at(part)) + " " + (share < 0.001 ? "<0.1" : QString::number(percent * share, 'g', 3)) + " %";
  }
  QStringList reached;
  const FaceTable& geometry = canvas_.model().source().mesh->geometry;
  for (const Surface& surface : document_.shownProject().surfaces) {
    const std::vector<FaceId> faces = facesOf(document_.shownProject(), geometry, surface.id).faces;
    if (std::any_of(faces.begin(), faces.end(), [&](FaceId face) { return region.reached[at(face)] != 0; }))
      reached << QString::fromStdString(surface.name);
  }
  return tr("%1: %2; %3")
      .arg(QString::fromStdString(formatQuantity(region.whole, Quantity::Volume, {}, 3)) + perDepth(), parts.join(", "),
           reached.isEmpty() ? tr("reaches no named surface") : tr("reaches %1").arg(reached.join(", ")));
}

/// On the cuts where there are any, inside where the skin is glass, else on the skin.
void SceneDrawing::drawArrows(const View& look, const Coloring& colors)
{
  std::vector<FluxArrow> arrows;
  const FluxField* own = fluxField(look.raw);
  if (own != nullptr) {
    const auto [low, high] = canvas_.model().bounds();
    constexpr double coarsest = 0.2;
    const double cell = (high - low).norm() * coarsest / (1 + densityOf(look) / 6.0);
    double most = 0;
    Thinned thinned(cell);
    std::vector<std::pair<Vec3, Vec3>> chosen;
    const auto take = [&](const Vec3& place, std::int32_t tet) {
      if (tet < 0 || removes(canvas_.sections(), place, 1e-6) || !thinned.take(place))
        return;
      const Vec3 within = place - canvas_.model().offset(own->mesh().tetPart[at(tet)]);
      chosen.emplace_back(place, canvas_.isFlat() ? flux_[at(tet)] : own->at(within, at(tet)));
      most = std::max(most, chosen.back().second.norm());
    };
    const Mesh& mesh = *canvas_.model().source().mesh;
    if (canvas_.isGlass()) {
      for (std::size_t t = 0; t < mesh.tets.size(); ++t)
        if (canvas_.looks()[at(mesh.tetPart[t])] != PartLook::Hidden)
          take(tetMiddle(mesh, t) + canvas_.model().offset(mesh.tetPart[t]), static_cast<std::int32_t>(t));
    } else {
      const DrawnSurface& surface = canvas_.drawnCuts().triangles.empty() ? canvas_.drawnSkin() : canvas_.drawnCuts();
      for (std::size_t t = 0; t < surface.triangles.size(); ++t)
        take(middleOf(surface, surface.triangles[t]), surface.tet[t]);
    }
    constexpr double least = 0.02;      // of the longest: shorter ones could not be seen
    constexpr double flatter = 1 / 3.0; // else few long ones would leave the others as dots
    for (const auto& [place, value] : chosen)
      if (const double share = most > 0 ? value.norm() / most : 0; share > least * least * least) {
        const double length = look.sameLength ? 1 : std::pow(share, flatter);
        arrows.push_back({place, 1.5 * cell * length * value.normalized(),
                          look.sameLength
                              ? colorOf(colors.palette == Palette::Grey ? Palette::Grey : Palette::Even, share)
                              : QColor()});
      }
  }
  arrows_ = arrows.size();
  canvas_.extras().setArrows(arrows);
}

/// Around a place that was asked for, else under the lit faces where there are any, else all over the parts.
std::vector<std::pair<Vec3, std::size_t>> SceneDrawing::seeds(double density) const
{
  const Mesh& mesh = *canvas_.model().source().mesh;
  std::vector<std::pair<Vec3, std::size_t>> found;
  const auto [low, high] = canvas_.model().bounds();
  constexpr double coarsest = 0.3;
  const double cell = (high - low).norm() * coarsest / (1 + density / 8.0);
  Thinned thinned(cell);
  if (from_) {
    constexpr double around = 0.06; // of the model's size
    Thinned close(cell * around * 4);
    for (std::size_t t = 0; t < mesh.tets.size(); ++t)
      if (const Vec3 place = tetMiddle(mesh, t);
          (place - *from_).norm() < around * (high - low).norm() && close.take(place))
        found.emplace_back(place, t);
    if (!found.empty())
      return found;
  }
  const std::set<FaceId>& faces = document_.litFaces();
  for (std::size_t t = 0; !faces.empty() && t < mesh.triangles.size(); ++t)
    if (const std::int32_t tet = mesh.triangleTets[t][0]; tet >= 0 && faces.contains(mesh.triangleFace[t])) {
      const NodeTriangle& own = mesh.triangles[t];
      const Vec3 place = (mesh.placeOf(own[0]) + mesh.placeOf(own[1]) + mesh.placeOf(own[2])) / 3;
      constexpr double inward = 0.1;
      const Vec3 inside = place + inward * (tetMiddle(mesh, at(tet)) - place);
      if (thinned.take(place))
        found.emplace_back(inside, at(tet));
    }
  if (!found.empty())
    return found;
  for (std::size_t t = 0; t < mesh.tets.size(); ++t)
    if (const Vec3 place = tetMiddle(mesh, t);
        canvas_.looks()[at(mesh.tetPart[t])] != PartLook::Hidden && thinned.take(place))
      found.emplace_back(place, t);
  return found;
}

void SceneDrawing::drawWays(const View& look)
{
  std::vector<std::vector<Vec3>> ways;
  if (const FluxField* field = fluxField(look.raw); field != nullptr)
    for (const auto& [place, tet] : seeds(densityOf(look)))
      if (Streamline line = field->through(place, tet); line.points.size() > 1)
        ways.push_back(std::move(line.points));
  ways_ = ways.size();
  canvas_.setGlass(canvas_.isGlass() || (!ways.empty() && canvas_.sections().empty()));
  canvas_.extras().setWays(ways);
}

} // namespace kiln
