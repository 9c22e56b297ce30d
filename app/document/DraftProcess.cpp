// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "document/DraftProcess.h"

#include "document/Document.h"
#include "document/SolverProgram.h"
#include "io/LinkedFiles.h"
#include "io/ProjectFile.h"
#include "io/ResultFile.h"

#include <QCoreApplication>
#include <QJsonArray>
#include <QJsonDocument>
#include <QJsonObject>

namespace kiln
{
namespace
{
const char* const sketchName = ".sketch.kiln";

Failure failureOf(const QJsonObject& line)
{
  Failure failure{Failure::Kind::NotReady, line["object"].toString().toStdString(),
                  line["problem"].toString().toStdString(), line["remedy"].toString().toStdString()};
  for (const auto& id : line["ids"].toArray())
    failure.ids.push_back(id.toString().toStdString());
  if (const QJsonArray place = line["place"].toArray(); place.size() == 3)
    failure.place = {place[0].toDouble(), place[1].toDouble(), place[2].toDouble()};
  return failure;
}

constexpr int pause = 30; // ms; edits that follow each other make one draft
} // namespace

DraftProcess::DraftProcess(Document& document, QObject* parent)
    : QObject(parent), document_(document), program_(solverProgram())
{
  process_.setStandardErrorFile(QProcess::nullDevice());
  soon_.setSingleShot(true);
  soon_.setInterval(pause);
  connect(&soon_, &QTimer::timeout, this, &DraftProcess::ask);
  connect(&document, &Document::projectChanged, this, &DraftProcess::consider);
  connect(&process_, &QProcess::readyReadStandardOutput, this, &DraftProcess::readAnswers);
  connect(&process_, &QProcess::finished, this, &DraftProcess::died);
}

DraftProcess::~DraftProcess()
{
  process_.disconnect(this);
  process_.closeWriteChannel();
  constexpr int patience = 500; // ms
  if (process_.state() != QProcess::NotRunning && !process_.waitForFinished(patience))
    process_.kill();
  process_.waitForFinished(patience);
}

void DraftProcess::start()
{
  if (process_.state() == QProcess::NotRunning)
    process_.start(program_, {"draft"});
}

void DraftProcess::consider()
{
  if (document_.wantsDraft() && document_.geometryHash() != refused_)
    soon_.start();
}

void DraftProcess::ask()
{
  if (isBusy() || !document_.wantsDraft() || document_.geometryHash() == refused_)
    return;
  if (document_.geometryHash() != looked_) {
    looked_ = document_.geometryHash();
    take("fused", looked_); // drawn before, when the project was open last
    if (!document_.wantsDraft())
      return;
  }
  std::error_code ignored;
  std::filesystem::create_directories(document_.resultsFolder(), ignored);
  const std::filesystem::path sketch = document_.resultsFolder() / sketchName;
  if (!saveProject(withAbsoluteLinks(document_.shownProject(), document_.file().parent_path()), sketch))
    return; // saving says so when it matters
  start();
  asked_ = document_.geometryHash();
  process_.write((QString::fromStdString(sketch.string()) + "\n").toUtf8());
  emit busyChanged();
}

void DraftProcess::readAnswers()
{
  while (process_.canReadLine()) {
    const QJsonObject line = QJsonDocument::fromJson(process_.readLine()).object();
    const std::string hash = line["hash"].toString().toStdString();
    const QString stage = line["stage"].toString();
    if (stage == "failed") {
      refused_ = asked_;
      document_.setDraftProblem(failureOf(line));
    } else {
      take(stage, hash);
    }
    if (stage != "loose") {
      asked_.clear();
      emit busyChanged();
      consider();
    }
  }
}

void DraftProcess::take(const QString& stage, const std::string& hash)
{
  const bool fused = stage == "fused";
  if (auto stored = loadMesh(draftFile(document_.resultsFolder(), fused)); stored && stored->hash == hash)
    document_.setDraft(std::make_shared<Mesh>(std::move(stored->mesh)), hash, fused);
}

void DraftProcess::died()
{
  if (asked_.empty())
    return;
  refused_ = asked_;
  asked_.clear();
  document_.setDraftProblem(Failure{Failure::Kind::NotReady, "project",
                                    "The program that draws the shapes stopped unexpectedly.",
                                    "Undo the last change of a shape, or change it a little."});
  emit busyChanged();
  consider();
}

} // namespace kiln
