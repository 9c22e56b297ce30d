// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "readiness/NetworkReadiness.h"

#include "model/Edit.h"
#include "model/Fields.h"
#include "model/TimeSeries.h"
#include "units/Quantity.h"

#include <algorithm>
#include <cmath>

namespace kiln
{
namespace
{

using Severity = Finding::Severity;

class TimeCheck
{
public:
  TimeCheck(const Project& project, const std::vector<Field>& fields) : project_(project), fields_(fields) {}

  std::vector<Finding> run()
  {
    for (const Parameter& parameter : project_.parameters)
      if (parameter.schedule)
        checkSchedule(parameter);
    checkWhereItVaries();
    const auto isTransient = [](const Case& one) { return one.kind == Case::Kind::Transient; };
    if (std::any_of(project_.cases.begin(), project_.cases.end(), isTransient))
      checkStores();
    for (const Case& one : project_.cases)
      checkCase(one);
    return std::move(findings_);
  }

private:
  void add(Severity severity, const Object& object, const std::string& kind, const std::string& problem,
           const std::string& remedy)
  {
    findings_.push_back({severity, object.id, kind + " " + object.name, problem, remedy, {}, {}});
  }

  void checkSchedule(const Parameter& parameter)
  {
    const Schedule& schedule = *parameter.schedule;
    if (schedule.points.empty())
      add(Severity::Error, parameter, "parameter", "Its schedule has no points.", "Add at least one.");
    for (std::size_t i = 0; i < schedule.points.size(); ++i) {
      const TablePoint& point = schedule.points[i];
      if (!std::isfinite(point.at.si) || !std::isfinite(point.value.si))
        add(Severity::Error, parameter, "parameter",
            "Row " + std::to_string(i + 1) + " of its schedule holds no finite number.", "Correct the row.");
      else if (i > 0 && point.at.si <= schedule.points[i - 1].at.si)
        add(Severity::Error, parameter, "parameter",
            "The times of its schedule do not increase at row " + std::to_string(i + 1) + ".",
            "Sort the rows by time and remove doubles; for a jump choose steps, or two rows close together.");
    }
    if (!parameter.points.empty())
      add(Severity::Error, parameter, "parameter", "It has points in space and a schedule; only one of them can count.",
          "Remove one of them.");
  }

  /// What makes up the model stays the same for a whole run.
  void checkWhereItVaries()
  {
    for (const Field& field : fields_) {
      if (field.value() == nullptr || !variesInTime(project_, *field.value()))
        continue;
      const bool may = findById(project_.sources, field.objectId) != nullptr ||
                       findById(project_.boundaries, field.objectId) != nullptr ||
                       findById(project_.nodes, field.objectId) != nullptr ||
                       findById(project_.links, field.objectId) != nullptr ||
                       findById(project_.parameters, field.objectId) != nullptr;
      if (!may)
        findings_.push_back({Severity::Error,
                             field.objectId,
                             field.objectName,
                             field.label + " follows a schedule, but it cannot change during a run.",
                             "Use schedules for powers, coefficients, ambients, flows and fixed temperatures.",
                             {},
                             {}});
    }
  }

  void checkStores()
  {
    for (const Part& part : project_.parts) {
      const Material* material = findById(project_.materials, part.material);
      if (isMuted(project_, part) || material == nullptr)
        continue;
      for (const auto& [has, what] : {std::pair(material->density.has_value(), "density"),
                                      std::pair(material->specificHeat.has_value(), "specific heat")})
        if (!has)
          add(Severity::Error, part, "part",
              "Its material " + material->name + " has no " + what + ", which a transient case needs.",
              "Give the material one.");
    }
    for (const Boundary& boundary : project_.boundaries) {
      const auto* sheet = std::get_if<Sheet>(&boundary.condition);
      const Material* material = sheet != nullptr ? findById(project_.materials, sheet->material) : nullptr;
      if (material == nullptr || boundary.muted)
        continue;
      if (!material->density || !material->specificHeat)
        add(Severity::Error, boundary, "sheet",
            "Its material " + material->name + " lacks density or specific heat, which a transient case needs.",
            "Give the material both.");
      if (boundary.from || boundary.until)
        add(Severity::Error, boundary, "sheet", "It is there always: it cannot work from or until a time.",
            "Empty its times.");
    }
  }

