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
#include "scene/SceneExtras.h"

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

} // namespace

/// A thing in the scene: data, mapper, actor.
struct SceneCanvas::Layer {
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

struct SceneCanvas::Actors {
  Layer shown, seeThrough, cut, cutEdges, edges, seeThroughEdges, highlight, outline;
  vtkNew<vtkLookupTable> table;
  std::vector<vtkSmartPointer<vtkPlane>> planes; ///< of the sections
};

double Coloring::shareOf(double value) const
{
  const bool ratios = logarithmic && low > 0 && high > low;
  if (ratios)
    return value > 0 ? std::log(value / low) / std::log(high / low) : 0;
  return (value - low) / std::max(high - low, 1e-30);
}

QColor Coloring::colorAt(double value) const { return colorOf(palette, shareOf(value), steps); }

SceneCanvas::SceneCanvas(QWidget* parent)
    : VtkView(parent), actors_(std::make_unique<Actors>()), extras_(std::make_unique<SceneExtras>(*renderer()))
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
  constexpr int smooth = 256;
  const int colors = coloring_.steps > 1 ? coloring_.steps : smooth;
  actors_->table->SetNumberOfTableValues(colors);
  for (int i = 0; i < colors; ++i) {
    const QColor color = colorOf(coloring_.palette, i / (colors - 1.0));
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
  const bool placed = !model_.empty() && std::exchange(placed_, false);
  if (((first && !placed) || wasFlat != isFlat()) && !model_.empty())
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
  if (height_ > 0)
    return rebuild();
  for (const auto& [layer, surface] :
       {std::pair(&actors_->shown, &shown_), std::pair(&actors_->seeThrough, &seeThrough_),
        std::pair(&actors_->cut, &cut_)}) {
    model_.recolor(*surface);
    setTemperatures(*layer->data, *surface);
  }
  redraw();
  emit redrawn();
}

void SceneCanvas::setLooks(std::vector<PartLook> looks)
{
  if (model_.empty() || looks.size() != model_.source().mesh->geometry.parts.size())
    return;
  looks_ = std::move(looks);
  rebuild();
}

void SceneCanvas::setSections(SectionPlanes sections)
{
  if (sections == sections_)
    return;
  sections_ = std::move(sections);
  if (model_.empty())
    sections_.clear();
  rebuildCuts(); // the skin keeps its colours
  color(actors_->cut, cut_);
  redraw();
  moved();
  emit redrawn();
}

void SceneCanvas::setOffsets(std::vector<Vec3> offsets)
{
  model_.setOffsets(std::move(offsets));
  rebuild();
}

void SceneCanvas::setGlass(bool glass)
{
  if (glass == glass_)
    return;
  glass_ = glass;
  constexpr double clear = 0.16;
  actors_->shown.actor->GetProperty()->SetOpacity(glass ? clear : 1);
  redraw();
}

void SceneCanvas::setClear(double share)
{
  actors_->seeThrough.actor->GetProperty()->SetOpacity(1 - share);
  redraw();
}

void SceneCanvas::setHeight(double share)
{
  if (share == height_)
    return;
  height_ = share;
  rebuild();
}

/// The plate of a section model rises to its values, towards who looks straight at it.
void SceneCanvas::raise(DrawnSurface& surface) const
{
  const std::vector<double>& values = surface.mapped();
  const double span = coloring_.high - coloring_.low;
  if (height_ <= 0 || !isFlat() || values.empty() || !coloring_.byValue || span <= 0)
    return;
  const auto [low, high] = model_.bounds();
  const int across = model_.source().mesh->geometry.section.across;
  const double most = (across == 1 ? -1 : 1) * height_ * (high - low).norm();
  for (std::size_t i = 0; i < values.size(); ++i)
    if (std::isfinite(values[i]))
      surface.points[i][across] += most * (values[i] - coloring_.low) / span;
}

void SceneCanvas::setColoring(Coloring coloring)
{
  if (coloring == coloring_)
    return;
  const bool other = coloring.palette != coloring_.palette || coloring.steps != coloring_.steps;
  const bool higher = height_ > 0 && (coloring.low != coloring_.low || coloring.high != coloring_.high ||
                                      coloring.byValue != coloring_.byValue);
  coloring_ = std::move(coloring);
  if (other)
    fillTable();
  higher ? rebuild() : recolor();
}

void SceneCanvas::setHighlight(const std::set<FaceId>& faces, const std::set<PartId>& parts)
{
  if (faces == litFaces_ && parts == litParts_)
    return;
  litFaces_ = faces;
  litParts_ = parts;
  rebuildHighlight();
  redraw();
}

/// Fast now, and smooth when nothing else changes.
void SceneCanvas::redraw()
{
  keepMoving();
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
    if (!removes(sections_, shown_.points[i]))
      include(shown_.mapped()[i]);
  for (const double value : cut_.mapped())
    include(value);
  return range;
}

void SceneCanvas::rebuild()
{
  if (model_.empty())
    sections_.clear();
  shown_ = model_.skin(looks_, PartLook::Shown);
  raise(shown_);
  seeThrough_ = model_.skin(looks_, PartLook::SeeThrough);
  shownPicker_.setSurface(shown_);
  actors_->shown.show(trianglesAsPolyData(shown_));
  actors_->seeThrough.show(trianglesAsPolyData(seeThrough_));
  actors_->edges.show(linesAsPolyData(shown_.points, shown_.edges));
  actors_->seeThroughEdges.show(linesAsPolyData(seeThrough_.points, seeThrough_.edges));
  rebuildCuts();
  recolor();
  rebuildHighlight();
  renderer()->ResetCameraClippingRange();
  moved();
  emit redrawn();
}

/// The skin stays: the sections only hide part of it.
void SceneCanvas::rebuildCuts()
{
  cut_ = model_.sections(looks_, sections_);
  cutPicker_.setSurface(cut_);
  actors_->cut.show(trianglesAsPolyData(cut_));
  actors_->cutEdges.show(linesAsPolyData(cut_.points, cut_.edges));
  const auto [low, high] = model_.bounds();
  const double size = (high - low).norm();
  clip(size);
  Vec3 lift = Vec3::Zero(); // the lines of a cut stand a little before it
  if (sections_.size() == 1)
    lift = 0.002 * size * sections_.front().normal;
  actors_->cutEdges.actor->SetPosition(lift.x(), lift.y(), lift.z());
  extras_->setElementLines(shown_, cut_, lift);
}

/// Every section takes away what lies beyond it; what lies in its own plane stays.
void SceneCanvas::clip(double size)
{
  auto& planes = actors_->planes;
  const bool others = planes.size() != sections_.size();
  constexpr double slack = 1e-5; // of the model's size
  planes.resize(sections_.size());
  for (std::size_t i = 0; i < planes.size(); ++i) {
    if (!planes[i])
      planes[i] = vtkSmartPointer<vtkPlane>::New();
    const Vec3 through = sections_[i].through + slack * size * sections_[i].normal;
    const Vec3 kept = -sections_[i].normal;
    planes[i]->SetOrigin(through.data());
    planes[i]->SetNormal(kept.data());
  }
  if (!others) // the mappers have them: to take them anew would build their programs anew
    return;
  const auto apply = [&](vtkPolyDataMapper* mapper) {
    mapper->RemoveAllClippingPlanes();
    for (const auto& plane : planes)
      mapper->AddClippingPlane(plane);
  };
  for (Layer* layer : {&actors_->shown, &actors_->edges, &actors_->highlight, &actors_->outline})
    apply(layer->mapper);
  for (Layer* layer : {&actors_->cut, &actors_->cutEdges}) {
    layer->mapper->RemoveAllClippingPlanes();
    if (planes.size() > 1)
      apply(layer->mapper);
  }
  extras_->forEachMapper(apply);
}

void SceneCanvas::recolor()
{
  const bool ratios = coloring_.logarithmic && coloring_.low > 0;
  ratios ? actors_->table->SetScaleToLog10() : actors_->table->SetScaleToLinear();
  actors_->table->SetTableRange(coloring_.low, std::max(coloring_.high, coloring_.low + 1e-6));
  color(actors_->shown, shown_);
  color(actors_->seeThrough, seeThrough_);
  color(actors_->cut, cut_);
  redraw();
}

void SceneCanvas::color(Layer& layer, const DrawnSurface& surface) const
{
  if (coloring_.byValue && !surface.mapped().empty()) {
    const bool ratios = coloring_.logarithmic && coloring_.low > 0;
    layer.data->GetCellData()->SetScalars(nullptr);
    layer.mapper->SetScalarModeToUsePointData();
    layer.mapper->ScalarVisibilityOn();
    layer.mapper->SetColorModeToMapScalars();
    const bool steep = widestStep(surface) > coarseStep * (coloring_.high - coloring_.low);
    layer.mapper->SetInterpolateScalarsBeforeMapping(steep || ratios || coloring_.steps > 1 ? 1 : 0);
    return;
  }
  vtkNew<vtkUnsignedCharArray> colors;
  colors->SetNumberOfComponents(3);
  colors->SetNumberOfTuples(static_cast<vtkIdType>(surface.triangles.size()));
  for (std::size_t t = 0; t < surface.triangles.size(); ++t) {
    const QColor own = ownColor(surface, t);
    const std::array<double, 3> tuple{static_cast<double>(own.red()), static_cast<double>(own.green()),
                                      static_cast<double>(own.blue())};
    colors->SetTuple(static_cast<vtkIdType>(t), tuple.data());
  }
  layer.data->GetCellData()->SetScalars(colors);
  layer.mapper->SetScalarModeToUseCellData();
  layer.mapper->ScalarVisibilityOn();
  layer.mapper->SetColorModeToDirectScalars();
}

/// Where no field is drawn: of its face, skin or element, else of its part.
QColor SceneCanvas::ownColor(const DrawnSurface& surface, std::size_t triangle) const
{
  const auto find = [](const auto& list, std::int64_t i) {
    return i >= 0 && at(i) < list.size() ? &list[at(i)] : nullptr;
  };
  if (const double* value = find(coloring_.faceValue, surface.face[triangle]))
    return coloring_.colorAt(*value);
  if (const double* value = find(coloring_.tetValue, surface.tet[triangle]))
    return coloring_.colorAt(*value);
  if (const QColor* skin = find(coloring_.skinColor, surface.skin[triangle]); skin != nullptr && skin->isValid())
    return *skin;
  if (const QColor* face = find(coloring_.faceColor, surface.face[triangle]); face != nullptr && face->isValid())
    return *face;
  if (const QColor* part = find(coloring_.partColor, surface.part[triangle]))
    return *part;
  return {150, 152, 156};
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
  actors_->outline.show(linesAsPolyData(lit.points, lit.edges));
}

} // namespace kiln
