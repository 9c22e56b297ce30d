// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
//
// From a slider that is dragged to the picture of what it leads to, in the real window: a linear example and the studio
// kiln's Hold on some 100 k nodes. Run: xvfb-run -a -s "-screen 0 1280x800x24" build/release/bench/bench_follow
// [linear] [kiln]
#include "io/ProjectFile.h"
#include "run/CaseRun.h"
#include "scene/SceneCanvas.h"
#include "scene/ScenePanel.h"
#include "strip/StripPanel.h"
#include "strip/WhatIfPage.h"
#include "window/Application.h"
#include "window/MainWindow.h"

#include <QApplication>
#include <QComboBox>
#include <QElapsedTimer>
#include <QEventLoop>
#include <QSlider>
#include <QTemporaryDir>
#include <algorithm>
#include <cstdio>
#include <stdexcept>
#include <vector>

using namespace kiln;

namespace
{

void follow(const std::string& name, const QString& field, double fineness)
{
  auto project = loadProject(std::string(KILN_SOURCE_DIR) + "/demo/" + name + ".kiln");
  const QTemporaryDir folder;
  const std::filesystem::path file = folder.filePath("followed.kiln").toStdString();
  const std::filesystem::path results = folder.filePath("followed.results").toStdString();
  if (!project)
    throw std::runtime_error(project.error().sentence());
  if (name == "studio-kiln")
    project->mesh = {}; // a quick look
  project->mesh.fineness = Number{fineness, {}, false};
  project->cases.erase(project->cases.begin() + 1, project->cases.end());
  std::filesystem::create_directories(results);
  if (!saveProject(*project, file) || !runCase(*project, project->cases.front(), results, noProgress))
    throw std::runtime_error("not solved");
  MainWindow window;
  window.resize(1280, 800);
  window.show();
  window.openFile(QString::fromStdString(file.string()));
  window.strip().showPage(StripPanel::whatIfPage);
  for (int i = 0; i < 20; ++i)
    QApplication::processEvents(QEventLoop::AllEvents, 5);
  auto* more = window.findChild<QComboBox*>("whatIfMore");
  if (window.findChild<QSlider*>("whatIf:" + field) == nullptr)
    emit more->activated(more->findData(field));
  auto* slider = window.findChild<QSlider*>("whatIf:" + field);
  if (slider == nullptr)
    throw std::runtime_error("no slider");
  QEventLoop waits;
  QObject::connect(&window.document(), &Document::estimateChanged, &waits, &QEventLoop::quit);
  double computed = 0;
  QObject::connect(window.findChild<WhatIfPage*>() != nullptr ? &window.findChild<WhatIfPage*>()->whatIf() : nullptr,
                   &WhatIfRun::followed, [&](double milliseconds) { computed = milliseconds; });
  slider->setSliderDown(true);
  constexpr int moves = 15;
  std::vector<double> took, alone;
  for (int i = 0; i < moves; ++i) {
    QElapsedTimer clock;
    clock.start();
    slider->setSliderPosition(slider->minimum() + (slider->maximum() - slider->minimum()) * (20 + 4 * i) / 100);
    waits.exec();
    QApplication::processEvents();
    window.scene().canvas().grabFramebuffer();
    took.push_back(static_cast<double>(clock.nsecsElapsed()) / 1e6);
    alone.push_back(computed);
  }
  const double first = took.front();
  took.erase(took.begin());
  alone.erase(alone.begin());
  std::sort(took.begin(), took.end());
  std::sort(alone.begin(), alone.end());
  std::printf("%-20s %-20s %zu nodes: first %5.0f ms, then %4.0f ms (median; %.0f of it computed), %4.0f at most, %s\n",
              name.c_str(), field.toUtf8().constData(), window.document().shownTemperature()->size(), first,
              took[took.size() / 2], alone[alone.size() / 2], took.back(),
              window.document().estimateWords().toUtf8().constData());
}

} // namespace

int main(int argc, char** argv)
{
  prepareApplication();
  QApplication application(argc, argv);
  const QStringList asked = QApplication::arguments().mid(1);
  if (asked.isEmpty() || asked.contains("linear"))
    follow("examples/lid-handle", "lid.temperature", 2.15);
  if (asked.isEmpty() || asked.contains("kiln"))
    follow("studio-kiln", "coil-power.power", 1.25);
  return 0;
}
