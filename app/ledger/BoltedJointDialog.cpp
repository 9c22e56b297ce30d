// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "ledger/BoltedJointDialog.h"

#include "fields/EditorDialog.h"
#include "fields/QuantityField.h"
#include "look/Language.h"
#include "look/Theme.h"
#include "units/UnitSystem.h"

#include <QFormLayout>
#include <QHBoxLayout>
#include <QLabel>
#include <QLineEdit>
#include <QPushButton>

namespace kiln
{
namespace
{

double valueOf(const QuantityField& field) { return field.number() ? field.number()->si : 0; }

/// "5 kN", "800 lbf", "1200": newtons.
std::optional<double> newtons(const QString& text)
{
  const QString typed = text.trimmed().replace(',', '.');
  qsizetype end = 0;
  while (end < typed.size() && (typed[end].isDigit() || QString("+-.eE").contains(typed[end])))
    ++end;
  bool read = false;
  const double number = typed.left(end).toDouble(&read);
  const QString unit = typed.mid(end).trimmed();
  if (!read)
    return std::nullopt;
  return unit.isEmpty() ? std::optional(number)
                        : units::convert(number, units::spelledForLibrary(unit.toStdString()), "N");
}

double conductivityOf(const Project& project, const std::string& part)
{
  const Part* own = findById(project.parts, part);
  const Material* material = own != nullptr ? findById(project.materials, own->material) : nullptr;
  return material != nullptr ? material->conductivity.si : 0;
}

} // namespace

BoltedJointDialog::BoltedJointDialog(Document& document, std::string partA, std::string partB, QWidget* parent)
    : QDialog(parent), document_(document), partA_(std::move(partA)), partB_(std::move(partB)), force_(new QLineEdit),
      reach_(new QuantityField(Quantity::Length, Range::Positive)),
      hole_(new QuantityField(Quantity::Length, Range::NonNegative)),
      roughness_(new QuantityField(Quantity::Length, Range::Positive)),
      slope_(new QuantityField(Quantity::Plain, Range::Positive)),
      hardness_(new QuantityField(Quantity::Pressure, Range::Positive)),
      elsewhere_(new QuantityField(Quantity::AreaConductance, Range::Positive)), message_(new QLabel)
{
  setObjectName("boltedJoint");
  setAttribute(Qt::WA_DeleteOnClose);
  setWindowTitle(tr("Bolted joint"));
  auto* form = new QFormLayout(this);
  force_->setObjectName("boltForce");
  force_->setAccessibleName(tr("Force of the bolt"));
  force_->setText("5 kN");
  connect(force_, &QLineEdit::textChanged, this, &BoltedJointDialog::refresh);
  form->addRow(tr("Force of the bolt"), force_);
  const auto row = [&](const QString& label, QuantityField* field, const char* name, Number number) {
    field->setObjectName(name);
    field->setAccessibleName(label);
    field->setNumber(std::move(number));
    connect(field, &QuantityField::committed, this, &BoltedJointDialog::refresh);
    if (!label.isEmpty())
      form->addRow(label, field);
  };
  const auto mesh = document.shownMesh();
  const Face* face = mesh ? sharedFlatFace(mesh->geometry, partA_, partB_) : nullptr;
  const Vec3 middle = face != nullptr ? face->centroid : Vec3::Zero();
  auto* place = new QHBoxLayout;
  for (Eigen::Index axis = 0; axis < 3; ++axis) {
    auto*& field = centre_[static_cast<std::size_t>(axis)];
    field = new QuantityField(Quantity::Length, Range::Any);
    const double millimetres = std::round(middle[axis] * 1e6) / 1e3;
    row({}, field, QByteArray("boltCentre").append("XYZ"[axis]).constData(),
        Number{millimetres / 1e3, plainNumber(millimetres == 0 ? 0 : millimetres) + " mm", false});
    field->setAccessibleName(tr("Its middle, %1").arg("xyz"[axis]));
    place->addWidget(field);
  }
  form->addRow(tr("Its middle, x, y, z"), place);
  row(tr("Presses within a radius of"), reach_, "boltReach", {0.01, "10 mm", false});
  row(tr("Radius of its hole"), hole_, "boltHole", {0, "0 mm", false});
  row(tr("Roughness of both, r.m.s."), roughness_, "boltRoughness", {2e-6, "0.002 mm", false});
  row(tr("Slope of the roughness"), slope_, "boltSlope", {0.15, "0.15", false});
  row(tr("Hardness of the softer"), hardness_, "boltHardness", {1.2e9, "1200 MPa", false});
  row(tr("Conductance elsewhere"), elsewhere_, "boltElsewhere", {100, "100 W/(m²·K)", false});
  message_->setObjectName("boltMessage");
  message_->setWordWrap(true);
  form->addRow(message_);
  auto* buttons = new QHBoxLayout;
  buttons->addStretch();
  use_ = addButton(*buttons, tr("Make the contacts"), "boltUse");
  connect(use_, &QPushButton::clicked, this, &BoltedJointDialog::apply);
  connect(addButton(*buttons, tr("Close"), "boltClose"), &QPushButton::clicked, this, &QDialog::reject);
  form->addRow(buttons);
  refresh();
}

std::optional<BoltedJoint> BoltedJointDialog::joint() const
{
  const auto force = newtons(force_->text());
  const Project& project = document_.shownProject();
  BoltedJoint joint;
  joint.partA = partA_;
  joint.partB = partB_;
  joint.centre = {valueOf(*centre_[0]), valueOf(*centre_[1]), valueOf(*centre_[2])};
  joint.reach = valueOf(*reach_);
  joint.hole = valueOf(*hole_);
  joint.force = force.value_or(0);
  joint.surfaces = {conductivityOf(project, partA_), conductivityOf(project, partB_), valueOf(*roughness_),
                    valueOf(*slope_), valueOf(*hardness_)};
  joint.elsewhere = valueOf(*elsewhere_);
  const bool whole = force && *force > 0 && joint.reach > joint.hole && joint.surfaces.conductivityA > 0 &&
                     joint.surfaces.conductivityB > 0;
  return whole ? std::optional(joint) : std::nullopt;
}

void BoltedJointDialog::refresh()
{
  const auto now = joint();
  use_->setEnabled(now.has_value());
  message_->setStyleSheet(now ? QString() : "color: " + theme().bad.name());
  if (!now)
    return message_->setText(
        tr("Enter a force such as 5 kN and a radius larger than the hole; both parts need a material."));
  const auto text = [](double si, Quantity quantity) {
    return QString::fromStdString(formatQuantity(si, quantity, {}, 3));
  };
  const QString hole =
      now->hole > 0 ? tr(" Cut the hole out of the parts, too: else it conducts as the washer.") : QString();
  message_->setText(tr("It presses with %1: %2 within its reach, where the surfaces touch in spots; nothing else is "
                       "counted between them. The face is divided there.")
                        .arg(text(pressureOf(*now), Quantity::Pressure),
                             text(pressedConductance(now->surfaces, pressureOf(*now)), Quantity::AreaConductance)) +
                    hole);
}

void BoltedJointDialog::apply()
{
  const auto now = joint();
  const auto mesh = document_.shownMesh();
  if (!now || !mesh)
    return;
  auto changed = withBoltedJoint(document_.project(), mesh->geometry, *now);
  if (!changed) {
    message_->setStyleSheet("color: " + theme().bad.name());
    return message_->setText(inWords(changed.error()));
  }
  document_.edit(tr("Bolted joint"), [&](Project& project) { project = std::move(*changed); });
  accept();
}

} // namespace kiln
