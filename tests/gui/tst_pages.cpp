// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
//
// The pages one by one on a small solved project: document, ledger rows, fields, numbers, chips, camera, key.
#include "TestProjects.h"
#include "cases/CaseBar.h"
#include "cases/CaseChip.h"
#include "document/LedgerRows.h"
#include "fields/QuantityField.h"
#include "io/ProjectFile.h"
#include "ledger/LedgerPanel.h"
#include "ledger/LedgerRowView.h"
#include "scene/Turntable.h"
#include "strip/NumbersModel.h"
#include "watches/WatchCard.h"
#include "watches/WatchPanel.h"
#include "window/Application.h"
#include "window/ReadinessList.h"

#include <QAbstractItemModelTester>
#include <QApplication>
#include <QDir>
#include <QLabel>
#include <QSignalSpy>
#include <QStandardPaths>
#include <QTest>
#include <vtkCamera.h>
#include <vtkNew.h>

using namespace kiln;
using namespace kiln::test;

namespace
{

/// A heated plate on a base, with two cases and one part muted.
Project plateProject()
{
  Project project = projectWith(0.01);
  project.name = "plate";
  project.materials = {material("metal", 40), material("board", 0.3)};
  project.parts = {part("base", "board", block(0.06, 0.06, 0.01)),
                   part("plate", "metal", block(0.04, 0.04, 0.01), Vec3(0, 0, 0.01)),
                   part("spare", "metal", block(0.01, 0.01, 0.01), Vec3(0.5, 0, 0))};
  project.parts[2].muted = true;
  project.surfaces = {surface("under", {"base.bottom"}), exposedOf("skin", {"plate"})};
  project.sources = {source("heater", PartPower{{"plate"}, {3, "3 W"}}),
                     source("extra", PartPower{{"plate"}, {1, "1 W"}})};
  project.sources[1].muted = true;
  project.boundaries = {boundary("floor", FixedSurface{"under", {293.15, "20 °C"}}),
                        boundary("air", Convection{"skin", {10, "10 W/(m²·K)"}, {293.15, "20 °C"}})};
  Case hot;
  hot.id = "hot";
  hot.name = "Hot floor";
  hot.changes = {{"floor.temperature", Property{313.15, "40 °C"}}};
  project.cases.push_back(hot);
  project.watches = {watch("peak", PartFigure{PartFigure::Kind::Hottest, {"plate"}}),
                     watch("flow", ContactHeat{"plate", "base"})};
  project.watches[0].upper = Number{323.15, "50 °C"};
  return project;
}

} // namespace

class PagesTest : public QObject
{
  Q_OBJECT

  QTemporaryDir folder_;
  std::unique_ptr<Document> document_;
  std::unique_ptr<Preferences> preferences_;

  [[nodiscard]] std::filesystem::path file() const { return folder_.filePath("plate.kiln").toStdString(); }
  [[nodiscard]] std::vector<LedgerBand> bands() const { return ledgerBands(*document_, TemperatureUnit::Celsius); }
  [[nodiscard]] const LedgerRow* row(const std::string& id) const
  {
    static std::vector<LedgerBand> kept;
    kept = bands();
    for (const LedgerBand& band : kept)
      for (const LedgerRow& one : band.rows)
        if (one.id == id)
          return &one;
    return nullptr;
  }

  /// Widgets that were replaced go when the event loop comes round; tests look them up before.
  static void forgetDeleted() { QCoreApplication::sendPostedEvents(nullptr, QEvent::DeferredDelete); }

private slots:
  void initTestCase()
  {
    QStandardPaths::setTestModeEnabled(true);
    const Project project = plateProject();
    QVERIFY(saveProject(project, file()));
    QVERIFY(QDir().mkpath(folder_.filePath("plate.results")));
    const auto solved =
        runCase(project, project.cases.front(), folder_.filePath("plate.results").toStdString(), noProgress);
    for (const Finding& finding : solved ? std::vector<Finding>{} : solved.error().notReady)
      qWarning("%s", finding.sentence().c_str());
    if (!solved && solved.error().failure)
      qWarning("%s", solved.error().failure->sentence().c_str());
    QVERIFY(solved);
  }
  void init()
  {
    preferences_ = std::make_unique<Preferences>();
    preferences_->setTemperatureUnit(TemperatureUnit::Celsius);
    document_ = std::make_unique<Document>();
    QVERIFY(document_->open(file()));
  }

  void anEmptyDocumentIsUsable()
  {
    Document empty;
    QVERIFY(empty.isUnsaved() && empty.project().parts.empty());
    QCOMPARE(empty.project().cases.size(), std::size_t{1});
    QVERIFY(hasErrors(empty.findings()));
    QVERIFY(empty.shownMesh() == nullptr && !empty.geometryIsCurrent());
    QCOMPARE(ledgerBands(empty, TemperatureUnit::Celsius).size(), std::size_t{5});
  }

