// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include <vtkActor.h>
#include <vtkCellArray.h>
#include <vtkCellData.h>
#include <vtkConeSource.h>
#include <vtkFloatArray.h>
#include <vtkGlyph3DMapper.h>
#include <vtkNew.h>
#include <vtkPointData.h>
#include <vtkPolyData.h>
#include <vtkPolyDataMapper.h>
#include <vtkProperty.h>
#include <vtkRenderer.h>
#include <vtkUnsignedCharArray.h>

#include "base/At.h"
#include "scene/DrawnPolyData.h"
#include "scene/SceneExtras.h"

#include <algorithm>

namespace kiln
{
namespace
{

vtkSmartPointer<vtkPoints> pointsOf(const std::vector<Vec3>& places)
{
  auto points = vtkSmartPointer<vtkPoints>::New();
  points->SetDataTypeToDouble();
  points->SetNumberOfPoints(static_cast<vtkIdType>(places.size()));
  for (std::size_t i = 0; i < places.size(); ++i)
    points->SetPoint(static_cast<vtkIdType>(i), places[i].data());
  return points;
}

/// Lines that go through points, one after the other.
vtkSmartPointer<vtkPolyData> waysAsPolyData(const std::vector<const std::vector<Vec3>*>& ways)
{
  std::vector<Vec3> points;
  vtkNew<vtkCellArray> cells;
  for (const std::vector<Vec3>* way : ways) {
    cells->InsertNextCell(static_cast<int>(way->size()));
    for (const Vec3& place : *way) {
      cells->InsertCellPoint(static_cast<vtkIdType>(points.size()));
      points.push_back(place);
    }
  }
  auto data = vtkSmartPointer<vtkPolyData>::New();
  data->SetPoints(pointsOf(points));
  data->SetLines(cells);
  return data;
}

struct Drawn {
  vtkNew<vtkPolyDataMapper> mapper;
  vtkNew<vtkActor> actor;

