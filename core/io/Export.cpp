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

std::string csvField(const std::string& text)
{
  if (text.find_first_of(",\"\n") == std::string::npos)
    return text;
  std::string quoted = "\"";
  for (const char c : text)
    quoted += c == '"' ? std::string("\"\"") : std::string(1, c);
  return quoted + "\"";
}

std::string figuresCsv(const Project& project, const CaseResult& result)
{
  std::string csv = "part,hottest °C,x m,y m,z m,coldest °C,mean °C\n";
  for (const PartFigures& part : partFigures(result)) {
    csv += csvField(part.name) + "," + celsius(part.hottest.value);
    for (int d = 0; d < 3; ++d)
      csv += "," + number(part.hottest.place[d]);
    csv += "," + celsius(part.coldest.value) + "," + celsius(part.mean) + "\n";
  }
  csv += "\nwatch,value,unit,lower limit,upper limit,margin\n";
  for (const WatchFigure& watch : readWatches(project, result)) {
    const bool temperature = watch.quantity == Quantity::Temperature;
    csv += csvField(watch.name) + "," + optionalCell(watch.value, temperature) + "," + (temperature ? "°C" : "W") +
           "," + optionalCell(watch.lower, temperature) + "," + optionalCell(watch.upper, temperature) + "," +
           optionalCell(watch.margin, false) + "\n";
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
