// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "cases/RunStoring.h"

#include "cases/RunEditors.h"
#include "fields/BoundField.h"
#include "fields/FormRows.h"
#include "look/Icons.h"

#include <QCoreApplication>
#include <QFormLayout>
#include <QHBoxLayout>
#include <QMenu>
#include <QToolButton>
#include <algorithm>

namespace kiln
{
namespace
{

QString tr(const char* text) { return QCoreApplication::translate("RunStoring", text); }

void addSpan(Document& document, Preferences& preferences, const Case& own, const StoredSpan& span, QFormLayout& form)
{
  auto* row = new QWidget;
  row->setObjectName("storedSpan:" + QString::fromStdString(span.id));
  auto* line = new QHBoxLayout(row);
  line->setContentsMargins(0, 0, 0, 0);
  Project walked = document.shownProject();
  const std::string under = own.id + ".run." + span.id + ".";
  for (const Field& field : fields(walked)) {
    if (!field.path.starts_with(under))
      continue;
    const std::string key = field.path.substr(under.size());
    if (key != "from" && !span.to)
      continue; // a single instant
    if (key != "from")
      line->addWidget(quietLabel(key == "to" ? tr("until") : tr("every")));
    line->addWidget(new BoundField(document, preferences, field), 1);
  }
  auto* drop = new QToolButton;
  setIcon(*drop, "list-remove");
  drop->setToolTip(tr("Do not store this"));
  drop->setAccessibleName(drop->toolTip());
  QObject::connect(drop, &QToolButton::clicked, drop, [&document, caseId = own.id, id = span.id] {
    document.edit(tr("Do not store"), [&](Project& project) {
      std::erase_if(findById(project.cases, caseId)->run->storeAlso,
                    [&](const StoredSpan& one) { return one.id == id; });
    });
  });
  line->addWidget(drop);
  form.addRow(quietLabel(span.to ? tr("Stored from") : tr("Stored at")), row);
}

void addSpanButton(Document& document, const Case& own, QFormLayout& form)
{
  auto* button = new QToolButton;
  button->setObjectName("addStored");
  button->setText(tr("Store also ▾"));
  button->setPopupMode(QToolButton::InstantPopup);
  auto* menu = new QMenu(button);
  const auto offer = [&](const QString& text, bool stretch) {
    QObject::connect(menu->addAction(text), &QAction::triggered, button, [&document, caseId = own.id, stretch] {
      document.edit(tr("Store also"), [&](Project& project) {
        Case* one = findById(project.cases, caseId);
        if (!one->run)
          one->run = usualRun();
        StoredSpan span;
        for (int i = 1; span.id.empty() || findById(one->run->storeAlso, span.id) != nullptr; ++i)
          span.id = "stored-" + std::to_string(i);
        span.from = {3600, "1 h", false};
        if (stretch) {
          span.to = Number{7200, "2 h", false};
          span.every = Number{60, "1 min", false};
        }
        one->run->storeAlso.push_back(std::move(span));
      });
    });
  };
  offer(tr("an instant"), false);
  offer(tr("a stretch of time, more finely"), true);
  button->setMenu(menu);
  form.addRow(QString(), button);
}

} // namespace

void addStoringEditors(Document& document, Preferences& preferences, const Case& own, QFormLayout& form)
{
  const TransientRun run = own.run.value_or(usualRun());
  for (const StoredSpan& span : run.storeAlso)
    addSpan(document, preferences, own, span, form);
  addSpanButton(document, own, form);
  const auto isStored = [&](const std::string& id) {
    return std::find(run.storeParts.begin(), run.storeParts.end(), id) != run.storeParts.end();
  };
  QStringList only;
  Choices choices;
  const auto offer = [&](const auto& objects) {
    for (const auto& one : objects) {
      const QString name = QString::fromStdString(one.name);
      choices.emplace_back(one.id, isStored(one.id) ? tr("%1 no longer").arg(name) : tr("only %1").arg(name));
      if (isStored(one.id))
        only << name;
    }
  };
  offer(document.project().groups);
  offer(document.project().parts);
  choices.insert(choices.begin(), {"", only.isEmpty() ? tr("temperatures of all parts")
                                                      : tr("only %1; of the others the mean").arg(only.join(", "))});
  addChoiceRow(document, form, tr("Stored"), "storeParts", choices, "",
               [caseId = own.id](Project& project, const std::string& id) {
                 Case* one = findById(project.cases, caseId);
                 if (id.empty())
                   return;
                 if (!one->run)
                   one->run = usualRun();
                 if (std::erase(one->run->storeParts, id) == 0)
                   one->run->storeParts.push_back(id);
               });
}

} // namespace kiln
