// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
//
// Questions without a window: a line a point, what is known, killed solvers, stretches of points, and a workload
// manager that is started for the test.
#include "TestProjects.h"
#include "cli/Ukiln.h"
#include "io/ProjectFile.h"
#include "io/ResultFile.h"
#include "questions/PointStore.h"
#include "questions/QuestionAnswer.h"

#include <QDir>
#include <QElapsedTimer>
#include <QFile>
#include <QProcess>
#include <QTest>
#include <csignal>
#include <nlohmann/json.hpp>
#include <sys/resource.h>

using namespace kiln;
using namespace kiln::test;

namespace
{

using Json = nlohmann::json;

/// A bar from 300 K that is heated at its right: 25 K a watt. With questions about the power.
Project heatedBar(int points)
{
  Project p = projectWith(0.01);
  p.name = "bar";
  p.materials = {material("metal", 10)};
  p.parts = {part("bar", "metal", block(0.1, 0.02, 0.02))};
  p.surfaces = {surface("left", {"bar.left"}), surface("right", {"bar.right"})};
  p.boundaries = {boundary("cooled", FixedSurface{"left", number(300)})};
  p.sources = {source("heater", SurfacePower{"right", Property{4, "4 W"}})};
  p.watches = {watch("end", SurfaceFigure{Extreme::Mean, "right"})};
  p.watches[0].upper = number(400);
  VariedRange range;
  range.from = "1 W";
  range.to = "9 W";
  range.count = number(points);
  Question sweep;
  sweep.id = "powers";
  sweep.name = "Which power?";
  sweep.base = "steady";
  sweep.varies = {{"v1", "heater.power", range, {}}};
  Question limit = sweep;
  limit.id = "most";
  limit.name = "How much?";
  limit.asks = AskLimit{};
  p.questions = {sweep, limit};
  return p;
}

/// The bar with 4 W as case "steady", with 2 W as "beside"; "after" is as cold at its left as "steady" is hot.
Project chained()
{
  Project p = heatedBar(2);
  Parameter hot;
  hot.id = hot.name = "hot";
  hot.quantity = Quantity::Temperature;
  hot.value = number(300);
  hot.taken = TakenFigure{"steady", "end", AskedFigure::AtEnd, {}};
  p.parameters = {hot};
  Case after = p.cases.front();
  after.id = after.name = "after";
  after.changes = {{"cooled.temperature", Property{Number{300, "hot", true}, {}}}};
  Case beside = p.cases.front();
  beside.id = beside.name = "beside";
  beside.changes = {{"heater.power", Property{2, "2 W"}}};
  p.cases.push_back(after);
  p.cases.push_back(beside);
  p.questions[0].base = "after";
  return p;
}

std::vector<Json> pointsIn(const QString& out)
{
  std::vector<Json> points;
  for (const QString& line : out.split('\n', Qt::SkipEmptyParts))
    if (const Json json = Json::parse(line.toStdString(), nullptr, false);
        json.is_object() && json.value("stage", "") == "point")
      points.push_back(json);
  return points;
}

std::vector<pid_t> workersOf(qint64 parent)
{
  QProcess ps;
  ps.start("pgrep", {"-P", QString::number(parent), "-x", "ukiln-point"});
  ps.waitForFinished();
  std::vector<pid_t> workers;
  for (const QByteArray& line : ps.readAllStandardOutput().split('\n'))
    if (line.toInt() > 0)
      workers.push_back(line.toInt());
  return workers;
}

} // namespace

class AskTest : public QObject
{
  Q_OBJECT

  QTemporaryDir folder_;

