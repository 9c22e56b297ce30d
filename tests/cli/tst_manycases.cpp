// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
//
// Many cases without a window: groups and patterns, several at a time, one that is killed, what differs, cases on their
// way to another project, references said.
#include "TestProjects.h"
#include "cli/Ukiln.h"
#include "io/AtomicFile.h"
#include "io/ProjectFile.h"
#include "io/ResultFile.h"
#include "results/ResultFields.h"

#include <QDir>
#include <QFile>
#include <QProcess>
#include <QTest>
#include <csignal>
#include <nlohmann/json.hpp>
#include <vtkCellData.h>
#include <vtkFieldData.h>
#include <vtkNew.h>
#include <vtkPointData.h>
#include <vtkStringArray.h>
#include <vtkUnstructuredGrid.h>
#include <vtkXMLUnstructuredGridReader.h>

using namespace kiln;
using namespace kiln::test;

namespace
{

/// The process that another one has started for a case; 0: there is none.
pid_t childThatSolves(qint64 parent, const char* caseId)
{
  for (int i = 0; i < 600; ++i) {
    QTest::qWait(10);
    QProcess ps;
    ps.start("pgrep", {"-P", QString::number(parent), "-x", caseId});
    ps.waitForFinished();
    if (const pid_t child = ps.readAllStandardOutput().split('\n').value(0).toInt(); child > 0)
      return child;
  }
  return 0;
}

/// A plate in rooms that are warmer and warmer, with one case that cannot be solved.
Project rooms(int count)
{
  Project p = projectWith(0.01);
  p.name = "rooms";
  p.materials = {material("brick", 0.5)};
  p.parts = {part("wall", "brick", block(0.05, 0.05, 0.02))};
  p.surfaces = {surface("under", {"wall.bottom"}), surface("over", {"wall.top"})};
  p.sources = {source("heater", SurfacePower{"over", {2, "2 W"}})};
  p.boundaries = {boundary("air", Convection{"under", Property{20, "20 W/(m²·K)"}, Property{300, "300 K"}})};
  p.watches = {watch("peak", PartFigure{PartFigure::Kind::Hottest, {"wall"}})};
  for (int i = 0; i < count; ++i) {
    Case room;
    room.id = "room-" + std::to_string(i);
    room.name = "Room " + std::to_string(i);
    room.group = "Rooms";
    room.changes = {{"air.ambient", Property{{301.0 + i, {}}, {}}}};
    p.cases.push_back(std::move(room));
  }
  return p;
}

} // namespace

class ManyCasesTest : public QObject
{
  Q_OBJECT

  QTemporaryDir folder_;

  QString path(const QString& name) const { return folder_.filePath(name); }
  QString write(const Project& p, const QString& name) const
  {
    if (!saveProject(p, path(name).toStdString()))
      throw std::runtime_error("not written");
    return path(name);
  }
  double peakOf(const QString& folder, const QString& id) const
  {
    const auto figures = nlohmann::json::parse(*readWhole((folder + "/" + id + ".figures.json").toStdString()));
    return figures["watches"][0]["value"].get<double>();
  }

private slots:
  /// Given a group, two at a time, then each is solved as alone, their mesh is made once, and a log lies beside each.
  void aGroupTwoAtATime()
  {
    const QString file = write(rooms(5), "group.kiln");
    const Outcome outcome = run({"solve", file, "--case", "Rooms/*", "--jobs", "2", "--nice", "--out", path("g")});
    QVERIFY2(outcome.code == 0, qPrintable(outcome.error + outcome.out));
    for (int i = 0; i < 5; ++i) {
      const QString id = "room-" + QString::number(i);
      // By hand: T = ambient + q (1/h + L/k), q = 2 W over 25 cm².
      QVERIFY(std::abs(peakOf(path("g"), id) - (301.0 + i + 2 / 0.0025 * (1 / 20.0 + 0.02 / 0.5))) < 1e-6);
      const auto log = readWhole((path("g") + "/" + id + ".log").toStdString());
      QVERIFY(log && log->find("solve:") != std::string::npos);
      QVERIFY(outcome.out.contains("Room " + QString::number(i)));
    }
    QVERIFY(!QFile::exists(path("g") + "/steady.figures.json")); // not of the group
    int meshed = 0;
    for (int i = 0; i < 5; ++i)
      meshed += readWhole((path("g") + "/room-" + QString::number(i) + ".log").toStdString())->find("fusing parts") !=
                std::string::npos;
    QCOMPARE(meshed, 1);
    QVERIFY(outcome.out.count("hot spots") == 5);
  }

