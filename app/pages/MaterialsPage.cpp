// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "pages/MaterialsPage.h"

#include "fields/BoundField.h"
#include "fields/FormRows.h"
#include "fields/QuantityField.h"
#include "fields/SettingRows.h"
#include "fields/TableEditor.h"
#include "io/Library.h"
#include "io/MaterialTable.h"
#include "look/Icons.h"
#include "look/Language.h"
#include "look/Theme.h"
#include "model/Edit.h"
#include "model/OwnValues.h"
#include "model/References.h"
#include "pages/CavityDialog.h"
#include "pages/PageParts.h"

#include <QClipboard>
#include <QFileDialog>
#include <QFormLayout>
#include <QGuiApplication>
#include <QKeyEvent>
#include <QLabel>
#include <QMenu>
#include <QPushButton>
#include <QScrollArea>
#include <QToolButton>
#include <QTreeWidget>
#include <QVBoxLayout>
#include <algorithm>
#include <map>

namespace kiln
{
namespace
{

QString conductivityText(const Material& material)
{
  const auto& table = material.conductivity.table;
  const auto number = [](double k) { return QString::number(k, 'g', 3); };
  if (table.empty())
    return number(material.conductivity.si);
  double low = table.front().value.si;
  double high = low;
  for (const TablePoint& point : table) {
    low = std::min(low, point.value.si);
    high = std::max(high, point.value.si);
  }
  return number(low) + " – " + number(high);
}

QString originKey(int origin, const std::string& name)
{
  return QString::number(origin) + ":" + QString::fromStdString(name);
}

} // namespace

MaterialsPage::MaterialsPage(Document& document, Preferences& preferences, QWidget* parent)
    : QWidget(parent), document_(document), preferences_(preferences), search_(new QLineEdit),
      lowest_(new QuantityField(Quantity::Conductivity, Range::NonNegative)),
      highest_(new QuantityField(Quantity::Conductivity, Range::NonNegative)), list_(new QTreeWidget),
      right_(new QVBoxLayout), message_(new QLabel)
{
  setObjectName("materialsPage");
  message_->setObjectName("materialMessage");
  splitPage(*this, makeList(), right_, message_, {330, 360});
  connect(&document, &Document::projectChanged, this, &MaterialsPage::refreshList);
  refreshList();
}

QWidget* MaterialsPage::makeList()
{
  auto* side = new QWidget;
  auto* layout = new QVBoxLayout(side);
  layout->setContentsMargins(0, 0, 0, 0);
  search_->setObjectName("materialSearch");
  search_->setPlaceholderText(tr("Search a material or its kind"));
  search_->setAccessibleName(search_->placeholderText());
  search_->setClearButtonEnabled(true);
  layout->addWidget(search_);
  auto* range = new QHBoxLayout;
  range->addWidget(new QLabel(tr("k from")));
  range->addWidget(lowest_);
  range->addWidget(quietLabel(tr("to")));
  range->addWidget(highest_);
  for (QuantityField* field : {lowest_, highest_}) {
    field->setOptional(true);
    field->setPlaceholderText(tr("any"));
    connect(field, &QuantityField::committed, this, &MaterialsPage::refreshList);
    connect(field, &QuantityField::cleared, this, &MaterialsPage::refreshList);
  }
  lowest_->setAccessibleName(tr("Conductivity from"));
  highest_->setAccessibleName(tr("Conductivity to"));
  lowest_->setObjectName("materialLowest");
  highest_->setObjectName("materialHighest");
  layout->addLayout(range);
  dressList(*list_, "materialList", {tr("Material"), tr("k, W/(m·K)")}, 30);
  layout->addWidget(list_, 1);
  auto* row = new QHBoxLayout;
  auto* add = new QPushButton(tr("New material"));
  add->setObjectName("addMaterial");
  connect(add, &QPushButton::clicked, this, &MaterialsPage::addMaterial);
  row->addWidget(add, 1);
  auto* more = new QToolButton;
  setIcon(*more, "overflow-menu");
  more->setObjectName("materialMore");
  more->setToolTip(tr("Take materials in from a table, write them as one"));
  more->setAccessibleName(more->toolTip());
  more->setPopupMode(QToolButton::InstantPopup);
  auto* menu = new QMenu(more);
  menu->addAction(tr("Take materials in…"), this, &MaterialsPage::takeIn);
  QAction* pasted = menu->addAction(tr("Paste a table of materials"), this, &MaterialsPage::paste);
  pasted->setObjectName("pasteMaterials");
  menu->addAction(tr("Write those of the project…"), this, [this] { writeOut(document_.project().materials); });
  menu->addAction(tr("Write the library…"), this, [this] { writeOut(builtInLibrary().materials); });
  more->setMenu(menu);
  row->addWidget(more);
  layout->addLayout(row);
  auto* air = new QPushButton(tr("Still air in a cavity…"));
  air->setObjectName("addCavity");
  air->setToolTip(tr("A material that stands for the air between two surfaces, from the size of the cavity"));
  connect(air, &QPushButton::clicked, this, &MaterialsPage::askForCavity);
  layout->addWidget(air);
  connect(search_, &QLineEdit::textChanged, this, &MaterialsPage::refreshList);
  connect(list_, &QTreeWidget::currentItemChanged, this, &MaterialsPage::showChoice);
  return side;
}

/// From a table or a project file, as one edit.
void MaterialsPage::takeIn()
{
  const QString file = QFileDialog::getOpenFileName(this, tr("Take materials in"), {},
                                                    tr("Tables and project files (*.csv *.txt *.tsv *.json *.kiln)"));
  if (!file.isEmpty())
    takeFrom(file);
}

void MaterialsPage::takeFrom(const QString& file) { take(loadMaterials(file.toStdString())); }

void MaterialsPage::paste()
{
  take(readMaterials(QGuiApplication::clipboard()->text().toStdString(), tr("clipboard").toStdString()));
}

void MaterialsPage::keyPressEvent(QKeyEvent* event)
{
  if (event->matches(QKeySequence::Paste))
    return paste();
  QWidget::keyPressEvent(event);
}

void MaterialsPage::take(const Expected<std::vector<Material>>& materials)
{
  if (!materials)
    return say(inWords(materials.error()), true);
  document_.edit(tr("Take materials in"), [&](Project& project) { takeMaterials(project, *materials); });
  refreshList();
  say(tr("%n material(s) taken in.", nullptr, static_cast<int>(materials->size())), false);
}

void MaterialsPage::writeOut(const std::vector<Material>& materials)
{
  const QString file = QFileDialog::getSaveFileName(this, tr("Write the materials"), "materials.csv",
                                                    tr("Comma-separated text (*.csv);;JSON (*.json)"));
  if (file.isEmpty())
    return;
  if (auto written = saveMaterials(materials, file.toStdString()); !written)
    say(inWords(written.error()), true);
}

/// The selected part lends its size, and gets the material.
void MaterialsPage::askForCavity()
{
  const std::string selected = document_.selectedId();
  const Part* part = findById(document_.project().parts, selected);
  std::array<double, 3> size{};
  if (const auto mesh = document_.shownMesh(); mesh && part != nullptr)
    if (const int index = mesh->geometry.partIndex(selected); index != noPart) {
      const GeometryPart& own = mesh->geometry.parts[static_cast<std::size_t>(index)];
      const Vec3 extent = own.high - own.low;
      size = {extent.x(), extent.y(), extent.z()};
      std::sort(size.begin(), size.end());
    }
  auto* dialog = new CavityDialog(
      size[0], size[1],
      [this, partId = part != nullptr ? selected : std::string()](const Material& made) {
        document_.edit(tr("Still air in a cavity"), [&](Project& project) {
          const std::string id = addObject(project, project.materials, made, freeName(project, made.name));
          if (Part* own = findById(project.parts, partId))
            own->material = id;
        });
        refreshList();
      },
      this);
  dialog->setAttribute(Qt::WA_DeleteOnClose);
  dialog->open();
}

bool MaterialsPage::wanted(const Material& material) const
{
  const QString text = search_->text().trimmed();
  if (!text.isEmpty() && !QString::fromStdString(material.name).contains(text, Qt::CaseInsensitive) &&
      !QString::fromStdString(material.comment).contains(text, Qt::CaseInsensitive))
    return false;
  const auto inRange = [&](double k) {
    return (!lowest_->number() || k >= lowest_->number()->si) && (!highest_->number() || k <= highest_->number()->si);
  };
  if (material.conductivity.table.empty())
    return inRange(material.conductivity.si);
  return std::any_of(material.conductivity.table.begin(), material.conductivity.table.end(),
                     [&](const TablePoint& point) { return inRange(point.value.si); });
}

void MaterialsPage::showEvent(QShowEvent* event)
{
  QWidget::showEvent(event);
  refreshList();
}

void MaterialsPage::refreshList()
{
  if (!isVisible())
    return; // brought up to date when it is shown
  const QString before = list_->currentItem() != nullptr ? list_->currentItem()->data(0, Qt::UserRole).toString() : "";
  const QSignalBlocker quiet(list_);
  list_->clear();
  choices_.clear();
  std::map<QString, QTreeWidgetItem*> groups;
  QTreeWidgetItem* again = nullptr;
  const auto add = [&](Origin origin, const Material& material, const QString& group) {
    if (!wanted(material))
      return;
    QTreeWidgetItem*& head = groups[group];
    if (head == nullptr) {
      head = new QTreeWidgetItem(list_, {group});
      head->setFirstColumnSpanned(true);
      head->setExpanded(true);
      head->setFlags(Qt::ItemIsEnabled);
    }
    const QString key = originKey(static_cast<int>(origin), origin == Origin::Project ? material.id : material.name);
    auto* item = new QTreeWidgetItem(head, {QString::fromStdString(material.name), conductivityText(material)});
    item->setData(0, Qt::UserRole, key);
    item->setTextAlignment(1, Qt::AlignRight | Qt::AlignVCenter);
    choices_.push_back({origin, material});
    if (key == before)
      again = item;
  };
  for (const Material& material : document_.shownProject().materials)
    add(Origin::Project, material, tr("In this project"));
  if (const auto mine = loadUserLibrary()) {
    for (const Material& material : mine->materials)
      add(Origin::Mine, material, tr("My library"));
  } else {
    say(inWords(mine.error()), true);
  }
  for (const Material& material : builtInLibrary().materials)
    add(Origin::BuiltIn, material, QString::fromStdString(material.comment));
  if (again != nullptr)
    list_->setCurrentItem(again);
  showChoice();
}

std::optional<MaterialsPage::Choice> MaterialsPage::choice() const
{
  if (list_->currentItem() == nullptr)
    return std::nullopt;
  const QString key = list_->currentItem()->data(0, Qt::UserRole).toString();
  for (const Choice& one : choices_)
    if (originKey(static_cast<int>(one.origin), one.origin == Origin::Project ? one.material.id : one.material.name) ==
        key)
      return one;
  return std::nullopt;
}

void MaterialsPage::showChoice()
{
  const auto chosen = choice();
  // Numbers of a project material follow by themselves; only another choice builds the page anew.
  std::string key;
  if (chosen)
    key = originKey(static_cast<int>(chosen->origin), chosen->material.id + chosen->material.name).toStdString() +
          standsForOf(chosen->origin == Origin::Project ? chosen->material.id : std::string()) +
          (chosen->material.conductivityY ? "y" : "") + (chosen->material.conductivityZ ? "z" : "");
  auto* curve = findChild<CurveView*>("curve");
  if (key != shown_ || detail_ == nullptr) {
    shown_ = key;
    if (detail_ != nullptr) {
      detail_->hide();
      detail_->deleteLater();
    }
    detail_ = new QWidget;
    auto* layout = new QVBoxLayout(detail_);
    layout->setContentsMargins(0, 0, 0, 0);
    if (chosen) {
      showValues(*chosen, *layout);
      curve = new CurveView;
      layout->addWidget(curve);
      showActions(*chosen, *layout);
    } else {
      layout->addWidget(quietLabel(tr("Choose a material on the left. Those of the library are taken into the project "
                                      "when a part is made of them.")));
    }
    layout->addStretch();
    right_->insertWidget(0, detail_, 1);
  }
  if (!chosen || curve == nullptr)
    return;
  std::vector<QPointF> points;
  for (const TablePoint& point : chosen->material.conductivity.table)
    points.emplace_back(toDisplay(point.at.si, Quantity::Temperature, preferences_.temperatureUnit()), point.value.si);
  curve->setCurve(points, QString::fromStdString(displayUnit(Quantity::Temperature, preferences_.temperatureUnit())),
                  "k");
  curve->setVisible(!points.empty());
}

/// Id of the material whose values this one takes in the shown case; empty: its own.
std::string MaterialsPage::standsForOf(const std::string& id) const
{
  std::string other;
  if (const Material* own = findById(document_.project().materials, id))
    other = own->standsFor;
  if (const Case* shown = document_.shownCaseObject())
    for (const Change& change : changesOf(document_.project(), *shown))
      if (const auto* word = std::get_if<std::string>(&change.value);
          word != nullptr && change.field == id + ".standsFor")
        other = *word;
  return other;
}

/// Which other material it stands for, in the project or in the shown case alone.
void MaterialsPage::addStandIn(const std::string& id, QFormLayout& form)
{
  Project asked = document_.project(); // in what the case sees, the other's values have taken its place
  if (Material* own = findById(asked.materials, id))
    own->standsFor = standsForOf(id);
  const std::vector<Field> all = settings(asked);
  if (const Field* field = fieldAt(all, id + ".standsFor"))
    addSettingRow({document_, preferences_, form}, *field);
}

void MaterialsPage::showValues(const Choice& chosen, QVBoxLayout& layout)
{
  const Material& material = chosen.material;
  auto* form = new QFormLayout;
  form->setSpacing(4);
  Project shown = document_.shownProject();
  if (chosen.origin != Origin::Project)
    shown.materials = {material};
  if (chosen.origin == Origin::Project) {
    auto* name = new QLineEdit(QString::fromStdString(material.name));
    name->setObjectName("materialName");
    connect(name, &QLineEdit::editingFinished, this, [this, name, id = material.id] {
      const std::string typed = name->text().trimmed().toStdString();
      if (!typed.empty())
        document_.edit(tr("Name of a material"),
                       [&](Project& project) { findById(project.materials, id)->name = typed; });
    });
    form->addRow(quietLabel(tr("Name")), name);
  } else {
    auto* title = new QLabel(QString::fromStdString(material.name));
    title->setProperty("role", "figure");
    title->setWordWrap(true);
    form->addRow(title);
  }
  if (chosen.origin == Origin::Project)
    addStandIn(material.id, *form);
  const bool itself = standsForOf(material.id).empty() || chosen.origin != Origin::Project;
  for (const Field& field : fieldsOf(shown, material.id)) {
    if (chosen.origin == Origin::Project && itself) {
      auto* edit = new BoundField(document_, preferences_, field);
      connect(edit, &BoundField::said, this, &MaterialsPage::say);
      form->addRow(quietLabel(inWords(field.label)), edit);
    } else if (field.value() != nullptr) {
      const QString text = field.table() != nullptr
                               ? tr("table, %n point(s)", nullptr, static_cast<int>(field.table()->size()))
                               : shownText(*field.value(), field.quantity, preferences_.temperatureUnit());
      form->addRow(quietLabel(inWords(field.label)), new QLabel(text));
    }
  }
  if (!material.source.empty())
    form->addRow(quietLabel(tr("Source")), quietLabel(QString::fromStdString(material.source)));
  layout.addLayout(form);
}

void MaterialsPage::showActions(const Choice& chosen, QVBoxLayout& layout)
{
  auto* row = new QHBoxLayout;
  const auto button = [&](const QString& text, const char* name, auto&& action) {
    auto* made = new QPushButton(text);
    made->setObjectName(name);
    connect(made, &QPushButton::clicked, this, action);
    row->addWidget(made);
    return made;
  };
  const Material material = chosen.material;
  const bool own = chosen.origin == Origin::Project;
  if (!own)
    button(tr("Take into the project"), "takeMaterial", [this, material] {
      document_.edit(tr("Take %1").arg(QString::fromStdString(material.name)),
                     [&](Project& project) { takeMaterial(project, material); });
    });
  button(tr("Give to the selected part"), "giveMaterial", [this, material, own] {
    const std::string part = document_.selectedId();
    if (findById(document_.project().parts, part) == nullptr)
      return say(tr("Select a part in the ledger or the scene first."), true);
    say({}, false);
    document_.edit(tr("Material of a part"), [&](Project& project) {
      findById(project.parts, part)->material = own ? material.id : takeMaterial(project, material);
    });
  });
  if (own) {
    button(tr("Keep in my library"), "keepMaterial", [this, id = material.id] {
      const Material* now = findById(document_.project().materials, id);
      const auto kept = now != nullptr ? keepInUserLibrary(*now) : Expected<void>{};
      if (!kept)
        return say(inWords(kept.error()), true);
      say(tr("Kept in %1.").arg(QString::fromStdString(userLibraryFile().string())), false);
      refreshList();
    });
    auto* replace = new QToolButton;
    replace->setText(tr("Replace everywhere by ▾"));
    replace->setObjectName("replaceMaterial");
    replace->setPopupMode(QToolButton::InstantPopup);
    auto* menu = new QMenu(replace);
    for (const Material& other : document_.project().materials)
      if (other.id != material.id)
        menu->addAction(QString::fromStdString(other.name), this, [this, from = material.id, to = other.id] {
          document_.edit(tr("Replace a material"),
                         [&](Project& project) { replaceObject(project, from, to, Refers::Material); });
        });
    replace->setMenu(menu);
    row->addWidget(replace);
  }
  row->addStretch();
  layout.addLayout(row);
}

void MaterialsPage::addMaterial()
{
  std::string id;
  document_.edit(tr("Add a material"), [&](Project& project) {
    Material material;
    material.conductivity = Number{1, "1 W/(m·K)", false};
    id = addObject(project, project.materials, material, freeName(project, "Material"));
  });
  const QString key = originKey(static_cast<int>(Origin::Project), id);
  for (QTreeWidgetItemIterator item(list_); *item != nullptr; ++item)
    if ((*item)->data(0, Qt::UserRole).toString() == key)
      list_->setCurrentItem(*item);
}

void MaterialsPage::say(const QString& sentence, bool wrong)
{
  message_->setText(sentence);
  message_->setStyleSheet(wrong ? "color: " + theme().bad.name() : QString());
}

} // namespace kiln
