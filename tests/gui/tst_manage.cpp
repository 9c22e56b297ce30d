// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
//
// Keeping a model in order: surfaces, finishes and cases by hand, values from points, gaps, and a program that is
// killed with changes unsaved.
#include "../TestProjects.h"
#include "WindowDriver.h"
#include "cases/CaseChip.h"
#include "cases/CaseEditor.h"
#include "fields/QuantityField.h"
#include "io/ProjectFile.h"
#include "look/Theme.h"
#include "pages/MaterialsPage.h"
#include "pages/ParametersPage.h"
#include "pages/SurfacesPage.h"
#include "scene/Legend.h"
#include "scene/ScenePanel.h"
#include "strip/StripPanel.h"
#include "window/Application.h"
#include "window/ReadinessList.h"

#include <QClipboard>
#include <QComboBox>
#include <QDir>
#include <QLabel>
#include <QLineEdit>
#include <QListWidget>
#include <QProcess>
#include <QPushButton>
#include <QStandardPaths>
#include <QTabBar>
#include <QTabWidget>
#include <QTableWidget>
#include <QToolButton>
#include <QTreeWidget>
#include <csignal>

using namespace kiln;
using namespace kiln::test;

namespace
{

constexpr const char* childWord = "die-with-unsaved-changes";

/// A plate 0.1 mm above a base, air on top.
Project plateOverBase()
{
  Project p = projectWith(0.01);
  p.name = "plate";
  p.materials = {material("metal", 40), material("board", 0.3)};
  p.parts = {part("base", "board", block(0.06, 0.06, 0.01)),
             part("plate", "metal", block(0.06, 0.06, 0.01), {0, 0, 0.0101})};
  p.surfaces = {surface("under", {"base.bottom"}), surface("top", {"plate.top"}), surface("spare", {"plate.*"})};
  p.sources = {source("heater", PartPower{{"plate"}, {30, "30 W"}})};
  p.boundaries = {boundary("floor", FixedSurface{"under", {293.15, "20 °C"}}),
                  boundary("air", Convection{"top", Property{10, "10 W/(m²·K)"}, Property{293.15, "20 °C"}})};
  Finish paint;
  paint.id = "paint";
  paint.name = "Paint";
  paint.emissivity = {0.9, "0.9"};
  paint.surfaces = {"top"};
  p.finishes = {paint};
  return p;
}

/// A heated tray of poor conductor with a cooled lid on its rim: a closed hollow between them.
Project trayWithLid()
{
  Project p = projectWith(0.01);
  p.name = "tray";
  p.materials = {material("board", 0.2), material("metal", 40)};
  for (Material& one : p.materials)
    one.emissivity = Number{0.9, "0.9"};
  Part tray = part("tray", "board", block(0.06, 0.06, 0.02));
  tray.steps = {cut("hollow", block(0.04, 0.04, 0.02), {0, 0, 0.005})};
  p.parts = {tray, part("lid", "metal", block(0.06, 0.06, 0.01), {0, 0, 0.02})};
  p.surfaces = {surface("under", {"tray.bottom"}), surface("top", {"lid.top"})};
  p.sources = {source("heater", SurfaceFlux{"under", {2000, "2000 W/m²"}})};
  p.boundaries = {boundary("cold", FixedSurface{"top", {293.15, "20 °C"}})};
  return p;
}

/// Runs the real window, changes something, waits until the copy is kept, and dies without a word.
int dieWithUnsavedChanges(const QString& file)
{
  MainWindow window;
  window.drafts().setProgram(UKILN);
  window.show();
  window.openFile(file);
  window.document().setNumber("heater.power", {77, "77 W"});
  const QDir folder(Recovery::folder());
  for (int i = 0; i < 400 && folder.entryList({"*.kiln"}).isEmpty(); ++i) // kept by itself, a few seconds later
    QTest::qWait(50);
  ::raise(SIGKILL);
  return 0;
}

} // namespace

class ManageTest : public QObject, private WindowDriver
{
  Q_OBJECT

