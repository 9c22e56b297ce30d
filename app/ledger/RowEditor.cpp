// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "ledger/RowEditor.h"

#include "fields/CoefficientHelper.h"
#include "fields/KeepFocus.h"
#include "fields/MoreRows.h"
#include "fields/SurfaceSentence.h"
#include "io/Clipboard.h"
#include "ledger/BoltedJointDialog.h"
#include "ledger/EnclosureTable.h"
#include "ledger/PartEditor.h"
#include "ledger/ThermostatChoice.h"
#include "look/Language.h"
#include "model/Alternatives.h"
#include "model/Edit.h"
#include "model/ObjectKinds.h"

#include <QComboBox>
#include <QFormLayout>
#include <QHBoxLayout>
#include <QKeyEvent>
#include <QPushButton>
#include <QStyle>
#include <QToolButton>
#include <QVBoxLayout>
#include <algorithm>

namespace kiln
{
namespace
{

/// The contact that a row is of, or nothing while none is set for its pair.
const Contact* contactOf(const Project& project, const LedgerRow& row)
{
  const Contact* own = findById(project.contacts, row.id);
  return own != nullptr ? own : findContact(project, row.partA, row.partB);
}

/// "boundary": what stays unfolded does so for all of a kind.
QString kindWord(const Project& project, const std::string& id)
{
  return inWords(kindWords(kindOfObject(project, id)));
}

} // namespace

RowEditor::RowEditor(Document& document, Preferences& preferences, const LedgerRow& row, QWidget* parent)
    : QFrame(parent), document_(document), preferences_(preferences), row_(row), layout_(new QVBoxLayout(this)),
      message_(new QLabel)
{
  setObjectName("rowEditor");
  layout_->setContentsMargins(18, 2, 4, 8);
  layout_->setSpacing(4);
  message_->setWordWrap(true);
  message_->setObjectName("fieldMessage");
  message_->setVisible(false);
  layout_->addWidget(message_);
  rebuild();
  connect(&document, &Document::projectChanged, this, &RowEditor::rebuildIfChanged);
  connect(&document, &Document::editScopeChanged, this, &RowEditor::rebuildIfChanged);
}

std::string RowEditor::structure() const
{
  Project shown = document_.shownProject();
  for (Field& field : fields(shown)) {
    if (Number* value = field.value())
      *value = {};
    if (field.table() != nullptr)
      field.assign({});
  }
  for (Part& part : shown.parts)
    part.name.clear(), part.comment.clear();
  std::string text = copyObjects(shown, {row_.id});
  if (const Contact* contact = contactOf(shown, row_))
    text += std::to_string(contact->exchange.index()) + contact->surface;
  forEachObjectList(std::as_const(shown), [&](const auto& list) { // what may be referred to
    for (const auto& object : list)
      text += object.id + ":" + object.name + ";";
  });
  text += hasTable(row_.id) ? "#;" : ";";
  text += shown.environment ? "asked;" : "";
  text += document_.editsCaseOnly() ? "case;" : "";
  if (const Case* own = document_.shownCaseObject())
    for (const Change& change : own->changes)
      if (change.field.starts_with(row_.id + "."))
        text += change.field + "!;";
  for (const std::string& step : document_.openSteps())
    text += step + ";";
  return text;
}

void RowEditor::rebuildIfChanged()
{
  if (structure() != structure_)
    rebuild();
}

void RowEditor::rebuild()
{
  structure_ = structure();
  const KeepFocus focus(body_);
  if (body_ != nullptr) {
    body_->hide();
    body_->deleteLater();
  }
  body_ = new QWidget;
  form_ = new QFormLayout(body_);
  form_->setContentsMargins(0, 0, 0, 0);
  form_->setSpacing(4);
  form_->setLabelAlignment(Qt::AlignLeft);
  layout_->insertWidget(0, body_);
  addScope();
  addText(*form_, tr("Name"), "name", &Object::name);
  const Project& project = document_.project();
  if (row_.band == Band::Parts && findById(project.parts, row_.id) != nullptr)
    addPartEditors();
  else if (row_.band == Band::Contacts && contactOf(project, row_) == nullptr && !row_.partA.empty())
    addContactChoice();
  else
    addSettings();
  focus.giveTo(body_);
}

/// Which cases an edit counts in.
void RowEditor::addScope()
{
  const std::vector<Case>& cases = document_.project().cases;
  if (cases.size() < 2)
    return;
  const QString shown = QString::fromStdString(document_.shownCaseObject()->name);
  auto* scope = quietLabel(
      document_.editsCaseOnly()
          ? tr("What you set counts in %1 alone.").arg(shown)
          : tr("Counts in all %1 cases; a value marked “this case” in %2 alone.").arg(cases.size()).arg(shown));
  scope->setObjectName("editScope");
  form_->addRow(scope);
}

void RowEditor::keyPressEvent(QKeyEvent* event) { event->accept(); }

void RowEditor::say(const QString& sentence, bool wrong)
{
  message_->setText(sentence);
  message_->setProperty("role", wrong ? "bad" : "quiet");
  message_->style()->unpolish(message_);
  message_->style()->polish(message_);
  message_->setVisible(!sentence.isEmpty());
}

void RowEditor::addText(QFormLayout& form, const QString& label, const char* key, std::string Object::*member)
{
  const Object* object = findObject(document_.project(), row_.id);
  if (object == nullptr)
    return;
  auto* edit = new QLineEdit(QString::fromStdString(object->*member));
  edit->setObjectName(QString(key) + ":" + QString::fromStdString(row_.id));
  edit->setAccessibleName(label);
  if (member == &Object::comment)
    edit->setPlaceholderText(tr("none"));
  connect(edit, &QLineEdit::editingFinished, this, [this, edit, member, label] {
    const std::string typed = edit->text().trimmed().toStdString();
    const Object* own = findObject(document_.project(), row_.id);
    if (own == nullptr || own->*member == typed)
      return;
    if (typed.empty() && member == &Object::name) {
      edit->setText(QString::fromStdString(own->name));
      say(tr("A name cannot be empty. The old one is kept."), true);
      return;
    }
    document_.edit(tr("%1 of %2").arg(label, row_.name),
                   [&](Project& project) { findObject(project, row_.id)->*member = typed; });
  });
  form.addRow(quietLabel(label), edit);
}

void RowEditor::addPartEditors()
{
  auto* editor = new PartEditor(document_, preferences_, row_.id);
  connect(editor, &PartEditor::said, this, &RowEditor::say);
  form_->addRow(editor);
  addText(editor->more(), tr("Comment"), "comment", &Object::comment);
}

SettingRows RowEditor::rows(const QString& prefix)
{
  return {document_, preferences_, *form_, [this](const QString& sentence, bool wrong) { say(sentence, wrong); },
          prefix};
}

/// Everything the schema says of the object, then what helps with some of it.
void RowEditor::addSettings()
{
  const Project& project = document_.project();
  const Contact* contact = contactOf(project, row_);
  const std::string id = contact != nullptr ? contact->id : row_.id;
  const Project& shown = document_.shownProject(); // whose kinds may be the case's own
  const Boundary* boundary = findById(shown.boundaries, id);
  const bool helped = boundary != nullptr && std::holds_alternative<CorrelatedConvection>(boundary->condition) &&
                      isProjectsKind(*boundary);
  const auto wanted = [&](const Field& field) {
    const std::string_view key = field.key;
    if (key == "name" || key == "comment" || key == "muted") // of the row itself
      return false;
    if (contact != nullptr && field.reference && field.reference->need == Need::Whole)
      return false; // the pair that the row is of
    if (helped && field.kind == Field::Kind::Choice && key != "kind")
      return false; // chosen with the helper
    if (key == "node")
      return !project.nodes.empty() || !field.text->empty();
    return !field.path.starts_with(id + ".thermostat.") && (key != "follows" || hasTable(id));
  };
  // What may be missing, and is, comes behind the rest.
  const auto isExtra = [](const Field& field) { return field.mayBeMissing() && field.value() == nullptr; };
  addSettingRows(rows(), id, [&](const Field& field) { return wanted(field) && !isExtra(field); });
  auto* more = new MoreRows(kindWord(shown, id), tr("More"));
  SettingRows extra{document_, preferences_, more->form(), rows().say, {}};
  addSettingRows(extra, id, [&](const Field& field) { return wanted(field) && isExtra(field); });
  addText(more->form(), tr("Comment"), "comment", &Object::comment);
  if (contact != nullptr)
    addContactHelpers();
  if (findById(project.enclosures, id) != nullptr)
    form_->addRow(new EnclosureTable(document_, id));
  if (const HeatSource* source = findById(shown.sources, id))
    addSourceHelpers(*source);
  if (boundary != nullptr)
    addBoundaryHelpers(*boundary);
  if (more->form().rowCount() > 0)
    form_->addRow(more);
  else
    delete more;
}

/// Or has the shown case a kind of its own for it?
bool RowEditor::isProjectsKind(const Boundary& boundary) const
{
  const Boundary* own = findById(document_.project().boundaries, boundary.id);
  return own != nullptr && own->condition.index() == boundary.condition.index();
}

/// Is any number of the object a table?
bool RowEditor::hasTable(const std::string& id) const
{
  Project shown = document_.shownProject();
  const std::vector<Field> all = fieldsOf(shown, id);
  return std::any_of(all.begin(), all.end(), [](const Field& field) { return field.table() != nullptr; });
}

/// Usual values, and what a bolt makes of it.
void RowEditor::addContactHelpers()
{
  auto* row = new QWidget;
  auto* layout = new QHBoxLayout(row);
  layout->setContentsMargins(0, 0, 0, 0);
  layout->addWidget(makeContactHelper(document_, row_.partA, row_.partB));
  auto* bolt = new QToolButton;
  bolt->setObjectName("boltedJointButton");
  bolt->setText(tr("Bolted joint…"));
  bolt->setToolTip(tr("From the force of a bolt to a conductance within its washer's reach, and another elsewhere"));
  connect(bolt, &QToolButton::clicked, this,
          [this] { (new BoltedJointDialog(document_, row_.partA, row_.partB, window()))->show(); });
  layout->addWidget(bolt);
  layout->addStretch();
  form_->addRow(row);
}

/// A touching pair that nothing is set for yet: choosing makes its contact.
void RowEditor::addContactChoice()
{
  auto* choice = new QComboBox;
  choice->setObjectName("field:" + QString::fromStdString(pairId(row_.partA, row_.partB) + ".kind"));
  choice->setAccessibleName(tr("Exchange"));
  for (const KindSpec& kind : describing::exchangeKinds)
    choice->addItem(inWords(kind.label));
  connect(choice, &QComboBox::activated, this, [this](int index) {
    document_.edit(tr("Contact %1").arg(row_.name), [&](Project& project) {
      Contact added;
      added.id = pairId(row_.partA, row_.partB);
      added.name = row_.name.toStdString();
      added.partA = row_.partA;
      added.partB = row_.partB;
      chooseAlternative(added.exchange, static_cast<std::size_t>(index));
      project.contacts.push_back(std::move(added));
    });
  });
  form_->addRow(quietLabel(tr("Exchange")), choice);
  addContactHelpers();
}

void RowEditor::addSourceHelpers(const HeatSource& source)
{
  addThermostatChoice(document_, *form_, source);
  addSettingRows(rows(), row_.id, [&](const Field& field) {
    return field.path.starts_with(row_.id + ".thermostat.") && field.key != "watch";
  });
  addCaughtHeat(source);
  if (surfaceSlot(const_cast<Project&>(document_.project()), row_.id) != nullptr) {
    form_->addRow(makeFluxConverter(document_, row_.id));
    addSentence(surfaceOf(source));
  }
}

/// What each surface catches of a beam.
void RowEditor::addCaughtHeat(const HeatSource& source)
{
  if (!std::holds_alternative<Beam>(source.heat))
    return;
  auto* label = new QLabel;
  label->setObjectName("caughtHeat");
  label->setWordWrap(true);
  const auto refresh = [this, label, id = source.id] {
    QStringList words;
    if (const auto result = document_.shownState().result)
      for (const CaughtHeat& caught : result->caught)
        if (caught.source == id) {
          const Surface* surface = findById(document_.shownProject().surfaces, caught.surface);
          words << tr("%1 on %2")
                       .arg(QString::fromStdString(formatQuantity(caught.watts, Quantity::Power, {}, 4)),
                            QString::fromStdString(surface != nullptr ? surface->name : caught.surface));
        }
    label->setText(words.isEmpty() ? tr("solve to see it") : words.join("\n"));
  };
  connect(&document_, &Document::resultChanged, label, refresh);
  refresh();
  form_->addRow(quietLabel(tr("Caught")), label);
}

void RowEditor::addBoundaryHelpers(const Boundary& boundary)
{
  const bool convection = std::holds_alternative<CorrelatedConvection>(boundary.condition) ||
                          std::holds_alternative<Convection>(boundary.condition);
  if (convection && isProjectsKind(boundary)) // the helper works on the project's
    form_->addRow(new CoefficientHelper(document_, preferences_, row_.id));
  if (surfaceOf(boundary).empty())
    return;
  addSentence(surfaceOf(boundary));
  if (std::holds_alternative<Radiation>(boundary.condition))
    addFinishes(surfaceOf(boundary));
}

/// The rule of a surface, in words that can be changed.
void RowEditor::addSentence(const std::string& surfaceId)
{
  if (findById(document_.project().surfaces, surfaceId) == nullptr)
    return;
  auto* sentence = new SurfaceSentence(document_, preferences_, surfaceId);
  connect(sentence, &SurfaceSentence::said, this, &RowEditor::say);
  form_->addRow(sentence);
}

/// Radiation depends on the finish of its surface: its emissivity can be changed here.
void RowEditor::addFinishes(const std::string& surfaceId)
{
  bool any = false;
  for (const Finish& finish : document_.project().finishes)
    if (std::find(finish.surfaces.begin(), finish.surfaces.end(), surfaceId) != finish.surfaces.end()) {
      addSettingRows(rows(QString::fromStdString(finish.name) + ": "), finish.id,
                     [](const Field& field) { return field.kind == Field::Kind::Number; });
      any = true;
    }
  if (!any)
    form_->addRow(quietLabel(tr("Finish")), quietLabel(tr("none; the materials' typical emissivities count")));
  form_->addRow(quietLabel({}), makeFinishChoice(document_, surfaceId));
}

} // namespace kiln
