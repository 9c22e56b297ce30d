// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "window/StartPage.h"

#include "io/ProjectPicture.h"

#include <QCoreApplication>
#include <QFileInfo>
#include <QLabel>
#include <QPushButton>
#include <QVBoxLayout>

namespace kiln
{

QString demoFile()
{
  for (const char* place : {"/../../../demo/studio-kiln.kiln", "/../share/usual-kiln/demo/studio-kiln.kiln"}) {
    const QFileInfo file(QCoreApplication::applicationDirPath() + place);
    if (file.exists())
      return file.canonicalFilePath();
  }
  return {};
}

StartPage::StartPage(Preferences& preferences, QWidget* parent)
    : QWidget(parent), preferences_(preferences), list_(new QVBoxLayout)
{
  setObjectName("startPage");
  setAttribute(Qt::WA_StyledBackground);
  auto* layout = new QVBoxLayout(this);
  layout->addStretch(1);
  auto* middle = new QHBoxLayout;
  middle->addStretch(1);
  middle->addLayout(list_);
  middle->addStretch(1);
  layout->addLayout(middle);
  layout->addStretch(2);
  refresh();
}

void StartPage::refresh()
{
  while (QLayoutItem* item = list_->takeAt(0)) {
    if (item->widget() != nullptr) {
      item->widget()->hide();
      item->widget()->deleteLater();
    }
    delete item;
  }
  const auto label = [&](const QString& text, const char* role) {
    auto* made = new QLabel(text);
    made->setProperty("role", role);
    made->setWordWrap(true);
    list_->addWidget(made);
  };
  const auto button = [&](const QString& text, const QString& name, auto&& action) {
    auto* made = new QPushButton(text);
    made->setObjectName(name);
    made->setMinimumWidth(fontMetrics().averageCharWidth() * 56);
    connect(made, &QPushButton::clicked, this, action);
    list_->addWidget(made);
    return made;
  };
  label(tr("Where does the heat go?"), "figure");
  label(tr("Build parts, give them materials, say where heat enters and leaves, and solve."), "quiet");
  list_->addSpacing(10);
  int number = 0;
  for (const LostProject& lost : Recovery::lost())
    button(tr("Recover unsaved changes of “%1”").arg(lost.name), QString("startRecover:%1").arg(number++),
           [this, lost] { emit recoveryWanted(lost); });
  if (!demoFile().isEmpty())
    button(tr("Open the demo: a studio kiln at 1000 °C"), "startDemo", [this] { emit demoWanted(); });
  button(tr("Start with an empty project"), "startEmpty", [this] { emit emptyWanted(); });
  button(tr("A tour in two minutes"), "startTour", [this] { emit tourWanted(); });
  const QStringList recent = preferences_.recentFiles();
  if (!recent.isEmpty())
    label(tr("RECENT"), "title");
  constexpr int most = 5;
  for (const QString& file : recent.mid(0, most)) {
    QPushButton* recently = button(QFileInfo(file).completeBaseName() + "   " + QFileInfo(file).path(),
                                   "startRecent:" + file, [this, file] { emit fileWanted(file); });
    if (const auto picture = storedPicture(file.toStdString())) { // as it was saved
      QPixmap drawn;
      drawn.loadFromData(QByteArray::fromStdString(*picture), "PNG");
      constexpr QSize shown(64, 48);
      recently->setIcon(QIcon(drawn));
      recently->setIconSize(shown);
    }
  }
}

} // namespace kiln
