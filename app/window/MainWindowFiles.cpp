// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
//
// Opening, saving, recovering and leaving a project.
#include "look/Language.h"
#include "window/MainWindow.h"

#include "io/ProjectFile.h"
#include "scene/ScenePanel.h"
#include "strip/StripPanel.h"
#include "window/FileConflict.h"
#include "window/ImportDialog.h"
#include "window/WriteOut.h"

#include <QBuffer>
#include <QCloseEvent>
#include <QDragEnterEvent>
#include <QDropEvent>
#include <QFileDialog>
#include <QFileInfo>
#include <QMessageBox>
#include <QMimeData>
#include <QProcess>
#include <QPushButton>
#include <QSettings>
#include <QSplitter>
#include <QStatusBar>
#include <QTimer>
#include <QUrl>

namespace kiln
{
namespace
{

/// A bar that is not on the screen yet would draw it over what it always shows.
void sayWhenShown(QStatusBar* bar, const QString& sentence)
{
  constexpr int patience = 30'000; // ms
  if (bar->isVisible())
    bar->showMessage(sentence, patience);
  else
    QTimer::singleShot(0, bar, [bar, sentence] { bar->showMessage(sentence, patience); });
}

} // namespace

void MainWindow::rebuildRecentMenu()
{
  recent_->clear();
  for (const QString& file : preferences_.recentFiles())
    recent_->addAction(file, this, [this, file] {
      if (mayDiscard())
        openFile(file);
    });
  recent_->setEnabled(!recent_->isEmpty());
}

bool MainWindow::openFile(const QString& file)
{
  if (ImportDialog::canRead(file)) {
    (new ImportDialog(document_, solver_.program(), file, {}, this))->show();
    return true;
  }
  if (file.endsWith(".kilnpack")) {
    const QString project = unpackProject(file, this);
    return !project.isEmpty() && openFile(project);
  }
  solver_.letGo();
  if (auto done = document_.open(file.toStdString()); !done) {
    showSentence(tr("Not opened"), inWords(done.error()));
    return false;
  }
  scene_->beginAnew();
  const QString opened = QString::fromStdString(document_.file().string());
  preferences_.addRecentFile(opened);
  if (!guard_.other().isEmpty())
    sayWhenShown(statusBar(),
                 tr("Also open elsewhere, by %1: what is saved there will be asked about here.").arg(guard_.other()));
  if (const QStringList handed = solver_.handedIn(); !handed.isEmpty()) {
    solver_.setCluster(true);
    sayWhenShown(statusBar(),
                 tr("Handed to the cluster before: %1. Solve them to take up what came out.").arg(handed.join(", ")));
  }
  offerRecovery(opened);
  return true;
}

/// Changes that a program which ended unasked had not saved are offered however their project is opened.
void MainWindow::offerRecovery(const QString& file)
{
  const std::vector<LostProject> lost = Recovery::lostOf(file);
  if (lost.empty())
    return;
  auto* box = new QMessageBox(QMessageBox::Question, tr("Unsaved changes"),
                              tr("Changes of “%1” were not saved when the program ended. Bring them back?")
                                  .arg(QString::fromStdString(document_.project().name)),
                              QMessageBox::NoButton, this);
  box->setObjectName("recoverQuestion");
  box->setAttribute(Qt::WA_DeleteOnClose);
  box->addButton(tr("Later"), QMessageBox::RejectRole);
  QPushButton* const back = box->addButton(tr("Bring back"), QMessageBox::AcceptRole);
  QPushButton* const forget = box->addButton(tr("Forget them"), QMessageBox::DestructiveRole);
  back->setObjectName("bringBack");
  forget->setObjectName("forgetLost");
  connect(back, &QPushButton::clicked, this, [this, one = lost.front()] { recover(one); });
  connect(forget, &QPushButton::clicked, this, [lost] {
    for (const LostProject& one : lost)
      Recovery::forget(one);
  });
  box->open();
}

void MainWindow::askForLarge(const QString& sentence)
{
  auto* box = new QMessageBox(QMessageBox::Question, tr("Larger than usual"), sentence, QMessageBox::NoButton, this);
  box->setObjectName("tooLarge");
  box->setAttribute(Qt::WA_DeleteOnClose);
  box->addButton(tr("Leave it"), QMessageBox::RejectRole)->setObjectName("leaveIt");
  QPushButton* const anyway = box->addButton(tr("Do it all the same"), QMessageBox::AcceptRole);
  anyway->setObjectName("doLarge");
  connect(anyway, &QPushButton::clicked, &solver_, &SolverQueue::doLarge);
  box->open();
}

/// What the scene shows becomes the picture that the file is known by.
void MainWindow::keepPicture()
{
  if (document_.project().parts.empty())
    return;
  constexpr QSize drawn(640, 480), kept(256, 192);
  const PaperColors paper;
  const QImage picture =
      scene_->picture(drawn, Theme::light().scene).scaled(kept, Qt::KeepAspectRatio, Qt::SmoothTransformation);
  QByteArray bytes;
  QBuffer buffer(&bytes);
  if (picture.save(&buffer, "PNG"))
    document_.setPicture(bytes.toStdString());
}

bool MainWindow::save()
{
  if (document_.file().empty())
    return saveAs();
  if (guard_.changedOnDisk() && !settleConflict(document_, guard_, this))
    return false;
  keepPicture();
  if (auto saved = document_.save(); !saved) {
    showSentence(tr("Not saved"), inWords(saved.error()));
    return false;
  }
  return true;
}

bool MainWindow::saveAs()
{
  QString name = QFileDialog::getSaveFileName(
      this, tr("Save the project"), QString::fromStdString(document_.file().string()), tr("Projects (*.kiln)"));
  if (name.isEmpty())
    return false;
  if (!name.endsWith(".kiln"))
    name += ".kiln";
  keepPicture();
  if (auto saved = document_.saveAs(name.toStdString()); !saved) {
    showSentence(tr("Not saved"), inWords(saved.error()));
    return false;
  }
  preferences_.addRecentFile(name);
  return true;
}

bool MainWindow::mayDiscard()
{
  if (document_.undoStack().isClean())
    return true;
  const auto answer = QMessageBox::question(
      this, tr("Unsaved changes"),
      tr("“%1” has changes that are not saved.").arg(QString::fromStdString(document_.project().name)),
      QMessageBox::Save | QMessageBox::Discard | QMessageBox::Cancel);
  return answer == QMessageBox::Discard || (answer == QMessageBox::Save && save());
}

void MainWindow::recover(const LostProject& lost)
{
  const Expected<Project> project = loadProject(lost.copy.toStdString());
  if (!project) {
    showSentence(tr("Not recovered"), inWords(project.error()));
    return;
  }
  const bool open = !lost.file.isEmpty() && lost.file == QString::fromStdString(document_.file().string());
  if (!open && !lost.file.isEmpty() && QFileInfo::exists(lost.file))
    static_cast<void>(document_.open(lost.file.toStdString()));
  else if (!open)
    document_.startEmpty();
  document_.edit(tr("Recover unsaved changes"), [&](Project& now) { now = *project; });
  recovery_.keep();
  Recovery::forget(lost);
}

void MainWindow::openWindow(const QString& file)
{
  const QStringList arguments = file.isEmpty() ? QStringList{} : QStringList{file};
  if (launcher_)
    launcher_(arguments);
  else
    QProcess::startDetached(QCoreApplication::applicationFilePath(), arguments);
}

void MainWindow::closeEvent(QCloseEvent* event)
{
  if (!mayDiscard()) {
    event->ignore();
    return;
  }
  QSettings settings;
  settings.setValue("geometry", saveGeometry());
  settings.setValue("ledgerBeside", across_->saveState());
  settings.setValue("watchesBeside", upper_->saveState());
  settings.setValue("stripHeight", strip_->isFolded() ? stripHeight_ : strip_->height());
  event->accept();
}

void MainWindow::dragEnterEvent(QDragEnterEvent* event)
{
  if (event->mimeData()->hasUrls())
    event->acceptProposedAction();
}

void MainWindow::dropEvent(QDropEvent* event)
{
  const QList<QUrl> urls = event->mimeData()->urls();
  for (const QUrl& other : urls.mid(1)) // a window each
    openWindow(other.toLocalFile());
  if (!urls.isEmpty() && (ImportDialog::canRead(urls.first().toLocalFile()) || mayDiscard()))
    openFile(urls.first().toLocalFile());
}

} // namespace kiln
