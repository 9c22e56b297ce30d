// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "window/MainWindow.h"

#include "cases/CaseBar.h"
#include "ledger/LedgerPanel.h"
#include "ledger/NewObjects.h"
#include "look/Icons.h"
#include "look/Language.h"
#include "look/WheelGuard.h"
#include "mesh/CountEstimate.h"
#include "mesh/MeshQuality.h"
#include "pages/MaterialsPage.h"
#include "pages/ParametersPage.h"
#include "pages/SurfacesPage.h"
#include "report/ReportPage.h"
#include "scene/SceneOverlay.h"
#include "scene/ScenePanel.h"
#include "strip/LinePage.h"
#include "strip/StripPanel.h"
#include "strip/TimePage.h"
#include "watches/WatchPanel.h"
#include "window/EmptyScene.h"
#include "window/FileConflict.h"
#include "window/Film.h"
#include "window/ImportDialog.h"
#include "window/Manual.h"
#include "window/Notifier.h"
#include "window/ReadinessList.h"
#include "window/StartPage.h"
#include "window/Tour.h"

#include <QApplication>
#include <QClipboard>
#include <QHBoxLayout>
#include <QLabel>
#include <QMenuBar>
#include <QMessageBox>
#include <QPushButton>
#include <QSettings>
#include <QSplitter>
#include <QStackedLayout>
#include <QStatusBar>
#include <QTabBar>
#include <QTabWidget>
#include <QTimer>
#include <QVBoxLayout>

