// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "document/Document.h"
#include "look/Preferences.h"

#include <QDialog>

class QFormLayout;
class QLabel;
class QListWidget;
class QVBoxLayout;

namespace kiln
{

/// The property sets of the project: values that cases take together by naming the set. Made from what a case has of
/// its own, changed here, kept in the user's library and taken from there.
class SetEditor : public QDialog
{
  Q_OBJECT

public:
  SetEditor(Document& document, Preferences& preferences, QWidget* parent);

private:
  void refresh();
  void rebuildValues();
  void addValueRow(QFormLayout& form, const std::string& setId, const Change& change, Project& seen,
                   const std::vector<Field>& fields);
  void addChoice(QVBoxLayout& layout, const std::string& setId);
  void makeFromCase();
  void removeChosen();
  void renameChosen();
  void keep();
  void takeKept();
  [[nodiscard]] std::string chosen() const;
  void say(const QString& sentence);

  Document& document_;
  Preferences& preferences_;
  QListWidget* list_;
  QVBoxLayout* right_;
  QWidget* values_ = nullptr;
  QLabel* message_;
};

void editPropertySets(Document& document, Preferences& preferences, QWidget* parent);

} // namespace kiln
