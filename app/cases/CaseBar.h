// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "document/Document.h"
#include "look/Preferences.h"

#include <QTimer>
#include <QWidget>
#include <map>
#include <set>
#include <vector>

class QHBoxLayout;
class QLineEdit;
class QPushButton;
class QScrollArea;
class QToolButton;

namespace kiln
{

class CaseChip;
class GroupChip;
struct CaseGroup;

/// The top row: one chip a case, those of a group together and folded at will, as many as there are; where they are
/// many, a filter by words; at the right readiness and solve.
class CaseBar : public QWidget
{
  Q_OBJECT

public:
  CaseBar(Document& document, Preferences& preferences, QWidget* parent = nullptr);

  void setRunning(bool running);
  void focusFilter();

signals:
  void solveWanted();
  void solveTheseWanted(const std::vector<std::string>& caseIds);
  void cancelWanted();
  void readinessWanted();
  void questionWanted(const std::string& questionId);

protected:
  void resizeEvent(QResizeEvent* event) override;
  bool eventFilter(QObject* watched, QEvent* event) override;

private:
  void makeChips();
  void refresh();
  void refreshCase(const std::string& caseId);
  void refreshReadiness();
  void refreshQuestions();
  void remakeViews();
  void applyFilter();
  void addGroup(const CaseGroup& group);
  [[nodiscard]] CaseChip* makeChip(const std::string& caseId);
  void selectUpTo(const std::string& caseId);
  void moveCase(const std::string& caseId, int places);
  void revealShown();
  void refreshArrows();

  Document& document_;
  Preferences& preferences_;
  QScrollArea* scroll_;
  QToolButton *back_, *on_; ///< move the row
  QHBoxLayout* chips_;
  QLineEdit* filter_;
  QToolButton *questions_, *readiness_;
  QPushButton* solve_;
  std::vector<CaseChip*> views_; ///< in the order in which they stand
  std::vector<GroupChip*> heads_;
  std::vector<std::pair<std::string, std::string>> made_; ///< id and group of every case when they were made
  std::set<std::string> folded_;                          ///< groups
  QTimer soon_;                                           ///< groups and filter follow
  bool running_ = false;
};

} // namespace kiln
