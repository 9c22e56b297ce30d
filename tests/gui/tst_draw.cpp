// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
//
// A newcomer's first minutes: an empty project and its hints, drawing on faces by mouse and keys, and that every
// command is reached by menu, palette and key.
#include "RoomsDriver.h"
#include "geometry/SurfaceFaces.h"
#include "look/Icons.h"
#include "look/Theme.h"
#include "scene/FaceDrawing.h"
#include "scene/PlaceHandles.h"
#include "scene/SceneCanvas.h"
#include "scene/SceneOverlay.h"
#include "scene/ScenePanel.h"
#include "strip/StripPanel.h"
#include "window/About.h"
#include "window/CommandPalette.h"
#include "window/EmptyScene.h"
#include "window/Manual.h"

#include <QFile>
#include <QLabel>
#include <QListWidget>
#include <QMenuBar>
#include <QMessageBox>
#include <QRegularExpression>
#include <QTabBar>
#include <algorithm>

using namespace kiln;
using namespace kiln::test;

class DrawTest : public QObject, private RoomsDriver
{
  Q_OBJECT

  SceneCanvas& canvas() { return window_->scene().canvas(); }
  FaceDrawing& drawing() { return window_->scene().faceDrawing(); }
  QPoint pixel(const Vec3& place) { return canvas().pixelOf(place).toPoint(); }
  void click(const Vec3& place) { QTest::mouseClick(&canvas(), Qt::LeftButton, {}, pixel(place)); }
  void move(const Vec3& place) { QTest::mouseMove(&canvas(), pixel(place)); }
  void typeSize(const QString& text)
  {
    QTest::keyClicks(&canvas(), text.left(1));
    auto* typed = find<QLineEdit>("drawTyped");
    QVERIFY(typed->isVisible());
    QTest::keyClicks(typed, text.mid(1));
    QTest::keyClick(typed, Qt::Key_Return);
  }
  QString words() { return window_->scene().overlay().hover(); }
  void press(Qt::Key key) { QTest::keySequence(window_.get(), QKeySequence(Qt::ALT | Qt::SHIFT | key)); }

  /// A plate of 100 × 100 × 20 mm with its base at z = 0, seen from above.
  void plate()
  {
    Project p = projectWith(0.02);
    p.materials = {material("metal", 40)};
    p.parts = {part("plate", "metal", block(0.1, 0.1, 0.02))};
    start(p, "plate");
    canvas().lookAlong(Vec3(-0.2, 0.4, -1), Vec3(0, 0, 1));
  }
  const ShapeStep& step(std::size_t i = 0) { return project().parts[0].steps.at(i); }
  double volume() { return document().shownMesh()->geometry.parts[0].volume; }

private slots:
  /// Given nothing, then one line in each zone says what belongs there, and the first part comes by a click.
  void anEmptyProjectGuides()
  {
    open();
    QTest::mouseClick(find<QPushButton>("startEmpty"), Qt::LeftButton);
    auto* card = window_->findChild<EmptyScene*>();
    QTRY_VERIFY(card->isVisible());
    for (int band = 0; band < 4; ++band)
      QVERIFY(find<QLabel>("bandHint:" + QString::number(band))->isVisible());
    QVERIFY(find<QLabel>("watchHint")->isVisible());
    QVERIFY(window_->strip().isFolded());
    QVERIFY(window_->strip().height() < 45);
    QTest::mouseClick(find<QPushButton>("emptyPart:0"), Qt::LeftButton);
    QCOMPARE(project().parts.size(), std::size_t{1});
    QTRY_VERIFY(!card->isVisible());
    QVERIFY(!find<QLabel>("bandHint:1")->isVisible());
    QVERIFY(find<QLabel>("bandHint:0")->isVisible());
    waitForShapes();
    QTRY_VERIFY(!canvas().model().empty());
    document().undoStack().undo();
    QTRY_VERIFY(card->isVisible());
  }

