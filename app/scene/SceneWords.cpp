// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
//
// What the scene says in words: flags at hot spots and at the largest heat flux, and its caption.
#include "mesh/MeshQuality.h"
#include "results/Figures.h"
#include "scene/SceneColoring.h"
#include "scene/SceneOverlay.h"
#include "scene/ScenePanel.h"

#include <QComboBox>
#include <algorithm>

namespace kiln
{

void ScenePanel::refreshFlags()
{
  std::vector<Flag> flags;
  const CaseState& state = document_.shownState();
  const auto text = [&](PartId part, double kelvin) {
    return partName(part) + "  " +
           QString::fromStdString(formatQuantity(kelvin, Quantity::Temperature, preferences_.temperatureUnit()));
  };
  const bool wanted =
      colorBy() != Shown::MeshQuality && colorBy() != Shown::Difference; // they would hide what is looked for
  const bool ofFlux = quantityOf(colorBy()) == Quantity::HeatFlux && colorBy() != Shown::FluxError;
  if (wanted && !ofFlux && state.result && canvas_->model().source().temperature) {
    // The watches' hot spots, and the hottest place of all.
    for (const WatchFigure& watch : document_.shownFigures()->watches) {
      const Watch* own = findById(document_.project().watches, watch.id);
      const bool extreme = own != nullptr && (std::holds_alternative<PartFigure>(own->figure) ||
                                              std::holds_alternative<SurfaceFigure>(own->figure));
      if (watch.where && extreme && watch.quantity == Quantity::Temperature && watch.where->part >= 0)
        flags.push_back({watch.where->place, text(watch.where->part, watch.where->value),
                         watch.margin && *watch.margin < 0, false});
    }
    PlacedValue hottest{-1, Vec3::Zero(), noPart};
    for (const PartFigures& part : document_.shownFigures()->parts)
      if (part.hottest.value > hottest.value)
        hottest = part.hottest;
    const auto found = std::find_if(flags.begin(), flags.end(),
                                    [&](const Flag& flag) { return (flag.place - hottest.place).norm() < 1e-9; });
    if (found != flags.end())
      std::rotate(flags.begin(), found, found + 1); // first, so that its flag has the best place
    else if (hottest.part != noPart)
      flags.insert(flags.begin(), {hottest.place, text(hottest.part, hottest.value), false, false});
    if (!flags.empty())
      flags.front().hottest = true;
  }
  if (ofFlux)
    if (auto flag = largestFlux())
      flags.insert(flags.begin(), std::move(*flag));
  overlay_->setFlags(std::move(flags));
  refreshLabels();
}

/// Where the heat flux of the shown instant is largest, with what makes that doubtful.
std::optional<Flag> ScenePanel::largestFlux() const
{
  const auto result = document_.shownState().result;
  if (!result || document_.shownTemperature().get() != &result->temperature)
    return std::nullopt; // of the end of a run, or a steady state
  LargestFlux everywhere;
  for (const GeometryPart& part : result->mesh.geometry.parts)
    if (findById(document_.shownProject().parts, part.id) != nullptr)
      everywhere.parts.push_back(part.id);
  Watch watch;
  watch.figure = everywhere;
  const WatchFigure figure = readWatch(document_.shownProject(), *result, watch);
  if (!figure.value || !figure.where)
    return std::nullopt;
  const QString text = partName(figure.where->part) + "  " +
                       QString::fromStdString(formatQuantity(*figure.value, Quantity::HeatFlux, {}, 4));
  const QString doubt = figure.note.empty() ? QString() : " · " + QString::fromStdString(figure.note);
  return Flag{figure.where->place, tr("largest: %1%2").arg(text, doubt), !figure.note.empty(), true};
}

void ScenePanel::refreshCaption()
{
  const Case* shown = document_.shownCaseObject();
  if (shown == nullptr)
    return;
  const CaseState& state = document_.shownState();
  QString text = document_.caseAndInstant() + document_.quickLookText();
  bool warning = false;
  if (const auto& section = document_.shownProject().section)
    text += std::holds_alternative<TurnedSection>(section->cut) ? tr(" · turned section, axis on the left")
                                                                : tr(" · plane section");
  if (canvas_->model().empty()) {
    text += document_.project().parts.empty() ? tr(" · no parts yet") : tr(" · not meshed yet");
  } else if (isAsSet(colorBy())) {
    text += " · " + colorBy_->currentText() + tr(" as set");
  } else if (colorBy() == Shown::MeshQuality) {
    text += " · " + colorBy_->currentText() +
            (canvas_->model().source().mesh->tets.empty() ? tr(": not meshed yet")
                                                          : tr(": smallest angle of each tetrahedron"));
  } else if (colorBy() == Shown::Difference) {
    text = document_.differenceText();
    warning = document_.difference() == nullptr;
  } else if (!state.result) {
    text += tr(" · not solved yet");
  } else {
    if (colorBy() != Shown::Temperature)
      text += " · " + colorBy_->currentText();
    if (const ShownFigures* figures = document_.shownFigures(); figures != nullptr && !figures->atMean.empty()) {
      text += tr(" · not stored, at its mean: %1").arg(QString::fromStdString(figures->atMean.front()));
      if (figures->atMean.size() > 1)
        text += tr(" and %n other(s)", nullptr, static_cast<int>(figures->atMean.size()) - 1);
    }
    if (!state.outOfDate.isEmpty()) {
      text += tr(" · out of date: %1").arg(state.outOfDate);
      warning = true;
    }
  }
  overlay_->setCaption(text, warning);
}

} // namespace kiln
