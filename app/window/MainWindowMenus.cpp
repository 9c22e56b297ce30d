// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
//
// The menus of the main window; every entry is also a command of the palette.
#include "cases/CaseBar.h"
#include "cases/CaseEditor.h"
#include "cases/SetEditor.h"
#include "fields/QuantityField.h"
#include "ledger/LedgerPanel.h"
#include "ledger/NewObjects.h"
#include "mesh/CountEstimate.h"
#include "mesh/MeshQuality.h"
#include "model/Edit.h"
#include "pages/MaterialsPage.h"
#include "pages/ParametersPage.h"
#include "pages/SectionDialog.h"
#include "pages/SurfacesPage.h"
#include "readiness/Effort.h"
#include "results/Figures.h"
#include "scene/AxisCross.h"
#include "scene/SceneColoring.h"
#include "scene/ScenePanel.h"
#include "strip/StripPanel.h"
#include "watches/WatchPanel.h"
#include "window/CommandPalette.h"
#include "window/ImportDialog.h"
#include "window/LargeModels.h"
#include "window/MainWindow.h"

#include <QActionGroup>
#include <QFileDialog>
#include <QHBoxLayout>
#include <QInputDialog>
#include <QLabel>
#include <QLineEdit>
#include <QMenuBar>
#include <QTabWidget>
#include <QWidgetAction>

namespace kiln
{
namespace
{

/// How many elements the sizes as they are now will give, beside what is there.
QString countText(const Document& document)
{
  const auto words = [](double count) { return QString::fromStdString(countWords(count)); };
  const auto mesh = document.shownMesh();
  if (!mesh)
    return MainWindow::tr("The shapes are not built yet");
  const double next = estimateCount(document.project(), mesh->geometry).elements;
  const QString about = mesh->geometry.section.is() ? MainWindow::tr("About %1 triangles by these sizes")
                                                    : MainWindow::tr("About %1 tetrahedra by these sizes");
  return about.arg(words(next)) +
         MainWindow::tr(", %1 to solve")
             .arg(QString::fromStdString(memoryWords(memoryToSolve(next, document.project().mesh.secondOrder)))) +
         (mesh->tets.empty() ? QString()
                             : MainWindow::tr("; now %1").arg(words(static_cast<double>(countElements(*mesh)))));
}

void addMeshCount(QMenu& menu, const Document& document)
{
  auto* count = new QLabel;
  count->setObjectName("meshCount");
  count->setProperty("role", "quiet");
  count->setContentsMargins(24, 2, 8, 4);
  count->setToolTip(MainWindow::tr("From areas, volumes and sizes, before anything is meshed: within a factor of two"));
  const auto show = [count, &document] { count->setText(countText(document)); };
  QObject::connect(&menu, &QMenu::aboutToShow, count, show);
  QObject::connect(&document, &Document::projectChanged, count, [count, show] {
    if (count->isVisible())
      show();
  });
  auto* action = new QWidgetAction(&menu);
  action->setDefaultWidget(count);
  menu.addAction(action);
}

} // namespace

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
  file->addSeparator();
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
  solve->addAction(tr("&How sure? Solve on three meshes"), QKeySequence(Qt::Key_F7), this,
                   [this] { solver_.askHowSure(document_.shownCase()); });
  solve->addAction(tr("&Refine the mesh where it matters…"), QKeySequence(Qt::CTRL | Qt::Key_F7), this,
                   &MainWindow::refineShown);
  auto* forget = solve->addAction(tr("Fo&rget the refinement"), this, [this] {
    document_.edit(tr("Forget the refinement"), [](Project& project) { project.mesh.finerAt = {}; });
  });
  forget->setObjectName("forgetRefinement");
  const auto showForget = [this, forget] { forget->setEnabled(!document_.project().mesh.finerAt.empty()); };
  connect(&document_, &Document::projectChanged, forget, showForget);
  showForget();
  solve->addSeparator();
  auto* second = solve->addAction(tr("Elements of &second order"), this, [this](bool on) {
    document_.edit(tr("Order of elements"), [on](Project& project) { project.mesh.secondOrder = on; });
  });
  second->setCheckable(true);
  second->setObjectName("secondOrder");
  second->setToolTip(tr("With nodes on the edges: for answers that count. First order is a quick look."));
  const auto showOrder = [this, second] { second->setChecked(document_.project().mesh.secondOrder); };
  connect(&document_, &Document::projectChanged, second, showOrder);
  showOrder();
  addMeshFields(*solve);
  addWorstTets(*solve);
  solve->addAction(tr("Ask &before large models…"), this, [this] { chooseLargeModels(preferences_, this); })
      ->setObjectName("largeModels");
  solve->addAction(tr("&Mesh only"), QKeySequence(Qt::Key_F6), &solver_, &SolverQueue::prepare);
  solve->addAction(tr("&Readiness"), QKeySequence(Qt::Key_F8), this, &MainWindow::toggleReadiness);
  solve->addAction(tr("&Watch what is selected"), QKeySequence(Qt::CTRL | Qt::Key_W), watches_,
                   &WatchPanel::addForSelection);
  buildViewMenu();
  buildHelpMenu();
}

