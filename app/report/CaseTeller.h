// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "document/LedgerRows.h"
#include "report/ReportPictures.h"

#include <functional>

namespace kiln
{

using ReportBlocks = std::vector<ReportBlock>;

/// Tells what sections of a report have to say of the case that the document shows.
class CaseTeller
{
public:
  CaseTeller(Document& document, Preferences& preferences, const ReportPictures& pictures)
      : document_(document), unit_(preferences.temperatureUnit()), pictures_(pictures)
  {
  }

  /// Is there something to tell of each case by itself?
  [[nodiscard]] static bool tells(ReportTopic topic);
  /// Nothing where the case has nothing of this kind.
  [[nodiscard]] ReportBlocks tell(const ReportSection& section) const;

private:
  [[nodiscard]] ReportBlocks assumptions() const;
  [[nodiscard]] ReportBlocks parts() const;
  [[nodiscard]] ReportBlocks materials() const;
  [[nodiscard]] ReportBlocks band(Band band, const QString& figure) const;
  [[nodiscard]] ReportBlocks surroundings() const;
  [[nodiscard]] ReportBlocks correlations() const;
  [[nodiscard]] ReportBlocks mesh() const;
  [[nodiscard]] ReportBlocks figures() const;
  [[nodiscard]] ReportBlocks balance() const;
  [[nodiscard]] ReportBlocks hotSpots() const;
  [[nodiscard]] ReportBlocks views(const ReportSection& section) const;
  [[nodiscard]] ReportBlocks course() const;
  [[nodiscard]] ReportBlocks lines() const;
  [[nodiscard]] ReportBlocks paths() const;
  [[nodiscard]] ReportBlocks record() const;

  [[nodiscard]] std::string caseAndInstant() const;
  [[nodiscard]] std::string text(double si, Quantity quantity, int digits = 4) const;
  [[nodiscard]] std::string textOf(const Number& number, Quantity quantity) const;
  [[nodiscard]] std::string textOf(const std::optional<Number>& number, Quantity quantity) const;
  [[nodiscard]] std::string textOf(const Property& property, Quantity quantity) const;
  [[nodiscard]] std::string placeOf(const PlacedValue& value) const;
  [[nodiscard]] const CaseResult* result() const;

  Document& document_;
  TemperatureUnit unit_;
  const ReportPictures& pictures_;
};

/// "✓ within its limits, 22 K to go", "✗ 4 K too hot", with the sign and the words that go with them.
[[nodiscard]] ReportCell verdictOf(const WatchFigure& figure, TemperatureUnit unit);
/// "at most 115 °C, at least …"
[[nodiscard]] std::string limitsOf(const WatchFigure& figure, TemperatureUnit unit);

} // namespace kiln