  /// The strip unfolds where there is something to show, and stays as it is left.
  void theStripFoldsByItself()
  {
    start(plateInRooms(1), "fold");
    StripPanel& strip = window_->strip();
    QVERIFY(strip.isFolded());
    solve();
    QTRY_VERIFY(!strip.isFolded());
    QTRY_VERIFY(strip.height() > 150);
    const int high = strip.height();
    QTest::mouseClick(find<QToolButton>("stripFold"), Qt::LeftButton);
    QTRY_VERIFY(strip.height() < 45);
    document().setNumber("heater.power", {4, "4 W", false});
    QVERIFY(strip.isFolded()); // by hand
    auto* pages = find<QTabBar>("stripPages");
    QTest::mouseClick(pages, Qt::LeftButton, {}, pages->tabRect(StripPanel::pathsPage).center());
    QTRY_COMPARE(strip.height(), high);
    QCOMPARE(pages->currentIndex(), StripPanel::pathsPage);
    QTest::keySequence(window_.get(), QKeySequence(Qt::ALT | Qt::Key_T));
    QVERIFY(strip.isFolded());
  }

  /// A rib: a rectangle of typed size, raised by a typed height, then repeated in its row.
  void aRibIsDrawnAndRepeated()
  {
    plate();
    press(Qt::Key_1);
    QVERIFY(drawing().isOn());
    QTRY_VERIFY2(words().startsWith("Click a corner"), qPrintable(words()));
    click(Vec3(-0.03, -0.04, 0.02));
    move(Vec3(0, 0, 0.02));
    QTRY_VERIFY2(words().contains("×") && words().contains("mm"), qPrintable(words()));
    typeSize("5 x 80");
    QTRY_VERIFY2(words().startsWith("raised by"), qPrintable(words()));
    typeSize("15");
    QVERIFY(!drawing().isOn());
    QCOMPARE(project().parts[0].steps.size(), std::size_t{1});
    const auto* join = std::get_if<Join>(&step().action);
    QVERIFY(join != nullptr);
    const Block& rib = std::get<Block>(join->shape.form);
    QVERIFY(std::abs(rib.sizeX.si - 0.005) < 1e-9 && std::abs(rib.sizeY.si - 0.08) < 1e-9 &&
            std::abs(rib.sizeZ.si - 0.015) < 1e-9);
    QVERIFY(std::abs(join->shape.placement.position.z.si - 0.02) < 1e-9);
    QVERIFY(document().openSteps().contains("plate.rib-1")); // its row stands open
    QTRY_VERIFY(window_->findChild<QComboBox*>("repeatChoice:rib-1.repeat") != nullptr);
    pickCombo("repeatChoice:rib-1.repeat", 1);
    type("field:plate.rib-1.repeat.count", "4");
    type("field:plate.rib-1.repeat.pitch.x", "15 mm");
    waitForShapes();
    QTRY_VERIFY(std::abs(volume() - (0.1 * 0.1 * 0.02 + 4 * 0.005 * 0.08 * 0.015)) < 1e-9);
    while (document().undoStack().canUndo())
      document().undoStack().undo();
    QVERIFY(project().parts[0].steps.empty());
  }

