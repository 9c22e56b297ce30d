// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
//
// Runs the real `ukiln` as a user or a script would.
#include "TestProjects.h"
#include "cli/Ukiln.h"
#include "io/AtomicFile.h"
#include "io/ProjectFile.h"
#include "io/RunFile.h"

#include <QDir>
#include <QJsonDocument>
#include <QJsonObject>
#include <QProcess>
#include <QTest>
#include <csignal>
#include <functional>
#include <nlohmann/json.hpp>
#include <sys/resource.h>

using namespace kiln;
using namespace kiln::test;

namespace
{

/// A small kiln-like project that solves in a moment.
Project smallProject()
{
  Project project = projectWith(0.01);
  project.name = "small";
  project.materials = {material("brick", 0.5)};
  project.parts = {part("wall", "brick", block(0.05, 0.05, 0.02)),
                   part("cap", "brick", block(0.05, 0.05, 0.02), Vec3(0, 0, 0.02))};
  project.surfaces = {surface("under", {"wall.bottom"}), surface("over", {"cap.top"})};
  project.sources = {source("heater", SurfacePower{"over", number(2)})};
  project.boundaries = {boundary("air", Convection{"under", number(20), number(300)})};
  project.contacts = {contact("wall", "cap", AreaConductance{number(100)})};
  project.watches = {watch("peak", PartFigure{PartFigure::Kind::Hottest, {"cap"}})};
  project.cases.front().name = "Tür 5 °C/night";
  return project;
}

/// The same in time, from 300 K, with a power that goes to and fro for ever.
Project runningProject(double until)
{
  Project project = smallProject();
  project.materials[0].density = number(800);
  project.materials[0].specificHeat = Property{1000, ""};
  Parameter wave;
  wave.id = wave.name = "wave";
  wave.quantity = Quantity::Power;
  wave.value = number(1);
  wave.schedule = Schedule{};
  wave.schedule->points = {{number(0), number(0)}, {number(40), number(4)}, {number(80), number(0)}};
  wave.schedule->beyond = Schedule::Beyond::Repeats;
  project.parameters = {wave};
  Property follows{1, "wave"};
  follows.formula = true;
  std::get<SurfacePower>(project.sources[0].heat).power = follows;
  Case& one = project.cases.front();
  one.name = "Run";
  one.kind = Case::Kind::Transient;
  one.run = TransientRun{};
  one.run->start = StartUniform{number(300), {}, {}};
  one.run->ends = {{"end", EndAtTime{number(until)}, {}}};
  one.run->longest = number(2e9);
  return project;
}

class Folder
{
public:
  [[nodiscard]] QString path(const QString& name) const { return folder_.filePath(name); }
  QString write(const Project& project, const QString& name = "p.kiln") const
  {
    if (!saveProject(project, path(name).toStdString()))
      throw std::runtime_error("test project not written");
    return path(name);
  }
  [[nodiscard]] QStringList filesIn(const QString& sub) const
  {
    return QDir(path(sub)).entryList(QDir::Files | QDir::Hidden);
  }

private:
  QTemporaryDir folder_;
};

} // namespace

class UkilnTest : public QObject
{
  Q_OBJECT

private slots:
  void solvesAndWritesFieldsAndFigures()
  {
    const Folder folder;
    const Outcome outcome = run({"solve", folder.write(smallProject()), "--out", folder.path("r")});
    QVERIFY2(outcome.code == 0, qPrintable(outcome.error));
    QVERIFY(outcome.out.contains("hot spots") && outcome.out.contains("heat balance error"));
    const std::string name = safeFileName("steady");
    const auto stored = loadResult(resultFile(folder.path("r").toStdString(), "steady"));
    QVERIFY(stored && stored->caseName == "Tür 5 °C/night");
    QVERIFY(!stored->solutionHash.empty() && stored->flux.size() == stored->mesh.tets.size());
    const auto figures =
        nlohmann::json::parse(*readWhole(folder.path("r").toStdString() + "/" + name + ".figures.json"));
    // One-dimensional: 2 W through the layers.
    const double area = 0.0025, flux = 2 / area;
    const double expected = 300 + flux / 20 + flux * 0.02 / 0.5 * 2 + flux / 100;
    QVERIFY(std::abs(figures["watches"][0]["value"].get<double>() - expected) < 1e-6);
    QVERIFY(std::abs(figures["ledger"]["sources"][0]["watts"].get<double>() - 2) < 1e-9);
    QVERIFY(std::abs(figures["ledger"]["contacts"][0]["watts"].get<double>() + 2) < 1e-7);
    QVERIFY(figures["ledger"]["relativeImbalance"].get<double>() < 1e-6);
    for (const char* key : {"parts", "mesh", "solver", "seconds", "hashes"})
      QVERIFY(figures.contains(key));
  }

