// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "cases/RunEditors.h"

#include "cases/CaseElsewhere.h"
#include "cases/RunRules.h"
#include "cases/RunStoring.h"
#include "fields/BoundField.h"
#include "fields/FormRows.h"
#include "fields/MoreRows.h"
#include "fields/SettingRows.h"
#include "look/Icons.h"
#include "model/TimeSeries.h"

#include <QCoreApplication>
#include <QFormLayout>
#include <QHBoxLayout>
#include <QMenu>
#include <QToolButton>
#include <QVBoxLayout>
#include <algorithm>
#include <array>

namespace kiln
{
namespace
{

QString tr(const char* text) { return QCoreApplication::translate("RunEditors", text); }

TransientRun& runOf(Project& project, const std::string& caseId)
{
  std::optional<TransientRun>& run = findById(project.cases, caseId)->run;
  if (!run)
    run = usualRun();
  return *run;
}

/// The number fields of one path of the case.
void addFields(Document& document, Preferences& preferences, QFormLayout& form, const Case& own,
               const std::string& under)
{
  addSettingRows({document, preferences, form}, own.id, [&](const Field& field) {
    return field.kind == Field::Kind::Number && field.path.starts_with(own.id + under);
  });
}

std::string freeRuleId(const TransientRun& run)
{
  for (int i = 1;; ++i) {
    const std::string id = "end-" + std::to_string(i);
    if (std::none_of(run.ends.begin(), run.ends.end(), [&](const EndRule& rule) { return rule.id == id; }))
      return id;
  }
}

QString ruleText(const EndRule& rule)
{
  if (std::holds_alternative<EndAtTime>(rule.when))
    return tr("at a time");
  return std::holds_alternative<EndSettled>(rule.when) ? tr("when settled") : tr("when a watch passes");
}

void addEndRule(Document& document, Preferences& preferences, const Case& own, const EndRule& rule, QFormLayout& form)
{
  auto* row = new QWidget;
  row->setObjectName("endRule:" + QString::fromStdString(rule.id));
  auto* line = new QHBoxLayout(row);
  line->setContentsMargins(0, 0, 0, 0);
  if (const auto* value = std::get_if<EndAtValue>(&rule.when)) {
    auto* inner = new QFormLayout;
    inner->setContentsMargins(0, 0, 0, 0);
    addChoiceRow(document, *inner, tr("Watch"), "endWatch", temperatureWatches(document.project(), {}), value->watch,
                 [id = own.id, ruleId = rule.id](Project& project, const std::string& watch) {
                   for (EndRule& one : runOf(project, id).ends)
                     if (auto* at = std::get_if<EndAtValue>(&one.when); at != nullptr && one.id == ruleId)
                       at->watch = watch;
                 });
    addChoiceRow(document, *inner, tr("It"), "endFalling", {{"0", tr("rises to")}, {"1", tr("falls to")}},
                 value->falling ? "1" : "0", [id = own.id, ruleId = rule.id](Project& project, const std::string& f) {
                   for (EndRule& one : runOf(project, id).ends)
                     if (auto* at = std::get_if<EndAtValue>(&one.when); at != nullptr && one.id == ruleId)
                       at->falling = f == "1";
                 });
    line->addLayout(inner);
  }
  Project walked = document.shownProject();
  const std::string under = own.id + ".run." + rule.id + ".";
  for (const Field& field : fields(walked))
    if (field.path.starts_with(under))
      line->addWidget(new BoundField(document, preferences, field), 1);
  auto* drop = new QToolButton;
  setIcon(*drop, "list-remove");
  drop->setToolTip(tr("Remove this end rule"));
  drop->setAccessibleName(tr("Remove this end rule"));
  QObject::connect(drop, &QToolButton::clicked, drop, [&document, id = own.id, ruleId = rule.id] {
    document.edit(tr("Remove an end rule"), [&](Project& project) {
      std::erase_if(runOf(project, id).ends, [&](const EndRule& one) { return one.id == ruleId; });
    });
  });
  line->addWidget(drop);
  form.addRow(quietLabel(tr("Ends ") + ruleText(rule)), row);
}

void addEndButton(Document& document, const Case& own, QFormLayout& form)
{
  auto* button = new QToolButton;
  button->setObjectName("addEnd");
  button->setText(tr("Add an end rule ▾"));
  button->setPopupMode(QToolButton::InstantPopup);
  auto* menu = new QMenu(button);
  const auto offer = [&](const QString& text, const decltype(EndRule::when)& when) {
    QObject::connect(menu->addAction(text), &QAction::triggered, button, [&document, id = own.id, when, text] {
      document.edit(tr("Add an end rule"), [&](Project& project) {
        TransientRun& run = runOf(project, id);
        EndRule rule{freeRuleId(run), when, {}};
        if (auto* value = std::get_if<EndAtValue>(&rule.when))
          for (const Watch& watch : project.watches)
            if (value->watch.empty() && quantityOf(watch) == Quantity::Temperature)
              value->watch = watch.id;
        run.ends.push_back(std::move(rule));
      });
    });
  };
  offer(tr("when settled"), EndSettled{});
  offer(tr("at a time"), EndAtTime{{3600, "1 h"}});
  offer(tr("when a watch passes a value"), EndAtValue{{}, {373.15, "100 °C"}, false});
  button->setMenu(menu);
  form.addRow(quietLabel(own.run && !own.run->ends.empty() ? QString() : tr("Ends when settled")), button);
}

const std::string otherProject = "?other"; // no id begins with it

/// Asks for a project and one of its cases to start from.
void addOtherProjectButton(Document& document, const Case& own, QFormLayout& form)
{
  auto* button = new QToolButton;
  button->setObjectName("startElsewhere");
  button->setText(tr("A case of another project…"));
  QObject::connect(button, &QToolButton::clicked, button, [&document, button, id = own.id] {
    const auto from = askForCaseElsewhere(document, tr("Start from another project"), button->window());
    if (!from)
      return;
    document.edit(tr("Start from another project"), [&](Project& project) {
      StartFromCase start;
      start.of = from->caseId;
      start.project = from->project;
      runOf(project, id).start = std::move(start);
    });
  });
  form.addRow(QString(), button);
}

} // namespace

TransientRun usualRun()
{
  TransientRun run;
  run.start = StartUniform{{293.15, "20 °C"}, {}, {}};
  run.ends = {{"end-1", EndSettled{}, {}}};
  return run;
}

void addRunEditors(Document& document, Preferences& preferences, const Case& own, QVBoxLayout& layout)
{
  auto* form = new QFormLayout;
  addChoiceRow(document, *form, tr("It is"), "caseKind", {{"steady", tr("steady")}, {"transient", tr("transient")}},
               own.kind == Case::Kind::Steady ? "steady" : "transient",
               [id = own.id](Project& project, const std::string& kind) {
                 Case* one = findById(project.cases, id);
                 one->kind = kind == "steady" ? Case::Kind::Steady : Case::Kind::Transient;
                 if (one->kind == Case::Kind::Transient && !one->run)
                   one->run = usualRun();
               });
  layout.addLayout(form);
  if (own.kind != Case::Kind::Transient) {
    if (variesInTime(document.project()))
      for (const char* field : {".instant", ".period"})
        addFields(document, preferences, *form, own, field);
    return;
  }
  const TransientRun run = own.run.value_or(usualRun());
  Choices starts{{"1", tr("everything at one temperature")}, {"0", tr("the steady state of this case")}};
  for (const Case& other : document.project().cases)
    if (other.id != own.id)
      starts.emplace_back(other.id, tr("the end of ") + QString::fromStdString(other.name));
  const auto* from = std::get_if<StartFromCase>(&run.start);
  if (from != nullptr && !from->project.empty())
    starts.emplace_back(otherProject,
                        tr("%1 of %2").arg(QString::fromStdString(from->of), QString::fromStdString(from->project)));
  addChoiceRow(document, *form, tr("Starts from"), "startFrom", starts,
               from == nullptr         ? std::to_string(run.start.index())
               : from->project.empty() ? from->of
                                       : otherProject,
               [id = own.id](Project& project, const std::string& start) {
                 auto& slot = runOf(project, id).start;
                 if (start == otherProject)
                   return;
                 if (start == "0")
                   slot = StartSteady{};
                 else if (start == "1")
                   slot = StartUniform{};
                 else
                   slot = StartFromCase{start, {}, {}};
               });
  addOtherProjectButton(document, own, *form);
  addFields(document, preferences, *form, own, ".run.start.");
  addOtherStarts(document, own, *form);
  for (const EndRule& rule : run.ends)
    addEndRule(document, preferences, own, rule, *form);
  addEndButton(document, own, *form);
  // Settings that have no editors of their own follow the schema.
  const SettingRows rows{document, preferences, *form};
  const std::string under = own.id + ".run.";
  const auto inRun = [&](const Field& field) {
    const bool own = field.path.starts_with(under) && field.path.find('.', under.size()) == std::string::npos;
    return own && field.key != "storeParts" && (field.key != "endWhenAll" || run.ends.size() > 1);
  };
  constexpr std::array<std::string_view, 4> whenItEnds{"startTime", "endWhenAll", "longest", "thenSteady"};
  const auto isFirst = [&](const Field& field) {
    return std::find(whenItEnds.begin(), whenItEnds.end(), field.key) != whenItEnds.end();
  };
  addSettingRows(rows, own.id, [&](const Field& field) { return inRun(field) && isFirst(field); });
  addRuleEditors(document, preferences, own, *form);
  auto* more = new MoreRows("run", tr("Accuracy and storing"));
  addSettingRows({document, preferences, more->form()}, own.id,
                 [&](const Field& field) { return inRun(field) && !isFirst(field); });
  addStoringEditors(document, preferences, own, more->form());
  form->addRow(more);
}

} // namespace kiln
