// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "io/ParameterTable.h"

#include "io/TextTable.h"
#include "model/Edit.h"
#include "model/Formula.h"
#include "model/Parameters.h"

#include <algorithm>
#include <optional>
#include <regex>
#include <sstream>

namespace kiln
{

using namespace texttable;

namespace
{

struct PastedRow {
  int line = 0;
  std::string name, value, note;
};

/// Rows of the table; fails on one that has a single column.
Expected<std::vector<PastedRow>> rowsOf(std::string_view text)
{
  std::vector<PastedRow> rows;
  std::istringstream stream{std::string(text)};
  int number = 0;
  for (std::string line; std::getline(stream, line);) {
    ++number;
    if (trimmed(line).empty())
      continue;
    const char separator = separatorOf(line);
    std::vector<std::string> cells = cellsOf(line, separator);
    if (cells.size() < 2 || cells[1].empty())
      return failure(Failure::Kind::Unreadable, "clipboard, line " + std::to_string(number),
                     "It has no name with a value beside it.",
                     "Copy two columns from a spreadsheet: names, and values with their units.");
    if (separator != ',') // then 1,5 is a number
      cells[1] = std::regex_replace(cells[1], std::regex("^([-+]?[0-9]*),([0-9])"), "$1.$2");
    PastedRow row{number, cells[0], cells[1], {}};
    std::size_t next = 2;
    if (cells.size() > next && quantityOfUnit(cells[next]))
      row.value += " " + cells[next++];
    row.note = cells.size() > next ? cells[next] : std::string();
    rows.push_back(std::move(row));
  }
  if (rows.empty())
    return failure(Failure::Kind::Unreadable, "clipboard", "It holds no table.",
                   "Copy two columns from a spreadsheet: names, and values with their units.");
  return rows;
}

/// A value of the first kind that it is one of.
std::optional<std::pair<Quantity, Number>> valueOf(const Project& project, const std::string& typed)
{
  for (std::size_t i = 0; i < describing::quantityKinds.size(); ++i)
    if (const auto entry = readEntry(project, typed, static_cast<Quantity>(i)))
      return std::pair{static_cast<Quantity>(i), entry->number};
  return std::nullopt;
}

Expected<std::string> take(Project& project, const PastedRow& row)
{
  const auto wrong = [&](const std::string& problem, const std::string& remedy) {
    return failure(Failure::Kind::Unreadable, "clipboard, line " + std::to_string(row.line), problem, remedy);
  };
  const auto own = std::find_if(project.parameters.begin(), project.parameters.end(),
                                [&](const Parameter& parameter) { return parameter.name == row.name; });
  if (own != project.parameters.end()) {
    const auto entry = readEntry(project, row.value, own->quantity);
    if (!entry)
      return wrong("“" + row.value + "” is not what “" + row.name + "” takes: " + entry.error().problem,
                   "Correct the cell, or the kind of the parameter.");
    own->value = entry->number;
    if (!row.note.empty())
      own->comment = row.note;
    return own->id;
  }
  if (const auto bad = badParameterName(project, {}, row.name))
    return wrong(*bad, "Give it another name.");
  const auto value = valueOf(project, row.value);
  if (!value)
    return wrong("“" + row.value + "” is neither a value nor a formula.", "Write a number with its unit: 12 W/(m²·K).");
  Parameter parameter;
  parameter.quantity = value->first;
  parameter.value = value->second;
  parameter.comment = row.note;
  return addObject(project, project.parameters, parameter, row.name);
}

} // namespace

Expected<std::vector<std::string>> takeParameters(Project& project, std::string_view text)
{
  auto rows = rowsOf(text);
  if (!rows)
    return tl::unexpected(rows.error());
  if (rows->size() > 1 && !valueOf(project, rows->front().value))
    rows->erase(rows->begin());
  Project after = project;
  std::vector<std::string> ids;
  for (const PastedRow& row : *rows) {
    const Expected<std::string> id = take(after, row);
    if (!id)
      return tl::unexpected(id.error());
    ids.push_back(*id);
  }
  project = std::move(after);
  return ids;
}

} // namespace kiln
