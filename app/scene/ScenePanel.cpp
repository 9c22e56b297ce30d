// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "scene/ScenePanel.h"

#include "fields/QuantityField.h"
#include "geometry/SurfaceFaces.h"
#include "look/Icons.h"
#include "look/Theme.h"
#include "scene/AxisCross.h"
#include "scene/BesideCanvas.h"
#include "scene/CutHandles.h"
#include "scene/CutList.h"
#include "scene/FaceDrawing.h"
#include "scene/LabelHandles.h"
#include "scene/Legend.h"
#include "scene/LookPanel.h"
#include "scene/PlaceHandles.h"
#include "scene/SceneDrawing.h"
#include "scene/SceneExtras.h"
#include "scene/SceneLabels.h"
#include "scene/SceneOverlay.h"
#include "scene/WipeLine.h"

#include <QComboBox>
#include <QHBoxLayout>
#include <QLabel>
#include <QSlider>
#include <QSplitter>
#include <QTimer>
#include <QToolButton>
#include <QVBoxLayout>
#include <algorithm>
#include <cmath>

namespace kiln
{
namespace
{

constexpr int sliderSteps = 1000;

std::optional<std::pair<double, double>> rangeOf(const std::vector<double>& values)
{
  const auto [low, high] = std::minmax_element(values.begin(), values.end());
  return std::pair(*low, *high);
}

} // namespace

ScenePanel::ScenePanel(Document& document, Preferences& preferences, QWidget* parent)
    : QWidget(parent), document_(document), preferences_(preferences), canvas_(new SceneCanvas),
      overlay_(new SceneOverlay(*canvas_)), handles_(new PlaceHandles(document, *canvas_, *overlay_)),
      coloring_(document), beside_(new BesideCanvas(document, *canvas_)), both_(new QSplitter(Qt::Horizontal)),
      wipeLine_(new WipeLine(*canvas_)), legendRoom_(new QWidget), legend_(new Legend(canvas_)),
      colorBy_(new QComboBox), sectionAxis_(new QComboBox), sectionAt_(new QSlider(Qt::Horizontal)),
      lookPanel_(new LookPanel(look_, canvas_)), cutList_(new CutList(look_.cuts)),
      cutHandles_(new CutHandles(*canvas_, look_.cuts)), labelHandles_(new LabelHandles(document, *canvas_)),
      faceDrawing_(new FaceDrawing(document, *canvas_, *overlay_)), cross_(new AxisCross(*canvas_)),
      drawing_(new SceneDrawing(document, preferences, *canvas_)), labels_(std::make_unique<SceneLabels>(document))
{
  auto* layout = new QVBoxLayout(this);
  layout->setContentsMargins(0, 0, 0, 0);
  layout->setSpacing(0);
  layout->addWidget(makeTools());
  both_->addWidget(canvas_);
  both_->addWidget(beside_);
  both_->setChildrenCollapsible(false);
  beside_->hide();
  wipeLine_->hide();
  connect(wipeLine_, &WipeLine::moved, this, [this] { beside_->wipe(wipeLine_); });
  legendRoom_->hide();
  auto* views = new QHBoxLayout;
  views->setSpacing(0);
  views->addWidget(both_, 1);
  views->addWidget(legendRoom_);
  layout->addLayout(views, 1);
  connect(beside_, &BesideCanvas::cameraGiven, this, &ScenePanel::placeOverlays);
  canvas_->setObjectName("canvas");
  canvas_->setAccessibleName(tr("The model"));
  canvas_->setMinimumSize(240, 160);

  connect(canvas_, &SceneCanvas::hovered, this, &ScenePanel::hover);
  overlay_->setHandles(handles_);
  canvas_->setContextMenuPolicy(Qt::CustomContextMenu);
  connect(canvas_, &QWidget::customContextMenuRequested, this, &ScenePanel::showMenu);
  connect(canvas_, &SceneCanvas::boxed, this, &ScenePanel::pickBox);
  connect(canvas_, &SceneCanvas::picked, this, &ScenePanel::pick);
  connect(canvas_, &SceneCanvas::cameraMoved, this, &ScenePanel::placeOverlays);
  connect(legend_, &Legend::rangeEdited, this, [this](double low, double high) {
    pinnedRange_ = {low, high};
    refreshColors();
  });
  connect(legend_, &Legend::automaticWanted, this, &ScenePanel::refreshColors);
  connect(&document, &Document::resultChanged, this, &ScenePanel::refreshSource);
  connect(&document, &Document::shownCaseChanged, this, &ScenePanel::refreshSource);
  connect(&document, &Document::caseStateChanged, this, [this] { refreshCaption(); });
  connect(&document, &Document::instantMoved, this, &ScenePanel::showInstant);
  connect(&document, &Document::comparedCaseChanged, this, [this] {
    if (colorBy() == Shown::Difference || !beside_->isHidden())
      changeField();
  });
  connect(&document, &Document::caseStateChanged, this, [this](const std::string& id) {
    if ((colorBy() == Shown::Difference || !beside_->isHidden()) && document_.comparedChoice().is(id))
      changeField();
  });
  connect(&document, &Document::selectionChanged, this, &ScenePanel::showSelection);
  connect(&preferences, &Preferences::unitChanged, this, [this] {
    legend_->setTemperatureUnit(preferences_.temperatureUnit());
    refreshFlags();
  });
  legend_->setTemperatureUnit(preferences.temperatureUnit());
  makeLook();
  applyTheme();
  refreshSource();
}

ScenePanel::~ScenePanel() = default;

QWidget* ScenePanel::makeTools()
{
  auto* tools = new QWidget;
  tools->setObjectName("sceneTools");
  tools->setAttribute(Qt::WA_StyledBackground);
  auto* row = new QHBoxLayout(tools);
  row->setContentsMargins(4, 3, 4, 3);
  row->setSpacing(0);
  const auto button = [&](const QString& iconName, const QString& tip, const char* name, auto&& action) {
    auto* tool = new QToolButton;
    tool->setToolTip(tip);
    setIcon(*tool, iconName);
    tool->setObjectName(name);
    connect(tool, &QToolButton::clicked, this, action);
    row->addWidget(tool);
    return tool;
  };
  button("zoom-fit-best", tr("Show the whole model (Ctrl+0)"), "viewFit", [this] { canvas_->fit(); });
  button("draw-cuboid", tr("Look from the front corner (Ctrl+Alt+0)"), "viewCorner",
         [this] { canvas_->lookFromCorner(); });
  auto* sides = new QToolButton;
  sides->setToolTip(tr("Look straight at a side (Ctrl+Alt+1 … 6); the ends of the axes in the scene do so too"));
  sides->setObjectName("viewSides");
  setIcon(*sides, "view-multiple-objects");
  addSides(*sides);
  row->addWidget(sides);
  lookTool_ =
      button("color-management", tr("Picture: palette, lines, levels, heat flux, mesh, cuts and views (Ctrl+L)"),
             "lookTool", [this] { toggleLook(); });
  lookTool_->setCheckable(true);
  move_ = button("transform-move", tr("Arrows on the selected part that move it"), "moveTool",
                 [this] { overlay_->setHandles(move_->isChecked() ? handles_ : nullptr); });
  move_->setAccessibleName(move_->toolTip());
  move_->setCheckable(true);
  move_->setChecked(true);
  addDrawing(*row);
  const auto compareButton = [&](const QString& iconName, const QString& tip, const char* name, Compare how) {
    QToolButton* tool = button(iconName, tip, name, [this, how] { compare(how_ == how ? Compare::Alone : how); });
    tool->setAccessibleName(tip);
    tool->setCheckable(true);
    return tool;
  };
  besideTool_ = compareButton("view-split-left-right",
                              tr("The compared case beside the shown one (Ctrl+B); choose it on What differs"),
                              "besideTool", Compare::Beside);
  wipeTool_ =
      compareButton("view-split-effect", tr("The compared case behind a line across the shown one (Ctrl+Alt+B)"),
                    "wipeTool", Compare::Wipe);
  row->addStretch();

  sectionAxis_->addItems({tr("Closed"), tr("Cut in x"), tr("Cut in y"), tr("Cut in z"), tr("Own cuts")});
  sectionAxis_->setObjectName("sectionAxis");
  sectionAxis_->setAccessibleName(tr("Section plane"));
  sectionAt_->setRange(0, sliderSteps);
  sectionAt_->setValue(sliderSteps / 2);
  sectionAt_->setObjectName("sectionAt");
  sectionAt_->setAccessibleName(tr("Place of the section plane"));
  sectionAt_->setFixedWidth(64);
  sectionAt_->setVisible(false);
  const auto apply = [this] {
    if (sectionAxis_->currentIndex() == ownCuts)
      return takeOwnCuts();
    setSection(sectionAxis_->currentIndex() - 1, sectionAt_->value() / double(sliderSteps));
  };
  connect(sectionAxis_, &QComboBox::activated, this, apply);
  connect(sectionAt_, &QSlider::valueChanged, this, apply);
  row->addWidget(sectionAxis_);
  row->addWidget(sectionAt_);

  colorBy_->addItems(shownNames());
  colorBy_->setObjectName("colorBy");
  colorBy_->setAccessibleName(tr("Colour by"));
  connect(colorBy_, &QComboBox::activated, this, &ScenePanel::changeField);
  row->addWidget(colorBy_);
  for (QComboBox* box : {sectionAxis_, colorBy_}) { // as wide as their words where there is room
    box->setMaximumWidth(box->sizeHint().width());
    row->setStretchFactor(box, box == colorBy_ ? 4 : 3); // as “Temperature” is to “Own cuts”
    box->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
    box->setMinimumContentsLength(3);
    box->setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Fixed);
  }
  return tools;
}

