// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "document/Document.h"
#include "look/Preferences.h"

#include <QWidget>

class QLabel;
class QSortFilterProxyModel;
class QStackedWidget;
class QTabBar;
class QTableView;
class QToolButton;

namespace kiln
{

class NetworkPage;
class LinePage;
class NumbersModel;
class SolverQueue;
class QuestionsPage;
class TimePage;

/// The bottom strip: says which case and instant are shown, and holds the pages.
class StripPanel : public QWidget
{
  Q_OBJECT

public:
  static constexpr int timePage = 0, networkPage = 1, numbersPage = 2, linePage = 3, exchangePage = 4, timesPage = 5,
                       differencePage = 6, queuePage = 7, pathsPage = 8, labelsPage = 9, facesPage = 10,
                       questionsPage = 11, whatIfPage = 12;

  StripPanel(Document& document, Preferences& preferences, SolverQueue& solver, QWidget* parent = nullptr);

  /// Selected cells (or the whole table) as tab-separated text.
  [[nodiscard]] QString copyText() const;

  [[nodiscard]] TimePage& timePageWidget() { return *time_; }
  [[nodiscard]] LinePage& linePageWidget() { return *line_; }
  [[nodiscard]] QStringList pageNames() const;
  [[nodiscard]] bool isFolded() const { return folded_; }
  /// px: of the names of the pages alone
  [[nodiscard]] int foldedHeight() const;

public slots:
  void copy();
  void saveCsv();
  void setPage(int page);
  void showPage(int page);
  /// To the names of its pages, or back.
  void setFolded(bool folded);
  void toggleFolded();
  void showQuestion(const std::string& questionId);

signals:
  void foldedChanged(bool folded);

protected:
  void resizeEvent(QResizeEvent* event) override;

private:
  void showTitle();
  void fillTakeMenu();
  [[nodiscard]] bool hasSomething() const;
  void foldByContent();
  void refreshTitle();

  Document& document_;
  QLabel* title_;
  QTableView* table_;
  NumbersModel* model_;
  QSortFilterProxyModel* sorted_;
  QTabBar* pages_;
  QStackedWidget* stack_;
  TimePage* time_;
  NetworkPage* network_;
  LinePage* line_;
  QuestionsPage* questions_;
  QToolButton *take_, *fold_;
  QWidget* head_;
  bool folded_ = false, hadSomething_ = true;
};

} // namespace kiln
