// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
//
// How fast a 200-part project is to edit: open to the first picture, one edit, one undo, the drafts in the background.
// Run: xvfb-run -a -s "-screen 0 1280x800x24" build/release/bench/bench_edit [different]
#include "io/ProjectFile.h"
#include "scene/ScenePanel.h"
#include "window/Application.h"
#include "window/MainWindow.h"

#include <QApplication>
#include <QElapsedTimer>
#include <QTemporaryDir>
#include <QUndoStack>
#include <algorithm>
#include <cstdio>

using namespace kiln;

namespace
{

constexpr int across = 20;
constexpr int along = 10;

Number number(double si) { return {si, plainNumber(si * 1e3) + " mm", false}; }

/// 200 bricks side by side, each with a hole, half of them written with a parameter; every brick in contact.
/// \param different  no two holes alike, so that no body can be built once for many
Project bricks(bool different)
{
  Project p;
  p.name = "200 bricks";
  Case one;
  one.id = "steady";
  one.name = "Steady";
  p.cases = {one};
  Parameter size;
  size.id = size.name = "size";
  size.quantity = Quantity::Length;
  size.value = number(0.02);
  p.parameters = {size};
  Material clay;
  clay.id = clay.name = "clay";
  clay.conductivity = Property{1, "1 W/(m·K)"};
  p.materials = {clay};
  Surface all;
  all.id = all.name = "all";
  for (int i = 0; i < across * along; ++i) {
    Part part;
    part.id = "brick-" + std::to_string(i);
    part.name = "Brick " + std::to_string(i);
    part.material = "clay";
    const Number height = i % 2 == 0 ? Number{0.02, "size", true} : number(0.02);
    part.shape.form = Block{number(0.02), number(0.02), height};
    part.shape.placement.position = {number(0.02 * (i % across)), number(0.02 * (i / across)), number(0)};
    part.steps = {{"hole", Cut{{Cylinder{number(different ? 0.003 + 1e-5 * i : 0.003), number(0.02)}, {}}, {}}, {}}};
    p.parts.push_back(part);
    all.exposedOf.push_back(part.id);
  }
  p.surfaces = {all};
  Boundary air;
  air.id = air.name = "air";
  air.condition = Convection{"all", Property{10, "10 W/(m²·K)"}, {293.15, "20 °C"}};
  p.boundaries = {air};
  HeatSource heat;
  heat.id = heat.name = "heat";
  heat.heat = PartPower{{"brick-0"}, {10, "10 W"}};
  p.sources = {heat};
  return p;
}

template <class Done>
double waitFor(QElapsedTimer& clock, Done&& done)
{
  constexpr qint64 patience = 60'000; // ms
  while (!done() && clock.elapsed() < patience)
    QApplication::processEvents(QEventLoop::AllEvents | QEventLoop::WaitForMoreEvents, 5);
  return static_cast<double>(clock.nsecsElapsed()) / 1e6;
}

} // namespace

int main(int argc, char** argv)
{
  prepareApplication();
  QApplication application(argc, argv);
  applyTheme(application, ThemeChoice::Light);
  const QTemporaryDir folder;
  const QString file = folder.filePath("bricks.kiln");
  const bool different = argc > 1 && std::string_view(argv[1]) == "different";
  if (!saveProject(bricks(different), file.toStdString()))
    return 1;
  MainWindow window;
  window.drafts().setProgram(UKILN);
  window.show();
  QApplication::processEvents();
  Document& document = window.document();
  QElapsedTimer clock;
  clock.start();
  window.openFile(file);
  const double opened = static_cast<double>(clock.nsecsElapsed()) / 1e6;
  const double picture = waitFor(clock, [&] { return document.shownMesh() != nullptr; });
  const double fused = waitFor(clock, [&] { return document.geometryIsCurrent() && !window.drafts().isBusy(); });
  std::printf("open 200 parts: ledger %.0f ms, first picture %.0f ms, fused %.0f ms\n", opened, picture, fused);

  {
    MainWindow again;
    again.drafts().setProgram(UKILN);
    again.show();
    QApplication::processEvents();
    clock.restart();
    again.openFile(file);
    std::printf("open again: first picture %.0f ms\n",
                waitFor(clock, [&] { return again.document().shownMesh() != nullptr; }));
    clock.restart();
  }

  constexpr int rounds = 8;
  double edit = 1e9;
  double undo = 1e9;
  double loose = 1e9;
  double whole = 1e9;
  for (int i = 0; i < rounds; ++i) {
    const auto before = document.shownMesh();
    clock.restart();
    document.setNumber("brick-7.sizeZ", number(0.021 + 0.001 * i));
    edit = std::min(edit, static_cast<double>(clock.nsecsElapsed()) / 1e6);
    loose = std::min(loose, waitFor(clock, [&] { return document.shownMesh() != before; }));
    whole = std::min(whole, waitFor(clock, [&] { return document.geometryIsCurrent() && !window.drafts().isBusy(); }));
    clock.restart();
    document.undoStack().undo();
    undo = std::min(undo, static_cast<double>(clock.nsecsElapsed()) / 1e6);
    waitFor(clock, [&] { return document.geometryIsCurrent() && !window.drafts().isBusy(); });
  }
  std::printf("edit of a dimension: ledger %.1f ms, the part in the scene %.0f ms, fused %.0f ms; undo %.1f ms\n", edit,
              loose, whole, undo);
  clock.restart();
  for (int i = 0; i < rounds; ++i)
    document.setNumber("heat.power", number(11 + i));
  std::printf("edit of a power: %.1f ms\n", static_cast<double>(clock.nsecsElapsed()) / 1e6 / rounds);
  clock.restart();
  document.setNumber("size.value", number(0.025));
  std::printf("edit of a parameter used 100 times: %.1f ms\n", static_cast<double>(clock.nsecsElapsed()) / 1e6);
  return 0;
}
