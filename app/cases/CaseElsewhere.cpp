// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "cases/CaseElsewhere.h"

#include "io/ProjectFile.h"
#include "look/Language.h"

#include <QCoreApplication>
#include <QDir>
#include <QFileDialog>
#include <QInputDialog>
#include <QMessageBox>

namespace kiln
{
namespace
{

QString tr(const char* text) { return QCoreApplication::translate("CaseElsewhere", text); }

} // namespace

std::optional<CaseElsewhere> askForCaseElsewhere(const Document& document, const QString& title, QWidget* window)
{
  const QString file = QFileDialog::getOpenFileName(window, title, {}, tr("Projects (*.kiln)"));
  if (file.isEmpty())
    return std::nullopt;
  const auto other = loadProject(file.toStdString());
  if (!other) {
    QMessageBox::warning(window, tr("Not read"), inWords(other.error()));
    return std::nullopt;
  }
  QStringList names;
  for (const Case& one : other->cases)
    names << QString::fromStdString(one.name);
  bool chosen = false;
  const QString name = QInputDialog::getItem(window, title, tr("Which of its cases?"), names, 0, false, &chosen);
  if (!chosen || names.isEmpty())
    return std::nullopt;
  const QString beside = QString::fromStdString(document.resultsFolder().parent_path().string());
  return CaseElsewhere{QDir(beside).relativeFilePath(file).toStdString(),
                       other->cases[static_cast<std::size_t>(names.indexOf(name))].id};
}

} // namespace kiln