void ScenePanel::applyTheme()
{
  for (SceneCanvas* canvas : {canvas_, &beside_->canvas()})
    canvas->setBackground(theme().scene, theme().sceneLine);
  canvas_->extras().setInk(QColor(24, 22, 26), QColor(64, 196, 208));
}

void ScenePanel::placeOverlays()
{
  overlay_->resize(canvas_->size());
  if (how_ == Compare::Wipe) {
    wipeLine_->place();
    beside_->wipe(wipeLine_);
  }
  constexpr int margin = 10;
  legendRoom_->setFixedWidth(legend_->width() + 2 * margin);
  QWidget* room = legendRoom_->isHidden() ? static_cast<QWidget*>(canvas_) : legendRoom_;
  if (legend_->parentWidget() != room) {
    const bool shown = !legend_->isHidden();
    legend_->setParent(room);
    legend_->setVisible(shown);
  }
  constexpr int beside = 20;
  overlay_->setRightMargin(room == canvas_ && !legend_->isHidden() ? legend_->width() + beside : beside / 2);
  // Always as much, however wide its numbers are: nothing moves while they change. Beside another view, both are alike.
  constexpr int legendRoomUsually = 112;
  coveredRight_ = room == canvas_ && how_ == Compare::Alone && !legend_->isHidden() ? legendRoomUsually : 0;
  placeLook();
  const int legendHeight = std::clamp(canvas_->height() - 60, 120, 380);
  legend_->setGeometry(room->width() - legend_->width() - margin, 44, legend_->width(), legendHeight);
}

