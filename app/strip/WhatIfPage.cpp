// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "strip/WhatIfPage.h"

#include "fields/FormRows.h"
#include "look/Language.h"
#include "questions/AskedValues.h"

#include <QCheckBox>
#include <QComboBox>
#include <QCompleter>
#include <QGridLayout>
#include <QHBoxLayout>
#include <QLabel>
#include <QLineEdit>
#include <QScrollArea>
#include <QSlider>
#include <QVBoxLayout>
#include <algorithm>
#include <cmath>

namespace kiln
{
namespace
{

constexpr int sliderSteps = 400;

QString words(const std::string& text) { return QString::fromStdString(text); }

bool isDraggable(const Project& project, const Field& field)
{
  const Parameter* parameter = findById(project.parameters, field.objectId);
  if (parameter != nullptr && (parameter->schedule || !parameter->points.empty()))
    return false; // its value is one of many
  return field.kind == Field::Kind::Number && field.value() != nullptr && field.table() == nullptr &&
         !field.value()->formula && !field.label.empty();
}

/// About what is set: half to one and a half of it; of a temperature, some kelvin around.
std::pair<double, double> endsOf(const Project& project, const Field& field)
{
  const double set = field.value()->si;
  if (const Parameter* parameter = findById(project.parameters, field.objectId))
    if (parameter->low && parameter->high)
      return {parameter->low->si, parameter->high->si};
  constexpr double around = 40; // K
  if (field.quantity == Quantity::Temperature)
    return {std::max(1.0, set - around), set + around};
  return set != 0 ? std::pair(std::min(0.5 * set, 1.5 * set), std::max(0.5 * set, 1.5 * set)) : std::pair(0.0, 1.0);
}

} // namespace

WhatIfPage::WhatIfPage(Document& document, Preferences& preferences, SolverQueue& solver, QWidget* parent)
    : QWidget(parent), document_(document), preferences_(preferences), solver_(solver), run_(document),
      body_(new QWidget), more_(new QComboBox), solve_(new QCheckBox(tr("solve when let go"))), said_(quietLabel({}))
{
  setObjectName("whatIfPage");
  auto* layout = new QVBoxLayout(this);
  layout->setContentsMargins(8, 2, 6, 4);
  layout->setSpacing(3);
  auto* head = new QHBoxLayout;
  more_->setObjectName("whatIfMore");
  more_->setAccessibleName(tr("Add a slider"));
  more_->setEditable(true);
  more_->setInsertPolicy(QComboBox::NoInsert);
  more_->setMaximumWidth(fontMetrics().averageCharWidth() * 44);
  more_->lineEdit()->setPlaceholderText(tr("add a slider: type a word of its name"));
  head->addWidget(more_);
  solve_->setObjectName("whatIfSolve");
  solve_->setChecked(true);
  head->addWidget(solve_);
  said_->setObjectName("whatIfSaid");
  said_->setWordWrap(false);
  said_->setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Preferred);
  head->addWidget(said_, 1);
  layout->addLayout(head);
  auto* scroll = new QScrollArea;
  scroll->setWidgetResizable(true);
  scroll->setFrameShape(QFrame::NoFrame);
  auto* inside = new QVBoxLayout(body_);
  inside->setContentsMargins(0, 0, 0, 0);
  scroll->setWidget(body_);
  body_->setAutoFillBackground(false);
  scroll->viewport()->setAutoFillBackground(false);
  layout->addWidget(scroll, 1);
  connect(more_, &QComboBox::activated, this, [this](int index) {
    added_.push_back(more_->itemData(index).toString().toStdString());
    rebuild();
  });
  connect(&document, &Document::projectChanged, this, &WhatIfPage::refresh);
  connect(&document, &Document::shownCaseChanged, this, &WhatIfPage::refresh);
  connect(&preferences, &Preferences::unitChanged, this, &WhatIfPage::refresh);
  connect(&run_, &WhatIfRun::followed, this, [this](double milliseconds) {
    say(tr("%1, %2 ms").arg(document_.estimateWords()).arg(milliseconds, 0, 'f', 0));
  });
  connect(&run_, &WhatIfRun::refused, this, &WhatIfPage::say);
}

void WhatIfPage::showEvent(QShowEvent* event)
{
  QWidget::showEvent(event);
  rebuild();
}

void WhatIfPage::say(const QString& sentence)
{
  said_->setText(sentence);
  said_->setToolTip(sentence);
}

