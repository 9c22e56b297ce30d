// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
//
// What the schema knows is in the window: every kind of source, boundary and link is in the menus, its row has an
// editor with help for every field, and another kind keeps what both have. Parts of the document, each alone.
#include "../TransientProjects.h"
#include "WindowDriver.h"
#include "document/Lighting.h"
#include "document/Selection.h"
#include "io/ProjectFile.h"
#include "model/Edit.h"
#include "model/OwnValues.h"
#include "strip/StripPanel.h"

#include <QCheckBox>
#include <QLabel>
#include <QScrollArea>
#include <QSignalSpy>
#include <QTableWidget>

using namespace kiln;
using namespace kiln::test;

namespace
{

Project wall()
{
  Project p = projectWith(0.02);
  p.name = "wall";
  p.materials = {heavy("brick", 0.5, 800, 1000)};
  p.parts = {part("low", "brick", block(0.04, 0.04, 0.01)),
             part("high", "brick", block(0.04, 0.04, 0.01), Vec3(0, 0, 0.01))};
  p.surfaces = {surface("under", {"low.bottom"}), surface("over", {"high.top"})};
  p.boundaries = {boundary("air", Convection{"under", Property{20, "20 W/(m²·K)"}, Property{293.15, "20 °C"}})};
  p.watches = {watch("peak", PartFigure{PartFigure::Kind::Hottest, {"high"}})};
  p.nodes.resize(2);
  p.nodes[0].id = p.nodes[0].name = "sump";
  p.nodes[1].id = p.nodes[1].name = "tank";
  return p;
}

QString words(std::string_view text) { return QString::fromUtf8(text.data(), static_cast<qsizetype>(text.size())); }

} // namespace

class RowsTest : public QObject, private WindowDriver
{
  Q_OBJECT

  /// Editors of the shown row by the path of what they edit.
  QWidget* editorOf(const std::string& row, const std::string& path)
  {
    QCoreApplication::sendPostedEvents(nullptr, QEvent::DeferredDelete);
    auto* view = window_->findChild<LedgerRowView*>("row:" + QString::fromStdString(row));
    return view != nullptr ? view->findChild<QWidget*>("field:" + QString::fromStdString(path)) : nullptr;
  }
  /// Adds one of each kind from a menu of a band and asks its row for every field.
  template <std::size_t N>
  void addEachOf(const QString& menu, const KindSpecs<N>& kinds, const auto& list)
  {
    for (const KindSpec& kind : kinds) {
      document().select("over");
      const std::size_t before = list().size();
      choose(menu, {words(kind.label)});
      QCOMPARE(list().size(), before + 1);
      const std::string id = list().back().id;
      openMore(*find<LedgerRowView>("row:" + QString::fromStdString(id)));
      Project shown = document().shownProject();
      for (const Field& field : settingsOf(shown, id)) {
        const bool elsewhere = field.key == "name" || field.key == "comment" || field.key == "muted" ||
                               field.key == "follows" || kind.name == "correlation";
        if (elsewhere)
          continue;
        QWidget* editor = editorOf(id, field.path);
        QVERIFY2(editor != nullptr && editor->isVisible(), field.path.c_str());
        QVERIFY2(editor->toolTip().contains(QString::fromStdString(field.path)) &&
                     editor->toolTip().contains(words(field.help)),
                 field.path.c_str());
        QVERIFY2(!editor->accessibleName().isEmpty(), field.path.c_str());
        ++asked_;
      }
      closeRow(QString::fromStdString(id));
    }
  }
  int asked_ = 0;

private slots:
  void initTestCase()
  {
    open();
    const QString file = folder_.filePath("wall.kiln");
    QVERIFY(saveProject(wall(), file.toStdString()));
    QVERIFY(window_->openFile(file));
    waitForShapes();
  }

