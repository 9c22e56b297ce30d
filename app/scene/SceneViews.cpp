// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
//
// How the picture of the scene is drawn: the panel beside it, cuts, parts pulled apart, labels, and views that are
// kept.
#include "look/Icons.h"
#include "model/Edit.h"
#include "model/WatchOffers.h"
#include "scene/AxisCross.h"
#include "scene/BesideCanvas.h"
#include "scene/CutHandles.h"
#include "scene/CutList.h"
#include "scene/FaceDrawing.h"
#include "scene/LabelHandles.h"
#include "scene/Legend.h"
#include "scene/LookPanel.h"
#include "scene/SceneDrawing.h"
#include "scene/SceneExtras.h"
#include "scene/SceneLabels.h"
#include "scene/SceneOverlay.h"
#include "scene/ScenePanel.h"
#include "scene/ViewList.h"

#include <QComboBox>
#include <QHBoxLayout>
#include <QMenu>
#include <QSignalBlocker>
#include <QSlider>
#include <QToolButton>
#include <algorithm>
#include <cmath>

namespace kiln
{
namespace
{

SectionPlane planeOf(const CutPlane& cut)
{
  const Vec3 normal = placeOf(cut.normal);
  return {placeOf(cut.through), normal.norm() > 0 ? Vec3(normal.normalized()) : Vec3::UnitX()};
}

} // namespace

void ScenePanel::makeLook()
{
  lookPanel_->hide();
  overlay_->setCutHandles(cutHandles_);
  overlay_->setCross(cross_);
  overlay_->setDrawing(faceDrawing_);
  connect(faceDrawing_, &FaceDrawing::made, this, &ScenePanel::stepDrawn);
  connect(faceDrawing_, &FaceDrawing::changed, this, [this] {
    overlay_->setHover(faceDrawing_->words());
    overlay_->update();
  });
  connect(labelHandles_, &LabelHandles::moved, this, &ScenePanel::refreshLabels);
  auto* views = new ViewList(document_);
  lookPanel_->addSection(cutList_);
  lookPanel_->addSection(views);
  connect(lookPanel_, &LookPanel::changed, this, [this] {
    if (const auto& source = canvas_->model().source(); source.temperature && source.field) // along other axes
      canvas_->setTemperature(source.temperature, coloring_.field(colorBy(), look_));
    refreshColors();
  });
  connect(lookPanel_, &LookPanel::closeWanted, this, &ScenePanel::toggleLook);
  connect(lookPanel_, &LookPanel::apartChanged, this, &ScenePanel::takeApart);
  connect(lookPanel_, &LookPanel::watchWanted, this, &ScenePanel::watchAbove);
  connect(lookPanel_, &LookPanel::levelChanged, this, [this] {
    drawing_->refreshLevel(look_, coloringNow_);
    lookPanel_->setLevelWords(drawing_->levelWords());
  });
  connect(lookPanel_, &LookPanel::heightChanged, this, [this] {
    takeHeight();
    if (look_.height && canvas_->isFlat() && canvas_->looksStraightAtSection())
      canvas_->lookAlong(Vec3(-0.35, 0.72, -0.6), Vec3(0, 0, 1)); // from above they could not be seen
  });
  connect(&document_, &Document::selectionChanged, drawing_, [this] { drawing_->beginAt(std::nullopt); });
  connect(cutList_, &CutList::changed, this, &ScenePanel::takeOwnCuts);
  connect(cutHandles_, &CutHandles::dragged, this, [this] {
    takeOwnCuts();
    overlay_->update();
  });
  connect(cutHandles_, &CutHandles::released, this, [this] {
    const auto [low, high] = canvas_->model().bounds();
    cutList_->refresh(low, high);
  });
  connect(views, &ViewList::keepWanted, this, &ScenePanel::keepView);
  connect(views, &ViewList::showWanted, this, [this](const std::string& id) {
    if (const View* view = findById(document_.project().views, id))
      show(*view);
  });
  connect(views, &ViewList::takeAnewWanted, this, [this](const std::string& id) {
    View now = currentView();
    document_.edit(tr("View taken anew"), [&](Project& project) {
      if (View* own = findById(project.views, id)) {
        now.id = own->id;
        now.name = own->name;
        now.comment = own->comment;
        now.unknown = own->unknown;
        *own = now;
      }
    });
  });
  connect(&document_, &Document::projectChanged, this, &ScenePanel::refreshLabels);
}

void ScenePanel::addSides(QToolButton& tool)
{
  tool.setPopupMode(QToolButton::InstantPopup);
  auto* menu = new QMenu(&tool);
  const std::array names{tr("Right"), tr("Left"), tr("Back"), tr("Front"), tr("Top"), tr("Bottom")};
  for (int i = 0; i < 6; ++i)
    menu->addAction(names[static_cast<std::size_t>(i)], this, [this, i] { lookFromSide(*canvas_, i / 2, i % 2 == 0); });
  tool.setMenu(menu);
}

/// What can be drawn on a face, and whether it is raised or divides it.
void ScenePanel::addDrawing(QHBoxLayout& row)
{
  auto* tool = new QToolButton;
  setIcon(*tool, "draw-rectangle");
  tool->setObjectName("drawTool");
  tool->setToolTip(tr("Draw on a face: ribs, pockets, holes, dividing lines; push a face"));
  tool->setAccessibleName(tool->toolTip());
  tool->setPopupMode(QToolButton::InstantPopup);
  auto* menu = new QMenu(tool);
  const std::array names{tr("A rectangle, raised or sunk"), tr("A circle, raised or sunk"),
                         tr("An outline, raised or sunk"), tr("Push a face")};
  const std::array dividing{tr("A rectangle that divides the face"), tr("A circle that divides the face"),
                            tr("An outline that divides the face")};
  for (std::size_t i = 0; i < names.size(); ++i)
    menu->addAction(names[i], this, [this, i] { drawOnFace(static_cast<int>(i), false); });
  menu->addSeparator();
  for (std::size_t i = 0; i < dividing.size(); ++i)
    menu->addAction(dividing[i], this, [this, i] { drawOnFace(static_cast<int>(i), true); });
  tool->setMenu(menu);
  row.addWidget(tool);
}

void ScenePanel::drawOnFace(int tool, bool divides)
{
  stopAsking();
  if (canvas_->isFlat())
    return overlay_->setHover(tr("A section model is drawn by its parts' outlines"));
  faceDrawing_->start(static_cast<FaceDrawing::Tool>(tool), divides);
}

void ScenePanel::toggleLook()
{
  lookPanel_->setVisible(lookPanel_->isHidden());
  lookTool_->setChecked(!lookPanel_->isHidden());
  placeLook();
  refreshLook();
}

void ScenePanel::placeLook()
{
  constexpr int wide = 238, top = 40, bottom = 8, left = 8;
  lookPanel_->setGeometry(left, top, wide, std::max(80, canvas_->height() - top - bottom));
  lookPanel_->raise();
  canvas_->setCovered(lookPanel_->isHidden() ? 0 : left + wide, coveredRight_);
}

/// What is drawn beside the colours, and what the panel says of it.
void ScenePanel::refreshLook()
{
  constexpr double usuallyClear = 0.86;
  canvas_->setClear(look_.clear ? look_.clear->si : usuallyClear);
  drawing_->refresh(look_, coloringNow_);
  std::vector<LineNumber> numbers;
  for (const SceneDrawing::LineLabel& label : drawing_->labels())
    numbers.push_back({label.place, label.text});
  overlay_->setLineNumbers(std::move(numbers));
  std::vector<double> levels;
  for (const LevelLine& line : drawing_->lines())
    levels.push_back(line.level);
  std::sort(levels.begin(), levels.end());
  levels.erase(std::unique(levels.begin(), levels.end()), levels.end());
  if (!beside_->isHidden())
    beside_->drawLines(levels);
  legend_->setLevels(std::move(levels));
  if (lookPanel_->isHidden())
    return;
  lookPanel_->setLevelSpan(isPerElement(look_) ? std::nullopt : drawing_->span(), preferences_.temperatureUnit());
  lookPanel_->setLevelWords(drawing_->levelWords());
}

void ScenePanel::takeCuts()
{
  SectionPlanes planes;
  for (const CutPlane& cut : look_.cuts)
    planes.push_back(planeOf(cut));
  const bool fresh = planes != canvas_->sections();
  if (fresh) {
    canvas_->setSections(std::move(planes));
    refreshColors();
  }
  const int axis = sectionAxis_->currentIndex();
  sectionAt_->setVisible(axis > 0 && axis <= 3);
}

/// They were set by themselves, not by the boxes above the scene.
void ScenePanel::takeOwnCuts()
{
  sectionAxis_->setCurrentIndex(look_.cuts.empty() ? 0 : ownCuts);
  takeCuts();
}

void ScenePanel::takeApart()
{
  canvas_->setOffsets({});
  if (look_.apart)
    canvas_->setOffsets(canvas_->model().pulledApart(static_cast<int>(look_.apartAlong), look_.apart->si));
  refreshColors();
  refreshFlags();
}

void ScenePanel::toggleHandles() { move_->click(); }

void ScenePanel::streamFromHottest()
{
  if (const auto hottest = hottestPlace())
    streamFrom(*hottest);
}

void ScenePanel::takeHeight()
{
  canvas_->setHeight(look_.height ? look_.height->si : 0);
  refreshLook();
  refreshFlags();
}

/// Streamlines through a place, or from the hottest one.
void ScenePanel::streamFrom(const Vec3& place)
{
  look_.flux = FluxLook::Streamlines;
  drawing_->beginAt(place);
  lookPanel_->refresh();
  refreshLook();
}

void ScenePanel::setSection(int axis, double share)
{
  sectionAxis_->setCurrentIndex(axis + 1);
  const QSignalBlocker blocker(sectionAt_);
  sectionAt_->setValue(static_cast<int>(std::lround(share * sectionAt_->maximum())));
  look_.cuts.clear();
  const auto [low, high] = canvas_->model().bounds();
  if (axis >= 0 && !canvas_->model().empty()) {
    // Take away the half that stands before the eye.
    const bool above = canvas_->eye()[axis] > (low[axis] + high[axis]) / 2;
    Vec3 through = (low + high) / 2;
    through[axis] = low[axis] + share * (high[axis] - low[axis]);
    look_.cuts.push_back(
        {"cut-1", numbersOf(through), numbersOf(above ? Vec3(Vec3::Unit(axis)) : Vec3(-Vec3::Unit(axis)))});
  }
  takeCuts();
  cutList_->refresh(low, high);
}

View ScenePanel::currentView() const
{
  View view = look_;
  const SceneCanvas::Camera camera = canvas_->camera();
  view.eye = numbersOf(camera.eye);
  view.towards = numbersOf(camera.towards);
  view.up = numbersOf(camera.up);
  view.hidden.clear();
  view.seeThrough.clear();
  for (const auto& [part, look] : looks_)
    if (look != PartLook::Shown && findById(document_.project().parts, part) != nullptr)
      (look == PartLook::Hidden ? view.hidden : view.seeThrough).push_back(part);
  if (legend_->isPinned() && quantityOf(view.shown)) {
    view.low = Number{pinnedRange_.first, {}};
    view.high = Number{pinnedRange_.second, {}};
  } else {
    view.low.reset();
    view.high.reset();
  }
  return view;
}

void ScenePanel::keepView(const QString& name)
{
  View view = currentView();
  document_.edit(tr("Keep view %1").arg(name), [&](Project& project) {
    view.name = freeName(project, name.toStdString());
    view.id = idFromName(project, view.name);
    project.views.push_back(view);
  });
}

void ScenePanel::show(const View& view)
{
  look_ = view;
  looks_.clear();
  for (const std::string& part : view.hidden)
    looks_[part] = PartLook::Hidden;
  for (const std::string& part : view.seeThrough)
    looks_[part] = PartLook::SeeThrough;
  refreshLooks();
  takeApart();
  takeHeight();
  colorBy_->setCurrentIndex(static_cast<int>(view.shown));
  legend_->setPinned(view.low && view.high);
  if (view.low && view.high)
    pinnedRange_ = {view.low->si, view.high->si};
  if (const auto& source = canvas_->model().source(); source.temperature)
    canvas_->setTemperature(source.temperature, coloring_.field(view.shown, view));
  takeOwnCuts();
  canvas_->setCamera({placeOf(view.eye), placeOf(view.towards), placeOf(view.up)});
  refreshColors();
  refreshFlags();
  lookPanel_->refresh();
  const auto [low, high] = canvas_->model().bounds();
  cutList_->refresh(low, high);
}

void ScenePanel::showView(int index)
{
  const auto& views = document_.project().views;
  if (index >= 0 && static_cast<std::size_t>(index) < views.size())
    show(views[static_cast<std::size_t>(index)]);
}

void ScenePanel::beginAnew()
{
  if (!document_.project().views.empty())
    return showView(0);
  look_ = View{};
  look_.shown = colorBy();
  looks_.clear();
  legend_->setPinned(false);
  refreshLooks();
  takeApart();
  takeHeight();
  takeOwnCuts();
  lookPanel_->refresh();
}

/// A watch of the volume above the level, in all parts that are shown.
void ScenePanel::watchAbove()
{
  if (!look_.level || !canvas_->model().source().mesh)
    return;
  HotVolume volume;
  volume.above = *look_.level;
  if (volume.above.text.empty())
    volume.above.text = formatQuantity(volume.above.si, Quantity::Temperature, preferences_.temperatureUnit());
  const auto& parts = canvas_->model().source().mesh->geometry.parts;
  for (std::size_t p = 0; p < parts.size(); ++p)
    if (canvas_->looks()[p] != PartLook::Hidden && findById(document_.project().parts, parts[p].id) != nullptr)
      volume.parts.push_back(parts[p].id);
  document_.edit(tr("Watch the volume above"), [&](Project& project) {
    Watch watch;
    watch.name = freeName(project, "Volume above " + volume.above.text);
    watch.id = idFromName(project, watch.name);
    watch.figure = volume;
    project.watches.push_back(watch);
  });
}

void ScenePanel::refreshLabels()
{
  std::vector<Flag> flags;
  for (const LabelReading& reading : labels_->read())
    if (const Label* label = findById(document_.project().labels, reading.id)) {
      Flag flag;
      flag.place = reading.place + canvas_->model().offset(reading.part.value_or(noPart));
      if (const auto held = labelHandles_->held(); held && held->first == reading.id)
        flag.place = held->second;
      flag.text =
          QString::fromStdString(label->name) + "  " + labelText(*label, reading, preferences_.temperatureUnit());
      flag.pinned = true;
      flags.push_back(std::move(flag));
    }
  overlay_->setLabels(std::move(flags));
}

void ScenePanel::pinLabel()
{
  if (hovered_)
    addLabel(*hovered_);
  else
    askForLabel();
}

void ScenePanel::askForLabel() { startAsking(Asking::Label); }

void ScenePanel::addLabel(const PickedPoint& picked)
{
  const Shown shown = isSolutionField(look_.shown) ? look_.shown : Shown::Temperature;
  const Vec3 place = picked.place - canvas_->model().offset(picked.part);
  const std::string name = partName(picked.part).toStdString();
  document_.edit(tr("Pin a label"),
                 [&](Project& project) { project.labels.push_back(labelAt(project, place, shown, name)); });
}

/// Both sides of a selected contact, the first one by a round mark and the second by a square one.
void ScenePanel::showSides()
{
  std::vector<Flag> sides;
  const auto mesh = canvas_->model().source().mesh;
  const std::string& id = document_.selectedId();
  const Contact* contact = findById(document_.shownProject().contacts, id);
  const auto bar = id.find('|');
  const std::string a = contact != nullptr ? contact->partA : id.substr(0, bar);
  const std::string b = contact != nullptr         ? contact->partB
                        : bar == std::string::npos ? std::string()
                                                   : id.substr(bar + 1);
  const PartId first = mesh ? mesh->geometry.partIndex(a) : noPart;
  const PartId second = mesh ? mesh->geometry.partIndex(b) : noPart;
  const Face* widest = nullptr;
  if (first != noPart && second != noPart)
    for (const FaceId face : document_.litFaces()) {
      const Face& own = mesh->geometry.faces[static_cast<std::size_t>(face)];
      if (own.contact() && own.touches(first) && own.touches(second) && (widest == nullptr || own.area > widest->area))
        widest = &own;
    }
  if (widest != nullptr) {
    const auto [low, high] = canvas_->model().bounds();
    constexpr double apart = 0.006; // of the model's size
    const Vec3 step = apart * (high - low).norm() * widest->normal * (widest->parts[0] == first ? 1 : -1);
    sides.push_back({widest->centroid - step, tr("from %1").arg(partName(first)), false, false, false});
    sides.push_back({widest->centroid + step, tr("to %1").arg(partName(second)), false, false, true});
  }
  overlay_->setSides(std::move(sides));
}

} // namespace kiln
