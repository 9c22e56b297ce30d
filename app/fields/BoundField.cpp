// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "fields/BoundField.h"

#include "fields/QuantityField.h"
#include "fields/SettingRows.h"
#include "fields/TableEditor.h"
#include "look/Language.h"

#include <QHBoxLayout>
#include <QToolButton>

namespace kiln
{
BoundField::BoundField(Document& document, Preferences& preferences, const Field& field, QWidget* parent)
    : QWidget(parent), document_(document), preferences_(preferences), path_(field.path),
      edit_(new QuantityField(field.quantity, field.range))
{
  auto* layout = new QHBoxLayout(this);
  layout->setContentsMargins(0, 0, 0, 0);
  layout->setSpacing(2);
  layout->addWidget(edit_, 1);
  setFocusProxy(edit_);
  const QString path = QString::fromStdString(path_);
  edit_->setOptional(field.mayBeMissing());
  edit_->setTemperatureUnit(preferences.temperatureUnit());
  edit_->setObjectName("field:" + path);
  edit_->setAccessibleName(inWords(field.objectName) + ", " + inWords(field.label));
  edit_->setToolTip(helpText(field));
  edit_->setReader([this, quantity = field.quantity, varies = field.varies](const QString& typed) {
    return readEntry(document_.shownProject(), typed.toStdString(), quantity, preferences_.temperatureUnit(), varies);
  });
  if (field.mayBeTable()) {
    table_ = new QToolButton;
    table_->setText("(T)");
    table_->setObjectName("table:" + path);
    table_->setAccessibleName(tr("Table against temperature"));
    table_->setToolTip(tr("A table against temperature"));
    layout->addWidget(table_);
    connect(table_, &QToolButton::clicked, this, &BoundField::openTable);
  }
  connect(edit_, &QuantityField::said, this, &BoundField::said);
  connect(edit_, &QuantityField::committed, this, [this](const Number& number) { document_.setNumber(path_, number); });
  connect(edit_, &QuantityField::cleared, this, [this] { document_.set(path_, std::monostate{}); });
  connect(&document, &Document::projectChanged, this, &BoundField::refresh);
  connect(&preferences, &Preferences::unitChanged, this,
          [this] { edit_->setTemperatureUnit(preferences_.temperatureUnit()); });
  show(field);
}

void BoundField::show(const Field& field)
{
  const std::vector<TablePoint>* table = field.table();
  if (table != nullptr) { // a number typed here replaces it
    edit_->setNumber(std::nullopt);
    edit_->setPlaceholderText(tr("table, %n point(s)", nullptr, static_cast<int>(table->size())));
    return;
  }
  edit_->setPlaceholderText(!field.mayBeMissing() ? QString() : usual_.isEmpty() ? tr("not set") : usual_);
  const Number* value = field.value();
  edit_->setNumber(value != nullptr ? std::optional(*value) : std::nullopt);
}

void BoundField::setUsual(const QString& usual)
{
  usual_ = usual;
  edit_->setPlaceholderText(usual);
}

void BoundField::refresh()
{
  if (edit_->hasFocus() && edit_->isModified())
    return; // the user is typing
  if (const Field* now = document_.shownField(path_))
    show(*now);
}

void BoundField::openTable()
{
  auto* editor = new TableEditor(document_, preferences_, tableOfField(document_, path_), window());
  editor->setAttribute(Qt::WA_DeleteOnClose);
  editor->show();
}

} // namespace kiln
