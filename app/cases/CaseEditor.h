// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "document/Document.h"
#include "look/Preferences.h"

#include <QDialog>

class QScrollArea;
class QLabel;
class QVBoxLayout;

namespace kiln
{

/// Name, comment and own values of a case; each value can be changed, or given back to the project.
class CaseEditor : public QDialog
{
  Q_OBJECT

public:
  CaseEditor(Document& document, Preferences& preferences, std::string caseId, QWidget* parent = nullptr);

private:
  void rebuild();
  void addTexts(QVBoxLayout& layout);
  void addSettings(QVBoxLayout& layout);
  void addChanges(QVBoxLayout& layout);
  void addChoice(QVBoxLayout& layout);
  void addChange(const std::string& path);

  Document& document_;
  Preferences& preferences_;
  std::string id_;
  QScrollArea* scroll_;
  QWidget* body_ = nullptr;
};

void editCase(Document& document, Preferences& preferences, const std::string& caseId, QWidget* parent);
/// A transient copy of a case that starts at room temperature and ends when it has settled; it is shown.
void copyInTime(Document& document, const std::string& caseId);
void duplicateCase(Document& document, const std::string& caseId);
/// The last case stays: a project has at least one.
void removeCase(Document& document, const std::string& caseId);

} // namespace kiln
