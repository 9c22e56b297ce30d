// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
//
// The menus of the main window; every entry is also a command of the palette.
#include "cases/CaseBar.h"
#include "cases/CaseEditor.h"
#include "cases/SetEditor.h"
#include "ledger/LedgerPanel.h"
#include "ledger/NewObjects.h"
#include "look/Language.h"
#include "model/Edit.h"
#include "pages/MaterialsPage.h"
#include "pages/ParametersPage.h"
#include "pages/SectionDialog.h"
#include "pages/SurfacesPage.h"
#include "report/ReportPage.h"
#include "scene/AxisCross.h"
#include "scene/SceneColoring.h"
#include "scene/ScenePanel.h"
#include "strip/StripPanel.h"
#include "watches/WatchPanel.h"
#include "window/About.h"
#include "window/CommandPalette.h"
#include "window/ImportDialog.h"
#include "window/MainWindow.h"
#include "window/WriteOut.h"

#include <QActionGroup>
#include <QDesktopServices>
#include <QFileDialog>
#include <QMenuBar>
#include <QStatusBar>
#include <QTabWidget>
#include <QUrl>

namespace kiln
{
void MainWindow::buildMenus()
{
  QMenu* file = menuBar()->addMenu(tr("&File"));
  file->addAction(tr("&New"), QKeySequence::New, this, [this] {
    if (mayDiscard())
      document_.startEmpty();
  });
  file->addAction(tr("&Open…"), QKeySequence::Open, this, [this] {
    const QString name =
        QFileDialog::getOpenFileName(this, tr("Open a project"), {}, tr("Projects (*.kiln *.kilnpack)"));
    if (!name.isEmpty() && mayDiscard())
      openFile(name);
  });
  recent_ = file->addMenu(tr("Open &recent"));
  rebuildRecentMenu();
  file->addSeparator();
  file->addAction(tr("New &window"), QKeySequence(Qt::CTRL | Qt::SHIFT | Qt::Key_N), this, [this] { openWindow(); });
  file->addAction(tr("&Save"), QKeySequence::Save, this, [this] { save(); });
  file->addAction(tr("Save &as…"), QKeySequence::SaveAs, this, [this] { saveAs(); });
  file->addSeparator();
  file->addAction(tr("Take in &geometry…"), QKeySequence(Qt::CTRL | Qt::SHIFT | Qt::Key_O), this,
                  [this] { takeGeometryIn(document_, solver_.program(), this); });
  QMenu* again = file->addMenu(tr("&Read geometry again"));
  connect(again, &QMenu::aboutToShow, this, [this, again] {
    again->clear();
    for (const GeometryFile& one : document_.project().files)
      again->addAction(QString::fromStdString(one.name), this, [this, one] { readAgain(one); });
    again->addAction(tr("No file was taken in"))->setVisible(document_.project().files.empty());
  });
  file->addAction(tr("&Write the shapes…"), this, [this] { writeGeometryOut(document_, solver_.program(), this); });
  file->addAction(tr("Write the shown case for other pro&grams…"), QKeySequence(Qt::CTRL | Qt::ALT | Qt::Key_W), this,
                  [this] { exportShownCase(document_, solver_.program(), this); });
  file->addAction(tr("Pac&k the project with its results…"), QKeySequence(Qt::CTRL | Qt::ALT | Qt::Key_K), this,
                  [this] { packProject(document_, solver_.program(), this); });
  file->addAction(tr("Open the folder of resul&ts"), QKeySequence(Qt::CTRL | Qt::ALT | Qt::Key_O), this, [this] {
    std::error_code ignored;
    std::filesystem::create_directories(document_.resultsFolder(), ignored);
    QDesktopServices::openUrl(QUrl::fromLocalFile(QString::fromStdString(document_.resultsFolder().string())));
  });
  file->addSeparator();
  const auto report = [this](auto action) {
    return [this, action] {
      centre_->setCurrentWidget(report_);
      report_->chosenOrNew();
      (report_->*action)();
    };
  };
  file->addAction(tr("Make a re&port…"), QKeySequence(Qt::CTRL | Qt::ALT | Qt::Key_R), this,
                  report(&ReportPage::askForFile));
  file->addAction(tr("Prin&t the report…"), QKeySequence::Print, this, report(&ReportPage::print));
  file->addSeparator();
  file->addAction(tr("&Close the window"), QKeySequence(Qt::CTRL | Qt::Key_W), this, &QWidget::close);
  file->addAction(tr("&Quit"), QKeySequence::Quit, this, &QWidget::close);

  QMenu* edit = menuBar()->addMenu(tr("&Edit"));
  QAction* undo = document_.undoStack().createUndoAction(this, tr("&Undo"));
  undo->setShortcut(QKeySequence::Undo);
  edit->addAction(undo);
  QAction* redo = document_.undoStack().createRedoAction(this, tr("&Redo"));
  redo->setShortcut(QKeySequence::Redo);
  edit->addAction(redo);
  buildEditMenu(*edit);
  edit->addAction(tr("Section mode&l…"), QKeySequence(Qt::CTRL | Qt::SHIFT | Qt::Key_L), this, [this] {
    auto* dialog = new SectionDialog(
        document_, [this](const QString& cut) { openWindow(cut); }, this);
    dialog->setAttribute(Qt::WA_DeleteOnClose);
    dialog->show();
  });

  QMenu* solve = menuBar()->addMenu(tr("&Solve"));
  solve->addAction(tr("Solve the &shown case"), QKeySequence(Qt::Key_F5), this, &MainWindow::solveShown);
  solve->addAction(tr("Solve &all cases"), QKeySequence(Qt::SHIFT | Qt::Key_F5), this, &MainWindow::solveAll);
  QAction* cancel =
      solve->addAction(tr("&Cancel"), QKeySequence(Qt::CTRL | Qt::Key_Period), &solver_, &SolverQueue::cancel);
  cancel->setEnabled(false);
  solve->addAction(tr("Show the &queue"), QKeySequence(Qt::CTRL | Qt::Key_J), this,
                   [this] { strip_->setPage(StripPanel::queuePage); });
  connect(&solver_, &SolverQueue::runningChanged, cancel, [this, cancel] { cancel->setEnabled(solver_.isRunning()); });
  solve->addAction(tr("&Go on from where the run stopped"), QKeySequence(Qt::CTRL | Qt::Key_F5), this,
                   [this] { solver_.goOn(document_.shownCase()); });
  solve->addAction(tr("&End the run now and keep it"), QKeySequence(Qt::CTRL | Qt::Key_E), &solver_,
                   &SolverQueue::endRun);
  solve->addAction(tr("&Readiness"), QKeySequence(Qt::Key_F8), this, &MainWindow::toggleReadiness);
  solve->addAction(tr("&Watch what is selected"), QKeySequence(Qt::CTRL | Qt::SHIFT | Qt::Key_W), watches_,
                   &WatchPanel::addForSelection);
  buildMeshMenu();
  buildViewMenu();
  buildHelpMenu();
}

void MainWindow::buildEditMenu(QMenu& edit)
{
  edit.addSeparator();
  edit.addAction(tr("&Copy rows"), QKeySequence(Qt::CTRL | Qt::SHIFT | Qt::Key_C), this, &MainWindow::copyRows);
  edit.addAction(tr("&Paste rows"), QKeySequence(Qt::CTRL | Qt::SHIFT | Qt::Key_V), this, &MainWindow::pasteRows);
  edit.addAction(tr("&Duplicate"), QKeySequence(Qt::CTRL | Qt::Key_D), &document_, &Document::duplicateSelected);
  edit.addAction(tr("&Delete"), QKeySequence::Delete, &document_, &Document::removeSelected);
  QAction* own = edit.addAction(tr("Edit this &case only"), QKeySequence(Qt::CTRL | Qt::SHIFT | Qt::Key_E), &document_,
                                [this](bool on) { document_.editCaseOnly(on); });
  own->setCheckable(true);
  own->setToolTip(tr("What you set counts in the shown case alone"));
  const auto showScope = [this, own] { own->setChecked(document_.editsCaseOnly()); };
  connect(&document_, &Document::editScopeChanged, own, showScope);
  connect(&document_, &Document::shownCaseChanged, own, showScope);
  edit.addSeparator();
  const std::vector<std::pair<Band, QString>> bands{{Band::Parts, tr("Add a &part")},
                                                    {Band::HeatIn, tr("Add a heat &source")},
                                                    {Band::Surroundings, tr("Add a &boundary")},
                                                    {Band::Contacts, tr("Add an e&nclosure")}};
  for (const auto& [band, title] : bands) {
    QMenu* menu = edit.addMenu(title);
    const std::vector<NewKind> kinds = newKinds(document_, band);
    for (std::size_t i = 0; i < kinds.size(); ++i)
      menu->addAction(kinds[i].label, this, [this, band = band, i] {
        // Made anew: what is selected and how high the model stands changes.
        ledger_->openNew(addNew(document_, newKinds(document_, band)[i]));
      });
  }
  QMenu* draw = edit.addMenu(tr("Dra&w on a face"));
  const std::array drawn{tr("A &rectangle, raised or sunk"), tr("A &circle, raised or sunk"),
                         tr("An &outline, raised or sunk"), tr("&Push a face")};
  const std::array dividing{tr("A rectangle that &divides the face"), tr("A circle that d&ivides the face"),
                            tr("An outline that di&vides the face")};
  for (int i = 0; i < static_cast<int>(drawn.size()); ++i)
    draw->addAction(drawn[static_cast<std::size_t>(i)],
                    QKeySequence(Qt::ALT | Qt::SHIFT | static_cast<Qt::Key>(Qt::Key_1 + i)), scene_,
                    [this, i] { scene_->drawOnFace(i, false); });
  for (int i = 0; i < static_cast<int>(dividing.size()); ++i)
    draw->addAction(dividing[static_cast<std::size_t>(i)],
                    QKeySequence(Qt::ALT | Qt::SHIFT | static_cast<Qt::Key>(Qt::Key_5 + i)), scene_,
                    [this, i] { scene_->drawOnFace(i, true); });
  edit.addAction(tr("Add a p&arameter"), this, [this] {
    centre_->setCurrentWidget(parameters_);
    parameters_->addParameter();
  });
  edit.addAction(tr("Add a ma&terial"), this, [this] {
    centre_->setCurrentWidget(materials_);
    materials_->addMaterial();
  });
  edit.addAction(tr("Add a &case"), this, [this] {
    std::string id;
    document_.edit(tr("Add a case"), [&](Project& project) {
      const Case* shown = findById(project.cases, document_.shownCase());
      id = addObject(project, project.cases, shown != nullptr ? *shown : Case{}, freeName(project, "Case"));
    });
    document_.showCase(id);
  });
  edit.addAction(tr("&Find cases"), QKeySequence(Qt::CTRL | Qt::SHIFT | Qt::Key_F), cases_, &CaseBar::focusFilter);
  edit.addAction(tr("Property &sets…"), QKeySequence(Qt::ALT | Qt::Key_P), this,
                 [this] { editPropertySets(document_, preferences_, this); });
  edit.addAction(tr("Edit the &case…"), QKeySequence(Qt::ALT | Qt::Key_C), this,
                 [this] { editCase(document_, preferences_, document_.shownCase(), this); });
}

void MainWindow::buildHelpMenu()
{
  QMenu* help = menuBar()->addMenu(tr("&Help"));
  help->addAction(tr("&Manual"), QKeySequence(Qt::Key_F1), this, &MainWindow::openManual)->setObjectName("openManual");
  help->addAction(tr("&Keys"), QKeySequence(Qt::CTRL | Qt::Key_F1), this,
                  [this] { showKeySheet(commandsOf(*menuBar()), this); });
  help->addAction(tr("&Find a command"), QKeySequence(Qt::CTRL | Qt::Key_K), this, [this] {
    auto* palette = new CommandPalette(commandsOf(*menuBar()), this);
    palette->setAttribute(Qt::WA_DeleteOnClose);
    palette->show();
  });
  help->addAction(tr("A &tour in two minutes"), this, &MainWindow::startTour);
  help->addAction(tr("&About Usual Kiln"), this, [this] { showAbout(this); });
}

/// Reads a file of geometry again; asks where it is when it has moved.
void MainWindow::readAgain(const GeometryFile& file)
{
  std::filesystem::path path = file.path;
  if (path.is_relative() && !document_.file().empty())
    path = document_.file().parent_path() / path;
  QString name = QString::fromStdString(path.string());
  std::error_code ignored;
  if (!std::filesystem::exists(path, ignored))
    name = QFileDialog::getOpenFileName(this, tr("Where is %1 now?").arg(QString::fromStdString(file.name)));
  if (!name.isEmpty())
    (new ImportDialog(document_, solver_.program(), name, file.id, this))->show();
}

void MainWindow::buildViewMenu()
{
  QMenu* view = menuBar()->addMenu(tr("&View"));
  view->addAction(tr("&Scene"), QKeySequence(Qt::ALT | Qt::Key_1), this, [this] { centre_->setCurrentIndex(0); });
  view->addAction(tr("&Materials"), QKeySequence(Qt::ALT | Qt::Key_2), this, [this] { centre_->setCurrentIndex(1); });
  view->addAction(tr("&Parameters"), QKeySequence(Qt::ALT | Qt::Key_3), this,
                  [this] { centre_->setCurrentWidget(parameters_); });
  view->addAction(tr("S&urfaces and finishes"), QKeySequence(Qt::ALT | Qt::Key_4), this,
                  [this] { centre_->setCurrentWidget(surfaces_); });
  view->addAction(tr("Rep&ort"), QKeySequence(Qt::ALT | Qt::Key_5), this,
                  [this] { centre_->setCurrentWidget(report_); });
  view->addAction(tr("&Ledger"), QKeySequence(Qt::ALT | Qt::Key_L), ledger_, &LedgerPanel::focusRows);
  QMenu* pages = view->addMenu(tr("Pages of the stri&p"));
  const QStringList names = strip_->pageNames();
  for (int i = 0; i < names.size(); ++i)
    pages->addAction(names[i], QKeySequence(Qt::CTRL | Qt::SHIFT | static_cast<Qt::Key>(Qt::Key_F1 + i)), this,
                     [this, i] { strip_->setPage(i); });
  view->addAction(tr("Fold or unfold the strip"), QKeySequence(Qt::ALT | Qt::Key_T), strip_, &StripPanel::toggleFolded);
  view->addSeparator();
  QMenu* colours = view->addMenu(tr("C&olours show"));
  const QStringList shown = shownNames();
  for (int i = 0; i < shown.size(); ++i)
    colours->addAction(shown[i], QKeySequence(Qt::CTRL | Qt::Key_G, static_cast<Qt::Key>(Qt::Key_A + i)), this,
                       [this, i] { scene_->setColorBy(i); });
  SceneCanvas& canvas = scene_->canvas();
  view->addAction(tr("&Fit"), QKeySequence(Qt::CTRL | Qt::Key_0), &canvas, &SceneCanvas::fit);
  view->addAction(tr("From the &corner"), QKeySequence(Qt::CTRL | Qt::ALT | Qt::Key_0), &canvas,
                  &SceneCanvas::lookFromCorner);
  QMenu* sides = view->addMenu(tr("Straight at a s&ide"));
  const std::array sideNames{tr("&Right"), tr("&Left"), tr("&Back"), tr("&Front"), tr("&Top"), tr("B&ottom")};
  for (int i = 0; i < 6; ++i)
    sides->addAction(sideNames[static_cast<std::size_t>(i)],
                     QKeySequence(Qt::CTRL | Qt::ALT | static_cast<Qt::Key>(Qt::Key_1 + i)), this,
                     [&canvas, i] { lookFromSide(canvas, i / 2, i % 2 == 0); });
  const std::array cuts{tr("Cut open in &x"), tr("Cut open in &y"), tr("Cut open in &z")};
  for (int axis = 0; axis < 3; ++axis)
    view->addAction(cuts[static_cast<std::size_t>(axis)],
                    QKeySequence(Qt::CTRL | Qt::ALT | static_cast<Qt::Key>(Qt::Key_X + axis)), this,
                    [this, axis] { scene_->setSection(axis, 0.5); });
  view->addAction(tr("C&lose the cuts"), QKeySequence(Qt::CTRL | Qt::ALT | Qt::Key_C), this,
                  [this] { scene_->setSection(-1, 0.5); });
  view->addAction(tr("Pict&ure: palette, lines, levels, cuts, views"), QKeySequence(Qt::CTRL | Qt::Key_L), scene_,
                  &ScenePanel::toggleLook);
  view->addAction(tr("Save the pictur&e…"), QKeySequence(Qt::CTRL | Qt::ALT | Qt::Key_P), scene_,
                  &ScenePanel::askForPicture);
  view->addAction(tr("Pi&n a label"), QKeySequence(Qt::CTRL | Qt::ALT | Qt::Key_L), scene_, &ScenePanel::pinLabel);
  QMenu* kept = view->addMenu(tr("&Views of the project"));
  for (int i = 0; i < 9; ++i) {
    QAction* show = kept->addAction(QString(), QKeySequence(Qt::CTRL | static_cast<Qt::Key>(Qt::Key_1 + i)), this,
                                    [this, i] { scene_->showView(i); });
    const auto name = [this, show, i] {
      const auto& views = document_.project().views;
      const bool there = static_cast<std::size_t>(i) < views.size();
      show->setText(there ? QString::fromStdString(views[static_cast<std::size_t>(i)].name) : tr("View %1").arg(i + 1));
      show->setVisible(there);
    };
    connect(&document_, &Document::projectChanged, show, name);
    name();
  }
  const auto compare = [&](const QString& text, const QKeySequence& keys, ScenePanel::Compare how) {
    QAction* action = view->addAction(text, keys, this,
                                      [this, how](bool on) { scene_->compare(on ? how : ScenePanel::Compare::Alone); });
    action->setCheckable(true);
    connect(scene_, &ScenePanel::compareChanged, action,
            [this, action, how] { action->setChecked(scene_->comparing() == how); });
  };
  compare(tr("The compared case &beside"), QKeySequence(Qt::CTRL | Qt::Key_B), ScenePanel::Compare::Beside);
  compare(tr("The compared case behind a &line"), QKeySequence(Qt::CTRL | Qt::ALT | Qt::Key_B),
          ScenePanel::Compare::Wipe);
  view->addAction(tr("&Difference to the compared case"), QKeySequence(Qt::CTRL | Qt::SHIFT | Qt::Key_B), this,
                  [this] { scene_->setColorBy(static_cast<int>(Shown::Difference)); });
  view->addSeparator();
  const auto look = [this](PartLook wanted) { scene_->setPartLook(document_.selectedId(), wanted); };
  view->addAction(tr("&Hide the selected part"), QKeySequence(Qt::CTRL | Qt::Key_H), this,
                  [=] { look(PartLook::Hidden); });
  view->addAction(tr("See &through the selected part"), QKeySequence(Qt::CTRL | Qt::Key_T), this,
                  [=] { look(PartLook::SeeThrough); });
  view->addAction(tr("&Isolate the selected part"), QKeySequence(Qt::CTRL | Qt::Key_I), scene_,
                  &ScenePanel::isolateSelected);
  view->addAction(tr("Arrows that &move the selected part"), QKeySequence(Qt::CTRL | Qt::Key_M), scene_,
                  &ScenePanel::toggleHandles);
  view->addAction(tr("&Streamlines from the hottest place"), QKeySequence(Qt::CTRL | Qt::ALT | Qt::Key_H), scene_,
                  &ScenePanel::streamFromHottest);
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
  choices(
      view->addMenu(tr("&Quantity units")), preferences_.unitSet(),
      std::vector<std::pair<QString, UnitSet>>{{tr("SI with prefixes: mm, kW, kW/m², h and min"), UnitSet::Prefixed},
                                               {tr("SI: m, W, W/m², s"), UnitSet::Plain},
                                               {tr("Inch and pound: in, Btu/h, Btu/(h·ft²)"), UnitSet::InchPound}},
      [this](UnitSet set) { preferences_.setUnitSet(set); });
  choices(view->addMenu(tr("&Look")), preferences_.themeChoice(),
          std::vector<std::pair<QString, ThemeChoice>>{{tr("As the system"), ThemeChoice::System},
                                                       {tr("Light"), ThemeChoice::Light},
                                                       {tr("Dark"), ThemeChoice::Dark}},
          [this](ThemeChoice choice) { preferences_.setThemeChoice(choice); });
  std::vector<std::pair<QString, QString>> spoken{{tr("As the system"), ""}};
  for (const auto& [code, name] : languages())
    spoken.emplace_back(name, code);
  choices(view->addMenu(tr("Lan&guage")), chosenLanguage(), spoken, [this](const QString& code) {
    chooseLanguage(code);
    statusBar()->showMessage(tr("The program speaks it from its next start."), 8000);
  });
}

} // namespace kiln
