// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "document/Document.h"

#include <QString>
#include <optional>
#include <string>
#include <vector>

namespace kiln
{

enum class Band { HeatIn, Parts, Contacts, Surroundings, Stored };

/// One line of the ledger: plain data, made anew from the document.
struct LedgerRow {
  Band band = Band::Parts;
  std::string id;           ///< of the object; "a|b" for a contact that nobody set
  std::string partA, partB; ///< of a contact
  QString name;
  QString set;                  ///< what was set, "1.44 kW in Coils"
  std::optional<double> figure; ///< K for parts, J for what is stored, W otherwise
  double bar = 0;               ///< −1…1: share of the largest flow, or of the temperature span
  bool muted = false;
  bool canMute = false;
  bool isGroup = false; ///< of parts
  bool folded = false;
  int depth = 0;                   ///< 1 within a group
  Quantity heat = Quantity::Power; ///< that a figure in W is shown as
};

struct LedgerBand {
  Band band;
  QString title;
  std::optional<double> total; ///< W
  std::vector<LedgerRow> rows;
};

/// The five bands for the shown case.
[[nodiscard]] std::vector<LedgerBand> ledgerBands(const Document& document, TemperatureUnit unit);

} // namespace kiln