QString ScenePanel::partName(PartId part) const
{
  const auto& parts = canvas_->model().source().mesh->geometry.parts;
  const GeometryPart& own = parts[static_cast<std::size_t>(part)];
  const Part* named = findById(document_.project().parts, own.id);
  return QString::fromStdString(named != nullptr ? named->name : own.name);
}

/// The axis of a turned section, a little longer than the model.
static std::optional<std::pair<Vec3, Vec3>> axisOf(const FaceTable& geometry)
{
  if (!geometry.section.turned || geometry.parts.empty())
    return std::nullopt;
  double low = geometry.parts.front().low.z();
  double high = geometry.parts.front().high.z();
  for (const GeometryPart& part : geometry.parts) {
    low = std::min(low, part.low.z());
    high = std::max(high, part.high.z());
  }
  constexpr double beyond = 0.05; // of the height
  const double more = beyond * (high - low);
  const Vec3 foot = geometry.section.flat(Vec3(geometry.section.axis, 0, 0));
  return std::pair(Vec3(foot.x(), foot.y(), low - more), Vec3(foot.x(), foot.y(), high + more));
}

void ScenePanel::refreshSource()
{
  const std::shared_ptr<const Mesh> mesh = document_.shownMesh();
  const std::shared_ptr<const CaseResult> result = document_.shownState().result;
  SceneModel::Source source;
  source.mesh = mesh;
  if (mesh && result && mesh.get() == &result->mesh) {
    source.unknowns = {result, &result->unknowns};
    source.temperature = document_.shownFigures()->temperature;
    source.field = coloring_.field(colorBy(), look_);
  } else if (const SceneModel::Source& drawn = canvas_->model().source(); mesh && mesh == drawn.mesh) {
    source.unknowns = drawn.unknowns; // whatever they are: there is nothing to be coloured by them
  } else if (mesh) {
    source.unknowns =
        std::make_shared<Unknowns>(numberUnknowns(*mesh, std::vector<bool>(mesh->geometry.faces.size(), false)));
  }
  // Over temperatures the arrows would hide hot spots; they come back with the button.
  if (source.temperature && !canvas_->model().source().temperature) {
    move_->setChecked(false);
    overlay_->setHandles(nullptr);
  }
  const SceneModel::Source& drawn = canvas_->model().source();
  const bool sameMesh = source.mesh == drawn.mesh;
  const bool same = sameMesh && source.temperature == drawn.temperature;
  overlay_->setPointer(std::nullopt);
  if (sameMesh && !same && source.temperature && drawn.temperature) {
    canvas_->setTemperature(source.temperature, source.field);
  } else if (!same) {
    canvas_->setSource(std::move(source));
    overlay_->setAxis(mesh ? axisOf(mesh->geometry) : std::nullopt);
    refreshLooks();
    if (const int axis = sectionAxis_->currentIndex(); axis > 0 && axis < ownCuts)
      setSection(axis - 1, sectionAt_->value() / double(sliderSteps)); // the extent may differ
    else
      takeCuts();
    takeApart();
    const auto [low, high] = canvas_->model().bounds();
    cutList_->refresh(low, high);
    cutList_->setVisible(!canvas_->isFlat()); // a section model is a cut already
    lookPanel_->setFlat(canvas_->isFlat());
  }
  refreshColors();
  refreshFlags();
  refreshCaption();
  showSelection();
}