  double hottest()
  {
    double value = 0;
    for (const PartFigures& figure : partFigures(*document().shownState().result))
      value = std::max(value, figure.hottest.value);
    return value;
  }
  void chooseInSurfaces(const QString& id)
  {
    find<QTabWidget>("centre")->setCurrentIndex(3);
    auto* list = find<QTreeWidget>("surfaceList");
    for (QTreeWidgetItemIterator item(list); *item != nullptr; ++item)
      if ((*item)->data(0, Qt::UserRole).toString() == id) {
        list->setCurrentItem(*item);
        return;
      }
    qFatal("no surface %s", qPrintable(id));
  }

private slots:
  void initTestCase()
  {
    QStandardPaths::setTestModeEnabled(true);
    QDir(Recovery::folder()).removeRecursively();
    QVERIFY(saveProject(plateOverBase(), folder_.filePath("plate.kiln").toStdString()).has_value());
  }

  void aKilledProgramLosesNothing()
  {
    QProcess child;
    child.start(QCoreApplication::applicationFilePath(), {childWord, folder_.filePath("plate.kiln")});
    QVERIFY(child.waitForFinished(childTime));
    QCOMPARE(child.exitStatus(), QProcess::CrashExit);
    const std::vector<LostProject> lost = Recovery::lost();
    QCOMPARE(lost.size(), 1U);
    open();
    // The first page offers what was lost; one click brings it back, still unsaved.
    auto* offer = find<QPushButton>("startRecover:0");
    QTest::mouseClick(offer, Qt::LeftButton);
    QCOMPARE(std::get<PartPower>(project().sources[0].heat).power.si, 77.0);
    QVERIFY(document().isUnsaved());
    QVERIFY(Recovery::lost().empty());
    QTest::keySequence(window_.get(), QKeySequence::Undo);
    QCOMPARE(std::get<PartPower>(project().sources[0].heat).power.si, 30.0);
    waitForShapes();
  }

  void partsThatNearlyTouchAreBridgedFromTheReadinessList()
  {
    window_->toggleReadiness();
    auto* list = find<ReadinessList>("readinessList");
    QLabel* line = nullptr;
    for (QLabel* one : list->findChildren<QLabel*>())
      if (one->text().contains("0.1 mm apart"))
        line = one;
    QVERIFY(line != nullptr);
    QVERIFY(line->text().contains("Move plate against base"));
    const QString bridge = "Let heat cross the gap";
    QVERIFY(line->text().contains(bridge));
    emit line->linkActivated("#mend1");
    window_->toggleReadiness();
    const Contact* contact = findContact(project(), "base", "plate");
    QVERIFY(contact != nullptr && std::holds_alternative<Gap>(contact->exchange));
    // Its row lights the faces on both sides.
    document().select(contact->id);
    QCOMPARE(document().litFaces().size(), std::size_t{2});
    solve();
    QVERIFY(find<LedgerRowView>("row:base|plate")->row().figure.value_or(0) > 1);
  }

  void surfacesAreListedRenamedAndRemoved()
  {
    chooseInSurfaces("spare");
    auto* name = find<QLineEdit>("surfaceName");
    name->setFocus();
    name->selectAll();
    QTest::keyClicks(name, "All of the plate");
    QTest::keyClick(name, Qt::Key_Return);
    QCOMPARE(project().surfaces[2].name, std::string("All of the plate"));
    QTest::mouseClick(find<QPushButton>("removeSurface"), Qt::LeftButton);
    QCOMPARE(project().surfaces.size(), 2U);
    QTest::keySequence(window_.get(), QKeySequence::Undo);
    QCOMPARE(project().surfaces.size(), 3U);
    chooseInSurfaces("top");
    QTRY_VERIFY(find<QToolButton>("user:air")->isVisible());
    QTest::mouseClick(find<QToolButton>("user:air"), Qt::LeftButton); // leads to its row
    QCOMPARE(document().selectedId(), std::string("air"));
  }

