// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "window/Film.h"

#include "io/AtomicFile.h"
#include "look/Language.h"
#include "window/AnimatedPicture.h"
#include "window/Video.h"

#include <QApplication>
#include <QFileDialog>
#include <QFileInfo>
#include <QInputDialog>
#include <QMessageBox>
#include <QProgressDialog>
#include <QWidget>
#include <functional>

namespace kiln
{
namespace
{
QString tr(const char* text) { return QCoreApplication::translate("Animation", text); }
} // namespace

std::vector<double> filmInstants(const RunRecord& run, int frames)
{
  std::vector<double> instants;
  const double from = run.times.front();
  const double to = run.times.back();
  for (int i = 0; i < frames; ++i)
    instants.push_back(frames > 1 ? from + (to - from) * i / (frames - 1) : to);
  return instants;
}

namespace
{

/// Shows every frame in turn and hands it over; false ends it. Can be cancelled.
int eachFrame(Document& document, QWidget& scene, int frames, const std::function<bool(int, const QImage&)>& take)
{
  const auto run = document.shownState().run.record;
  const auto before = document.playhead();
  if (!run || !before)
    return 0;
  QProgressDialog progress(tr("Saving pictures"), tr("Cancel"), 0, frames, scene.window());
  progress.setWindowModality(Qt::WindowModal);
  int saved = 0;
  for (const double instant : filmInstants(*run, frames)) {
    progress.setValue(saved);
    if (progress.wasCanceled())
      break;
    document.setPlayhead(instant);
    QApplication::processEvents();
    if (!take(saved, scene.grab().toImage()))
      break;
    ++saved;
  }
  document.setPlayhead(*before);
  return saved;
}

} // namespace

int saveFilm(Document& document, QWidget& scene, const QString& folder, int frames)
{
  const QString name = QString::fromStdString(safeFileName(document.shownCaseObject()->name));
  return eachFrame(document, scene, frames, [&](int number, const QImage& frame) {
    const QString file = folder + "/" + name + QString("-%1.png").arg(number + 1, 4, 10, QChar('0'));
    if (frame.save(file))
      return true;
    QMessageBox::warning(
        scene.window(), tr("Not saved"),
        tr("%1: It could not be written. Check that the folder exists and the disk has space.").arg(file));
    return false;
  });
}

int saveAnimation(Document& document, QWidget& scene, const QString& file, int frames)
{
  constexpr int milliseconds = 80; // a frame
  std::unique_ptr<Animation> made;
  if (file.endsWith(".webm", Qt::CaseInsensitive))
    made = std::make_unique<Video>(scene.size(), milliseconds);
  else
    made = std::make_unique<AnimatedPicture>(scene.size(), milliseconds);
  const int taken = eachFrame(document, scene, frames, [&](int, const QImage& frame) { return made->add(frame); });
  if (taken == 0)
    return 0;
  if (auto saved = made->save(file); !saved) {
    QMessageBox::warning(scene.window(), tr("Not saved"), inWords(saved.error()));
    return 0;
  }
  return taken;
}

void askForFilm(Document& document, QWidget& scene, QWidget* window)
{
  if (!document.playhead())
    return;
  constexpr int usual = 100;
  constexpr int most = 5000;
  bool wanted = false;
  const int frames = QInputDialog::getInt(window, tr("Save an animation"), tr("How many pictures, evenly in time?"),
                                          usual, 2, most, 1, &wanted);
  if (!wanted)
    return;
  const QString single = tr("One animated picture (*.webp)");
  const QString video = tr("Video (*.webm)");
  const QString many = tr("Numbered pictures (*.png)");
  QString kind = video;
  const QString file = QFileDialog::getSaveFileName(
      window, tr("Save an animation"), QString::fromStdString(safeFileName(document.shownCaseObject()->name)) + ".webm",
      video + ";;" + single + ";;" + many, &kind);
  if (file.isEmpty())
    return;
  const auto is = [&](const char* suffix) { return file.endsWith(suffix, Qt::CaseInsensitive); };
  if (is(".png") || (kind == many && !is(".webp") && !is(".webm")))
    saveFilm(document, scene, QFileInfo(file).absolutePath(), frames);
  else
    saveAnimation(document, scene, is(".webp") || is(".webm") ? file : file + (kind == single ? ".webp" : ".webm"),
                  frames);
}

} // namespace kiln
