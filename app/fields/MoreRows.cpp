// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "fields/MoreRows.h"

#include "look/Icons.h"

#include <QFormLayout>
#include <QToolButton>
#include <QVBoxLayout>
#include <set>

namespace kiln
{
namespace
{

std::set<QString>& openOnes()
{
  static std::set<QString> names; // forms are built anew at every change
  return names;
}

} // namespace

MoreRows::MoreRows(const QString& name, const QString& title, QWidget* parent)
    : QWidget(parent), button_(new QToolButton), body_(new QWidget), form_(new QFormLayout(body_))
{
  auto* layout = new QVBoxLayout(this);
  layout->setContentsMargins(0, 0, 0, 0);
  layout->setSpacing(2);
  button_->setObjectName("more:" + name);
  button_->setText(title);
  button_->setAccessibleName(title);
  button_->setCheckable(true);
  button_->setProperty("flat", true);
  button_->setToolButtonStyle(Qt::ToolButtonTextBesideIcon);
  form_->setContentsMargins(0, 0, 0, 0);
  form_->setSpacing(4);
  form_->setLabelAlignment(Qt::AlignLeft);
  layout->addWidget(button_, 0, Qt::AlignLeft);
  layout->addWidget(body_);
  const bool open = openOnes().contains(name);
  button_->setChecked(open);
  connect(button_, &QToolButton::toggled, this, [this, name](bool on) {
    on ? static_cast<void>(openOnes().insert(name)) : static_cast<void>(openOnes().erase(name));
    show(on);
  });
  show(open);
}

void MoreRows::show(bool open)
{
  body_->setVisible(open);
  setIcon(*button_, open ? "arrow-down" : "arrow-right");
}

} // namespace kiln