  void storedResultsComeWithTheProject()
  {
    QCOMPARE(document_->shownState().stage, CaseState::Stage::Solved);
    QCOMPARE(document_->state("hot").stage, CaseState::Stage::NeverRun);
    QVERIFY(document_->geometryIsCurrent() && !document_->isUnsaved());
    QVERIFY(document_->shownState().watches.size() == 2 && document_->shownState().watches[0].value);
  }

  void anyRowOfEditsUndoesToTheSameProject()
  {
    const Project start = document_->project();
    document_->setNumber("heater.power", {5, "5 W"});
    document_->edit("mute", [](Project& p) { p.boundaries[1].muted = true; });
    document_->edit("rename", [](Project& p) { p.parts[0].name = "Foot"; });
    document_->edit("nothing", [](Project&) {}); // changes nothing, makes no step
    document_->showCase("hot");
    document_->setNumber("floor.temperature", {333.15, "60 °C"});
    QCOMPARE(document_->undoStack().count(), 4);
    const Project end = document_->project();
    while (document_->undoStack().canUndo())
      document_->undoStack().undo();
    QVERIFY(document_->project() == start);
    QVERIFY(!document_->isUnsaved());
    while (document_->undoStack().canRedo())
      document_->undoStack().redo();
    QVERIFY(document_->project() == end);
    QCOMPARE(end.cases[1].changes[0].number()->text, std::string("60 °C"));
    QCOMPARE(std::get<FixedSurface>(end.boundaries[0].condition).temperature.text, std::string("20 °C"));
  }

  void editsMarkWhatDependsOnThem()
  {
    document_->edit("rename", [](Project& p) { p.parts[0].name = "Foot"; });
    QCOMPARE(document_->shownState().stage, CaseState::Stage::Solved);
    document_->edit("limit", [](Project& p) { p.watches[0].upper = Number{303.15, "30 °C"}; });
    QCOMPARE(document_->shownState().stage, CaseState::Stage::Solved);
    QVERIFY(*document_->shownState().watches[0].margin < 0); // read anew at once
    document_->setNumber("air.coefficient", {12, "12 W/(m²·K)"});
    QCOMPARE(document_->shownState().outOfDate, QString("solution"));
    document_->setNumber("plate.sizeX", {0.05, "50 mm"});
    QCOMPARE(document_->shownState().outOfDate, QString("mesh and solution"));
    QVERIFY(!document_->geometryIsCurrent() && document_->shownMesh() != nullptr); // the old picture stays
  }

  void theLedgerShowsWhatWasSetAndWhatFlows()
  {
    const auto all = bands();
    QCOMPARE(all[0].title, QString("HEAT IN"));
    QVERIFY(std::abs(*all[0].total - 3) < 1e-9);
    QVERIFY(std::abs(*all[3].total + 3) < 1e-6);
    QCOMPARE(*all[4].total, 0.0);
    QCOMPARE(row("heater")->set, QString("3 W in plate"));
    QVERIFY(std::abs(*row("heater")->figure - 3) < 1e-9 && std::abs(row("heater")->bar - 1) < 1e-6);
    QVERIFY(row("extra")->muted && !row("extra")->figure);
    QVERIFY(row("spare")->muted);
    QCOMPARE(row("air")->set, QString("10 W/(m²·K) to 20 °C · skin"));
    QVERIFY(row("air")->bar < 0);
    // Nobody set the contact: it says so, points where the heat goes, and shows its area.
    const LedgerRow* contact = row("base|plate");
    QVERIFY(contact != nullptr);
    QCOMPARE(contact->name, QString("plate → base"));
    QCOMPARE(contact->set, QString("perfect, because not set · 0.0016 m²"));
    QVERIFY(*contact->figure > 0);
    QVERIFY(!row("base|plate")->canMute);
  }

  void theLedgerFollowsTheShownCase()
  {
    QCOMPARE(row("floor")->set, QString("held at 20 °C · under"));
    document_->showCase("hot");
    QCOMPARE(row("floor")->set, QString("held at 40 °C · under"));
    QVERIFY(!row("floor")->figure); // never run
    QVERIFY(document_->caseChanges("floor.temperature") && !document_->caseChanges("air.coefficient"));
  }

