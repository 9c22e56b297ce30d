// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "scene/DrawnPolyData.h"

#include <vtkActor.h>
#include <vtkCellArray.h>
#include <vtkCellData.h>
#include <vtkLookupTable.h>
#include <vtkNew.h>
#include <vtkPlane.h>
#include <vtkPointData.h>
#include <vtkPolyDataMapper.h>
#include <vtkProperty.h>
#include <vtkRenderer.h>
#include <vtkUnsignedCharArray.h>

#include "base/At.h"
#include "scene/ColorMap.h"
#include "scene/SceneCanvas.h"

#include <algorithm>
#include <cmath>
#include <limits>

namespace kiln
{
namespace
{

void setColor(vtkProperty* property, const QColor& color)
{
  property->SetColor(color.redF(), color.greenF(), color.blueF());
}

/// Temperature steps across a triangle beyond this share of the colours' range are mapped at every pixel, which costs
/// half as much again in a frame; smaller ones look the same when colours are mapped at the corners.
constexpr double coarseStep = 0.3;

/// Largest temperature difference across one triangle, K.
double widestStep(const DrawnSurface& surface)
{
  double widest = 0;
  for (const Triangle& t : surface.triangles) {
    const auto [low, high] =
        std::minmax({surface.mapped()[at(t[0])], surface.mapped()[at(t[1])], surface.mapped()[at(t[2])]});
    widest = std::max(widest, high - low);
  }
  return widest;
}

/// A thing in the scene: data, mapper, actor.
struct Layer {
  vtkSmartPointer<vtkPolyData> data = vtkSmartPointer<vtkPolyData>::New();
  vtkNew<vtkPolyDataMapper> mapper;
  vtkNew<vtkActor> actor;

