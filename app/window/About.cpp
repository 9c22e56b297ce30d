// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "window/About.h"

#include "base/Versions.h"

#include <QCoreApplication>
#include <QMessageBox>
#include <vtkVersionMacros.h>

namespace kiln
{
namespace
{

QString tr(const char* text) { return QCoreApplication::translate("About", text); }

} // namespace

QString versionText()
{
  return QString("usual-kiln %1\nQt %2, VTK %3, %4")
      .arg(QString::fromStdString(ownVersion()), QString::fromLatin1(qVersion()), QStringLiteral(VTK_VERSION),
           QString::fromStdString(libraryVersions()));
}

QString aboutText()
{
  return tr("<h3>Usual Kiln %1</h3>"
            "<p>Steady and transient temperature fields in solid parts.</p>"
            "<p>Free software under the GNU Affero General Public License, version 3 or later: use it, read it, change "
            "it and pass it on. It comes without any warranty.</p>"
            "<p>Built with Qt %2 (running %3), VTK %4, %5. Icons: Breeze, under the GNU Lesser General Public "
            "License.</p>")
      .arg(QString::fromStdString(ownVersion()), QStringLiteral(QT_VERSION_STR), QString::fromLatin1(qVersion()),
           QStringLiteral(VTK_VERSION), QString::fromStdString(libraryVersions()));
}

void showAbout(QWidget* window)
{
  auto* box = new QMessageBox(QMessageBox::NoIcon, tr("About Usual Kiln"), aboutText(), QMessageBox::Ok, window);
  box->setObjectName("about");
  box->setAttribute(Qt::WA_DeleteOnClose);
  box->open();
}

} // namespace kiln
