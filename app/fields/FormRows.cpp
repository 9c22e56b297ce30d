// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "fields/FormRows.h"

#include <QBoxLayout>
#include <QComboBox>
#include <QCoreApplication>
#include <QFormLayout>
#include <QLabel>

namespace kiln
{

void clearRows(QBoxLayout& rows)
{
  while (rows.count() > 0) {
    QLayoutItem* item = rows.takeAt(0);
    if (QWidget* row = item->widget()) {
      row->hide();
      row->deleteLater();
    }
    delete item;
  }
}

QLabel* quietLabel(const QString& text)
{
  auto* label = new QLabel(text);
  label->setProperty("role", "quiet");
  label->setWordWrap(true);
  return label;
}

void addChoiceRow(Document& document, QFormLayout& form, const QString& label, const QString& name,
                  const Choices& choices, const std::string& chosen,
                  std::function<void(Project&, const std::string&)> apply)
{
  auto* box = new QComboBox;
  box->setObjectName(name);
  box->setAccessibleName(label);
  for (const auto& [id, shown] : choices)
    box->addItem(shown, QString::fromStdString(id));
  const QString wanted = QString::fromStdString(chosen);
  if (box->findData(wanted) < 0)
    box->addItem(wanted.isEmpty() ? QCoreApplication::translate("FormRows", "choose…") : wanted, wanted);
  box->setCurrentIndex(box->findData(wanted));
  QObject::connect(box, &QComboBox::activated, box, [&document, box, label, apply = std::move(apply)] {
    const std::string id = box->currentData().toString().toStdString();
    document.edit(label, [&](Project& project) { apply(project, id); });
  });
  form.addRow(quietLabel(label), box);
}

Choices temperatureWatches(const Project& project, const QString& none)
{
  Choices choices;
  if (!none.isEmpty())
    choices.emplace_back("", none);
  for (const Watch& watch : project.watches)
    if (const Quantity quantity = quantityOf(watch);
        quantity == Quantity::Temperature || quantity == Quantity::TemperatureStep)
      choices.emplace_back(watch.id, QString::fromStdString(watch.name));
  return choices;
}

} // namespace kiln
