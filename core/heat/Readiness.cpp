// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "heat/Readiness.h"

#include "heat/Correlations.h"
#include "heat/NetworkReadiness.h"
#include "heat/PhysicsReadiness.h"
#include "model/Edit.h"
#include "model/Fields.h"
#include "model/Formula.h"

#include <algorithm>
#include <cmath>
#include <set>

namespace kiln
{
namespace
{

using Severity = Finding::Severity;

/// Collects findings about one project.
class ModelCheck
{
public:
  explicit ModelCheck(const Project& project) : project_(project) {}

  std::vector<Finding> run()
  {
    for (const FormulaProblem& problem : applyParameters(project_))
      add(Severity::Error, problem.objectId, problem.failure.object, problem.failure.problem, problem.failure.remedy);
    checkFields();
    checkSituations();
    checkEnvironment();
    for (const Parameter& parameter : project_.parameters)
      if (const auto bad = badParameterName(project_, parameter.id, parameter.name))
        add(Severity::Error, parameter.id, "parameter " + parameter.name, *bad, "Give it another name.");
    for (const UnknownKey& key : unknownKeys(project_))
      add(Severity::Hint, key.objectId, key.objectName,
          "The key “" + key.key + "” is not known; it is kept but does nothing.",
          key.nearest.empty() ? "Remove it if it is a slip." : "Did you mean “" + key.nearest + "”?");
    if (std::all_of(project_.parts.begin(), project_.parts.end(),
                    [&](const Part& part) { return isMuted(project_, part); }) &&
        std::all_of(project_.nodes.begin(), project_.nodes.end(), [](const Node& node) { return node.muted; }))
      add(Severity::Error, "", "project", "It has no part to solve.", "Add a part or a lumped node, or unmute one.");
    if (project_.cases.empty())
      add(Severity::Error, "", "project", "It has no case.", "Add a case.");
    for (const Part& part : project_.parts)
      checkPart(part);
    checkReferences();
    checkCases();
    for (const auto& more : {checkNetwork(project_), checkTime(project_), checkSection(project_), checkDoubts(project_),
                             checkPhysics(project_)})
      findings_.insert(findings_.end(), more.begin(), more.end());
    checkUnused();
    return std::move(findings_);
  }

private:
  void add(Severity severity, const std::string& id, const std::string& object, const std::string& problem,
           const std::string& remedy, std::vector<Mend> mends = {})
  {
    findings_.push_back({severity, id, object, problem, remedy, {}, std::move(mends)});
  }

  void checkFields()
  {
    for (const Field& field : fields(project_)) {
      const Number* value = field.value();
      if (value == nullptr)
        continue;
      if (const auto wrong = outsideRange(value->si, field.range, field.quantity))
        add(Severity::Error, field.objectId, field.objectName, field.label + " " + *wrong + ".",
            "Enter another value.");
      else if (const auto doubt = implausible(field, value->si))
        add(Severity::Hint, field.objectId, field.objectName, *doubt, "Check the unit.");
      if (const std::vector<TablePoint>* table = field.table())
        checkTable(field, *table);
      if (value->text.empty() || value->formula)
        continue;
      const auto parsed = parseQuantity(value->text, field.quantity);
      const double slack = 1e-6 * std::max(std::abs(value->si), 1e-9);
      if (!parsed || std::abs(parsed->si - value->si) > slack)
        add(Severity::Hint, field.objectId, field.objectName,
            field.label + ": the text “" + value->text + "” does not say the stored value " +
                formatQuantity(value->si, field.quantity, TemperatureUnit::Celsius, 6) + ", which is used.",
            "Type the value again.");
    }
  }

