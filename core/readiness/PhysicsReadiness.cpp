// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "readiness/PhysicsReadiness.h"

#include "geometry/SurfaceFaces.h"
#include "heat/boundaries/Correlations.h"
#include "model/Edit.h"
#include "model/Fields.h"
#include "model/Formula.h"
#include "model/TimeSeries.h"
#include "units/Quantity.h"

#include <algorithm>
#include <cmath>
#include <map>
#include <set>
#include <unordered_map>

namespace kiln
{
namespace
{

using Severity = Finding::Severity;

std::string inTime(double seconds) { return " at " + formatQuantity(seconds, Quantity::Time); }

class PhysicsCheck
{
public:
  PhysicsCheck(const Project& project, const std::vector<Field>& fields) : project_(project), fields_(fields) {}

  std::vector<Finding> run()
  {
    for (const HeatSource& source : project_.sources)
      checkThermostat(source);
    checkSchedules();
    checkPoints();
    checkGravity();
    checkParts();
    for (const Case& one : project_.cases)
      if (one.kind == Case::Kind::Transient && one.run)
        checkRun(one, *one.run);
    checkCaseNames();
    checkCircles();
    return std::move(findings_);
  }

private:
  void add(Severity severity, const Object& object, const std::string& kind, const std::string& problem,
           const std::string& remedy)
  {
    findings_.push_back({severity, object.id, kind + " " + object.name, problem, remedy, {}, {}});
  }
  void add(const Field& field, const std::string& problem, const std::string& remedy)
  {
    findings_.push_back({Severity::Error, field.objectId, field.objectName, problem, remedy, {}, {}});
  }

  /// A source would go on heating for ever while nobody looks.
  void checkThermostat(const HeatSource& source)
  {
    const Watch* watch = source.thermostat ? findById(project_.watches, source.thermostat->watch) : nullptr;
    if (watch == nullptr || source.muted)
      return;
    const auto isOff = [&](const std::string& id) {
      const Part* part = findById(project_.parts, id);
      return part != nullptr && isMuted(project_, *part);
    };
    std::visit(
        [&](const auto& figure) {
          if constexpr (requires { figure.parts; }) {
            const std::vector<std::string> parts = expandGroups(project_, figure.parts);
            if (!parts.empty() && std::all_of(parts.begin(), parts.end(), isOff))
              add(Severity::Error, source, "source",
                  "Its thermostat reads " + watch->name + ", but what that watches is switched off.",
                  "Switch the part on or the source off, or let the thermostat read another watch.");
          } else if constexpr (requires { figure.node; }) {
            const Node* node = findById(project_.nodes, figure.node);
            if (node != nullptr && node->muted)
              add(Severity::Error, source, "source",
                  "Its thermostat reads " + watch->name + ", but that node is switched off.",
                  "Switch the node on or the source off, or let the thermostat read another watch.");
          }
        },
        watch->figure);
  }

  /// Every value that follows a schedule, at every point of it.
  void checkSchedules()
  {
    if (std::none_of(project_.parameters.begin(), project_.parameters.end(),
                     [](const Parameter& parameter) { return parameter.schedule.has_value(); }))
      return;
    std::unordered_map<std::string, const Field*> varying; // by path
    for (const Field& field : fields_)
      if (const Number* own = field.value(); own != nullptr && own->formula && variesInTime(project_, *own))
        varying.emplace(field.path, &field);
    if (varying.empty())
      return;
    std::set<double> instants;
    constexpr std::size_t most = 200;
    for (const Parameter& parameter : project_.parameters)
      if (parameter.schedule)
        for (const TablePoint& point : parameter.schedule->points)
          if (std::isfinite(point.at.si) && instants.size() < most)
            instants.insert(point.at.si + (parameter.schedule->shift ? parameter.schedule->shift->si : 0));
    std::set<std::string> told;
    Project model = project_; // nothing of a case varies in time, and there may be hundreds
    model.cases.clear();
    for (const double instant : instants) {
      auto then = projectAt(model, instant);
      if (!then)
        continue; // said elsewhere: a schedule is refused there
      for (const Field& field : fields(*then)) {
        const auto own = varying.find(field.path);
        if (own == varying.end() || field.value() == nullptr)
          continue;
        if (const auto wrong = outsideRange(field.value()->si, field.range, field.quantity);
            wrong && told.insert(field.path).second)
          add(*own->second, own->second->label + inTime(instant) + " " + *wrong + ".",
              "Correct the schedule that it follows.");
      }
    }
  }
  [[nodiscard]] const Field* fieldOf(const std::string& path) const
  {
    const auto found = std::find_if(fields_.begin(), fields_.end(), [&](const Field& f) { return f.path == path; });
    return found != fields_.end() ? &*found : nullptr;
  }