namespace kiln
{

MainWindow::MainWindow(QWidget* parent)
    : QMainWindow(parent), solver_(document_), drafts_(document_), cases_(new CaseBar(document_, preferences_)),
      ledger_(new LedgerPanel(document_, preferences_)), scene_(new ScenePanel(document_, preferences_)),
      watches_(new WatchPanel(document_, preferences_)), strip_(new StripPanel(document_, preferences_, solver_)),
      readiness_(new ReadinessList(document_, this)), materials_(new MaterialsPage(document_, preferences_)),
      parameters_(new ParametersPage(document_, preferences_)), surfaces_(new SurfacesPage(document_, preferences_)),
      report_(new ReportPage(document_, preferences_, *scene_, solver_)), start_(new StartPage(preferences_)),
      centre_(new QTabWidget), recovery_(document_), guard_(document_), across_(new QSplitter(Qt::Horizontal)),
      down_(new QSplitter(Qt::Vertical)), upper_(new QSplitter(Qt::Horizontal)), status_(new QLabel)
{
  qApp->installEventFilter(new WheelGuard(this));
  buildZones();
  buildMenus();
  setAcceptDrops(true);
  QTimer::singleShot(0, &drafts_, &DraftProcess::start);
  connect(&document_, &Document::fileChanged, this, &MainWindow::refreshTitle);
  connect(&document_, &Document::projectChanged, this, &MainWindow::refreshTitle);
  connect(&document_, &Document::caseStateChanged, this, [this] { refreshStatus(); });
  connect(&document_, &Document::shownCaseChanged, this, &MainWindow::refreshStatus);
  connect(&document_, &Document::resultChanged, this, &MainWindow::refreshStatus);
  connect(&document_, &Document::estimateChanged, this, &MainWindow::refreshStatus);
  connect(&solver_, &SolverQueue::runningChanged, this, [this] { cases_->setRunning(solver_.isRunning()); });
  connect(&drafts_, &DraftProcess::busyChanged, this, &MainWindow::refreshStatus);
  connect(&solver_, &SolverQueue::failed, this,
          [this](const QString& sentence) { statusBar()->showMessage(sentence, 15000); });
  connect(&solver_, &SolverQueue::told, this,
          [this](const QString& sentence) { statusBar()->showMessage(sentence, 15000); });
  const auto limit = [this] { solver_.setMostElements(preferences_.mostElements()); };
  connect(&preferences_, &Preferences::mostElementsChanged, this, limit);
  limit();
  const auto manner = [this] {
    solver_.setNice(preferences_.solvesInBackground());
    solver_.setAtATime(preferences_.casesAtATime());
  };
  connect(&preferences_, &Preferences::solvingChanged, this, manner);
  manner();
  connect(&solver_, &SolverQueue::jobEnded, this, &notifyOfLong);
  connect(&solver_, &SolverQueue::tooLarge, this, &MainWindow::askForLarge);
  connect(
      &guard_, &ProjectGuard::changedMeanwhile, this,
      [this] {
        if (guard_.changedOnDisk())
          static_cast<void>(settleConflict(document_, guard_, this));
      },
      Qt::QueuedConnection);
  connect(cases_, &CaseBar::solveWanted, this, &MainWindow::solveShown);
  connect(cases_, &CaseBar::solveTheseWanted, &solver_, &SolverQueue::solve);
  connect(cases_, &CaseBar::cancelWanted, &solver_, &SolverQueue::cancel);
  connect(watches_, &WatchPanel::placeWanted, scene_, &ScenePanel::askForPlace);
  connect(watches_, &WatchPanel::arcWanted, scene_, &ScenePanel::askForArc);
  connect(scene_, &ScenePanel::stepDrawn, this, [this](const std::string& part, const std::string& step) {
    ledger_->reveal(part);
    document_.toggleStep(part + "." + step);
  });
  connect(scene_, &ScenePanel::placePicked, watches_, &WatchPanel::addPlace);
  LinePage& along = strip_->linePageWidget();
  connect(&along, &LinePage::placesWanted, scene_, &ScenePanel::askForTwoPlaces);
  connect(&along, &LinePage::edgeWanted, scene_, &ScenePanel::askForEdge);
  connect(scene_, &ScenePanel::edgePicked, &along, &LinePage::addEdge);
  connect(&along, &LinePage::lineShown, this, [this](const auto& line) { scene_->overlay().setLine(line); });
  connect(scene_, &ScenePanel::twoPlacesPicked, &along, &LinePage::addLine);
  TimePage& time = strip_->timePageWidget();
  connect(&time, &TimePage::endWanted, &solver_, &SolverQueue::endRun);
  connect(&time, &TimePage::goOnWanted, &solver_, &SolverQueue::goOn);
  connect(&time, &TimePage::filmWanted, this, [this] { askForFilm(document_, *scene_, this); });
  connect(cases_, &CaseBar::readinessWanted, this, &MainWindow::toggleReadiness);
  connect(cases_, &CaseBar::questionWanted, strip_, &StripPanel::showQuestion);
  connect(readiness_, &ReadinessList::wanted, this, &MainWindow::showFinding);
  connect(readiness_, &ReadinessList::mendWanted, this, [this](const Mend& mend) {
    document_.edit(inWords(mend.label), [&](Project& project) { applyMend(project, mend); });
  });
  connect(parameters_, &ParametersPage::objectWanted, this, &MainWindow::revealObject);
  connect(surfaces_, &SurfacesPage::objectWanted, this, &MainWindow::revealObject);
  connect(start_, &StartPage::demoWanted, this, [this] { openFile(demoFile()); });
  connect(start_, &StartPage::emptyWanted, this, [this] { showStart(false); });
  connect(start_, &StartPage::fileWanted, this, &MainWindow::openFile);
  connect(start_, &StartPage::recoveryWanted, this, &MainWindow::recover);
  connect(start_, &StartPage::tourWanted, this, &MainWindow::startTour);
  connect(&document_, &Document::projectChanged, this, [this] {
    if (!document_.project().parts.empty() || !document_.file().empty())
      showStart(false);
  });
  connect(&preferences_, &Preferences::themeChanged, this, &MainWindow::applyThemeChoice);
  connect(&preferences_, &Preferences::recentChanged, this, &MainWindow::rebuildRecentMenu);
  restoreLayout();
  showStart(true);
  refreshTitle();
  refreshStatus();
}

MainWindow::~MainWindow() = default;

void MainWindow::buildZones()
{
  auto* body = new QWidget;
  auto* layout = new QVBoxLayout(body);
  layout->setContentsMargins(0, 0, 0, 0);
  layout->setSpacing(0);
  layout->addWidget(cases_);
  across_->addWidget(ledger_);
  centre_->setObjectName("centre");
  centre_->setDocumentMode(true);
  centre_->tabBar()->setDrawBase(false);
  auto* sceneStack = new QWidget;
  auto* stack = new QStackedLayout(sceneStack);
  stack->setObjectName("sceneStack");
  stack->addWidget(scene_);
  stack->addWidget(start_);
  auto* empty = new EmptyScene(document_, scene_);
  connect(empty, &EmptyScene::partWanted, this,
          [this](std::size_t kind) { ledger_->openNew(addNew(document_, newKinds(document_, Band::Parts)[kind])); });
  connect(empty, &EmptyScene::geometryWanted, this, [this] { takeGeometryIn(document_, solver_.program(), this); });
  connect(empty, &EmptyScene::demoWanted, this, [this] { openFile(demoFile()); });
  for (const auto& [zone, chapter] :
       std::initializer_list<std::pair<QWidget*, const char*>>{{cases_, "Cases"},
                                                               {ledger_, "Build and change shapes"},
                                                               {scene_, "Look at it"},
                                                               {watches_, "Watch a figure"},
                                                               {strip_, "How long does it take?"},
                                                               {materials_, "Materials and finishes"},
                                                               {parameters_, "Formulas"},
                                                               {surfaces_, "Surfaces"},
                                                               {report_, "Report"},
                                                               {readiness_, "Start"}})
    zone->setProperty("chapter", chapter);
  centre_->addTab(sceneStack, tr("Scene"));
  centre_->addTab(materials_, tr("Materials"));
  centre_->addTab(parameters_, tr("Parameters"));
  centre_->addTab(surfaces_, tr("Surfaces"));
  centre_->addTab(report_, tr("Report"));
  constexpr QSize smallestPage(200, 100); // they scroll or shrink; the window must fit small screens
  for (QWidget* page : std::initializer_list<QWidget*>{start_, materials_, surfaces_, parameters_, report_})
    page->setMinimumSize(smallestPage);
  upper_->addWidget(centre_);
  upper_->addWidget(watches_);
  upper_->setStretchFactor(0, 1);
  down_->addWidget(upper_);
  down_->addWidget(strip_);
  down_->setStretchFactor(0, 1);
  across_->addWidget(down_);
  across_->setStretchFactor(1, 1);
  connect(strip_, &StripPanel::foldedChanged, this, &MainWindow::foldStrip);
  for (QSplitter* splitter : {across_, down_, upper_}) {
    splitter->setHandleWidth(1);
    splitter->setChildrenCollapsible(false);
  }
  layout->addWidget(across_, 1);
  setCentralWidget(body);
  const int unit = fontMetrics().averageCharWidth();
  ledger_->setMinimumWidth(30 * unit);
  watches_->setMinimumWidth(28 * unit);
  status_->setObjectName("status");
  status_->setContentsMargins(8, 0, 0, 0);
  statusBar()->addWidget(status_, 1);
  statusBar()->setSizeGripEnabled(false);
  readiness_->hide();
}

void MainWindow::restoreLayout()
{
  const QSettings settings;
  resize(1280, 800); // the design size
  restoreGeometry(settings.value("geometry").toByteArray());
  stripHeight_ = settings.value("stripHeight", stripHeight_).toInt();
  if (!across_->restoreState(settings.value("ledgerBeside").toByteArray()))
    across_->setSizes({330, 950});
  if (!upper_->restoreState(settings.value("watchesBeside").toByteArray()))
    upper_->setSizes({690, 260});
  foldStrip(strip_->isFolded());
}

/// Folded it is as high as the names of its pages; unfolded as high as it was before.
void MainWindow::foldStrip(bool folded)
{
  const int whole = down_->height();
  const int names = strip_->foldedHeight();
  if (folded && strip_->height() > names)
    stripHeight_ = strip_->isVisible() ? strip_->height() : stripHeight_;
  strip_->setMinimumHeight(folded ? names : fontMetrics().height() * 6);
  strip_->setMaximumHeight(folded ? names : QWIDGETSIZE_MAX);
  const int wanted = folded ? names : stripHeight_;
  down_->setSizes({std::max(whole - wanted, 1), wanted});
}

void MainWindow::applyThemeChoice()
{
  applyTheme(*qApp, preferences_.themeChoice());
  scene_->applyTheme();
  refreshIcons(*this);
  for (QWidget* widget : findChildren<QWidget*>())
    widget->update();
}

void MainWindow::showStart(bool shown)
{
  auto* stack = findChild<QStackedLayout*>("sceneStack");
  if (shown)
    start_->refresh();
  stack->setCurrentIndex(shown ? 1 : 0);
}

/// At the chapter of what has the keyboard.
void MainWindow::openManual()
{
  const QString file = manualFile();
  if (file.isEmpty())
    return statusBar()->showMessage(tr("The manual is not installed beside the program."), 8000);
  auto* manual = new Manual(file, this);
  manual->QDialog::show();
  manual->show(chapterAt(focusWidget()));
}

void MainWindow::copyRows()
{
  const std::string text = document_.copySelected();
  if (text.empty())
    statusBar()->showMessage(tr("Select a row of the ledger first."), 6000);
  else
    QApplication::clipboard()->setText(QString::fromStdString(text));
}

void MainWindow::pasteRows()
{
  if (auto pasted = document_.paste(QApplication::clipboard()->text().toStdString()); !pasted)
    statusBar()->showMessage(inWords(pasted.error()), 8000);
}

void MainWindow::startTour()
{
  new Tour(
      {{cases_, tr("Cases: one chip a run. Click to show one; Solve runs it (F5). Readiness says what is missing.")},
       {ledger_, tr("The ledger is the model: heat in, parts, contacts, surroundings, each with its watts after a "
                    "solve. + adds a row, Enter opens it, Space switches it off.")},
       {centre_, tr("The scene: drag to turn, wheel to zoom, click a face to select its part and to pick the face. "
                    "Materials and parameters are on the other pages.")},
       {watches_, tr("Watches: the figures you care about, each with its limit and margin. Ctrl+Shift+W watches what "
                     "is selected.")},
       {strip_, tr("The strip: numbers of the shown case, ready to copy. Ctrl+K finds any command, F1 opens the "
                   "manual.")}},
      this);
}

void MainWindow::solveShown()
{
  if (hasErrors(document_.findings())) {
    readiness_->hide();
    toggleReadiness();
    return;
  }
  solver_.solve({document_.shownCase()});
}

void MainWindow::solveAll()
{
  std::vector<std::string> ids; // of those whose result is not what it would be
  for (const Case& one : document_.project().cases)
    if (document_.state(one.id).stage != CaseState::Stage::Solved)
      ids.push_back(one.id);
  if (ids.empty())
    return statusBar()->showMessage(tr("Every case is up to date."), 8000);
  solver_.solve(ids);
}

void MainWindow::showSentence(const QString& title, const QString& sentence)
{
  auto* box = new QMessageBox(QMessageBox::Warning, title, sentence, QMessageBox::Ok, this);
  box->setObjectName("sentence");
  box->setAttribute(Qt::WA_DeleteOnClose);
  box->open();
}

void MainWindow::refreshTitle() { setWindowTitle(document_.title() + " – Usual Kiln"); }

void MainWindow::refreshStatus()
{
  const Case* shown = document_.shownCaseObject();
  if (shown == nullptr)
    return status_->clear();
  const CaseState& state = document_.shownState();
  QStringList words{document_.caseAndInstant()};
  if (state.stage == CaseState::Stage::Running)
    words << tr("%1 % · %2").arg(qRound(state.fraction * 100)).arg(state.message);
  if (state.stage == CaseState::Stage::Failed)
    words << tr("failed: %1").arg(state.message);
  if (const auto mesh = document_.shownMesh())
    words << (mesh->tets.empty() ? tr("shapes drawn, not meshed yet (about %1 elements)")
                                       .arg(QString::fromStdString(
                                           countWords(estimateCount(document_.project(), mesh->geometry).elements)))
                                 : tr("mesh of %1").arg(inWords(elementWords(*mesh))));
  if (drafts_.isBusy())
    words << tr("building the shapes …");
  if (state.result) {
    words << tr("heat balance error %1").arg(QString::fromStdString(balanceError(state.result->relativeImbalance())));
    if (!state.outOfDate.isEmpty())
      words << tr("out of date: %1").arg(state.outOfDate);
  }
  status_->setText(words.join(" · "));
  status_->setToolTip(status_->text());
}

void MainWindow::toggleReadiness()
{
  if (!readiness_->isVisible())
    readiness_->refresh();
  readiness_->setVisible(!readiness_->isVisible());
  placeReadiness();
  readiness_->raise();
}

void MainWindow::placeReadiness()
{
  const int width = std::min(this->width() - 40, 70 * fontMetrics().averageCharWidth());
  const QPoint corner = cases_->mapTo(this, QPoint(cases_->width() - width - 8, cases_->height()));
  readiness_->setGeometry(corner.x(), corner.y(), width, std::min(height() / 2, readiness_->heightFor(width)));
}

void MainWindow::revealObject(const QString& id) { ledger_->reveal(id.toStdString()); }

void MainWindow::showFinding(const Finding& finding)
{
  ledger_->reveal(finding.objectId);
  if (!finding.faces.empty())
    document_.lightFaces(finding.faces);
  if (finding.place) {
    centre_->setCurrentIndex(0);
    scene_->pointAt(*finding.place, QString::fromStdString(finding.object));
  }
}

void MainWindow::resizeEvent(QResizeEvent* event)
{
  QMainWindow::resizeEvent(event);
  placeReadiness();
}

} // namespace kiln
