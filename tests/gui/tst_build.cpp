// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
//
// From an empty window to a solved model with mouse and keys, then changed without loss.
#include "WindowDriver.h"
#include "fields/OutlineEditor.h"
#include "fields/TableEditor.h"
#include "geometry/SurfaceFaces.h"
#include "io/ProjectFile.h"
#include "ledger/LedgerRowView.h"
#include "look/Theme.h"
#include "model/Edit.h"
#include "model/Fields.h"
#include "scene/PlaceHandles.h"
#include "scene/ScenePanel.h"
#include "window/Application.h"
#include "window/MainWindow.h"

#include <QApplication>
#include <QClipboard>
#include <QComboBox>
#include <QDir>
#include <QLabel>
#include <QLineEdit>
#include <QListWidget>
#include <QMenu>
#include <QProcess>
#include <QPushButton>
#include <QStandardPaths>
#include <QTabWidget>
#include <QTableWidget>
#include <QTemporaryDir>
#include <QTest>
#include <QTimer>
#include <QToolButton>
#include <QTreeWidget>
#include <QWheelEvent>

using namespace kiln;

class BuildTest : public QObject, private WindowDriver
{
  Q_OBJECT

  double areaOf(const std::string& surface)
  {
    return facesOf(document().shownProject(), document().shownMesh()->geometry, surface).area;
  }
  double hottest()
  {
    double value = 0;
    for (const PartFigures& figure : partFigures(*document().shownState().result))
      value = std::max(value, figure.hottest.value);
    return value;
  }

private slots:
  void initTestCase()
  {
    QStandardPaths::setTestModeEnabled(true);
    QDir(Recovery::folder()).removeRecursively(); // of an earlier run that was broken off
    open();
  }

  void theFirstPageOffersAnEmptyProject()
  {
    QVERIFY(find<QWidget>("startPage")->isVisible());
    QVERIFY(find<QPushButton>("startDemo")->isVisible());
    QTest::mouseClick(find<QPushButton>("startEmpty"), Qt::LeftButton);
    QVERIFY(!find<QWidget>("startPage")->isVisible());
  }

  void aParameterIsMadeAndNamed()
  {
    find<QTabWidget>("centre")->setCurrentIndex(2);
    QTest::mouseClick(find<QPushButton>("addParameter"), Qt::LeftButton);
    type("parameterName:p1", "thickness");
    type("field:p1.value", "12 mm");
    QCOMPARE(project().parameters.front().name, std::string("thickness"));
    QCOMPARE(project().parameters.front().value.si, 0.012);
    // Names that cannot be are refused with a sentence.
    for (const char* bad : {"2wall", "g", "two words", ""}) {
      type("parameterName:p1", bad);
      QCOMPARE(project().parameters.front().name, std::string("thickness"));
      QVERIFY(find<QLabel>("parameterMessage")->text().contains("old name is kept"));
    }
    find<QTabWidget>("centre")->setCurrentIndex(0);
  }

  void aPlateIsAddedWithAFormula()
  {
    choose("add:1", {"Block"});
    QCOMPARE(project().parts.size(), 1U);
    QVERIFY(find<QLineEdit>("name:block")->hasFocus()); // ready to be named
    type("name:block", "Plate");
    type("field:block.sizeX", "120 mm");
    type("field:block.sizeY", "60 mm");
    type("field:block.sizeZ", "thickness");
    QCOMPARE(std::get<Block>(project().parts[0].shape.form).sizeZ.si, 0.012);
    QVERIFY(std::get<Block>(project().parts[0].shape.form).sizeZ.formula);
    waitForShapes();
    QVERIFY(std::abs(document().shownMesh()->geometry.parts[0].volume - 0.12 * 0.06 * 0.012) < 1e-9);
  }

  void aFinBankIsOneBodyWithARepeat()
  {
    choose("addStep", {"Join a shape", "Block"});
    QTRY_VERIFY(find<QLineEdit>("field:block.join-1.sizeX")->hasFocus()); // unfolded and ready
    type("field:block.join-1.sizeX", "3 mm");
    type("field:block.join-1.sizeY", "60 mm");
    type("field:block.join-1.sizeZ", "30 mm");
    type("field:block.join-1.position.x", "-50 mm");
    type("field:block.join-1.position.z", "thickness");
    pickCombo("repeatChoice:join-1.repeat", 1);
    type("field:block.join-1.repeat.count", "6");
    type("field:block.join-1.repeat.pitch.x", "20 mm");
    waitForShapes();
    const double volume = 0.12 * 0.06 * 0.012 + 6 * 0.003 * 0.06 * 0.03;
    QVERIFY(std::abs(document().shownMesh()->geometry.parts[0].volume - volume) < 1e-9);
  }