  /// Every value that follows measured points, at all of these.
  void checkPoints()
  {
    const Formulas formulas(project_);
    for (const Field& field : fields_) {
      if (!field.varies || field.value() == nullptr || !field.value()->formula)
        continue;
      const std::vector<std::string> names = namesIn(field.value()->text);
      for (const Parameter& parameter : project_.parameters) {
        if (parameter.points.empty() || std::find(names.begin(), names.end(), parameter.name) == names.end())
          continue;
        const auto at = formulas.atPlaces(field.value()->text, field.quantity);
        if (!at)
          continue; // said as a formula's problem
        for (const PlacedPoint& point : parameter.points) {
          const double si = (*at)(Vec3(point.place[0], point.place[1], point.place[2]));
          if (const auto wrong = outsideRange(si, field.range, field.quantity)) {
            add(field, field.label + ", by the points of “" + parameter.name + "”, " + *wrong + ".",
                "Check the points and their unit.");
            break;
          }
        }
      }
    }
  }

  void checkGravity()
  {
    const Number3 gravity = project_.environment.value_or(Environment{}).gravity;
    if (std::hypot(gravity.x.si, gravity.y.si, gravity.z.si) > 0)
      return;
    for (const Boundary& boundary : project_.boundaries)
      if (const auto* own = std::get_if<CorrelatedConvection>(&boundary.condition);
          own != nullptr && !boundary.muted && !isForced(own->situation))
        add(Severity::Error, boundary, "boundary", "Its correlation is of still fluid, but there is no gravity.",
            "Give gravity a direction, for example 0, 0, -1, or use a coefficient.");
  }

  void checkParts()
  {
    for (const Part& part : project_.parts)
      for (const std::string& id : part.yieldsTo) {
        const Part* other = findById(project_.parts, id);
        if (other == &part)
          add(Severity::Error, part, "part", "It yields to itself.", "Take it out of the parts it yields to.");
        else if (other != nullptr && part.id < id &&
                 std::find(other->yieldsTo.begin(), other->yieldsTo.end(), part.id) != other->yieldsTo.end())
          add(Severity::Error, part, "part", "It and part " + other->name + " yield to each other.",
              "Let one of them keep the space where they overlap.");
      }
    for (const Contact& contact : project_.contacts)
      if (contact.partA == contact.partB)
        add(Severity::Error, contact, "contact", "It joins a part with itself.", "Choose two parts, or remove it.");
  }

