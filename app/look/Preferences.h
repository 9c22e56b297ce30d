// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "look/Theme.h"
#include "units/Quantity.h"
#include "units/UnitSet.h"

#include <QObject>
#include <QStringList>

namespace kiln
{

/// What belongs to the user and not to a project; kept between sessions.
class Preferences : public QObject
{
  Q_OBJECT

public:
  explicit Preferences(QObject* parent = nullptr);

  [[nodiscard]] TemperatureUnit temperatureUnit() const { return unit_; }
  /// Of all other quantities; it is set for the whole program.
  [[nodiscard]] UnitSet unitSet() const { return kiln::unitSet(); }
  void setUnitSet(UnitSet set);
  [[nodiscard]] ThemeChoice themeChoice() const { return theme_; }
  [[nodiscard]] QStringList recentFiles() const;
  /// How many elements are made without asking; 0: as many as half of this machine's memory takes.
  [[nodiscard]] double mostElements() const { return mostElements_; }
  void setMostElements(double count);
  /// How many cases are solved at a time, as far as memory allows.
  [[nodiscard]] int casesAtATime() const { return casesAtATime_; }
  void setCasesAtATime(int most);
  /// Do other programs come first while cases are solved?
  [[nodiscard]] bool solvesInBackground() const { return inBackground_; }
  void setSolvesInBackground(bool background);
  void setTemperatureUnit(TemperatureUnit unit);
  void setThemeChoice(ThemeChoice choice);
  void addRecentFile(const QString& file);

signals:
  void unitChanged();
  void themeChanged();
  void recentChanged();
  void mostElementsChanged();
  void solvingChanged(); ///< how many at a time, in the background

private:
  TemperatureUnit unit_;
  ThemeChoice theme_;
  double mostElements_;
  int casesAtATime_;
  bool inBackground_;
};

} // namespace kiln