  void rowsFilterAndMoveByKeys()
  {
    LedgerPanel panel(*document_, *preferences_);
    panel.resize(300, 800);
    panel.show();
    QVERIFY(QTest::qWaitForWindowExposed(&panel));
    panel.activateWindow(); // focus follows the active window only
    QVERIFY(QTest::qWaitForWindowActive(&panel));
    auto* heater = panel.findChild<LedgerRowView*>("row:heater");
    heater->setFocus(Qt::OtherFocusReason);
    QTest::keyClick(heater, Qt::Key_Down);
    QCOMPARE(document_->selectedId(), std::string("extra"));
    QTest::keyClick(panel.findChild<LedgerRowView*>("row:extra"), Qt::Key_Down);
    QCOMPARE(document_->selectedId(), std::string("base"));
    auto* filter = panel.findChild<QLineEdit*>("ledgerFilter");
    QTest::keyClicks(filter, "metal");
    QVERIFY(panel.findChild<LedgerRowView*>("row:plate")->isVisible());
    QVERIFY(!panel.findChild<LedgerRowView*>("row:base")->isVisible());
    panel.reveal("air");
    QVERIFY(filter->text().isEmpty());
    QVERIFY(panel.findChild<LedgerRowView*>("row:air")->isOpen());
    auto* mute = panel.findChild<QAbstractButton*>("mute:air");
    QTest::mouseClick(mute, Qt::LeftButton);
    QVERIFY(document_->project().boundaries[1].muted);
    QVERIFY(!mute->isChecked() && mute->toolTip().startsWith("Switched off"));
  }

  void aSelectionLightsItsFaces()
  {
    document_->select("plate");
    QCOMPARE(document_->litParts().size(), std::size_t{1});
    document_->select("air");
    QCOMPARE(document_->litFaces().size(), std::size_t{5});
    document_->select("heater");
    QCOMPARE(document_->litParts().size(), std::size_t{1});
    document_->select("base|plate");
    QCOMPARE(document_->litFaces().size(), std::size_t{1});
    document_->select("");
    QVERIFY(document_->litFaces().empty() && document_->litParts().empty());
  }

  void fieldsTakeUnitsAndRefuseWrongKinds()
  {
    QuantityField field(Quantity::Length, Range::Positive);
    field.setNumber(Number{0.02, "20 mm"});
    QSignalSpy committed(&field, &QuantityField::committed);
    QSignalSpy said(&field, &QuantityField::said);
    const auto type = [&](const char* text) {
      field.setFocus();
      field.selectAll();
      QTest::keyClicks(&field, text);
      QTest::keyClick(&field, Qt::Key_Return);
    };
    type("3 cm");
    QCOMPARE(committed.size(), 1);
    QCOMPARE(field.number()->si, 0.03);
    type("25"); // bare: in the unit shown, and says so
    QCOMPARE(field.number()->text, std::string("25 mm"));
    type("5 W");
    QVERIFY(said.last()[1].toBool() && said.last()[0].toString().contains("is a power"));
    type("0 mm");
    QVERIFY(said.last()[1].toBool() && said.last()[0].toString().contains("greater than zero"));
    QCOMPARE(field.number()->si, 0.025);
    QCOMPARE(committed.size(), 2);
    QTest::keyClick(&field, Qt::Key_Escape);
    QCOMPARE(field.text(), QString("25 mm"));
    type("25 mm"); // the same again is no change
    QCOMPARE(committed.size(), 2);
  }

  void anOptionalFieldMayBeCleared()
  {
    QuantityField field(Quantity::Temperature, Range::Any);
    field.setOptional(true);
    field.setNumber(Number{323.15, "50 °C"});
    QSignalSpy cleared(&field, &QuantityField::cleared);
    field.selectAll();
    QTest::keyClick(&field, Qt::Key_Delete);
    QTest::keyClick(&field, Qt::Key_Return);
    QCOMPARE(cleared.size(), 1);
    QVERIFY(!field.number());
  }

  void theNumbersTableIsAProperModel()
  {
    NumbersModel model(*document_, *preferences_);
    const QAbstractItemModelTester tester(&model, QAbstractItemModelTester::FailureReportingMode::QtTest);
    QCOMPARE(model.rowCount(), 2 + 1 + 1 + 2); // parts, source, contact, boundaries
    QCOMPARE(model.index(0, NumbersModel::Name).data().toString(), QString("base"));
    QVERIFY(model.index(1, NumbersModel::Hottest).data(NumbersModel::SortRole).toDouble() > 20);
    QVERIFY(!model.index(1, NumbersModel::Heat).data(NumbersModel::SortRole).isValid());
    preferences_->setTemperatureUnit(TemperatureUnit::Kelvin);
    QCOMPARE(model.headerData(NumbersModel::Hottest, Qt::Horizontal, Qt::DisplayRole).toString(),
             QString("Hottest, K"));
    QVERIFY(model.index(1, NumbersModel::Hottest).data(NumbersModel::SortRole).toDouble() > 293);
    document_->showCase("hot");
    QCOMPARE(model.rowCount(), 0); // never run: nothing to show
  }

