// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "document/Document.h"
#include "document/LedgerRows.h"
#include "fields/FormRows.h"
#include "fields/SettingRows.h"
#include "look/Preferences.h"

#include <QFrame>
#include <QLabel>
#include <set>

class QFormLayout;
class QVBoxLayout;

namespace kiln
{

/// The opened part of a ledger row: everything that was set for the object, editable in place. Builds itself anew when
/// the object's structure changes (another kind, another step); numbers follow by themselves.
class RowEditor : public QFrame
{
  Q_OBJECT

public:
  RowEditor(Document& document, Preferences& preferences, const LedgerRow& row, QWidget* parent = nullptr);

protected:
  /// Keys of the fields in here are not for the row around them.
  void keyPressEvent(QKeyEvent* event) override;

private:
  void rebuild();
  void rebuildIfChanged();
  [[nodiscard]] std::string structure() const;
  void addText(QFormLayout& form, const QString& label, const char* key, std::string Object::*member);
  void addPartEditors();
  [[nodiscard]] SettingRows rows(const QString& prefix = {});
  void addSettings();
  [[nodiscard]] bool isProjectsKind(const Boundary& boundary) const;
  [[nodiscard]] bool hasTable(const std::string& id) const;
  void addContactChoice();
  void addContactHelpers();
  void addScope();
  void addSourceHelpers(const HeatSource& source);
  void addCaughtHeat(const HeatSource& source);
  void addBoundaryHelpers(const Boundary& boundary);
  void addSentence(const std::string& surfaceId);
  void addFinishes(const std::string& surfaceId);
  void say(const QString& sentence, bool wrong);

  Document& document_;
  Preferences& preferences_;
  LedgerRow row_;
  QVBoxLayout* layout_;
  QWidget* body_ = nullptr;
  QFormLayout* form_ = nullptr;
  QLabel* message_;
  std::string structure_;
};

} // namespace kiln