  /// One click on the sign at its right opens a row, one more closes it; elsewhere a click only selects.
  void aRowFoldsByOneClick()
  {
    const std::string id = project().parts.front().id;
    auto* row = find<LedgerRowView>("row:" + QString::fromStdString(id));
    const int line = row->fontMetrics().height();
    const QPoint sign(row->width() - line / 2 - 5, 5 + line * 3 / 2);
    QTest::mouseClick(row, Qt::LeftButton, {}, sign);
    QVERIFY(row->isOpen());
    QTest::mouseClick(row, Qt::LeftButton, {}, sign);
    QVERIFY(!row->isOpen());
    QTest::mouseClick(row, Qt::LeftButton, {}, QPoint(row->width() / 2, 8));
    QVERIFY(!row->isOpen());
    QCOMPARE(document().selectedId(), id);
  }

  void everyKindIsInTheMenusWithAllItsFields()
  {
    addEachOf(
        "add:0", describing::sourceKinds, [&]() -> const auto& { return project().sources; });
    addEachOf(
        "add:3", describing::boundaryKinds, [&]() -> const auto& { return project().boundaries; });
    addEachOf(
        "add:2", describing::linkKinds, [&]() -> const auto& { return project().links; });
    QVERIFY2(asked_ > 70, qPrintable(QString::number(asked_)));
    while (document().undoStack().canUndo())
      document().undoStack().undo();
    QCOMPARE(project().boundaries.size(), std::size_t(1));
  }

  /// Given convection, when its kind is made radiation, then the surface stays and it can be taken back.
  void anotherKindKeepsTheSurface()
  {
    openRow("air");
    pickCombo("field:air.kind", 2);
    const auto* radiation = std::get_if<Radiation>(&project().boundaries[0].condition);
    QVERIFY(radiation != nullptr);
    QCOMPARE(radiation->surface, std::string("under"));
    QCOMPARE(radiation->surroundings.text, std::string("20 °C"));
    type("field:air.surroundings", "80 °C");
    QVERIFY(std::abs(std::get<Radiation>(project().boundaries[0].condition).surroundings.si - 353.15) < 1e-9);
    document().undoStack().undo();
    document().undoStack().undo();
    QVERIFY(std::holds_alternative<Convection>(project().boundaries[0].condition));
    closeRow("air");
  }

  /// A reference is chosen among the objects it may name; of a surface a new one can be made.
  void referencesAreChosen()
  {
    openRow("air");
    auto* surfaces = find<QComboBox>("field:air.surface");
    QCOMPARE(surfaces->count(), 3); // under, over, a new one
    pickCombo("field:air.surface", surfaces->findData("over"));
    QCOMPARE(surfaceOf(project().boundaries[0]), std::string("over"));
    pickCombo("field:air.surface", find<QComboBox>("field:air.surface")->count() - 1);
    QCOMPARE(project().surfaces.size(), std::size_t(3));
    QCOMPARE(surfaceOf(project().boundaries[0]), project().surfaces.back().id);
    auto* node = find<QComboBox>("field:air.node");
    QCOMPARE(node->itemText(0), QString("the surroundings, at the temperature above"));
    pickCombo("field:air.node", node->findData("tank"));
    QCOMPARE(nodeOf(project().boundaries[0]), std::string("tank"));
    closeRow("air");
    while (document().undoStack().canUndo())
      document().undoStack().undo();
  }

