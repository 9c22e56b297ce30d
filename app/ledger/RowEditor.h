// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "document/Document.h"
#include "ledger/LedgerRows.h"
#include "window/Preferences.h"

#include <QFrame>
#include <QLabel>

class QFormLayout;

namespace kiln
{

/// The opened part of a ledger row: every number of the object, editable in place, and what it was given.
class RowEditor : public QFrame
{
  Q_OBJECT

public:
  RowEditor(Document& document, Preferences& preferences, const LedgerRow& row, QWidget* parent = nullptr);

private:
  void addFieldsOf(const std::string& objectId, const QString& prefix = {});
  void addMaterialChoice();
  void addContactChoice();
  void addSurfaceInfo();
  void addFinishes(const std::string& surfaceId);
  void say(const QString& sentence, bool wrong);

  Document& document_;
  Preferences& preferences_;
  LedgerRow row_;
  QFormLayout* form_;
  QLabel* message_;
};

} // namespace kiln