  /// Given one that fails and one that starts from it, then the rest is solved and the end says which were not and why.
  void failuresAreListedAtTheEnd()
  {
    Project p = rooms(3);
    p.materials[0].density = number(800);
    p.materials[0].specificHeat = Property{1000, ""};
    findById(p.cases, "room-1")->changes.push_back({"nothing.here", Property{{1, {}}, {}}});
    Case after;
    after.id = "after";
    after.name = "After it";
    after.kind = Case::Kind::Transient;
    after.run = TransientRun{};
    after.run->start = StartFromCase{"room-1", {}, {}};
    p.cases.push_back(after);
    const QString file = write(p, "failing.kiln");
    for (const QString& jobs : {QString("1"), QString("3")}) {
      const QString out = path("f" + jobs);
      const Outcome outcome = run({"solve", file, "--all", "--jobs", jobs, "--out", out});
      QVERIFY2(outcome.code != 0, qPrintable(outcome.out));
      QVERIFY2(outcome.out.contains("2 of 5 cases failed:"), qPrintable(outcome.out));
      QVERIFY(outcome.out.contains("Room 1: ") && outcome.out.contains("nothing.here"));
      QVERIFY(outcome.out.contains("After it: skipped"));
      for (const char* id : {"steady", "room-0", "room-2"})
        QVERIFY(QFile::exists(out + "/" + id + ".figures.json"));
      QVERIFY(!QFile::exists(out + "/room-1.figures.json"));
    }
  }