  QString write(const Project& p, const QString& name) const
  {
    const QString file = folder_.filePath(name + ".kiln");
    if (!saveProject(p, file.toStdString()))
      throw std::runtime_error("not written");
    return file;
  }
  std::filesystem::path results(const QString& name) const { return folder_.filePath(name + ".results").toStdString(); }

private slots:
  /// A line a point with values, figures and times; then all is known and nothing is solved again.
  void aLineAPoint()
  {
    const QString file = write(heatedBar(5), "lines");
    const Outcome first = run(
        {"ask", file, "--question", "Which power?", "--lines", "--jobs", "2", "--csv", folder_.filePath("lines.csv")});
    QVERIFY2(first.code == 0, qPrintable(first.error));
    const std::vector<Json> points = pointsIn(first.out);
    QCOMPARE(points.size(), std::size_t{5});
    for (const Json& point : points) {
      const double watts = point["values"][0];
      QVERIFY(std::abs(point["figures"][0]["value"].get<double>() - 300 - 25 * watts) < 1e-6);
      QCOMPARE(point["known"].get<bool>(), false);
    }
    QVERIFY(first.out.contains("5 of 5 points"));
    for (const Json& point : pointsIn(run({"ask", file, "--question", "powers", "--lines"}).out))
      QVERIFY(point["known"].get<bool>());
    QFile csv(folder_.filePath("lines.csv"));
    QVERIFY(csv.open(QIODevice::ReadOnly));
    const QStringList rows = QString::fromUtf8(csv.readAll()).split('\n', Qt::SkipEmptyParts);
    QCOMPARE(rows.size(), 6);
    QVERIFY2(rows[0].contains("Power [W]") && rows[0].contains("end [K]"), qPrintable(rows[0]));
    QCOMPARE(rows[1].section(',', 1, 1), QString("1"));
    for (const auto& entry : std::filesystem::directory_iterator(results("lines")))
      QVERIFY(!entry.path().filename().string().starts_with(".points-")); // workers have tidied up
  }

  /// 4 W are allowed; the values on the way are kept, too.
  void howMuchIsAllowed()
  {
    const QString file = write(heatedBar(3), "most");
    const Outcome out = run({"ask", file, "--question", "How much?"});
    QVERIFY2(out.code == 0 && out.out.contains("4 W") && out.out.contains("at its limit"), qPrintable(out.out));
    const auto answer = loadAnswer(answerFile(results("most"), "most"));
    QVERIFY(answer && std::abs(*answer->value - 4) < 4e-6);
  }

  void stretchesOfPoints()
  {
    const QString file = write(heatedBar(6), "some");
    QCOMPARE(run({"ask", file, "--question", "powers", "--points", "2..3"}).code, 0);
    QCOMPARE(PointStore::open(pointsFile(results("some"), "powers"))->count(), 2);
    const Outcome wrong = run({"ask", file, "--question", "powers", "--points", "7..9"});
    QVERIFY(wrong.code != 0 && wrong.error.contains("1..6"));
    int known = 0;
    for (const Json& point : pointsIn(run({"ask", file, "--question", "powers", "--lines"}).out))
      known += point["known"].get<bool>() ? 1 : 0;
    QCOMPARE(known, 2);
  }

  void whatIsNotThereIsNamed()
  {
    const QString file = write(heatedBar(2), "names");
    const Outcome none = run({"ask", file, "--question", "Which brick?"});
    QVERIFY2(none.code == 1 && none.error.contains("“Which power?”"), qPrintable(none.error));
    std::filesystem::create_directories(results("names"));
    QFile other(QString::fromStdString(pointsFile(results("names"), "powers").string()));
    QVERIFY(other.open(QIODevice::WriteOnly) && other.write("no database at all, whatever it is called") > 0);
    other.close();
    const Outcome damaged = run({"ask", file, "--question", "powers"});
    QVERIFY2(damaged.code == 2 && damaged.error.contains("powers.points.sqlite"), qPrintable(damaged.error));
  }

  /// A case whose cold side is as hot as the end of another: that is solved first, for a case and for a question.
  void aFigureOfAnotherCase()
  {
    Project p = chained();
    const QString file = write(p, "taken");
    const Outcome solved = run({"solve", file, "--case", "after"});
    QVERIFY2(solved.code == 0 && solved.out.contains("Steady is solved first"), qPrintable(solved.out + solved.error));
    QVERIFY2(solved.out.contains("hot is taken anew: 126.9 °C"), qPrintable(solved.out)); // 300 K + 4 × 25 K
    QVERIFY(run({"solve", file, "--case", "after", "--if-needed"}).out.contains("up to date"));
    const std::vector<Json> points = pointsIn(run({"ask", file, "--question", "powers", "--lines"}).out);
    QCOMPARE(points.size(), std::size_t{2});
    for (const Json& point : points)
      QVERIFY(std::abs(point["figures"][0]["value"].get<double>() - 400 - 25 * point["values"][0].get<double>()) <
              1e-6);
    // Changed and asked at once.
    std::get<SurfacePower>(p.sources[0].heat).power = Property{2, "2 W"};
    const Outcome asked = run({"ask", write(p, "taken"), "--question", "powers", "--lines"});
    QVERIFY2(asked.out.contains("Steady is solved first"), qPrintable(asked.out + asked.error));
    QVERIFY(std::abs(pointsIn(asked.out).at(0)["figures"][0]["value"].get<double>() - 350 - 25) < 1e-6);
  }

