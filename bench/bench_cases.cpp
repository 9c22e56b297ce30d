// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
//
// Two hundred cases of the studio kiln: opening, showing another one, an edit; the difference of two results of some
// 300 k elements; a queue of small cases over the sum of their bare solves. Run: xvfb-run -a -s "-screen 0 1280x800x24"
// build/release/bench/bench_cases [difference] [large] [queue] [window]
#include "io/AtomicFile.h"
#include "io/CaseStore.h"
#include "io/ProjectFile.h"
#include "io/ResultFile.h"
#include "mesh/VolumeMesh.h"
#include "results/DifferenceField.h"
#include "run/CaseRun.h"
#include "run/ResultHead.h"
#include "scene/ScenePanel.h"
#include "window/Application.h"
#include "window/MainWindow.h"

#include <QApplication>
#include <QElapsedTimer>
#include <QProcess>
#include <QTemporaryDir>
#include <cstdio>
#include <ctime>
#include <string>
#include <thread>

using namespace kiln;

namespace
{

Project demo()
{
  auto project = loadProject(std::string(KILN_SOURCE_DIR) + "/demo/studio-kiln.kiln");
  if (!project)
    throw std::runtime_error(project.error().sentence());
  project->mesh = {}; // a quick look
  return std::move(*project);
}

double milliseconds(const QElapsedTimer& clock) { return static_cast<double>(clock.nsecsElapsed()) / 1e6; }

/// Every case of its own: a room a little warmer than the one before it, ten to a group.
Project manyCases(int count)
{
  Project p = demo();
  const Case hold = p.cases.front();
  for (int i = 0; i < count; ++i) {
    Case room = hold;
    room.id = "room-" + std::to_string(i);
    room.name = "Room " + std::to_string(i);
    room.group = "Group " + std::to_string(i / 10);
    room.changes = {{"outer-air.ambient", Property{{278.15 + 0.1 * i, {}}, {}}}};
    p.cases.push_back(std::move(room));
  }
  return p;
}

void settle()
{
  for (int i = 0; i < 20; ++i)
    QApplication::processEvents(QEventLoop::AllEvents, 5);
}

/// Of a window that stands already, until the first picture.
double millisecondsToOpen(MainWindow& window, const std::filesystem::path& file)
{
  window.resize(1280, 800);
  window.show();
  settle();
  QElapsedTimer clock;
  clock.start();
  window.openFile(QString::fromStdString(file.string()));
  QApplication::processEvents();
  return milliseconds(clock);
}

/// The stored Hold of a folder, as the result of another case.
void copyResult(const std::filesystem::path& from, const std::filesystem::path& to, const std::string& id)
{
  const auto bytes = readWhole(resultFile(from, "hold"));
  const auto figures = readWhole(figuresFile(from, "hold"));
  const auto head = loadHead(from, "hold");
  CaseCommit commit(to, id);
  if (!bytes || !figures || !head || !commit.add(resultFile(to, id), *bytes) ||
      !commit.add(figuresFile(to, id), *figures) || !commit.commit(id, head->solutionHash, head->startIdentity))
    std::printf("no result in %s: solve the demo first\n", from.c_str());
}

/// \param solved  a folder of results of the demo; every tenth case gets a copy of its Hold
void benchWindow(const std::string& solved)
{
  const QTemporaryDir folder;
  const std::filesystem::path file = folder.filePath("many.kiln").toStdString();
  const Project project = manyCases(200);
  if (!saveProject(project, file))
    return;
  std::filesystem::path results = file;
  results.replace_extension(".results");
  std::filesystem::create_directories(results);
  for (int i = 0; i < 200; i += 10)
    copyResult(solved, results, "room-" + std::to_string(i));
  MainWindow window;
  const double opened = millisecondsToOpen(window, file);
  QElapsedTimer clock;
  std::printf("open 200 cases to the first picture   %8.0f ms, window %d px wide\n", opened, window.width());
  settle();
  double shown = 0;
  const int times = qEnvironmentVariableIsSet("KB") ? 60 : 10;
  for (int i = 0; i < times; ++i) {
    clock.start();
    window.document().showCase("room-" + std::to_string((3 + 7 * i) % 200));
    QApplication::processEvents();
    shown += milliseconds(clock) / times;
  }
  std::printf("show another case                     %8.0f ms\n", shown);
  double edited = 0;
  for (int i = 0; i < times; ++i) {
    clock.start();
    window.document().setNumber("coil-power.power", {1500.0 + i, {}, false});
    QApplication::processEvents(QEventLoop::ExcludeSocketNotifiers);
    edited += milliseconds(clock) / times;
  }
  std::printf("an edit                               %8.0f ms\n", edited);
}

/// Another case of some 300 k elements, whose result lies on the disk.
void benchLarge()
{
  const QTemporaryDir folder;
  const std::filesystem::path file = folder.filePath("large.kiln").toStdString();
  const std::filesystem::path results = folder.filePath("large.results").toStdString();
  Project p = manyCases(5);
  std::erase_if(p.cases, [](const Case& one) { return one.id != "hold" && !one.id.starts_with("room-"); });
  p.mesh.fineness = Number{1.2, {}, false};
  if (!saveProject(p, file))
    return;
  std::filesystem::create_directories(results);
  const auto solved = runCase(p, p.cases.front(), results, noProgress);
  if (!solved) {
    std::printf("not solved: %s\n", solved.error().failure ? solved.error().failure->sentence().c_str() : "not ready");
    return;
  }
  for (std::size_t i = 1; i < p.cases.size(); ++i)
    copyResult(results, results, p.cases[i].id);
  MainWindow window;
  const double opened = millisecondsToOpen(window, file);
  QElapsedTimer clock;
  std::printf("open 6 cases of %zu tets             %8.0f ms\n", solved->mesh.tets.size(), opened);
  window.document().keepInMemory(0);
  double shown = 0;
  for (std::size_t i = 1; i < p.cases.size(); ++i) {
    settle();
    clock.start();
    window.document().showCase(p.cases[i].id);
    QApplication::processEvents();
    shown += milliseconds(clock) / static_cast<double>(p.cases.size() - 1);
  }
  std::printf("show another one, from the disk       %8.0f ms\n", shown);
}

void benchDifference()
{
  const QTemporaryDir folder;
  Project p = demo();
  p.mesh.fineness = Number{2.2, {}, false};
  const std::filesystem::path path = folder.path().toStdString();
  const auto resultOf = [&](double fineness) {
    p.mesh.fineness = Number{fineness, {}, false};
    const auto geometry = buildGeometry(p);
    CaseResult result;
    result.mesh = *buildMesh(p, *geometry, noProgress);
    result.unknowns = numberUnknowns(result.mesh, std::vector<bool>(result.mesh.geometry.faces.size(), false));
    for (const NodeId node : result.unknowns.node)
      result.temperature.push_back(300 + 400 * result.mesh.placeOf(node).z());
    return result;
  };
  const CaseResult a = resultOf(1.5);
  const CaseResult b = resultOf(1.45);
  QElapsedTimer clock;
  clock.start();
  const auto field = differenceOf(a, a.temperature, b, b.temperature);
  std::printf("difference of %zu and %zu tets    %8.0f ms, misfit %.1e K of a span of 200 K\n", a.mesh.tets.size(),
              b.mesh.tets.size(), milliseconds(clock), field ? field->misfit : -1);
}

/// The demo's controller box, which solves in a moment, in fifty rooms.
void benchQueue()
{
  auto box = loadProject(std::string(KILN_SOURCE_DIR) + "/demo/controller-box.kiln");
  if (!box)
    return;
  Case first = box->cases.front();
  box->cases.clear();
  constexpr int count = 50;
  for (int i = 0; i < count; ++i) {
    first.id = "case-" + std::to_string(i);
    first.name = "Case " + std::to_string(i);
    first.comment = std::to_string(i);
    box->cases.push_back(first);
  }
  const QTemporaryDir folder;
  const QString file = folder.filePath("box.kiln");
  if (!saveProject(*box, file.toStdString()))
    return;
  const auto run = [&](const QStringList& arguments) {
    QElapsedTimer clock;
    clock.start();
    QProcess child; // what it says goes nowhere
    child.setStandardOutputFile(QProcess::nullDevice());
    child.setStandardErrorFile(QProcess::nullDevice());
    child.start(UKILN, arguments);
    child.waitForFinished(-1);
    return milliseconds(clock) / 1000;
  };
  static_cast<void>(run({"mesh", file, "--out", folder.filePath("r"), "--progress", "json"}));
  const auto bare = [&] { // in this process, one after the other
    QElapsedTimer clock;
    clock.start();
    for (const Case& one : box->cases)
      static_cast<void>(runCase(*box, one, folder.filePath("r").toStdString(), noProgress));
    return milliseconds(clock) / 1000;
  };
  const std::clock_t before = std::clock();
  const double alone = bare();
  const double cores = static_cast<double>(std::clock() - before) / CLOCKS_PER_SEC / alone;
  std::printf("a bare solve keeps %.2f of %u cores busy\n", cores, std::thread::hardware_concurrency());
  // What the machine gives to two of them: their caches and memory are one.
  const auto sideBySide = [&] {
    QElapsedTimer clock;
    clock.start();
    std::array<QProcess, 2> both;
    for (std::size_t i = 0; i < both.size(); ++i)
      both[i].start(QCoreApplication::applicationFilePath(),
                    {"bare", file, folder.filePath("r" + QString::number(i)), QString::number(count / 2)});
    for (QProcess& one : both)
      one.waitForFinished(-1);
    return milliseconds(clock) / 1000;
  };
  for (const int i : {0, 1})
    static_cast<void>(run({"mesh", file, "--out", folder.filePath("r" + QString::number(i))}));
  const double two = sideBySide();
  std::printf("two processes of bare solves side by side %6.1f s, over the bare %.1f s / 2: %.2f\n", two, alone,
              2 * two / alone);
  for (const int jobs : {1, 2}) {
    const double queued = run({"solve", file, "--all", "--jobs", QString::number(jobs), "--out", folder.filePath("r")});
    std::printf("queue of %d cases, %d at a time        %8.1f s, over the bare %.1f s / %d: %.2f\n", count, jobs,
                queued, alone, jobs, queued * jobs / alone);
  }
}

/// The first cases of a project, one after the other in this process.
int bareSolves(const QStringList& arguments)
{
  const auto project = loadProject(arguments.at(1).toStdString());
  for (int i = 0; project && i < arguments.at(3).toInt(); ++i)
    static_cast<void>(
        runCase(*project, project->cases[static_cast<std::size_t>(i)], arguments.at(2).toStdString(), noProgress));
  return 0;
}

} // namespace

int main(int argc, char** argv)
{
  prepareApplication();
  QApplication application(argc, argv);
  const QStringList asked = application.arguments().mid(1);
  if (asked.value(0) == "bare")
    return bareSolves(asked);
  const auto wants = [&](const char* what) { return asked.isEmpty() || asked.contains(what); };
  if (wants("difference"))
    benchDifference();
  if (wants("large"))
    benchLarge();
  if (wants("queue"))
    benchQueue();
  if (wants("window"))
    benchWindow(std::string(KILN_SOURCE_DIR) + "/demo/studio-kiln.results");
  return 0;
}