  void progressIsJsonLineByLine()
  {
    const Folder folder;
    const Outcome outcome =
        run({"solve", folder.write(smallProject()), "--out", folder.path("r"), "--progress", "json"});
    QCOMPARE(outcome.code, 0);
    double last = 0;
    QStringList stages;
    for (const QString& line : outcome.out.split('\n', Qt::SkipEmptyParts)) {
      const QJsonObject json = QJsonDocument::fromJson(line.toUtf8()).object();
      QVERIFY2(json.contains("stage") && json.contains("message"), qPrintable(line));
      if (json.contains("fraction")) {
        QVERIFY(json["fraction"].toDouble() >= last);
        last = json["fraction"].toDouble();
        stages << json["stage"].toString();
      }
    }
    QCOMPARE(last, 1.0);
    for (const char* stage : {"geometry", "mesh", "solve", "write", "done"})
      QVERIFY2(stages.contains(stage), stage);
  }

  void aPowerChangeDoesNotMeshAgain()
  {
    const Folder folder;
    const QString file = folder.write(smallProject());
    QCOMPARE(run({"solve", file, "--out", folder.path("r")}).code, 0);
    const Outcome again =
        run({"solve", file, "--out", folder.path("r"), "--set", "heater.power=4 W", "--progress", "json"});
    QCOMPARE(again.code, 0);
    QVERIFY(again.out.contains("\"message\":\"unchanged\"") && !again.out.contains("fusing"));
    const auto stored = loadResult(resultFile(folder.path("r").toStdString(), "steady"));
    QVERIFY(std::abs(stored->heatIn - 4) < 1e-9);
    const Outcome other = run({"solve", file, "--out", folder.path("r"), "--set", "wall.sizeZ=19 mm", "--set",
                               "cap.position.z=19 mm", "--progress", "json"});
    QVERIFY(other.code == 0 && other.out.contains("fusing"));
  }

  void onlyIfNeededSkipsWhatIsUpToDate()
  {
    const Folder folder;
    const QString file = folder.write(smallProject());
    QCOMPARE(run({"solve", file, "--all", "--out", folder.path("r"), "--if-needed"}).code, 0);
    QVERIFY(run({"solve", file, "--all", "--out", folder.path("r"), "--if-needed"}).out.contains("up to date"));
    QVERIFY(!run({"solve", file, "--all", "--out", folder.path("r"), "--if-needed", "--set", "heater.power=3 W"})
                 .out.contains("up to date"));
  }

  /// Given a case that fails among others, then the others are solved, what starts from it is left out, and the answer
  /// is that of the failure.
  void oneCaseThatFailsHoldsUpOnlyWhatStartsFromIt()
  {
    const Folder folder;
    Project project = runningProject(20);
    const auto copy = [&](const char* id) -> Case& {
      project.cases.push_back(project.cases.front());
      project.cases.back().id = project.cases.back().name = id;
      return project.cases.back();
    };
    copy("hopeless").run->start = StartFromCase{"nowhere", folder.path("no.kiln").toStdString(), {}};
    copy("after").run->start = StartFromCase{"hopeless", {}, {}};
    copy("last");
    const QString file = folder.write(project);
    const Outcome outcome = run({"solve", file, "--all", "--out", folder.path("r")});
    QVERIFY2(outcome.code != 0 && !outcome.crashed, qPrintable(outcome.error));
    QVERIFY2(outcome.out.contains("after is skipped: it starts from hopeless, which failed"), qPrintable(outcome.out));
    QVERIFY2(outcome.out.contains("2 of 4 cases failed"), qPrintable(outcome.out));
    const std::filesystem::path results = folder.path("r").toStdString();
    for (const Case& one : project.cases)
      QCOMPARE(isUpToDate(project, one, results), one.id != "hopeless" && one.id != "after");
  }

  void setHoldsInACaseWithItsOwnValueToo()
  {
    const Folder folder;
    Project project = smallProject();
    project.cases.front().changes = {{"heater.power", Property{number(7)}}};
    const QString file = folder.write(project);
    const auto heatIn = [&](const QStringList& more) {
      if (run(QStringList{"solve", file, "--out", folder.path("r")} + more).code != 0)
        return -1.0;
      return loadResult(resultFile(folder.path("r").toStdString(), "steady"))->heatIn;
    };
    QVERIFY(std::abs(heatIn({}) - 7) < 1e-9);
    QVERIFY(std::abs(heatIn({"--set", "heater.power=3 W"}) - 3) < 1e-9);
  }

