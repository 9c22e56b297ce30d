// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "ledger/ThermostatChoice.h"

#include "model/Alternatives.h"

#include <QCoreApplication>
#include <QFormLayout>

namespace kiln
{

void addThermostatChoice(Document& document, QFormLayout& form, const HeatSource& source)
{
  if (std::holds_alternative<Beam>(source.heat)) // nobody switches the sun
    return;
  const auto tr = [](const char* text) { return QCoreApplication::translate("ThermostatChoice", text); };
  addChoiceRow(document, form, tr("Thermostat"), "thermostatWatch", temperatureWatches(document.project(), tr("none")),
               source.thermostat ? source.thermostat->watch : "",
               [id = source.id](Project& project, const std::string& watch) {
                 std::optional<Thermostat>& own = findById(project.sources, id)->thermostat;
                 if (watch.empty())
                   return own.reset();
                 if (!own) {
                   StartingValues starting;
                   describe(starting, own.emplace());
                 }
                 own->watch = watch;
               });
}

} // namespace kiln