  void aFinishHasASolarAbsorptanceAndLiesOnSurfaces()
  {
    chooseInSurfaces("paint");
    type("field:paint.solarAbsorptance", "0.3");
    QCOMPARE(project().finishes[0].solarAbsorptance->si, 0.3);
    QTest::mouseClick(find<QToolButton>("finishOn:under"), Qt::LeftButton);
    QCOMPARE(project().finishes[0].surfaces, (std::vector<std::string>{"top", "under"}));
    QTest::mouseClick(find<QPushButton>("addFinish"), Qt::LeftButton);
    QCOMPARE(project().finishes.size(), 2U);
    type("field:finish.emissivity", "1.4");
    QCOMPARE(project().finishes[1].emissivity.si, 0.9); // refused
    QTest::mouseClick(find<QPushButton>("removeSurface"), Qt::LeftButton);
    QCOMPARE(project().finishes.size(), 1U);
    find<QTabWidget>("centre")->setCurrentIndex(0);
  }

  void casesAreEditedDuplicatedAndRemoved()
  {
    auto* chip = find<CaseChip>("case:steady");
    QTest::mouseDClick(chip, Qt::LeftButton);
    auto* name = find<QLineEdit>("caseName");
    name->selectAll();
    QTest::keyClicks(name, "Cold room");
    QTest::keyClick(name, Qt::Key_Return);
    QCOMPARE(project().cases[0].name, std::string("Cold room"));
    // A value of its own: found by name, changed in place, given back.
    auto* choice = find<QComboBox>("addChange");
    const int ambient = choice->findData("air.ambient");
    QVERIFY(ambient > 0);
    pickCombo("addChange", ambient);
    QCOMPARE(project().cases[0].changes.size(), 1U);
    auto* editor = find<CaseEditor>("caseEditor");
    auto* field = editor->findChild<QLineEdit*>("field:air.ambient");
    QVERIFY(field != nullptr);
    field->selectAll();
    QTest::keyClicks(field, "5 °C");
    QTest::keyClick(field, Qt::Key_Return);
    QCOMPARE(project().cases[0].changes[0].number()->si, 278.15);
    QCOMPARE(std::get<Convection>(project().boundaries[1].condition).ambient.si, 293.15);
    QTest::mouseClick(find<QToolButton>("takeProject:air.ambient"), Qt::LeftButton);
    QVERIFY(project().cases[0].changes.empty());
    find<CaseEditor>("caseEditor")->close();
    duplicateCase(document(), "steady");
    QCOMPARE(project().cases.size(), 2U);
    QCOMPARE(document().shownCase(), project().cases[1].id);
    removeCase(document(), project().cases[1].id);
    QCOMPARE(project().cases.size(), 1U);
    removeCase(document(), "steady"); // the last one stays
    QCOMPARE(project().cases.size(), 1U);
  }

  /// From a spreadsheet: names and values into parameters, a table into materials, each undone at once.
  void tablesArePasted()
  {
    find<QTabWidget>("centre")->setCurrentIndex(2);
    QApplication::clipboard()->setText("Name\tValue\tNote\nload\t1,5 kW\tat night\nlid\t25 mm\n");
    QTest::mouseClick(find<QPushButton>("pasteParameters"), Qt::LeftButton);
    QCOMPARE(project().parameters.size(), 2U);
    QCOMPARE(project().parameters[0].value.si, 1500.0);
    QCOMPARE(find<QLineEdit>("parameterNote:load")->text(), QString("at night"));
    QVERIFY(find<QLabel>("parameterMessage")->text().contains("2 parameter"));
    QApplication::clipboard()->setText("x [mm]\ty [mm]\tz [mm]\tP [W]\n0\t0\t0\t5\n1\t0\t0\t7\n");
    find<ParametersPage>("parametersPage")->setFocus();
    QTest::keyClick(find<ParametersPage>("parametersPage"), Qt::Key_V, Qt::ControlModifier);
    QCOMPARE(project().parameters.size(), 3U);
    QCOMPARE(project().parameters[2].points.size(), 2U);
    QApplication::clipboard()->setText("load\theavy\n");
    QTest::mouseClick(find<QPushButton>("pasteParameters"), Qt::LeftButton);
    QVERIFY(find<QLabel>("parameterMessage")->text().contains("heavy"));
    QCOMPARE(project().parameters.size(), 3U);
    document().undoStack().undo();
    document().undoStack().undo();
    QVERIFY(project().parameters.empty());

    find<QTabWidget>("centre")->setCurrentIndex(1);
    const std::size_t before = project().materials.size();
    QApplication::clipboard()->setText("name\tconductivity [W/(m·K)]\nstove brick\t0,8\nclay\t1,1\n");
    find<MaterialsPage>("materialsPage")->setFocus();
    QTest::keyClick(find<MaterialsPage>("materialsPage"), Qt::Key_V, Qt::ControlModifier);
    QCOMPARE(project().materials.size(), before + 2);
    QCOMPARE(project().materials.back().conductivity.si, 1.1);
    document().undoStack().undo();
    QCOMPARE(project().materials.size(), before);
    find<QTabWidget>("centre")->setCurrentIndex(0);
  }

