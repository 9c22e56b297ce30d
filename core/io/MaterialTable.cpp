// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "io/MaterialTable.h"

#include "io/AtomicFile.h"
#include "io/Export.h"
#include "io/Library.h"
#include "io/ProjectFile.h"
#include "io/TextTable.h"
#include "model/Fields.h"
#include "model/Settings.h"

#include <algorithm>

namespace kiln
{
namespace
{

using Kind = Field::Kind;

/// Fields of a material that a table has: all that are numbers or texts.
std::vector<Field> columnsOf(Project& project)
{
  std::vector<Field> columns = settingsOf(project, project.materials.front().id);
  std::erase_if(columns, [](const Field& field) { return field.kind != Kind::Number && field.kind != Kind::Text; });
  return columns;
}

Project holding(const Material& material)
{
  Project project;
  project.materials = {material};
  return project;
}

/// "density [kg/m3]"
std::string headOf(const Field& field)
{
  const std::string key(field.key);
  return field.kind == Kind::Number && field.quantity != Quantity::Plain
             ? key + " [" + displayUnit(field.quantity) + "]"
             : key;
}

std::string cellOf(const Field& field)
{
  if (field.kind == Kind::Text)
    return *field.text;
  const auto shown = [&](double si) { return plainNumber(toDisplay(si, field.quantity)); };
  if (const auto* table = field.table(); table != nullptr && !table->empty()) {
    std::string text;
    for (const TablePoint& point : *table)
      text += (text.empty() ? "" : " | ") + plainNumber(toDisplay(point.at.si, Quantity::Temperature)) + ": " +
              shown(point.value.si);
    return text;
  }
  const Number* value = field.value();
  return value != nullptr ? shown(value->si) : std::string();
}

/// Cells of a line; what stands in quotes is one, whatever is in it.
std::vector<std::string> cellsIn(const std::string& line, char separator)
{
  std::vector<std::string> cells(1);
  bool quoted = false;
  for (std::size_t i = 0; i < line.size(); ++i) {
    if (line[i] == '"' && quoted && i + 1 < line.size() && line[i + 1] == '"')
      cells.back() += line[++i];
    else if (line[i] == '"')
      quoted = !quoted;
    else if (line[i] == separator && !quoted)
      cells.emplace_back();
    else
      cells.back() += line[i];
  }
  for (std::string& cell : cells)
    cell = texttable::trimmed(cell);
  return cells;
}

/// Lines of a text; one that ends within quotes goes on.
std::vector<std::string> linesIn(std::string_view text)
{
  std::vector<std::string> lines(1);
  bool quoted = false;
  for (const char c : text) {
    quoted = quoted != (c == '"');
    if (c == '\n' && !quoted)
      lines.emplace_back();
    else if (c != '\r')
      lines.back() += c;
  }
  return lines;
}

char separatorIn(const std::string& head)
{
  for (const char separator : {'\t', ';'})
    if (cellsIn(head, separator).size() > 1)
      return separator;
  return ',';
}

/// A column of a table that is read: which field, and in which unit its numbers are.
struct Column {
  std::string key, unit;
};

/// What would be typed for a field: "27 °C: 237; 127 °C: 240 W/(m·K)".
std::string typedFor(const std::string& cell, const Column& column)
{
  const std::string unit = column.unit.empty() ? "" : " " + column.unit;
  if (cell.find(':') == std::string::npos)
    return cell + unit;
  std::string typed;
  std::size_t from = 0;
  while (from <= cell.size()) {
    const std::size_t to = std::min(cell.find('|', from), cell.size());
    const std::string point = cell.substr(from, to - from);
    const std::size_t colon = std::min(point.find(':'), point.size());
    typed += (typed.empty() ? "" : "; ") + texttable::trimmed(point.substr(0, colon)) +
             " °C: " + texttable::trimmed(point.substr(std::min(colon + 1, point.size()))) + unit;
    from = to + 1;
  }
  return typed;
}

} // namespace

std::string materialsCsv(const std::vector<Material>& materials)
{
  Project sample = holding({});
  sample.materials.front().id = "sample";
  std::string csv;
  for (const Field& field : columnsOf(sample))
    csv += (csv.empty() ? "" : ",") + csvField(headOf(field));
  csv += "\n";
  for (const Material& material : materials) {
    Project project = holding(material);
    std::string line;
    for (const Field& field : columnsOf(project))
      line += (line.empty() ? "" : ",") + csvField(cellOf(field));
    csv += line + "\n";
  }
  return csv;
}

Expected<std::vector<Material>> readMaterials(std::string_view text, const std::string& shownName)
{
  const std::vector<std::string> lines = linesIn(text);
  std::size_t row = 0;
  const auto wrong = [&](const std::string& problem, const std::string& remedy) {
    return failure(Failure::Kind::Unreadable, "file " + shownName + ", line " + std::to_string(row + 1), problem,
                   remedy);
  };
  const char separator = separatorIn(lines.front());
  Project sample = holding({});
  sample.materials.front().id = "sample";
  const std::vector<Field> known = columnsOf(sample);
  std::vector<Column> columns;
  for (const std::string& head : cellsIn(lines.front(), separator)) {
    const std::vector<std::string> units = texttable::unitsOf(head);
    Column column{texttable::trimmed(head.substr(0, head.find('['))), units.empty() ? std::string() : units.front()};
    if (std::none_of(known.begin(), known.end(), [&](const Field& field) { return field.key == column.key; })) {
      std::string all;
      for (const Field& field : known)
        all += (all.empty() ? "" : ", ") + std::string(field.key);
      return wrong("“" + head + "” is no field of a material.",
                   "Name columns by " + all + ", with their units in [ ].");
    }
    columns.push_back(std::move(column));
  }
  if (std::none_of(columns.begin(), columns.end(), [](const Column& column) { return column.key == "name"; }))
    return wrong("It has no column of names.", "Name a column “name”.");
  std::vector<Material> materials;
  for (row = 1; row < lines.size(); ++row) {
    if (texttable::trimmed(lines[row]).empty())
      continue;
    const std::vector<std::string> cells = cellsIn(lines[row], separator);
    Project project = holding({});
    Material& material = project.materials.front();
    material.id = "material-" + std::to_string(row);
    for (std::size_t i = 0; i < std::min(cells.size(), columns.size()); ++i) {
      if (cells[i].empty())
        continue;
      std::string cell = cells[i];
      const auto field =
          std::find_if(known.begin(), known.end(), [&](const Field& one) { return one.key == columns[i].key; });
      if (field->kind == Kind::Number && separator != ',')
        std::replace(cell.begin(), cell.end(), ',', '.');
      const std::string typed = field->kind == Kind::Number ? typedFor(cell, columns[i]) : cell;
      if (const auto set = setField(project, material.id + "." + columns[i].key, typed); !set)
        return wrong("Column “" + columns[i].key + "”: " + set.error().problem, set.error().remedy);
    }
    if (material.name.empty())
      return wrong("It has no name.", "Give every material a name.");
    materials.push_back(material);
  }
  if (materials.empty())
    return wrong("There are no materials below the first line.", "Add rows.");
  return materials;
}

Expected<std::vector<Material>> loadMaterials(const std::filesystem::path& file)
{
  const std::string ending = file.extension().string();
  if (ending == ".kiln" || ending == ".json") {
    auto project = loadProject(file);
    if (!project)
      return tl::unexpected(project.error());
    if (project->materials.empty())
      return failure(Failure::Kind::Unreadable, "file " + file.filename().string(), "It holds no material.",
                     "Choose another file.");
    return std::move(project->materials);
  }
  const Expected<std::string> text = readWhole(file);
  if (!text)
    return tl::unexpected(text.error());
  return readMaterials(*text, file.filename().string());
}

Expected<void> saveMaterials(const std::vector<Material>& materials, const std::filesystem::path& file)
{
  const std::string ending = file.extension().string();
  if (ending != ".json" && ending != ".kiln")
    return writeAtomically(file, materialsCsv(materials));
  Project project;
  project.name = "Materials";
  project.materials = materials;
  return writeAtomically(file, writeProject(project));
}

std::vector<std::string> takeMaterials(Project& project, const std::vector<Material>& materials)
{
  std::vector<std::string> ids;
  for (const Material& material : materials)
    ids.push_back(takeMaterial(project, material));
  return ids;
}

} // namespace kiln