  /// A hole: a circle around the middle of the face, sunk with the mouse, then down to the face below.
  void aHoleReachesDownToAFace()
  {
    plate();
    press(Qt::Key_2);
    click(Vec3(0.002, -0.001, 0.02)); // near the middle: snaps to it
    typeSize("20");
    QTRY_VERIFY(words().startsWith("raised by"));
    // Down along the normal by mouse.
    move(Vec3(0.002, -0.001, 0.02));
    move(Vec3(0.002, -0.001, 0.008));
    static const QRegularExpression about("^sunk by 1[0-3](\\.\\d)? mm"); // the pointer rounds to pixels
    QTRY_VERIFY2(about.match(words()).hasMatch(), qPrintable(words()));
    QTest::mouseClick(&canvas(), Qt::LeftButton, {}, pixel(Vec3(0.002, -0.001, 0.008)));
    const auto* cut = std::get_if<Cut>(&step().action);
    QVERIFY(cut != nullptr);
    const Cylinder& hole = std::get<Cylinder>(cut->shape.form);
    QVERIFY(std::abs(hole.radius.si - 0.01) < 1e-9);
    QVERIFY(std::abs(cut->shape.placement.position.x.si) < 1e-9 && std::abs(cut->shape.placement.position.y.si) < 1e-9);
    document().pickFaces({"plate.bottom"});
    QTRY_VERIFY(window_->findChild<QToolButton*>("upTo:pocket-1:picked") != nullptr);
    find<QToolButton>("upTo:pocket-1:picked")->click();
    QCOMPARE(std::get<Cylinder>(std::get<Cut>(step().action).shape.form).upTo, std::string("plate.bottom"));
    waitForShapes();
    QTRY_VERIFY(std::abs(volume() - (0.1 * 0.1 - M_PI * 1e-4) * 0.02) < 1e-9); // right through
    document().setNumber("plate.sizeZ", {0.03, "30 mm", false});
    waitForShapes();
    QTRY_VERIFY(std::abs(volume() - (0.1 * 0.1 * 0.03 - M_PI * 1e-4 * 0.02)) < 1e-9); // from where it was drawn
  }

  /// An outline by clicks, closed by Enter; corners snap to those of the face.
  void anOutlineIsDrawn()
  {
    plate();
    press(Qt::Key_3);
    for (const Vec3& corner : {Vec3(-0.049, -0.049, 0.02), Vec3(0.02, -0.03, 0.02), Vec3(0, 0.03, 0.02)})
      click(corner);
    QTest::keyClick(&canvas(), Qt::Key_Return);
    typeSize("-5 mm");
    const auto* cut = std::get_if<Cut>(&step().action);
    QVERIFY(cut != nullptr);
    QCOMPARE(std::get<Prism>(cut->shape.form).outline.size(), std::size_t{3});
    QVERIFY(std::abs(cut->shape.placement.position.x.si + 0.05) < 1e-9); // the corner of the plate itself
    QVERIFY(std::abs(cut->shape.placement.position.y.si + 0.05) < 1e-9);
  }

  void aFaceIsPushedAndDivided()
  {
    plate();
    press(Qt::Key_4);
    click(Vec3(0.02, 0.02, 0.02));
    QTRY_VERIFY2(words().contains("0 mm"), qPrintable(words()));
    move(Vec3(0.02, 0.02, 0.03));
    static const QRegularExpression about("^(9|10|11)(\\.\\d)? mm");
    QTRY_VERIFY2(about.match(words()).hasMatch(), qPrintable(words()));
    // The sides follow from the corners of the face: half-way up one there is ink.
    const QList<QLineF> lines = drawing().pushedLines();
    const QPointF low = canvas().pixelOf(Vec3(0.05, 0.05, 0.02));
    const auto side = std::find_if(lines.begin(), lines.end(), [&](const QLineF& line) {
      return QLineF(line.p1(), low).length() < 2 && line.length() > 4;
    });
    QVERIFY(side != lines.end());
    const QPoint middle = window_->scene().overlay().mapFromGlobal(canvas().mapToGlobal(side->center().toPoint()));
    const QImage seen = window_->scene().overlay().grab().toImage();
    bool inked = false;
    for (int x = -2; x <= 2; ++x)
      for (int y = -2; y <= 2; ++y)
        inked = inked || seen.pixelColor((middle + QPoint(x, y)) * seen.devicePixelRatio()) == theme().accent;
    QVERIFY(inked);
    typeSize("10");
    const auto* push = std::get_if<PushFace>(&step().action);
    QVERIFY(push != nullptr && push->face == "plate.top" && std::abs(push->distance.si - 0.01) < 1e-12);
    waitForShapes();
    press(Qt::Key_6); // a circle that divides
    click(Vec3(0.02, 0.02, 0.03));
    typeSize("30");
    const auto* divided = std::get_if<SplitFace>(&step(1).action);
    QVERIFY(divided != nullptr);
    QVERIFY(std::abs(std::get<SplitByCircle>(divided->line).radius.si - 0.015) < 1e-9);
    waitForShapes();
    const auto named = facesOf(project(), document().shownMesh()->geometry, surface("s", {"plate.divide-1.inside"}));
    QVERIFY(std::abs(named.area - M_PI * 0.015 * 0.015) < 1e-8);
  }