  void materialsComeFromTheLibrary()
  {
    QTRY_VERIFY(find<QToolButton>("readiness")->text().contains("1")); // no material: not silent
    choose("materialLibrary", {"metal", "Aluminium alloy, wrought"});
    QCOMPARE(project().materials.size(), 1U);
    QCOMPARE(project().materials[0].conductivity.si, 167.0);
    QCOMPARE(project().parts[0].material, project().materials[0].id);
  }

  void theMaterialPageFindsByNameAndConductivity()
  {
    find<QTabWidget>("centre")->setCurrentIndex(1);
    auto* list = find<QTreeWidget>("materialList");
    const auto shown = [&] {
      int count = 0;
      for (QTreeWidgetItemIterator item(list); *item != nullptr; ++item)
        count += (*item)->childCount() == 0 ? 1 : 0;
      return count;
    };
    QVERIFY(shown() > 40);
    QTest::keyClicks(find<QLineEdit>("materialSearch"), "refractory");
    QVERIFY(shown() >= 3 && shown() < 10);
    find<QLineEdit>("materialSearch")->clear();
    type("materialLowest", "200");
    QVERIFY(shown() >= 2 && shown() < 8); // aluminium and copper
    find<QLineEdit>("materialLowest")->clear();
    QTest::keyClick(find<QLineEdit>("materialLowest"), Qt::Key_Return);
    QVERIFY(shown() > 40);
    find<QTabWidget>("centre")->setCurrentIndex(0);
  }

  void aChipSitsUnderThePlate()
  {
    closeRow("block");
    choose("add:1", {"Block"});
    type("name:block-1", "Chip");
    type("field:block-1.sizeX", "20 mm");
    type("field:block-1.sizeY", "20 mm");
    type("field:block-1.sizeZ", "4 mm");
    choose("materialLibrary", {"ceramic", "Alumina"});
    waitForShapes();
    // Put under the plate by snapping: pick the plate's lower face, then sit on it, centred.
    document().pickFaces({"block.bottom"});
    choose("placeMenu", {"Sit on it, centred"});
    waitForShapes();
    const Number3 place = project().parts[1].shape.placement.position;
    QVERIFY(std::abs(place.z.si + 0.004) < 1e-9);
    QCOMPARE(document().shownMesh()->geometry.parts.size(), 2U);
    closeRow("block-1");
  }

  void heatEntersTheChip()
  {
    // The keyboard stays on the row that was worked on, though it was built anew when it got its material.
    QCOMPARE(document().selectedId(), std::string("block-1"));
    choose("add:0", {"Power in parts"});
    QCOMPARE(std::get<PartPower>(project().sources[0].heat).parts, std::vector<std::string>{"block-1"});
    type("field:power-in-parts.power", "25");
    QCOMPARE(std::get<PartPower>(project().sources[0].heat).power.si, 25.0);
    closeRow("power-in-parts");
  }

  void convectionGetsASentenceAndACorrelation()
  {
    document().select("block");
    choose("add:3", {"Convection"});
    QCOMPARE(project().boundaries.size(), 1U);
    waitForShapes();
    const std::string surface = surfaceOf(project().boundaries[0]);
    const double all = areaOf(surface);
    QVERIFY(find<QLabel>("surfaceCount")->text().contains("face"));
    choose("chipMore", {"facing up"});
    QVERIFY(areaOf(surface) < all);
    // The plate between the fins and the six fin tops look up.
    QVERIFY(std::abs(areaOf(surface) - 0.12 * 0.06) < 1e-9);
    choose("chipFacing", {"Any direction"});
    QVERIFY(std::abs(areaOf(surface) - all) < 1e-12);
    choose("attachCorrelation", {"still fluid, vertical plate"});
    QVERIFY(!project().environment);
    QTest::mouseClick(find<QPushButton>("useEnvironment"), Qt::LeftButton); // asked once
    QCoreApplication::sendPostedEvents(nullptr, QEvent::DeferredDelete);
    QVERIFY(project().environment.has_value());
    QCOMPARE(project().environment->gravity.z.si, -1.0);
    QVERIFY(window_->findChild<QFrame*>("environmentQuestion") == nullptr);
    const auto& flow = std::get<CorrelatedConvection>(project().boundaries[0].condition);
    QVERIFY(std::abs(flow.size.si - 0.042) < 1e-9); // height of plate and fins, from the surface
    QVERIFY(find<QLabel>("correlationReading")->text().contains("Churchill"));
    // Scrolling the ledger over a choice changes nothing.
    auto* situation = find<QComboBox>("situationChoice");
    const QPointF middle = situation->rect().center();
    QWheelEvent wheel(middle, situation->mapToGlobal(middle), {}, {0, -120}, Qt::NoButton, Qt::NoModifier,
                      Qt::NoScrollPhase, false);
    QApplication::sendEvent(situation, &wheel);
    QCOMPARE(situation->currentIndex(), 0);
    type("field:convection.ambient", "30 °C");
    closeRow("convection");
  }

