// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "window/About.h"

#include <QCoreApplication>
#include <QMessageBox>
#include <vtkVersionMacros.h>

namespace kiln
{
namespace
{

QString tr(const char* text) { return QCoreApplication::translate("About", text); }

} // namespace

QString aboutText()
{
  return tr("<h3>Usual Kiln %1</h3>"
            "<p>Steady and transient temperature fields in solid parts.</p>"
            "<p>Free software under the GNU Affero General Public License, version 3 or later: use it, read it, change "
            "it and pass it on. It comes without any warranty.</p>"
            "<p>Built with Qt %2 (running %3) and VTK %4. Icons: Breeze, under the GNU Lesser General Public "
            "License.</p>")
      .arg(QStringLiteral(KILN_VERSION), QStringLiteral(QT_VERSION_STR), QString::fromLatin1(qVersion()),
           QStringLiteral(VTK_VERSION));
}

void showAbout(QWidget* window)
{
  auto* box = new QMessageBox(QMessageBox::NoIcon, tr("About Usual Kiln"), aboutText(), QMessageBox::Ok, window);
  box->setObjectName("about");
  box->setAttribute(Qt::WA_DeleteOnClose);
  box->open();
}

} // namespace kiln
