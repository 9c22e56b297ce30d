// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "document/Document.h"

#include <QWidget>

class QFormLayout;
class QLineEdit;
class QListWidget;
class QListWidgetItem;
class QPlainTextEdit;
class QTimer;
class QToolButton;

namespace kiln
{

/// What a report tells: title block, cases and questions, sections in their order with own words.
class ReportEditor : public QWidget
{
  Q_OBJECT

public:
  explicit ReportEditor(Document& document, QWidget* parent = nullptr);
  void setReport(const std::string& reportId);
  /// Takes a picture file as the logo. Fails where it is no picture, or too large.
  [[nodiscard]] Expected<void> takeLogo(const QString& file);

public slots:
  void refresh();
  void takeText();

signals:
  void said(const QString& sentence);

private:
  [[nodiscard]] const Report* report() const;
  void edit(const QString& name, const std::function<void(Report&)>& change);
  void editSection(const QString& name, const std::function<void(ReportSection&)>& change);
  void buildTitleBlock(QFormLayout& form);
  QWidget* makeSections();
  void refreshSubjects(const Report& report);
  void refreshSections(const Report& report);
  void showSection();
  void takeSubjects();
  void takeOrder();
  void moveSection(int by);
  void addWords();
  void removeSection();
  void fillViewsMenu();
  [[nodiscard]] std::string chosenSection() const;

  Document& document_;
  std::string reportId_;
  std::vector<std::pair<QLineEdit*, std::string Report::*>> lines_;
  QListWidget *subjects_, *sections_;
  QLineEdit* sectionTitle_;
  QPlainTextEdit* sectionText_;
  QToolButton *remove_, *views_, *clearLogo_;
  QTimer* rest_;                   ///< since something was typed
  std::string typedIn_;            ///< the section that it belongs to; empty: it is taken
  std::optional<Report> shown_;    ///< as it was when this was filled last
  std::vector<std::string> names_; ///< of all cases and questions then
  bool refreshing_ = false;
};

} // namespace kiln