  /// The other way of saying a power follows what is typed; and rows, opened, stay beside the scroll bar.
  void theOtherWayFollows()
  {
    document().select("over");
    choose("add:0", {"Power on a surface"});
    const std::string id = project().sources.back().id;
    auto* said = find<QToolButton>("convertFlux");
    document().setNumber(id + ".power", {16, "16 W", false});
    QCOMPARE(said->text(), QString("As 10 kW/m² over 0.0016 m²"));
    document().setNumber(id + ".power", {8, "8 W", false});
    QCOMPARE(said->text(), QString("As 5000 W/m² over 0.0016 m²"));
    const auto* row = find<LedgerRowView>("row:" + QString::fromStdString(id));
    const QWidget* viewport = row->parentWidget();
    while (qobject_cast<const QScrollArea*>(viewport->parentWidget()) == nullptr)
      viewport = viewport->parentWidget();
    QVERIFY2(row->mapTo(viewport, QPoint(row->width(), 0)).x() <= viewport->width(),
             qPrintable(QString("%1 of %2").arg(row->width()).arg(viewport->width())));
    QTest::mouseClick(said, Qt::LeftButton);
    const auto* flux = std::get_if<SurfaceFlux>(&project().sources.back().heat);
    QVERIFY(flux != nullptr && std::abs(flux->flux.si - 5000) < 1e-6);
    while (document().undoStack().canUndo())
      document().undoStack().undo();
  }

  /// A thermostat comes with numbers that may be, and its switch is one of the schema.
  void aThermostatHasItsRows()
  {
    choose("add:0", {"Power in parts"});
    const std::string id = project().sources.back().id;
    pickCombo("thermostatWatch", find<QComboBox>("thermostatWatch")->findData("peak"));
    const auto& made = project().sources.back().thermostat;
    QVERIFY(made && made->watch == "peak" && made->band.si > 0 && made->setPoint.si > 300);
    auto* graded = qobject_cast<QCheckBox*>(editorOf(id, id + ".thermostat.graded"));
    QVERIFY(graded != nullptr && !graded->isChecked());
    graded->click();
    QVERIFY(project().sources.back().thermostat->graded);
    while (document().undoStack().canUndo())
      document().undoStack().undo();
  }

  /// Given edits that count in the shown case alone, then the project and the other case keep theirs, whatever the kind
  /// of field; each can be taken back, or given to the project.
  void anythingCanBeACasesOwn()
  {
    document().edit("second case", [](Project& p) {
      Case other = p.cases.front();
      other.id = other.name = "other";
      p.cases.push_back(other);
    });
    const std::string first = project().cases[0].id;
    auto* scope = find<QComboBox>("editScopeChoice");
    QVERIFY(scope->isVisible());
    QTest::keySequence(window_.get(), QKeySequence("Ctrl+Shift+E"));
    QVERIFY(document().editsCaseOnly());
    QTRY_COMPARE(scope->currentIndex(), 1);
    openRow("air");
    type("field:air.coefficient", "35");
    pickCombo("field:air.surface", find<QComboBox>("field:air.surface")->findData("over"));
    closeRow("air");
    const auto conditionOf = [](const Project& p) { return std::get<Convection>(p.boundaries[0].condition); };
    QCOMPARE(conditionOf(project()).coefficient.si, 20.0);
    QCOMPARE(conditionOf(project()).surface, std::string("under"));
    QCOMPARE(conditionOf(document().shownProject()).coefficient.si, 35.0);
    QCOMPARE(conditionOf(document().shownProject()).surface, std::string("over"));
    document().set("air.muted", true);
    QVERIFY(!project().boundaries[0].muted && document().shownProject().boundaries[0].muted);
    QCOMPARE(project().cases[0].changes.size(), std::size_t(3));
    document().showCase("other"); // where edits count in the project
    QVERIFY(!document().editsCaseOnly() && scope->currentIndex() == 0);
    QCOMPARE(conditionOf(document().shownProject()).coefficient.si, 20.0);
    QVERIFY(!document().shownProject().boundaries[0].muted);
    document().showCase(first);
    QVERIFY(document().editsCaseOnly());

    openRow("air");
    QVERIFY(find<QLabel>("projectValue:air.coefficient")->text().contains("20 W/(m²·K)"));
    QTest::mouseClick(find<QToolButton>("takeProject:air.coefficient"), Qt::LeftButton);
    QCOMPARE(conditionOf(document().shownProject()).coefficient.si, 20.0);
    QTest::mouseClick(find<QToolButton>("giveProject:air.surface"), Qt::LeftButton);
    QCOMPARE(conditionOf(project()).surface, std::string("over"));
    QCOMPARE(project().cases[0].changes.size(), std::size_t(1)); // muted is still its own
    closeRow("air");
    document().editCaseOnly(false);
    while (document().undoStack().canUndo())
      document().undoStack().undo();
    QVERIFY(project() == wall());
  }

