// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "io/PointFile.h"

#include "io/AtomicFile.h"
#include "io/TextTable.h"
#include "units/Quantity.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <sstream>

namespace kiln
{

using namespace texttable;

namespace
{

constexpr std::size_t columns = 4;
constexpr const char* example = "Write the first line like: x [mm]; y [mm]; z [mm]; h [W/(m²·K)]";

} // namespace

double PointTable::mean() const
{
  double sum = 0;
  for (const PlacedPoint& point : points)
    sum += point.value;
  return points.empty() ? 0 : sum / static_cast<double>(points.size());
}

Expected<PointTable> readPoints(std::string_view text, const std::string& shownName)
{
  std::istringstream stream{std::string(text)};
  std::string line;
  int number = 0;
  const auto wrong = [&](const std::string& problem, const std::string& remedy) {
    return failure(Failure::Kind::Unreadable, "file " + shownName + ", line " + std::to_string(number), problem,
                   remedy);
  };
  std::getline(stream, line);
  number = 1;
  const std::vector<std::string> units = unitsOf(line);
  if (units.size() != columns)
    return wrong("It does not name four columns with their units in [ ].", std::string(example) + ".");
  PointTable table;
  std::array<Quantity, columns> kinds{Quantity::Length, Quantity::Length, Quantity::Length, Quantity::Plain};
  for (std::size_t i = 0; i < columns; ++i) {
    const auto kind = quantityOfUnit(units[i]);
    if (!kind || (i < 3 && *kind != Quantity::Length))
      return wrong("“" + units[i] + "” is not a unit " + (i < 3 ? "of length." : "known here."),
                   std::string(example) + ".");
    kinds[i] = *kind;
  }
  table.quantity = kinds.back();
  while (std::getline(stream, line)) {
    ++number;
    if (trimmed(line).empty())
      continue;
    const std::vector<std::string> cells = cellsOf(line, separatorOf(line));
    std::array<double, columns> values{};
    for (std::size_t i = 0; i < columns; ++i) {
      const auto value = parseQuantity((cells.size() == columns ? cells[i] : "?") + " " + units[i], kinds[i]);
      if (!value || !std::isfinite(value->si))
        return wrong("It is not four numbers: “" + trimmed(line).substr(0, 60) + "”.",
                     "Correct the line; every row has x, y, z and a value.");
      values[i] = value->si;
    }
    table.points.push_back({{values[0], values[1], values[2]}, values[3]});
  }
  if (table.points.empty())
    return wrong("There are no points below the header.", "Add rows of x, y, z and a value.");
  return table;
}

Expected<PointTable> loadPoints(const std::filesystem::path& file)
{
  const Expected<std::string> text = readWhole(file);
  if (!text)
    return tl::unexpected(text.error());
  return readPoints(*text, file.filename().string());
}

} // namespace kiln
