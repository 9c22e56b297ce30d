// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include <array>
#include <string_view>

namespace kiln
{

/// How a solved case is written for other programs: a word for it, what it is, how its file's name ends.
struct ExportFormat {
  std::string_view name, words, ending;
};

inline constexpr std::array<ExportFormat, 7> exportFormats{
    {{"vtu", "Mesh and fields, at the end of a run", ".vtu"},
     {"pvd", "Mesh and fields at every stored instant of a run", ".pvd"},
     {"csv", "Figures, and every step of a run", ".csv"},
     {"faces", "Temperature and heat of every face", ".faces.csv"},
     {"places", "Temperature and heat flux at the places of a table", ".places.csv"},
     {"network", "The case as a network of few temperatures", ".network.json"},
     {"netlist", "The same as a SPICE netlist of R and C", ".cir"}}};

} // namespace kiln