  /// Given a kind of the case's own, then its row shows the fields of that kind, and a case's settings stay its own.
  void aKindOfTheCasesOwn()
  {
    document().edit("second case", [](Project& p) {
      Case other = p.cases.front();
      other.id = other.name = "glowing";
      p.cases.push_back(other);
    });
    document().showCase("glowing");
    document().editCaseOnly(true);
    openRow("air");
    pickCombo("field:air.kind", 2);
    QVERIFY(std::holds_alternative<Convection>(project().boundaries[0].condition));
    QVERIFY(std::holds_alternative<Radiation>(document().shownProject().boundaries[0].condition));
    QVERIFY(editorOf("air", "air.surroundings") != nullptr && editorOf("air", "air.coefficient") == nullptr);
    type("field:air.surroundings", "90 °C");
    QCOMPARE(project().cases.back().changes.size(), std::size_t(2));
    const auto seen = projectForCase(project(), project().cases.back());
    QVERIFY(seen && std::abs(std::get<Radiation>(seen->boundaries[0].condition).surroundings.si - 363.15) < 1e-9);
    document().set("glowing.instant", Property{60, "60 s"});
    QCOMPARE(project().cases.back().changes.size(), std::size_t(2));
    QCOMPARE(project().cases.back().instant->si, 60.0);
    closeRow("air");
    document().editCaseOnly(false);
    while (document().undoStack().canUndo())
      document().undoStack().undo();
  }

  /// Given a rib that is added to one case only, then the other case's shapes are the ones before.
  void aStepOfOneCaseAlone()
  {
    document().edit("second case", [](Project& p) {
      Case other = p.cases.front();
      other.id = other.name = "ribbed";
      p.cases.push_back(other);
    });
    const std::string plain = document().geometryHash();
    document().showCase("ribbed");
    document().editCaseOnly(true);
    openRow("high");
    choose("addStep", {"Join a shape", "Block"});
    QCOMPARE(project().parts[1].steps.size(), std::size_t(1));
    QVERIFY(project().parts[1].steps[0].muted && !document().shownProject().parts[1].steps[0].muted);
    const std::string ribbed = document().geometryHash();
    QVERIFY(ribbed != plain);
    document().showCase(project().cases[0].id);
    QCOMPARE(document().geometryHash(), plain);
    auto* on = find<QAbstractButton>("stepOn:" + QString::fromStdString(project().parts[1].steps[0].id));
    QVERIFY(!on->isChecked());
    on->click(); // here edits count in the project
    QVERIFY(!project().parts[1].steps[0].muted);
    QCOMPARE(document().geometryHash(), ribbed);
    closeRow("high");
    while (document().undoStack().canUndo())
      document().undoStack().undo();
  }

