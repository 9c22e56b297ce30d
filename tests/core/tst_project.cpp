// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "TestProjects.h"
#include "io/AtomicFile.h"
#include "io/ProjectFile.h"
#include "model/OwnValues.h"
#include "model/Settings.h"
#include "run/InputHash.h"

#include <QFile>
#include <QTest>
#include <csignal>
#include <sys/resource.h>

using namespace kiln;
using namespace kiln::test;

namespace
{

const std::string demoFile = std::string(KILN_SOURCE_DIR) + "/demo/studio-kiln.kiln";

std::string demoText() { return *readWhole(demoFile); }

std::string replaced(std::string text, const std::string& from, const std::string& to)
{
  const auto at = text.find(from);
  if (at == std::string::npos)
    throw std::runtime_error("the demo no longer holds " + from);
  return text.replace(at, from.size(), to);
}

int lineOf(const std::string& text, const std::string& word)
{
  return 1 +
         static_cast<int>(std::count(text.begin(), text.begin() + static_cast<std::ptrdiff_t>(text.find(word)), '\n'));
}

} // namespace

class ProjectTest : public QObject
{
  Q_OBJECT

private slots:
  void savesWhatItLoaded()
  {
    const std::string text = demoText();
    const auto project = readProject(text, "demo");
    QVERIFY2(project, project ? "" : project.error().sentence().c_str());
    QCOMPARE(QString::fromStdString(writeProject(*project)), QString::fromStdString(text));
    QVERIFY(*readProject(writeProject(*project), "again") == *project);
  }

  void keepsEveryKindOfObject()
  {
    Project project = projectWith(0.01);
    project.parts = {
        part("a", "m", Torus{number(0.1), number(0.02)}),
        part("b", "m", Cone{number(0.1), number(0), number(0.2)}),
        part("c", "m", Tube{number(0.1), number(0.05), number(0.2)}),
        part("d", "m", Sphere{number(0.1)}),
        part("e", "m", Prism{{{number(0), number(0)}, {number(1), number(0)}, {number(0), number(1)}}, number(0.1)}),
        part("f", "m",
             TurnedProfile{{{number(0), number(0)}, {number(1), number(0)}, {number(0), number(1)}}, number(3)})};
    project.parts[0].steps.push_back(cut("hole", Cylinder{number(0.01), number(1)}));
    project.parts[0].meshSize = Number{0.002, "2 mm"};
    project.parts[1].muted = true;
    project.materials = {material("m", 2)};
    Surface facing = exposedOf("s", {"a"}, {"t"});
    facing.facing = Facing{{number(0), number(0), number(1)}, number(0.3)};
    project.surfaces = {facing, surface("t", {"a.*"})};
    project.sources = {source("q1", PartDensity{{"a"}, number(5)}), source("q2", SurfacePower{"s", number(5)}),
                       source("q3", SurfaceFlux{"s", number(-5)}),
                       source("q4", PointPower{{number(0), number(1), number(2)}, number(5)})};
    project.boundaries = {boundary("b1", FixedSurface{"s", number(300)}), boundary("b2", FixedPart{"a", number(300)}),
                          boundary("b3", FixedPoint{{number(0), number(1), number(2)}, number(300)})};
    project.contacts = {contact("a", "b", NoContact{}), contact("a", "c", TotalResistance{number(2)}),
                        contact("a", "d", AreaResistance{number(2)})};
    project.watches = {watch("w1", SurfaceFigure{PartFigure::Kind::Coldest, "s"}), watch("w2", ContactHeat{"a", "b"})};
    project.cases.front().changes = {{"q1.density", Property{7, "7 W/m³"}}};
    const auto again = readProject(writeProject(project), "again");
    QVERIFY2(again, again ? "" : again.error().sentence().c_str());
    QVERIFY(*again == project);
  }

  void unknownKeysSurviveAndAreHinted()
  {
    const std::string text =
        replaced(demoText(), "\"id\": \"steel\",", "\"id\": \"steel\",\n      \"densty\": {\"colour\": [1, \"x\"]},");
    const auto project = readProject(text, "demo");
    QVERIFY(project);
    QVERIFY(writeProject(*project).find("\"densty\": {\"colour\":[1,\"x\"]}") != std::string::npos);
    QVERIFY(mentions(checkModel(*project), Finding::Severity::Hint,
                     {"material Steel sheet", "densty", "Did you mean “density”"}));
  }

  void damagedFilesSayLineObjectAndRemedy_data()
  {
    QTest::addColumn<QString>("text");
    QTest::addColumn<QStringList>("says");
    const std::string good = demoText();
    const auto row = [](const char* name, const std::string& text, const QStringList& says) {
      QTest::newRow(name) << QString::fromStdString(text) << says;
    };
    row("truncated", good.substr(0, good.size() / 2), {"ends too early", "complete"});
    row("missing comma", replaced(good, "\"name\": \"Steel sheet\",", "\"name\": \"Steel sheet\""),
        {QString("line %1").arg(lineOf(good, "\"name\": \"Steel sheet\"") + 1), "not valid JSON"});
    const std::string misspelt = replaced(good, "\"conductivity\"", "\"conductivty\"");
    row("misspelt key", misspelt,
        {QString("line %1").arg(lineOf(misspelt, "conductivty")), "Steel sheet", "“conductivity” is missing",
         "instead of “conductivty”"});
    row("wrong kind of value", replaced(good, "{\"si\":45.0,\"text\":\"45 W/(m·K)\"}", "\"much\""),
        {"Steel sheet", "conductivity", "must be a number"});
    row("unknown shape", replaced(good, "\"kind\": \"block\"", "\"kind\": \"blok\""),
        {"Shell", "“blok” is not a kind", "Did you mean “block”"});
    row("doubled id", replaced(good, "\"id\": \"fibre\"", "\"id\": \"shell\""), {"Fibre", "“shell” is used twice"});
    row("newer version", replaced(good, "\"version\": 1", "\"version\": 2"), {"newer program", "newer Usual Kiln"});
    row("not a project", "{\"a\": 1}", {"not a project"});
    row("empty", "", {"ends too early"});
  }
  void damagedFilesSayLineObjectAndRemedy()
  {
    QFETCH(QString, text);
    QFETCH(QStringList, says);
    const auto project = readProject(text.toStdString(), "demo.kiln");
    QVERIFY(!project);
    QCOMPARE(project.error().kind, Failure::Kind::Unreadable);
    const QString sentence = QString::fromStdString(project.error().sentence());
    QVERIFY(sentence.contains("demo.kiln"));
    for (const QString& word : says)
      QVERIFY2(sentence.contains(word), qPrintable(sentence));
  }

