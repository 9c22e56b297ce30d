// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "window/Film.h"

#include "io/AtomicFile.h"

#include <QApplication>
#include <QFileDialog>
#include <QInputDialog>
#include <QMessageBox>
#include <QProgressDialog>
#include <QWidget>

namespace kiln
{
namespace
{
QString tr(const char* text) { return QCoreApplication::translate("Film", text); }
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

int saveFilm(Document& document, QWidget& scene, const QString& folder, int frames)
{
  const auto run = document.shownState().run.record;
  const auto before = document.playhead();
  if (!run || !before)
    return 0;
  const QString name = QString::fromStdString(safeFileName(document.shownCaseObject()->name));
  QProgressDialog progress(tr("Saving pictures"), tr("Cancel"), 0, frames, scene.window());
  progress.setWindowModality(Qt::WindowModal);
  int saved = 0;
  for (const double instant : filmInstants(*run, frames)) {
    progress.setValue(saved);
    if (progress.wasCanceled())
      break;
    document.setPlayhead(instant);
    QApplication::processEvents();
    const QString file = folder + "/" + name + QString("-%1.png").arg(saved + 1, 4, 10, QChar('0'));
    if (!scene.grab().save(file)) {
      QMessageBox::warning(
          scene.window(), tr("Not saved"),
          tr("%1: It could not be written. Check that the folder exists and the disk has space.").arg(file));
      break;
    }
    ++saved;
  }
  document.setPlayhead(*before);
  return saved;
}

void askForFilm(Document& document, QWidget& scene, QWidget* window)
{
  if (!document.playhead())
    return;
  constexpr int usual = 100;
  constexpr int most = 5000;
  bool wanted = false;
  const int frames = QInputDialog::getInt(window, tr("Save as pictures"), tr("How many pictures, evenly in time?"),
                                          usual, 2, most, 1, &wanted);
  const QString folder = wanted ? QFileDialog::getExistingDirectory(window, tr("Folder for the pictures")) : QString();
  if (!folder.isEmpty())
    saveFilm(document, scene, folder, frames);
}

} // namespace kiln
