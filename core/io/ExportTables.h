// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "base/Failure.h"
#include "model/Project.h"
#include "results/CaseResult.h"

#include <string>
#include <vector>

/// Tables of a solved case for other programs: a stress, flow or electronics program asks by faces or by places.
namespace kiln
{

/// A row for every face: lasting name, part, what it touches, area m², middle m, mean, lowest and highest temperature
/// °C, heat W (into the part; of a contact out of it, to the second part), heat flux W/m².
[[nodiscard]] std::string facesCsv(const Project& project, const CaseResult& result);

/// Places of a table of three columns, whose first line names them with their units: x [mm]; y [mm]; z [mm]. More
/// columns are passed over. Numbers may have decimal commas where columns are not parted by commas.
/// Fails naming the line.
[[nodiscard]] Expected<std::vector<Vec3>> readPlaces(std::string_view text, const std::string& shownName);

/// A row for every place: x y z in m, part, temperature °C, heat flux along x y z W/m², and how far it lies outside the
/// model, m; a place outside has no values.
/// \param[out] outside  how many do
[[nodiscard]] std::string placesCsv(const Project& project, const CaseResult& result, const std::vector<Vec3>& places,
                                    std::size_t& outside);

} // namespace kiln