  void chipsShowMarginAndState()
  {
    CaseChip chip(*document_, *preferences_, "steady");
    QVERIFY(chip.isChecked());
    QVERIFY(chip.accessibleName().contains("solved") && chip.toolTip().contains("worst margin"));
    document_->setRunning("steady", 0.42, "mesh: filling");
    chip.refresh();
    QVERIFY(chip.toolTip().contains("running, 42 % (mesh: filling)"));
    document_->setFailed("steady", "part plate: It melted.");
    chip.refresh();
    QVERIFY(chip.toolTip().contains("failed: part plate: It melted."));
    QVERIFY(document_->shownState().result != nullptr); // the older result stays
    document_->setIdle("steady");
    chip.refresh();
    QVERIFY(chip.toolTip().contains("solved"));
  }

  void watchCardsShowFigureMarginAndPlace()
  {
    WatchPanel panel(*document_, *preferences_);
    panel.resize(260, 600);
    panel.show();
    auto* figure = panel.findChild<QLabel*>("watchFigure:peak");
    const double value = document_->shownState().watches[0].value.value() - zeroCelsius;
    QCOMPARE(figure->text(), QString::number(value, 'f', 1) + " °C");
    QVERIFY(panel.findChild<QLabel*>("watchPlace:peak")->text().startsWith("on plate"));
    QVERIFY(panel.findChild<QLabel*>("watchFigure:flow")->text().endsWith("W"));
    document_->select("air");
    panel.addForSelection();
    QCOMPARE(document_->project().watches.back().name, std::string("skin, hottest"));
    QVERIFY(panel.findChild<QLabel*>("watchFigure:watch-1")->text().endsWith("°C"));
    document_->select("base|plate");
    panel.addForSelection();
    QVERIFY(std::holds_alternative<ContactHeat>(document_->project().watches.back().figure));
    document_->showCase("hot");
    forgetDeleted();
    QCOMPARE(panel.findChild<QLabel*>("watchPlace:peak")->text(), QString("not solved yet"));
  }

  void readinessListsAndLeads()
  {
    ReadinessList list(*document_);
    list.refresh();
    list.show();                                              // follows by itself while it is shown
    QVERIFY(list.findChild<QLabel*>("finding:0") != nullptr); // the unset contact, the faces insulated by default
    QSignalSpy wanted(&list, &ReadinessList::wanted);
    emit list.findChild<QLabel*>("finding:0")->linkActivated("#0");
    QCOMPARE(wanted.size(), 1);
    document_->edit("spoil", [](Project& p) { p.parts[0].material = "nothing"; });
    QTRY_VERIFY((forgetDeleted(), list.findChild<QLabel*>("finding:0")->text().contains("✕")));
    QVERIFY(hasErrors(document_->findings()));
  }

  void theTurntableKeepsDistanceAndUp()
  {
    vtkNew<vtkCamera> camera;
    turntable::lookAlong(*camera, Vec3(-1, -1, 0), Vec3(1, 1, 2), Vec3(0, 1, 0), Vec3(0, 0, 1));
    const double distance = camera->GetDistance();
    QVERIFY(camera->GetPosition()[1] < -1 && std::abs(camera->GetFocalPoint()[2] - 1) < 1e-12);
    turntable::orbit(*camera, 90, 0);
    QVERIFY(std::abs(camera->GetDistance() - distance) < 1e-9);
    QVERIFY(camera->GetPosition()[0] > 1 && std::abs(camera->GetPosition()[1]) < 1e-9);
    turntable::orbit(*camera, 0, 500); // stops before the pole
    QVERIFY(camera->GetPosition()[2] > 1 && camera->GetViewUp()[2] == 1);
    QVERIFY(std::abs(camera->GetDistance() - distance) < 1e-9);
    turntable::lookAlong(*camera, Vec3(-1, -1, 0), Vec3(1, 1, 2), Vec3(0, 0, -1), Vec3(0, 1, 0)); // from above
    turntable::orbit(*camera, 0, -30);
    QVERIFY(std::abs(camera->GetPosition()[0]) < 1e-6 && camera->GetPosition()[1] < -0.1); // what was below is in front
    const double before = camera->GetFocalPoint()[0];
    turntable::pan(*camera, 100, 0, 500); // the model follows the pointer to the right
    QVERIFY(camera->GetFocalPoint()[0] < before);
  }
};

int main(int argc, char** argv)
{
  kiln::prepareApplication();
  QApplication application(argc, argv);
  kiln::applyTheme(application, kiln::ThemeChoice::Light);
  PagesTest test;
  return QTest::qExec(&test, argc, argv);
}
#include "tst_pages.moc"