  void checkCase(const Case& one)
  {
    if (one.kind == Case::Kind::Steady) {
      const auto controlled = [&](const HeatSource& source) {
        return !source.muted && source.thermostat && !variesInTime(project_, source.thermostat->setPoint);
      };
      if (const auto source = std::find_if(project_.sources.begin(), project_.sources.end(), controlled);
          source != project_.sources.end())
        add(Severity::Hint, one, "case",
            "It is steady: " + source->name + " gives its full power, without the thermostat.",
            "Make the case transient to let the thermostat work.");
      return;
    }
    if (!one.run)
      return;
    if (const auto* other = std::get_if<StartFromCase>(&one.run->start); other != nullptr && other->project.empty()) {
      if (other->of == one.id)
        add(Severity::Error, one, "case", "It starts from its own end.", "Choose another case.");
    }
    for (const EndRule& rule : one.run->ends)
      if (const auto* value = std::get_if<EndAtValue>(&rule.when))
        needsWatch(one, value->watch, "One of its end rules waits for");
    for (const RunRule& rule : one.run->rules)
      needsWatch(one, rule.watch, "One of its rules waits for");
    checkStored(one);
    checkScheduleLengths(one);
    if (one.run->startTime && !one.run->ends.empty())
      for (const EndRule& rule : one.run->ends)
        if (const auto* time = std::get_if<EndAtTime>(&rule.when);
            time != nullptr && time->time.si <= one.run->startTime->si)
          add(Severity::Error, one, "case", "It ends before it starts.", "Correct the start or the end.");
  }

  void checkStored(const Case& one)
  {
    for (const StoredSpan& span : one.run->storeAlso)
      if (span.to.has_value() != span.every.has_value() || (span.to && span.to->si <= span.from.si))
        add(Severity::Error, one, "case",
            "The instants to be stored from " + formatQuantity(span.from.si, Quantity::Time) + " on are not complete.",
            "Give a later end and an interval, or neither for a single instant.");
  }

  /// A run that goes on beyond a schedule is allowed, but seldom meant.
  void checkScheduleLengths(const Case& one)
  {
    std::optional<double> end;
    for (const EndRule& rule : one.run->ends)
      if (const auto* time = std::get_if<EndAtTime>(&rule.when))
        end = one.run->endWhenAll ? std::max(end.value_or(0), time->time.si)
                                  : std::min(end.value_or(time->time.si), time->time.si);
    if (!end)
      return;
    for (const Parameter& parameter : project_.parameters) {
      if (!parameter.schedule || parameter.schedule->points.empty() ||
          parameter.schedule->beyond == Schedule::Beyond::Repeats)
        continue;
      const Schedule& schedule = *parameter.schedule;
      const double last = schedule.points.back().at.si + (schedule.shift ? schedule.shift->si : 0);
      const bool refused = schedule.beyond == Schedule::Beyond::Refused;
      const bool zero = schedule.beyond == Schedule::Beyond::Zero;
      if (schedule.points.size() > 1 && last < *end)
        add(refused ? Severity::Error : Severity::Hint, one, "case",
            "It runs to " + formatQuantity(*end, Quantity::Time) + ", the schedule of " + parameter.name + " ends at " +
                formatQuantity(last, Quantity::Time) +
                (refused ? " and nothing may follow it."
                 : zero  ? "; it is zero from there."
                         : "; its last value holds from there."),
            "Give the schedule more points, say what follows it, or end the run earlier.");
    }
  }

  void needsWatch(const Case& one, const std::string& id, const std::string& words)
  {
    const Watch* watch = findById(project_.watches, id);
    if (watch != nullptr && quantityOf(*watch) != Quantity::Temperature &&
        quantityOf(*watch) != Quantity::TemperatureStep)
      add(Severity::Error, one, "case", words + " " + watch->name + ", which is no temperature.",
          "Choose a watch of a temperature.");
  }

  const Project& project_;
  const std::vector<Field>& fields_;
  std::vector<Finding> findings_;
};

} // namespace

std::vector<Finding> checkTime(const Project& project, const std::vector<Field>& fields)
{
  return TimeCheck(project, fields).run();
}

} // namespace kiln
