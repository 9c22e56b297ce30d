// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
//
// What looking at a large result costs: the demo on some 300 k elements. Levels, lines, arrows, streamlines, volumes,
// cuts, and the smooth picture. Run: xvfb-run -a -s "-screen 0 1280x800x24" build/release/bench/bench_look
#include "io/ProjectFile.h"
#include "results/LevelField.h"
#include "run/CaseRun.h"
#include "scene/SceneCanvas.h"
#include "scene/SceneDrawing.h"
#include "scene/SceneExtras.h"
#include "scene/ScenePanel.h"
#include "window/Application.h"
#include "window/MainWindow.h"

#include <QApplication>
#include <QElapsedTimer>
#include <QTemporaryDir>
#include <cstdio>
#include <functional>

using namespace kiln;

namespace
{

double milliseconds(const QElapsedTimer& clock) { return static_cast<double>(clock.nsecsElapsed()) / 1e6; }

/// Mean of some rounds, with and without the frame that shows it.
void report(const char* what, SceneCanvas& canvas, const std::function<void(int)>& act)
{
  constexpr int rounds = 12;
  double acted = 0;
  double drawn = 0;
  for (int i = 0; i < rounds; ++i) {
    QElapsedTimer clock;
    clock.start();
    act(i);
    acted += milliseconds(clock) / rounds;
    canvas.grabFramebuffer();
    drawn += milliseconds(clock) / rounds;
  }
  std::printf("%-44s %7.1f ms, with its frame %7.1f ms\n", what, acted, drawn);
}

} // namespace

int main(int argc, char** argv)
{
  prepareApplication();
  QApplication application(argc, argv);
  auto project = loadProject(std::string(KILN_SOURCE_DIR) + "/demo/studio-kiln.kiln");
  const QTemporaryDir folder;
  const std::filesystem::path file = folder.filePath("large.kiln").toStdString();
  const std::filesystem::path results = folder.filePath("large.results").toStdString();
  if (!project)
    return 1;
  project->mesh = {}; // a quick look, a little finer
  project->mesh.fineness = Number{1.2, {}, false};
  std::erase_if(project->cases, [](const Case& one) { return one.id != "hold"; });
  std::filesystem::create_directories(results);
  if (!saveProject(*project, file) || !runCase(*project, project->cases.front(), results, noProgress))
    return 1;
  MainWindow window;
  window.resize(1280, 800);
  window.show();
  window.openFile(QString::fromStdString(file.string()));
  for (int i = 0; i < 20; ++i)
    QApplication::processEvents(QEventLoop::AllEvents, 5);
  ScenePanel& scene = window.scene();
  SceneCanvas& canvas = scene.canvas();
  SceneDrawing& drawing = scene.drawing();
  std::printf("%zu tets, %zu triangles drawn\n", canvas.model().source().mesh->tets.size(),
              canvas.drawnSkin().triangles.size());
  scene.setSection(-1, 0);
  View look = scene.currentView();
  look.cuts.clear();
  Coloring colors;
  colors.low = 320;
  colors.high = 1360;
  report("a frame alone", canvas, [&](int i) { canvas.orbit(i % 2 == 0 ? 2 : -2, 0); });
  const LevelField field(canvas.model().source().mesh, canvas.model().source().unknowns,
                         canvas.model().source().temperature);
  report("volume above a level", canvas, [&](int i) { static_cast<void>(field.above(700 + 40 * i)); });
  look.level = Number{900, {}};
  report("a level as a surface", canvas, [&](int i) {
    look.level->si = 700 + 40 * i;
    drawing.refreshLevel(look, colors);
  });
  look.levelLook = LevelLook::Above;
  report("what is above it, as a solid", canvas, [&](int i) {
    look.level->si = 700 + 40 * i;
    drawing.refreshLevel(look, colors);
  });
  look.level.reset();
  drawing.refreshLevel(look, colors);
  look.lines = Number{10, {}};
  report("ten lines of equal value", canvas, [&](int i) {
    colors.low = 320 + i;
    drawing.refresh(look, colors);
  });
  look.lines.reset();
  look.flux = FluxLook::Arrows;
  report("arrows", canvas, [&](int) { drawing.refresh(look, colors); });
  look.flux = FluxLook::Streamlines;
  report("streamlines", canvas, [&](int) { drawing.refresh(look, colors); });
  look.flux = FluxLook::None;
  drawing.refresh(look, colors);
  report("a cut that is dragged", canvas, [&](int i) {
    canvas.setSections({{Vec3(0, -0.05 + 0.008 * i, 0), Vec3(0, -1, 0)}});
  });
  canvas.setSections({});
  QElapsedTimer rest;
  rest.start();
  canvas.orbit(3, 0);
  while (!canvas.isSmooth() && rest.elapsed() < 5000)
    QApplication::processEvents(QEventLoop::AllEvents, 5);
  canvas.grabFramebuffer();
  std::printf("%-44s %7.0f ms\n", "smooth after the camera rests", milliseconds(rest));
  return 0;
}