  void addTo(vtkRenderer& renderer)
  {
    actor->SetMapper(mapper);
    actor->SetVisibility(0);
    renderer.AddActor(actor);
  }
  void show(const vtkSmartPointer<vtkPolyData>& data)
  {
    mapper->SetInputData(data);
    actor->SetVisibility(data->GetNumberOfCells() > 0 ? 1 : 0);
  }
};

void setColor(vtkActor* actor, const QColor& color)
{
  actor->GetProperty()->SetColor(color.redF(), color.greenF(), color.blueF());
}

} // namespace

struct SceneExtras::Layers {
  Drawn skinElements, cutElements, lines, level, shafts, ways;
  vtkNew<vtkConeSource> head;
  vtkNew<vtkGlyph3DMapper> headMapper;
  vtkNew<vtkActor> heads;
  const DrawnSurface *skin = nullptr, *cuts = nullptr; ///< of the canvas
  bool elementLines = false, elementLinesMade = false;
};

SceneExtras::SceneExtras(vtkRenderer& renderer) : layers_(std::make_unique<Layers>())
{
  Layers& l = *layers_;
  for (Drawn* drawn : {&l.skinElements, &l.cutElements, &l.lines, &l.level, &l.shafts, &l.ways})
    drawn->addTo(renderer);
  for (Drawn* drawn : {&l.skinElements, &l.cutElements, &l.lines, &l.shafts, &l.ways}) {
    drawn->actor->GetProperty()->SetLighting(false);
    drawn->mapper->ScalarVisibilityOff();
    drawn->mapper->SetResolveCoincidentTopologyToPolygonOffset();
    drawn->mapper->SetRelativeCoincidentTopologyLineOffsetParameters(0, -6);
  }
  l.lines.actor->GetProperty()->SetLineWidth(1.2F);
  l.ways.actor->GetProperty()->SetLineWidth(2.0F);
  l.shafts.actor->GetProperty()->SetLineWidth(2.2F);
  setColor(l.skinElements.actor, QColor(24, 24, 28));
  setColor(l.cutElements.actor, QColor(24, 24, 28));
  for (Drawn* drawn : {&l.skinElements, &l.cutElements})
    drawn->actor->GetProperty()->SetOpacity(0.45);
  l.level.actor->GetProperty()->SetAmbient(0.5);
  l.level.actor->GetProperty()->SetDiffuse(0.5);
  l.level.actor->GetProperty()->SetInterpolationToFlat();
  l.head->SetResolution(10);
  l.head->SetHeight(1);
  l.head->SetRadius(0.32);
  l.head->SetCenter(-0.5, 0, 0); // its tip is where the arrow ends
  l.headMapper->SetSourceConnection(l.head->GetOutputPort());
  l.headMapper->SetOrientationModeToDirection();
  l.headMapper->SetOrientationArray("along");
  l.headMapper->SetScaleModeToScaleByMagnitude();
  l.headMapper->SetScaleArray("size");
  l.headMapper->ScalarVisibilityOff();
  l.heads->SetMapper(l.headMapper);
  l.heads->SetVisibility(0);
  renderer.AddActor(l.heads);
}

SceneExtras::~SceneExtras() = default;

void SceneExtras::setInk(const QColor& lines, const QColor& flux)
{
  setColor(layers_->lines.actor, lines);
  for (vtkActor* actor : {layers_->ways.actor.Get(), layers_->shafts.actor.Get(), layers_->heads.Get()})
    setColor(actor, flux);
}

void SceneExtras::showElementLines(bool shown)
{
  Layers& l = *layers_;
  l.elementLines = shown;
  if (shown && !l.elementLinesMade && l.skin != nullptr) {
    l.skinElements.show(linesAsPolyData(l.skin->points, l.skin->elementEdges));
    l.cutElements.show(linesAsPolyData(l.cuts->points, l.cuts->elementEdges));
    l.elementLinesMade = true;
  }
  for (Drawn* drawn : {&l.skinElements, &l.cutElements})
    drawn->actor->SetVisibility(shown ? 1 : 0);
}

void SceneExtras::setElementLines(const DrawnSurface& skin, const DrawnSurface& cuts, const Vec3& lift)
{
  Layers& l = *layers_;
  l.skin = &skin;
  l.cuts = &cuts;
  l.elementLinesMade = false;
  l.cutElements.actor->SetPosition(lift.x(), lift.y(), lift.z());
  l.lines.actor->SetPosition(0, 0, 0);
  showElementLines(l.elementLines);
}

void SceneExtras::setLines(const std::vector<LevelLine>& lines)
{
  std::vector<const std::vector<Vec3>*> ways;
  for (const LevelLine& line : lines)
    ways.push_back(&line.points);
  layers_->lines.show(waysAsPolyData(ways));
}

void SceneExtras::setLevel(const LevelShape& shape)
{
  auto data = vtkSmartPointer<vtkPolyData>::New();
  data->SetPoints(pointsOf(shape.points));
  vtkNew<vtkCellArray> cells;
  for (const Triangle& t : shape.triangles)
    cells->InsertNextCell({t[0], t[1], t[2]});
  data->SetPolys(cells);
  vtkNew<vtkUnsignedCharArray> colors;
  colors->SetNumberOfComponents(3);
  for (const QColor& color : shape.colors)
    colors->InsertNextTuple3(color.red(), color.green(), color.blue());
  data->GetCellData()->SetScalars(colors);
  layers_->level.mapper->SetScalarModeToUseCellData();
  layers_->level.mapper->SetColorModeToDirectScalars();
  layers_->level.show(data);
}

void SceneExtras::setArrows(const std::vector<FluxArrow>& arrows)
{
  constexpr double head = 0.42; // of the arrow
  std::vector<Vec3> tips;
  vtkNew<vtkFloatArray> along;
  along->SetName("along");
  along->SetNumberOfComponents(3);
  vtkNew<vtkFloatArray> size;
  size->SetName("size");
  std::vector<std::vector<Vec3>> shafts;
  vtkNew<vtkUnsignedCharArray> colors;
  colors->SetName("colors");
  colors->SetNumberOfComponents(3);
  const bool colored = !arrows.empty() && arrows.front().color.isValid();
  for (const FluxArrow& arrow : arrows) {
    if (colored)
      colors->InsertNextTuple3(arrow.color.red(), arrow.color.green(), arrow.color.blue());
    tips.emplace_back(arrow.from + arrow.along);
    along->InsertNextTuple3(arrow.along.x(), arrow.along.y(), arrow.along.z());
    size->InsertNextValue(static_cast<float>(head * arrow.along.norm()));
    shafts.push_back({arrow.from, arrow.from + (1 - head) * arrow.along});
  }
  std::vector<const std::vector<Vec3>*> ways;
  for (const std::vector<Vec3>& shaft : shafts)
    ways.push_back(&shaft);
  const auto lines = waysAsPolyData(ways);
  auto data = vtkSmartPointer<vtkPolyData>::New();
  data->SetPoints(pointsOf(tips));
  if (colored) {
    lines->GetCellData()->SetScalars(colors);
    data->GetPointData()->SetScalars(colors);
  }
  layers_->shafts.mapper->SetScalarVisibility(colored);
  layers_->shafts.mapper->SetScalarModeToUseCellData();
  layers_->shafts.mapper->SetColorModeToDirectScalars();
  layers_->headMapper->SetScalarVisibility(colored);
  layers_->headMapper->SetScalarModeToUsePointData();
  layers_->headMapper->SetColorModeToDirectScalars();
  layers_->shafts.show(lines);
  data->GetPointData()->AddArray(along);
  data->GetPointData()->AddArray(size);
  layers_->headMapper->SetInputData(data);
  layers_->heads->SetVisibility(arrows.empty() ? 0 : 1);
}

void SceneExtras::setWays(const std::vector<std::vector<Vec3>>& ways)
{
  std::vector<const std::vector<Vec3>*> all;
  for (const std::vector<Vec3>& way : ways)
    all.push_back(&way);
  layers_->ways.show(waysAsPolyData(all));
}

void SceneExtras::forEachMapper(const std::function<void(vtkPolyDataMapper*)>& visit)
{
  for (Drawn* drawn : {&layers_->skinElements, &layers_->lines})
    visit(drawn->mapper);
}

} // namespace kiln
