// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "ledger/RowEditor.h"

#include "fields/QuantityField.h"
#include "geometry/SurfaceFaces.h"
#include "model/Fields.h"

#include <QComboBox>
#include <QCoreApplication>
#include <QFormLayout>
#include <QStyle>
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
  };
  return kinds;
}

QLabel* quietLabel(const QString& text)
{
  auto* label = new QLabel(text);
  label->setProperty("role", "quiet");
  label->setWordWrap(true);
  return label;
}

} // namespace

RowEditor::RowEditor(Document& document, Preferences& preferences, const LedgerRow& row, QWidget* parent)
    : QFrame(parent), document_(document), preferences_(preferences), row_(row), form_(new QFormLayout),
      message_(new QLabel)
{
  setObjectName("rowEditor");
  auto* layout = new QVBoxLayout(this);
  layout->setContentsMargins(18, 2, 4, 8);
  layout->setSpacing(4);
  form_->setContentsMargins(0, 0, 0, 0);
  form_->setSpacing(4);
  form_->setLabelAlignment(Qt::AlignLeft);
  layout->addLayout(form_);
  message_->setWordWrap(true);
  message_->setObjectName("fieldMessage");
  message_->setVisible(false);
  layout->addWidget(message_);

  if (row.band == Band::Parts)
    addMaterialChoice();
  if (row.band == Band::Contacts)
    addContactChoice();
  addFieldsOf(row.id);
  if (row.band == Band::Surroundings || row.band == Band::HeatIn)
    addSurfaceInfo();
  if (row.band == Band::Parts)
    if (const Part* part = findById(document.project().parts, row.id); part != nullptr && !part->material.empty())
      addFieldsOf(part->material, tr("Material: "));
}

void RowEditor::say(const QString& sentence, bool wrong)
{
  message_->setText(sentence);
  message_->setProperty("role", wrong ? "bad" : "quiet");
  message_->style()->unpolish(message_);
  message_->style()->polish(message_);
  message_->setVisible(!sentence.isEmpty());
}

void RowEditor::addFieldsOf(const std::string& objectId, const QString& prefix)
{
  Project shown = document_.shownProject();
  for (const Field& field : fieldsOf(shown, objectId)) {
    auto* edit = new QuantityField(field.quantity, field.range);
    edit->setOptional(field.optional != nullptr);
    edit->setTemperatureUnit(preferences_.temperatureUnit());
    edit->setNumber(field.value() != nullptr ? std::optional(*field.value()) : std::nullopt);
    edit->setObjectName("field:" + QString::fromStdString(field.path));
    edit->setAccessibleName(QString::fromStdString(field.objectName + ", " + field.label));
    edit->setToolTip(QString::fromStdString(field.path) + "\n" +
                     tr("Takes %1.")
                         .arg(QString::fromUtf8(quantityName(field.quantity).data(),
                                                static_cast<qsizetype>(quantityName(field.quantity).size()))));
    connect(edit, &QuantityField::said, this, &RowEditor::say);
    connect(edit, &QuantityField::committed, this,
            [this, path = field.path](const Number& number) { document_.setNumber(path, number); });
    connect(edit, &QuantityField::cleared, this, [this, path = field.path] {
      document_.edit(tr("Clear %1").arg(QString::fromStdString(path)), [&](Project& project) {
        for (const Field& one : fields(project))
          if (one.path == path && one.optional != nullptr)
            one.optional->reset();
      });
    });
    connect(&document_, &Document::projectChanged, edit, [this, edit, path = field.path] {
      Project now = document_.shownProject();
      for (const Field& one : fields(now))
        if (one.path == path && !edit->hasFocus())
          edit->setNumber(one.value() != nullptr ? std::optional(*one.value()) : std::nullopt);
    });
    connect(&preferences_, &Preferences::unitChanged, edit,
            [this, edit] { edit->setTemperatureUnit(preferences_.temperatureUnit()); });
    QString label = prefix + QString::fromStdString(field.label);
    if (const std::string step = ", step "; field.objectName.find(step) != std::string::npos)
      label = QString::fromStdString(field.objectName.substr(field.objectName.find(step) + step.size())) + ": " + label;
    if (document_.caseChanges(field.path))
      label += tr(" (this case)");
    auto* name = quietLabel(label);
    name->setBuddy(edit);
    form_->addRow(name, edit);
  }
}

void RowEditor::addMaterialChoice()
{
  auto* choice = new QComboBox;
  choice->setObjectName("materialChoice");
  choice->setAccessibleName(tr("Material"));
  const Part* part = findById(document_.project().parts, row_.id);
  if (part == nullptr)
    return;
  choice->addItem(tr("none"), QString());
  for (const Material& material : document_.project().materials)
    choice->addItem(QString::fromStdString(material.name), QString::fromStdString(material.id));
  choice->setCurrentIndex(std::max(0, choice->findData(QString::fromStdString(part->material))));
  connect(choice, &QComboBox::activated, this, [this, choice] {
    document_.edit(tr("Material of %1").arg(row_.name), [&](Project& project) {
      findById(project.parts, row_.id)->material = choice->currentData().toString().toStdString();
    });
  });
  form_->addRow(quietLabel(tr("Material")), choice);
}

void RowEditor::addContactChoice()
{
  auto* choice = new QComboBox;
  choice->setObjectName("contactChoice");
  choice->setAccessibleName(tr("Exchange"));
  for (const auto& [name, exchange] : contactKinds())
    choice->addItem(QCoreApplication::translate("Contact", name));
  const Contact* contact = findContact(document_.project(), row_.partA, row_.partB);
  choice->setCurrentIndex(contact != nullptr ? static_cast<int>(contact->exchange.index()) : 0);
  connect(choice, &QComboBox::activated, this, [this](int index) {
    document_.edit(tr("Contact %1").arg(row_.name), [&](Project& project) {
      const Contact* existing = findContact(project, row_.partA, row_.partB);
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
}

void RowEditor::addSurfaceInfo()
{
  std::string id;
  if (const Boundary* boundary = findById(document_.project().boundaries, row_.id))
    id = surfaceOf(*boundary);
  if (const HeatSource* source = findById(document_.project().sources, row_.id))
    id = surfaceOf(*source);
  const Surface* surface = findById(document_.project().surfaces, id);
  if (surface == nullptr)
    return;
  QString text = QString::fromStdString(surface->name);
  if (const auto mesh = document_.shownMesh()) {
    const SurfaceFaces faces = facesOf(document_.shownProject(), mesh->geometry, *surface);
    text += tr(" · %n face(s)", nullptr, static_cast<int>(faces.faces.size())) + " · " +
            QString::fromStdString(formatQuantity(faces.area, Quantity::Area, {}, 4));
  }
  form_->addRow(quietLabel(tr("Surface")), quietLabel(text));
  addFieldsOf(id, tr("Facing: "));
  if (const Boundary* boundary = findById(document_.project().boundaries, row_.id))
    if (std::holds_alternative<Radiation>(boundary->condition))
      addFinishes(id);
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
}

} // namespace kiln
