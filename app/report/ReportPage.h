// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "report/ReportMaker.h"

#include <QTextDocument>
#include <QWidget>

class QComboBox;
class QLabel;
class QPushButton;
class QTextBrowser;
class QToolButton;

namespace kiln
{

class ReportEditor;

/// The page of reports: what one tells at the left, how it looks at the right, whether it is still true above.
class ReportPage : public QWidget
{
  Q_OBJECT

public:
  ReportPage(Document& document, Preferences& preferences, ScenePanel& scene, SolverQueue& solver,
             QWidget* parent = nullptr);

  [[nodiscard]] ReportMaker& maker() { return maker_; }
  /// The report that is looked at; a usual one is added where there is none.
  std::string chosenOrNew();
  /// Writes the report that is looked at. \return whether it was written
  bool makeInto(const QStringList& files);
  [[nodiscard]] ReportEditor& editor() { return *editor_; }

public slots:
  void addReport();
  void askForFile();
  void showPreview();
  void print();
  void bringUpToDate();

protected:
  void showEvent(QShowEvent* event) override;

private:
  QWidget* makeLeft();
  void refresh();
  void refreshStatus();
  void rename();
  void keepTemplate();
  void takeTemplateFile();
  void goOnBringing();
  [[nodiscard]] std::optional<BuiltReport> built();
  void tellUnknown(const BuiltReport& built);
  void say(const QString& sentence, bool bad = false);
  [[nodiscard]] const Report* chosen() const;
  [[nodiscard]] bool watched(const std::function<void()>& work);

  Document& document_;
  SolverQueue& solver_;
  ReportMaker maker_;
  ReportEditor* editor_;
  QComboBox* list_;
  QLabel *status_, *said_;
  QPushButton *save_, *update_;
  QToolButton *preview_, *print_;
  QTextBrowser* page_;
  std::unique_ptr<QTextDocument> shown_;
  QTimer rest_;          ///< since something changed
  std::string bringing_; ///< report that is brought up to date once all is solved
};

} // namespace kiln