  /// Given two cases of which one has more power, then the page says so and by how much the watch differs.
  void whatDiffersIsShownSideBySide()
  {
    document().edit("two cases", [](Project& p) {
      p.sources = {source("coil", SurfacePower{"over", {2, "2 W"}})};
      p.nodes.clear(); // tied to nothing
      Case other = p.cases.front();
      other.id = other.name = "stronger";
      other.changes = {{"coil.power", Property{3, "3 W"}}};
      p.cases.push_back(other);
    });
    QTest::keySequence(window_.get(), QKeySequence(Qt::SHIFT | Qt::Key_F5));
    const auto ended = [&](const std::string& id) {
      const CaseState::Stage stage = document().state(id).stage;
      return stage == CaseState::Stage::Solved || stage == CaseState::Stage::Failed;
    };
    QTRY_VERIFY_WITH_TIMEOUT(ended("stronger") && ended(document().shownCase()), childTime);
    QVERIFY2(document().state("stronger").result && document().shownState().result,
             qPrintable(document().state("stronger").message + document().shownState().message));
    window_->strip().setPage(6);
    auto* inputs = find<QTableWidget>("differentInputs");
    auto* figures = find<QTableWidget>("differentFigures");
    QTRY_COMPARE(inputs->rowCount(), 1);
    QCOMPARE(inputs->item(0, 0)->text(), QString("source coil, Power"));
    QCOMPARE(inputs->item(0, 1)->text(), QString("2 W"));
    QCOMPARE(inputs->item(0, 2)->text(), QString("3 W"));
    int peak = -1;
    for (int row = 0; row < figures->rowCount(); ++row)
      if (figures->item(row, 0)->text() == "peak")
        peak = row;
    QVERIFY(peak >= 0);
    // All heat goes down through two slabs of 10 mm and 20 W/(m²·K): 1 W more is that much warmer at the top.
    const double more = 1 / (0.04 * 0.04) * (1 / 20. + 0.02 / 0.5);
    const QString difference = figures->item(peak, 3)->text();
    QVERIFY2(std::abs(difference.section(' ', 0, 0).toDouble() - more) < 0.01 * more, qPrintable(difference));
    QCOMPARE(find<QLabel>("comparedNotes")->text(), QString());
    find<QCheckBox>("comparedAll")->click();
    QVERIFY(inputs->rowCount() > 20);
    figures->sortItems(3, Qt::DescendingOrder);
    while (document().undoStack().canUndo())
      document().undoStack().undo();
  }

  void selectionKnowsOnlyNames()
  {
    Selection selection;
    QSignalSpy changed(&selection, &Selection::changed);
    QSignalSpy picked(&selection, &Selection::pickedFacesChanged);
    QSignalSpy folded(&selection, &Selection::foldingChanged);
    selection.select("a");
    selection.toggle("b");
    QCOMPARE(selection.ids(), (std::vector<std::string>{"a", "b"}));
    QCOMPARE(selection.id(), std::string("a"));
    selection.toggle("a");
    QCOMPARE(selection.id(), std::string("b"));
    selection.pickFaces({"low.top"});
    QCOMPARE(picked.count(), 1);
    selection.select({});
    QVERIFY(selection.id().empty() && selection.pickedFaces().empty() && !selection.holds("b"));
    QCOMPARE(picked.count(), 2); // let go
    selection.toggleGroup("g");
    selection.toggleStep("part.step");
    QVERIFY(selection.foldedGroups().contains("g") && selection.openSteps().contains("part.step"));
    QCOMPARE(folded.count(), 1);
    QVERIFY(changed.count() >= 4);
  }

  /// What lights up is what an object stands on, whatever kind it is.
  void whatLightsUp()
  {
    const Project p = wall();
    const auto mesh = meshOf(p);
    QCOMPARE(litBy(p, mesh, "air").faces.size(), std::size_t(1));
    QVERIFY(litBy(p, mesh, "air").parts.empty());
    QCOMPARE(litBy(p, mesh, "low").parts.size(), std::size_t(1));
    QCOMPARE(litBy(p, mesh, "low|high").faces.size(), std::size_t(1));
    QVERIFY(litBy(p, mesh, "peak").faces.empty() && litBy(p, mesh, "").faces.empty());
    QCOMPARE(litFaces(p, mesh, {"low.bottom", "high.top"}).faces.size(), std::size_t(2));
    Project heated = p;
    heated.sources = {source("both", PartPower{{"low", "high"}, Property{1, "1 W"}})};
    QCOMPARE(litBy(heated, mesh, "both").parts.size(), std::size_t(2));
  }
};

int main(int argc, char** argv) { return runWindowTests<RowsTest>(argc, argv); }
#include "tst_rows.moc"