  void checkRun(const Case& one, const TransientRun& run)
  {
    constexpr double roughest = 0.01; // of what flows
    if (run.convergence && run.convergence->si > roughest)
      add(Severity::Error, one, "case",
          "A step of it may miss " + formatQuantity(run.convergence->si, Quantity::Plain) +
              " of what flows: then any temperature is an answer.",
          "Allow 1 % at most; 1e-6 is usual.");
    if (run.storeEvery && run.longest) {
      constexpr double most = 1e6;
      const double instants = run.longest->si / run.storeEvery->si;
      if (instants > most)
        add(Severity::Error, one, "case",
            "It would store " + formatQuantity(std::round(instants), Quantity::Plain, {}, 2) + " instants.",
            "Store one every " + formatQuantity(run.longest->si / most, Quantity::Time, {}, 2) + " or more seldom.");
    }
    constexpr double shortest = 1e-6; // s
    for (const EndRule& rule : run.ends)
      if (const auto* end = std::get_if<EndAtTime>(&rule.when))
        if (const double lasts = end->time.si - (run.startTime ? run.startTime->si : 0); lasts > 0 && lasts < shortest)
          add(Severity::Error, one, "case", "It would last " + formatQuantity(lasts, Quantity::Time) + " only.",
              "Check the unit of its end.");
    for (const RunRule& rule : run.rules)
      checkRule(one, rule);
  }

  void checkRule(const Case& one, const RunRule& rule)
  {
    for (const Change& change : rule.set) {
      const Field* field = fieldOf(change.field);
      if (field == nullptr) {
        add(Severity::Error, one, "case", "A rule of it sets " + change.field + ", which does not exist.",
            "Correct the name, or remove that line.");
        continue;
      }
      const bool fixed = findById(project_.parts, field->objectId) != nullptr ||
                         findById(project_.materials, field->objectId) != nullptr ||
                         findById(project_.surfaces, field->objectId) != nullptr ||
                         findById(project_.enclosures, field->objectId) != nullptr;
      if (fixed)
        add(Severity::Error, one, "case",
            "A rule of it sets " + field->objectName + ", " + field->label + ", which cannot change during a run.",
            "Let it set powers, coefficients, ambients or held temperatures.");
      else if (change.number() == nullptr)
        add(Severity::Error, one, "case",
            "A rule of it sets " + field->objectName + ", " + field->label + " to something that is no number.",
            "Let it set powers, coefficients, ambients or held temperatures.");
      else if (const auto wrong = outsideRange(change.number()->si, field->range, field->quantity))
        add(Severity::Error, one, "case",
            "A rule of it sets " + field->objectName + ", " + field->label + ", which then " + *wrong + ".",
            "Enter another value.");
    }
  }

  void checkCaseNames()
  {
    std::map<std::string, int> called;
    for (const Case& one : project_.cases)
      if (++called[one.name] == 2)
        add(Severity::Hint, one, "case", "Another case has the same name.", "Rename one of them.");
  }

  void checkCircles()
  {
    const auto startOf = [&](const Case& one) -> const Case* {
      const auto* start =
          one.kind == Case::Kind::Transient && one.run ? std::get_if<StartFromCase>(&one.run->start) : nullptr;
      return start != nullptr && start->project.empty() ? findById(project_.cases, start->of) : nullptr;
    };
    for (const Case& one : project_.cases) {
      std::string way = "“" + one.name + "”";
      std::set<std::string> seen{one.id};
      const Case* next = startOf(one);
      for (; next != nullptr && seen.insert(next->id).second; next = startOf(*next))
        way += ", “" + next->name + "”";
      if (next == &one && seen.size() > 1) // a start from its own end is said elsewhere
        add(Severity::Error, one, "case", "Cases start from each other in a circle: " + way + ".",
            "Let one of them start from a temperature or its steady state.");
    }
  }

  const Project& project_;
  const std::vector<Field>& fields_;
  std::vector<Finding> findings_;
};

/// How far a place is from the nearest part's box, m.
double distanceTo(const FaceTable& geometry, const Number3& place)
{
  const Vec3 at = geometry.section.flat(Vec3(place.x.si, place.y.si, place.z.si));
  double least = std::numeric_limits<double>::infinity();
  for (const GeometryPart& part : geometry.parts) {
    const Vec3 low = geometry.section.flat(part.low);
    const Vec3 high = geometry.section.flat(part.high);
    least = std::min(least, (at - at.cwiseMax(low).cwiseMin(high)).norm());
  }
  return least;
}

class PlacedCheck
{
public:
  PlacedCheck(const Project& project, const FaceTable& geometry) : project_(project), geometry_(geometry) {}