  /// A line around a rod, from its row's menu.
  void aLineIsWrappedAroundARod()
  {
    Project p = projectWith(0.02);
    p.parts = {part("rod", "", Cylinder{number(0.02), number(0.1), {}})};
    start(p, "rod");
    document().pickFaces({"rod.side"});
    openRow("rod");
    choose("addStep", {"Divide a face", "Rectangle"});
    waitForShapes();
    const FaceTable& table = document().shownMesh()->geometry;
    QTRY_VERIFY(std::abs(facesOf(project(), table, surface("s", {"rod.divide-1.inside"})).area - 4e-4) < 1e-9);
    document().undoStack().undo();
    QVERIFY(project().parts[0].steps.empty());
  }

  void escapeGoesBackAndNothingIsMade()
  {
    plate();
    press(Qt::Key_1);
    click(Vec3(0, 0, 0.02));
    move(Vec3(0.03, 0.03, 0.02));
    QTest::keyClick(&canvas(), Qt::Key_Escape);
    QTRY_VERIFY(words().startsWith("Click a corner"));
    click(Vec3(0, 0, 0.02));
    click(Vec3(0.03, 0.03, 0.02));
    QTRY_VERIFY(words().startsWith("raised by"));
    for (int i = 0; i < 3; ++i) // height, first corner, face
      QTest::keyClick(&canvas(), Qt::Key_Escape);
    QVERIFY(!drawing().isOn());
    QVERIFY(project().parts[0].steps.empty() && !document().undoStack().canUndo());
    press(Qt::Key_1);
    click(Vec3(0, 0, 0.02));
    typeSize("4 stones");
    QVERIFY2(words().contains("is no length"), qPrintable(words()));
    QVERIFY(find<QLineEdit>("drawTyped")->isVisible()); // to be corrected
  }

  /// While something is drawn the window's shortcuts still work; what is drawn on a part that changes ends.
  void shortcutsWorkWhileDrawing()
  {
    plate();
    press(Qt::Key_1);
    click(Vec3(0, 0, 0.02));
    typeSize("40 x 20");
    typeSize("5");
    QCOMPARE(project().parts[0].steps.size(), std::size_t{1});
    waitForShapes();
    press(Qt::Key_1);
    click(Vec3(-0.04, -0.04, 0.02));
    QTRY_VERIFY(words().contains("×") || words().startsWith(" (Esc"));
    QTest::keySequence(&canvas(), QKeySequence::Undo);
    QTRY_VERIFY(project().parts[0].steps.empty());
    QVERIFY(!drawing().isOn());
    QVERIFY2(words().contains("has changed"), qPrintable(words()));
  }

  /// Backspace takes the last corner away, never the part; Enter at no height says so.
  void backspaceGoesBack()
  {
    plate();
    press(Qt::Key_1);
    click(Vec3(0, 0, 0.02));
    click(Vec3(0.03, 0.03, 0.02));
    QTest::keyClick(&canvas(), Qt::Key_Return);
    QVERIFY2(words().startsWith("Nothing is raised"), qPrintable(words()));
    QTest::keyClick(&canvas(), Qt::Key_Backspace);
    QTRY_VERIFY(words().contains("type “40 x 20”"));
    QTest::keyClick(&canvas(), Qt::Key_Delete);
    QTRY_VERIFY(words().startsWith("Click a corner"));
    QCOMPARE(project().parts.size(), std::size_t{1});
  }

