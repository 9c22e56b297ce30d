// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "document/Recovery.h"

#include "document/Document.h"
#include "io/ProjectFile.h"

#include <QCoreApplication>
#include <QDir>
#include <QFile>
#include <QJsonDocument>
#include <QJsonObject>
#include <QStandardPaths>
#include <csignal>

namespace kiln
{
namespace
{

constexpr int delay = 2000; // ms after the last change

bool isAlive(qint64 process) { return process > 0 && ::kill(static_cast<pid_t>(process), 0) == 0; }

} // namespace

Recovery::Recovery(Document& document, QObject* parent) : QObject(parent), document_(document)
{
  timer_.setSingleShot(true);
  timer_.setInterval(delay);
  connect(&timer_, &QTimer::timeout, this, &Recovery::keep);
  connect(&document, &Document::projectChanged, this, &Recovery::consider);
  connect(&document, &Document::fileChanged, this, &Recovery::consider);
}

Recovery::~Recovery() { drop(); }

QString Recovery::folder()
{
  return QStandardPaths::writableLocation(QStandardPaths::GenericDataLocation) + "/usual-kiln/recovery";
}

QString Recovery::ownFile(const QString& suffix) const
{
  // Two windows of one program keep two copies.
  return folder() + QString("/%1-%2.").arg(QCoreApplication::applicationPid()).arg(quintptr(this), 0, 16) + suffix;
}

void Recovery::consider()
{
  if (document_.undoStack().isClean())
    drop();
  else
    timer_.start();
}

void Recovery::keep()
{
  if (document_.undoStack().isClean())
    return;
  QDir().mkpath(folder());
  QFile about(ownFile("json"));
  if (!saveProject(document_.project(), ownFile("kiln").toStdString()) || !about.open(QIODevice::WriteOnly))
    return; // a full disk is told when the user saves
  about.write(QJsonDocument(QJsonObject{{"process", QCoreApplication::applicationPid()},
                                        {"name", QString::fromStdString(document_.project().name)},
                                        {"file", QString::fromStdString(document_.file().string())}})
                  .toJson());
}

void Recovery::drop()
{
  timer_.stop();
  QFile::remove(ownFile("kiln"));
  QFile::remove(ownFile("json"));
}

std::vector<LostProject> Recovery::lost()
{
  std::vector<LostProject> found;
  const QDir all(folder());
  for (const QFileInfo& entry : all.entryInfoList({"*.json"}, QDir::Files, QDir::Time)) {
    QFile about(entry.filePath());
    if (!about.open(QIODevice::ReadOnly))
      continue;
    const QJsonObject json = QJsonDocument::fromJson(about.readAll()).object();
    const QString copy = entry.path() + "/" + entry.completeBaseName() + ".kiln";
    if (!isAlive(json["process"].toInteger()) && QFile::exists(copy))
      found.push_back({copy, json["name"].toString(), json["file"].toString()});
  }
  return found;
}

void Recovery::forget(const LostProject& lost)
{
  QFile::remove(lost.copy);
  QFile::remove(lost.copy.left(lost.copy.size() - 4) + "json");
}

} // namespace kiln
