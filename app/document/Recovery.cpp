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

namespace kiln
{
namespace
{

constexpr int delay = 1500; // ms after the first change that is not kept

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
  else if (!timer_.isActive()) // however fast edits follow each other
    timer_.start();
}

void Recovery::keep()
{
  if (document_.undoStack().isClean())
    return;
  QDir().mkpath(folder());
  if (!lock_.held())
    if (auto lock = FileLock::take(ownFile("lock").toStdString(), "recovery"))
      lock_ = std::move(*lock);
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
  if (lock_.held()) {
    QFile::remove(ownFile("lock"));
    lock_ = FileLock();
  }
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
    const QString lock = entry.path() + "/" + entry.completeBaseName() + ".lock";
    if (holderOf(lock.toStdString()).empty() && QFile::exists(copy))
      found.push_back({copy, json["name"].toString(), json["file"].toString()});
  }
  return found;
}

std::vector<LostProject> Recovery::lostOf(const QString& file)
{
  std::vector<LostProject> own = lost();
  std::erase_if(own, [&](const LostProject& one) { return one.file != file; });
  return own;
}

void Recovery::forget(const LostProject& lost)
{
  QFile::remove(lost.copy.left(lost.copy.size() - 4) + "lock");
  QFile::remove(lost.copy);
  QFile::remove(lost.copy.left(lost.copy.size() - 4) + "json");
}

} // namespace kiln