  /// Given a job that the system kills, then it fails alone.
  void aKilledJobFailsAlone()
  {
    Project p = rooms(2);
    p.mesh.size = number(0.0009);
    const QString file = write(p, "killed.kiln");
    QProcess process;
    process.start(UKILN, {"solve", file, "--case", "room-*", "--jobs", "2", "--out", path("k")});
    QVERIFY(process.waitForStarted());
    const pid_t child = childThatSolves(process.processId(), "room-0");
    QVERIFY(child > 0);
    ::kill(child, SIGKILL);
    QVERIFY(process.waitForFinished(300'000));
    const QString out = QString::fromUtf8(process.readAllStandardOutput());
    QCOMPARE(process.exitCode(), 3);
    QVERIFY2(out.contains("1 of 2 cases failed:") && out.contains("Room 0: It was killed"), qPrintable(out));
    QVERIFY(QFile::exists(path("k") + "/room-1.figures.json"));
    QVERIFY(!QFile::exists(path("k") + "/room-0.figures.json"));
  }

  void aQueueThatIsEndedLeavesNobodyBehind_data()
  {
    QTest::addColumn<int>("signal");
    QTest::addRow("interrupted") << SIGINT;
    QTest::addRow("told to end") << SIGTERM;
    QTest::addRow("killed") << SIGKILL;
  }

  /// Given a queue that is ended while two run, then both leave too, with nothing half-written.
  void aQueueThatIsEndedLeavesNobodyBehind()
  {
    QFETCH(const int, signal);
    Project p = rooms(2);
    p.mesh.size = number(0.0009);
    const QString file = write(p, "ended.kiln"), folder = path("e") + QString::number(signal);
    QProcess process;
    process.start(UKILN, {"solve", file, "--case", "room-*", "--jobs", "2", "--out", folder});
    QVERIFY(process.waitForStarted());
    std::vector<pid_t> children;
    for (const char* id : {"room-0", "room-1"}) {
      children.push_back(childThatSolves(process.processId(), id));
      QVERIFY(children.back() > 0);
    }
    QTest::qWait(300); // they have begun
    ::kill(static_cast<pid_t>(process.processId()), signal);
    QVERIFY(process.waitForFinished(30'000));
    for (const pid_t child : children)
      QTRY_VERIFY_WITH_TIMEOUT(::kill(child, 0) != 0, 10'000);
    for (const QString& left : QDir(folder).entryList(QDir::Files | QDir::Hidden))
      QVERIFY2(!left.endsWith(".new") && !left.endsWith(".figures.json"), qPrintable(left));
    if (signal == SIGKILL)
      return;
    QCOMPARE(process.exitCode(), 130);
    const QString said = QString::fromUtf8(process.readAllStandardOutput() + process.readAllStandardError());
    QVERIFY2(said.contains("cancelled: Room 0, Room 1"), qPrintable(said));
    QVERIFY(QDir(folder).entryList({"*.said"}, QDir::Files | QDir::Hidden).isEmpty());
  }

  void casesTravelBetweenProjects()
  {
    Project p = rooms(2);
    PropertySet set;
    set.id = "dense";
    set.name = "Dense";
    set.changes = {{"brick.conductivity", Property{1, "1 W/(m·K)"}}};
    p.sets = {set};
    findById(p.cases, "room-1")->sets = {"dense"};
    findById(p.cases, "room-0")->changes.push_back({"heater.power", Property{3, "3 W"}});
    const QString from = write(p, "from.kiln");
    Project other = rooms(0);
    other.name = "other";
    other.sources[0].name = "coil"; // the same id, another name: it is matched by its id
    other.boundaries[0].id = "draught";
    const QString to = write(other, "to.kiln");
    QCOMPARE(run({"cases", "export", from, "--case", "room-*", "--to", path("rooms.kiln")}).code, 0);
    const Outcome taken = run({"cases", "import", to, "--from", path("rooms.kiln")});
    QVERIFY2(taken.code == 0, qPrintable(taken.error));
    QVERIFY(taken.out.contains("2 case(s) and 1 set(s) taken in, 0 value(s) skipped"));
    const auto now = loadProject(to.toStdString());
    QCOMPARE(now->cases.size(), 3U);
    QCOMPARE(now->cases[1].changes[0].field, std::string("draught.ambient"));
    QCOMPARE(now->cases[1].changes[1].field, std::string("heater.power"));
    const Outcome list = run({"cases", "list", to});
    QVERIFY2(list.out.contains("Room 1") && list.out.contains("draught.ambient") && list.out.contains("not solved"),
             qPrintable(list.out));
    QVERIFY(run({"cases", "import", to, "--from", from}).code != 0); // a plain project is no such file
    QVERIFY(run({"cases", "import", to, "--from", path("nothing")}).code == 2);
    Project bare = projectWith(0.01);
    const Outcome lost = run({"cases", "import", write(bare, "bare.kiln"), "--from", path("rooms.kiln")});
    QCOMPARE(lost.code, 0);
    QVERIFY2(lost.out.contains("there is no boundary “air” here") && lost.out.contains("4 value(s) skipped"),
             qPrintable(lost.out));
  }

  /// Given a watch with a reference and one that is compared with another case, then both are said and stored.
  void referencesAreSaid()
  {
    Project p = rooms(1);
    p.watches[0].reference = Number{374, "374 K"};
    p.watches[0].tolerance = Number{5, "5 K"};
    p.watches[0].referenceFrom = "by hand";
    Watch second = p.watches[0];
    second.id = second.name = "beside";
    second.reference.reset();
    second.tolerance.reset();
    second.referenceCase = "steady";
    p.watches.push_back(second);
    const QString file = write(p, "reference.kiln");
    const Outcome outcome = run({"solve", file, "--all", "--out", path("r")});
    QVERIFY2(outcome.code == 0, qPrintable(outcome.error));
    QVERIFY2(outcome.out.contains("(by hand)") && outcome.out.contains("within 5 K"), qPrintable(outcome.out));
    QVERIFY2(outcome.out.contains("(case Steady): +1 K"), qPrintable(outcome.out));
    const auto figures = nlohmann::json::parse(*readWhole((path("r") + "/steady.figures.json").toStdString()));
    QCOMPARE(figures["watches"][0]["reference"].get<double>(), 374.0);
    QCOMPARE(figures["watches"][0]["agrees"].get<bool>(), true);
    // The case it is compared with was solved before: the file of the later one knows its value.
    const auto later = nlohmann::json::parse(*readWhole((path("r") + "/room-0.figures.json").toStdString()));
    QVERIFY(std::abs(later["watches"][1]["reference"].get<double>() - peakOf(path("r"), "steady")) < 1e-9);
    QCOMPARE(later["watches"][1]["referenceFrom"].get<std::string>(), std::string("case Steady"));
    const Outcome table =
        run({"export", file, "--case", "room-0", "--out", path("r"), "--format", "csv", "--to", path("room.csv")});
    QVERIFY2(table.code == 0, qPrintable(table.error));
    QVERIFY(QString::fromStdString(*readWhole(path("room.csv").toStdString())).contains(",case Steady\n"));
  }

  /// Given two solved cases, then the file of their difference names both and has it at every point.
  void theDifferenceIsWritten()
  {
    const QString file = write(rooms(2), "difference.kiln");
    QCOMPARE(run({"solve", file, "--case", "room-?", "--out", path("d")}).code, 0);
    const QString vtu = path("both.vtu");
    const Outcome outcome = run({"compare", file, "room-0", "room-1", "--out", path("d"), "--vtu", vtu});
    QVERIFY2(outcome.code == 0 && outcome.out.contains("both.vtu"), qPrintable(outcome.error));
    vtkNew<vtkXMLUnstructuredGridReader> reader;
    reader->SetFileName(qPrintable(vtu));
    reader->Update();
    vtkUnstructuredGrid* grid = reader->GetOutput();
    auto* of = vtkStringArray::SafeDownCast(grid->GetFieldData()->GetAbstractArray("of"));
    QVERIFY(of != nullptr);
    QCOMPARE(QString::fromStdString(of->GetValue(0)), QString("Room 1 − Room 0"));
    vtkDataArray* kelvin = grid->GetPointData()->GetArray("difference_K");
    QVERIFY(kelvin != nullptr && kelvin->GetNumberOfTuples() == grid->GetNumberOfPoints());
    QVERIFY(grid->GetNumberOfPoints() > 8);
    for (vtkIdType i = 0; i < kelvin->GetNumberOfTuples(); ++i) // linear: a warmer room by 1 K
      QVERIFY(std::abs(kelvin->GetComponent(i, 0) - 1) < 1e-6);
    const Outcome missing = run({"compare", file, "room-0", "steady", "--out", path("d"), "--vtu", vtu});
    QVERIFY2(missing.code != 0 && missing.error.contains("Steady") && missing.error.contains("not solved"),
             qPrintable(missing.error));
  }

  /// Given a solved bar, then its file has every field with its unit, and names of parts, materials and surfaces; the
  /// file of its faces has their heat.
  void everyFieldIsWritten()
  {
    Project p = rooms(0);
    p.materials[0].latentHeat = number(1e5);
    p.materials[0].meltsFrom = number(290);
    p.materials[0].meltsTo = number(900);
    const QString file = write(p, "fields.kiln");
    QCOMPARE(run({"solve", file, "--case", "steady", "--out", path("fields")}).code, 0);
    const Outcome outcome =
        run({"export", file, "--case", "steady", "--out", path("fields"), "--format", "vtu", "--to", path("f.vtu")});
    QVERIFY2(outcome.code == 0, qPrintable(outcome.error));
    vtkNew<vtkXMLUnstructuredGridReader> reader, faceReader;
    reader->SetFileName(qPrintable(path("f.vtu")));
    reader->Update();
    vtkUnstructuredGrid* grid = reader->GetOutput();
    const auto words = [](vtkUnstructuredGrid* of, const char* name) {
      QStringList all;
      if (auto* array = vtkStringArray::SafeDownCast(of->GetFieldData()->GetAbstractArray(name)))
        for (vtkIdType i = 0; i < array->GetNumberOfValues(); ++i)
          all << QString::fromStdString(array->GetValue(i));
      return all;
    };
    QCOMPARE(words(grid, "names of regions"), QStringList{QString::fromStdString(p.parts[0].name)});
    QCOMPARE(words(grid, "names of materials"), QStringList{QString::fromStdString(p.materials[0].name)});
    const auto result = loadResult(resultFile(path("fields").toStdString(), "steady"));
    QVERIFY(result);
    for (std::size_t k = 0; k < describing::shownKinds.size(); ++k) {
      const auto shown = static_cast<Shown>(k);
      const QString word = QString(describing::shownKinds[k].name.data()).left(5).toLower();
      bool found = false;
      for (int a = 0; a < grid->GetPointData()->GetNumberOfArrays(); ++a)
        found = found || QString(grid->GetPointData()->GetArrayName(a)).remove('_').startsWith(word);
      QVERIFY2(found || !isSolutionField(shown), describing::shownKinds[k].name.data());
    }
    const double expected = wattsOf(result->boundaries, p.boundaries.back().id);
    faceReader->SetFileName(qPrintable(path("f-faces.vtu")));
    faceReader->Update();
    vtkUnstructuredGrid* faces = faceReader->GetOutput();
    QCOMPARE(words(faces, "names of surfaces").size(), static_cast<qsizetype>(p.surfaces.size()));
    vtkDataArray* surface = faces->GetCellData()->GetArray("surface");
    vtkDataArray* watts = faces->GetCellData()->GetArray("heat_W");
    vtkDataArray* face = faces->GetCellData()->GetArray("face");
    QVERIFY(surface != nullptr && watts != nullptr && face != nullptr && faces->GetNumberOfCells() > 8);
    std::map<int, double> ofFace; // of the first surface, where the air is
    for (vtkIdType c = 0; c < faces->GetNumberOfCells(); ++c)
      if (surface->GetComponent(c, 0) == 0)
        ofFace[static_cast<int>(face->GetComponent(c, 0))] = watts->GetComponent(c, 0);
    double sum = 0;
    for (const auto& [own, heat] : ofFace)
      sum += heat;
    QVERIFY2(!ofFace.empty() && std::abs(sum - expected) < 1e-6 * std::abs(expected), std::to_string(sum).c_str());
  }

  /// Given a run, then two of its instants are compared by name; a steady case has none.
  void instantsOfARunAreCompared()
  {
    Project p = rooms(0);
    p.materials[0].density = number(2000);
    p.materials[0].specificHeat = Property{800, ""};
    Case warming;
    warming.id = warming.name = "Warming";
    warming.kind = Case::Kind::Transient;
    warming.run = TransientRun{};
    warming.run->start = StartUniform{number(300), {}, {}};
    warming.run->ends = {{"end", EndAtTime{number(3600)}, {}}};
    p.cases.push_back(warming);
    const QString file = write(p, "instants.kiln");
    QCOMPARE(run({"solve", file, "--all", "--out", path("i")}).code, 0);
    const auto peak = [&](const QString& a, const QString& b) {
      const Outcome outcome = run({"compare", file, a, b, "--out", path("i"), "--csv", path("i.csv")});
      const QString csv = QString::fromStdString(*readWhole(path("i.csv").toStdString()));
      const QStringList lines = csv.split('\n').filter("\"watch\",\"peak\"");
      return outcome.code == 0 && !lines.isEmpty() ? lines.front().section(',', 3, 4) : outcome.error;
    };
    const QString pair = peak("Warming@10 min", "Warming@1 h");
    const double early = pair.section(',', 0, 0).toDouble();
    const double late = pair.section(',', 1, 1).toDouble();
    QVERIFY2(early > 300 && late > early + 1, qPrintable(pair));
    QVERIFY(std::abs(late - peakOf(path("i"), "Warming")) < 0.01);
    const Outcome steady = run({"compare", file, "steady@1 h", "Warming", "--out", path("i")});
    QVERIFY2(steady.code != 0 && steady.error.contains("no run"), qPrintable(steady.error));
  }
};

QTEST_GUILESS_MAIN(ManyCasesTest)
#include "tst_manycases.moc"
