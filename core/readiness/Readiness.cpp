// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "readiness/Readiness.h"

#include "base/NearestWord.h"
#include "heat/boundaries/Correlations.h"
#include "model/Edit.h"
#include "model/Fields.h"
#include "model/ObjectKinds.h"
#include "model/OwnValues.h"
#include "model/Parameters.h"
#include "model/References.h"
#include "readiness/NetworkReadiness.h"
#include "readiness/PhysicsReadiness.h"

#include <algorithm>
#include <cmath>
#include <set>
#include <string_view>
#include <unordered_map>

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
    WalkedFields walked = fieldsAndUnknown(project_);
    fields_ = std::move(walked.fields);
    for (const FormulaProblem& problem : applyParameters(project_, fields_))
      add(Severity::Error, problem.objectId, problem.failure.object, problem.failure.problem, problem.failure.remedy);
    checkFields();
    checkSituations();
    checkEnvironment();
    for (const Parameter& parameter : project_.parameters)
      if (const auto bad = badParameterName(project_, parameter.id, parameter.name))
        add(Severity::Error, parameter.id, "parameter " + parameter.name, *bad, "Give it another name.");
    for (const UnknownKey& key : walked.unknown)
      add(Severity::Hint, key.objectId, key.objectName,
          "The key “" + key.key + "” is not known; it is kept but does nothing.",
          key.nearest.empty() ? "Remove it if it is a slip." : "Did you mean “" + key.nearest + "”?");
    if (std::all_of(project_.parts.begin(), project_.parts.end(),
                    [&](const Part& part) { return isMuted(project_, part); }) &&
        std::all_of(project_.nodes.begin(), project_.nodes.end(), [](const Node& node) { return node.muted; }))
      add(Severity::Error, "", "project", "It has no part to solve.", "Add a part or a lumped node, or switch one on.");
    if (project_.cases.empty())
      add(Severity::Error, "", "project", "It has no case.", "Add a case.");
    for (const Part& part : project_.parts)
      checkPart(part);
    checkReferences();
    checkCases();
    checkSets();
    checkWatches();
    for (const auto& more : {checkNetwork(project_), checkTime(project_, fields_), checkSection(project_),
                             checkDoubts(project_, fields_), checkPhysics(project_, fields_)})
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
    for (const Field& field : fields_) {
      const Number* value = field.value();
      if (value == nullptr)
        continue;
      if (const auto wrong = outsideRange(value->si, field.range, field.quantity)) // of a picture it stops no solve
        add(field.stage == Stage::Nothing ? Severity::Hint : Severity::Error, field.objectId, field.objectName,
            field.label + " " + *wrong + ".", "Enter another value.");
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
      add(Severity::Error, part.id, object, "It has no material.", "Choose a material for it.",
          project_.materials.size() == 1 ? std::vector<Mend>{{Mend::Action::GiveMaterial,
                                                              "Make it of " + project_.materials.front().name,
                                                              {part.id, project_.materials.front().id}}}
                                         : std::vector<Mend>{});
  }

  /// Whatever names something names something that is there.
  void checkReferences()
  {
    forEachReference(std::as_const(project_), [&](const ReferenceUse& use) {
      if (use.spec.to & (Refers::Face | Refers::Field)) // of shapes; of cases
        return;
      const Severity severity = use.stage == Stage::Nothing ? Severity::Hint : Severity::Error; // it stops no solve
      if (use.text == nullptr || use.text->empty())
        return add(severity, use.holderId, use.holder, "It names no " + kindWords(use.spec.to) + ".",
                   use.text == nullptr ? "Choose at least one." : "Choose one.", withoutIt(use));
      if (kindOfObject(project_, *use.text) & use.spec.to)
        return;
      const std::string nearest = nearestWord(*use.text, idsOf(project_, use.spec.to));
      add(severity, use.holderId, use.holder,
          "It names the " + kindWords(use.spec.to) + " “" + *use.text + "”, which does not exist.",
          nearest.empty() ? "Choose an existing " + kindWords(use.spec.to) + "." : "Did you mean “" + nearest + "”?",
          withoutIt(use));
    });
    for (const Contact& contact : project_.contacts)
      if (contact.surface.empty() && !contact.muted && &contact != findContact(project_, contact.partA, contact.partB))
        add(Severity::Error, contact.id, "contact " + contact.name,
            "Contact " + findContact(project_, contact.partA, contact.partB)->name +
                " already joins these parts, and only one can count.",
            "Let one of them name a surface with a part of the shared faces, or remove it.",
            {{Mend::Action::RemoveObject, "Remove it", {contact.id}}});
  }

  /// An object that is nothing without what it names can go.
  static std::vector<Mend> withoutIt(const ReferenceUse& use)
  {
    if (!use.ofObject || use.spec.need == Need::May)
      return {};
    return {{Mend::Action::RemoveObject, "Remove it", {use.holderId}}};
  }

  /// Objects that nothing uses: they do no harm, but may be a slip.
  void checkUnused()
  {
    std::set<std::string> used;
    forEachReference(std::as_const(project_), [&](const ReferenceUse& use) {
      if (use.text != nullptr)
        used.insert(*use.text);
    });
    const auto uses = [&](const Number& number) {
      if (number.formula)
        for (const std::string& name : namesIn(number.text))
          used.insert("parameter:" + name);
    };
    for (const Field& field : fields_)
      if (field.value() != nullptr)
        uses(*field.value());
    forEachOwnValues(std::as_const(project_), [&](const std::vector<Change>& changes) {
      for (const Change& change : changes)
        if (const Property* own = change.number())
          uses(*own);
    });
    for (const Watch& watch : project_.watches)
      if (const auto* own = std::get_if<FormulaFigure>(&watch.figure))
        for (const std::string& name : namesIn(own->formula))
          used.insert("parameter:" + name);
    const auto hint = [&](const Object& object, const std::string& kind) {
      add(Severity::Hint, object.id, kind + " " + object.name, "Nothing uses it.", "Use it, or remove it.",
          {{Mend::Action::RemoveObject, "Remove it", {object.id}}});
    };
    constexpr Refers toBeUsed = Refers::Parameter | Refers::Material | Refers::Group | Refers::Surface;
    forEachObjectList(std::as_const(project_), [&](const auto& list) {
      for (const auto& object : list)
        if (const ObjectKind kind = kindOf(&object);
            kind.kind & toBeUsed &&
            !used.contains(kind.kind == Refers::Parameter ? "parameter:" + object.name : object.id) &&
            !standsBehind(object, used))
          hint(object, std::string(kind.word));
    });
    for (const Finish& finish : project_.finishes)
      if (finish.surfaces.empty())
        hint(finish, "finish");
  }

  /// Formulas of watches, and what they are compared with.
  void checkWatches()
  {
    const Formulas formulas(project_);
    for (const Watch& watch : project_.watches) {
      if (const auto* own = std::get_if<FormulaFigure>(&watch.figure)) {
        std::vector<NamedQuantity> given;
        for (const std::string& id : own->watches)
          if (const Watch* other = findById(project_.watches, id))
            given.push_back({std::string(1, static_cast<char>('a' + given.size())), quantityOf(project_, *other)});
        if (const auto formula = formulas.ofGiven(own->formula, given, own->is); !formula)
          add(Severity::Error, watch.id, objectWords(watch), "Its formula: " + formula.error().problem,
              formula.error().remedy);
      }
      if (watch.tolerance && !watch.reference && watch.referenceCase.empty())
        add(Severity::Hint, watch.id, objectWords(watch), "It has a tolerance but nothing to compare with.",
            "Give it a reference value, or another case.");
      if (watch.reference && !watch.referenceCase.empty())
        add(Severity::Hint, watch.id, objectWords(watch),
            "It has both a reference value and a case to compare with; the case counts.", "Clear one of them.");
    }
  }

  /// Of sets, whether a case takes them or not: a case that does says it, too.
  void checkSets()
  {
    const Project model = withoutCases();
    for (const PropertySet& set : project_.sets) {
      Project seen = withChoices(model, set.changes);
      const std::vector<Field> all = settings(seen);
      std::string missing;
      for (const Change& change : set.changes)
        if (fieldAt(all, change.field) == nullptr)
          missing += (missing.empty() ? "" : ", ") + change.field;
      if (!missing.empty())
        add(Severity::Hint, set.id, objectWords(set), "Nothing of this project matches its " + missing + ".",
            "Remove these values from it, or name what is meant alike.");
    }
    for (const Case& one : project_.cases)
      for (const SetChoice& choice : setChoices)
        if (const PropertySet* set = findById(project_.sets, one.*choice.set);
            set != nullptr && std::none_of(set->changes.begin(), set->changes.end(),
                                           [&](const Change& change) { return isOf(project_, change, choice.kind); }))
          add(Severity::Hint, one.id, objectWords(one),
              "Of the set “" + set->name + "” it takes the values of every " + kindWords(choice.kind) +
                  ", and there are none.",
              "Choose another set there, or none.");
  }

  /// Has a material that is used the values of this one, because it stands for it?
  template <class T>
  [[nodiscard]] bool standsBehind(const T& object, const std::set<std::string>& used) const
  {
    if constexpr (std::is_same_v<T, Material>) {
      const auto valuesOf = [](Material material) {
        material.id = material.name = material.comment = material.source = material.standsFor = {};
        return material;
      };
      return std::any_of(project_.materials.begin(), project_.materials.end(), [&](const Material& other) {
        return other.id != object.id && used.contains(other.id) && valuesOf(other) == valuesOf(object);
      });
    }
    return false;
  }

  /// The project without its cases.
  [[nodiscard]] Project withoutCases()
  {
    std::vector<Case> cases = std::exchange(project_.cases, {});
    Project model = project_;
    project_.cases = std::move(cases);
    return model;
  }

  void checkCases()
  {
    std::vector<Case> cases = std::exchange(project_.cases, {}); // theirs are no own values, and there may be hundreds
    const std::vector<Field> all = settings(project_);
    project_.cases = std::move(cases);
    const Project model = withoutCases();
    std::unordered_map<std::string_view, const Field*> byPath;
    for (const Field& field : all)
      byPath.emplace(field.path, &field);
    for (const Case& one : std::vector<Case>(project_.cases)) { // values are tried on the project and taken back
      const std::vector<Change> changes = changesOf(project_, one);
      const bool simple = std::all_of(changes.begin(), changes.end(), [&](const Change& change) {
        const auto found = byPath.find(change.field);
        return found != byPath.end() && found->second->kind == Field::Kind::Number && holdsAsIs(*found->second, change);
      });
      if (!simple) // another alternative has other fields; a stand-in may come back to itself
        if (const auto changed = projectForCase(project_, one); !changed)
          add(Severity::Error, one.id, changed.error().object, changed.error().problem, changed.error().remedy);
      checkChanges(model, one, changes, simple, byPath);
    }
  }

  /// Can a field hold the value? It is tried, and has its own again.
  static bool holdsAsIs(const Field& field, const Change& change)
  {
    const OwnValue before = field.held();
    const bool holds = field.take(change.value);
    field.take(before);
    return holds;
  }

  void checkChanges(const Project& model, const Case& one, const std::vector<Change>& changes, bool simple,
                    const std::unordered_map<std::string_view, const Field*>& byPath)
  {
    Project seen = simple ? Project{} : withChoices(model, changes);
    const std::vector<Field> own = simple ? std::vector<Field>{} : fields(seen);
    for (const Change& change : changes) {
      const auto known = byPath.find(change.field);
      const Field* field = !simple ? fieldAt(own, change.field) : known != byPath.end() ? known->second : nullptr;
      if (findById(project_.cases, change.field.substr(0, change.field.find('.'))) != nullptr)
        add(Severity::Error, one.id, "case " + one.name,
            "It has an own value for " + change.field + ", which is a setting of a case.",
            "Set it in that case itself.");
      else if (field != nullptr && change.number() != nullptr)
        if (const auto wrong = outsideRange(change.number()->si, field->range, field->quantity))
          add(Severity::Error, one.id, "case " + one.name, field->objectName + ", " + field->label + " " + *wrong + ".",
              "Enter another value.");
    }
  }

  Project project_;           // a copy: the field walk needs one it could write to
  std::vector<Field> fields_; ///< its numbers, found once for all checks
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
