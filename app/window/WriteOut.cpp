// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "window/WriteOut.h"

#include "io/ExportFormats.h"
#include "io/PackedProject.h"
#include "io/ProjectFile.h"
#include "look/Language.h"

#include <QCoreApplication>
#include <QFileDialog>
#include <QGuiApplication>
#include <QJsonDocument>
#include <QJsonObject>
#include <QMainWindow>
#include <QMessageBox>
#include <QProcess>
#include <QStatusBar>

namespace kiln
{
namespace
{

QString tr(const char* text) { return QCoreApplication::translate("WriteOut", text); }

/// Runs the solver program and tells what it has to say.
/// \param scratch  a file that is gone afterwards; may be empty
void start(const QString& program, QWidget* window, const QStringList& words, const std::filesystem::path& scratch)
{
  auto* process = new QProcess(window);
  QObject::connect(process, &QProcess::finished, window, [process, window, scratch](int code) {
    QStringList problems;
    QStringList said;
    while (process->canReadLine()) {
      const QJsonObject line = QJsonDocument::fromJson(process->readLine()).object();
      if (line["stage"].toString() == "failed")
        problems << line["object"].toString() + ": " + line["problem"].toString() + " " + line["remedy"].toString();
      else if (line.contains("message"))
        said << line["message"].toString();
    }
    if (code != 0)
      QMessageBox::warning(window, tr("Not written"),
                           problems.isEmpty() ? tr("The program that writes it ended early. Try again.")
                                              : problems.join('\n'));
    else if (auto* main = qobject_cast<QMainWindow*>(window); main != nullptr && !said.isEmpty())
      main->statusBar()->showMessage(said.join(" · "), 15000);
    std::error_code gone;
    std::filesystem::remove(scratch, gone);
    process->deleteLater();
  });
  process->start(program, words);
}

/// Has the solver program work on the project as it is now, and tells what it has to say.
/// \param seen  what it works on: the project, or as the shown case sees it
void work(Document& document, const Project& seen, const QString& program, QWidget* window, const QString& command,
          const QStringList& options)
{
  std::error_code ignored;
  std::filesystem::create_directories(document.resultsFolder(), ignored);
  const std::filesystem::path snapshot = document.resultsFolder() / (".out-" + command.toStdString() + ".kiln");
  if (auto saved = saveProject(seen, snapshot); !saved) {
    QMessageBox::warning(window, tr("Not written"), inWords(saved.error()));
    return;
  }
  start(program, window,
        QStringList{command, QString::fromStdString(snapshot.string()), "--progress", "json"} + options, snapshot);
}

QString textOf(std::string_view text) { return QString::fromUtf8(text.data(), static_cast<qsizetype>(text.size())); }

} // namespace

void writeGeometryOut(Document& document, const QString& program, QWidget* window)
{
  const QString file = QFileDialog::getSaveFileName(window, tr("Write the shapes"), {},
                                                    tr("STEP (*.step);;Triangles, in millimetres (*.stl)"));
  if (!file.isEmpty())
    work(document, document.shownProject(), program, window, "shapes", {"--to", file});
}

void exportShownCase(Document& document, const QString& program, QWidget* window)
{
  if (!document.shownState().solved()) {
    QMessageBox::information(window, tr("Nothing to write"), tr("The shown case has no result. Solve it first."));
    return;
  }
  QStringList filters;
  for (const ExportFormat& format : exportFormats)
    filters << textOf(format.words) + " (*" + textOf(format.ending) + ")";
  QString chosen = filters.front();
  QString file = QFileDialog::getSaveFileName(window, tr("Write the shown case for other programs"), {},
                                              filters.join(";;"), &chosen);
  if (file.isEmpty())
    return;
  const ExportFormat& format = exportFormats[static_cast<std::size_t>(std::max<qsizetype>(0, filters.indexOf(chosen)))];
  if (const QString ending = textOf(format.ending); !file.endsWith(ending))
    file += ending;
  QStringList options{"--case",   QString::fromStdString(document.shownCase()),
                      "--format", textOf(format.name),
                      "--to",     file,
                      "--out",    QString::fromStdString(document.resultsFolder().string())};
  if (format.name == "places") {
    const QString places = QFileDialog::getOpenFileName(window, tr("Which places? First line: x [mm]; y [mm]; z [mm]"),
                                                        {}, tr("Tables (*.csv *.txt *.tsv);;All files (*)"));
    if (places.isEmpty())
      return;
    options << "--places" << places;
  }
  work(document, document.project(), program, window, "export", options);
}

void packProject(Document& document, const QString& program, QWidget* window)
{
  if (document.isUnsaved()) {
    QMessageBox::information(window, tr("Not packed"), tr("Save the project first: it is packed as it is saved."));
    return;
  }
  const QString usual = QString::fromStdString(document.file().stem().string()) + ".kilnpack";
  QString file = QFileDialog::getSaveFileName(window, tr("Pack the project with its results"), usual,
                                              tr("Packed projects (*.kilnpack)"));
  if (file.isEmpty())
    return;
  if (!file.endsWith(".kilnpack"))
    file += ".kilnpack";
  start(program, window, {"pack", QString::fromStdString(document.file().string()), "--progress", "json", "--to", file},
        {});
}

QString unpackProject(const QString& file, QWidget* window)
{
  const QString folder = QFileDialog::getExistingDirectory(window, tr("Unpack into which folder?"));
  if (folder.isEmpty())
    return {};
  QGuiApplication::setOverrideCursor(Qt::WaitCursor);
  const auto project = unpackProject(std::filesystem::path(file.toStdString()), folder.toStdString(), noProgress);
  QGuiApplication::restoreOverrideCursor();
  if (!project) {
    QMessageBox::warning(window, tr("Not unpacked"), inWords(project.error()));
    return {};
  }
  return QString::fromStdString(project->string());
}

} // namespace kiln
