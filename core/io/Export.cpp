// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "io/Export.h"

#include "results/Figures.h"

#include <array>
#include <cstdio>

namespace kiln
{
namespace
{

std::string number(double value)
{
  std::array<char, 40> text{};
  std::snprintf(text.data(), text.size(), "%.6g", value);
  return text.data();
}

std::string celsius(double kelvin)
{
  return number(toDisplay(kelvin, Quantity::Temperature, TemperatureUnit::Celsius));
}

std::string optionalCell(const std::optional<double>& value, bool temperature)
{
  return value ? (temperature ? celsius(*value) : number(*value)) : "";
}

template <class List>
std::string nameOf(const List& list, const std::string& id)
{
  const auto* object = findById(list, id);
  return csvField(object != nullptr ? object->name : id);
}

} // namespace

std::string stepsCsv(const Project& project, const RunRecord& record)
{
  struct Column {
    std::string head;
    const RunTrace* trace;
    Quantity quantity;
  };
  std::vector<Column> columns;
  const auto add = [&](const std::string& name, Quantity quantity, RunTrace::Kind kind, const std::string& id) {
    if (const RunTrace* trace = record.find(kind, id))
      columns.push_back({csvField(name + " " + displayUnit(quantity)), trace, quantity});
  };
  for (const Watch& watch : project.watches)
    add(watch.name, quantityOf(project, watch), RunTrace::Kind::Watch, watch.id);
  for (const HeatSource& source : project.sources)
    add(source.name, heatQuantity(project), RunTrace::Kind::Source, source.id);
  for (const Boundary& boundary : project.boundaries)
    add(boundary.name, heatQuantity(project), RunTrace::Kind::Boundary, boundary.id);
  add("heat in", heatQuantity(project), RunTrace::Kind::In, {});
  add("heat out", heatQuantity(project), RunTrace::Kind::Out, {});
  add("into store", heatQuantity(project), RunTrace::Kind::Storing, {});
  add("heat in, in all", Quantity::Energy, RunTrace::Kind::InEnergy, {});
  add("heat out, in all", Quantity::Energy, RunTrace::Kind::OutEnergy, {});
  std::string csv = "time s";
  for (const Column& column : columns)
    csv += "," + column.head;
  csv += "\n";
  for (std::size_t i = 0; i < record.times.size(); ++i) {
    csv += number(record.times[i]);
    for (const Column& column : columns)
      csv += "," + number(toDisplay(column.trace->values[i], column.quantity));
    csv += "\n";
  }
  return csv;
}

std::string csvField(const std::string& text)
{
  if (text.find_first_of(",\"\n") == std::string::npos)
    return text;
  std::string quoted = "\"";
  for (const char c : text)
    quoted += c == '"' ? std::string("\"\"") : std::string(1, c);
  return quoted + "\"";
}

namespace
{

std::string agreesCell(const WatchFigure& watch)
{
  const auto passes = agrees(watch);
  return !passes ? "" : *passes ? "yes" : "no";
}

} // namespace

std::string figuresCsv(const Project& project, const CaseResult& result, const FiguresOfCase& others)
{
  std::string csv = "part,hottest °C,x m,y m,z m,coldest °C,mean °C\n";
  for (const PartFigures& part : partFigures(result)) {
    csv += csvField(part.name) + "," + celsius(part.hottest.value);
    for (int d = 0; d < 3; ++d)
      csv += "," + number(part.hottest.place[d]);
    csv += "," + celsius(part.coldest.value) + "," + celsius(part.mean) + "\n";
  }
  csv += "\nwatch,value,unit,lower limit,upper limit,margin,reference,tolerance,agrees,reference from\n";
  std::vector<WatchFigure> watches = readWatches(project, result);
  if (others)
    takeReferences(project, watches, others);
  for (const WatchFigure& watch : watches) {
    const bool temperature = watch.quantity == Quantity::Temperature;
    csv += csvField(watch.name) + "," + optionalCell(watch.value, temperature) + "," + displayUnit(watch.quantity) +
           "," + optionalCell(watch.lower, temperature) + "," + optionalCell(watch.upper, temperature) + "," +
           optionalCell(watch.margin, false) + "," + optionalCell(watch.reference, temperature) + "," +
           optionalCell(watch.tolerance, false) + "," + agreesCell(watch) + "," +
           csvField(watch.reference ? watch.referenceFrom : "") + "\n";
  }
  csv += "\nledger,name,W\n";
  for (const LedgerFlow& flow : result.sources)
    csv += "heat in," + nameOf(project.sources, flow.id) + "," + number(flow.watts) + "\n";
  for (const LedgerFlow& flow : result.boundaries)
    csv += "surroundings," + nameOf(project.boundaries, flow.id) + "," + number(flow.watts) + "\n";
  for (const ContactFigure& contact : contactFigures(result))
    csv += "contact," + csvField(contact.partA + " | " + contact.partB) + "," + number(contact.watts) + "\n";
  csv += "balance,in − out," + number(result.imbalance) + "\n";
  return csv;
}

} // namespace kiln