  std::vector<Finding> run()
  {
    for (const HeatSource& source : project_.sources)
      if (const auto* point = std::get_if<PointPower>(&source.heat); point != nullptr && !source.muted)
        checkPlace(source, "source", point->place, "It heats a point");
    for (const Boundary& boundary : project_.boundaries)
      if (const auto* point = std::get_if<FixedPoint>(&boundary.condition); point != nullptr && !boundary.muted)
        checkPlace(boundary, "boundary", point->place, "It holds a point");
    checkVoltages();
    checkCoefficients();
    return std::move(findings_);
  }

private:
  void add(const Object& object, const std::string& kind, const std::string& problem, const std::string& remedy,
           std::vector<FaceId> faces = {})
  {
    findings_.push_back({Severity::Error, object.id, kind + " " + object.name, problem, remedy, std::move(faces), {}});
  }

  void checkPlace(const Object& object, const std::string& kind, const Number3& place, const std::string& words)
  {
    Vec3 low = Vec3::Constant(std::numeric_limits<double>::infinity());
    Vec3 high = -low;
    for (const GeometryPart& part : geometry_.parts) {
      low = low.cwiseMin(part.low);
      high = high.cwiseMax(part.high);
    }
    if (geometry_.parts.empty())
      return;
    constexpr double slack = 0.01; // of the model: what lies on a round face may be a little outside of its mesh
    const double away = distanceTo(geometry_, place);
    if (away > slack * (high - low).norm())
      add(object, kind, words + " " + formatQuantity(away, Quantity::Length, {}, 3) + " away from the nearest part.",
          "Give a place on or in a part; check the unit.");
  }

  void checkVoltages()
  {
    std::map<int, const Boundary*> holds; // by face
    for (const Boundary& boundary : project_.boundaries) {
      const auto* voltage = std::get_if<FixedVoltage>(&boundary.condition);
      if (voltage == nullptr || boundary.muted)
        continue;
      for (const FaceId face : facesOf(project_, geometry_, voltage->surface).faces) {
        const auto [before, fresh] = holds.try_emplace(face, &boundary);
        if (!fresh && std::get<FixedVoltage>(before->second->condition).voltage.si != voltage->voltage.si) {
          add(boundary, "boundary", "It and " + before->second->name + " give one face two voltages.",
              "Take the face out of one of their surfaces.", {face});
          break;
        }
      }
    }
  }

  /// Formulas of the place, at the middle of every face they hold on.
  void checkCoefficients()
  {
    Project copy = project_;
    const Formulas formulas(project_);
    for (const Field& field : fields(copy)) {
      const Boundary* boundary = findById(project_.boundaries, field.objectId);
      if (boundary == nullptr || boundary->muted || !field.varies || field.value() == nullptr ||
          !field.value()->formula || !variesInPlace(project_, *field.value()))
        continue;
      const auto at = formulas.atPlaces(field.value()->text, field.quantity);
      if (!at)
        continue;
      for (const FaceId face : facesOf(project_, geometry_, surfaceOf(*boundary)).faces)
        if (const auto wrong = outsideRange((*at)(geometry_.faces[static_cast<std::size_t>(face)].centroid),
                                            field.range, field.quantity)) {
          add(*boundary, "boundary", field.label + ", at one of its faces, " + *wrong + ".",
              "Check the formula, or the surface it holds on.", {face});
          break;
        }
    }
  }

  const Project& project_;
  const FaceTable& geometry_;
  std::vector<Finding> findings_;
};

} // namespace

std::vector<Finding> checkPhysics(const Project& project, const std::vector<Field>& fields)
{
  return PhysicsCheck(project, fields).run();
}

std::vector<Finding> checkPhysicsOn(const Project& project, const FaceTable& geometry)
{
  return PlacedCheck(project, geometry).run();
}

} // namespace kiln
