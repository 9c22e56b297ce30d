// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "pages/SurfacesPage.h"

#include "fields/BoundField.h"
#include "fields/CoefficientHelper.h"
#include "fields/FormRows.h"
#include "fields/SurfaceSentence.h"
#include "geometry/SurfaceFaces.h"
#include "look/Language.h"
#include "model/Edit.h"
#include "model/References.h"
#include "pages/PageParts.h"

#include <QFormLayout>
#include <QLineEdit>
#include <QPushButton>
#include <QToolButton>
#include <QTreeWidget>
#include <QVBoxLayout>
#include <algorithm>

namespace kiln
{

SurfacesPage::SurfacesPage(Document& document, Preferences& preferences, QWidget* parent)
    : QWidget(parent), document_(document), preferences_(preferences), list_(new QTreeWidget), right_(new QVBoxLayout),
      message_(new QLabel)
{
  setObjectName("surfacesPage");
  message_->setObjectName("surfaceMessage");
  splitPage(*this, makeList(), right_, message_, {360, 330});
  connect(&document, &Document::resultChanged, this, &SurfacesPage::refresh);
  refresh();
}

QWidget* SurfacesPage::makeList()
{
  auto* side = new QWidget;
  auto* layout = new QVBoxLayout(side);
  layout->setContentsMargins(0, 0, 0, 0);
  dressList(*list_, "surfaceList", {tr("Surface or finish"), tr("Faces"), tr("Area"), tr("Emissivity"), tr("Used")},
            34);
  layout->addWidget(list_, 1);
  auto* row = new QHBoxLayout;
  const auto button = [&](const QString& text, const char* name, auto&& action) {
    auto* made = new QPushButton(text);
    made->setObjectName(name);
    connect(made, &QPushButton::clicked, this, action);
    row->addWidget(made);
  };
  button(tr("New surface"), "addSurface", &SurfacesPage::addSurface);
  button(tr("New finish"), "addFinish", &SurfacesPage::addFinish);
  layout->addLayout(row);
  connect(list_, &QTreeWidget::currentItemChanged, this, [this] {
    document_.select(chosen());
    showChoice();
  });
  return side;
}

std::vector<const Object*> SurfacesPage::usersOf(const std::string& surfaceId) const
{
  const Project& project = document_.project();
  std::vector<const Object*> users;
  forEachReference(project, [&](const ReferenceUse& use) {
    if (use.text == nullptr || *use.text != surfaceId || !(use.spec.to & Refers::Surface))
      return;
    const Object* holder = findObject(project, use.holderId);
    if (holder != nullptr && std::find(users.begin(), users.end(), holder) == users.end())
      users.push_back(holder);
  });
  return users;
}

std::string SurfacesPage::chosen() const
{
  return list_->currentItem() != nullptr ? list_->currentItem()->data(0, Qt::UserRole).toString().toStdString()
                                         : std::string();
}

void SurfacesPage::choose(const std::string& id)
{
  for (QTreeWidgetItemIterator item(list_); *item != nullptr; ++item)
    if ((*item)->data(0, Qt::UserRole).toString().toStdString() == id)
      list_->setCurrentItem(*item);
}

void SurfacesPage::showEvent(QShowEvent* event)
{
  QWidget::showEvent(event);
  refresh();
}

void SurfacesPage::refresh()
{
  if (!isVisible())
    return; // brought up to date when it is shown
  const std::string before = chosen();
  const QSignalBlocker quiet(list_);
  list_->clear();
  const auto head = [&](const QString& title) {
    auto* item = new QTreeWidgetItem(list_, {title});
    item->setFirstColumnSpanned(true);
    item->setExpanded(true);
    item->setFlags(Qt::ItemIsEnabled);
    return item;
  };
  const auto add = [&](QTreeWidgetItem* parent, const Object& object, const QStringList& cells) {
    auto* item = new QTreeWidgetItem(parent, QStringList(QString::fromStdString(object.name)) + cells);
    item->setData(0, Qt::UserRole, QString::fromStdString(object.id));
    for (int column = 1; column < 5; ++column)
      item->setTextAlignment(column, Qt::AlignRight | Qt::AlignVCenter);
    if (object.id == before)
      list_->setCurrentItem(item);
  };
  const auto mesh = document_.shownMesh();
  const Project& project = document_.shownProject();
  auto* surfaces = head(tr("Surfaces"));
  for (const Surface& surface : project.surfaces) {
    const SurfaceFaces on = mesh ? facesOf(project, mesh->geometry, surface) : SurfaceFaces{};
    const auto uses = usersOf(surface.id).size();
    add(surfaces, surface,
        {mesh ? QString::number(on.faces.size()) : QString("–"),
         mesh ? QString::fromStdString(formatQuantity(on.area, Quantity::Area, {}, 3)) : QString("–"),
         {},
         uses == 0 ? tr("unused") : QString::number(uses)});
  }
  auto* finishes = head(tr("Finishes"));
  for (const Finish& finish : project.finishes)
    add(finishes, finish,
        {{},
         {},
         QString::number(finish.emissivity.si, 'g', 3),
         finish.surfaces.empty() ? tr("unused") : QString::number(finish.surfaces.size())});
  showChoice();
}

void SurfacesPage::showChoice()
{
  const std::string id = chosen();
  const Object* object = id.empty() ? nullptr : findObject(document_.project(), id);
  const Finish* finish = findById(document_.project().finishes, id);
  std::string key = object != nullptr ? id : std::string("none");
  for (const Object* user : usersOf(id))
    key += ";" + user->id + user->name;
  if (finish != nullptr)
    for (const std::string& surface : finish->surfaces)
      key += ";" + surface;
  key += ";" + std::to_string(document_.project().surfaces.size());
  if (key == shown_ && detail_ != nullptr)
    return;
  shown_ = key;
  if (detail_ != nullptr) {
    detail_->hide();
    detail_->deleteLater();
  }
  detail_ = new QWidget;
  auto* layout = new QVBoxLayout(detail_);
  layout->setContentsMargins(0, 0, 0, 0);
  if (object == nullptr)
    layout->addWidget(quietLabel(tr("A surface is a set of faces given by a rule; a finish is what it looks like to "
                                    "radiation. Choose one on the left.")));
  else
    addName(*layout, *object);
  if (const Surface* surface = findById(document_.project().surfaces, id))
    showSurface(*layout, *surface);
  if (finish != nullptr)
    showFinish(*layout, *finish);
  layout->addStretch();
  right_->insertWidget(0, detail_, 1);
}

void SurfacesPage::addName(QVBoxLayout& layout, const Object& object)
{
  auto* name = new QLineEdit(QString::fromStdString(object.name));
  name->setObjectName("surfaceName");
  name->setAccessibleName(tr("Name"));
  connect(name, &QLineEdit::editingFinished, this, [this, name, id = object.id] {
    const std::string typed = name->text().trimmed().toStdString();
    if (!typed.empty())
      document_.edit(tr("Rename"), [&](Project& project) { findObject(project, id)->name = typed; });
  });
  layout.addWidget(name);
}

void SurfacesPage::showSurface(QVBoxLayout& layout, const Surface& surface)
{
  auto* sentence = new SurfaceSentence(document_, preferences_, surface.id);
  connect(sentence, &SurfaceSentence::said, this, [this](const QString& text) { message_->setText(text); });
  layout.addWidget(sentence);
  const std::vector<const Object*> users = usersOf(surface.id);
  layout.addWidget(quietLabel(users.empty() ? tr("Nothing uses it.") : tr("Used by:")));
  for (const Object* user : users) {
    auto* link = new QToolButton;
    link->setText(QString::fromStdString(user->name));
    link->setObjectName("user:" + QString::fromStdString(user->id));
    connect(link, &QToolButton::clicked, this,
            [this, id = QString::fromStdString(user->id)] { emit objectWanted(id); });
    layout.addWidget(link);
  }
  layout.addWidget(makeFinishChoice(document_, surface.id));
  addRemove(layout, surface.id);
}

void SurfacesPage::showFinish(QVBoxLayout& layout, const Finish& finish)
{
  auto* form = new QFormLayout;
  Project shown = document_.shownProject();
  for (const Field& field : fieldsOf(shown, finish.id)) {
    auto* edit = new BoundField(document_, preferences_, field);
    connect(edit, &BoundField::said, this, [this](const QString& text) { message_->setText(text); });
    form->addRow(quietLabel(inWords(field.label)), edit);
  }
  layout.addLayout(form);
  layout.addWidget(quietLabel(finish.surfaces.empty() ? tr("It lies on no surface.") : tr("On the surfaces:")));
  for (const Surface& surface : document_.project().surfaces) {
    const bool has = std::find(finish.surfaces.begin(), finish.surfaces.end(), surface.id) != finish.surfaces.end();
    auto* check = new QToolButton;
    check->setCheckable(true);
    check->setChecked(has);
    check->setText((has ? "✓ " : "") + QString::fromStdString(surface.name));
    check->setObjectName("finishOn:" + QString::fromStdString(surface.id));
    connect(check, &QToolButton::clicked, this, [this, id = finish.id, on = surface.id](bool wanted) {
      document_.edit(tr("Finish of a surface"), [&](Project& project) {
        std::vector<std::string>& list = findById(project.finishes, id)->surfaces;
        std::erase(list, on);
        if (wanted)
          list.push_back(on);
      });
    });
    layout.addWidget(check);
  }
  addRemove(layout, finish.id);
}

void SurfacesPage::addRemove(QVBoxLayout& layout, const std::string& id)
{
  auto* remove = new QPushButton(tr("Remove"));
  remove->setObjectName("removeSurface");
  remove->setToolTip(tr("What stands on it keeps its place and is reported as not ready"));
  connect(remove, &QPushButton::clicked, this, [this, id] {
    document_.edit(tr("Remove a surface or finish"), [&](Project& project) { removeObject(project, id); });
  });
  layout.addWidget(remove, 0, Qt::AlignLeft);
}

void SurfacesPage::addSurface()
{
  std::string id;
  document_.edit(tr("Add a surface"), [&](Project& project) {
    id = addObject(project, project.surfaces, Surface{}, freeName(project, "Surface"));
  });
  choose(id);
}

void SurfacesPage::addFinish()
{
  std::string id;
  document_.edit(tr("Add a finish"), [&](Project& project) {
    Finish finish;
    finish.emissivity = Property{0.9, "0.9"};
    id = addObject(project, project.finishes, finish, freeName(project, "Finish"));
  });
  choose(id);
}

} // namespace kiln
