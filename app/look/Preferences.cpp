// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "look/Preferences.h"

#include <QSettings>

namespace kiln
{
namespace
{
const auto unitKey = QStringLiteral("temperatureUnit");
const auto setKey = QStringLiteral("unitSet");
const auto themeKey = QStringLiteral("theme");
const auto recentKey = QStringLiteral("recentFiles");
const auto elementsKey = QStringLiteral("mostElements");
const auto atATimeKey = QStringLiteral("casesAtATime");
const auto backgroundKey = QStringLiteral("solvesInBackground");
constexpr int mostAtATime = 64;
constexpr int mostRecent = 8;
} // namespace

Preferences::Preferences(QObject* parent)
    : QObject(parent), unit_(static_cast<TemperatureUnit>(std::clamp(QSettings().value(unitKey, 0).toInt(), 0, 2))),
      theme_(static_cast<ThemeChoice>(std::clamp(QSettings().value(themeKey, 0).toInt(), 0, 2))),
      mostElements_(std::max(0.0, QSettings().value(elementsKey, 0).toDouble())),
      casesAtATime_(std::clamp(QSettings().value(atATimeKey, 1).toInt(), 1, mostAtATime)),
      inBackground_(QSettings().value(backgroundKey, false).toBool())
{
  kiln::setUnitSet(static_cast<UnitSet>(std::clamp(QSettings().value(setKey, 0).toInt(), 0, 2)));
}

QStringList Preferences::recentFiles() const { return QSettings().value(recentKey).toStringList(); }

void Preferences::setTemperatureUnit(TemperatureUnit unit)
{
  unit_ = unit;
  QSettings().setValue(unitKey, static_cast<int>(unit));
  emit unitChanged();
}

void Preferences::setUnitSet(UnitSet set)
{
  kiln::setUnitSet(set);
  QSettings().setValue(setKey, static_cast<int>(set));
  emit unitChanged();
}

void Preferences::setThemeChoice(ThemeChoice choice)
{
  theme_ = choice;
  QSettings().setValue(themeKey, static_cast<int>(choice));
  emit themeChanged();
}

void Preferences::setMostElements(double count)
{
  mostElements_ = count;
  QSettings().setValue(elementsKey, count);
  emit mostElementsChanged();
}

void Preferences::setCasesAtATime(int most)
{
  casesAtATime_ = std::clamp(most, 1, mostAtATime);
  QSettings().setValue(atATimeKey, casesAtATime_);
  emit solvingChanged();
}

void Preferences::setSolvesInBackground(bool background)
{
  inBackground_ = background;
  QSettings().setValue(backgroundKey, background);
  emit solvingChanged();
}

void Preferences::addRecentFile(const QString& file)
{
  QStringList files = recentFiles();
  files.removeAll(file);
  files.prepend(file);
  while (files.size() > mostRecent)
    files.removeLast();
  QSettings().setValue(recentKey, files);
  emit recentChanged();
}

} // namespace kiln
