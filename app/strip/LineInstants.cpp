// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
//
// Instants beside each other on the page Along a line, and where a curve passes limits.
#include "look/Language.h"
#include "model/Edit.h"
#include "results/ChosenInstants.h"
#include "results/EdgeProfile.h"
#include "results/ResultFields.h"
#include "results/UnstoredParts.h"
#include "strip/LinePage.h"

#include <QLineEdit>
#include <QToolTip>
#include <algorithm>

namespace kiln
{
namespace
{

/// A place along the line, in the unit shown.
double alongShown(double metres) { return toDisplay(metres, Quantity::Length); }

Vec3 placeOf(const Number3& numbers) { return {numbers.x.si, numbers.y.si, numbers.z.si}; }

} // namespace

/// Along the shown line at an instant of the shown run.
std::vector<LinePiece> LinePage::piecesAt(double time) const
{
  const CaseState& state = document_.shownState();
  const Line* shown = findById(document_.shownProject().lines, lineId_);
  if (!state.result || !state.run.record || !state.run.fields || shown == nullptr)
    return {};
  auto field = state.run.fields->fieldAt(state.run.record->instants, time);
  if (!field || field->size() != state.result->temperature.size())
    return {};
  fillUnstored(*state.run.record, state.result->mesh, state.result->unknowns, time, *field);
  const std::vector<Vec3> flux = elementFlux(document_.shownProject(), *state.result, *field);
  const Vec3 from = placeOf(shown->from);
  return shown->faces.empty()
             ? lineProfile(state.result->mesh, state.result->unknowns, *field, flux, from, placeOf(shown->to))
             : edgeProfile(state.result->mesh, state.result->unknowns, *field, flux, shown->faces,
                           edgePath(state.result->mesh, shown->faces, from));
}

void LinePage::pinTyped()
{
  const auto record = document_.shownState().run.record;
  const QString typed = instants_->text().trimmed();
  const auto times = record ? chosenInstants(typed.toStdString(), *record)
                            : tl::unexpected(Failure{Failure::Kind::Unreadable, "instants",
                                                     "The shown case has no run.", "Show a case in time."});
  if (!times) {
    QToolTip::showText(instants_->mapToGlobal(QPoint(0, instants_->height())), inWords(times.error()), instants_);
    instants_->setToolTip(inWords(times.error()));
    return;
  }
  pinned_.clear();
  for (const double time : *times)
    if (std::vector<LinePiece> pieces = piecesAt(time); !pieces.empty())
      pinned_.push_back({document_.shownCase(), time,
                         QString::fromStdString(document_.shownCaseObject()->name) + ", " +
                             tr("at %1").arg(QString::fromStdString(formatQuantity(time, Quantity::Time))),
                         std::move(pieces)});
  refresh();
}

/// Where the shown curve passes the limits of watches of the parts that the line passes.
std::vector<LineChart::Border> LinePage::limitMarks() const
{
  std::vector<LineChart::Border> marks;
  const auto result = document_.shownState().result;
  for (const Watch& watch : document_.shownProject().watches) {
    const auto* figure = std::get_if<PartFigure>(&watch.figure);
    if (figure == nullptr || quantityOf(watch) != Quantity::Temperature)
      continue;
    std::vector<LinePiece> own;
    for (const LinePiece& piece : pieces_)
      for (const std::string& id : expandGroups(document_.shownProject(), figure->parts))
        if (id == result->mesh.geometry.parts[static_cast<std::size_t>(piece.part)].id)
          own.push_back(piece);
    for (const auto& limit : {watch.upper, watch.lower})
      for (const double at : limit ? crossingsOf(own, limit->si) : std::vector<double>())
        marks.push_back({alongShown(at), QString::fromStdString(formatQuantity(limit->si, Quantity::Temperature,
                                                                               preferences_.temperatureUnit()))});
  }
  return marks;
}

void LinePage::pin()
{
  const bool has = std::any_of(pinned_.begin(), pinned_.end(), [&](const Pinned& one) {
    return one.caseId == document_.shownCase() && one.time == document_.playhead().value_or(0);
  });
  if (has || pieces_.empty()) {
    pinned_.clear();
  } else {
    pinned_.push_back({document_.shownCase(), document_.playhead().value_or(0), document_.caseAndInstant(), pieces_});
  }
  refresh();
}

} // namespace kiln
