// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include <QObject>
#include <set>
#include <string>
#include <vector>

namespace kiln
{

/// What the user has selected, picked and unfolded: names only; it knows neither project nor results.
class Selection : public QObject
{
  Q_OBJECT

public:
  using QObject::QObject;

  /// The primary selected object, empty when there is none.
  [[nodiscard]] const std::string& id() const;
  /// Every selected object, the primary one first.
  [[nodiscard]] const std::vector<std::string>& ids() const { return ids_; }
  [[nodiscard]] bool holds(const std::string& id) const;
  /// Lasting names of the faces clicked in the scene.
  [[nodiscard]] const std::vector<std::string>& pickedFaces() const { return pickedFaces_; }
  /// Steps whose fields are unfolded in the ledger: "part.step".
  [[nodiscard]] const std::set<std::string>& openSteps() const { return openSteps_; }
  [[nodiscard]] const std::set<std::string>& foldedGroups() const { return foldedGroups_; }

  /// Selects this object alone, or nothing; what was picked is let go.
  void select(const std::string& id);
  /// Adds an object to the selection, or takes it out.
  void toggle(const std::string& id);
  void pickFaces(std::vector<std::string> faces);
  void toggleStep(const std::string& step);
  void toggleGroup(const std::string& groupId);
  /// Of a project that is gone; says nothing.
  void forget();

signals:
  void changed();
  void pickedFacesChanged();
  void stepsChanged();
  void foldingChanged();

private:
  std::vector<std::string> ids_, pickedFaces_;
  std::set<std::string> openSteps_, foldedGroups_;
};

} // namespace kiln
