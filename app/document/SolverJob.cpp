// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "document/SolverJob.h"

#include "base/ProcessMemory.h"
#include "look/Language.h"

#include <QJsonDocument>
#include <QJsonObject>
#include <QThread>
#include <algorithm>
#include <csignal>

namespace kiln
{
namespace
{

QString sentenceOf(const QJsonObject& json)
{
  const QString object = json["object"].toString();
  return inWords(Failure{.object = object.toStdString(),
                         .problem = json["problem"].toString().toStdString(),
                         .remedy = json["remedy"].toString().toStdString()});
}

const char* commandOf(SolverWork::Kind kind)
{
  switch (kind) {
  case SolverWork::Kind::Prepare:
    return "mesh";
  case SolverWork::Kind::Sure:
    return "sure";
  case SolverWork::Kind::Refine:
    return "refine";
  case SolverWork::Kind::Ask:
    return "ask";
  case SolverWork::Kind::Solve:
  case SolverWork::Kind::GoOn:
    break;
  }
  return "solve";
}

} // namespace

std::string SolverWork::id() const
{
  return kind == Kind::Solve ? caseId
                             : std::string(commandOf(kind)) + (kind == Kind::GoOn ? " on:" : ":") + caseId + questionId;
}

SolverJob::SolverJob(SolverWork work, std::filesystem::path snapshot, std::filesystem::path folder, QObject* parent)
    : QObject(parent), work_(std::move(work)), snapshot_(std::move(snapshot)), folder_(std::move(folder))
{
  process_.setStandardErrorFile(QProcess::nullDevice());
  connect(&process_, &QProcess::readyReadStandardOutput, this, &SolverJob::readProgress);
  connect(&process_, &QProcess::finished, this, &SolverJob::finished);
  connect(&process_, &QProcess::errorOccurred, this, [this](QProcess::ProcessError error) {
    if (error == QProcess::FailedToStart)
      finished(-1, QProcess::CrashExit);
  });
}

SolverJob::~SolverJob()
{
  process_.disconnect(this);
  if (process_.state() != QProcess::NotRunning) {
    process_.terminate();
    constexpr int patience = 2000; // ms
    if (!process_.waitForFinished(patience))
      process_.kill();
  }
  std::error_code ignored;
  std::filesystem::remove(snapshot_, ignored);
}

QStringList SolverJob::arguments(const SolverManner& manner) const
{
  QStringList list{commandOf(work_.kind),
                   QString::fromStdString(snapshot_.string()),
                   "--out",
                   QString::fromStdString(folder_.string()),
                   "--progress",
                   "json"};
  if (work_.kind == SolverWork::Kind::GoOn)
    list << "--continue";
  if (work_.kind == SolverWork::Kind::Ask)
    list << "--question" << QString::fromStdString(work_.questionId) << "--jobs" << QString::number(manner.atATime);
  if (work_.cluster)
    list << "--cluster";
  if (work_.large && work_.kind != SolverWork::Kind::Ask)
    list << "--allow-large";
  if (manner.mostElements > 0 && work_.kind != SolverWork::Kind::Ask)
    list << "--most-elements" << QString::number(manner.mostElements, 'f', 0);
  if (work_.kind == SolverWork::Kind::Refine)
    list << "--within" << work_.within;
  if (manner.nice && (list.front() == "solve" || list.front() == "ask"))
    list << "--nice";
  if (!work_.caseId.empty())
    list << "--case" << QString::fromStdString(work_.caseId);
  return list;
}

void SolverJob::start(const SolverManner& manner)
{
  if (manner.atATime > 1) {
    QProcessEnvironment variables = QProcessEnvironment::systemEnvironment();
    const QString threads = QString::number(std::max(1, QThread::idealThreadCount() / manner.atATime));
    for (const char* name : {"OPENBLAS_NUM_THREADS", "OMP_NUM_THREADS"})
      variables.insert(name, threads);
    process_.setProcessEnvironment(variables);
  }
  clock_.start();
  process_.start(manner.program, arguments(manner));
}

void SolverJob::cancel()
{
  cancelled_ = true;
  if (work_.cluster) // what was handed in ends, too; when the window is closed it goes on
    ::kill(static_cast<pid_t>(process_.processId()), SIGINT);
  else
    process_.terminate();
}

void SolverJob::letGo()
{
  cancelled_ = true;
  process_.terminate();
}

double SolverJob::secondsLeft() const
{
  constexpr double enough = 0.03; // done before it is worth saying
  return fraction_ > enough ? seconds() * (1 - fraction_) / fraction_ : -1;
}

double SolverJob::peak()
{
  peak_ = std::max(peak_, peakMemory(static_cast<long>(process_.processId())));
  return peak_;
}

void SolverJob::readProgress()
{
  while (process_.canReadLine()) {
    const QJsonObject line = QJsonDocument::fromJson(process_.readLine()).object();
    const QString stage = line["stage"].toString();
    if (stage == "failed") {
      failure_ = sentenceOf(line);
      tooLarge_ = line["tooLarge"].toBool();
    } else if (stage == "check" && line["finding"].toObject()["severity"].toString() == "hint")
      continue; // readiness has it
    else if (stage == "check")
      failure_ += (failure_.isEmpty() ? "" : "\n") + sentenceOf(line["finding"].toObject());
    else if (stage == "point") {
      points_.push_back(line);
      fraction_ = line["fraction"].toDouble();
      message_ = line["point"].toString();
      emit progressed();
    } else if (stage == "say") {
      if (work_.cluster)
        message_ = inWords(line["message"].toString().toStdString());
      emit progressed();
    } else {
      fraction_ = line["fraction"].toDouble();
      message_ = stage + ": " + inWords(line["message"].toString().toStdString());
      emit progressed();
    }
  }
}

void SolverJob::finished(int exitCode, QProcess::ExitStatus status)
{
  readProgress();
  const bool good = !cancelled_ && status != QProcess::CrashExit && exitCode == 0;
  if (status == QProcess::CrashExit && failure_.isEmpty())
    failure_ = neverStarted()
                   ? tr("solver %1: It could not be started. Reinstall the program.").arg(process_.program())
                   : tr("solver: It was killed or crashed half-way. The project and older results are unchanged; solve "
                        "again, or change the mesh size a little.");
  emit ended(good);
}

} // namespace kiln