  /// What is no number is no answer: it is left out, and no limit counts as kept by it.
  void aFormulaWithoutANumber()
  {
    Project p = heatedBar(3);
    p.watches.push_back(watch("ratio", FormulaFigure{Quantity::Plain, {"end"}, "1 / (a - a)"}));
    p.watches.back().upper = number(5);
    p.questions[1].asks = AskLimit{{"ratio"}};
    const QString file = write(p, "nan");
    const Outcome swept = run({"ask", file, "--question", "powers", "--lines", "--csv", folder_.filePath("nan.csv")});
    QVERIFY2(swept.code == 0, qPrintable(swept.error));
    for (const Json& point : pointsIn(swept.out)) {
      QVERIFY(point["figures"][0]["value"].is_number());
      QVERIFY(point["figures"][1]["value"].is_null());
    }
    const Outcome limit = run({"ask", file, "--question", "most"});
    QVERIFY2(!limit.out.contains("at its limit"), qPrintable(limit.out + limit.error));
  }

  /// A disk that fills up: it is said, what was kept stays, and the rest is solved when there is room again.
  void aFullDisk()
  {
    const QString file = write(heatedBar(60), "full");
    QCOMPARE(run({"mesh", file}).code, 0);
    QCOMPARE(run({"ask", file, "--question", "powers", "--points", "1..3"}).code, 0);
    const auto points = pointsFile(results("full"), "powers");
    const auto size = static_cast<rlim_t>(std::filesystem::file_size(points));
    const Outcome full = run({"ask", file, "--question", "powers"}, [size] {
      const rlimit limit{size, size};
      setrlimit(RLIMIT_FSIZE, &limit);
      signal(SIGXFSZ, SIG_IGN);
    });
    QVERIFY(!full.crashed);
    QVERIFY2(full.code == 4 && full.error.contains("room"), qPrintable(full.error));
    QVERIFY(PointStore::open(points)->count() >= 3);
    const Outcome after = run({"ask", file, "--question", "powers"});
    QVERIFY2(after.code == 0 && after.out.contains("60 of 60 points"), qPrintable(after.out + after.error));
  }

