// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "cases/CaseEditor.h"

#include "cases/RunEditors.h"
#include "fields/FormRows.h"
#include "fields/MoreRows.h"
#include "fields/SettingRows.h"
#include "look/Icons.h"
#include "look/Language.h"
#include "model/Edit.h"
#include "model/OwnValues.h"

#include <QComboBox>
#include <QDialogButtonBox>
#include <QFormLayout>
#include <QLineEdit>
#include <QPushButton>
#include <QScreen>
#include <QScrollArea>
#include <QScrollBar>
#include <QToolButton>
#include <QVBoxLayout>
#include <algorithm>
#include <array>

namespace kiln
{

CaseEditor::CaseEditor(Document& document, Preferences& preferences, std::string caseId, QWidget* parent)
    : QDialog(parent), document_(document), preferences_(preferences), id_(std::move(caseId)), scroll_(new QScrollArea)
{
  setObjectName("caseEditor");
  setAttribute(Qt::WA_DeleteOnClose);
  auto* layout = new QVBoxLayout(this);
  auto* buttons = new QDialogButtonBox(QDialogButtonBox::Close);
  buttons->button(QDialogButtonBox::Close)->setAutoDefault(false); // Enter ends a field, not the dialog
  connect(buttons, &QDialogButtonBox::rejected, this, &QDialog::close);
  scroll_->setWidgetResizable(true);
  scroll_->setFrameShape(QFrame::NoFrame);
  scroll_->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
  layout->addWidget(scroll_, 1);
  layout->addWidget(buttons);
  rebuild();
  connect(&document, &Document::projectChanged, this, &CaseEditor::rebuild);
  constexpr double mostOfScreen = 0.85;
  const int margins = buttons->sizeHint().height() * 2;
  const int most = static_cast<int>(screen()->availableGeometry().height() * mostOfScreen);
  resize(fontMetrics().averageCharWidth() * 76, std::min(most, body_->sizeHint().height() + margins));
}

void CaseEditor::rebuild()
{
  const Case* own = findById(document_.project().cases, id_);
  if (own == nullptr) {
    close();
    return;
  }
  setWindowTitle(tr("Case %1").arg(QString::fromStdString(own->name)));
  const int at = scroll_->verticalScrollBar()->value();
  if (QWidget* before = scroll_->takeWidget(); before != nullptr) {
    before->hide();
    before->deleteLater(); // an editor of it may be at work
  }
  body_ = new QWidget;
  auto* inside = new QVBoxLayout(body_);
  inside->setContentsMargins(0, 0, 0, 0);
  addTexts(*inside);
  addRunEditors(document_, preferences_, *own, *inside);
  addSettings(*inside);
  addChanges(*inside);
  addChoice(*inside);
  inside->addStretch();
  scroll_->setWidget(body_);
  QMetaObject::invokeMethod(
      this, [this, at] { scroll_->verticalScrollBar()->setValue(at); }, Qt::QueuedConnection);
}

void CaseEditor::addTexts(QVBoxLayout& layout)
{
  auto* form = new QFormLayout;
  const Case* own = findById(document_.project().cases, id_);
  const auto text = [&](const QString& label, const char* name, std::string Object::*member) {
    auto* edit = new QLineEdit(QString::fromStdString(own->*member));
    edit->setObjectName(name);
    connect(edit, &QLineEdit::editingFinished, this, [this, edit, member, label] {
      const std::string typed = edit->text().trimmed().toStdString();
      const bool needed = member == &Object::name;
      document_.edit(label, [&](Project& project) {
        Case* one = findById(project.cases, id_);
        const bool taken = needed && std::any_of(project.cases.begin(), project.cases.end(), [&](const Case& other) {
                             return other.id != id_ && other.name == typed;
                           });
        if (one != nullptr && !(needed && typed.empty()) && !taken) // results are stored under the name
          one->*member = typed;
      });
    });
    form->addRow(label, edit);
  };
  text(tr("Name of the case"), "caseName", &Object::name);
  text(tr("Comment"), "caseComment", &Object::comment);
  layout.addLayout(form);
}

/// What a case has for itself and no other editor shows, after the schema.
void CaseEditor::addSettings(QVBoxLayout& layout)
{
  if (document_.shownCase() != id_)
    return;
  const Case* own = findById(document_.project().cases, id_);
  auto* form = new QFormLayout;
  const SettingRows rows{document_, preferences_, *form};
  const auto wanted = [&](const Field& field) {
    constexpr std::array<std::string_view, 5> elsewhere{"name", "comment", "kind", "instant", "period"};
    const bool ofSteady = field.stage == Stage::Extent && own->kind != Case::Kind::Steady;
    const bool nothingToChoose =
        field.reference && field.reference->to == Refers::Set && document_.project().sets.empty();
    return field.path == id_ + "." + std::string(field.key) && !ofSteady && !nothingToChoose &&
           std::find(elsewhere.begin(), elsewhere.end(), field.key) == elsewhere.end();
  };
  const auto isAccuracy = [](const Field& field) { return field.stage == Stage::Extent; };
  addSettingRows(rows, id_, [&](const Field& field) { return wanted(field) && !isAccuracy(field); });
  if (own->kind == Case::Kind::Steady) {
    auto* more = new MoreRows("steady", tr("Accuracy"));
    addSettingRows({document_, preferences_, more->form()}, id_,
                   [&](const Field& field) { return wanted(field) && isAccuracy(field); });
    form->addRow(more);
  }
  layout.addLayout(form);
}

void CaseEditor::addChanges(QVBoxLayout& layout)
{
  const Case* own = findById(document_.project().cases, id_);
  auto* title = new QLabel(tr("WHAT THIS CASE CHANGES"));
  title->setProperty("role", "title");
  layout.addWidget(title);
  auto* form = new QFormLayout;
  const SettingRows rows{document_, preferences_, *form};
  Project seen = withChoices(document_.project(), own->changes);
  const std::vector<Field> all = settings(seen);
  for (const Change& change : own->changes) {
    const Field* shown = document_.shownCase() == id_ ? document_.shownField(change.field) : nullptr;
    if (shown != nullptr) {
      SettingRows named = rows;
      named.prefix = inWords(shown->objectName + ", ");
      addSettingRow(named, *shown);
      continue;
    }
    const Field* field = fieldAt(all, change.field);
    auto* back = new QToolButton;
    setIcon(*back, "edit-undo");
    back->setToolTip(tr("Take the project's value again"));
    back->setAccessibleName(back->toolTip());
    back->setObjectName("takeProject:" + QString::fromStdString(change.field));
    connect(back, &QToolButton::clicked, this, [this, path = change.field] {
      document_.edit(tr("Value of the project"), [&](Project& project) {
        std::erase_if(findById(project.cases, id_)->changes, [&](const Change& c) { return c.field == path; });
      });
    });
    form->addRow(field != nullptr ? tr("%1, %2: %3")
                                        .arg(inWords(field->objectName), inWords(field->label),
                                             QString::fromStdString(settingText(seen, *field, change.value)))
                                  : tr("%1, which does not exist").arg(QString::fromStdString(change.field)),
                 back);
  }
  layout.addLayout(form);
  if (own->changes.empty())
    layout.addWidget(quietLabel(tr("None: it takes every value from the project.")));
}

void CaseEditor::addChoice(QVBoxLayout& layout)
{
  auto* choice = new QComboBox;
  choice->setObjectName("addChange");
  choice->setAccessibleName(tr("Give this case a value of its own"));
  choice->setEditable(true);
  choice->setInsertPolicy(QComboBox::NoInsert);
  choice->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
  choice->addItem(tr("give it a value of its own…"), QString());
  Project walked = document_.shownProject();
  for (const Field& field : settings(walked))
    if (!field.objectId.empty() && findById(walked.cases, field.objectId) == nullptr)
      choice->addItem(inWords(field.objectName) + ", " + inWords(field.label), QString::fromStdString(field.path));
  connect(choice, &QComboBox::activated, this, [this, choice] {
    const std::string path = choice->currentData().toString().toStdString();
    if (!path.empty())
      addChange(path);
  });
  layout.addWidget(choice);
}

void CaseEditor::addChange(const std::string& path)
{
  document_.edit(tr("Value of a case"), [&](Project& project) {
    Case* own = findById(project.cases, id_);
    const auto has = [&](const Change& change) { return change.field == path; };
    if (std::any_of(own->changes.begin(), own->changes.end(), has))
      return;
    Project walked = project;
    const std::vector<Field> all = settings(walked);
    if (const Field* field = fieldAt(all, path))
      own->changes.push_back({path, field->held()});
  });
}

void editCase(Document& document, Preferences& preferences, const std::string& caseId, QWidget* parent)
{
  document.showCase(caseId);
  (new CaseEditor(document, preferences, caseId, parent))->show();
}

void copyInTime(Document& document, const std::string& caseId)
{
  std::string id;
  document.edit(CaseEditor::tr("Copy as a transient case"), [&](Project& project) {
    Case copy = *findById(project.cases, caseId);
    copy.kind = Case::Kind::Transient;
    copy.run = usualRun();
    const std::string name = freeName(project, copy.name + ", in time");
    id = addObject(project, project.cases, std::move(copy), name);
  });
  document.showCase(id);
}

void duplicateCase(Document& document, const std::string& caseId)
{
  std::string id;
  document.edit(CaseEditor::tr("Duplicate a case"), [&](Project& project) {
    const Case* own = findById(project.cases, caseId);
    id = addObject(project, project.cases, *own, freeName(project, own->name));
  });
  document.showCase(id);
}

void removeCase(Document& document, const std::string& caseId)
{
  if (document.project().cases.size() < 2)
    return;
  for (const Case& other : document.project().cases)
    if (other.id != caseId && document.shownCase() == caseId) {
      document.showCase(other.id);
      break;
    }
  document.edit(CaseEditor::tr("Remove a case"), [&](Project& project) { removeObject(project, caseId); });
}

} // namespace kiln