  void saysWhatIsNotReady()
  {
    const Folder folder;
    Project project = smallProject();
    project.parts[0].material.clear();
    project.materials[0].conductivity = number(-1);
    const QString file = folder.write(project);
    for (const char* command : {"check", "solve"}) {
      const Outcome outcome = run({command, file});
      QCOMPARE(outcome.code, 1);
      QVERIFY(outcome.error.contains("part wall: It has no material. Choose a material for it."));
      QVERIFY(outcome.error.contains("material brick: Conductivity k is −1 W/(m·K)"));
    }
    QVERIFY(!QDir(folder.path("p.results")).exists("Hold.h5"));
  }

  void badInputHasItsOwnExitCode_data()
  {
    QTest::addColumn<QString>("content");
    QTest::addColumn<QString>("says");
    const std::string good = writeProject(smallProject());
    QTest::newRow("truncated") << QString::fromStdString(good.substr(0, good.size() / 2)) << "ends too early";
    QTest::newRow("binary") << QString("\x01\x02 nothing") << "not valid JSON";
    QTest::newRow("misspelt") << QString::fromStdString(good).replace("\"conductivity\"", "\"conductivty\"")
                              << "conductivty";
  }
  void badInputHasItsOwnExitCode()
  {
    QFETCH(QString, content);
    QFETCH(QString, says);
    const Folder folder;
    QVERIFY(writeAtomically(folder.path("bad.kiln").toStdString(), content.toStdString()));
    const Outcome outcome = run({"solve", folder.path("bad.kiln")});
    QCOMPARE(outcome.code, 2);
    QVERIFY2(outcome.error.contains("bad.kiln") && outcome.error.contains(says), qPrintable(outcome.error));
  }

  void aMissingFileAndABadOptionAreUnreadable()
  {
    QCOMPARE(run({"solve", "/nowhere/x.kiln"}).code, 2);
    QCOMPARE(run({"solve"}).code, 2);
    QCOMPARE(run({"frobnicate"}).code, 2);
    QCOMPARE(run({"--help"}).code, 0);
    const Folder folder;
    const Outcome outcome = run({"solve", folder.write(smallProject()), "--case", "Night"});
    QVERIFY(outcome.code == 1 && outcome.error.contains("no case of this name") &&
            outcome.error.contains("Tür 5 °C/night"));
  }

  void overlapsAndLostPartsAreNamed()
  {
    const Folder folder;
    Project overlap = smallProject();
    overlap.parts[1].shape.placement.position.z = number(0.015);
    const Outcome a = run({"solve", folder.write(overlap)});
    QVERIFY2(a.code == 1 && a.error.contains("parts wall and cap: They overlap by 12.5 cm³"), qPrintable(a.error));
    Project lost = smallProject();
    lost.parts.push_back(part("stray", "brick", block(0.01, 0.01, 0.01), Vec3(1, 1, 1)));
    const Outcome b = run({"solve", folder.write(lost)});
    QVERIFY2(b.code == 1 && b.error.contains("part stray: There is no path for heat"), qPrintable(b.error));
  }

  /// The version stands in one place, and those of the libraries with it.
  void theVersion()
  {
    const Outcome said = run({"--version"});
    QCOMPARE(said.code, 0);
    QFile lists(QString(KILN_SOURCE_DIR) + "/CMakeLists.txt");
    QVERIFY(lists.open(QIODevice::ReadOnly));
    const QString own = QString::fromUtf8(lists.readAll()).section("VERSION ", 2, 2).section(' ', 0, 0);
    QVERIFY2(own.count('.') == 2 && said.out.startsWith("ukiln " + own + "\n"), qPrintable(own + said.out));
    for (const char* library : {"Open CASCADE 7", "hypre 2", "HDF5 1", "SQLite 3", "TetGen"})
      QVERIFY2(said.out.contains(library), library);
  }

  void aFullDiskIsAWriteFailureAndLeavesNothing()
  {
    const Folder folder;
    const QString file = folder.write(smallProject());
    const Outcome outcome = run({"solve", file, "--out", folder.path("r")}, [] {
      rlimit limit{2048, 2048};
      setrlimit(RLIMIT_FSIZE, &limit);
    });
    QVERIFY(!outcome.crashed);
    QCOMPARE(outcome.code, 4);
    QVERIFY2(outcome.error.contains("could not be written") && outcome.error.contains("Make room"),
             qPrintable(outcome.error));
    QCOMPARE(folder.filesIn("r"),
             (QStringList{".mesh.lock", ".steady.lock", "steady.log"})); // locks that nobody holds, and why
  }

