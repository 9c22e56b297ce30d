// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
//
// How fast the window is: time to show, a frame against bare VTK on the same surface, a hover read-out.
// Run with the demo solved: xvfb-run -a -s "-screen 0 1280x800x24" build/release/bench/bench_window
#include "scene/DrawnPolyData.h"

#include <vtkActor.h>
#include <vtkCamera.h>
#include <vtkNew.h>
#include <vtkPolyDataMapper.h>
#include <vtkRenderer.h>

#include "io/RunFile.h"
#include "scene/ScenePanel.h"
#include "window/Application.h"
#include "window/MainWindow.h"

#include <QApplication>
#include <QElapsedTimer>
#include <QTemporaryDir>
#include <algorithm>
#include <cstdio>
#include <tuple>

using namespace kiln;

namespace
{

/// Mean milliseconds of frames while turning. Each is grabbed: what lies behind another window is not painted else.
template <class Turn>
double frameTime(VtkView& view, Turn&& turn)
{
  constexpr int frames = 30;
  constexpr int warmUp = 5; // shaders are built in the first frames
  for (int i = 0; i < warmUp; ++i)
    view.repaint();
  double sum = 0;
  for (int i = 0; i < frames; ++i) {
    turn();
    static_cast<void>(view.grabFramebuffer());
    sum += view.lastFrameMilliseconds();
  }
  return sum / frames;
}

/// Frames a second while a playhead is dragged over 500 stored instants of this model, read from their file.
void dragPlayhead(SceneCanvas& canvas, double frame)
{
  const QTemporaryDir folder;
  const std::filesystem::path file = folder.filePath("drag.run.h5").toStdString();
  const std::vector<double> end = *canvas.model().source().temperature;
  constexpr int instants = 500;
  RunRecord record;
  {
    auto writer = RunWriter::create(file, record, end.size());
    std::vector<double> field(end.size());
    for (int i = 0; writer && i < instants; ++i) {
      for (std::size_t u = 0; u < field.size(); ++u)
        field[u] = 293 + (end[u] - 293) * i / instants;
      record.instants.push_back(i);
      if (!writer->appendInstant(i, field))
        return;
    }
    if (!writer || !writer->takePlace())
      return;
  }
  const auto reader = InstantReader::open(file);
  if (!reader)
    return;
  QElapsedTimer clock;
  clock.start();
  double reading = 0;
  for (int i = 0; i < instants; ++i) {
    QElapsedTimer part;
    part.start();
    const double time = (i * 37) % (instants - 1) + 0.5; // to and fro, between stored ones
    auto field = reader->fieldAt(record.instants, time);
    reading += static_cast<double>(part.nsecsElapsed()) / 1e6;
    if (!field)
      return;
    canvas.setTemperature(std::make_shared<const std::vector<double>>(std::move(*field)), nullptr);
    Coloring coloring;
    std::tie(coloring.low, coloring.high) = canvas.drawnRange().value_or(std::pair(293.0, 1400.0));
    canvas.setColoring(coloring);
    static_cast<void>(canvas.grabFramebuffer());
  }
  const double each = static_cast<double>(clock.nsecsElapsed()) / 1e6 / instants;
  std::printf(
      "playhead over %d instants of %zu unknowns: %.1f ms each (%.0f a second), %.1f of them reading; %.2f of a "
      "plain frame\n",
      instants, end.size(), each, 1000 / each, reading / instants, each / frame);
}

} // namespace

int main(int argc, char** argv)
{
  QElapsedTimer clock;
  clock.start();
  prepareApplication();
  QApplication application(argc, argv);
  applyTheme(application, ThemeChoice::Light);
  MainWindow window;
  window.openFile(QString(KILN_SOURCE_DIR) + "/demo/studio-kiln.kiln");
  window.show();
  SceneCanvas& canvas = window.scene().canvas();
  bool drawn = false;
  QObject::connect(&canvas, &VtkView::frameDrawn, [&] { drawn = true; });
  while (!drawn)
    QApplication::processEvents();
  std::printf("window shown with the solved demo: %lld ms\n", static_cast<long long>(clock.elapsed()));
  if (canvas.model().source().temperature == nullptr)
    std::puts("the demo is not solved: run scripts/demo first");

  // The same visible surface, whole, in a bare renderer of the same size.
  canvas.setSections({});
  canvas.fit();
  const DrawnSurface skin = canvas.model().skin(canvas.looks(), PartLook::Shown);
  VtkView bare;
  bare.resize(canvas.size());
  vtkNew<vtkPolyDataMapper> mapper;
  mapper->SetInputData(trianglesAsPolyData(skin));
  vtkNew<vtkActor> actor;
  actor->SetMapper(mapper);
  bare.renderer()->AddActor(actor);
  bare.show();
  for (int i = 0; i < 10; ++i)
    QApplication::processEvents();
  bare.renderer()->GetActiveCamera()->DeepCopy(canvas.renderer()->GetActiveCamera()); // as many pixels to fill
  bare.renderer()->ResetCameraClippingRange();
  // In turn, and the best of each: the machine is noisy.
  double ours = 1e9;
  double reference = 1e9;
  constexpr int rounds = 4;
  for (int round = 0; round < rounds; ++round) {
    ours = std::min(ours, frameTime(canvas, [&] { canvas.orbit(5, 0); }));
    reference = std::min(reference, frameTime(bare, [&] { bare.renderer()->GetActiveCamera()->Azimuth(5); }));
  }
  std::printf("frame of %zu triangles: ours %.1f ms, bare VTK %.1f ms, ratio %.2f\n", skin.triangles.size(), ours,
              reference, ours / reference);

  dragPlayhead(canvas, ours);

  constexpr int hovers = 500;
  clock.restart();
  int met = 0;
  for (int i = 0; i < hovers; ++i)
    met += canvas.pickAt(QPointF(canvas.width() * (0.3 + 0.4 * i / hovers), canvas.height() * 0.5)) ? 1 : 0;
  std::printf("hover read-out: %.3f ms (%d of %d met the model)\n",
              static_cast<double>(clock.nsecsElapsed()) / 1e6 / hovers, met, hovers);
  return 0;
}