  void aFullDiskLeavesTheOldFile()
  {
    const QTemporaryDir folder;
    const std::string file = folder.filePath("p.kiln").toStdString();
    Project project = *loadProject(demoFile);
    QVERIFY(saveProject(project, file));
    const std::string before = *readWhole(file);
    project.name = "changed";
    std::signal(SIGXFSZ, SIG_IGN);
    rlimit old{};
    getrlimit(RLIMIT_FSIZE, &old);
    rlimit tiny{4096, old.rlim_max};
    setrlimit(RLIMIT_FSIZE, &tiny);
    const auto saved = saveProject(project, file);
    setrlimit(RLIMIT_FSIZE, &old);
    QVERIFY(!saved);
    QCOMPARE(saved.error().kind, Failure::Kind::Unwritable);
    QVERIFY(saved.error().sentence().find("p.kiln") != std::string::npos);
    QVERIFY(saved.error().sentence().find("Make room") != std::string::npos);
    QCOMPARE(*readWhole(file), before);
    QCOMPARE(QDir(folder.path()).entryList(QDir::Files).size(), 1); // no half-written file
  }

  void fieldsAreSetByName()
  {
    Project project = *loadProject(demoFile);
    QVERIFY(setField(project, "coil-power.power", "1.3 kW"));
    QCOMPARE(std::get<PartPower>(project.sources.front().heat).power, (Property{1300, "1.3 kW"}));
    QVERIFY(setField(project, "shell.cavity.sizeX", "510 mm"));
    QCOMPARE(std::get<Block>(std::get<Cut>(project.parts.front().steps.front().action).shape.form).sizeX.si, 0.51);
    const auto unknown = setField(project, "coil-power.powr", "1 W");
    QVERIFY(!unknown && unknown.error().remedy == "Did you mean coil-power.power?");
    const auto wrong = setField(project, "coil-power.power", "1 m");
    QVERIFY(!wrong && wrong.error().sentence().find("coil-power.power: “1 m” is a length") != std::string::npos);
    QVERIFY(!setField(project, "steel.conductivity", "-2"));
  }

  void aCaseChangesOnlyItself()
  {
    const Project project = *loadProject(demoFile);
    const Project hot = *projectForCase(project, *findById(project.cases, "hold-hot-room"));
    QCOMPARE(std::get<Convection>(findById(hot.boundaries, "outer-air")->condition).ambient.si, 308.15);
    QCOMPARE(std::get<Convection>(findById(project.boundaries, "outer-air")->condition).ambient.si, 295.15);
  }

  void hashesFollowExactlyTheirInputs()
  {
    const Project project = *loadProject(demoFile);
    const InputHashes before = inputHashes(project);
    const auto after = [&](auto&& change) {
      Project changed = project;
      change(changed);
      return inputHashes(changed);
    };
    const auto text = [](Project& p) {
      p.name = p.comment = "other";
      p.parts.front().name = "Casing";
      p.watches.clear();
      std::get<PartPower>(p.sources.front().heat).power.text = "1440 W";
      p.cases.pop_back();
    };
    QVERIFY(after(text) == before); // nothing that only reads differently
    const InputHashes power = after([](Project& p) { std::get<PartPower>(p.sources.front().heat).power.si = 1300; });
    QVERIFY(power.mesh == before.mesh && power.solution != before.solution);
    const InputHashes size = after([](Project& p) { p.mesh.size = number(0.02); });
    QVERIFY(size.geometry == before.geometry && size.mesh != before.mesh && size.solution != before.solution);
    const InputHashes shape = after([](Project& p) { std::get<Block>(p.parts.front().shape.form).sizeZ.si += 1e-3; });
    QVERIFY(shape.geometry != before.geometry && shape.mesh != before.mesh);
    const InputHashes muted = after([](Project& p) { p.boundaries.front().muted = true; });
    QVERIFY(muted.mesh == before.mesh && muted.solution != before.solution);
    const InputHashes density = after([](Project& p) { p.materials.front().density = number(1); });
    QVERIFY(density == before); // a steady case does not read it
  }

  void fileNamesAreSafeAndDifferent()
  {
    QCOMPARE(QString::fromStdString(safeFileName("Hold")), QString("Hold"));
    for (const char* name : {"Hold, room at 35 °C", "a/b", "../x", ".hidden", ""})
      for (const char c : safeFileName(name))
        QVERIFY2(std::isalnum(static_cast<unsigned char>(c)) || c == '_' || c == '-' || c == '.', name);
    QVERIFY(safeFileName("a/b") != safeFileName("a b"));
    QVERIFY(safeFileName(".hidden").front() != '.');
  }
};

QTEST_APPLESS_MAIN(ProjectTest)
#include "tst_project.moc"
