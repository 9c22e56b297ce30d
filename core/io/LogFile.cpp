// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "io/LogFile.h"

#include "io/AtomicFile.h"
#include "io/TextTable.h"

#include <algorithm>
#include <cmath>
#include <sstream>

namespace kiln
{

using namespace texttable;

namespace
{

constexpr const char* example = "Write the first line like: time [min]; thermocouple [°C]";

std::string nameOf(const std::string& title) { return trimmed(title.substr(0, title.find('['))); }

} // namespace

Expected<std::vector<LoggedColumn>> readLog(std::string_view text, const std::string& shownName)
{
  std::istringstream stream{std::string(text)};
  std::string line;
  int number = 1;
  const auto wrong = [&](const std::string& problem, const std::string& remedy) {
    return failure(Failure::Kind::Unreadable, "file " + shownName + ", line " + std::to_string(number), problem,
                   remedy);
  };
  std::getline(stream, line);
  if (line.starts_with("\xEF\xBB\xBF")) // a byte order mark, as spreadsheets write it
    line.erase(0, 3);
  const std::vector<std::string> units = unitsOf(line);
  const char separator = separatorOf(line);
  const std::vector<std::string> titles = cellsOf(line, separator);
  if (units.size() < 2 || titles.size() != units.size())
    return wrong("It does not name its columns with their units in [ ].", std::string(example) + ".");
  std::vector<LoggedColumn> columns;
  for (std::size_t i = 0; i < units.size(); ++i) {
    const auto kind = quantityOfUnit(units[i]);
    if (!kind || (i == 0 && *kind != Quantity::Time))
      return wrong("“" + units[i] + "” is not a unit " + (i == 0 ? "of time." : "known here."),
                   std::string(example) + ".");
    columns.push_back({nameOf(titles[i]), *kind, {}});
  }
  double before = -1e300;
  while (std::getline(stream, line)) {
    ++number;
    if (trimmed(line).empty())
      continue;
    std::vector<std::string> cells = cellsOf(line, separator);
    cells.resize(std::max(cells.size(), columns.size()));
    double time = 0;
    for (std::size_t i = 0; i < columns.size(); ++i) {
      if (cells[i].empty() && i > 0)
        continue;
      const auto value = parseQuantity(cells[i] + " " + units[i], columns[i].quantity);
      if (!value || !std::isfinite(value->si))
        return wrong("“" + cells[i].substr(0, 40) + "” is not a number.", "Correct the cell, or leave it empty.");
      if (i == 0) {
        time = value->si;
        if (time <= before)
          return wrong("Its times do not increase here.", "Sort the rows by time and take out doubled ones.");
        before = time;
      } else {
        columns[i].points.push_back({{time, {}, false}, {value->si, {}, false}});
      }
    }
  }
  columns.erase(columns.begin());
  std::erase_if(columns, [](const LoggedColumn& column) { return column.points.empty(); });
  if (columns.empty())
    return wrong("There are no values below the header.", "Add rows of a time and values.");
  return columns;
}

Expected<std::vector<LoggedColumn>> loadLog(const std::filesystem::path& file)
{
  const Expected<std::string> text = readWhole(file);
  if (!text)
    return tl::unexpected(text.error());
  return readLog(*text, file.filename().string());
}

std::optional<Misfit> misfitOf(const std::vector<double>& times, const std::vector<double>& values,
                               const std::vector<TablePoint>& measured, double offset)
{
  Misfit misfit;
  std::size_t count = 0;
  for (const TablePoint& point : measured) {
    const double time = point.at.si + offset;
    const auto after = std::lower_bound(times.begin(), times.end(), time);
    if (after == times.end() || (after == times.begin() && *after > time))
      continue;
    const auto i = static_cast<std::size_t>(after - times.begin());
    const double span = i > 0 ? times[i] - times[i - 1] : 0;
    const double share = span > 0 ? (time - times[i - 1]) / span : 1;
    const double computed = i > 0 ? values[i - 1] + share * (values[i] - values[i - 1]) : values[0];
    const double difference = computed - point.value.si;
    misfit.rms += difference * difference;
    ++count;
    if (std::abs(difference) > std::abs(misfit.largest)) {
      misfit.largest = difference;
      misfit.at = time;
    }
  }
  if (count == 0)
    return std::nullopt;
  misfit.rms = std::sqrt(misfit.rms / static_cast<double>(count));
  return misfit;
}

} // namespace kiln