  /// Looking straight down on a face, a height follows the pointer up and down, by about what the pixels are long.
  void heightsSeenFromAbove()
  {
    plate();
    canvas().lookAlong(Vec3(0, 0, -1), Vec3(0, 1, 0));
    press(Qt::Key_1);
    click(Vec3(0, 0, 0.02));
    click(Vec3(0.03, 0.03, 0.02));
    const QPoint from = pixel(Vec3(0.03, 0.03, 0.02));
    QTest::mouseMove(&canvas(), from - QPoint(0, 60));
    QTest::mouseClick(&canvas(), Qt::LeftButton, {}, from - QPoint(0, 60));
    QCOMPARE(project().parts[0].steps.size(), std::size_t{1});
    const auto* added = std::get_if<Join>(&step().action);
    QVERIFY(added != nullptr);
    const double height = std::get<Block>(added->shape.form).sizeZ.si;
    QVERIFY2(std::abs(height / (60 * canvas().pixelLength()) - 1) < 0.15, qPrintable(QString::number(height)));
  }

  /// The arrows that move a part are not in the way of what is drawn on it.
  void noArrowsWhileDrawing()
  {
    plate();
    document().select("plate");
    QTRY_VERIFY(window_->scene().handles().tip(0).has_value());
    const QPoint tip = window_->scene().handles().tip(0)->toPoint();
    const auto atTip = [&] {
      return window_->scene().overlay().grab(QRect(tip - QPoint(10, 10), QSize(20, 20))).toImage();
    };
    const QImage with = atTip();
    press(Qt::Key_1);
    QTRY_VERIFY(drawing().isOn());
    const QImage without = atTip();
    QVERIFY(without != with);
    QTest::keyClick(&canvas(), Qt::Key_Escape);
    QCOMPARE(atTip(), with);
  }

  /// Every page, colouring and scene action is in the menus with a key of its own, and in the palette.
  void everyCommandIsReached()
  {
    plate();
    std::map<QString, QString> ofKey;
    QStringList without;
    for (const QAction* action : commandsOf(*window_->menuBar())) {
      const QString name = commandName(*action);
      for (const QKeySequence& key : action->shortcuts()) {
        const QString text = key.toString();
        QVERIFY2(!ofKey.contains(text), qPrintable(text + ": " + ofKey[text] + " and " + name));
        ofKey[text] = name;
      }
      const bool needed = name.startsWith("View · Pages of the strip") || name.startsWith("View · Colours show") ||
                          name.contains("on a face") || name.startsWith("View · Fit") || name.contains("Cut open") ||
                          name.startsWith("Mesh · Mesh without");
      if (needed && action->shortcut().isEmpty())
        without << name;
    }
    QVERIFY2(without.isEmpty(), qPrintable(without.join("; ")));
    QVERIFY(ofKey["Del"].endsWith("Delete") && ofKey["Ctrl+W"].contains("Close"));
    QStringList pages = window_->strip().pageNames();
    int found = 0;
    for (const auto& [key, name] : ofKey)
      found +=
          std::count_if(pages.begin(), pages.end(), [&](const QString& page) { return name.endsWith("· " + page); });
    QCOMPARE(found, int(pages.size()));
    QTest::keySequence(window_.get(), QKeySequence(Qt::CTRL | Qt::SHIFT | Qt::Key_F10));
    QCOMPARE(find<QTabBar>("stripPages")->currentIndex(), StripPanel::labelsPage);
    QTest::keySequence(window_.get(), QKeySequence("Ctrl+G, B"));
    QCOMPARE(find<QComboBox>("colorBy")->currentIndex(), static_cast<int>(Shown::Material));
    QTest::keySequence(window_.get(), QKeySequence(Qt::CTRL | Qt::Key_K));
    auto* list = find<QListWidget>("commandList");
    QTest::keyClicks(find<QLineEdit>("commandTyped"), "push a face");
    QVERIFY(list->count() > 0 && list->item(0)->text().contains("Push a face"));
    QTest::keyClick(find<QLineEdit>("commandTyped"), Qt::Key_Return);
    QTRY_VERIFY(drawing().isOn());
  }

