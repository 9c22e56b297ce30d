// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "window/LargeModels.h"

#include "fields/QuantityField.h"
#include "look/Preferences.h"
#include "mesh/MeshQuality.h"
#include "readiness/Effort.h"

#include <QDialog>
#include <QDialogButtonBox>
#include <QLabel>
#include <QVBoxLayout>

namespace kiln
{
namespace
{

QString words(double elements)
{
  return QObject::tr("%1 elements of first order, about %2 of memory")
      .arg(QString::fromStdString(countWords(elements)),
           QString::fromStdString(memoryWords(memoryToSolve(elements, false))));
}

} // namespace

void chooseLargeModels(Preferences& preferences, QWidget* parent)
{
  QDialog dialog(parent);
  dialog.setObjectName("largeModels");
  dialog.setWindowTitle(QObject::tr("Ask before large models"));
  auto* column = new QVBoxLayout(&dialog);
  auto* question = new QLabel(QObject::tr("Ask before a mesh has more &elements than"));
  auto* field = new QuantityField(Quantity::Plain, Range::Positive);
  field->setObjectName("mostElements");
  field->setAccessibleName(question->text().remove('&'));
  field->setOptional(true);
  field->setPlaceholderText(QString::fromStdString(countWords(usualLimits().elements)));
  if (preferences.mostElements() > 0)
    field->setNumber(Number{preferences.mostElements(), {}, false});
  question->setBuddy(field);
  auto* usual = new QLabel(QObject::tr("Empty: what fits into half of this machine's memory, %1.\nOne of second order "
                                       "counts as three.")
                               .arg(words(usualLimits().elements)));
  usual->setProperty("role", "quiet");
  auto* wrong = new QLabel;
  wrong->setProperty("role", "bad");
  auto* buttons = new QDialogButtonBox(QDialogButtonBox::Ok | QDialogButtonBox::Cancel);
  for (QWidget* one : std::initializer_list<QWidget*>{question, field, usual, wrong, buttons})
    column->addWidget(one);
  double chosen = preferences.mostElements();
  QObject::connect(field, &QuantityField::said, wrong,
                   [wrong](const QString& sentence, bool bad) { wrong->setText(bad ? sentence : QString()); });
  QObject::connect(field, &QuantityField::committed, &dialog, [&](const Number& number) { chosen = number.si; });
  QObject::connect(field, &QuantityField::cleared, &dialog, [&] { chosen = 0; });
  QObject::connect(buttons, &QDialogButtonBox::accepted, &dialog, [&] {
    emit field->returnPressed(); // takes what stands there
    if (!field->property("wrong").toBool())
      dialog.accept();
  });
  QObject::connect(buttons, &QDialogButtonBox::rejected, &dialog, &QDialog::reject);
  if (dialog.exec() == QDialog::Accepted)
    preferences.setMostElements(chosen);
}

} // namespace kiln
