// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "scene/ViewList.h"

#include "fields/FormRows.h"
#include "look/Icons.h"
#include "model/Edit.h"

#include <QLabel>
#include <QLineEdit>
#include <QMenu>
#include <QToolButton>
#include <QVBoxLayout>
#include <algorithm>

namespace kiln
{

ViewList::ViewList(Document& document, QWidget* parent)
    : QWidget(parent), document_(document), name_(new QLineEdit), rows_(new QVBoxLayout)
{
  auto* layout = new QVBoxLayout(this);
  layout->setContentsMargins(0, 0, 0, 0);
  layout->setSpacing(4);
  layout->addWidget(quietLabel(tr("VIEWS OF THE PROJECT")));
  rows_->setSpacing(2);
  layout->addLayout(rows_);
  auto* below = new QHBoxLayout;
  name_->setObjectName("viewName");
  name_->setPlaceholderText(tr("Name of this view"));
  name_->setAccessibleName(tr("Name of this view"));
  auto* keep = new QToolButton;
  keep->setText(tr("Keep"));
  keep->setObjectName("viewKeep");
  keep->setToolTip(tr("Keep camera, cuts, hidden parts and colours under this name"));
  below->addWidget(name_, 1);
  below->addWidget(keep);
  layout->addLayout(below);
  connect(keep, &QToolButton::clicked, this, &ViewList::keep);
  connect(name_, &QLineEdit::returnPressed, this, &ViewList::keep);
  connect(&document, &Document::projectChanged, this, &ViewList::refresh);
  refresh();
}

void ViewList::keep()
{
  const QString name = name_->text().trimmed();
  emit keepWanted(name.isEmpty() ? tr("View %1").arg(document_.project().views.size() + 1) : name);
  name_->clear();
}

void ViewList::refresh()
{
  if (drawn_ == document_.project().views)
    return;
  drawn_ = document_.project().views;
  clearRows(*rows_);
  for (std::size_t i = 0; i < drawn_.size(); ++i)
    addRow(drawn_[i], i);
}

void ViewList::addRow(const View& view, std::size_t index)
{
  auto* row = new QWidget;
  auto* line = new QHBoxLayout(row);
  line->setContentsMargins(6, 0, 0, 0);
  const std::string id = view.id;
  const QString name = QString::fromStdString(view.name);
  auto* show = new QToolButton;
  show->setText(name);
  show->setObjectName("viewShow:" + QString::fromStdString(id));
  constexpr std::size_t keys = 9;
  show->setToolTip(index < keys ? tr("Show it (Ctrl+%1)").arg(index + 1) : tr("Show it"));
  show->setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Fixed);
  connect(show, &QToolButton::clicked, this, [this, id] { emit showWanted(id); });
  line->addWidget(show, 1);
  auto* more = new QToolButton;
  setIcon(*more, "overflow-menu");
  more->setObjectName("viewMore:" + QString::fromStdString(id));
  more->setAccessibleName(tr("What can be done with %1").arg(name));
  more->setPopupMode(QToolButton::InstantPopup);
  auto* menu = new QMenu(more);
  menu->addAction(tr("Take it anew from what is shown"), this, [this, id] { emit takeAnewWanted(id); });
  const auto edit = [this](const QString& what, auto&& change) { document_.edit(what, change); };
  menu->addAction(tr("To the front: shown on opening"), this, [=] {
    edit(tr("Move view %1").arg(name), [id](Project& project) {
      const auto own =
          std::find_if(project.views.begin(), project.views.end(), [&](const View& one) { return one.id == id; });
      if (own != project.views.end())
        std::rotate(project.views.begin(), own, own + 1);
    });
  });
  menu->addAction(tr("Call it as typed below"), this, [=, this] {
    const std::string typed = name_->text().trimmed().toStdString();
    if (typed.empty())
      return name_->setFocus();
    edit(tr("Rename view %1").arg(name), [id, typed](Project& project) {
      if (View* own = findById(project.views, id))
        own->name = typed;
    });
    name_->clear();
  });
  menu->addAction(tr("Remove it"), this, [=] {
    edit(tr("Remove view %1").arg(name),
         [id](Project& project) { std::erase_if(project.views, [&](const View& one) { return one.id == id; }); });
  });
  more->setMenu(menu);
  line->addWidget(more);
  rows_->addWidget(row);
}

} // namespace kiln
