// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "scene/BesideCanvas.h"

#include "scene/SceneExtras.h"
#include "scene/WipeLine.h"

#include <QHBoxLayout>
#include <QLabel>
#include <QToolButton>
#include <QVBoxLayout>
#include <algorithm>

namespace kiln
{

BesideCanvas::BesideCanvas(Document& document, SceneCanvas& main, QWidget* parent)
    : QWidget(parent), document_(document), main_(main), canvas_(new SceneCanvas), caption_(new QLabel),
      tied_(new QToolButton)
{
  setObjectName("beside");
  auto* layout = new QVBoxLayout(this);
  layout->setContentsMargins(0, 0, 0, 0);
  layout->setSpacing(0);
  auto* head = new QHBoxLayout;
  head->setContentsMargins(8, 2, 4, 2);
  caption_->setObjectName("besideCaption");
  caption_->setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Preferred);
  head->addWidget(caption_, 1);
  tied_->setText(tr("One camera"));
  tied_->setToolTip(tr("Both look from the same place; off: each by itself"));
  tied_->setObjectName("besideTied");
  tied_->setCheckable(true);
  tied_->setChecked(true);
  head->addWidget(tied_);
  layout->addWidget(canvas_);
  auto* above = new QVBoxLayout(canvas_); // both views are as high, so that one camera gives one size
  above->setContentsMargins(0, 0, 0, 0);
  above->addLayout(head);
  above->addStretch();
  canvas_->setObjectName("besideCanvas");
  canvas_->setAccessibleName(tr("The compared case"));
  canvas_->setMinimumSize(160, 120);
  connect(&main_, &SceneCanvas::cameraMoved, this, &BesideCanvas::takeCamera);
  connect(tied_, &QToolButton::toggled, this, &BesideCanvas::takeCamera);
  connect(canvas_, &SceneCanvas::cameraMoved, this, [this] {
    if (following_ || !isTied() || isHidden())
      return;
    following_ = true;
    main_.followCamera(*canvas_);
    emit cameraGiven();
    following_ = false;
  });
}

bool BesideCanvas::isTied() const { return line_ != nullptr || tied_->isChecked(); }

void BesideCanvas::wipe(const WipeLine* line)
{
  line_ = line;
  tied_->setVisible(line == nullptr);
  constexpr QSize least(160, 120);
  canvas_->setMinimumSize(line == nullptr ? least : QSize(1, 1));
  if (line == nullptr) {
    canvas_->setLeftPart(0);
  } else {
    const int right = std::max(1, main_.width() - line->at());
    setGeometry(line->at(), 0, right, main_.height());
    canvas_->setLeftPart(double(line->at()) / right);
  }
  takeCamera();
}

void BesideCanvas::takeCamera()
{
  if (following_ || !isTied() || isHidden())
    return;
  following_ = true;
  canvas_->followCamera(main_);
  following_ = false;
}

void BesideCanvas::refreshSource(Shown by, const std::map<std::string, PartLook>& looks)
{
  const DifferentSide side = document_.comparedSide();
  SceneModel::Source source;
  if (side.result) {
    source.mesh = {side.result, &side.result->mesh};
    source.unknowns = {side.result, &side.result->unknowns};
    source.temperature = side.kelvin;
    const auto project = document_.comparedProject();
    if (isSolutionField(by) && project)
      source.field = std::make_shared<PartwiseField>(fieldValues(*project, *side.result, *side.kelvin, by));
  }
  if (source.mesh && source.mesh == canvas_->model().source().mesh) {
    canvas_->setTemperature(source.temperature, source.field);
  } else {
    canvas_->setSource(std::move(source));
    takeCamera();
  }
  if (const auto mesh = canvas_->model().source().mesh) {
    std::vector<PartLook> own;
    for (const GeometryPart& part : mesh->geometry.parts) {
      const auto found = looks.find(part.id);
      own.push_back(found != looks.end() ? found->second : PartLook::Shown);
    }
    if (own != canvas_->looks())
      canvas_->setLooks(std::move(own));
  }
  canvas_->setSections(main_.sections());
  refreshCaption();
}

void BesideCanvas::refreshColors(const Coloring& main, bool ofDifference)
{
  Coloring own;
  own.low = main.low;
  own.high = main.high;
  own.palette = main.palette;
  own.steps = main.steps;
  own.logarithmic = main.logarithmic;
  own.byValue = main.byValue && !ofDifference;
  canvas_->setColoring(own);
}

void BesideCanvas::drawLines(const std::vector<double>& levels)
{
  std::vector<LevelLine> lines;
  for (const DrawnSurface* surface : {&canvas_->drawnSkin(), &canvas_->drawnCuts()})
    if (!levels.empty() && !surface->mapped().empty() && canvas_->coloring().byValue) {
      auto own = levelLines(surface->points, surface->triangles, surface->mapped(), levels);
      lines.insert(lines.end(), std::make_move_iterator(own.begin()), std::make_move_iterator(own.end()));
    }
  canvas_->extras().setLines(lines);
  canvas_->update();
}

void BesideCanvas::refreshCaption()
{
  const ComparedWith other = document_.compared();
  if (other.name.isEmpty())
    return caption_->setText(tr("There is no other case"));
  if (other.state == nullptr)
    return caption_->setText(other.name + ": " + other.problem);
  QString text = other.name;
  if (!other.state->result)
    text += tr(": not solved yet");
  else if (other.state->result->transient && !other.instant)
    text += ", " + document_.instantText();
  if (!other.state->outOfDate.isEmpty())
    text += tr(" · out of date: %1").arg(other.state->outOfDate);
  caption_->setText(text);
}

} // namespace kiln