void MainWindow::buildEditMenu(QMenu& edit)
{
  edit.addSeparator();
  edit.addAction(tr("&Copy rows"), QKeySequence(Qt::CTRL | Qt::SHIFT | Qt::Key_C), this, &MainWindow::copyRows);
  edit.addAction(tr("&Paste rows"), QKeySequence(Qt::CTRL | Qt::SHIFT | Qt::Key_V), this, &MainWindow::pasteRows);
  edit.addAction(tr("&Duplicate"), QKeySequence(Qt::CTRL | Qt::Key_D), &document_, &Document::duplicateSelected);
  edit.addAction(tr("Re&move"), QKeySequence(Qt::CTRL | Qt::Key_Delete), &document_, &Document::removeSelected);
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
  help->addAction(tr("&Manual"), QKeySequence(Qt::Key_F1), this, &MainWindow::openManual);
  help->addAction(tr("&Keys"), QKeySequence(Qt::CTRL | Qt::Key_F1), this,
                  [this] { showKeySheet(commandsOf(*menuBar()), this); });
  help->addAction(tr("&Find a command"), QKeySequence(Qt::CTRL | Qt::Key_K), this, [this] {
    auto* palette = new CommandPalette(commandsOf(*menuBar()), this);
    palette->setAttribute(Qt::WA_DeleteOnClose);
    palette->show();
  });
  help->addAction(tr("A &tour in two minutes"), this, &MainWindow::startTour);
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

void MainWindow::refineShown()
{
  bool given = false;
  const QString within = QInputDialog::getText(
      this, tr("Refine the mesh"), tr("Until the hottest place moves by less than (kelvin, or a share of the rise)"),
      QLineEdit::Normal, "1 K", &given);
  if (!given)
    return;
  const bool percent = within.trimmed().endsWith('%');
  const auto read =
      parseQuantity(within.trimmed().toStdString(), percent ? Quantity::Plain : Quantity::TemperatureStep);
  if (!read || read->si <= 0)
    return showSentence(tr("Refine the mesh"), read ? tr("It must be more than nothing, for example 1 K or 1 %.")
                                                    : QString::fromStdString(read.error().sentence()));
  solver_.refine(document_.shownCase(), within.trimmed());
}

/// What the mesh goes by, edited in the menu itself; empty: chosen from the parts.
void MainWindow::addMeshFields(QMenu& menu)
{
  addMeshField(menu, tr("Mesh size"), "size", Quantity::Length, &MeshSettings::size);
  addMeshField(menu, tr("Finer by"), "fineness", Quantity::Plain, &MeshSettings::fineness);
  addMeshField(menu, tr("Elements through walls"), "acrossWalls", Quantity::Plain, &MeshSettings::acrossWalls);
  addMeshCount(menu, document_);
}

/// The flattest tetrahedra of the shown mesh; one leads to its place.
void MainWindow::addWorstTets(QMenu& menu)
{
  QMenu* worst = menu.addMenu(tr("Flattest tetrahedra"));
  worst->setObjectName("worstTets");
  connect(worst, &QMenu::aboutToShow, this, [this, worst] {
    worst->clear();
    const auto mesh = document_.shownMesh();
    constexpr std::size_t most = 10;
    for (const std::size_t tet : mesh ? flattestTets(*mesh, most) : std::vector<std::size_t>{}) {
      const GeometryPart& part = mesh->geometry.parts[static_cast<std::size_t>(mesh->tetPart[tet])];
      const Vec3 place = tetMiddle(*mesh, tet);
      const QString angle =
          QString::fromStdString(formatQuantity(smallestDihedral(*mesh, tet), Quantity::Angle, {}, 3));
      const QString where = QString::fromStdString(part.name + ", " + placeWords(part, place));
      worst->addAction(angle + "   " + where, this, [this, place, angle] {
        centre_->setCurrentIndex(0);
        scene_->setColorBy(static_cast<int>(Shown::MeshQuality));
        scene_->pointAt(place, tr("smallest angle %1").arg(angle));
      });
    }
    if (worst->isEmpty())
      worst->addAction(tr("Not meshed yet"))->setEnabled(false);
  });
}

void MainWindow::addMeshField(QMenu& menu, const QString& text, const std::string& key, Quantity quantity,
                              std::optional<Number> MeshSettings::*member)
{
  auto* body = new QWidget;
  auto* row = new QHBoxLayout(body);
  row->setContentsMargins(24, 2, 8, 2);
  auto* field = new QuantityField(quantity, Range::Positive);
  field->setObjectName("field:mesh." + QString::fromStdString(key));
  field->setAccessibleName(text);
  field->setOptional(true);
  auto* label = new QLabel(text);
  label->setBuddy(field);
  row->addWidget(label, 1);
  row->addWidget(field);
  auto* message = new QLabel;
  message->setProperty("role", "bad");
  row->addWidget(message);
  const auto show = [this, field, member] {
    field->setNumber(document_.project().mesh.*member);
    field->setPlaceholderText(tr("automatic"));
  };
  connect(field, &QuantityField::said, message,
          [message](const QString& sentence, bool wrong) { message->setText(wrong ? sentence : QString()); });
  connect(field, &QuantityField::committed, this,
          [this, key](const Number& number) { document_.setNumber("mesh." + key, number); });
  connect(field, &QuantityField::cleared, this, [this, text, member] {
    document_.edit(tr("%1 automatic").arg(text), [member](Project& project) { (project.mesh.*member).reset(); });
  });
  connect(&document_, &Document::projectChanged, field, show);
  show();
  auto* action = new QWidgetAction(&menu);
  action->setDefaultWidget(body);
  menu.addAction(action);
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
  view->addAction(tr("&Ledger"), QKeySequence(Qt::ALT | Qt::Key_L), ledger_, &LedgerPanel::focusRows);
  view->addSeparator();
  SceneCanvas& canvas = scene_->canvas();
  view->addAction(tr("&Fit"), QKeySequence(Qt::CTRL | Qt::Key_0), &canvas, &SceneCanvas::fit);
  view->addAction(tr("From the &corner"), QKeySequence(Qt::CTRL | Qt::ALT | Qt::Key_0), &canvas,
                  &SceneCanvas::lookFromCorner);
  QMenu* sides = view->addMenu(tr("Straight at a s&ide"));
  const std::array names{tr("&Right"), tr("&Left"), tr("&Back"), tr("&Front"), tr("&Top"), tr("B&ottom")};
  for (int i = 0; i < 6; ++i)
    sides->addAction(names[static_cast<std::size_t>(i)],
                     QKeySequence(Qt::CTRL | Qt::ALT | static_cast<Qt::Key>(Qt::Key_1 + i)), this,
                     [&canvas, i] { lookFromSide(canvas, i / 2, i % 2 == 0); });
  view->addAction(tr("&Cut open in y"), QKeySequence(Qt::CTRL | Qt::ALT | Qt::Key_Y), this,
                  [this] { scene_->setSection(1, 0.5); });
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

} // namespace kiln