  /// Correlations rest on gravity and air pressure, which are asked once a project.
  void checkEnvironment()
  {
    if (project_.environment)
      return;
    for (const Boundary& boundary : project_.boundaries)
      if (!boundary.muted && std::holds_alternative<CorrelatedConvection>(boundary.condition)) {
        add(Severity::Hint, boundary.id, "boundary " + boundary.name,
            "Its correlation takes gravity along −z and an air pressure of 101.325 kPa, because nothing else was said.",
            "Answer the question in its row, or confirm these.",
            {{Mend::Action::UsualEnvironment, "Confirm gravity and pressure", {}}});
        return;
      }
  }

  /// A coefficient far from what is usual for the situation it is meant for.
  void checkSituations()
  {
    constexpr double farOutside = 2; // times beyond an end of the usual range
    for (const Boundary& boundary : project_.boundaries) {
      const auto* convection = std::get_if<Convection>(&boundary.condition);
      if (convection == nullptr || convection->situation.empty())
        continue;
      const auto known = std::find_if(coefficientRanges().begin(), coefficientRanges().end(),
                                      [&](const auto& range) { return range.situation == convection->situation; });
      if (known == coefficientRanges().end()) {
        add(Severity::Hint, boundary.id, "boundary " + boundary.name,
            "The situation “" + convection->situation + "” is not known here; its coefficient is not judged by it.",
            "Choose one from the usual values.");
        continue;
      }
      const double h = convection->coefficient.si;
      if (h < known->low / farOutside || h > known->high * farOutside)
        add(Severity::Hint, boundary.id, "boundary " + boundary.name,
            "A coefficient of " + formatQuantity(h, Quantity::AreaConductance) + " is far from what is usual for " +
                convection->situation + ", " + plainNumber(known->low) + " to " +
                formatQuantity(known->high, Quantity::AreaConductance) + ".",
            "Check the number and its unit, or choose another situation.");
    }
  }

  void checkTable(const Field& field, const std::vector<TablePoint>& table)
  {
    for (std::size_t i = 0; i < table.size(); ++i) {
      if (!(table[i].at.si >= 0))
        add(Severity::Error, field.objectId, field.objectName,
            field.label + ", row " + std::to_string(i + 1) + ": its temperature is below absolute zero.",
            "Correct the table; check the unit.");
      if (const auto wrong = outsideRange(table[i].value.si, field.range, field.quantity))
        add(Severity::Error, field.objectId, field.objectName,
            field.label + ", row " + std::to_string(i + 1) + " " + *wrong + ".", "Correct the table.");
      if (i > 0 && table[i].at.si <= table[i - 1].at.si)
        add(Severity::Error, field.objectId, field.objectName,
            field.label + ": the temperatures of its table do not increase at row " + std::to_string(i + 1) + ".",
            "Sort the rows by temperature and remove doubles.",
            {{Mend::Action::SortTable, "Sort the table", {field.path}}});
    }
  }

  static std::optional<std::string> implausible(const Field& field, double si)
  {
    constexpr double mostConductivity = 2500; // W/(m·K), above diamond
    constexpr double mostCoefficient = 1e5;   // W/(m²·K), above strong boiling
    if (field.quantity == Quantity::Conductivity && si > mostConductivity)
      return field.label + " of " + formatQuantity(si, field.quantity) + " is higher than that of any solid.";
    if (field.quantity == Quantity::AreaConductance && field.label == "Coefficient h" && si > mostCoefficient)
      return field.label + " of " + formatQuantity(si, field.quantity) + " is higher than that of strong boiling.";
    constexpr double mostPower = 1e9; // W, of a power station
    if (field.quantity == Quantity::Power && std::abs(si) > mostPower)
      return field.label + " of " + formatQuantity(si, field.quantity) + " is that of a power station.";
    constexpr double mostTemperature = 4000; // K
    if (field.quantity == Quantity::Temperature && si > mostTemperature)
      return field.label + " of " + formatQuantity(si, field.quantity) + " would melt any solid.";
    return std::nullopt;
  }

