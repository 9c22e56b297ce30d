// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "ledger/PartEditor.h"

#include "fields/BoundField.h"
#include "fields/MoreRows.h"
#include "fields/OutlineEditor.h"
#include "fields/QuantityField.h"
#include "geometry/SheetFromPart.h"
#include "geometry/TakenElements.h"
#include "io/Library.h"
#include "ledger/NewObjects.h"
#include "ledger/Placing.h"
#include "ledger/RowEditor.h"
#include "look/Language.h"
#include "look/Theme.h"
#include "model/Edit.h"
#include "scene/SceneColoring.h"

#include <QCheckBox>
#include <QColorDialog>
#include <QComboBox>
#include <QFormLayout>
#include <QLabel>
#include <QMenu>
#include <QTimer>
#include <QToolButton>
#include <algorithm>
#include <map>

namespace kiln
{
namespace
{

Number millimetres(double value) { return {value / 1000, plainNumber(value) + " mm", false}; }

} // namespace

PartEditor::PartEditor(Document& document, Preferences& preferences, std::string partId, QWidget* parent)
    : QWidget(parent), document_(document), preferences_(preferences), id_(std::move(partId)),
      form_(new QFormLayout(this)), more_(new MoreRows("part", tr("More")))
{
  form_->setContentsMargins(0, 0, 0, 0);
  form_->setSpacing(4);
  form_->setLabelAlignment(Qt::AlignLeft);
  if (findById(document.project().parts, id_) == nullptr)
    return;
  addMaterial();
  addForm();
  addSteps();
  form_->addRow(more_);
  form_ = &more_->form();
  addFields("rotation");
  addGroup();
  addRepeat("repeat", part().repeat, [](Part& own, const Repeat& repeat) { own.repeat = repeat; });
  addYields();
  addColour();
  addFields("meshSize");
  addSheetButton();
  const Material* material = findById(document.project().materials, part().material);
  if (material != nullptr && (material->conductivityY || material->conductivityZ))
    addFields("materialAxes");
}

QFormLayout& PartEditor::more() { return more_->form(); }

void PartEditor::editPart(const QString& name, const std::function<void(Part&)>& change)
{
  document_.edit(name, [&](Project& project) {
    if (Part* own = findById(project.parts, id_))
      change(*own);
  });
}

/// A thin layer need not be meshed.
void PartEditor::addSheetButton()
{
  auto* button = new QToolButton;
  button->setObjectName("toSheet");
  button->setText(tr("Turn into a sheet"));
  button->setToolTip(tr("A thin layer that is not meshed: it conducts along the part beneath it and stores heat"));
  auto* message = new QLabel;
  message->setObjectName("toSheetMessage");
  message->setWordWrap(true);
  message->setStyleSheet("color: " + theme().bad.name());
  message->hide();
  connect(button, &QToolButton::clicked, this, [this, message] {
    const auto mesh = document_.shownMesh();
    auto changed = mesh ? sheetFromPart(document_.project(), mesh->geometry, id_)
                        : Expected<Project>(failure(Failure::Kind::NotReady, "part " + part().name,
                                                    "The shapes are not built yet.", "Wait a moment."));
    if (changed)
      return document_.edit(tr("Turn into a sheet"), [&](Project& project) { project = std::move(*changed); });
    message->setText(inWords(changed.error()));
    message->show();
  });
  form_->addRow(QString(), button);
  form_->addRow(message);
}

QToolButton* PartEditor::menuButton(const QString& text, const char* name, QMenu*& menu)
{
  auto* button = new QToolButton;
  button->setText(text);
  button->setObjectName(name);
  button->setPopupMode(QToolButton::InstantPopup);
  menu = new QMenu(button);
  button->setMenu(menu);
  return button;
}

void PartEditor::addMaterial()
{
  auto* row = new QWidget;
  auto* layout = new QHBoxLayout(row);
  layout->setContentsMargins(0, 0, 0, 0);
  auto* choice = new QComboBox;
  choice->setObjectName("materialChoice");
  choice->setAccessibleName(tr("Material"));
  choice->addItem(tr("none"), QString());
  for (const Material& material : document_.project().materials)
    choice->addItem(QString::fromStdString(material.name), QString::fromStdString(material.id));
  choice->setCurrentIndex(std::max(0, choice->findData(QString::fromStdString(part().material))));
  connect(choice, &QComboBox::activated, this, [this, choice] {
    const std::string material = choice->currentData().toString().toStdString();
    editPart(tr("Material of %1").arg(QString::fromStdString(part().name)),
             [&](Part& own) { own.material = material; });
  });
  choice->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
  layout->addWidget(choice, 1);
  QMenu* menu = nullptr;
  layout->addWidget(menuButton(tr("Library ▾"), "materialLibrary", menu));
  std::map<std::string, QMenu*> groups;
  const auto offer = [&](const Material& material) {
    QMenu*& group = groups[material.comment];
    if (group == nullptr)
      group = menu->addMenu(QString::fromStdString(material.comment.empty() ? "mine" : material.comment));
    group->addAction(QString::fromStdString(material.name), this, [this, material] {
      document_.edit(tr("Material of %1").arg(QString::fromStdString(part().name)), [&](Project& project) {
        findById(project.parts, id_)->material = takeMaterial(project, material);
      });
    });
  };
  if (const auto own = loadUserLibrary())
    std::for_each(own->materials.begin(), own->materials.end(), offer);
  std::for_each(builtInLibrary().materials.begin(), builtInLibrary().materials.end(), offer);
  form_->addRow(quietLabel(tr("Material")), row);
}

void PartEditor::addGroup()
{
  if (document_.project().groups.empty())
    return;
  auto* choice = new QComboBox;
  choice->setObjectName("groupChoice");
  choice->setAccessibleName(tr("Part group"));
  choice->addItem(tr("none"), QString());
  for (const PartGroup& group : document_.project().groups)
    choice->addItem(QString::fromStdString(group.name), QString::fromStdString(group.id));
  choice->setCurrentIndex(std::max(0, choice->findData(QString::fromStdString(part().group))));
  connect(choice, &QComboBox::activated, this, [this, choice] {
    editPart(tr("Part group"), [&](Part& own) { own.group = choice->currentData().toString().toStdString(); });
  });
  form_->addRow(quietLabel(tr("Group")), choice);
}

void PartEditor::addForm()
{
  auto* choice = new QComboBox;
  choice->setObjectName("formChoice");
  choice->setAccessibleName(tr("Shape"));
  for (const auto& [name, form] : startingForms(document_.project()))
    choice->addItem(name, static_cast<int>(form.index()));
  const auto* taken = std::get_if<FileBody>(&part().shape.form);
  if (taken != nullptr) {
    const GeometryFile* file = findById(document_.project().files, taken->file);
    choice->addItem(tr("Body of %1").arg(QString::fromStdString(file != nullptr ? file->name : taken->file)),
                    static_cast<int>(part().shape.form.index()));
  }
  if (choice->findData(static_cast<int>(part().shape.form.index())) < 0)
    choice->addItem(tr("Flat form"), static_cast<int>(part().shape.form.index()));
  choice->setCurrentIndex(choice->findData(static_cast<int>(part().shape.form.index())));
  connect(choice, &QComboBox::activated, this, [this, choice] {
    const auto wanted = static_cast<std::size_t>(choice->currentData().toInt());
    editPart(tr("Shape of %1").arg(QString::fromStdString(part().name)), [&](Part& own) {
      for (const auto& [name, form] : startingForms(document_.project()))
        if (form.index() == wanted && own.shape.form.index() != wanted)
          own.shape.form = form;
    });
  });
  form_->addRow(quietLabel(tr("Shape")), choice);
  if (hasElements(document_.project(), part()))
    addElements();
  const auto* prism = std::get_if<Prism>(&part().shape.form);
  if (prism != nullptr || std::holds_alternative<TurnedProfile>(part().shape.form) ||
      std::holds_alternative<FlatOutline>(part().shape.form)) {
    auto* open = new QToolButton;
    open->setText(tr("Outline…"));
    open->setObjectName("openOutline");
    connect(open, &QToolButton::clicked, this, [this] {
      auto* editor = new OutlineEditor(document_, id_, {}, window());
      editor->setAttribute(Qt::WA_DeleteOnClose);
      editor->show();
    });
    form_->addRow(quietLabel(tr("Outline")), open);
  }
  addFields("", {"steps", "repeat", "materialAxes", "meshSize", "outline", "rotation"});
  Form own = part().shape.form;
  if (const auto reach = reachOf(own); reach && (prism != nullptr || !reach->upTo->empty()))
    addUpTo({}, *reach->upTo);
  addPlaceMenu();
}

void PartEditor::addColour()
{
  auto* button = new QToolButton;
  button->setObjectName("partColour");
  button->setAccessibleName(tr("Colour"));
  button->setToolTip(tr("Colour of the part where the scene is coloured by part"));
  QPixmap sample(16, 16);
  sample.fill(partColor(document_.project(), part()));
  button->setIcon(QIcon(sample));
  button->setText(part().colour.empty() ? tr("chosen by the program") : QString::fromStdString(part().colour));
  button->setToolButtonStyle(Qt::ToolButtonTextBesideIcon);
  button->setPopupMode(QToolButton::InstantPopup);
  auto* menu = new QMenu(button);
  const auto set = [this](const std::string& colour) {
    editPart(tr("Colour of %1").arg(QString::fromStdString(part().name)), [&](Part& own) { own.colour = colour; });
  };
  menu->addAction(tr("Choose…"), this, [this, set] {
    const QColor chosen =
        QColorDialog::getColor(partColor(document_.project(), part()), window(), tr("Colour of a part"));
    if (chosen.isValid())
      set(chosen.name().toStdString());
  });
  menu->addAction(tr("Let the program choose"), this, [set] { set(""); });
  button->setMenu(menu);
  form_->addRow(quietLabel(tr("Colour")), button);
}

/// A body from a mesh file can keep the file's elements.
void PartEditor::addElements()
{
  auto* keep = new QCheckBox(tr("Keep the elements of the file"));
  keep->setObjectName("keepElements");
  keep->setChecked(!std::get<FileBody>(part().shape.form).meshAnew);
  const bool can = part().steps.empty() && part().yieldsTo.empty();
  keep->setEnabled(can);
  keep->setToolTip(can ? tr("The part is meshed with the elements it has in its file, as they are")
                       : tr("Its shape is not that of its file any more: it is meshed anew"));
  connect(keep, &QCheckBox::toggled, this, [this](bool on) {
    editPart(tr("Elements of %1").arg(QString::fromStdString(part().name)),
             [&](Part& own) { std::get<FileBody>(own.shape.form).meshAnew = !on; });
  });
  form_->addRow(QString(), keep);
}

void PartEditor::addPlaceMenu()
{
  QMenu* menu = nullptr;
  auto* button = menuButton(tr("Place on the picked face ▾"), "placeMenu", menu);
  for (const auto& [label, how] : placings()) {
    menu->addAction(tr(label), this, [this, how = how, label = std::string(label)] {
      QString why;
      const auto position = placedOnPicked(document_, id_, how, why);
      if (!position) {
        emit said(why, true);
        return;
      }
      editPart(tr("Place %1").arg(QString::fromStdString(part().name)),
               [&](Part& own) { own.shape.placement.position = *position; });
    });
  }
  form_->addRow(button);
}

QWidget* PartEditor::boundField(const Field& field)
{
  auto* edit = new BoundField(document_, preferences_, field);
  connect(edit, &BoundField::said, this, &PartEditor::said);
  return edit;
}

void PartEditor::addFields(const std::string& under, const std::vector<std::string>& except)
{
  Project shown = document_.shownProject();
  const std::vector<Field> all = fieldsOf(shown, id_);
  const std::string prefix = id_ + "." + under;
  for (std::size_t i = 0; i < all.size(); ++i) {
    const Field& field = all[i];
    if (!field.path.starts_with(prefix))
      continue;
    const std::string rest = field.path.substr(id_.size() + 1);
    const bool isStep = under.empty() && std::any_of(part().steps.begin(), part().steps.end(),
                                                     [&](const auto& step) { return rest.starts_with(step.id + "."); });
    if (isStep || std::any_of(except.begin(), except.end(), [&](const auto& word) { return rest.starts_with(word); }))
      continue;
    QString label = inWords(field.label);
    if (document_.caseChanges(field.path))
      label += tr(" (this case)");
    if (field.path.ends_with(".x") && i + 2 < all.size()) {
      auto* row = new QWidget;
      auto* layout = new QHBoxLayout(row);
      layout->setContentsMargins(0, 0, 0, 0);
      layout->setSpacing(2);
      for (std::size_t axis = 0; axis < 3; ++axis)
        layout->addWidget(boundField(all[i + axis]));
      label.chop(2);
      auto* above = quietLabel(label + tr(" x, y, z"));
      form_->addRow(above);
      form_->addRow(row);
      i += 2;
    } else {
      form_->addRow(quietLabel(label), boundField(field));
    }
  }
}

void PartEditor::addRepeat(const std::string& under, const Repeat& repeat,
                           const std::function<void(Part&, const Repeat&)>& apply)
{
  auto* choice = new QComboBox;
  choice->setObjectName("repeatChoice:" + QString::fromStdString(under));
  choice->setAccessibleName(tr("Repeat"));
  choice->addItems({tr("once"), tr("in a row"), tr("in a ring")});
  choice->setCurrentIndex(static_cast<int>(repeat.index()));
  connect(choice, &QComboBox::activated, this, [this, apply](int index) {
    const std::vector<Repeat> kinds{Once{}, Row{{2, "2"}, {millimetres(50), {}, {}}}, Ring{{4, "4"}}};
    editPart(tr("Repeat"), [&](Part& own) { apply(own, kinds[static_cast<std::size_t>(index)]); });
  });
  form_->addRow(quietLabel(tr("Repeat")), choice);
  if (repeat.index() != 0)
    addFields(under);
}

void PartEditor::addYields()
{
  for (const std::string& keeper : part().yieldsTo) {
    auto* remove = new QToolButton;
    remove->setText(tr("give up"));
    connect(remove, &QToolButton::clicked, this,
            [this, keeper] { editPart(tr("Yield no longer"), [&](Part& own) { std::erase(own.yieldsTo, keeper); }); });
    const Part* other = findById(document_.project().parts, keeper);
    form_->addRow(quietLabel(tr("%1 keeps the space").arg(QString::fromStdString(other ? other->name : keeper))),
                  remove);
  }
}

} // namespace kiln