  /// A worker that is killed loses its point alone; one that kills the whole process loses what was under way.
  void killedAtAnyMoment()
  {
    Project p = heatedBar(14);
    p.mesh.size = number(0.0012);
    const QString file = write(p, "killed");
    QProcess process;
    process.start(UKILN, {"ask", file, "--question", "powers", "--lines", "--jobs", "2"});
    QTRY_VERIFY_WITH_TIMEOUT(workersOf(process.processId()).size() == 2, 60'000);
    const auto stored = [&] {
      const auto store = PointStore::open(pointsFile(results("killed"), "powers"));
      return store ? store->count() : 0;
    };
    QTRY_VERIFY_WITH_TIMEOUT(stored() >= 2, 120'000);
    ::kill(workersOf(process.processId()).front(), SIGKILL);
    QVERIFY(process.waitForFinished(240'000));
    const std::vector<Json> points = pointsIn(QString::fromUtf8(process.readAllStandardOutput()));
    QCOMPARE(points.size(), std::size_t{14});
    int failed = 0;
    for (const Json& point : points)
      failed += point.contains("failure") ? 1 : 0;
    QVERIFY2(failed <= 1, std::to_string(failed).c_str()); // none, where it was between two points
    QCOMPARE(stored(), 14 - failed);
    p.materials[0].conductivity.si = 20; // all anew
    const QString again = write(p, "killed");
    QProcess second;
    second.start(UKILN, {"ask", again, "--question", "powers", "--jobs", "2"});
    QTRY_VERIFY_WITH_TIMEOUT(stored() >= 16, 120'000);
    const std::vector<pid_t> workers = workersOf(second.processId());
    second.kill();
    second.waitForFinished();
    for (const pid_t worker : workers)
      QTRY_VERIFY(::kill(worker, 0) != 0); // they go with it
    QCOMPARE(run({"ask", again, "--question", "powers"}).code, 0);
    QCOMPARE(stored(), 28 - failed);
  }

  void interruptedItSaysWhatItHas()
  {
    Project p = heatedBar(30);
    p.mesh.size = number(0.0015);
    const QString file = write(p, "stopped");
    QProcess process;
    process.start(UKILN, {"ask", file, "--question", "powers"});
    QTRY_VERIFY_WITH_TIMEOUT(PointStore::open(pointsFile(results("stopped"), "powers")) &&
                                 PointStore::open(pointsFile(results("stopped"), "powers"))->count() >= 2,
                             120'000);
    QElapsedTimer clock;
    clock.start();
    process.terminate();
    QVERIFY(process.waitForFinished(20'000));
    QVERIFY(clock.elapsed() < 5'000);
    QCOMPARE(process.exitCode(), 130);
    const auto answer = loadAnswer(answerFile(results("stopped"), "powers"));
    QVERIFY(answer && !answer->complete && answer->points.size() >= 2 && answer->points.size() < 30);
  }

  /// Two at one question at once: both end well, and every point is there once.
  void twoAtOneQuestion()
  {
    const QString file = write(heatedBar(12), "two");
    QProcess one, other;
    for (QProcess* process : {&one, &other})
      process->start(UKILN, {"ask", file, "--question", "powers"});
    QVERIFY(one.waitForFinished(120'000) && other.waitForFinished(120'000));
    QCOMPARE(one.exitCode(), 0);
    QCOMPARE(other.exitCode(), 0);
    QCOMPARE(PointStore::open(pointsFile(results("two"), "powers"))->count(), 12);
  }

  /// Nothing of a workload manager is there: said at once.
  void noClusterIsSaid_data()
  {
    QTest::addColumn<QString>("variable");
    QTest::addColumn<QString>("value");
    QTest::addColumn<QString>("said");
    QTest::newRow("no commands") << "PATH"
                                 << "/nowhere"
                                 << "commands";
    QTest::newRow("no configuration") << "SLURM_CONF"
                                      << "/nowhere/slurm.conf"
                                      << "configuration";
  }
  void noClusterIsSaid()
  {
    QFETCH(QString, variable);
    QFETCH(QString, value);
    QFETCH(QString, said);
    const QString file = write(heatedBar(2), "nowhere");
    QProcess process;
    QProcessEnvironment environment = QProcessEnvironment::systemEnvironment();
    environment.insert(variable, value);
    process.setProcessEnvironment(environment);
    QElapsedTimer clock;
    clock.start();
    process.start(UKILN, {"ask", file, "--question", "powers", "--cluster"});
    QVERIFY(process.waitForFinished(30'000));
    QVERIFY2(clock.elapsed() < 4'000, qPrintable(QString::number(clock.elapsed())));
    QVERIFY(process.exitCode() != 0);
    const QString error = QString::fromUtf8(process.readAllStandardError());
    QVERIFY2(error.contains("workload manager") && error.contains(said), qPrintable(error));
  }

  /// A real one, on two machines that are this one: handed in, left and taken up again, cancelled, a task killed.
  void onACluster()
  {
    const QString folder = QString("/tmp/kc%1").arg(QCoreApplication::applicationPid());
    QVERIFY(QDir().mkpath(folder));
    const QString manager = QString(KILN_SOURCE_DIR) + "/tests/cluster/manager";
    QCOMPARE(QProcess::execute(manager, {"start", folder, "2", "1"}), 0);
    qputenv("SLURM_CONF", (folder + "/etc/slurm.conf").toUtf8());
    const auto stop = qScopeGuard([&] {
      QProcess::execute(manager, {"stop", folder});
      qunsetenv("SLURM_CONF");
      QDir(folder).removeRecursively();
    });
    const QString file = write(heatedBar(7), "cluster");
    const Outcome all = run({"ask", file, "--question", "powers", "--cluster", "--tasks", "3", "--lines"});
    QVERIFY2(all.code == 0, qPrintable(all.error + all.out));
    QVERIFY2(all.out.contains("handed in as job") && all.out.contains("3 done"), qPrintable(all.out));
    const std::vector<Json> points = pointsIn(all.out);
    QCOMPARE(points.size(), std::size_t{7});
    for (const Json& point : points)
      QVERIFY(point["known"].get<bool>());                                        // by the tasks
    QCOMPARE(run({"ask", file, "--question", "How much?", "--cluster"}).code, 1); // each point by the one before

    Project slow = heatedBar(8);
    slow.mesh.size = number(0.0012);
    const QString long_ = write(slow, "long");
    QProcess left;
    left.start(UKILN, {"ask", long_, "--question", "powers", "--cluster", "--tasks", "8"});
    QTRY_VERIFY_WITH_TIMEOUT(
        QFile::exists(QString::fromStdString((results("long") / ".cluster-powers" / "job").string())), 30'000);
    left.terminate(); // the window is closed: the job goes on
    QVERIFY(left.waitForFinished(20'000));
    QCOMPARE(left.exitCode(), 130);
    const Outcome taken = run({"ask", long_, "--question", "powers", "--cluster", "--tasks", "8"});
    QVERIFY2(taken.code == 0 && taken.out.contains("handed in before"), qPrintable(taken.out + taken.error));
    QCOMPARE(PointStore::open(pointsFile(results("long"), "powers"))->count(), 8);

    slow.materials[0].conductivity.si = 30;
    write(slow, "long");
    QProcess more;
    more.start(UKILN, {"ask", long_, "--question", "powers", "--cluster", "--tasks", "8"});
    QTRY_VERIFY_WITH_TIMEOUT(
        QFile::exists(QString::fromStdString((results("long") / ".cluster-powers" / "job").string())), 30'000);
    more.terminate();
    QVERIFY(more.waitForFinished(20'000));
    const Outcome cancelled = run({"ask", long_, "--question", "powers", "--cancel-cluster"});
    QVERIFY2(cancelled.code == 0 && cancelled.out.contains("cancelled"), qPrintable(cancelled.out + cancelled.error));
    QProcess squeue;
    squeue.start("squeue", {"-h", "-t", "PD,R"});
    squeue.waitForFinished();
    QTRY_VERIFY(squeue.readAllStandardOutput().trimmed().isEmpty());
    casesOnACluster();
  }

private:
  /// Two cases beside each other, and one that takes a figure of the first; then left and taken up again, and one that
  /// cannot be solved.
  void casesOnACluster()
  {
    const QString file = write(chained(), "queue");
    const Outcome all = run({"solve", file, "--all", "--cluster"});
    QVERIFY2(all.code == 0, qPrintable(all.error + all.out));
    QVERIFY2(all.out.contains("2 tasks") && all.out.contains("1 task") && all.out.contains("after is solved"),
             qPrintable(all.out));
    QVERIFY(!all.out.contains("failed"));
    QCOMPARE(run({"solve", file, "--all", "--if-needed"}).out.count("up to date"), 3);
    const auto after = loadResult(resultFile(results("queue"), "after"));
    QVERIFY(after && std::abs(valueOf(chained(), *after, "end") - 500) < 1e-5);
    for (const auto& entry : std::filesystem::directory_iterator(results("queue")))
      QVERIFY(!entry.path().filename().string().starts_with(".cluster"));

    Project slow = chained();
    slow.mesh.size = number(0.0012);
    const QString long_ = write(slow, "longer");
    QProcess left;
    left.start(UKILN, {"solve", long_, "--case", "beside", "--cluster"});
    const auto handedIn = [&] {
      for (const auto& entry : std::filesystem::recursive_directory_iterator(results("longer")))
        if (entry.path().filename() == "job")
          return true;
      return false;
    };
    QTRY_VERIFY_WITH_TIMEOUT(std::filesystem::exists(results("longer")) && handedIn(), 30'000);
    left.terminate();
    QVERIFY(left.waitForFinished(20'000));
    QCOMPARE(left.exitCode(), 130);
    const Outcome taken = run({"solve", long_, "--case", "beside", "--cluster"});
    QVERIFY2(taken.code == 0 && taken.out.contains("handed in before"), qPrintable(taken.out + taken.error));

    Project wrong = chained();
    wrong.materials[0].conductivity.si = -1;
    const Outcome refused = run({"solve", write(wrong, "wrong"), "--all", "--cluster"});
    QVERIFY2(refused.code != 0 && refused.error.contains("onductivity"), qPrintable(refused.error));
    QVERIFY2(refused.error.contains("waits for a case"), qPrintable(refused.error));
  }
};

QTEST_GUILESS_MAIN(AskTest)
#include "tst_ask.moc"