/// Only the colours follow a moving playhead; flags and figures wait until it rests.
void ScenePanel::showInstant()
{
  const auto temperature = document_.shownTemperature();
  const auto result = document_.shownState().result;
  if (!temperature || !result || canvas_->model().source().mesh.get() != &result->mesh)
    return;
  canvas_->setTemperature(temperature, coloring_.field(colorBy(), look_));
  overlay_->setFlags({});
  refreshColors();
}

void ScenePanel::refreshLooks()
{
  const auto mesh = canvas_->model().source().mesh;
  if (!mesh)
    return;
  std::vector<PartLook> looks;
  for (const GeometryPart& part : mesh->geometry.parts) {
    const auto found = looks_.find(part.id);
    looks.push_back(found != looks_.end() ? found->second : PartLook::Shown);
  }
  if (looks != canvas_->looks())
    canvas_->setLooks(std::move(looks));
}

void ScenePanel::refreshColors()
{
  const Shown by = colorBy();
  const auto mesh = canvas_->model().source().mesh;
  const bool solved = canvas_->model().source().temperature != nullptr;
  SceneColoring::Key key;
  Coloring colors = coloring_.coloring(by, mesh.get(), solved, key, look_);
  look_.shown = by;
  const std::vector<double>& each = colors.tetValue.empty() ? colors.faceValue : colors.tetValue;
  auto drawn = each.empty() ? canvas_->drawnRange() : rangeOf(each);
  refreshBeside();
  if (const auto beside = !beside_->isHidden() && by != Shown::Difference ? beside_->range() : std::nullopt;
      beside && drawn) // one scale for both
    drawn = std::pair(std::min(drawn->first, beside->first), std::max(drawn->second, beside->second));
  std::tie(colors.low, colors.high) = legend_->isPinned() || !drawn ? pinnedRange_ : *drawn;
  if (isAboutZero(by) && !legend_->isPinned()) { // zero is in the middle
    const double most = std::max({std::abs(colors.low), std::abs(colors.high), 1e-6});
    colors.low = -most;
    colors.high = most;
  }
  colors.palette = isAboutZero(by) && look_.palette == Palette::Glow ? Palette::Split : look_.palette;
  colors.steps = look_.steps ? static_cast<int>(std::lround(look_.steps->si)) : 0;
  colors.logarithmic = look_.logarithmic && colors.low > 0;
  overlay_->setKey(std::move(key));
  legend_->setVisible(quantityOf(by) && (by == Shown::Difference ? colors.byValue : solved || !each.empty()));
  legend_->setColoring(colors);
  legend_->setDigits(look_.digits ? static_cast<int>(std::lround(look_.digits->si)) : 0);
  legend_->setQuantity(quantityOf(by).value_or(Quantity::Temperature));
  legend_->setRange(colors.low, colors.high);
  placeOverlays(); // the scale is as wide as its numbers
  std::vector<std::pair<double, QString>> limits;
  for (const Watch& watch : document_.shownProject().watches)
    if (by == Shown::Temperature && quantityOf(watch) == Quantity::Temperature)
      for (const auto& limit : {watch.upper, watch.lower})
        if (limit)
          limits.emplace_back(limit->si, QString::fromStdString(watch.name));
  legend_->setLimits(std::move(limits));
  canvas_->setColoring(colors);
  if (!beside_->isHidden())
    beside_->refreshColors(colors, by == Shown::Difference);
  refreshCaption();
  coloringNow_ = std::move(colors);
  refreshLook();
}