/// Parameters and powers, then what was added.
std::vector<std::string> WhatIfPage::wanted() const
{
  std::vector<std::string> paths;
  Project seen = document_.shownProject();
  for (const Field& field : fields(seen)) {
    const bool power = findById(seen.sources, field.objectId) != nullptr && field.quantity == Quantity::Power;
    if (isDraggable(seen, field) &&
        ((findById(seen.parameters, field.objectId) != nullptr && field.key == "value") || power))
      paths.push_back(field.path);
  }
  for (const std::string& path : added_)
    if (std::find(paths.begin(), paths.end(), path) == paths.end())
      paths.push_back(path);
  return paths;
}

void WhatIfPage::refresh()
{
  if (isVisible() && dragged_.empty())
    rebuild();
}

void WhatIfPage::rebuild()
{
  for (QWidget* before : body_->findChildren<QWidget*>(QString(), Qt::FindDirectChildrenOnly)) {
    before->hide();
    before->setObjectName({});
    before->deleteLater(); // it may be the one that is telling
  }
  delete grid_;
  grid_ = new QGridLayout;
  grid_->setColumnStretch(1, 1);
  static_cast<QVBoxLayout*>(body_->layout())->insertLayout(0, grid_);
  rows_.clear();
  Project seen = document_.shownProject();
  const std::vector<Field> all = fields(seen);
  for (const std::string& path : wanted())
    if (const Field* field = fieldAt(all, path); field != nullptr && isDraggable(seen, *field))
      addRow(static_cast<int>(rows_.size()), *field);
  grid_->setRowStretch(static_cast<int>(rows_.size()), 1);
  more_->clear();
  for (const Field& field : all)
    if (isDraggable(seen, field) && field.stage != Stage::Nothing && field.stage != Stage::Figures)
      more_->addItem(inWords(field.objectName) + ", " + inWords(field.label), words(field.path));
  more_->completer()->setFilterMode(Qt::MatchContains);
  more_->completer()->setCompletionMode(QCompleter::PopupCompletion);
  more_->setCurrentIndex(-1);
  if (rows_.empty())
    say(tr("Nothing to drag yet: add a slider for a number of the model."));
}

void WhatIfPage::addRow(int at, const Field& field)
{
  Row row;
  row.path = field.path;
  row.quantity = field.quantity;
  std::tie(row.low, row.high) = endsOf(document_.shownProject(), field);
  const double set = field.value()->si;
  auto* name = new QLabel(inWords(shortLabel(document_.shownProject(), field)));
  name->setMaximumWidth(fontMetrics().averageCharWidth() * 40);
  row.slider = new QSlider(Qt::Horizontal);
  row.slider->setObjectName("whatIf:" + words(field.path));
  row.slider->setAccessibleName(tr("What if %1 were").arg(name->text()));
  row.slider->setRange(0, sliderSteps);
  row.slider->setValue(static_cast<int>(std::lround((set - row.low) / (row.high - row.low) * sliderSteps)));
  row.value = new QLabel(words(formatQuantity(set, field.quantity, preferences_.temperatureUnit())));
  row.value->setMinimumWidth(fontMetrics().averageCharWidth() * 12);
  grid_->addWidget(name, at, 0);
  grid_->addWidget(row.slider, at, 1);
  grid_->addWidget(row.value, at, 2);
  rows_.push_back(row);
  connect(row.slider, &QSlider::valueChanged, this, [this, row] { // by the mouse or by keys
    drag(row);
    if (!row.slider->isSliderDown())
      letGo(row);
  });
  connect(row.slider, &QSlider::sliderReleased, this, [this, row] { letGo(row); });
}

double WhatIfPage::valueOf(const Row& row) const
{
  return row.low + (row.high - row.low) * row.slider->value() / sliderSteps;
}

void WhatIfPage::drag(const Row& row)
{
  dragged_[row.path] = valueOf(row);
  row.value->setText(words(formatQuantity(valueOf(row), row.quantity, preferences_.temperatureUnit())));
  run_.tryValues(dragged_);
}

/// Its value is set, as it reads; the estimate stays on the screen until the solved state takes its place.
void WhatIfPage::letGo(const Row& row)
{
  if (!dragged_.contains(row.path))
    return;
  constexpr int digits = 4;
  const std::string text = formatQuantity(valueOf(row), row.quantity, TemperatureUnit::Celsius, digits);
  const auto read = parseQuantity(text, row.quantity);
  const std::string path = row.path;
  dragged_.clear();
  document_.setNumber(path, {read ? read->si : valueOf(row), text, false});
  run_.showAgain();
  if (solve_->isChecked())
    solver_.solve({document_.shownCase()});
}

} // namespace kiln
