// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "scene/DrawnPolyData.h"

#include <vtkActor.h>
#include <vtkCamera.h>
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
#include "scene/Turntable.h"

#include <QMouseEvent>
#include <QRubberBand>
#include <algorithm>
#include <cmath>
#include <limits>

namespace kiln
{
namespace
{

constexpr double viewAngle = 22; // degrees: little perspective, so that shapes can be judged

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

void SceneCanvas::followCamera(const SceneCanvas& other)
{
  renderer()->GetActiveCamera()->DeepCopy(other.renderer()->GetActiveCamera());
  framed_ = false;
  renderer()->ResetCameraClippingRange();
  update();
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

std::pair<Vec3, Vec3> SceneCanvas::rayAt(const QPointF& pixel) const
{
  vtkRenderer* view = renderer();
  const double ratio = devicePixelRatioF();
  const auto world = [&](double depth) {
    view->SetDisplayPoint(pixel.x() * ratio, (height() - pixel.y()) * ratio, depth);
    view->DisplayToWorld();
    const double* p = view->GetWorldPoint();
    return Vec3(p[0] / p[3], p[1] / p[3], p[2] / p[3]);
  };
  return {world(0), world(1)};
}

std::optional<PickedPoint> SceneCanvas::pickAt(const QPointF& pixel) const
{
  if (model_.empty())
    return std::nullopt;
  const auto [from, to] = rayAt(pixel);
  auto skin = shownPicker_.pick(from, to, section_);
  if (skin && isFlat())
    snapToBorder(*skin, pixel);
  const auto cut = cutPicker_.pick(from, to, section_);
  if (skin && cut)
    return skin->distance < cut->distance ? skin : cut;
  return skin ? skin : cut;
}

/// Near a border of a section model its edge is meant, which is seen from above and has no width.
void SceneCanvas::snapToBorder(PickedPoint& hit, const QPointF& pixel) const
{
  const Mesh& mesh = *model_.source().mesh;
  double nearest = std::numeric_limits<double>::infinity();
  Vec3 place = hit.place;
  FaceId meant;
  for (std::size_t t = 0; t < mesh.triangles.size(); ++t) {
    const Face& face = mesh.geometry.faces[static_cast<std::size_t>(mesh.triangleFace[t])];
    if (face.aside || !face.touches(hit.part))
      continue;
    const Vec3 a = mesh.placeOf(mesh.triangles[t][0]);
    Vec3 b = mesh.placeOf(mesh.triangles[t][1]);
    if (a == b)
      b = mesh.placeOf(mesh.triangles[t][2]);
    const Vec3 along = b - a;
    const double share = std::clamp((hit.place - a).dot(along) / std::max(along.squaredNorm(), 1e-300), 0.0, 1.0);
    const double away = (hit.place - a - share * along).norm();
    if (away < nearest) {
      nearest = away;
      place = a + share * along;
      meant = mesh.triangleFace[t];
    }
  }
  constexpr double reach = 8; // px
  const QPointF apart = pixelOf(place) - pixel;
  if (meant >= 0 && std::hypot(apart.x(), apart.y()) < reach)
    hit.face = meant;
}

std::vector<PickedPoint> SceneCanvas::pickThrough(const QPointF& pixel) const
{
  std::vector<PickedPoint> found;
  if (model_.empty())
    return found;
  const DrawnSurface all = model_.allFaces();
  SurfacePicker picker;
  picker.setSurface(all);
  auto [from, to] = rayAt(pixel);
  const Vec3 along = (to - from).normalized();
  constexpr double step = 1e-6; // m behind a hit
  constexpr int most = 60;
  for (int i = 0; i < most; ++i) {
    const auto hit = picker.pick(from, to, section_);
    if (!hit)
      break;
    if (std::none_of(found.begin(), found.end(), [&](const PickedPoint& one) { return one.face == hit->face; }))
      found.push_back(*hit);
    from = hit->place + step * along;
  }
  return found;
}

QPointF SceneCanvas::pixelOf(const Vec3& place) const
{
  vtkRenderer* view = renderer();
  view->SetWorldPoint(place.x(), place.y(), place.z(), 1);
  view->WorldToDisplay();
  const double* p = view->GetDisplayPoint();
  const double ratio = devicePixelRatioF();
  return {p[0] / ratio, height() - p[1] / ratio};
}

bool SceneCanvas::isCovered(const Vec3& place) const
{
  if (section_ && section_->removes(place))
    return true;
  const auto hit = pickAt(pixelOf(place));
  if (!hit)
    return false;
  const double reach = (hit->place - place).norm();
  const auto [low, high] = model_.bounds();
  constexpr double near = 0.01; // of the model's size
  return reach > near * (high - low).norm() && hit->distance < (place - rayAt(pixelOf(place)).first).norm();
}

Vec3 SceneCanvas::eye() const
{
  Vec3 place;
  renderer()->GetActiveCamera()->GetPosition(place.data());
  return place;
}

void SceneCanvas::moved()
{
  renderer()->ResetCameraClippingRange();
  update();
  emit cameraMoved();
}

void SceneCanvas::fit()
{
  if (model_.empty())
    return;
  const auto [low, high] = model_.bounds();
  const std::array<double, 6> box{low.x(), high.x(), low.y(), high.y(), low.z(), high.z()};
  vtkCamera* camera = renderer()->GetActiveCamera();
  camera->SetViewAngle(viewAngle);
  renderer()->ResetCamera(box.data());
  // The default leaves a wide margin: come closer until the corners fill the view, twice because of the perspective.
  for (int pass = 0; pass < 2; ++pass) {
    double used = 0;
    for (int corner = 0; corner < 8; ++corner) {
      const Vec3 place((corner & 1) != 0 ? high.x() : low.x(), (corner & 2) != 0 ? high.y() : low.y(),
                       (corner & 4) != 0 ? high.z() : low.z());
      const QPointF away = pixelOf(place) - QPointF(width() / 2.0, height() / 2.0);
      used = std::max(
          {used, std::abs(away.x()) * 2 / std::max(width(), 1), std::abs(away.y()) * 2 / std::max(height(), 1)});
    }
    constexpr double wanted = 0.88; // of the view
    if (used > 0)
      camera->Dolly(wanted / used);
  }
  framed_ = true;
  moved();
}

void SceneCanvas::lookAlong(const Vec3& direction, const Vec3& up)
{
  const auto [low, high] = model_.bounds();
  turntable::lookAlong(*renderer()->GetActiveCamera(), low, high, direction, up);
  fit();
}

bool SceneCanvas::isFlat() const { return !model_.empty() && model_.source().mesh->geometry.section.is(); }

/// Straight onto the plane of a section model.
void SceneCanvas::lookAtSection()
{
  Vec3 direction = Vec3::Zero();
  const int across = model_.source().mesh->geometry.section.across;
  direction[across] = across == 1 ? 1 : -1;
  lookAlong(direction, across == 2 ? Vec3(0, 1, 0) : Vec3(0, 0, 1));
}

void SceneCanvas::lookFromCorner() { lookAlong(Vec3(-0.55, 0.8, -0.5), Vec3(0, 0, 1)); }

void SceneCanvas::orbit(double azimuth, double elevation)
{
  turntable::orbit(*renderer()->GetActiveCamera(), azimuth, elevation);
  framed_ = false;
  moved();
}

void SceneCanvas::zoom(double factor)
{
  renderer()->GetActiveCamera()->Dolly(factor);
  framed_ = false;
  moved();
}

void SceneCanvas::pan(const QPointF& delta)
{
  turntable::pan(*renderer()->GetActiveCamera(), delta.x(), delta.y(), height());
  framed_ = false;
  moved();
}

void SceneCanvas::mousePressEvent(QMouseEvent* event)
{
  pressedAt_ = lastAt_ = event->position();
  dragging_ = false;
  setFocus(Qt::MouseFocusReason);
}

void SceneCanvas::mouseMoveEvent(QMouseEvent* event)
{
  const QPointF here = event->position();
  const QPointF delta = here - lastAt_;
  if (event->buttons() == Qt::NoButton) {
    emit hovered(pickAt(here));
    return;
  }
  constexpr double slop = 3; // pixels before a click becomes a drag
  if (!dragging_ && (here - pressedAt_).manhattanLength() < slop)
    return;
  dragging_ = true;
  lastAt_ = here;
  if ((event->modifiers() & Qt::AltModifier) != 0 && (event->buttons() & Qt::LeftButton) != 0) {
    if (band_ == nullptr)
      band_ = new QRubberBand(QRubberBand::Rectangle, this);
    band_->setGeometry(QRect(pressedAt_.toPoint(), here.toPoint()).normalized());
    band_->show();
    return;
  }
  const bool panning = (event->buttons() & Qt::MiddleButton) != 0 || (event->modifiers() & Qt::ShiftModifier) != 0;
  constexpr double degreesPerPixel = 0.4;
  if (panning)
    pan(delta);
  else if ((event->buttons() & Qt::LeftButton) != 0)
    orbit(-delta.x() * degreesPerPixel, delta.y() * degreesPerPixel);
}

void SceneCanvas::mouseReleaseEvent(QMouseEvent* event)
{
  if (band_ != nullptr && band_->isVisible()) {
    band_->hide();
    emit boxed(band_->geometry());
  } else if (!dragging_ && event->button() == Qt::LeftButton)
    emit picked(pickAt(event->position()), event->modifiers());
  dragging_ = false;
}

void SceneCanvas::wheelEvent(QWheelEvent* event)
{
  constexpr double perNotch = 1.12;
  constexpr double notch = 120;
  zoom(std::pow(perNotch, event->angleDelta().y() / notch));
}

void SceneCanvas::leaveEvent(QEvent* /*event*/) { emit hovered(std::nullopt); }

void SceneCanvas::resizeEvent(QResizeEvent* event)
{
  VtkView::resizeEvent(event);
  if (framed_)
    fit();
  emit cameraMoved();
}

} // namespace kiln