  void checkPart(const Part& part)
  {
    const std::string object = "part " + part.name;
    if (isMuted(project_, part))
      return;
    if (part.material.empty())
      add(Severity::Error, part.id, object, "It has no material.", "Give it one.",
          project_.materials.size() == 1 ? std::vector<Mend>{{Mend::Action::GiveMaterial,
                                                              "Make it of " + project_.materials.front().name,
                                                              {part.id, project_.materials.front().id}}}
                                         : std::vector<Mend>{});
    else if (findById(project_.materials, part.material) == nullptr)
      add(Severity::Error, part.id, object, "Its material “" + part.material + "” does not exist.",
          suggestion(project_.materials, part.material, "Choose a material of this project."));
  }

  template <class List>
  static std::string suggestion(const List& list, const std::string& id, const std::string& otherwise)
  {
    std::vector<std::string> ids;
    for (const auto& item : list)
      ids.push_back(item.id);
    const std::string nearest = nearestWord(id, ids);
    return nearest.empty() ? otherwise : "Did you mean “" + nearest + "”?";
  }

  template <class List>
  void needs(const List& list, const std::string& wanted, std::string_view kind, const Object& by,
             const std::string& byName)
  {
    if (findById(list, wanted) == nullptr)
      add(Severity::Error, by.id, byName,
          wanted.empty() ? "It names no " + std::string(kind) + "."
                         : "It names the " + std::string(kind) + " “" + wanted + "”, which does not exist.",
          suggestion(list, wanted, "Choose an existing " + std::string(kind) + "."));
  }
  void needsParts(const std::vector<std::string>& parts, const Object& by, const std::string& byName)
  {
    if (parts.empty())
      add(Severity::Error, by.id, byName, "It names no part.", "Choose at least one.");
    for (const std::string& part : expandGroups(project_, parts))
      needs(project_.parts, part, "part", by, byName);
  }
  /// Checks whatever an alternative refers to.
  template <class Kind>
  void checkKind(const Kind& kind, const Object& by, const std::string& byName)
  {
    if constexpr (requires { kind.parts; })
      needsParts(kind.parts, by, byName);
    if constexpr (requires { kind.surface; })
      needs(project_.surfaces, kind.surface, "surface", by, byName);
    if constexpr (requires { kind.part; })
      needs(project_.parts, kind.part, "part", by, byName);
    if constexpr (requires { kind.material; })
      needs(project_.materials, kind.material, "material", by, byName);
    if constexpr (requires { kind.partA; }) {
      needs(project_.parts, kind.partA, "part", by, byName);
      needs(project_.parts, kind.partB, "part", by, byName);
    }
  }

  void checkReferences()
  {
    for (const HeatSource& source : project_.sources)
      std::visit([&](const auto& kind) { checkKind(kind, source, "source " + source.name); }, source.heat);
    for (const Boundary& boundary : project_.boundaries)
      std::visit([&](const auto& kind) { checkKind(kind, boundary, "boundary " + boundary.name); }, boundary.condition);
    for (const Watch& watch : project_.watches)
      std::visit([&](const auto& kind) { checkKind(kind, watch, "watch " + watch.name); }, watch.figure);
    for (const Contact& contact : project_.contacts)
      checkKind(contact, contact, "contact " + contact.name);
    for (const Enclosure& enclosure : project_.enclosures) {
      if (enclosure.surfaces.empty())
        add(Severity::Error, enclosure.id, "enclosure " + enclosure.name, "It names no surface.",
            "Choose the surfaces around the space, or remove it.",
            {{Mend::Action::RemoveObject, "Remove it", {enclosure.id}}});
      for (const std::string& surface : enclosure.surfaces)
        needs(project_.surfaces, surface, "surface", enclosure, "enclosure " + enclosure.name);
    }
    for (const Finish& finish : project_.finishes)
      for (const std::string& surface : finish.surfaces)
        needs(project_.surfaces, surface, "surface", finish, "finish " + finish.name);
    for (const Surface& surface : project_.surfaces) {
      for (const std::string& part : expandGroups(project_, surface.exposedOf))
        needs(project_.parts, part, "part", surface, "surface " + surface.name);
      for (const std::string& other : surface.except)
        needs(project_.surfaces, other, "surface", surface, "surface " + surface.name);
    }
    for (const Contact& contact : project_.contacts)
      if (&contact != findContact(project_, contact.partA, contact.partB))
        add(Severity::Error, contact.id, "contact " + contact.name,
            "Contact " + findContact(project_, contact.partA, contact.partB)->name +
                " already joins these parts, and only one can count.",
            "Remove one of them.", {{Mend::Action::RemoveObject, "Remove it", {contact.id}}});
  }

