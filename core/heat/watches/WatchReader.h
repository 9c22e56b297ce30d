// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "heat/elements/RecoveredFlux.h"
#include "heat/watches/HeatState.h"
#include "heat/watches/WatchProbe.h"

#include <functional>
#include <optional>
#include <string>
#include <vector>

namespace kiln
{

/// All that watches may read at an instant. What is not given cannot be read.
struct WatchMoment {
  std::span<const double> temperature; ///< by unknown, those of lumped ones too, K
  std::span<const double> rate{};      ///< K/s
  const HeatState* heat = nullptr;
  const RecoveredFlux* flux = nullptr;
};

struct WatchReading {
  double value = 0;                 ///< in the watch's quantity
  std::optional<double> rate;       ///< the same per second, where rates of temperature are given and tell it
  std::optional<UnknownId> at;      ///< unknown that is read, or weighs most
  std::optional<Vec3> place{};      ///< m, where it is the value of one place
  PartId part{};                    ///< there
  std::vector<std::string> parts{}; ///< ids, where it is of a region: those it reaches into
};

/// A watch of a project, prepared once for a mesh and read at any instant.
class WatchReader
{
public:
  WatchReader(const WatchGround& ground, const Watch& watch);

  /// Is what it watches there?
  [[nodiscard]] bool readable() const { return static_cast<bool>(read_); }
  /// What it must be given besides temperatures.
  [[nodiscard]] bool needsHeat() const { return needsHeat_; }
  [[nodiscard]] bool needsFlux() const { return needsFlux_; }
  /// Is it of one temperature, or a mean or difference of some, so that its rate is known?
  [[nodiscard]] bool ofTemperatures() const { return ofTemperatures_; }
  /// What whoever sees the value has to know; why there is none.
  [[nodiscard]] const std::string& note() const { return note_; }

  /// Nothing where what it needs is not given, or has no value then.
  [[nodiscard]] std::optional<WatchReading> read(const WatchMoment& moment) const;

private:
  class Preparer;
  std::function<std::optional<WatchReading>(const WatchMoment&)> read_;
  bool needsHeat_ = false, needsFlux_ = false, ofTemperatures_ = false;
  std::string note_;
};

} // namespace kiln
