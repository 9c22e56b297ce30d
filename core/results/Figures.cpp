// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "results/Figures.h"

#include "base/At.h"
#include "geometry/SurfaceFaces.h"
#include "heat/elements/SurfaceElement.h"
#include "model/Edit.h"
#include "results/PartReader.h"
#include "results/PreparedWatches.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <cstdio>
#include <limits>
#include <set>

namespace kiln
{
namespace
{

HeatState heatOf(const CaseResult& result)
{
  return {result.mesh.geometry, result.faceHeat, result.contactHeat, result.gaps, result.links};
}

/// "in Shell, Fibre"; empty where there are none.
std::string partWords(const Project& project, const std::vector<std::string>& ids)
{
  std::string words;
  for (const std::string& id : ids) {
    const Part* part = findById(project.parts, id);
    words += (words.empty() ? "in " : ", ") + (part != nullptr ? part->name : id);
  }
  return words;
}

} // namespace

double CaseResult::relativeImbalance() const
{
  const double size = std::max({heatIn, heatOut, heatFloor});
  return size > 0 ? std::abs(imbalance) / size : 0;
}

std::string balanceError(double share)
{
  constexpr double percent = 100;
  std::array<char, 32> text{};
  std::snprintf(text.data(), text.size(), "%.1g", percent * share);
  std::string words = text.data();
  if (const auto zero = words.find("e-0"); zero != std::string::npos)
    words.erase(zero + 2, 1);
  return words + " %";
}

std::vector<PartFigures> partFigures(const Mesh& mesh, const Unknowns& unknowns, std::span<const double> temperature)
{
  return PartReader(mesh, unknowns).read(temperature);
}

std::vector<PartFigures> partFigures(const CaseResult& result)
{
  return partFigures(result.mesh, result.unknowns, result.temperature);
}

std::vector<ContactFigure> contactFigures(const CaseResult& result) { return contactFigures(heatOf(result)); }

double heatThrough(const CaseResult& result, const std::vector<FaceId>& faces, const std::string& partId)
{
  const PartId part = result.mesh.geometry.partIndex(partId);
  double watts = 0;
  for (const FaceId face : faces)
    watts += (result.mesh.geometry.faces[at(face)].parts[0] == part ? 1 : -1) * result.contactHeat[at(face)];
  return watts;
}

WatchFigure figureOf(const Project& project, const Watch& watch, const WatchReader& reader,
                     const std::optional<WatchReading>& reading)
{
  WatchFigure figure;
  figure.id = watch.id;
  figure.name = watch.name;
  figure.quantity = quantityOf(project, watch);
  if (reading) {
    figure.value = reading->value;
    if (reading->place)
      figure.where = PlacedValue{reading->value, *reading->place, reading->part};
  }
  if (!reading || reading->place)
    figure.note = reader.note();
  else
    figure.note = partWords(project, reading->parts);
  setLimits(figure, watch);
  return figure;
}

void setLimits(WatchFigure& figure, const Watch& watch)
{
  const auto si = [](const std::optional<Number>& number) { return number ? std::optional(number->si) : std::nullopt; };
  figure.upper = si(watch.upper);
  figure.lower = si(watch.lower);
  figure.reference = si(watch.reference);
  figure.referenceFrom = watch.reference ? watch.referenceFrom : std::string();
  figure.tolerance = si(watch.tolerance);
  figure.margin.reset();
  if (!figure.value)
    return;
  constexpr double none = std::numeric_limits<double>::infinity();
  const double margin = std::min(figure.upper ? *figure.upper - *figure.value : none,
                                 figure.lower ? *figure.value - *figure.lower : none);
  if (margin < none)
    figure.margin = margin;
}

std::optional<bool> agrees(const WatchFigure& figure)
{
  if (!figure.value || !figure.reference || !figure.tolerance)
    return std::nullopt;
  return std::abs(*figure.value - *figure.reference) <= *figure.tolerance;
}

std::string referenceWords(const WatchFigure& figure, TemperatureUnit unit)
{
  if (!figure.reference)
    return {};
  std::string words = "reference " + formatQuantity(*figure.reference, figure.quantity, unit);
  if (!figure.referenceFrom.empty())
    words += " (" + figure.referenceFrom + ")";
  if (!figure.value)
    return words;
  const double difference = *figure.value - *figure.reference;
  const Quantity step = differenceOf(figure.quantity);
  words += ": " + std::string(difference > 0 ? "+" : "") + formatQuantity(difference, step, unit, 3);
  if (figure.quantity != Quantity::Temperature && *figure.reference != 0)
    words += ", " + std::string(difference > 0 ? "+" : "") +
             formatQuantity(100 * difference / std::abs(*figure.reference), Quantity::Plain, unit, 3) + " %";
  if (const auto passes = agrees(figure))
    words += std::string(*passes ? ", within " : ", beyond ") + formatQuantity(*figure.tolerance, step, unit, 3);
  return words;
}

void takeReferences(const Project& project, std::vector<WatchFigure>& figures, const FiguresOfCase& figuresOf)
{
  for (WatchFigure& figure : figures) {
    const Watch* watch = findById(project.watches, figure.id);
    const Case* other = watch != nullptr ? findById(project.cases, watch->referenceCase) : nullptr;
    if (other == nullptr)
      continue;
    figure.reference.reset();
    figure.referenceFrom = "case " + other->name;
    const auto theirs = figuresOf(other->id);
    for (std::size_t i = 0; theirs && i < theirs->size(); ++i)
      if ((*theirs)[i].id == figure.id)
        figure.reference = (*theirs)[i].value;
  }
}

WatchFigure readWatch(const Project& project, const CaseResult& result, const Watch& watch)
{
  return PreparedWatches(project, result, {&watch, 1}).read(result).front();
}

std::vector<WatchFigure> readWatches(const Project& project, const CaseResult& result)
{
  return PreparedWatches(project, result, project.watches).read(result);
}

std::optional<WatchFigure> worstMargin(const std::vector<WatchFigure>& watches)
{
  std::optional<WatchFigure> worst;
  for (const WatchFigure& watch : watches) {
    if (!watch.margin)
      continue;
    const bool firstOfKind =
        !worst || (worst->quantity != Quantity::Temperature && watch.quantity == Quantity::Temperature);
    if (firstOfKind || (watch.quantity == worst->quantity && *watch.margin < *worst->margin))
      worst = watch;
  }
  return worst;
}

std::string placeWords(const GeometryPart& part, const Vec3& place)
{
  const auto word = [&](int axis, const char* low, const char* high) -> std::string {
    const double extent = part.high[axis] - part.low[axis];
    const double share = extent > 0 ? (place[axis] - part.low[axis]) / extent : 0.5;
    return share < 0.3 ? low : share > 0.7 ? high : "";
  };
  const std::string height = word(2, "bottom", "top");
  const std::string depth = word(1, "front", "back");
  const std::string width = word(0, "left", "right");
  const std::string level = depth + (!depth.empty() && !width.empty() ? " " : "") + width;
  if (height.empty() && level.empty())
    return "middle";
  return height + (!height.empty() && !level.empty() ? ", " : "") + level;
}

std::string formatMargin(double margin, Quantity quantity, TemperatureUnit unit)
{
  const Quantity step = quantity == Quantity::Temperature ? Quantity::TemperatureStep : quantity;
  const std::string size = formatQuantity(margin, step, unit, std::abs(margin) < 100 ? 2 : 3);
  return margin > 0 ? "+" + size : size;
}

} // namespace kiln
