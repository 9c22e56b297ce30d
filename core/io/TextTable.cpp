// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "io/TextTable.h"

#include <sstream>

namespace kiln::texttable
{

std::string trimmed(const std::string& text)
{
  const auto first = text.find_first_not_of(" \t\r");
  return first == std::string::npos ? std::string() : text.substr(first, text.find_last_not_of(" \t\r") - first + 1);
}

char separatorOf(std::string_view line)
{
  for (const char separator : {'\t', ';', ','})
    if (line.find(separator) != std::string_view::npos)
      return separator;
  return ' ';
}

std::vector<std::string> cellsOf(const std::string& line, char separator)
{
  std::vector<std::string> cells;
  std::istringstream stream(line);
  for (std::string cell; std::getline(stream, cell, separator);)
    if (separator != ' ' || !trimmed(cell).empty())
      cells.push_back(trimmed(cell));
  return cells;
}

std::vector<std::string> unitsOf(const std::string& header)
{
  std::vector<std::string> units;
  for (std::size_t open = header.find('['); open != std::string::npos; open = header.find('[', open + 1))
    if (const std::size_t close = header.find(']', open); close != std::string::npos)
      units.push_back(header.substr(open + 1, close - open - 1));
  return units;
}

} // namespace kiln::texttable
