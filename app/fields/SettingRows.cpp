// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "fields/SettingRows.h"

#include "fields/BoundField.h"
#include "fields/FormRows.h"
#include "look/Language.h"
#include "model/Edit.h"
#include "model/ObjectKinds.h"

#include <QCheckBox>
#include <QComboBox>
#include <QCoreApplication>
#include <QFormLayout>
#include <QHBoxLayout>
#include <QLabel>
#include <QLineEdit>
#include <QMenu>
#include <QToolButton>
#include <QVBoxLayout>
#include <algorithm>

namespace kiln
{
namespace
{

QString tr(const char* text) { return QCoreApplication::translate("SettingRows", text); }

const QString newSurface = "?new surface"; // no id begins with it

void name(QWidget& editor, const Field& field)
{
  editor.setObjectName("field:" + QString::fromStdString(field.path));
  editor.setAccessibleName(inWords(field.objectName) + ", " + inWords(field.label));
  editor.setToolTip(helpText(field));
}

/// Objects that a reference may name, as id and shown name.
Choices objectsFor(const Project& project, Refers kinds)
{
  Choices choices;
  forEachObjectList(project, [&](const auto& list) {
    for (const auto& object : list)
      if (kindOf(&object).kind & kinds)
        choices.emplace_back(object.id, QString::fromStdString(object.name));
  });
  return choices;
}

QWidget* switchEditor(const SettingRows& rows, const Field& field)
{
  auto* box = new QCheckBox;
  box->setChecked(*field.flag);
  QObject::connect(box, &QCheckBox::toggled, box,
                   [&document = rows.document, path = field.path](bool on) { document.set(path, on); });
  return box;
}

QComboBox* comboOf(const Choices& choices, const std::string& chosen)
{
  auto* box = new QComboBox;
  for (const auto& [id, shown] : choices)
    box->addItem(shown, QString::fromStdString(id));
  const QString wanted = QString::fromStdString(chosen);
  if (box->findData(wanted) < 0)
    box->addItem(wanted.isEmpty() ? tr("choose…") : wanted, wanted);
  box->setCurrentIndex(box->findData(wanted));
  box->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
  return box;
}

QWidget* choiceEditor(const SettingRows& rows, const Field& field)
{
  Choices choices;
  for (const KindSpec& kind : field.choice.kinds)
    choices.emplace_back(std::string(kind.name), inWords(kind.label));
  QComboBox* box = comboOf(choices, std::get<std::string>(field.held()));
  for (int i = 0; i < box->count(); ++i)
    box->setItemData(i, inWords(field.choice.kinds[static_cast<std::size_t>(i)].help), Qt::ToolTipRole);
  QObject::connect(box, &QComboBox::activated, box, [&document = rows.document, box, path = field.path] {
    document.set(path, box->currentData().toString().toStdString());
  });
  return box;
}

QWidget* textEditor(const SettingRows& rows, const Field& field)
{
  auto* edit = new QLineEdit(QString::fromStdString(*field.text));
  edit->setPlaceholderText(field.reference ? inWords(field.reference->nothing) : tr("none"));
  QObject::connect(edit, &QLineEdit::editingFinished, edit, [&document = rows.document, edit, path = field.path] {
    document.set(path, edit->text().trimmed().toStdString());
  });
  return edit;
}

QWidget* referenceEditor(const SettingRows& rows, const Field& field)
{
  const ReferenceSpec& spec = *field.reference;
  if (spec.to & (Refers::Face | Refers::Field))
    return textEditor(rows, field);
  Choices choices = objectsFor(rows.document.project(), spec.to);
  if (!spec.others.empty())
    choices.emplace(choices.begin(), std::string(spec.others), inWords(spec.othersShown));
  if (spec.need == Need::May || !spec.nothing.empty())
    choices.emplace(choices.begin(), "", spec.nothing.empty() ? tr("none") : inWords(spec.nothing));
  if (spec.to == Refers::Surface)
    choices.emplace_back(newSurface.toStdString(), tr("new surface…"));
  QComboBox* box = comboOf(choices, *field.text);
  QObject::connect(box, &QComboBox::activated, box, [&document = rows.document, box, path = field.path] {
    std::string id = box->currentData().toString().toStdString();
    if (id != newSurface.toStdString())
      return document.set(path, id);
    document.edit(tr("New surface"), [&](Project& project) {
      id = addObject(project, project.surfaces, Surface{}, freeName(project, "Surface"));
      for (const Field& one : settings(project))
        if (one.path == path)
          one.take(id);
    });
  });
  return box;
}

QWidget* referencesEditor(const SettingRows& rows, const Field& field)
{
  if (field.reference->to & Refers::Face) {
    auto* label = new QLabel;
    label->setWordWrap(true);
    QStringList faces;
    for (const std::string& face : *field.list)
      faces << QString::fromStdString(face);
    label->setText(faces.isEmpty() ? tr("none") : faces.join(", "));
    return label;
  }
  auto* button = new QToolButton;
  button->setPopupMode(QToolButton::InstantPopup);
  auto* menu = new QMenu(button);
  QStringList names;
  for (const auto& [id, shown] : objectsFor(rows.document.project(), field.reference->to)) {
    const bool has = std::find(field.list->begin(), field.list->end(), id) != field.list->end();
    QAction* action = menu->addAction(shown);
    action->setCheckable(true);
    action->setChecked(has);
    QObject::connect(action, &QAction::triggered, button,
                     [&document = rows.document, path = field.path, id = id, chosen = *field.list](bool on) {
                       std::vector<std::string> now = chosen;
                       std::erase(now, id);
                       if (on)
                         now.push_back(id);
                       document.set(path, now);
                     });
  }
  for (const std::string& id : *field.list) // in their order
    for (const auto& [own, shown] : objectsFor(rows.document.project(), field.reference->to))
      if (own == id)
        names << shown;
  button->setMenu(menu);
  constexpr qsizetype shownInFull = 3;
  button->setText(names.isEmpty()               ? tr("choose…")
                  : names.size() <= shownInFull ? names.join(", ")
                                                : tr("%1 chosen").arg(names.size()));
  return button;
}

QWidget* numberEditor(const SettingRows& rows, const Field& field)
{
  auto* edit = new BoundField(rows.document, rows.preferences, field);
  if (field.mayBeMissing() && !field.usually.empty())
    edit->setUsual(inWords(field.usually));
  QObject::connect(edit, &BoundField::said, edit, rows.say);
  return edit;
}

QWidget* editorOf(const SettingRows& rows, const Field& field)
{
  switch (field.kind) {
  case Field::Kind::Number:
    return numberEditor(rows, field);
  case Field::Kind::Switch:
    return switchEditor(rows, field);
  case Field::Kind::Choice:
    return choiceEditor(rows, field);
  case Field::Kind::Reference:
    return referenceEditor(rows, field);
  case Field::Kind::References:
    return referencesEditor(rows, field);
  default:
    return textEditor(rows, field);
  }
}

/// The project's value of a field that the shown case has its own for, in words.
QString projectText(const Document& document, const Field& field)
{
  Project project = document.project();
  const std::vector<Field> all = settings(project);
  const Field* own = fieldAt(all, field.path);
  return own != nullptr ? QString::fromStdString(settingText(project, *own, own->held())) : tr("has no such field");
}

QToolButton* wayBack(const QString& text, const QString& tip, const QString& name)
{
  auto* button = new QToolButton;
  button->setText(text);
  button->setToolTip(tip);
  button->setAccessibleName(tip);
  button->setObjectName(name);
  return button;
}

/// An editor of an own value, with the two actions that end it.
QWidget* withWaysBack(Document& document, const Field& field, QWidget* editor)
{
  auto* row = new QWidget;
  auto* both = new QVBoxLayout(row);
  both->setContentsMargins(0, 0, 0, 0);
  both->setSpacing(0);
  auto* line = new QHBoxLayout;
  line->setSpacing(2);
  line->addWidget(editor, 1);
  both->addLayout(line);
  auto* project = quietLabel(tr("project: %1").arg(projectText(document, field)));
  project->setWordWrap(false);
  both->addWidget(project);
  const std::string path = field.path;
  project->setObjectName("projectValue:" + QString::fromStdString(path));
  const QString shown = QString::fromStdString(path);
  QToolButton* back = wayBack("↺", tr("Take the project's value again"), "takeProject:" + shown);
  QToolButton* give = wayBack("⇧", tr("Make it the project's value"), "giveProject:" + shown);
  QObject::connect(back, &QToolButton::clicked, back, [&document, path] { document.takeProjectValue(path); });
  QObject::connect(give, &QToolButton::clicked, give, [&document, path] { document.giveToProject(path); });
  line->addWidget(back);
  line->addWidget(give);
  return row;
}

QString stageText(Stage stage)
{
  switch (stage) {
  case Stage::Geometry:
    return tr("Changes the shape: it is meshed and solved anew.");
  case Stage::Mesh:
    return tr("Changes the mesh: it is solved anew.");
  case Stage::Exchange:
    return tr("Changes what sees what: view factors are counted and it is solved anew.");
  case Stage::Solution:
    return tr("Changes the solution.");
  case Stage::Course:
    return tr("Changes what happens in time, not the steady state.");
  case Stage::Extent:
    return tr("Changes how far and how exactly a run goes.");
  case Stage::Figures:
    return tr("Changes figures only: nothing is solved anew.");
  case Stage::AsUsed:
    return tr("Changes whatever uses it.");
  default:
    return tr("Changes no result.");
  }
}

} // namespace

QString helpText(const Field& field)
{
  QStringList lines{QString::fromStdString(field.path)};
  if (!field.help.empty())
    lines << inWords(field.help);
  if (field.kind == Field::Kind::Number)
    lines << tr("Takes %1, or a formula of parameters.").arg(inWords(quantityName(field.quantity)));
  if (field.varies)
    lines << tr("The formula may use the place x, y, z.");
  if (field.mayBeMissing() && !field.usually.empty())
    lines << tr("Left empty: %1.").arg(inWords(field.usually));
  lines << stageText(field.stage);
  return lines.join("\n");
}

void addSettingRow(const SettingRows& rows, const Field& field)
{
  QWidget* editor = editorOf(rows, field);
  QString label = rows.prefix + inWords(field.label);
  const bool own = rows.document.caseChanges(field.path);
  if (own)
    label += tr(" (this case)");
  QLabel* shown = quietLabel(label);
  if (auto* number = qobject_cast<BoundField*>(editor)) {
    shown->setBuddy(number->focusProxy());
  } else {
    name(*editor, field);
    shown->setBuddy(editor);
  }
  shown->setToolTip(helpText(field));
  rows.form.addRow(shown, own ? withWaysBack(rows.document, field, editor) : editor);
}

void addSettingRows(const SettingRows& rows, const std::string& objectId,
                    const std::function<bool(const Field& field)>& wanted)
{
  Project shown = rows.document.shownProject();
  for (const Field& field : settingsOf(shown, objectId))
    if (wanted(field))
      addSettingRow(rows, field);
}

} // namespace kiln