  void addTo(vtkRenderer* renderer)
  {
    mapper->SetInputData(data);
    actor->SetMapper(mapper);
    renderer->AddActor(actor);
  }
  void show(const vtkSmartPointer<vtkPolyData>& newData)
  {
    data = newData;
    mapper->SetInputData(data);
    actor->SetVisibility(data->GetNumberOfCells() > 0 ? 1 : 0);
  }
};

} // namespace

struct SceneCanvas::Actors {
  Layer shown, seeThrough, cut, cutEdges, edges, seeThroughEdges, highlight, outline;
  vtkNew<vtkLookupTable> table;
  vtkNew<vtkPlane> plane;
};

SceneCanvas::SceneCanvas(QWidget* parent) : VtkView(parent), actors_(std::make_unique<Actors>())
{
  fillTable();
  for (Layer* layer : {&actors_->shown, &actors_->cut, &actors_->cutEdges, &actors_->edges, &actors_->seeThrough,
                       &actors_->seeThroughEdges, &actors_->highlight, &actors_->outline})
    layer->addTo(renderer());
  for (Layer* layer : {&actors_->shown, &actors_->cut, &actors_->seeThrough}) {
    layer->mapper->SetLookupTable(actors_->table);
    layer->mapper->UseLookupTableScalarRangeOn();
    // Mostly the colour itself: it is data. A little shading keeps the shape readable.
    layer->actor->GetProperty()->SetAmbient(0.55);
    layer->actor->GetProperty()->SetDiffuse(0.45);
    layer->actor->GetProperty()->SetSpecular(0);
    layer->actor->GetProperty()->SetInterpolationToFlat();
  }
  actors_->cut.actor->GetProperty()->SetAmbient(1);
  actors_->cut.actor->GetProperty()->SetDiffuse(0);
  constexpr double glass = 0.14;
  actors_->seeThrough.actor->GetProperty()->SetOpacity(glass);
  for (Layer* layer :
       {&actors_->edges, &actors_->cutEdges, &actors_->seeThroughEdges, &actors_->highlight, &actors_->outline})
    layer->actor->GetProperty()->SetLighting(false);
  // Only what lies on shown faces needs a depth offset; it slows every frame, so the edges go without.
  for (Layer* layer : {&actors_->highlight, &actors_->outline}) {
    layer->mapper->SetResolveCoincidentTopologyToPolygonOffset();
    layer->mapper->SetRelativeCoincidentTopologyLineOffsetParameters(0, -4);
    layer->mapper->SetRelativeCoincidentTopologyPolygonOffsetParameters(0, -2);
  }
  // The colour beneath is data: light the faces by their outline and only a breath of fill.
  const QColor light(40, 190, 214);
  setColor(actors_->highlight.actor->GetProperty(), light);
  setColor(actors_->outline.actor->GetProperty(), light);
  actors_->highlight.actor->GetProperty()->SetOpacity(0.16);
  actors_->outline.actor->GetProperty()->SetLineWidth(2.5F);
  setFocusPolicy(Qt::ClickFocus);
}

SceneCanvas::~SceneCanvas() = default;

void SceneCanvas::fillTable()
{
  constexpr int colors = 256;
  actors_->table->SetNumberOfTableValues(colors);
  for (int i = 0; i < colors; ++i) {
    const double share = i / (colors - 1.0);
    const QColor color = coloring_.aboutZero ? glazeAndEmber(share) : kilnGlow(share);
    actors_->table->SetTableValue(i, color.redF(), color.greenF(), color.blueF(), 1);
  }
  const QColor none = nowhereColor();
  actors_->table->SetNanColor(none.redF(), none.greenF(), none.blueF(), 1);
  actors_->table->Modified();
}

void SceneCanvas::setSource(SceneModel::Source source)
{
  const bool first = model_.empty();
  const bool wasFlat = isFlat();
  const auto sizeNow = [this] {
    const auto [low, high] = model_.bounds();
    return model_.empty() ? 0.0 : (high - low).norm();
  };
  const double before = sizeNow();
  const std::size_t parts = source.mesh ? source.mesh->geometry.parts.size() : 0;
  model_.setSource(std::move(source));
  if (looks_.size() != parts)
    looks_.assign(parts, PartLook::Shown);
  rebuild();
  if ((first || wasFlat != isFlat()) && !model_.empty())
    isFlat() ? lookAtSection() : lookFromCorner();
  constexpr double outgrown = 1.2; // a model that grew or shrank by more no longer fits the view
  const double now = sizeNow();
  if (!first && now > 0 && (framed_ || now > outgrown * before || before > outgrown * now))
    fit();
}

void SceneCanvas::setTemperature(std::shared_ptr<const std::vector<double>> temperature,
                                 std::shared_ptr<const PartwiseField> field)
{
  model_.setTemperature(std::move(temperature), std::move(field));
  for (const auto& [layer, surface] :
       {std::pair(&actors_->shown, &shown_), std::pair(&actors_->seeThrough, &seeThrough_),
        std::pair(&actors_->cut, &cut_)}) {
    model_.recolor(*surface);
    setTemperatures(*layer->data, *surface);
  }
  update();
}

void SceneCanvas::setLooks(std::vector<PartLook> looks)
{
  if (model_.empty() || looks.size() != model_.source().mesh->geometry.parts.size())
    return;
  looks_ = std::move(looks);
  rebuild();
}

void SceneCanvas::setSection(std::optional<SectionPlane> section)
{
  section_ = section;
  rebuild();
}

void SceneCanvas::setColoring(Coloring coloring)
{
  const bool other = coloring.aboutZero != coloring_.aboutZero;
  coloring_ = std::move(coloring);
  if (other)
    fillTable();
  recolor();
}

void SceneCanvas::setHighlight(const std::set<FaceId>& faces, const std::set<PartId>& parts)
{
  litFaces_ = faces;
  litParts_ = parts;
  rebuildHighlight();
  update();
}

void SceneCanvas::setBackground(const QColor& background, const QColor& lines)
{
  renderer()->SetBackground(background.redF(), background.greenF(), background.blueF());
  // Faint lines by colour, not by opacity: anything translucent costs a second pass over every frame.
  const auto mixed = [&](double share) {
    return QColor::fromRgbF(static_cast<float>(background.redF() + share * (lines.redF() - background.redF())),
                            static_cast<float>(background.greenF() + share * (lines.greenF() - background.greenF())),
                            static_cast<float>(background.blueF() + share * (lines.blueF() - background.blueF())));
  };
  setColor(actors_->edges.actor->GetProperty(), mixed(0.6));
  setColor(actors_->seeThroughEdges.actor->GetProperty(), mixed(0.3));
  setColor(actors_->cutEdges.actor->GetProperty(), QColor(20, 20, 24)); // on the glow, in either look
  update();
}

std::optional<std::pair<double, double>> SceneCanvas::drawnRange() const
{
  std::optional<std::pair<double, double>> range;
  const auto include = [&](double value) {
    if (!std::isfinite(value)) // there is none
      return;
    if (!range)
      range = {value, value};
    range->first = std::min(range->first, value);
    range->second = std::max(range->second, value);
  };
  for (std::size_t i = 0; i < shown_.mapped().size(); ++i)
    if (!section_ || !section_->removes(shown_.points[i]))
      include(shown_.mapped()[i]);
  for (const double value : cut_.mapped())
    include(value);
  return range;
}

void SceneCanvas::rebuild()
{
  if (section_ && model_.empty())
    section_.reset();
  shown_ = model_.skin(looks_, PartLook::Shown);
  seeThrough_ = model_.skin(looks_, PartLook::SeeThrough);
  cut_ = section_ ? model_.section(looks_, *section_) : DrawnSurface{};
  shownPicker_.setSurface(shown_);
  cutPicker_.setSurface(cut_);
  actors_->shown.show(trianglesAsPolyData(shown_));
  actors_->seeThrough.show(trianglesAsPolyData(seeThrough_));
  actors_->cut.show(trianglesAsPolyData(cut_));
  actors_->edges.show(edgesAsPolyData(shown_));
  actors_->cutEdges.show(edgesAsPolyData(cut_));
  actors_->seeThroughEdges.show(edgesAsPolyData(seeThrough_));
  for (Layer* layer : {&actors_->shown, &actors_->edges, &actors_->highlight, &actors_->outline}) {
    layer->mapper->RemoveAllClippingPlanes();
    if (section_)
      layer->mapper->AddClippingPlane(actors_->plane);
  }
  if (section_) {
    Vec3 origin = Vec3::Zero();
    Vec3 normal = Vec3::Zero();
    origin[section_->axis] = section_->position;
    normal[section_->axis] = section_->removesAbove ? -1 : 1;
    actors_->plane->SetOrigin(origin.data());
    actors_->plane->SetNormal(normal.data());
    const auto [low, high] = model_.bounds();
    const Vec3 lift = -normal * 0.002 * (high - low).norm(); // the lines of the cut stand a little before it
    actors_->cutEdges.actor->SetPosition(lift.x(), lift.y(), lift.z());
  }
  recolor();
  rebuildHighlight();
  renderer()->ResetCameraClippingRange();
  moved();
}

void SceneCanvas::recolor()
{
  actors_->table->SetTableRange(coloring_.low, std::max(coloring_.high, coloring_.low + 1e-6));
  const auto color = [&](Layer& layer, const DrawnSurface& surface) {
    const bool solved = coloring_.byValue && !surface.mapped().empty();
    if (solved) {
      layer.data->GetCellData()->SetScalars(nullptr);
      layer.mapper->SetScalarModeToUsePointData();
      layer.mapper->ScalarVisibilityOn();
      layer.mapper->SetColorModeToMapScalars();
      layer.mapper->SetInterpolateScalarsBeforeMapping(
          widestStep(surface) > coarseStep * (coloring_.high - coloring_.low) ? 1 : 0);
      return;
    }
    vtkNew<vtkUnsignedCharArray> colors;
    colors->SetNumberOfComponents(3);
    colors->SetNumberOfTuples(static_cast<vtkIdType>(surface.triangles.size()));
    for (std::size_t t = 0; t < surface.triangles.size(); ++t) {
      QColor own(150, 152, 156);
      if (at(surface.part[t]) < coloring_.partColor.size())
        own = coloring_.partColor[at(surface.part[t])];
      if (surface.face[t] >= 0 && at(surface.face[t]) < coloring_.faceColor.size() &&
          coloring_.faceColor[at(surface.face[t])].isValid())
        own = coloring_.faceColor[at(surface.face[t])];
      if (surface.skin[t] >= 0 && at(surface.skin[t]) < coloring_.skinColor.size() &&
          coloring_.skinColor[at(surface.skin[t])].isValid())
        own = coloring_.skinColor[at(surface.skin[t])];
      if (surface.tet[t] >= 0 && at(surface.tet[t]) < coloring_.tetValue.size())
        own = kilnGlow((coloring_.tetValue[at(surface.tet[t])] - coloring_.low) /
                       std::max(coloring_.high - coloring_.low, 1e-30));
      const std::array<double, 3> tuple{static_cast<double>(own.red()), static_cast<double>(own.green()),
                                        static_cast<double>(own.blue())};
      colors->SetTuple(static_cast<vtkIdType>(t), tuple.data());
    }
    layer.data->GetCellData()->SetScalars(colors);
    layer.mapper->SetScalarModeToUseCellData();
    layer.mapper->ScalarVisibilityOn();
    layer.mapper->SetColorModeToDirectScalars();
  };
  color(actors_->shown, shown_);
  color(actors_->seeThrough, seeThrough_);
  color(actors_->cut, cut_);
  update();
}

void SceneCanvas::rebuildHighlight()
{
  DrawnSurface lit;
  lit.points = shown_.points;
  for (std::size_t t = 0; t < shown_.triangles.size(); ++t)
    if (litFaces_.contains(shown_.face[t]) || litParts_.contains(shown_.part[t])) {
      lit.triangles.push_back(shown_.triangles[t]);
      lit.face.push_back(shown_.face[t]);
    }
  SceneModel::addEdges(lit);
  actors_->highlight.show(trianglesAsPolyData(lit));
  actors_->outline.show(edgesAsPolyData(lit));
}

} // namespace kiln
