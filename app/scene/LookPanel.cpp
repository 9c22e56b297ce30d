// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "scene/LookPanel.h"

#include "fields/FormRows.h"
#include "fields/QuantityField.h"
#include "look/Icons.h"
#include "look/Language.h"

#include <QCheckBox>
#include <QComboBox>
#include <QFormLayout>
#include <QLabel>
#include <QPushButton>
#include <QSignalBlocker>
#include <QSlider>
#include <QSpinBox>
#include <QToolButton>
#include <QVBoxLayout>
#include <algorithm>
#include <cmath>

namespace kiln
{
namespace
{

constexpr int sliderSteps = 500;
constexpr int usualDensity = 25; // of arrows and streamlines, 1 … 100

template <std::size_t N>
void fill(QComboBox& box, const KindSpecs<N>& kinds)
{
  for (const KindSpec& kind : kinds) {
    box.addItem(inWords(kind.label));
    box.setItemData(box.count() - 1, inWords(kind.help), Qt::ToolTipRole);
  }
}

std::optional<Number> count(int value) { return value > 0 ? std::optional(Number{double(value), {}}) : std::nullopt; }
int countOf(const std::optional<Number>& number) { return number ? static_cast<int>(std::lround(number->si)) : 0; }

template <class Box>
Box* named(Box* box, const char* name, const QString& label)
{
  box->setObjectName(name);
  box->setAccessibleName(label);
  return box;
}

} // namespace

LookPanel::LookPanel(View& look, QWidget* parent) : QScrollArea(parent), look_(look), rows_(new QVBoxLayout)
{
  setObjectName("lookPanel");
  setFrameShape(QFrame::NoFrame);
  setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
  setWidgetResizable(true);
  auto* inner = new QWidget;
  inner->setObjectName("panel");
  inner->setAttribute(Qt::WA_StyledBackground);
  inner->setLayout(rows_);
  rows_->setContentsMargins(10, 8, 10, 8);
  rows_->setSpacing(6);
  auto* head = new QHBoxLayout;
  auto* title = new QLabel(tr("<b>Picture</b>"));
  head->addWidget(title, 1);
  auto* close = named(new QToolButton, "lookClose", tr("Close"));
  setIcon(*close, "arrow-left");
  close->setToolTip(tr("Close (Ctrl+L)"));
  connect(close, &QToolButton::clicked, this, &LookPanel::closeWanted);
  head->addWidget(close);
  rows_->addLayout(head);
  addColors();
  addLines();
  addLevel();
  addFlux();
  addRest();
  rows_->addStretch();
  setWidget(inner);
  refresh();
}

QFormLayout* LookPanel::addForm(const QString& title)
{
  auto* label = quietLabel(title);
  rows_->addWidget(label);
  auto* form = new QFormLayout;
  form->setContentsMargins(6, 0, 0, 4);
  form->setSpacing(4);
  form->setFieldGrowthPolicy(QFormLayout::AllNonFixedFieldsGrow);
  rows_->addLayout(form);
  return form;
}

void LookPanel::addSection(QWidget* section) { rows_->insertWidget(rows_->count() - 1, section); }

QCheckBox* LookPanel::addFlag(QFormLayout& form, bool View::*flag, const char* name, const QString& label,
                              const QString& tip)
{
  auto* box = named(new QCheckBox(label), name, label);
  box->setToolTip(tip);
  form.addRow(box);
  flags_.emplace_back(box, flag);
  connect(box, &QCheckBox::clicked, this, [this, flag](bool on) {
    look_.*flag = on;
    emit changed();
  });
  return box;
}

/// A slider of per cent; at its usual place nothing is kept.
QSlider* LookPanel::addShare(QFormLayout& form, std::optional<Number> View::*share, const char* name,
                             const QString& label, int usually, void (LookPanel::*told)())
{
  auto* slider = named(new QSlider(Qt::Horizontal), name, label);
  slider->setRange(0, 100);
  form.addRow(label, slider);
  shares_.push_back({slider, share, usually});
  connect(slider, &QSlider::valueChanged, this, [this, share, usually, told](int value) {
    if (filling_)
      return;
    look_.*share = value == usually ? std::nullopt : std::optional(Number{value / 100.0, {}});
    emit(this->*told)();
  });
  return slider;
}

void LookPanel::addColors()
{
  QFormLayout* form = addForm(tr("COLOURS"));
  palette_ = named(new QComboBox, "lookPalette", tr("Palette"));
  fill(*palette_, describing::palettes);
  steps_ = named(new QSpinBox, "lookSteps", tr("Steps"));
  steps_->setRange(0, 24);
  steps_->setSpecialValueText(tr("smooth"));
  digits_ = named(new QSpinBox, "lookDigits", tr("Digits"));
  digits_->setRange(0, 7);
  digits_->setSpecialValueText(tr("as they differ"));
  form->addRow(tr("Palette"), palette_);
  form->addRow(tr("Steps"), steps_);
  form->addRow(tr("Digits"), digits_);
  addFlag(*form, &View::logarithmic, "lookLogarithmic", tr("Logarithmic"),
          tr("Equal ratios take equal room; where all values are positive"));
  addFlag(*form, &View::materialAxes, "lookMaterialAxes", tr("Along material axes"),
          tr("Heat flux along x, y and z is along those of each part's material"));
  connect(palette_, &QComboBox::activated, this, [this](int i) {
    look_.palette = static_cast<Palette>(i);
    emit changed();
  });
  connect(steps_, &QSpinBox::valueChanged, this, [this](int value) {
    look_.steps = count(value == 1 ? 2 : value);
    if (!filling_)
      emit changed();
  });
  connect(digits_, &QSpinBox::valueChanged, this, [this](int value) {
    look_.digits = count(value);
    if (!filling_)
      emit changed();
  });
}

void LookPanel::addLines()
{
  QFormLayout* form = addForm(tr("LINES OF EQUAL VALUE"));
  lines_ = named(new QSpinBox, "lookLines", tr("How many lines of equal value"));
  lines_->setRange(0, 50);
  lines_->setSpecialValueText(tr("none"));
  lines_->setToolTip(tr("About so many, at round values"));
  form->addRow(tr("About"), lines_);
  connect(lines_, &QSpinBox::valueChanged, this, [this](int value) {
    look_.lines = count(value);
    if (!filling_)
      emit changed();
  });
}

void LookPanel::addLevel()
{
  QFormLayout* form = addForm(tr("LEVEL"));
  withLevel_ = named(new QCheckBox(tr("Show where the value is")), "lookLevelOn", tr("Show a level"));
  form->addRow(withLevel_);
  levelAt_ = named(new QuantityField(Quantity::Temperature, Range::Any), "lookLevelAt", tr("Value of the level"));
  level_ = named(new QSlider(Qt::Horizontal), "lookLevel", tr("Level"));
  level_->setRange(0, sliderSteps);
  form->addRow(levelAt_);
  form->addRow(level_);
  levelLook_ = named(new QComboBox, "lookLevelLook", tr("What is drawn of the level"));
  fill(*levelLook_, describing::levelLooks);
  form->addRow(levelLook_);
  levelWords_ = named(new QLabel, "lookLevelWords", tr("What the level is"));
  levelWords_->setWordWrap(true);
  levelWords_->setTextInteractionFlags(Qt::TextSelectableByMouse);
  form->addRow(levelWords_);
  watch_ = named(new QPushButton(tr("+ Watch the volume above")), "lookWatch", tr("Watch the volume above the level"));
  form->addRow(watch_);
  connect(watch_, &QPushButton::clicked, this, &LookPanel::watchWanted);
  connect(withLevel_, &QCheckBox::clicked, this, [this](bool on) {
    if (on && span_)
      look_.level = Number{(span_->first + span_->second) / 2, {}};
    else
      look_.level.reset();
    showLevel();
    emit levelChanged();
  });
  connect(levelAt_, &QuantityField::committed, this, [this](const Number& number) {
    look_.level = number;
    showLevel();
    emit levelChanged();
  });
  connect(level_, &QSlider::valueChanged, this, &LookPanel::takeSlider);
  connect(levelLook_, &QComboBox::activated, this, [this](int i) {
    look_.levelLook = static_cast<LevelLook>(i);
    emit levelChanged();
  });
}

void LookPanel::addFlux()
{
  QFormLayout* form = addForm(tr("HEAT FLUX"));
  flux_ = named(new QComboBox, "lookFlux", tr("Heat flux"));
  fill(*flux_, describing::fluxLooks);
  form->addRow(flux_);
  density_ = named(new QSlider(Qt::Horizontal), "lookDensity", tr("How many"));
  density_->setRange(1, 100);
  form->addRow(tr("How many"), density_);
  addFlag(*form, &View::sameLength, "lookSameLength", tr("Arrows of one length"),
          tr("Their colour says how large the flux is; else their length"));
  addFlag(*form, &View::raw, "lookRaw", tr("Flux of each element by itself"),
          tr("For arrows, streamlines and components; else it is recovered at the nodes"));
  connect(flux_, &QComboBox::activated, this, [this](int i) {
    look_.flux = static_cast<FluxLook>(i);
    emit changed();
  });
  connect(density_, &QSlider::valueChanged, this, [this](int value) {
    if (filling_)
      return;
    look_.density = value == usualDensity ? std::nullopt : std::optional(Number{double(value), {}});
    emit changed();
  });
}

void LookPanel::addRest()
{
  QFormLayout* form = addForm(tr("MESH AND PARTS"));
  rest_ = form;
  addFlag(*form, &View::elementLines, "lookElements", tr("Lines of the mesh"), tr("On the skin and on cuts"));
  constexpr int usuallyClear = 86; // %
  addShare(*form, &View::clear, "lookClear", tr("See-through parts"), usuallyClear, &LookPanel::changed)
      ->setToolTip(tr("How clear parts are that one sees through (Ctrl+T on a selected part)"));
  height_ = addShare(*form, &View::height, "lookHeight", tr("Value as height"), 0, &LookPanel::heightChanged);
  height_->setToolTip(tr("Stands the values up over the section, as high as they are"));
  apart_ = named(new QSlider(Qt::Horizontal), "lookApart", tr("How far parts are pulled apart"));
  apart_->setRange(0, 100);
  apartAlong_ = named(new QComboBox, "lookApartAlong", tr("Axis along which they are pulled apart"));
  fill(*apartAlong_, describing::axes);
  auto* row = new QHBoxLayout;
  row->addWidget(apart_, 1);
  row->addWidget(apartAlong_);
  form->addRow(tr("Pull apart"), row);
  connect(apart_, &QSlider::valueChanged, this, [this](int value) {
    if (filling_)
      return;
    look_.apart = value > 0 ? std::optional(Number{value / 100.0, {}}) : std::nullopt;
    emit apartChanged();
  });
  connect(apartAlong_, &QComboBox::activated, this, [this](int i) {
    look_.apartAlong = static_cast<Axis>(i);
    emit apartChanged();
  });
}

void LookPanel::takeSlider()
{
  if (filling_ || !span_)
    return;
  look_.level = Number{span_->first + level_->value() / double(sliderSteps) * (span_->second - span_->first), {}};
  showLevel();
  emit levelChanged();
}

void LookPanel::setLevelSpan(std::optional<std::pair<double, double>> span, TemperatureUnit unit)
{
  span_ = span;
  levelAt_->setTemperatureUnit(unit);
  showLevel();
}

void LookPanel::showLevel()
{
  const bool was = std::exchange(filling_, true);
  const auto quantity = quantityOf(look_.shown);
  const bool on = look_.level && quantity && span_;
  withLevel_->setEnabled(quantity && span_);
  withLevel_->setChecked(on);
  levelAt_->setQuantity(quantity.value_or(Quantity::Temperature));
  std::optional<Number> shown = look_.level;
  if (shown && shown->text.empty())
    shown->text = formatQuantity(shown->si, quantity.value_or(Quantity::Temperature), {}, 4);
  if (!levelAt_->hasFocus() || !levelAt_->isModified()) // what is being typed stays
    levelAt_->setNumber(on ? shown : std::nullopt);
  if (on && span_->second > span_->first)
    level_->setValue(
        static_cast<int>(std::lround((look_.level->si - span_->first) / (span_->second - span_->first) * sliderSteps)));
  for (QWidget* one : {static_cast<QWidget*>(levelAt_), static_cast<QWidget*>(level_),
                       static_cast<QWidget*>(levelLook_), static_cast<QWidget*>(levelWords_)})
    one->setVisible(on);
  watch_->setVisible(on && quantity == Quantity::Temperature);
  filling_ = was;
}

void LookPanel::setLevelWords(const QString& words) { levelWords_->setText(words); }

void LookPanel::refresh()
{
  filling_ = true;
  palette_->setCurrentIndex(static_cast<int>(look_.palette));
  steps_->setValue(countOf(look_.steps));
  digits_->setValue(countOf(look_.digits));
  for (const auto& [box, flag] : flags_)
    box->setChecked(look_.*flag);
  for (const Share& share : shares_)
    share.slider->setValue(look_.*share.of ? static_cast<int>(std::lround(100 * (look_.*share.of)->si))
                                           : share.usually);
  density_->setValue(look_.density ? countOf(look_.density) : usualDensity);
  lines_->setValue(countOf(look_.lines));
  levelLook_->setCurrentIndex(static_cast<int>(look_.levelLook));
  flux_->setCurrentIndex(static_cast<int>(look_.flux));
  apart_->setValue(look_.apart ? static_cast<int>(std::lround(100 * look_.apart->si)) : 0);
  apartAlong_->setCurrentIndex(static_cast<int>(look_.apartAlong));
  filling_ = false;
  showLevel();
}

void LookPanel::setFlat(bool flat)
{
  for (QWidget* one : {static_cast<QWidget*>(height_), rest_->labelForField(height_)})
    one->setVisible(flat);
}

void LookPanel::resizeEvent(QResizeEvent* event)
{
  QScrollArea::resizeEvent(event);
  widget()->setMaximumWidth(viewport()->width());
}

} // namespace kiln