  void theContactIsSetByItsHelper()
  {
    const QString row = "block|block-1";
    openRow(row);
    pickCombo("field:" + row + ".kind", 2);
    type("field:" + row + ".conductance", "2500");
    const Contact* contact = findContact(project(), "block", "block-1");
    QVERIFY(contact != nullptr);
    QCOMPARE(std::get<AreaConductance>(contact->exchange).conductance.si, 2500.0);
    closeRow(row);
  }

  void itSolves()
  {
    solve();
    QVERIFY(hottest() > 273.15 + 60 && hottest() < 273.15 + 250);
  }

  void moreFinsAndAThickerPlateLoseNothing()
  {
    const double before = hottest();
    const std::string surface = surfaceOf(project().boundaries[0]);
    const double area = areaOf(surface);
    document().select("block");
    openRow("block");
    type("field:block.join-1.repeat.count", "3");
    closeRow("block");
    find<QTabWidget>("centre")->setCurrentIndex(2);
    type("field:p1.value", "8 mm");
    find<QTabWidget>("centre")->setCurrentIndex(0);
    waitForShapes();
    QVERIFY(areaOf(surface) < area);
    QCOMPARE(std::get<Block>(project().parts[0].shape.form).sizeZ.si, 0.008);
    solve();
    QVERIFY(hottest() > before + 10); // half the fins
    QCOMPARE(document().shownState().result->sources.front().watts, 25.0);
  }

  void undoToTheStartAndRedoToTheEnd()
  {
    const std::string end = writeProject(project());
    const int steps = document().undoStack().index();
    QVERIFY(steps > 20);
    for (int i = 0; i < steps; ++i) {
      QVERIFY(!document().undoStack().undoText().isEmpty()); // every step has a name
      QTest::keySequence(window_.get(), QKeySequence::Undo);
    }
    QVERIFY(project().parts.empty() && project().parameters.empty());
    for (int i = 0; i < steps; ++i)
      QTest::keySequence(window_.get(), QKeySequence::Redo);
    QCOMPARE(writeProject(project()), end);
  }

  void wrongInputIsExplainedAndKeepsTheOldValue_data()
  {
    QTest::addColumn<QString>("typed");
    QTest::addColumn<QString>("says");
    const auto row = [](const char* typed, const char* says) { QTest::newRow(typed) << typed << says; };
    row("5 W", "a power, but this field takes a length");
    row("20 °C", "this field takes a length");
    row("-3 mm", "must be greater than zero");
    row("0", "must be greater than zero");
    row("abc", "no parameter “abc”");
    row("thicknes", "Did you mean “thickness”?");
    row("thickness*", "not a complete formula");
    row("thickness + 5", "different kinds");
    row("thickness*thickness", "gives an area");
    row("sqr(thickness)", "Did you mean sqrt?");
    row("thickness/0", "no finite value");
    row("1e999", "too large or too small");
    row("nan", "no parameter “nan”");
    row("3 blorps", "not known");
    row("12,5", "decimal sign");
    row("5 furlongish", "not known");
    row("(thickness", "not a complete formula");
    row("thickness thickness", "not a complete formula");
    row("2 thickness", "Write * between them");
    row("thickness # 2", "means nothing in a formula");
    row("ln(thickness)", "this field takes a length");
    row("max(thickness, 3)", "this field takes a length");
  }

  void wrongInputIsExplainedAndKeepsTheOldValue()
  {
    QFETCH(QString, typed);
    QFETCH(QString, says);
    openRow("block-1");
    const Project before = project();
    auto* edit = find<QLineEdit>("field:block-1.sizeX");
    edit->setFocus();
    edit->selectAll();
    QTest::keyClicks(edit, typed);
    QTest::keyClick(edit, Qt::Key_Return);
    auto* row = find<LedgerRowView>("row:block-1");
    const QString message = row->findChild<QLabel*>("fieldMessage")->text();
    QVERIFY2(message.contains(says), qPrintable(message));
    QVERIFY(project() == before);
    QTest::keyClick(edit, Qt::Key_Escape);
    QCOMPARE(edit->text(), QString("20 mm"));
  }