  void deleteRemovesWhatIsSelected()
  {
    plate();
    document().select("plate");
    canvas().setFocus();
    QTest::keySequence(window_.get(), QKeySequence(Qt::Key_Delete));
    QVERIFY(project().parts.empty());
    document().undoStack().undo();
    QCOMPARE(project().parts.size(), std::size_t{1});
    openRow("plate"); // in a field it deletes letters
    auto* name = find<QLineEdit>("name:plate");
    name->setFocus();
    name->setCursorPosition(0);
    QTest::keyClick(name, Qt::Key_Delete);
    QCOMPARE(name->text(), QString("late"));
    QCOMPARE(project().parts.size(), std::size_t{1});
  }

  /// F1 opens the manual at the chapter of what has the keyboard.
  void theManualAtThePlace()
  {
    plate();
    const auto chapterFor = [&](QWidget* focus) -> QString {
      focus->setFocus();
      QTest::keyClick(window_.get(), Qt::Key_F1);
      auto* manual = window_->findChild<Manual*>();
      if (manual == nullptr)
        return {};
      const QString chapter = find<QListWidget>("manualChapters")->currentItem()->text();
      manual->close();
      QCoreApplication::sendPostedEvents(nullptr, QEvent::DeferredDelete);
      return chapter;
    };
    QCOMPARE(chapterFor(find<QLineEdit>("ledgerFilter")), QString("Build and change shapes"));
    QCOMPARE(chapterFor(&canvas()), QString("Look at it"));
    // Every chapter that a zone names is there.
    Manual manual(manualFile(), nullptr);
    const QStringList chapters = manual.chapters();
    for (const QWidget* zone : window_->findChildren<QWidget*>())
      if (const QString chapter = zone->property("chapter").toString(); !chapter.isEmpty())
        QVERIFY2(chapters.contains(chapter), qPrintable(chapter));
  }

  void iconsAreShipped()
  {
    plate();
    int icons = 0;
    for (const QAbstractButton* button : window_->findChildren<QAbstractButton*>()) {
      const QString name = button->property("iconName").toString();
      if (name.isEmpty())
        continue;
      ++icons;
      for (const char* look : {"light", "dark"})
        QVERIFY2(QFile::exists(QString(":/icons/%1/%2.svg").arg(look, name)), qPrintable(name));
      QVERIFY2(!button->icon().pixmap(16, 16).isNull(), qPrintable(name));
      QVERIFY2(!button->toolTip().isEmpty() || !button->text().isEmpty(), qPrintable(name)); // it says what it does
      QVERIFY2(!button->accessibleName().isEmpty() || !button->text().isEmpty(), qPrintable(name));
    }
    QVERIFY2(icons > 25, qPrintable(QString::number(icons)));
  }

  /// Another set of units: figures read in it, and bare numbers are taken in it; what is kept does not change.
  void unitsAreChosen()
  {
    start(plateInRooms(1), "units");
    solve();
    const auto choose = [&](const QString& name) {
      for (QAction* action : commandsOf(*window_->menuBar()))
        if (commandName(*action).contains("Quantity units · " + name))
          return action->trigger();
      qFatal("no units %s", qPrintable(name));
    };
    const auto heat = [&] { return find<LedgerRowView>("row:heater")->figureText(); };
    QCOMPARE(heat(), QString("3 W"));
    choose("Inch and pound");
    QTRY_COMPARE(heat(), QString("10.24 Btu/h"));
    openRow("heater");
    type("field:heater.power", "20");
    QCOMPARE(std::get<PartPower>(project().sources[0].heat).power.text, std::string("20 Btu/h"));
    QVERIFY(std::abs(std::get<PartPower>(project().sources[0].heat).power.si - 20 * 1055.05585262 / 3600) < 1e-9);
    choose("SI: m, W");
    choose("SI with prefixes");
    QTRY_VERIFY(heat().endsWith(" W"));
  }

  void aboutSaysLicenceAndVersions()
  {
    const QString text = aboutText();
    for (const char* word : {"Affero", "without any warranty", "VTK 9.1", "Qt 6.", "Breeze"})
      QVERIFY2(text.contains(word), word);
  }
};

int main(int argc, char** argv) { return runWindowTests<DrawTest>(argc, argv); }
#include "tst_draw.moc"
