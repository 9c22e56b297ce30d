// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "pages/SectionDialog.h"

#include "fields/EditorDialog.h"
#include "fields/QuantityField.h"
#include "geometry/SectionFromModel.h"
#include "io/ProjectFile.h"
#include "look/Language.h"
#include "look/Theme.h"

#include <QComboBox>
#include <QFormLayout>
#include <QHBoxLayout>
#include <QLabel>
#include <QPushButton>
#include <algorithm>
#include <cmath>

namespace kiln
{
namespace
{

enum Kind { Solid, Plane, Turned };

Number lengthNumber(double metres) { return {metres, formatQuantity(metres, Quantity::Length, {}, 4), false}; }

/// A file beside the project's that does not exist yet.
std::filesystem::path freeFileBeside(const std::filesystem::path& file)
{
  for (int i = 1;; ++i) {
    std::filesystem::path path = file;
    path.replace_filename(file.stem().string() + "-section" + (i > 1 ? "-" + std::to_string(i) : "") + ".kiln");
    if (!std::filesystem::exists(path))
      return path;
  }
}

} // namespace

SectionDialog::SectionDialog(Document& document, std::function<void(const QString&)> open, QWidget* parent)
    : QDialog(parent), document_(document), open_(std::move(open)), form_(new QFormLayout(this)), kind_(new QComboBox),
      across_(new QComboBox), at_(new QuantityField(Quantity::Length, Range::Any)),
      depth_(new QuantityField(Quantity::Length, Range::Positive)),
      axisX_(new QuantityField(Quantity::Length, Range::Any)), axisY_(new QuantityField(Quantity::Length, Range::Any)),
      message_(new QLabel), cut_(nullptr)
{
  setObjectName("sectionDialog");
  setWindowTitle(tr("Section model"));
  kind_->setObjectName("sectionKind");
  kind_->addItems({tr("solid, in three dimensions"), tr("a plane section"), tr("turned about an axis")});
  form_->addRow(tr("The model is"), kind_);
  across_->setObjectName("sectionAcross");
  across_->addItems({tr("x"), tr("y"), tr("z")});
  across_->setCurrentIndex(1);
  form_->addRow(tr("The plane stands across"), across_);
  const auto row = [&](const QString& label, QuantityField* field, const char* name,
                       const std::optional<Number>& number) {
    field->setObjectName(name);
    field->setAccessibleName(label);
    field->setNumber(number);
    form_->addRow(label, field);
    connect(field, &QuantityField::committed, this, &SectionDialog::refresh);
    connect(field, &QuantityField::cleared, this, &SectionDialog::refresh);
  };
  row(tr("at"), at_, "sectionAt", lengthNumber(middle(1)));
  depth_->setOptional(true);
  depth_->setPlaceholderText(tr("none: heat per metre"));
  row(tr("Depth"), depth_, "sectionDepth", std::nullopt);
  row(tr("Axis along z, at x"), axisX_, "sectionAxisX", lengthNumber(middle(0)));
  row(tr("and y"), axisY_, "sectionAxisY", lengthNumber(middle(1)));
  message_->setObjectName("sectionMessage");
  message_->setWordWrap(true);
  message_->setMinimumWidth(380);
  form_->addRow(message_);
  auto* buttons = new QHBoxLayout;
  buttons->addStretch();
  cut_ = addButton(*buttons, tr("Cut into a new project"), "sectionCut");
  connect(cut_, &QPushButton::clicked, this, &SectionDialog::cut);
  connect(addButton(*buttons, tr("Apply here"), "sectionApply"), &QPushButton::clicked, this, &SectionDialog::apply);
  connect(addButton(*buttons, tr("Close"), "sectionClose"), &QPushButton::clicked, this, &QDialog::reject);
  form_->addRow(buttons);
  if (const auto& section = document_.project().section) {
    if (const auto* plane = std::get_if<PlaneSection>(&section->cut)) {
      kind_->setCurrentIndex(Plane);
      across_->setCurrentIndex(static_cast<int>(plane->across));
      at_->setNumber(plane->at);
      depth_->setNumber(plane->depth);
    } else {
      const auto& turned = std::get<TurnedSection>(section->cut);
      kind_->setCurrentIndex(Turned);
      axisX_->setNumber(turned.axisX);
      axisY_->setNumber(turned.axisY);
    }
  }
  connect(across_, &QComboBox::activated, this, [this](int axis) {
    at_->setNumber(lengthNumber(middle(axis)));
    refresh();
  });
  connect(kind_, &QComboBox::currentIndexChanged, this, &SectionDialog::refresh);
  refresh();
}

/// Of the model along an axis, m.
double SectionDialog::middle(int axis) const
{
  const auto mesh = document_.shownMesh();
  if (!mesh || mesh->geometry.parts.empty())
    return 0;
  double low = mesh->geometry.parts.front().low[axis];
  double high = mesh->geometry.parts.front().high[axis];
  for (const GeometryPart& part : mesh->geometry.parts) {
    low = std::min(low, part.low[axis]);
    high = std::max(high, part.high[axis]);
  }
  constexpr double grain = 1e-6; // m
  return std::round((low + high) / 2 / grain) * grain;
}

std::optional<Section> SectionDialog::chosen() const
{
  const auto number = [](const QuantityField* field) { return field->number().value_or(Number{}); };
  switch (kind_->currentIndex()) {
  case Plane:
    return Section{PlaneSection{static_cast<Across>(across_->currentIndex()), number(at_), depth_->number()}, {}};
  case Turned:
    return Section{TurnedSection{number(axisX_), number(axisY_)}, {}};
  default:
    return std::nullopt;
  }
}

void SectionDialog::say(const QString& sentence, bool wrong)
{
  message_->setStyleSheet(wrong ? "color: " + theme().bad.name() : QString());
  message_->setText(sentence);
  message_->setMinimumHeight(message_->heightForWidth(std::max(message_->width(), message_->minimumWidth())));
  adjustSize(); // a wrapped text does not ask for its height by itself
}

void SectionDialog::refresh()
{
  const int kind = kind_->currentIndex();
  for (QWidget* field : {static_cast<QWidget*>(across_), static_cast<QWidget*>(at_), static_cast<QWidget*>(depth_)})
    form_->setRowVisible(field, kind == Plane);
  form_->setRowVisible(axisX_, kind == Turned);
  form_->setRowVisible(axisY_, kind == Turned);
  const bool solid = !document_.project().section;
  cut_->setVisible(kind != Solid && solid && !document_.project().parts.empty());
  cut_->setEnabled(!document_.file().empty() && document_.shownMesh() != nullptr && document_.geometryIsCurrent());
  cut_->setToolTip(cut_->isEnabled() ? QString()
                                     : tr("Save the project first, and wait until its shapes are built: areas and "
                                          "volumes share out what is given in all."));
  switch (kind) {
  case Solid:
    say(solid ? tr("It is solid now.") : tr("The parts keep their shapes; flat ones need another form."), false);
    break;
  case Plane:
    say(tr("Heat flows in the plane alone. Parts are what the plane cuts of them; flat forms lie in the x–z plane. "
           "“part.front” and “part.back” name the faces of a plate."),
        false);
    break;
  default:
    say(tr("Everything is turned about the axis; what lies to its right (+x) counts. Watts are those of the whole "
           "body."),
        false);
  }
}

void SectionDialog::apply()
{
  const std::optional<Section> section = chosen();
  document_.edit(tr("Section model"), [&](Project& project) { project.section = section; });
  accept();
}

void SectionDialog::cut()
{
  const auto mesh = document_.shownMesh();
  const std::optional<Section> section = chosen();
  if (!mesh || !section)
    return;
  const SectionFromModel made = sectionFrom(document_.project(), mesh->geometry, *section);
  const std::filesystem::path file = freeFileBeside(document_.file());
  if (const auto saved = saveProject(made.project, file); !saved)
    return say(inWords(saved.error()), true);
  QString text = tr("Saved as %1.").arg(QString::fromStdString(file.filename().string()));
  for (const std::string& note : made.notes)
    text += "\n" + QString::fromStdString(note);
  say(text, false);
  open_(QString::fromStdString(file.string()));
}

} // namespace kiln