  void rowsAreCopiedDuplicatedAndRemovedByKeys()
  {
    document().select("block-1");
    find<LedgerRowView>("row:block-1")->setFocus();
    QTest::keySequence(window_.get(), QKeySequence(Qt::CTRL | Qt::SHIFT | Qt::Key_C));
    QVERIFY(QApplication::clipboard()->text().contains("\"copied\""));
    QTest::keySequence(window_.get(), QKeySequence(Qt::CTRL | Qt::SHIFT | Qt::Key_V));
    QCOMPARE(project().parts.size(), 3U);
    QCOMPARE(project().materials.size(), 2U); // what it needs was there
    QVERIFY(project().parts[2].name == "Chip 2");
    QTest::keySequence(window_.get(), QKeySequence(QKeySequence::Delete));
    QCOMPARE(project().parts.size(), 2U);
    QTest::keySequence(window_.get(), QKeySequence(Qt::CTRL | Qt::Key_D));
    QCOMPARE(project().parts.size(), 2U); // nothing is selected any more
    document().select("block-1");
    QTest::keySequence(window_.get(), QKeySequence(Qt::CTRL | Qt::Key_D));
    QCOMPARE(project().parts.size(), 3U);
    QTest::keySequence(window_.get(), QKeySequence::Undo);
    QCOMPARE(project().parts.size(), 2U);
  }

  void overlapsAreShownWithARemedy()
  {
    document().select("block-1");
    openRow("block-1");
    type("field:block-1.position.z", "0 mm");
    QTRY_VERIFY_WITH_TIMEOUT(hasErrors(document().findings()), childTime);
    window_->toggleReadiness();
    QCoreApplication::sendPostedEvents(nullptr, QEvent::DeferredDelete);
    auto* line = find<QLabel>("finding:0");
    QVERIFY2(line->text().contains("overlap"), qPrintable(line->text()));
    QVERIFY(line->text().contains("Chip keeps the space"));
    emit line->linkActivated("#mend1"); // as a click on the second offer
    QCOMPARE(project().parts[0].yieldsTo, std::vector<std::string>{"block-1"});
    waitForShapes();
    for (const Finding& finding : document().findings())
      QVERIFY2(finding.severity == Finding::Severity::Hint, finding.sentence().c_str());
    QTest::keySequence(window_.get(), QKeySequence::Undo);
    QTest::keySequence(window_.get(), QKeySequence::Undo);
    window_->toggleReadiness();
    closeRow("block-1");
  }

  void aTableIsPastedFromASpreadsheet()
  {
    find<QTabWidget>("centre")->setCurrentIndex(1);
    auto* list = find<QTreeWidget>("materialList");
    for (QTreeWidgetItemIterator item(list); *item != nullptr; ++item)
      if ((*item)->data(0, Qt::UserRole).toString().startsWith("0:aluminium"))
        list->setCurrentItem(*item);
    const std::string id = project().materials[0].id;
    QTest::mouseClick(find<QToolButton>("table:" + QString::fromStdString(id) + ".conductivity"), Qt::LeftButton);
    auto* editor = find<TableEditor>("tableEditor");
    QApplication::clipboard()->setText("T\tk\n20\t160\n200\t170,0\n100\t165\n");
    QTest::mouseClick(editor->findChild<QPushButton*>("tablePaste"), Qt::LeftButton);
    QCOMPARE(editor->findChild<QTableWidget*>("tableRows")->rowCount(), 3);
    QVERIFY(editor->findChild<QLabel*>("tableMessage")->text().contains("held"));
    QTest::mouseClick(editor->findChild<QPushButton*>("tableUse"), Qt::LeftButton);
    const Property& k = project().materials[0].conductivity;
    QCOMPARE(k.table.size(), 3U);
    QCOMPARE(k.table[1].at.si, 373.15); // sorted
    QCOMPARE(valueAt(k, 273.15 + 60).value, 162.5);
    find<QTabWidget>("centre")->setCurrentIndex(0);
    solve();
  }

