// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "pages/CavityDialog.h"

#include "fields/EditorDialog.h"
#include "fields/QuantityField.h"
#include "look/Language.h"
#include "look/Theme.h"

#include <QComboBox>
#include <QFormLayout>
#include <QHBoxLayout>
#include <QLabel>
#include <QPushButton>

namespace kiln
{
namespace
{

double valueOf(const QuantityField& field) { return field.number() ? field.number()->si : 0; }

Number lengthNumber(double metres) { return {metres, formatQuantity(metres, Quantity::Length, {}, 4), false}; }

} // namespace

CavityDialog::CavityDialog(double thickness, double width, Use use, QWidget* parent)
    : QDialog(parent), flow_(new QComboBox), thickness_(new QuantityField(Quantity::Length, Range::Positive)),
      width_(new QuantityField(Quantity::Length, Range::Positive)),
      emissivityA_(new QuantityField(Quantity::Plain, Range::Positive)),
      emissivityB_(new QuantityField(Quantity::Plain, Range::Positive)),
      difference_(new QuantityField(Quantity::TemperatureStep, Range::Positive)), message_(new QLabel)
{
  setObjectName("cavityDialog");
  setWindowTitle(tr("Still air in a cavity"));
  auto* form = new QFormLayout(this);
  flow_->setObjectName("cavityFlow");
  flow_->addItems({tr("across (horizontal)"), tr("up"), tr("down")});
  form->addRow(tr("The heat goes"), flow_);
  const auto row = [&](const QString& label, QuantityField* field, const char* name, std::optional<Number> number,
                       const QString& empty) {
    field->setObjectName(name);
    field->setAccessibleName(label);
    field->setNumber(number);
    field->setOptional(!empty.isEmpty());
    field->setPlaceholderText(empty);
    form->addRow(label, field);
    connect(field, &QuantityField::committed, this, &CavityDialog::refresh);
    connect(field, &QuantityField::cleared, this, &CavityDialog::refresh);
  };
  row(tr("Thickness along the heat"), thickness_, "cavityThickness", lengthNumber(thickness > 0 ? thickness : 0.02),
      {});
  row(tr("Width across it"), width_, "cavityWidth", width > 0 ? std::optional(lengthNumber(width)) : std::nullopt,
      tr("much wider than thick"));
  row(tr("Emissivity of one side"), emissivityA_, "cavityEmissivityA", Number{0.9, "0.9", false}, {});
  row(tr("and of the other"), emissivityB_, "cavityEmissivityB", Number{0.9, "0.9", false}, {});
  row(tr("Difference between them"), difference_, "cavityDifference", std::nullopt, tr("up to 5 K"));
  message_->setObjectName("cavityMessage");
  message_->setWordWrap(true);
  form->addRow(message_);
  auto* buttons = new QHBoxLayout;
  const auto button = [&](const QString& label, const char* name, auto&& action) {
    connect(addButton(*buttons, label, name), &QPushButton::clicked, this, action);
  };
  buttons->addStretch();
  button(tr("Make the material"), "cavityUse", [this, use = std::move(use)] {
    if (const auto material = cavityMaterial(cavity())) {
      use(*material);
      accept();
    }
  });
  button(tr("Close"), "cavityClose", [this] { reject(); });
  form->addRow(buttons);
  connect(flow_, &QComboBox::currentIndexChanged, this, &CavityDialog::refresh);
  refresh();
}

AirCavity CavityDialog::cavity() const
{
  return {static_cast<AirCavity::Flow>(flow_->currentIndex()),
          valueOf(*thickness_),
          valueOf(*width_),
          valueOf(*emissivityA_),
          valueOf(*emissivityB_),
          valueOf(*difference_)};
}

void CavityDialog::refresh()
{
  constexpr double mean = 293.15; // K
  const auto conductance = cavityConductance(cavity(), mean);
  message_->setStyleSheet(conductance ? QString() : "color: " + theme().bad.name());
  message_->setText(
      conductance ? tr("At 20 °C %1 cross it: it conducts like %2. The material is a table against temperature.")
                        .arg(QString::fromStdString(formatQuantity(*conductance, Quantity::AreaConductance, {}, 3)),
                             QString::fromStdString(
                                 formatQuantity(*conductance * cavity().thickness, Quantity::Conductivity, {}, 3)))
                  : inWords(conductance.error()));
}

} // namespace kiln