  void cancelLeavesNoHalfFile()
  {
    const Folder folder;
    Project fine = smallProject();
    fine.mesh.size = number(0.0012);
    QProcess process;
    process.start(UKILN, {"solve", folder.write(fine), "--out", folder.path("r"), "--progress", "json"});
    QVERIFY(process.waitForReadyRead(30'000));
    process.terminate();
    ::kill(static_cast<pid_t>(process.processId()), SIGINT);
    QVERIFY(process.waitForFinished(30'000));
    QCOMPARE(process.exitStatus(), QProcess::NormalExit);
    QCOMPARE(process.exitCode(), 130);
    for (const QString& name : folder.filesIn("r"))
      QVERIFY2(!name.contains(".part"), qPrintable(name));
  }

  /// Killed in the middle, what was run until then can be read.
  void aKilledRunStaysReadable()
  {
    const Folder folder;
    QProcess process;
    process.start(UKILN, {"solve", folder.write(runningProject(1e9)), "--progress", "json"});
    QByteArray said;
    while (said.count("\"at ") < 30 && process.waitForReadyRead(60'000))
      said += process.readAllStandardOutput();
    QVERIFY(said.count("\"at ") >= 30);
    process.kill();
    process.waitForFinished();
    const auto record = loadRun(growingRunFile(folder.path("p.results").toStdString(), "steady"));
    QVERIFY(record.has_value());
    QVERIFY(!record->finished && record->times.size() > 20 && record->instants.size() > 2);
    const auto fields = InstantReader::open(growingRunFile(folder.path("p.results").toStdString(), "steady"));
    QVERIFY(fields && fields->field(record->instants.size() - 1).has_value());
  }

  void aDiskThatFillsDuringARunKeepsWhatIsStored()
  {
    const Folder folder;
    const QString file = folder.write(runningProject(1e9));
    QCOMPARE(run({"mesh", file}).code, 0);
    const Outcome outcome = run({"solve", file}, [] {
      const rlimit limit{60'000, 60'000};
      setrlimit(RLIMIT_FSIZE, &limit);
      signal(SIGXFSZ, SIG_IGN);
    });
    QVERIFY(!outcome.crashed);
    QCOMPARE(outcome.code, 4);
    QVERIFY2(outcome.error.contains("Make space"), qPrintable(outcome.error));
    const auto record = loadRun(growingRunFile(folder.path("p.results").toStdString(), "steady"));
    QVERIFY(record && !record->finished && record->times.size() > 2);
  }

  void aRunIsExportedStepByStep()
  {
    const Folder folder;
    const QString file = folder.write(runningProject(200));
    QCOMPARE(run({"solve", file}).code, 0);
    QCOMPARE(run({"export", file, "--case", "Run", "--format", "csv", "--to", folder.path("run.csv")}).code, 0);
    QFile csv(folder.path("run.csv"));
    QVERIFY(csv.open(QIODevice::ReadOnly));
    const QString text = QString::fromUtf8(csv.readAll());
    QVERIFY(text.contains("time s,peak °C,heater W,air W,heat in W"));
    QVERIFY(text.contains("\n200,"));
    QCOMPARE(run({"export", file, "--case", "Run", "--format", "pvd", "--to", folder.path("run.pvd")}).code, 0);
    const auto record = loadRun(runFile(folder.path("p.results").toStdString(), "steady"));
    QVERIFY(record.has_value());
    QFile list(folder.path("run.pvd"));
    QVERIFY(list.open(QIODevice::ReadOnly));
    QCOMPARE(list.readAll().count("<DataSet"), static_cast<qsizetype>(record->instants.size()));
    QVERIFY(QFile::exists(folder.path("run-0000.vtu")));
    QVERIFY(QFile::exists(folder.path(QString("run-%1.vtu").arg(record->instants.size() - 1, 4, 10, QChar('0')))));
  }

  void aDamagedStoredMeshIsMadeAnew()
  {
    const Folder folder;
    const QString file = folder.write(smallProject());
    QCOMPARE(run({"solve", file, "--out", folder.path("r")}).code, 0);
    const std::string mesh = meshFile(folder.path("r").toStdString());
    const std::string whole = *readWhole(mesh);
    QVERIFY(writeAtomically(mesh, whole.substr(0, whole.size() / 3)));
    const Outcome outcome = run({"solve", file, "--out", folder.path("r"), "--progress", "json"});
    QVERIFY(outcome.code == 0 && outcome.out.contains("fusing"));
    // A damaged result is named when it is exported.
    const std::string result = resultFile(folder.path("r").toStdString(), "steady");
    QVERIFY(writeAtomically(result, readWhole(result)->substr(0, 5000)));
    const Outcome exported =
        run({"export", file, "--out", folder.path("r"), "--case", "Tür 5 °C/night", "--format", "csv"});
    QVERIFY(exported.code == 2 && exported.error.contains("Solve the case again"));
  }

  void exportsForOthers()
  {
    const Folder folder;
    const QString file = folder.write(smallProject());
    QCOMPARE(run({"solve", file, "--out", folder.path("r")}).code, 0);
    for (const char* format : {"csv", "vtu"})
      QCOMPARE(run({"export", file, "--out", folder.path("r"), "--case", "Tür 5 °C/night", "--format", format, "--to",
                    folder.path(QString("x.") + format)})
                   .code,
               0);
    const QString csv = QString::fromStdString(*readWhole(folder.path("x.csv").toStdString()));
    QVERIFY(csv.startsWith("part,hottest °C") && csv.contains("heat in,heater,2\n") &&
            csv.contains("watch,value,unit"));
    const QString vtu = QString::fromStdString(*readWhole(folder.path("x.vtu").toStdString()));
    QVERIFY(vtu.contains("UnstructuredGrid") && vtu.contains("temperature_K") && vtu.contains("heat_flux_W_per_m2"));
  }

  void theDemoGivesItsExpectedFigures()
  {
    const auto expected =
        nlohmann::json::parse(*readWhole(std::string(KILN_SOURCE_DIR) + "/demo/studio-kiln.expected.json"));
    const Folder folder;
    const QString demo = QString(KILN_SOURCE_DIR) + "/demo/studio-kiln.kiln";
    const Outcome outcome = run({"solve", demo, "--case", "Hold", "--out", folder.path("r")});
    QVERIFY2(outcome.code == 0, qPrintable(outcome.error));
    const auto figures = nlohmann::json::parse(*readWhole(folder.path("r").toStdString() + "/hold.figures.json"));
    int checked = 0;
    for (const auto& watch : figures["watches"])
      for (const auto& wanted : expected["cases"]["hold"])
        if (wanted["id"] == watch["id"]) {
          const double value = watch["value"].get<double>();
          QVERIFY2(std::abs(value - wanted["value"].get<double>()) < wanted["within"].get<double>(),
                   qPrintable(QString::fromStdString(watch["name"].get<std::string>()) + " " + QString::number(value)));
          ++checked;
        }
    QCOMPARE(checked, static_cast<int>(expected["cases"]["hold"].size()));
    // By hand: every watt that the coils put in leaves at the outside.
    QVERIFY(std::abs(figures["ledger"]["heatIn"].get<double>() - 1440) < 1e-6);
    QVERIFY(figures["ledger"]["relativeImbalance"].get<double>() < 1e-6);
  }

  void draftsAreDrawnAgainAndAgain()
  {
    const Folder folder;
    const QString good = folder.write(smallProject());
    Project overlapping = smallProject();
    overlapping.parts.push_back(overlapping.parts.front());
    overlapping.parts.back().id = "twin";
    const QString bad = folder.path("bad.kiln");
    QVERIFY(saveProject(overlapping, bad.toStdString()));
    QProcess process;
    process.start(UKILN, {"draft"});
    process.write((good + "\n" + folder.path("nothing.kiln") + "\n" + bad + "\n" + good + "\n").toUtf8());
    process.closeWriteChannel();
    QVERIFY(process.waitForFinished(60'000));
    QCOMPARE(process.exitCode(), 0);
    QStringList stages;
    nlohmann::json overlap;
    for (const QByteArray& line : process.readAllStandardOutput().split('\n'))
      if (!line.isEmpty()) {
        const auto json = nlohmann::json::parse(line.toStdString());
        stages << QString::fromStdString(json["stage"].get<std::string>());
        if (json["stage"] == "failed" && json["ids"].size() == 2)
          overlap = json;
      }
    // A file that is not there and an overlap are told; the next draft is drawn all the same.
    QCOMPARE(stages.join(' '), QString("loose fused failed loose failed loose fused"));
    QCOMPARE(overlap["place"].size(), std::size_t{3});
    QVERIFY(overlap["problem"].get<std::string>().find("overlap") != std::string::npos);
    QVERIFY(QFile::exists(folder.path(".draft.h5")));
  }
};

QTEST_GUILESS_MAIN(UkilnTest)
#include "tst_ukiln.moc"