  void severalRowsAreEditedAtOnce()
  {
    openRow("block-1");
    document().select("block");
    document().toggleSelected("block-1");
    type("field:block-1.meshSize", "3 mm");
    QVERIFY(project().parts[0].meshSize && project().parts[1].meshSize);
    QCOMPARE(project().parts[0].meshSize->si, 0.003);
    QTest::keySequence(window_.get(), QKeySequence::Undo);
    QVERIFY(!project().parts[0].meshSize && !project().parts[1].meshSize);
    closeRow("block-1");
  }

  void aPartIsMovedByItsArrows()
  {
    document().select("block-1");
    auto* tool = find<QToolButton>("moveTool");
    if (!tool->isChecked())
      QTest::mouseClick(tool, Qt::LeftButton);
    SceneCanvas& canvas = window_->scene().canvas();
    const Number3 before = project().parts[1].shape.placement.position;
    const QPoint tip = window_->scene().handles().tip(0)->toPoint();
    const GeometryPart& own = document().shownMesh()->geometry.parts[1];
    const QPointF along = *window_->scene().handles().tip(0) - canvas.pixelOf((own.low + own.high) / 2);
    const QPoint target = tip + (along / std::hypot(along.x(), along.y()) * 60).toPoint();
    QTest::mousePress(&canvas, Qt::LeftButton, {}, tip);
    QTest::mouseMove(&canvas, target);
    QTest::mouseRelease(&canvas, Qt::LeftButton, {}, target);
    const Number3 after = project().parts[1].shape.placement.position;
    QVERIFY(after.x.si > before.x.si + 0.005); // along x only, in whole millimetres
    QVERIFY(after.y == before.y && after.z == before.z);
    QVERIFY(std::abs(after.x.si * 1e3 - std::round(after.x.si * 1e3)) < 1e-9);
    document().undoStack().undo();
    QVERIFY(project().parts[1].shape.placement.position == before);
  }

  void facesArePickedByABox()
  {
    document().select({});
    SceneCanvas& canvas = window_->scene().canvas();
    canvas.fit();
    const QPoint corner(canvas.width() - 4, canvas.height() - 4);
    QTest::mousePress(&canvas, Qt::LeftButton, Qt::AltModifier, QPoint(4, 4));
    QMouseEvent drag(QEvent::MouseMove, corner, canvas.mapToGlobal(corner), Qt::NoButton, Qt::LeftButton,
                     Qt::AltModifier);
    QApplication::sendEvent(&canvas, &drag);
    QTest::mouseRelease(&canvas, Qt::LeftButton, Qt::AltModifier, corner);
    const std::vector<std::string>& picked = document().pickedFaces();
    QVERIFY(picked.size() > 5);                             // what shows of plate and fins
    QVERIFY(document().litFaces().size() >= picked.size()); // the fins divide the plate's top, which keeps one name
    // A click beside the model lets go of them.
    QTest::mouseClick(&canvas, Qt::LeftButton, {}, QPoint(4, 4));
    QVERIFY(document().pickedFaces().empty());
  }

  void rowsAreReorderedByKeys()
  {
    find<LedgerRowView>("row:block")->setFocus();
    QTest::keyClick(find<LedgerRowView>("row:block"), Qt::Key_Down, Qt::AltModifier);
    QCOMPARE(project().parts[1].id, std::string("block"));
    document().undoStack().undo();
    QCOMPARE(project().parts[0].id, std::string("block"));
  }

  void partsAreGroupedFoldedAndWatchedAsOne()
  {
    choose("add:1", {"Part group"});
    QCOMPARE(project().groups.size(), 1U);
    const std::string group = project().groups[0].id;
    openRow("block-1");
    pickCombo("groupChoice", 1);
    closeRow("block-1");
    QCOMPARE(project().parts[1].group, group);
    auto* head = find<LedgerRowView>("row:" + QString::fromStdString(group));
    head->setFocus();
    QTest::keyClick(head, Qt::Key_Left); // fold
    QCoreApplication::sendPostedEvents(nullptr, QEvent::DeferredDelete);
    QVERIFY(window_->findChild<LedgerRowView*>("row:block-1") == nullptr);
    document().select(group);
    QTest::keySequence(window_.get(), QKeySequence(Qt::CTRL | Qt::SHIFT | Qt::Key_W));
    QCOMPARE(std::get<PartFigure>(project().watches.back().figure).parts, std::vector<std::string>{group});
    for (int i = 0; i < 3; ++i)
      document().undoStack().undo();
    QVERIFY(project().groups.empty() && project().watches.empty());
  }

