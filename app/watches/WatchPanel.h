// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "document/Document.h"
#include "look/Preferences.h"

#include <QWidget>

class QVBoxLayout;
class QLabel;
class QToolButton;

namespace kiln
{

class WatchCard;

/// The watches of the project as cards: figure, limits, margin, place.
class WatchPanel : public QWidget
{
  Q_OBJECT

public:
  WatchPanel(Document& document, Preferences& preferences, QWidget* parent = nullptr);

public slots:
  /// Adds a watch for what is selected: a part, a surface's heat, or a contact's heat.
  void addForSelection();
  /// Watches the temperature at a place, m.
  void addPlace(const kiln::Vec3& place);

signals:
  /// A click in the scene shall give the place of a new watch.
  void placeWanted();
  void arcWanted();

private:
  void refresh();
  [[nodiscard]] std::vector<Watch> possibleWatches() const;
  [[nodiscard]] std::vector<Watch> watchesOfSelection() const;
  void offerResistance(std::vector<Watch>& possible) const;
  void addFormula();
  void showAddMenu();
  void add(const Watch& watch);

  Document& document_;
  Preferences& preferences_;
  QVBoxLayout* cards_;
  QToolButton* add_;
  QLabel* hint_ = nullptr; ///< what belongs here, while there is nothing
  std::vector<WatchCard*> views_;
};

} // namespace kiln
