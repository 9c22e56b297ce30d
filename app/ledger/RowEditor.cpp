// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "ledger/RowEditor.h"

#include "fields/BoundField.h"
#include "fields/CoefficientHelper.h"
#include "fields/KeepFocus.h"
#include "fields/QuantityField.h"
#include "fields/SurfaceSentence.h"
#include "io/Clipboard.h"
#include "ledger/EnclosureTable.h"
#include "ledger/NewObjects.h"
#include "ledger/ObjectChoices.h"
#include "ledger/PartEditor.h"
#include "model/Edit.h"

#include <QComboBox>
#include <QCoreApplication>
#include <QFormLayout>
#include <QKeyEvent>
#include <QMenu>
#include <QPushButton>
#include <QStyle>
#include <QToolButton>
#include <QVBoxLayout>
#include <algorithm>

namespace kiln
{
namespace
{

/// Contacts in the order of the choice box, with a value to start from.
const std::vector<std::pair<const char*, decltype(Contact::exchange)>>& contactKinds()
{
  static const std::vector<std::pair<const char*, decltype(Contact::exchange)>> kinds{
      {QT_TRANSLATE_NOOP("Contact", "perfect"), PerfectContact{}},
      {QT_TRANSLATE_NOOP("Contact", "no exchange"), NoContact{}},
      {QT_TRANSLATE_NOOP("Contact", "area conductance"), AreaConductance{{1000, "1000 W/(m²·K)"}}},
      {QT_TRANSLATE_NOOP("Contact", "area resistance"), AreaResistance{{0.001, "0.001 m²·K/W"}}},
      {QT_TRANSLATE_NOOP("Contact", "total resistance"), TotalResistance{{1, "1 K/W"}}},
      {QT_TRANSLATE_NOOP("Contact", "gap"), Gap{{0.001, "1 mm"}, {0.026, "0.026 W/(m·K)"}, {}, {}}},
  };
  return kinds;
}

/// The contact that a row is of, or nothing while none is set for its pair.
const Contact* contactOf(const Project& project, const LedgerRow& row)
{
  const Contact* own = findById(project.contacts, row.id);
  return own != nullptr ? own : findContact(project, row.partA, row.partB);
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
}

std::string RowEditor::structure() const
{
  Project shown = document_.project();
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
  for (const Material& material : shown.materials)
    text += material.id + ";";
  for (const PartGroup& group : shown.groups)
    text += group.id + ";";
  for (const Node& node : shown.nodes)
    text += node.id + ";";
  for (const HeatSource& source : document_.project().sources)
    if (source.id == row_.id)
      for (const Field& field : fieldsOf(shown, source.id))
        text +=
            field.path +
            (document_.shownField(field.path) != nullptr && document_.shownField(field.path)->table() != nullptr ? "#"
                                                                                                                 : ";");
  text += shown.environment ? "asked;" : "";
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
  addNameField();
  const Project& project = document_.project();
  if (const Node* node = findById(project.nodes, row_.id)) {
    addNodeEditors(document_, *form_, *node);
    addFieldsOf(row_.id);
  } else if (row_.band == Band::Parts) {
    addPartEditors();
  }
  if (const Enclosure* enclosure = findById(document_.project().enclosures, row_.id))
    addEnclosureEditors(*enclosure);
  else if (const Link* link = findById(project.links, row_.id)) {
    addLinkEditors(document_, *form_, *link);
    addFieldsOf(row_.id);
  } else if (row_.band == Band::Contacts)
    addContactChoice();
  if (const HeatSource* source = findById(document_.project().sources, row_.id))
    addSourceEditors(*source);
  if (const Boundary* boundary = findById(document_.project().boundaries, row_.id))
    addBoundaryEditors(*boundary);
  focus.giveTo(body_);
}

/// Which cases an edit counts in.
void RowEditor::addScope()
{
  const std::vector<Case>& cases = document_.project().cases;
  if (cases.size() < 2)
    return;
  auto* scope = quietLabel(tr("Counts in all %1 cases; a value marked “this case” in %2 alone.")
                               .arg(cases.size())
                               .arg(QString::fromStdString(document_.shownCaseObject()->name)));
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

void RowEditor::addNameField()
{
  const Object* object = findObject(document_.project(), row_.id);
  if (object == nullptr)
    return;
  const auto textField = [&](const QString& label, const char* key, std::string Object::*member) {
    auto* edit = new QLineEdit(QString::fromStdString(object->*member));
    edit->setObjectName(QString(key) + ":" + QString::fromStdString(row_.id));
    edit->setAccessibleName(label);
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
    form_->addRow(quietLabel(label), edit);
    return edit;
  };
  textField(tr("Name"), "name", &Object::name);
  textField(tr("Comment"), "comment", &Object::comment)->setPlaceholderText(tr("none"));
}

void RowEditor::addPartEditors()
{
  auto* editor = new PartEditor(document_, preferences_, row_.id);
  connect(editor, &PartEditor::said, this, &RowEditor::say);
  form_->addRow(editor);
}

void RowEditor::addFieldsOf(const std::string& objectId, const QString& prefix, const std::string& under)
{
  Project shown = document_.shownProject();
  for (const Field& field : fieldsOf(shown, objectId)) {
    if (!field.path.starts_with(objectId + "." + under))
      continue;
    auto* edit = new BoundField(document_, preferences_, field);
    connect(edit, &BoundField::said, this, &RowEditor::say);
    QString label = prefix + QString::fromStdString(field.label);
    if (document_.caseChanges(field.path))
      label += tr(" (this case)");
    auto* name = quietLabel(label);
    name->setBuddy(&edit->edit());
    form_->addRow(name, edit);
  }
}

void RowEditor::addContactChoice()
{
  auto* choice = new QComboBox;
  choice->setObjectName("contactChoice");
  choice->setAccessibleName(tr("Exchange"));
  for (const auto& [name, exchange] : contactKinds())
    choice->addItem(QCoreApplication::translate("Contact", name));
  const Contact* contact = contactOf(document_.project(), row_);
  choice->setCurrentIndex(contact != nullptr ? static_cast<int>(contact->exchange.index()) : 0);
  connect(choice, &QComboBox::activated, this, [this](int index) {
    document_.edit(tr("Contact %1").arg(row_.name), [&](Project& project) {
      const Contact* existing = contactOf(project, row_);
      if (existing == nullptr) {
        Contact added;
        added.id = pairId(row_.partA, row_.partB);
        added.name = row_.name.toStdString();
        added.partA = row_.partA;
        added.partB = row_.partB;
        project.contacts.push_back(added);
        existing = &project.contacts.back();
      }
      for (Contact& own : project.contacts)
        if (&own == existing)
          own.exchange = contactKinds()[static_cast<std::size_t>(index)].second;
    });
  });
  form_->addRow(quietLabel(tr("Exchange")), choice);
  if (contact != nullptr) {
    Choices surfaces{{"", tr("all that the parts share")}};
    for (const Surface& surface : document_.project().surfaces)
      surfaces.emplace_back(surface.id, QString::fromStdString(surface.name));
    addChoiceRow(document_, *form_, tr("Of the faces"), "contactSurface", surfaces, contact->surface,
                 [id = contact->id](Project& project, const std::string& surface) {
                   findById(project.contacts, id)->surface = surface;
                 });
  }
  addFieldsOf(row_.id);
  form_->addRow(makeContactHelper(document_, row_.partA, row_.partB));
}

void RowEditor::addEnclosureEditors(const Enclosure& enclosure)
{
  addFieldsOf(row_.id);
  auto* button = new QToolButton;
  button->setObjectName("enclosureSurfaces");
  button->setText(tr("%n surface(s) ▾", nullptr, static_cast<int>(enclosure.surfaces.size())));
  button->setPopupMode(QToolButton::InstantPopup);
  auto* menu = new QMenu(button);
  for (const Surface& surface : document_.project().surfaces) {
    QAction* action = menu->addAction(QString::fromStdString(surface.name));
    action->setCheckable(true);
    action->setChecked(std::find(enclosure.surfaces.begin(), enclosure.surfaces.end(), surface.id) !=
                       enclosure.surfaces.end());
    connect(action, &QAction::triggered, this, [this, id = surface.id](bool on) {
      document_.edit(tr("Surfaces of %1").arg(row_.name), [&](Project& project) {
        std::vector<std::string>& list = findById(project.enclosures, row_.id)->surfaces;
        std::erase(list, id);
        if (on)
          list.push_back(id);
      });
    });
  }
  button->setMenu(menu);
  form_->addRow(quietLabel(tr("Among")), button);
  auto* table = new EnclosureTable(document_, row_.id);
  form_->addRow(table);
}

void RowEditor::addSourceEditors(const HeatSource& source)
{
  std::visit(
      [&](const auto& heat) {
        if constexpr (requires { heat.parts; })
          addPartsChoice(heat.parts, tr("In"), [id = row_.id](Project& project, std::vector<std::string> parts) {
            std::visit(
                [&](auto& own) {
                  if constexpr (requires { own.parts; })
                    own.parts = std::move(parts);
                },
                findById(project.sources, id)->heat);
          });
      },
      source.heat);
  addFieldsOf(row_.id);
  addControlEditors(document_, *form_, source);
  addBeamSurfaces(document_, *form_, source);
  addCaughtHeat(source);
  if (!surfaceOf(source).empty() || surfaceSlot(const_cast<Project&>(document_.project()), row_.id) != nullptr) {
    form_->addRow(makeFluxConverter(document_, row_.id));
    addSurfaceEditors(surfaceOf(source));
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

void RowEditor::addBoundaryEditors(const Boundary& boundary)
{
  if (std::holds_alternative<CorrelatedConvection>(boundary.condition) ||
      std::holds_alternative<Convection>(boundary.condition)) {
    addFieldsOf(row_.id);
    form_->addRow(new CoefficientHelper(document_, preferences_, row_.id));
  } else {
    addFieldsOf(row_.id);
  }
  addAmbientChoice(document_, *form_, boundary);
  if (const auto* sheet = std::get_if<Sheet>(&boundary.condition)) {
    Choices materials{{"", tr("choose a material")}};
    for (const Material& material : document_.project().materials)
      materials.emplace_back(material.id, QString::fromStdString(material.name));
    addChoiceRow(document_, *form_, tr("Material"), "sheetMaterial", materials, sheet->material,
                 [id = row_.id](Project& project, const std::string& material) {
                   std::get<Sheet>(findById(project.boundaries, id)->condition).material = material;
                 });
  }
  if (const auto* fixed = std::get_if<FixedPart>(&boundary.condition))
    addPartsChoice({fixed->part}, tr("Part"), [id = row_.id](Project& project, std::vector<std::string> parts) {
      std::get<FixedPart>(findById(project.boundaries, id)->condition).part = parts.empty() ? "" : parts.back();
    });
  if (surfaceSlot(const_cast<Project&>(document_.project()), row_.id) != nullptr) {
    addSurfaceEditors(surfaceOf(boundary));
    if (std::holds_alternative<Radiation>(boundary.condition))
      addFinishes(surfaceOf(boundary));
  }
}

void RowEditor::addSurfaceEditors(const std::string& surfaceId)
{
  auto* choice = new QComboBox;
  choice->setObjectName("surfaceChoice");
  choice->setAccessibleName(tr("Surface"));
  for (const Surface& surface : document_.project().surfaces)
    choice->addItem(QString::fromStdString(surface.name), QString::fromStdString(surface.id));
  choice->addItem(tr("new surface…"), QString());
  choice->setCurrentIndex(choice->findData(QString::fromStdString(surfaceId)));
  connect(choice, &QComboBox::activated, this, [this, choice] {
    document_.edit(tr("Surface of %1").arg(row_.name), [&](Project& project) {
      std::string id = choice->currentData().toString().toStdString();
      if (id.empty())
        id = addObject(project, project.surfaces, Surface{}, freeName(project, "Surface"));
      *surfaceSlot(project, row_.id) = id;
    });
  });
  form_->addRow(quietLabel(tr("Surface")), choice);
  if (findById(document_.project().surfaces, surfaceId) != nullptr) {
    auto* sentence = new SurfaceSentence(document_, preferences_, surfaceId);
    connect(sentence, &SurfaceSentence::said, this, &RowEditor::say);
    form_->addRow(sentence);
  }
}

void RowEditor::addPartsChoice(const std::vector<std::string>& chosen, const QString& label,
                               const std::function<void(Project&, std::vector<std::string>)>& apply)
{
  auto* button = new QToolButton;
  button->setObjectName("partsChoice");
  button->setPopupMode(QToolButton::InstantPopup);
  QStringList names;
  auto* menu = new QMenu(button);
  const auto add = [&](const Object& object) {
    const bool has = std::find(chosen.begin(), chosen.end(), object.id) != chosen.end();
    if (has)
      names << QString::fromStdString(object.name);
    QAction* action = menu->addAction(QString::fromStdString(object.name));
    action->setCheckable(true);
    action->setChecked(has);
    connect(action, &QAction::triggered, this, [this, id = object.id, chosen, apply](bool on) {
      std::vector<std::string> now = chosen;
      std::erase(now, id);
      if (on)
        now.push_back(id);
      document_.edit(tr("Parts of %1").arg(row_.name), [&](Project& project) { apply(project, now); });
    });
  };
  for (const PartGroup& group : document_.project().groups)
    add(group);
  for (const Part& part : document_.project().parts)
    add(part);
  button->setMenu(menu);
  button->setText(names.isEmpty() ? tr("choose parts") : names.join(", "));
  form_->addRow(quietLabel(label), button);
}

/// Radiation depends on the finish of its surface: its emissivity can be changed here.
void RowEditor::addFinishes(const std::string& surfaceId)
{
  bool any = false;
  for (const Finish& finish : document_.project().finishes)
    if (std::find(finish.surfaces.begin(), finish.surfaces.end(), surfaceId) != finish.surfaces.end()) {
      addFieldsOf(finish.id, QString::fromStdString(finish.name) + ": ");
      any = true;
    }
  if (!any)
    form_->addRow(quietLabel(tr("Finish")), quietLabel(tr("none; the materials' typical emissivities count")));
  form_->addRow(quietLabel({}), makeFinishChoice(document_, surfaceId));
}

} // namespace kiln