  /// Objects that nothing uses: they do no harm, but may be a slip.
  void checkUnused()
  {
    std::set<std::string> used;
    forEachReference(project_, [&](std::string& reference, Reference kind) {
      if (kind == Reference::Id)
        used.insert(reference);
    });
    const auto uses = [&](const Number& number) {
      if (number.formula)
        for (const std::string& name : namesIn(number.text))
          used.insert("parameter:" + name);
    };
    for (const Field& field : fields(project_))
      if (field.value() != nullptr)
        uses(*field.value());
    for (const Case& one : project_.cases)
      for (const Change& change : one.changes)
        uses(change.value);
    const auto hint = [&](const Object& object, const std::string& kind) {
      add(Severity::Hint, object.id, kind + " " + object.name, "Nothing uses it.", "Use it, or remove it.",
          {{Mend::Action::RemoveObject, "Remove it", {object.id}}});
    };
    for (const Parameter& parameter : project_.parameters)
      if (!used.contains("parameter:" + parameter.name))
        hint(parameter, "parameter");
    for (const Material& material : project_.materials)
      if (!used.contains(material.id))
        hint(material, "material");
    for (const PartGroup& group : project_.groups)
      if (!used.contains(group.id))
        hint(group, "part group");
    for (const Surface& surface : project_.surfaces)
      if (!used.contains(surface.id))
        hint(surface, "surface");
    for (const Finish& finish : project_.finishes)
      if (finish.surfaces.empty())
        hint(finish, "finish");
  }

  void checkCases()
  {
    for (const Case& one : project_.cases) {
      if (const auto changed = projectForCase(project_, one); !changed)
        add(Severity::Error, one.id, changed.error().object, changed.error().problem, changed.error().remedy);
      std::vector<Field> all = fields(project_);
      for (const Change& change : one.changes)
        for (const Field& field : all)
          if (field.path == change.field)
            if (const auto wrong = outsideRange(change.value.si, field.range, field.quantity))
              add(Severity::Error, one.id, "case " + one.name,
                  field.objectName + ", " + field.label + " " + *wrong + ".", "Enter another value.");
    }
  }

  Project project_; // a copy: the field walk needs one it could write to
  std::vector<Finding> findings_;
};

} // namespace

std::vector<Finding> checkModel(const Project& project) { return ModelCheck(project).run(); }

Finding findingOf(const Project& project, const Failure& failure)
{
  Finding finding{Severity::Error, failure.ids.empty() ? std::string() : failure.ids.front(), failure.object,
                  failure.problem, failure.remedy};
  if (failure.place)
    finding.place = Vec3((*failure.place)[0], (*failure.place)[1], (*failure.place)[2]);
  if (failure.ids.size() == 2) {
    const Part* a = findById(project.parts, failure.ids[0]);
    const Part* b = findById(project.parts, failure.ids[1]);
    if (a != nullptr && b != nullptr)
      finding.mends = {{Mend::Action::KeepSpace, a->name + " keeps the space", {a->id, b->id}},
                       {Mend::Action::KeepSpace, b->name + " keeps the space", {b->id, a->id}}};
  }
  return finding;
}

bool hasErrors(const std::vector<Finding>& findings)
{
  return std::any_of(findings.begin(), findings.end(), [](const Finding& f) { return f.severity == Severity::Error; });
}

} // namespace kiln
