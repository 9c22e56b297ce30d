// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "scene/CutList.h"

#include "fields/FormRows.h"
#include "look/Icons.h"

#include <QHBoxLayout>
#include <QLabel>
#include <QSlider>
#include <QSpinBox>
#include <QToolButton>
#include <algorithm>
#include <cmath>

namespace kiln
{
namespace
{

constexpr double degree = 3.14159265358979323846 / 180;
constexpr int sliderSteps = 400;

} // namespace

Vec3 placeOf(const Number3& numbers) { return {numbers.x.si, numbers.y.si, numbers.z.si}; }
Number3 numbersOf(const Vec3& place) { return {{place.x(), {}}, {place.y(), {}}, {place.z(), {}}}; }

CutList::CutList(std::vector<CutPlane>& cuts, QWidget* parent) : QWidget(parent), cuts_(cuts), rows_(new QVBoxLayout)
{
  auto* layout = new QVBoxLayout(this);
  layout->setContentsMargins(0, 0, 0, 0);
  layout->setSpacing(4);
  auto* head = new QHBoxLayout;
  head->addWidget(quietLabel(tr("CUTS")), 1);
  for (int axis = 0; axis < 3; ++axis) {
    auto* add = new QToolButton;
    add->setText(QString("+ ") + QChar('x' + axis));
    add->setObjectName(QString("cutAdd") + QChar('X' + axis));
    add->setToolTip(tr("Another plane, across %1").arg(QChar('x' + axis)));
    connect(add, &QToolButton::clicked, this, [this, axis] { addCut(axis); });
    head->addWidget(add);
  }
  layout->addLayout(head);
  rows_->setSpacing(2);
  layout->addLayout(rows_);
}

void CutList::addCut(int axis)
{
  CutPlane cut;
  for (int i = 1; cut.id.empty(); ++i) {
    const std::string id = "cut-" + std::to_string(i);
    if (std::none_of(cuts_.begin(), cuts_.end(), [&](const CutPlane& own) { return own.id == id; }))
      cut.id = id;
  }
  cut.through = numbersOf((low_ + high_) / 2);
  const Vec3 away = axis == 1 ? Vec3(0, -1, 0) : Vec3(Vec3::Unit(axis)); // what stands before the usual view goes
  cut.normal = numbersOf(away);
  cuts_.push_back(cut);
  emit changed();
  refresh(low_, high_);
}

/// \param about  degrees about z
/// \param lean   degrees up
void CutList::turn(CutPlane& cut, double about, double lean) const
{
  const double a = about * degree;
  const double l = lean * degree;
  cut.normal = numbersOf(Vec3(std::cos(a) * std::cos(l), std::sin(a) * std::cos(l), std::sin(l)));
}

void CutList::refresh(const Vec3& low, const Vec3& high)
{
  low_ = low;
  high_ = high;
  clearRows(*rows_);
  for (std::size_t i = 0; i < cuts_.size(); ++i)
    addRow(i);
}

void CutList::addRow(std::size_t index)
{
  auto* row = new QWidget;
  auto* two = new QVBoxLayout(row);
  two->setContentsMargins(6, 0, 0, 2);
  two->setSpacing(2);
  auto* above = new QHBoxLayout;
  const QString id = QString::number(index + 1);
  auto* at = new QSlider(Qt::Horizontal);
  at->setObjectName("cutAt" + id);
  at->setAccessibleName(tr("Place of cut %1").arg(id));
  at->setRange(0, sliderSteps);
  const Vec3 normal = placeOf(cuts_[index].normal).normalized();
  const Vec3 middle = (low_ + high_) / 2;
  const double reach = std::max((high_ - low_).cwiseAbs().dot(normal.cwiseAbs()) / 2, 1e-9);
  const double depth = normal.dot(placeOf(cuts_[index].through) - middle);
  at->setValue(static_cast<int>(std::lround((depth / reach + 1) / 2 * sliderSteps)));
  above->addWidget(at, 1);
  const auto button = [&](const QString& iconName, const QString& tip, const QString& name) {
    auto* tool = new QToolButton;
    tool->setToolTip(tip);
    setIcon(*tool, iconName);
    tool->setObjectName(name + id);
    tool->setAccessibleName(tip);
    above->addWidget(tool);
    return tool;
  };
  auto* flip = button("object-flip-horizontal", tr("The other side goes"), "cutFlip");
  auto* remove = button("list-remove", tr("Remove this cut"), "cutRemove");
  two->addLayout(above);
  auto* below = new QHBoxLayout;
  const auto angle = [&](const QString& label, const QString& name, int least, int most, double now) {
    auto* box = new QSpinBox;
    box->setRange(least, most);
    box->setSuffix("°");
    box->setWrapping(most > 90);
    box->setObjectName(name + id);
    box->setAccessibleName(label);
    box->setValue(static_cast<int>(std::lround(now / degree)));
    below->addWidget(new QLabel(label));
    below->addWidget(box, 1);
    return box;
  };
  auto* about = angle(tr("about z"), "cutAbout", -180, 180, std::atan2(normal.y(), normal.x()));
  auto* lean = angle(tr("up"), "cutLean", -90, 90, std::asin(std::clamp(normal.z(), -1.0, 1.0)));
  two->addLayout(below);
  rows_->addWidget(row);

  connect(at, &QSlider::valueChanged, this, [this, index, middle](int value) {
    CutPlane& cut = cuts_[index];
    const Vec3 along = placeOf(cut.normal).normalized();
    const double far = (high_ - low_).cwiseAbs().dot(along.cwiseAbs()) / 2;
    cut.through = numbersOf(middle + (2.0 * value / sliderSteps - 1) * far * along);
    emit changed();
  });
  connect(flip, &QToolButton::clicked, this, [this, index] {
    cuts_[index].normal = numbersOf(-placeOf(cuts_[index].normal));
    emit changed();
    refresh(low_, high_);
  });
  connect(remove, &QToolButton::clicked, this, [this, index] {
    cuts_.erase(cuts_.begin() + static_cast<std::ptrdiff_t>(index));
    emit changed();
    refresh(low_, high_);
  });
  const auto turned = [this, index, about, lean] {
    turn(cuts_[index], about->value(), lean->value());
    emit changed();
  };
  connect(about, &QSpinBox::valueChanged, this, turned);
  connect(lean, &QSpinBox::valueChanged, this, turned);
}

} // namespace kiln