  void aCoefficientIsReadFromAFileOfPoints()
  {
    QFile file(folder_.filePath("fan.csv"));
    QVERIFY(file.open(QIODevice::WriteOnly));
    file.write("x [mm]; y [mm]; z [mm]; h [W/(m²·K)]\n-40;-40;20;10\n40;-40;20;30\n-40;40;20;10\n40;40;20;30\n");
    file.close();
    find<QTabWidget>("centre")->setCurrentIndex(2);
    find<ParametersPage>("parametersPage")->addPoints(folder_.filePath("fan.csv"));
    QCOMPARE(project().parameters.size(), 1U);
    QVERIFY(find<QLabel>("points:map")->text().contains("4 point"));
    find<ParametersPage>("parametersPage")->addPoints(folder_.filePath("nothing.csv"));
    QVERIFY(find<QLabel>("parameterMessage")->text().contains("nothing.csv"));
    find<QTabWidget>("centre")->setCurrentIndex(0);
    openRow("air");
    type("field:air.coefficient", "map");
    QVERIFY(std::get<Convection>(project().boundaries[1].condition).coefficient.formula);
    type("field:air.ambient", "20 °C");
    closeRow("air");
    solve();
  }

  void theMeaningOfACoefficientIsJudged()
  {
    openRow("air");
    type("field:air.coefficient", "3000");
    pickCombo("meantFor", 1); // still air
    QVERIFY(mentions(document().findings(), Finding::Severity::Hint, {"far from what is usual for still air"}));
    QTest::keySequence(window_.get(), QKeySequence::Undo);
    QVERIFY(!mentions(document().findings(), Finding::Severity::Hint, {"far from what is usual"}));
    closeRow("air");
  }

  void aResistanceBetweenAnyWatches()
  {
    QVERIFY(saveProject(trayWithLid(), folder_.filePath("tray.kiln").toStdString()).has_value());
    document().undoStack().setClean();
    window_->openFile(folder_.filePath("tray.kiln"));
    document().edit("watches", [](Project& p) {
      p.watches = {kiln::test::watch("lid-mean", PartFigure{PartFigure::Kind::Mean, {"lid"}}),
                   kiln::test::watch("tray-mean", PartFigure{PartFigure::Kind::Mean, {"tray"}}),
                   kiln::test::watch("tray-hot", PartFigure{PartFigure::Kind::Hottest, {"tray"}}),
                   kiln::test::watch("out", SurfaceHeat{p.surfaces.front().id}),
                   kiln::test::watch("r", BetweenWatches{"lid-mean", "tray-mean", "out"})};
    });
    auto* hot = find<QComboBox>("betweenHot:r");
    QCOMPARE(hot->count(), 3);
    hot->setCurrentIndex(hot->findData("tray-hot"));
    emit hot->activated(hot->currentIndex());
    QCOMPARE(std::get<BetweenWatches>(project().watches.back().figure).hot, std::string("tray-hot"));
    QCOMPARE(find<QComboBox>("betweenHeat:r")->currentText(), QString("out"));
    document().undoStack().undo();
    QCOMPARE(std::get<BetweenWatches>(project().watches.back().figure).hot, std::string("lid-mean"));
  }

