// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "window/FileConflict.h"

#include "document/Document.h"
#include "document/ProjectGuard.h"
#include "io/ProjectDifferences.h"
#include "look/Language.h"

#include <QCoreApplication>
#include <QMessageBox>
#include <QPushButton>

namespace kiln
{
namespace
{

QString tr(const char* text) { return QCoreApplication::translate("FileConflict", text); }

QString linesOf(const std::vector<std::string>& all, std::size_t most)
{
  QStringList lines;
  for (std::size_t i = 0; i < std::min(most, all.size()); ++i)
    lines << QString::fromStdString(all[i]);
  if (all.size() > most)
    lines << tr("… and %1 more").arg(all.size() - most);
  return lines.join("\n");
}

} // namespace

bool settleConflict(Document& document, ProjectGuard& guard, QWidget* window)
{
  const auto theirs = guard.onDisk();
  QMessageBox box(QMessageBox::Warning, tr("Changed on the disk"),
                  tr("“%1” was written by somebody else while it was open here.")
                      .arg(QString::fromStdString(document.project().name)),
                  QMessageBox::Cancel, window);
  box.setObjectName("fileConflict");
  QPushButton* const mine = box.addButton(tr("Keep mine"), QMessageBox::AcceptRole);
  QPushButton* const other = box.addButton(tr("Take theirs"), QMessageBox::DestructiveRole);
  mine->setObjectName("keepMine");
  other->setObjectName("takeTheirs");
  other->setEnabled(theirs.has_value());
  if (theirs) {
    const std::vector<std::string> all = differences(document.project(), *theirs);
    constexpr std::size_t shown = 8;
    constexpr std::size_t most = 2000;
    box.setInformativeText(tr("What differs (here → on the disk):\n%1").arg(linesOf(all, shown)));
    if (all.size() > shown)
      box.setDetailedText(linesOf(all, most));
  } else {
    box.setInformativeText(inWords(theirs.error()));
  }
  box.exec();
  if (box.clickedButton() == mine) {
    guard.accept();
    return true;
  }
  if (box.clickedButton() == other && theirs) {
    guard.accept();
    document.edit(tr("Take what is on the disk"), [&](Project& now) { now = *theirs; });
  }
  return false;
}

} // namespace kiln
