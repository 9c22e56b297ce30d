// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "document/Document.h"
#include "document/DraftProcess.h"
#include "document/ProjectGuard.h"
#include "document/Recovery.h"
#include "document/SolverQueue.h"
#include "look/Preferences.h"

#include <QMainWindow>
#include <functional>

class QLabel;
class QMenu;
class QSplitter;
class QTabWidget;

namespace kiln
{

class CaseBar;
class LedgerPanel;
class MaterialsPage;
class ParametersPage;
class ReportPage;
class SurfacesPage;
class StartPage;
class ReadinessList;
class ScenePanel;
class StripPanel;
class WatchPanel;

/// Builds the five zones, wires them to the document, and remembers how it was left.
class MainWindow : public QMainWindow
{
  Q_OBJECT

public:
  explicit MainWindow(QWidget* parent = nullptr);
  ~MainWindow() override;

  /// Opens a project; tells the user why when it cannot be read.
  bool openFile(const QString& file);

  /// What starts another window, with a project's file or nothing; the program itself if not set.
  using Launcher = std::function<void(const QStringList& arguments)>;
  void setLauncher(Launcher launcher) { launcher_ = std::move(launcher); }

  /// Opens the ledger row of an object and brings it into view.
  void revealObject(const QString& id);
  void toggleReadiness();

  [[nodiscard]] Document& document() { return document_; }
  [[nodiscard]] SolverQueue& solver() { return solver_; }
  [[nodiscard]] DraftProcess& drafts() { return drafts_; }
  [[nodiscard]] Recovery& recovery() { return recovery_; }
  [[nodiscard]] Preferences& preferences() { return preferences_; }
  [[nodiscard]] ScenePanel& scene() { return *scene_; }
  [[nodiscard]] ReportPage& report() { return *report_; }
  [[nodiscard]] StripPanel& strip() { return *strip_; }

protected:
  void closeEvent(QCloseEvent* event) override;
  void dragEnterEvent(QDragEnterEvent* event) override;
  void dropEvent(QDropEvent* event) override;
  void resizeEvent(QResizeEvent* event) override;

private:
  void buildZones();
  void buildMenus();
  void buildEditMenu(QMenu& edit);
  void buildHelpMenu();
  void buildMeshMenu();
  void buildViewMenu();
  void showStart(bool shown);
  void recover(const LostProject& lost);
  void openWindow(const QString& file = {});
  void openManual();
  void copyRows();
  void pasteRows();
  void startTour();
  void refineShown();
  void addMeshFields(QMenu& menu);
  void addWorstTets(QMenu& menu);
  void addMeshField(QMenu& menu, const QString& text, const std::string& key, Quantity quantity,
                    std::optional<Number> MeshSettings::*member);
  void readAgain(const GeometryFile& file);
  void rebuildRecentMenu();
  void restoreLayout();
  void foldStrip(bool folded);
  void applyThemeChoice();
  void refreshTitle();
  void refreshStatus();
  void placeReadiness();
  void showFinding(const Finding& finding);
  bool save();
  bool saveAs();
  void keepPicture();
  bool mayDiscard();
  void solveShown();
  void solveAll();
  void showSentence(const QString& title, const QString& sentence);
  void askForLarge(const QString& sentence);
  void offerRecovery(const QString& file);

  Preferences preferences_;
  Document document_;
  SolverQueue solver_;
  DraftProcess drafts_;
  CaseBar* cases_;
  LedgerPanel* ledger_;
  ScenePanel* scene_;
  WatchPanel* watches_;
  StripPanel* strip_;
  ReadinessList* readiness_;
  MaterialsPage* materials_;
  ParametersPage* parameters_;
  SurfacesPage* surfaces_;
  ReportPage* report_;
  StartPage* start_;
  QTabWidget* centre_;
  Recovery recovery_;
  ProjectGuard guard_;
  QSplitter* across_; ///< ledger | the rest
  QSplitter* down_;   ///< scene and watches, strip
  QSplitter* upper_;  ///< scene | watches
  int stripHeight_ = 255;
  QLabel* status_;
  QMenu* recent_ = nullptr;
  Launcher launcher_;
};

} // namespace kiln