  void anOfferedEnclosureIsAcceptedReadAndMuted()
  {
    QVERIFY(saveProject(trayWithLid(), folder_.filePath("tray.kiln").toStdString()).has_value());
    document().undoStack().setClean();
    window_->openFile(folder_.filePath("tray.kiln"));
    solve();
    const double without = hottest();
    window_->toggleReadiness();
    QLabel* line = nullptr;
    for (QLabel* one : find<ReadinessList>("readinessList")->findChildren<QLabel*>())
      if (one->text().contains("Nothing crosses this closed space"))
        line = one;
    QVERIFY(line != nullptr);
    emit line->linkActivated("#mend0");
    window_->toggleReadiness();
    QCOMPARE(project().enclosures.size(), 1U);
    QCOMPARE(project().enclosures[0].surfaces.size(), 2U); // one of the tray, one of the lid
    solve();
    const QString id = QString::fromStdString(project().enclosures[0].id);
    QVERIFY(find<LedgerRowView>("row:" + id)->row().figure.value_or(0) > 0.1);
    openRow(id);
    auto* table = find<QTableWidget>("enclosureTable");
    QCOMPARE(table->item(0, 0)->text(), QString("tray → lid"));
    QVERIFY(find<QLabel>("enclosureAbout")->text().contains("rays from each"));
    const QString table0 = QString::fromStdString(
        formatQuantity(document().shownState().result->enclosures[0].exchanges[0].watts, Quantity::Power, {}, 3));
    closeRow(id);
    window_->strip().setPage(StripPanel::exchangePage);
    auto* matrix = find<QTableWidget>("exchangeMatrix");
    QCOMPARE(matrix->rowCount(), 2);
    QCOMPARE(matrix->verticalHeaderItem(0)->text(), QString("tray")); // the giver comes first
    QCOMPARE(matrix->item(0, 1)->text(), table0);
    QVERIFY(matrix->item(0, 1)->background().color().isValid());
    QVERIFY(matrix->item(1, 0)->text().isEmpty());
    QVERIFY(find<QLabel>("exchangeAbout")->text().contains("twice as large"));
    QTest::mouseClick(find<QToolButton>("exchangeCopy"), Qt::LeftButton);
    QVERIFY(QApplication::clipboard()->text().contains("tray\t\t" + table0));
    // The patches it was made of, on the model.
    auto* colors = find<QComboBox>("colorBy");
    colors->setCurrentIndex(static_cast<int>(Shown::Patches));
    emit colors->activated(colors->currentIndex());
    QVERIFY(!find<Legend>("legend")->isVisible());
    colors->setCurrentIndex(static_cast<int>(Shown::HeatFlux));
    emit colors->activated(colors->currentIndex());
    QVERIFY(find<Legend>("legend")->isVisible());
    QVERIFY(find<QuantityField>("legendTop")->text().contains("W/m²"));
    QVERIFY(window_->scene().canvas().drawnRange()->second > 1);
    colors->setCurrentIndex(0);
    emit colors->activated(0);
    QVERIFY(find<QuantityField>("legendTop")->text().contains("°C"));
    const double with = hottest();
    QVERIFY(with < without - 0.5);
    find<LedgerRowView>("row:" + id)->setFocus();
    document().edit("mute", [](Project& p) { p.enclosures[0].muted = true; });
    solve();
    QVERIFY(std::abs(hottest() - without) < 1e-6);
  }

  void cleanupTestCase()
  {
    document().undoStack().setClean();
    window_.reset();
  }
};

int main(int argc, char** argv)
{
  return kiln::runWindowTests<ManageTest>(argc, argv, childWord, dieWithUnsavedChanges);
}

#include "tst_manage.moc"