void ScenePanel::refreshBeside()
{
  if (!beside_->isHidden())
    beside_->refreshSource(colorBy(), looks_);
}

void ScenePanel::compare(Compare how)
{
  how_ = how;
  besideTool_->setChecked(how == Compare::Beside);
  wipeTool_->setChecked(how == Compare::Wipe);
  if (how == Compare::Wipe)
    beside_->setParent(canvas_);
  else if (beside_->parentWidget() != both_)
    both_->addWidget(beside_);
  beside_->setVisible(how != Compare::Alone);
  wipeLine_->setVisible(how == Compare::Wipe);
  legendRoom_->setVisible(how != Compare::Alone);
  beside_->wipe(how == Compare::Wipe ? wipeLine_ : nullptr);
  placeOverlays();
  if (how == Compare::Beside)
    both_->setSizes({width() / 2, width() / 2});
  if (how != Compare::Alone)
    beside_->canvas().setBackground(theme().scene, theme().sceneLine);
  refreshColors();
  emit compareChanged();
  QTimer::singleShot(0, canvas_, &SceneCanvas::fit); // its shape is another then
}

Shown ScenePanel::colorBy() const { return static_cast<Shown>(colorBy_->currentIndex()); }

/// Another field is drawn: the same shapes with other values.
void ScenePanel::changeField()
{
  legend_->setPinned(false);
  if (quantityOf(colorBy()) != quantityOf(look_.shown)) // the level was of something else
    look_.level.reset();
  const auto& source = canvas_->model().source();
  if (source.temperature)
    canvas_->setTemperature(source.temperature, coloring_.field(colorBy(), look_));
  refreshColors();
  refreshFlags();
}

void ScenePanel::showSelection()
{
  canvas_->setHighlight(document_.litFaces(), document_.litParts());
  showSides();
}

void ScenePanel::setPartLook(const std::string& partId, PartLook look)
{
  looks_[partId] = look;
  refreshLooks();
  refreshColors();
}

void ScenePanel::showAllParts()
{
  looks_.clear();
  refreshLooks();
  refreshColors();
}

void ScenePanel::isolateSelected()
{
  if (document_.litParts().empty() || canvas_->model().empty())
    return;
  const auto& parts = canvas_->model().source().mesh->geometry.parts;
  for (std::size_t p = 0; p < parts.size(); ++p)
    looks_[parts[p].id] = document_.litParts().contains(PartId(p)) ? PartLook::Shown : PartLook::Hidden;
  refreshLooks();
  refreshColors();
}

void ScenePanel::setColorBy(int index)
{
  colorBy_->setCurrentIndex(index);
  changeField();
}

void ScenePanel::pointAt(const Vec3& place, const QString& text)
{
  overlay_->setPointer(Flag{place, text, true, false});
}

} // namespace kiln
