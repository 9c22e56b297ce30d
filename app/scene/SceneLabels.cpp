// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "scene/SceneLabels.h"

#include "base/At.h"
#include "model/Edit.h"

#include <QCoreApplication>
#include <algorithm>
#include <cmath>

namespace kiln
{

const Location* SceneLabels::locationOf(const Vec3& place)
{
  const std::array<double, 3> key{place.x(), place.y(), place.z()};
  auto found = places_.find(key);
  if (found == places_.end())
    found = places_.emplace(key, locate(*mesh_, place)).first;
  constexpr double reach = 1e-3; // m outside the parts: a mesh of straight sides cuts round ones short
  return found->second.distance <= reach ? &found->second : nullptr;
}

std::optional<double> SceneLabels::valueOf(const Label& label, const Location& at)
{
  const auto result = document_.shownState().result;
  const auto temperature = document_.shownTemperature();
  if (!result || !temperature || mesh_.get() != &result->mesh)
    return std::nullopt;
  if (fieldsOf_ != temperature) {
    fields_.clear();
    fieldsOf_ = temperature;
  }
  const PartId part = mesh_->tetPart[at.tet];
  const auto mean = [&](auto&& valueAt) {
    double value = 0;
    for (std::size_t i = 0; i < 4; ++i)
      value += at.weights[static_cast<Eigen::Index>(i)] * valueAt(result->unknowns.ofTet[at.tet][i]);
    return value;
  };
  if (label.shown == Shown::Temperature)
    return mean([&](UnknownId unknown) { return (*temperature)[kiln::at(unknown)]; });
  if (!isSolutionField(label.shown))
    return std::nullopt;
  auto field = fields_.find(label.shown);
  if (field == fields_.end())
    field =
        fields_.emplace(label.shown, fieldValues(document_.shownProject(), *result, *temperature, label.shown)).first;
  return mean([&](UnknownId unknown) { return field->second.at(unknown, part); });
}

std::vector<LabelReading> SceneLabels::read()
{
  std::vector<LabelReading> readings;
  const auto mesh = document_.shownMesh();
  if (mesh != mesh_) {
    places_.clear();
    mesh_ = mesh;
  }
  for (const Label& label : document_.project().labels) {
    LabelReading& reading = readings.emplace_back();
    reading.id = label.id;
    reading.place = Vec3(label.place.x.si, label.place.y.si, label.place.z.si);
    if (!mesh_ || mesh_->tets.empty())
      continue;
    if (const Location* at = locationOf(reading.place)) {
      reading.part = mesh_->tetPart[at->tet];
      reading.value = valueOf(label, *at);
    }
  }
  return readings;
}

QString labelText(const Label& label, const LabelReading& reading, TemperatureUnit unit)
{
  if (!reading.part)
    return QCoreApplication::translate("kiln::SceneLabels", "in no part");
  if (!reading.value)
    return QCoreApplication::translate("kiln::SceneLabels", "no value");
  return QString::fromStdString(
      formatQuantity(*reading.value, quantityOf(label.shown).value_or(Quantity::Temperature), unit));
}

Label labelAt(const Project& project, const Vec3& place, Shown shown, const std::string& name)
{
  Label label;
  label.name = name;
  const auto isTaken = [&](const std::string& wanted) {
    return std::any_of(project.labels.begin(), project.labels.end(),
                       [&](const Label& own) { return own.name == wanted; });
  };
  for (int i = 2; isTaken(label.name); ++i)
    label.name = name + " " + std::to_string(i);
  label.id = idFromName(project, label.name);
  const auto number = [](double metres) {
    const double rounded = std::round(metres * 1e7) / 1e7; // a ten-thousandth of a millimetre
    return Number{rounded, formatQuantity(rounded, Quantity::Length, {}, 7)};
  };
  label.place = {number(place.x()), number(place.y()), number(place.z())};
  label.shown = shown;
  return label;
}

} // namespace kiln
