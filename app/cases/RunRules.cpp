// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "cases/RunRules.h"

#include "cases/RunEditors.h"
#include "fields/BoundField.h"
#include "fields/FormRows.h"
#include "fields/QuantityField.h"

#include "look/Icons.h"
#include "look/Language.h"
#include "model/Settings.h"
#include <QCoreApplication>
#include <QFormLayout>
#include <QHBoxLayout>
#include <QLabel>
#include <QToolButton>
#include <algorithm>

namespace kiln
{
namespace
{

QString tr(const char* text) { return QCoreApplication::translate("RunRules", text); }

QString named(const Object& object) { return QString::fromStdString(object.name); }

/// Is it something that may change during a run?
bool mayChange(Quantity quantity)
{
  using enum Quantity;
  return quantity == Power || quantity == HeatFlux || quantity == HeatDensity || quantity == AreaConductance ||
         quantity == Temperature;
}

/// All that a rule can do in this project.
Choices effects(const Project& project)
{
  Choices choices{{"end", tr("end the run")}};
  const auto offer = [&](const auto& objects, const QString& verb, const char* key, bool muted) {
    for (const auto& object : objects)
      if (object.muted == muted)
        choices.emplace_back(key + object.id, verb.arg(named(object)));
  };
  offer(project.sources, tr("switch off %1"), "mute:", false);
  offer(project.boundaries, tr("switch off %1"), "mute:", false);
  offer(project.links, tr("switch off %1"), "mute:", false);
  offer(project.sources, tr("switch on %1"), "unmute:", true);
  offer(project.boundaries, tr("switch on %1"), "unmute:", true);
  offer(project.links, tr("switch on %1"), "unmute:", true);
  // What another rule has turned off can be turned on again.
  offer(project.sources, tr("switch on %1 again"), "unmute:", false);
  for (const Parameter& parameter : project.parameters)
    choices.emplace_back("set:" + parameter.id + ".value", tr("set %1 to").arg(named(parameter)));
  Project walked = project;
  for (const Field& field : fields(walked)) // powers, coefficients, ambients
    if (findById(project.sources, field.objectId) != nullptr || findById(project.boundaries, field.objectId) != nullptr)
      if (field.path.find('.') == field.path.rfind('.') && mayChange(field.quantity))
        choices.emplace_back("set:" + field.path,
                             tr("set %1 of %2 to").arg(inWords(field.label), inWords(field.objectName)));
  return choices;
}

RunRule* ruleOf(Project& project, const std::string& caseId, const std::string& ruleId)
{
  Case* own = findById(project.cases, caseId);
  return own != nullptr && own->run ? findById(own->run->rules, ruleId) : nullptr;
}

/// The value that a rule gives a field.
QWidget* setField(Document& document, Preferences& preferences, const Case& own, const RunRule& rule)
{
  const Field* target = document.shownField(rule.set.front().field);
  auto* field = new QuantityField(target != nullptr ? target->quantity : Quantity::Plain,
                                  target != nullptr ? target->range : Range::Any);
  field->setObjectName("ruleValue:" + QString::fromStdString(rule.id));
  field->setTemperatureUnit(preferences.temperatureUnit());
  if (const Property* value = rule.set.front().number())
    field->setNumber(static_cast<const Number&>(*value));
  QObject::connect(field, &QuantityField::committed, field,
                   [&document, caseId = own.id, ruleId = rule.id](const Number& number) {
                     document.edit(tr("Value a rule sets"), [&](Project& project) {
                       if (RunRule* one = ruleOf(project, caseId, ruleId); one != nullptr && !one->set.empty())
                         one->set.front().value = Property{number, {}};
                     });
                   });
  return field;
}

void addRule(Document& document, Preferences& preferences, const Case& own, const RunRule& rule, QFormLayout& form)
{
  auto* row = new QWidget;
  row->setObjectName("runRule:" + QString::fromStdString(rule.id));
  auto* inner = new QFormLayout(row);
  inner->setContentsMargins(0, 0, 0, 6);
  const auto choose = [&](const QString& label, const char* name, const Choices& choices, const std::string& chosen,
                          auto apply) {
    addChoiceRow(document, *inner, label, QString(name) + ":" + QString::fromStdString(rule.id), choices, chosen,
                 [caseId = own.id, ruleId = rule.id, apply](Project& project, const std::string& value) {
                   if (RunRule* one = ruleOf(project, caseId, ruleId))
                     apply(project, *one, value);
                 });
  };
  choose(tr("When"), "ruleWatch", temperatureWatches(document.project(), {}), rule.watch,
         [](Project&, RunRule& one, const std::string& watch) { one.watch = watch; });
  choose(tr("it"), "ruleFalling", {{"0", tr("rises to")}, {"1", tr("falls to")}}, rule.falling ? "1" : "0",
         [](Project&, RunRule& one, const std::string& falling) { one.falling = falling == "1"; });
  Project walked = document.shownProject();
  for (const Field& field : fields(walked))
    if (field.path == own.id + ".run." + rule.id + ".value")
      inner->addRow(QString(), new BoundField(document, preferences, field));
  choose(tr("then"), "ruleEffect", effects(document.project()), effectOf(rule),
         [](Project& project, RunRule& one, const std::string& effect) { setEffect(project, one, effect); });
  if (!rule.set.empty())
    inner->addRow(QString(), setField(document, preferences, own, rule));
  auto* drop = new QToolButton;
  setIcon(*drop, "list-remove");
  drop->setToolTip(tr("Remove this rule"));
  drop->setAccessibleName(tr("Remove this rule"));
  drop->setObjectName("dropRule:" + QString::fromStdString(rule.id));
  QObject::connect(drop, &QToolButton::clicked, drop, [&document, caseId = own.id, ruleId = rule.id] {
    document.edit(tr("Remove a rule"), [&](Project& project) {
      std::erase_if(findById(project.cases, caseId)->run->rules, [&](const RunRule& one) { return one.id == ruleId; });
    });
  });
  inner->addRow(QString(), drop);
  form.addRow(quietLabel(tr("Rule")), row);
}

/// A cube of 100 mm at the origin, with the first id that is free.
BoxStart newBox(const StartUniform& start)
{
  BoxStart box;
  for (int i = 1; box.id.empty() || findById(start.boxes, box.id) != nullptr; ++i)
    box.id = "box-" + std::to_string(i);
  const Number far{0.1, "100 mm", false};
  box.low = {{0, "0 mm"}, {0, "0 mm"}, {0, "0 mm"}};
  box.high = {far, far, far};
  box.temperature = {293.15, "20 °C", false};
  return box;
}

} // namespace

std::string effectOf(const RunRule& rule)
{
  if (!rule.set.empty())
    return "set:" + rule.set.front().field;
  if (!rule.mute.empty())
    return "mute:" + rule.mute.front();
  if (!rule.unmute.empty())
    return "unmute:" + rule.unmute.front();
  return "end";
}

void setEffect(const Project& project, RunRule& rule, const std::string& effect)
{
  const std::string kind = effect.substr(0, effect.find(':'));
  const std::string id = effect == "end" ? std::string() : effect.substr(kind.size() + 1);
  rule.set.clear();
  rule.mute.clear();
  rule.unmute.clear();
  rule.end = kind == "end";
  if (kind == "mute")
    rule.mute = {id};
  if (kind == "unmute")
    rule.unmute = {id};
  Project walked = project;
  for (const Field& field : fields(walked))
    if (kind == "set" && field.path == id && field.value() != nullptr)
      rule.set = {{id, *field.value()}};
}

void addRuleEditors(Document& document, Preferences& preferences, const Case& own, QFormLayout& form)
{
  if (own.run)
    for (const RunRule& rule : own.run->rules)
      addRule(document, preferences, own, rule, form);
  auto* button = new QToolButton;
  button->setObjectName("addRule");
  button->setText(tr("Add a rule: when a watch passes a value…"));
  const Choices watches = temperatureWatches(document.project(), {});
  button->setEnabled(!watches.empty());
  button->setToolTip(watches.empty() ? tr("Watch a temperature first.") : QString());
  QObject::connect(button, &QToolButton::clicked, button, [&document, caseId = own.id] {
    document.edit(tr("Add a rule"), [&](Project& project) {
      Case* one = findById(project.cases, caseId);
      if (!one->run)
        one->run = usualRun();
      RunRule rule;
      for (int i = 1; rule.id.empty() || findById(one->run->rules, rule.id) != nullptr; ++i)
        rule.id = "rule-" + std::to_string(i);
      for (const Watch& watch : project.watches)
        if (rule.watch.empty() && quantityOf(watch) == Quantity::Temperature)
          rule.watch = watch.id;
      rule.value = {373.15, "100 °C", false};
      rule.end = true;
      one->run->rules.push_back(std::move(rule));
    });
  });
  form.addRow(QString(), button);
}

const std::string anotherBox = "?box"; // no id begins with it

/// Parts, surfaces and boxes that start otherwise: choosing one adds it, or takes it back.
void addOtherStarts(Document& document, const Case& own, QFormLayout& form)
{
  const auto* start = own.run ? std::get_if<StartUniform>(&own.run->start) : nullptr;
  if (start == nullptr || document.project().parts.empty())
    return;
  Choices choices{{"", tr("what starts otherwise…")}};
  const auto offer = [&](const std::string& id, const QString& name, bool has) {
    choices.emplace_back(id, has ? tr("%1 as the rest again").arg(name) : name);
  };
  for (const Part& part : document.project().parts)
    offer(part.id, named(part), findById(start->parts, part.id) != nullptr);
  for (const Surface& surface : document.project().surfaces)
    offer(surface.id, tr("surface %1").arg(named(surface)), findById(start->surfaces, surface.id) != nullptr);
  for (const BoxStart& box : start->boxes)
    offer(box.id, QString::fromStdString(box.id), true);
  choices.emplace_back(anotherBox, tr("what lies in a box"));
  addChoiceRow(document, form, QString(), "otherStart", choices, "",
               [caseId = own.id](Project& project, const std::string& id) {
                 auto& uniform = std::get<StartUniform>(findById(project.cases, caseId)->run->start);
                 const Number usual{293.15, "20 °C", false};
                 const auto isIt = [&](const auto& one) { return one.id == id; };
                 if (id.empty() || std::erase_if(uniform.parts, isIt) + std::erase_if(uniform.surfaces, isIt) +
                                           std::erase_if(uniform.boxes, isIt) >
                                       0)
                   return;
                 if (id == anotherBox)
                   uniform.boxes.push_back(newBox(uniform));
                 else if (findById(project.parts, id) != nullptr)
                   uniform.parts.push_back({id, usual});
                 else
                   uniform.surfaces.push_back({id, usual});
               });
}

} // namespace kiln