  void anOutlineIsDraggedTypedAndPasted()
  {
    choose("add:1", {"Prism"});
    waitForShapes();
    QTest::mouseClick(find<QToolButton>("openOutline"), Qt::LeftButton);
    auto* editor = find<OutlineEditor>("outlineEditor");
    auto* view = editor->findChild<OutlineView*>("outlineView");
    QVERIFY(QTest::qWaitForWindowExposed(editor));
    const auto outline = [&] { return std::get<Prism>(project().parts.back().shape.form).outline; };
    const QPoint corner = view->pixelOf(0.06, 0.02).toPoint();
    const QPoint target = view->pixelOf(0.055, 0.02).toPoint();
    QTest::mousePress(view, Qt::LeftButton, {}, corner);
    QTest::mouseMove(view, target);
    QTest::mouseRelease(view, Qt::LeftButton, {}, target);
    QVERIFY(std::abs(outline()[2].a.si - 0.055) < 1.1e-3);
    auto* table = editor->findChild<QTableWidget*>("outlineTable");
    table->item(2, 0)->setText("60");
    QCOMPARE(outline()[2].a.si, 0.06);
    table->item(2, 0)->setText("60 W");
    QVERIFY(editor->findChild<QLabel*>("outlineMessage")->text().contains("a power"));
    QCOMPARE(outline()[2].a.si, 0.06);
    QApplication::clipboard()->setText("0 0\n40 0\n40 30\n0 30\n");
    QTest::mouseClick(editor->findChild<QPushButton*>("outlinePaste"), Qt::LeftButton);
    QCOMPARE(outline().size(), 4U);
    table->item(2, 2)->setText("5"); // an arc over the upper edge
    QCOMPARE(outline()[2].bulge.si, 0.005);
    waitForShapes();
    const double radius = (0.02 * 0.02 + 0.005 * 0.005) / (2 * 0.005);
    const double half = std::asin(0.02 / radius);
    const double segment = radius * radius * (half - std::sin(half) * std::cos(half));
    QVERIFY(std::abs(document().shownMesh()->geometry.parts[2].volume - (0.04 * 0.03 + segment) * 0.04) < 1e-9);
    editor->close();
    document().removeSelected();
    QCOMPARE(project().parts.size(), 2U);
  }

  void thePaletteRunsACommand()
  {
    QTest::keySequence(window_.get(), QKeySequence(Qt::CTRL | Qt::Key_K));
    auto* palette = find<QWidget>("commandPalette");
    auto* typed = palette->findChild<QLineEdit*>("commandTyped");
    QTest::keyClicks(typed, "add part sphere");
    QVERIFY(palette->findChild<QListWidget*>("commandList")->count() >= 1);
    QTest::keyClick(typed, Qt::Key_Return);
    QCOMPARE(project().parts.size(), 3U);
    QVERIFY(std::holds_alternative<Sphere>(project().parts[2].shape.form));
    document().undoStack().undo();
  }

  void unsavedChangesSurviveAKill()
  {
    // A second program with the same changes is killed; its copy is found and opened here.
    QVERIFY(Recovery::lost().empty());
    window_->recovery().keep();
    const QDir recovery(Recovery::folder());
    const QStringList copies = recovery.entryList({"*.kiln"});
    QCOMPARE(copies.size(), 1);
    const QString base = recovery.filePath(copies.first()).chopped(4);
    QVERIFY(QFile::copy(base + "kiln", recovery.filePath("999999999-1.kiln")));
    QFile about(recovery.filePath("999999999-1.json"));
    QVERIFY(about.open(QIODevice::WriteOnly));
    about.write("{\"process\": 999999999, \"name\": \"Lost\", \"file\": \"\"}");
    about.close();
    const std::vector<LostProject> lost = Recovery::lost();
    QCOMPARE(lost.size(), 1U);
    QCOMPARE(lost.front().name, QString("Lost"));
    const Expected<Project> kept = loadProject(lost.front().copy.toStdString());
    QVERIFY(kept && *kept == project());
    Recovery::forget(lost.front());
    QVERIFY(Recovery::lost().empty());
  }

  void savedIsWhatWasBuilt()
  {
    const QString file = folder_.filePath("built.kiln");
    QVERIFY(document().saveAs(file.toStdString()));
    const Expected<Project> again = loadProject(file.toStdString());
    QVERIFY(again && *again == project());
    QCOMPARE(QDir(Recovery::folder()).entryList({"*.kiln"}).size(), 0); // nothing left to recover
  }
};

int main(int argc, char** argv) { return kiln::runWindowTests<BuildTest>(argc, argv); }

#include "tst_build.moc"
