// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "window/MainWindow.h"

#include "cases/CaseBar.h"
#include "fields/QuantityField.h"
#include "ledger/LedgerPanel.h"
#include "scene/ScenePanel.h"
#include "strip/StripPanel.h"
#include "watches/WatchPanel.h"
#include "window/ReadinessList.h"

#include <QActionGroup>
#include <QApplication>
#include <QCloseEvent>
#include <QFileDialog>
#include <QHBoxLayout>
#include <QLabel>
#include <QMenuBar>
#include <QMessageBox>
#include <QMimeData>
#include <QSettings>
#include <QSplitter>
#include <QStatusBar>
#include <QVBoxLayout>
#include <QWidgetAction>

namespace kiln
{

MainWindow::MainWindow(QWidget* parent)
    : QMainWindow(parent), solver_(document_), drafts_(document_), cases_(new CaseBar(document_, preferences_)),
      ledger_(new LedgerPanel(document_, preferences_)), scene_(new ScenePanel(document_, preferences_)),
      watches_(new WatchPanel(document_, preferences_)), strip_(new StripPanel(document_, preferences_)),
      readiness_(new ReadinessList(document_, this)), across_(new QSplitter(Qt::Horizontal)),
      down_(new QSplitter(Qt::Vertical)), status_(new QLabel)
{
  buildZones();
  buildMenus();
  setAcceptDrops(true);
  connect(&document_, &Document::fileChanged, this, &MainWindow::refreshTitle);
  connect(&document_, &Document::projectChanged, this, &MainWindow::refreshTitle);
  connect(&document_, &Document::caseStateChanged, this, [this] { refreshStatus(); });
  connect(&document_, &Document::shownCaseChanged, this, &MainWindow::refreshStatus);
  connect(&document_, &Document::resultChanged, this, &MainWindow::refreshStatus);
  connect(&solver_, &SolverProcess::runningChanged, this, [this] { cases_->setRunning(solver_.isRunning()); });
  connect(&solver_, &SolverProcess::failed, this,
          [this](const QString& sentence) { statusBar()->showMessage(sentence, 15000); });
  connect(cases_, &CaseBar::solveWanted, this, &MainWindow::solveShown);
  connect(cases_, &CaseBar::cancelWanted, &solver_, &SolverProcess::cancel);
  connect(cases_, &CaseBar::readinessWanted, this, &MainWindow::toggleReadiness);
  connect(readiness_, &ReadinessList::wanted, this, &MainWindow::showFinding);
  connect(&preferences_, &Preferences::themeChanged, this, &MainWindow::applyThemeChoice);
  connect(&preferences_, &Preferences::recentChanged, this, &MainWindow::rebuildRecentMenu);
  restoreLayout();
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
  across_->addWidget(scene_);
  across_->addWidget(watches_);
  across_->setStretchFactor(1, 1);
  down_->addWidget(across_);
  down_->addWidget(strip_);
  down_->setStretchFactor(0, 1);
  for (QSplitter* splitter : {across_, down_}) {
    splitter->setHandleWidth(1);
    splitter->setChildrenCollapsible(false);
  }
  layout->addWidget(down_, 1);
  setCentralWidget(body);
  const int unit = fontMetrics().averageCharWidth();
  ledger_->setMinimumWidth(34 * unit);
  watches_->setMinimumWidth(30 * unit);
  strip_->setMinimumHeight(fontMetrics().height() * 4);
  status_->setObjectName("status");
  statusBar()->addWidget(status_, 1);
  statusBar()->setSizeGripEnabled(false);
  readiness_->hide();
}

void MainWindow::buildMenus()
{
  QMenu* file = menuBar()->addMenu(tr("&File"));
  file->addAction(tr("&New"), QKeySequence::New, this, [this] {
    if (mayDiscard())
      document_.startEmpty();
  });
  file->addAction(tr("&Open…"), QKeySequence::Open, this, [this] {
    const QString name = QFileDialog::getOpenFileName(this, tr("Open a project"), {}, tr("Projects (*.kiln)"));
    if (!name.isEmpty() && mayDiscard())
      openFile(name);
  });
  recent_ = file->addMenu(tr("Open &recent"));
  rebuildRecentMenu();
  file->addSeparator();
  file->addAction(tr("&Save"), QKeySequence::Save, this, [this] { save(); });
  file->addAction(tr("Save &as…"), QKeySequence::SaveAs, this, [this] { saveAs(); });
  file->addSeparator();
  file->addAction(tr("&Quit"), QKeySequence::Quit, this, &QWidget::close);

  QMenu* edit = menuBar()->addMenu(tr("&Edit"));
  QAction* undo = document_.undoStack().createUndoAction(this, tr("&Undo"));
  undo->setShortcut(QKeySequence::Undo);
  edit->addAction(undo);
  QAction* redo = document_.undoStack().createRedoAction(this, tr("&Redo"));
  redo->setShortcut(QKeySequence::Redo);
  edit->addAction(redo);

  QMenu* solve = menuBar()->addMenu(tr("&Solve"));
  solve->addAction(tr("Solve the &shown case"), QKeySequence(Qt::Key_F5), this, &MainWindow::solveShown);
  solve->addAction(tr("Solve &all cases"), QKeySequence(Qt::SHIFT | Qt::Key_F5), this, &MainWindow::solveAll);
  QAction* cancel =
      solve->addAction(tr("&Cancel"), QKeySequence(Qt::CTRL | Qt::Key_Period), &solver_, &SolverProcess::cancel);
  cancel->setEnabled(false);
  connect(&solver_, &SolverProcess::runningChanged, cancel,
          [this, cancel] { cancel->setEnabled(solver_.isRunning()); });
  solve->addSeparator();
  addMeshSizeField(*solve);
  solve->addAction(tr("&Mesh only"), QKeySequence(Qt::Key_F6), &solver_, &SolverProcess::prepare);
  solve->addAction(tr("&Readiness"), QKeySequence(Qt::Key_F8), this, &MainWindow::toggleReadiness);
  solve->addAction(tr("&Watch what is selected"), QKeySequence(Qt::CTRL | Qt::Key_W), watches_,
                   &WatchPanel::addForSelection);
  buildViewMenu();
}

/// The global mesh size, edited in the menu itself; empty: chosen from the parts.
void MainWindow::addMeshSizeField(QMenu& menu)
{
  auto* body = new QWidget;
  auto* row = new QHBoxLayout(body);
  row->setContentsMargins(24, 2, 8, 2);
  auto* field = new QuantityField(Quantity::Length, Range::Positive);
  field->setObjectName("field:mesh.size");
  field->setAccessibleName(tr("Mesh size"));
  field->setOptional(true);
  auto* label = new QLabel(tr("Mesh size"));
  label->setBuddy(field);
  row->addWidget(label);
  row->addWidget(field);
  auto* message = new QLabel;
  message->setProperty("role", "bad");
  row->addWidget(message);
  const auto show = [this, field] {
    field->setNumber(document_.project().mesh.size);
    field->setPlaceholderText(tr("automatic"));
  };
  connect(field, &QuantityField::said, message,
          [message](const QString& sentence, bool wrong) { message->setText(wrong ? sentence : QString()); });
  connect(field, &QuantityField::committed, this,
          [this](const Number& number) { document_.setNumber("mesh.size", number); });
  connect(field, &QuantityField::cleared, this,
          [this] { document_.edit(tr("Automatic mesh size"), [](Project& project) { project.mesh.size.reset(); }); });
  connect(&document_, &Document::projectChanged, field, show);
  show();
  auto* action = new QWidgetAction(&menu);
  action->setDefaultWidget(body);
  menu.addAction(action);
}

void MainWindow::buildViewMenu()
{
  QMenu* view = menuBar()->addMenu(tr("&View"));
  SceneCanvas& canvas = scene_->canvas();
  view->addAction(tr("&Fit"), QKeySequence(Qt::CTRL | Qt::Key_0), &canvas, &SceneCanvas::fit);
  view->addAction(tr("From the &corner"), QKeySequence(Qt::CTRL | Qt::Key_1), &canvas, &SceneCanvas::lookFromCorner);
  view->addAction(tr("From the f&ront"), QKeySequence(Qt::CTRL | Qt::Key_2), this,
                  [&] { canvas.lookAlong(Vec3(0, 1, 0), Vec3(0, 0, 1)); });
  view->addAction(tr("From the ri&ght"), QKeySequence(Qt::CTRL | Qt::Key_3), this,
                  [&] { canvas.lookAlong(Vec3(-1, 0, 0), Vec3(0, 0, 1)); });
  view->addAction(tr("From &above"), QKeySequence(Qt::CTRL | Qt::Key_4), this,
                  [&] { canvas.lookAlong(Vec3(0, 0, -1), Vec3(0, 1, 0)); });
  view->addAction(tr("&Cut open in y"), QKeySequence(Qt::CTRL | Qt::Key_5), this,
                  [this] { scene_->setSection(1, 0.5); });
  view->addAction(tr("C&lose the cut"), QKeySequence(Qt::CTRL | Qt::Key_6), this,
                  [this] { scene_->setSection(-1, 0.5); });
  view->addSeparator();
  const auto look = [this](PartLook wanted) { scene_->setPartLook(document_.selectedId(), wanted); };
  view->addAction(tr("&Hide the selected part"), QKeySequence(Qt::CTRL | Qt::Key_H), this,
                  [=] { look(PartLook::Hidden); });
  view->addAction(tr("See &through the selected part"), QKeySequence(Qt::CTRL | Qt::Key_T), this,
                  [=] { look(PartLook::SeeThrough); });
  view->addAction(tr("&Isolate the selected part"), QKeySequence(Qt::CTRL | Qt::Key_I), scene_,
                  &ScenePanel::isolateSelected);
  view->addAction(tr("Show all &parts"), QKeySequence(Qt::CTRL | Qt::SHIFT | Qt::Key_H), scene_,
                  &ScenePanel::showAllParts);
  view->addSeparator();
  const auto choices = [&](QMenu* menu, auto current, auto entries, auto apply) {
    auto* group = new QActionGroup(menu);
    for (const auto& [name, value] : entries) {
      QAction* action = menu->addAction(name, this, [apply, value = value] { apply(value); });
      action->setCheckable(true);
      action->setChecked(value == current);
      group->addAction(action);
    }
  };
  choices(view->addMenu(tr("Temperature &unit")), preferences_.temperatureUnit(),
          std::vector<std::pair<QString, TemperatureUnit>>{
              {"°C", TemperatureUnit::Celsius}, {"K", TemperatureUnit::Kelvin}, {"°F", TemperatureUnit::Fahrenheit}},
          [this](TemperatureUnit unit) { preferences_.setTemperatureUnit(unit); });
  choices(view->addMenu(tr("&Look")), preferences_.themeChoice(),
          std::vector<std::pair<QString, ThemeChoice>>{{tr("As the system"), ThemeChoice::System},
                                                       {tr("Light"), ThemeChoice::Light},
                                                       {tr("Dark"), ThemeChoice::Dark}},
          [this](ThemeChoice choice) { preferences_.setThemeChoice(choice); });
}

void MainWindow::rebuildRecentMenu()
{
  recent_->clear();
  for (const QString& file : preferences_.recentFiles())
    recent_->addAction(file, this, [this, file] {
      if (mayDiscard())
        openFile(file);
    });
  recent_->setEnabled(!recent_->isEmpty());
}

void MainWindow::restoreLayout()
{
  const QSettings settings;
  resize(1280, 800); // the design size
  restoreGeometry(settings.value("geometry").toByteArray());
  if (!across_->restoreState(settings.value("across").toByteArray()))
    across_->setSizes({290, 730, 260});
  if (!down_->restoreState(settings.value("down").toByteArray()))
    down_->setSizes({560, 160});
}

void MainWindow::applyThemeChoice()
{
  applyTheme(*qApp, preferences_.themeChoice());
  scene_->applyTheme();
  for (QWidget* widget : findChildren<QWidget*>())
    widget->update();
}

bool MainWindow::openFile(const QString& file)
{
  solver_.cancel();
  if (auto opened = document_.open(file.toStdString()); !opened) {
    showSentence(tr("Not opened"), QString::fromStdString(opened.error().sentence()));
    return false;
  }
  preferences_.addRecentFile(QString::fromStdString(document_.file().string()));
  return true;
}

bool MainWindow::save()
{
  if (document_.file().empty())
    return saveAs();
  if (auto saved = document_.save(); !saved) {
    showSentence(tr("Not saved"), QString::fromStdString(saved.error().sentence()));
    return false;
  }
  return true;
}

bool MainWindow::saveAs()
{
  QString name = QFileDialog::getSaveFileName(
      this, tr("Save the project"), QString::fromStdString(document_.file().string()), tr("Projects (*.kiln)"));
  if (name.isEmpty())
    return false;
  if (!name.endsWith(".kiln"))
    name += ".kiln";
  if (auto saved = document_.saveAs(name.toStdString()); !saved) {
    showSentence(tr("Not saved"), QString::fromStdString(saved.error().sentence()));
    return false;
  }
  preferences_.addRecentFile(name);
  return true;
}

bool MainWindow::mayDiscard()
{
  if (document_.undoStack().isClean())
    return true;
  const auto answer = QMessageBox::question(
      this, tr("Unsaved changes"),
      tr("“%1” has changes that are not saved.").arg(QString::fromStdString(document_.project().name)),
      QMessageBox::Save | QMessageBox::Discard | QMessageBox::Cancel);
  return answer == QMessageBox::Discard || (answer == QMessageBox::Save && save());
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
  std::vector<std::string> ids;
  for (const Case& one : document_.project().cases)
    ids.push_back(one.id);
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
  QStringList words{QString::fromStdString(shown->name) + tr(", steady")};
  if (state.stage == CaseState::Stage::Running)
    words << tr("%1 % · %2").arg(qRound(state.fraction * 100)).arg(state.message);
  if (state.stage == CaseState::Stage::Failed)
    words << tr("failed: %1").arg(state.message);
  if (const auto mesh = document_.shownMesh())
    words << tr("mesh %1 k tets, first order: a quick look").arg(qRound(static_cast<double>(mesh->tets.size()) / 1000));
  if (state.result) {
    words << tr("energy closes to %1").arg(state.result->relativeImbalance(), 0, 'e', 0);
    if (!state.outOfDate.isEmpty())
      words << tr("out of date: %1").arg(state.outOfDate);
  }
  status_->setText(words.join(" · "));
  status_->setToolTip(status_->text());
}

void MainWindow::toggleReadiness()
{
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
}

void MainWindow::closeEvent(QCloseEvent* event)
{
  if (!mayDiscard()) {
    event->ignore();
    return;
  }
  QSettings settings;
  settings.setValue("geometry", saveGeometry());
  settings.setValue("across", across_->saveState());
  settings.setValue("down", down_->saveState());
  event->accept();
}

void MainWindow::dragEnterEvent(QDragEnterEvent* event)
{
  if (event->mimeData()->hasUrls())
    event->acceptProposedAction();
}

void MainWindow::dropEvent(QDropEvent* event)
{
  const QList<QUrl> urls = event->mimeData()->urls();
  if (!urls.isEmpty() && mayDiscard())
    openFile(urls.first().toLocalFile());
}

void MainWindow::resizeEvent(QResizeEvent* event)
{
  QMainWindow::resizeEvent(event);
  placeReadiness();
}

} // namespace kiln
