// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
//
// Building by hand: frames while something is drawn on a face and raised, in a project of 200 parts, and how long a row
// of the demo takes to open. Run: xvfb-run -a -s "-screen 0 1280x800x24" build/release/bench/bench_draw
#include "io/ProjectFile.h"
#include "ledger/LedgerRowView.h"
#include "scene/FaceDrawing.h"
#include "scene/SceneCanvas.h"
#include "scene/SceneOverlay.h"
#include "scene/ScenePanel.h"
#include "window/Application.h"
#include "window/MainWindow.h"
#include "window/StartPage.h"

#include <QApplication>
#include <QElapsedTimer>
#include <QMouseEvent>
#include <QTest>
#include <algorithm>
#include <cstdio>
#include <vector>

using namespace kiln;

namespace
{

/// A plate with 199 posts on it.
Project manyParts()
{
  const auto number = [](double si) { return Number{si, plainNumber(si * 1e3) + " mm", false}; };
  Project p;
  p.name = "posts";
  Material metal;
  metal.id = metal.name = "metal";
  metal.conductivity = {40, "40 W/(m·K)"};
  p.materials = {metal};
  Part plate;
  plate.id = plate.name = "plate";
  plate.material = "metal";
  plate.shape.form = Block{number(0.6), number(0.4), number(0.02), {}};
  p.parts = {plate};
  for (int i = 0; i < 199; ++i) {
    Part post;
    post.id = post.name = "post-" + std::to_string(i);
    post.material = "metal";
    post.shape.form = Cylinder{number(0.008), number(0.05), {}};
    post.shape.placement.position = {number(-0.28 + 0.028 * (i % 20)), number(-0.18 + 0.03 * (i / 20)), number(0.02)};
    p.parts.push_back(post);
  }
  Case one;
  one.id = one.name = "steady";
  p.cases = {one};
  return p;
}

void settle()
{
  for (int i = 0; i < 20; ++i)
    QApplication::processEvents(QEventLoop::AllEvents, 5);
}

/// Milliseconds of each move of the pointer until its picture is drawn.
std::vector<double> moves(SceneCanvas& canvas, SceneOverlay& overlay, const QPointF& from, const QPointF& to)
{
  constexpr int times = 60;
  std::vector<double> spent;
  for (int i = 0; i <= times; ++i) {
    const QPointF at = from + (to - from) * i / times;
    QElapsedTimer clock;
    clock.start();
    QMouseEvent event(QEvent::MouseMove, at, canvas.mapToGlobal(at), Qt::NoButton, Qt::NoButton, Qt::NoModifier);
    QApplication::sendEvent(&canvas, &event);
    canvas.repaint();
    overlay.repaint();
    QApplication::processEvents();
    spent.push_back(static_cast<double>(clock.nsecsElapsed()) * 1e-6);
  }
  std::sort(spent.begin(), spent.end());
  return spent;
}

void say(const char* what, const std::vector<double>& spent)
{
  const double middle = spent[spent.size() / 2];
  const double slow = spent[spent.size() * 9 / 10];
  std::printf("%-34s %6.1f ms a frame, nine of ten below %.1f ms: %.0f frames/s\n", what, middle, slow, 1000 / middle);
}

void benchDrawing()
{
  MainWindow window;
  window.solver().setProgram(QCoreApplication::applicationDirPath() + "/../bin/ukiln");
  window.drafts().setProgram(QCoreApplication::applicationDirPath() + "/../bin/ukiln");
  window.resize(1280, 800);
  window.show();
  window.document().edit("posts", [](Project& project) { project = manyParts(); });
  QElapsedTimer waiting;
  waiting.start();
  while (!window.document().geometryIsCurrent() && waiting.elapsed() < 120'000)
    QApplication::processEvents(QEventLoop::AllEvents, 20);
  settle();
  SceneCanvas& canvas = window.scene().canvas();
  FaceDrawing& drawing = window.scene().faceDrawing();
  canvas.fit();
  drawing.start(FaceDrawing::Tool::Rectangle);
  const QPoint corner = canvas.pixelOf(Vec3(-0.29, -0.19, 0.02)).toPoint();
  const QPoint other = canvas.pixelOf(Vec3(0.29, 0.19, 0.02)).toPoint();
  QTest::mouseClick(&canvas, Qt::LeftButton, {}, corner);
  std::printf("200 parts, %zu triangles\n", canvas.drawnSkin().triangles.size());
  say("drawing a rectangle", moves(canvas, window.scene().overlay(), corner, other));
  QTest::mouseClick(&canvas, Qt::LeftButton, {}, other);
  say("raising it", moves(canvas, window.scene().overlay(), other, other - QPointF(0, 120)));
  drawing.stop();
  drawing.start(FaceDrawing::Tool::Push);
  QTest::mouseClick(&canvas, Qt::LeftButton, {}, corner);
  say("pushing a face", moves(canvas, window.scene().overlay(), corner, corner - QPointF(0, 120)));
  drawing.stop();
}

void benchRows()
{
  MainWindow window;
  window.resize(1280, 800);
  window.show();
  window.openFile(demoFile());
  settle();
  for (const char* id : {"shell", "coil-power", "outer-air"}) {
    auto* row = window.findChild<LedgerRowView*>(QString("row:") + id);
    if (row == nullptr)
      continue;
    double best = 1e9;
    for (int i = 0; i < 5; ++i) {
      QElapsedTimer clock;
      clock.start();
      row->setOpen(true);
      QApplication::processEvents();
      best = std::min(best, static_cast<double>(clock.nsecsElapsed()) * 1e-6);
      row->setOpen(false);
      settle();
    }
    std::printf("open the row %-21s %6.0f ms\n", id, best);
  }
}

} // namespace

int main(int argc, char** argv)
{
  prepareApplication();
  QApplication application(argc, argv);
  applyTheme(application, ThemeChoice::Light);
  benchDrawing();
  benchRows();
  return 0;
}
