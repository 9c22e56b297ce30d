// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "heat/watches/WatchReader.h"
#include "results/CaseResult.h"
#include "units/Quantity.h"

#include <functional>
#include <optional>
#include <span>
#include <string>
#include <vector>

namespace kiln
{

/// A temperature with where it is.
struct PlacedValue {
  double value = 0; ///< K
  Vec3 place = Vec3::Zero();
  PartId part{};
};

struct PartFigures {
  std::string id, name;
  PlacedValue hottest, coldest;
  double mean = 0; ///< by volume, K
};

/// A watch read from a result.
struct WatchFigure {
  std::string id, name;
  Quantity quantity = Quantity::Temperature;
  std::optional<double> value;        ///< SI; nothing when it watches something the result does not have
  std::optional<PlacedValue> where;   ///< for hottest, coldest and at a point
  std::string note;                   ///< e.g. why there is no value
  std::optional<double> upper, lower; ///< limits, SI
  std::optional<double> reference;    ///< SI, where it was given or the other case has one
  std::string referenceFrom;          ///< "of case Winter", or what was noted
  std::optional<double> tolerance;
  std::optional<double> margin; ///< distance to the nearer limit, positive is safe; K or W
};

/// Does a figure agree with its reference? Nothing where it has none, or no tolerance.
[[nodiscard]] std::optional<bool> agrees(const WatchFigure& figure);
/// "reference 812 °C (hand value): +3 K, within 5 K"; empty where it has none. Per cent where zero is a measure.
[[nodiscard]] std::string referenceWords(const WatchFigure& figure, TemperatureUnit unit = TemperatureUnit::Celsius);

/// Figures of another case by its id; nothing where it is not solved.
using FiguresOfCase = std::function<std::optional<std::vector<WatchFigure>>(const std::string&)>;
/// Gives the watches that are compared with another case their references.
void takeReferences(const Project& project, std::vector<WatchFigure>& figures, const FiguresOfCase& figuresOf);

/// "8e-7 %": what a balance misses, from its share of what flows.
[[nodiscard]] std::string balanceError(double share);

[[nodiscard]] std::vector<PartFigures> partFigures(const CaseResult& result);
/// Of any temperatures on a mesh, by unknown, K.
[[nodiscard]] std::vector<PartFigures> partFigures(const Mesh& mesh, const Unknowns& unknowns,
                                                   std::span<const double> temperature);
[[nodiscard]] std::vector<ContactFigure> contactFigures(const CaseResult& result);
/// Heat through some faces of contacts, W, out of a part.
[[nodiscard]] double heatThrough(const CaseResult& result, const std::vector<FaceId>& faces, const std::string& partId);

/// Reads a watch from a stored result; the watch may be newer than the result.
/// A watch as its reader has read it; nothing was read: why.
[[nodiscard]] WatchFigure figureOf(const Project& project, const Watch& watch, const WatchReader& reader,
                                   const std::optional<WatchReading>& reading);
/// Takes in the limits of a watch and how far its value is from them.
void setLimits(WatchFigure& figure, const Watch& watch);
[[nodiscard]] WatchFigure readWatch(const Project& project, const CaseResult& result, const Watch& watch);
[[nodiscard]] std::vector<WatchFigure> readWatches(const Project& project, const CaseResult& result);

/// Smallest margin of all watches, relative to nothing: K and W are not compared, temperatures come first.
[[nodiscard]] std::optional<WatchFigure> worstMargin(const std::vector<WatchFigure>& watches);

/// Where in its part a place lies: "top, back left"; "middle" when it is none of these.
[[nodiscard]] std::string placeWords(const GeometryPart& part, const Vec3& place);

/// "22.4 K to go", "4 K too hot": a margin for reading.
[[nodiscard]] std::string formatMargin(double margin, Quantity quantity, TemperatureUnit unit);

} // namespace kiln
