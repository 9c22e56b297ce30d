// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "document/SolverProcess.h"

#include "document/Document.h"
#include "document/SolverProgram.h"
#include "io/AtomicFile.h"
#include "io/LinkedFiles.h"
#include "io/ProjectFile.h"
#include "io/ResultFile.h"
#include "run/InputHash.h"
#include "run/RefineRun.h"
#include "run/ResultIdentity.h"
#include "run/TransientCase.h"

#include <QJsonDocument>
#include <QJsonObject>
#include <QThreadPool>

namespace kiln
{
namespace
{

const char* const snapshotName = ".snapshot.kiln";

QString sentenceOf(const QJsonObject& json)
{
  const QString object = json["object"].toString();
  return (object.isEmpty() ? QString() : object + ": ") + json["problem"].toString() + " " + json["remedy"].toString();
}

} // namespace

SolverProcess::SolverProcess(Document& document, QObject* parent)
    : QObject(parent), document_(document), program_(solverProgram())
{
  process_.setStandardErrorFile(QProcess::nullDevice());
  connect(&process_, &QProcess::readyReadStandardOutput, this, &SolverProcess::readProgress);
  connect(&process_, &QProcess::finished, this, &SolverProcess::finished);
  constexpr int often = 1500; // ms
  grow_.setInterval(often);
  connect(&grow_, &QTimer::timeout, this, &SolverProcess::readRun);
  connect(&document, &Document::projectChanged, this, &SolverProcess::sendLimits);
  connect(&process_, &QProcess::errorOccurred, this, [this](QProcess::ProcessError error) {
    if (error == QProcess::FailedToStart)
      finished(-1, QProcess::CrashExit);
  });
}

SolverProcess::~SolverProcess()
{
  process_.disconnect(this);
  if (isRunning()) {
    process_.terminate();
    constexpr int patience = 2000; // ms
    if (!process_.waitForFinished(patience))
      process_.kill();
  }
}

void SolverProcess::solve(const std::vector<std::string>& caseIds)
{
  if (isRunning())
    return;
  waiting_.clear();
  std::vector<Case> asked;
  for (const std::string& id : caseIds)
    if (const Case* one = findById(document_.project().cases, id))
      asked.push_back(*one);
  const auto ordered = inOrder(document_.project(), asked); // what others start from comes before them
  if (!ordered) {
    emit failed(QString::fromStdString(ordered.error().sentence()));
    return;
  }
  for (const Case& one : *ordered)
    if (findById(asked, one.id) != nullptr || document_.state(one.id).stage != CaseState::Stage::Solved)
      waiting_.push_back({Job::Kind::Solve, one.id, one.name});
  startNext();
}

void SolverProcess::start(const std::string& caseId, Job::Kind kind, const QString& within)
{
  const Case* one = findById(document_.project().cases, caseId);
  if (isRunning() || one == nullptr)
    return;
  waiting_.clear();
  waiting_.push_back({kind, one->id, one->name, within});
  startNext();
}

void SolverProcess::goOn(const std::string& caseId) { start(caseId, Job::Kind::GoOn); }

void SolverProcess::askHowSure(const std::string& caseId) { start(caseId, Job::Kind::Sure); }

void SolverProcess::refine(const std::string& caseId, const QString& within)
{
  start(caseId, Job::Kind::Refine, within);
}

bool SolverProcess::isRunningTransient() const
{
  const Case* own = findById(document_.project().cases, current_.caseId);
  return isRunning() && own != nullptr && own->kind == Case::Kind::Transient;
}

void SolverProcess::endRun()
{
  if (!isRunningTransient())
    return;
  if (auto asked = writeAtomically(controlFiles(document_.resultsFolder(), current_.caseId).stop, ""); !asked)
    emit failed(QString::fromStdString(asked.error().sentence()));
}

/// End rules, tolerances and storing may be changed while a case runs: the child looks at every step.
void SolverProcess::sendLimits()
{
  const Case* own = findById(document_.project().cases, current_.caseId);
  if (!isRunningTransient() || own->run == limits_)
    return;
  limits_ = own->run;
  Project carrier;
  carrier.cases = {*own};
  if (auto sent = saveProject(carrier, controlFiles(document_.resultsFolder(), current_.caseId).limits); !sent)
    emit failed(QString::fromStdString(sent.error().sentence()));
}

void SolverProcess::prepare()
{
  if (isRunning() || document_.project().parts.empty())
    return;
  waiting_ = {Job{}};
  startNext();
}

void SolverProcess::doLarge()
{
  if (isRunning())
    return;
  Job again = current_;
  again.large = true;
  waiting_ = {again};
  startNext();
}

void SolverProcess::cancel()
{
  waiting_.clear();
  if (!isRunning())
    return;
  cancelled_ = true;
  process_.terminate();
}

bool SolverProcess::writeSnapshot()
{
  std::error_code error;
  std::filesystem::create_directories(document_.resultsFolder(), error);
  if (auto saved = saveProject(withAbsoluteLinks(document_.project(), document_.file().parent_path()),
                               document_.resultsFolder() / snapshotName);
      !saved) {
    failure_ = QString::fromStdString(saved.error().sentence());
    return false;
  }
  return true;
}

void SolverProcess::startNext()
{
  if (waiting_.empty()) {
    emit runningChanged();
    return;
  }
  current_ = waiting_.front();
  waiting_.pop_front();
  failure_.clear();
  cancelled_ = tooLarge_ = false;
  if (!writeSnapshot()) {
    waiting_.clear();
    if (!current_.caseId.empty())
      document_.setFailed(current_.caseId, failure_);
    emit failed(failure_);
    return;
  }
  const QString folder = QString::fromStdString(document_.resultsFolder().string());
  const bool sure = current_.kind == Job::Kind::Sure;
  const bool refines = current_.kind == Job::Kind::Refine;
  QStringList arguments{current_.caseId.empty() ? "mesh"
                        : sure                  ? "sure"
                        : refines               ? "refine"
                                                : "solve",
                        folder + "/" + snapshotName,
                        "--out",
                        folder,
                        "--progress",
                        "json"};
  if (current_.kind == Job::Kind::GoOn)
    arguments << "--continue";
  if (current_.large)
    arguments << "--allow-large";
  if (mostElements_ > 0)
    arguments << "--most-elements" << QString::number(mostElements_, 'f', 0);
  if (refines)
    arguments << "--within" << current_.within;
  const Case* own = findById(document_.project().cases, current_.caseId);
  limits_ = own != nullptr ? own->run : std::nullopt;
  if (!current_.caseId.empty()) {
    arguments << "--case" << QString::fromStdString(current_.caseId);
    document_.setRunning(current_.caseId, 0, tr("starting"));
  }
  process_.start(program_, arguments);
  grow_.start();
  emit runningChanged();
}

void SolverProcess::readProgress()
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
    else if (stage != "say" && !current_.caseId.empty())
      document_.setRunning(current_.caseId, line["fraction"].toDouble(), stage + ": " + line["message"].toString());
  }
}

void SolverProcess::finished(int exitCode, QProcess::ExitStatus status)
{
  readProgress();
  grow_.stop();
  const Job job = current_;
  if (cancelled_) {
    if (!job.caseId.empty()) {
      document_.setIdle(job.caseId);
      showStoredRun(job.caseId);
    }
    emit runningChanged();
    return;
  }
  if (status == QProcess::CrashExit || exitCode != 0) {
    if (status == QProcess::CrashExit && failure_.isEmpty())
      failure_ =
          process_.error() == QProcess::FailedToStart
              ? tr("solver %1: It could not be started. Reinstall the program.").arg(program_)
              : tr("solver: It was killed or crashed half-way. The project and older results are unchanged; solve "
                   "again, or change the mesh size a little.");
    if (job.kind == Job::Kind::Solve || job.kind == Job::Kind::GoOn) {
      document_.setFailed(job.caseId, failure_);
      showStoredRun(job.caseId);
    } else if (job.kind == Job::Kind::Sure || job.kind == Job::Kind::Refine)
      document_.setIdle(job.caseId); // the case's own result is as good as before
    if (tooLarge_)
      emit tooLarge(failure_);
    else
      emit failed(failure_);
    if (tooLarge_ || process_.error() == QProcess::FailedToStart) // it is asked about; it would fail again
      waiting_.clear();
    dropFollowers(job.caseId);
    startNext();
    return;
  }
  loadOutcome(job);
}

/// What starts from a case that failed cannot be solved; others can.
void SolverProcess::dropFollowers(const std::string& failedCase)
{
  std::erase_if(waiting_, [&](const Job& job) {
    const Case* own = findById(document_.project().cases, job.caseId);
    if (own == nullptr)
      return true;
    const std::vector<std::string> before = startsFrom(document_.project(), *own);
    if (std::find(before.begin(), before.end(), failedCase) == before.end())
      return false;
    const Case* lacking = findById(document_.project().cases, failedCase);
    document_.setFailed(job.caseId, tr("It starts from %1, which failed: solve that case first.")
                                        .arg(QString::fromStdString(lacking != nullptr ? lacking->name : failedCase)));
    return true;
  });
}

/// What a running transient case has stored so far.
void SolverProcess::readRun()
{
  const Case* own = findById(document_.project().cases, current_.caseId);
  if (!isRunning() || own == nullptr || own->kind != Case::Kind::Transient)
    return;
  ShownRun run = loadGrowingRun(document_.resultsFolder(), current_.caseId);
  if (run.record && !run.record->times.empty() && !run.record->finished)
    document_.setRun(current_.caseId, std::move(run));
}

/// The run of the current result again, after one that did not come to its end.
void SolverProcess::showStoredRun(const std::string& caseId)
{
  const Case* own = findById(document_.project().cases, caseId);
  if (own != nullptr && own->kind == Case::Kind::Transient)
    document_.setRun(caseId, loadShownRun(document_.resultsFolder(), caseId));
}

/// The project asks for the mesh that was found, so that the result belongs to it.
void SolverProcess::takeRefinement(const RefineRecord& record)
{
  document_.edit(tr("Refined mesh"), [&](Project& project) { project.mesh.finerAt = SharedText(record.finerAt); });
  const std::size_t rounds = record.rounds.size();
  if (rounds < 2)
    return;
  emit told(
      (record.reached ? tr("%1 rounds, %2 elements: the last round moved no hot spot by more than %3.")
                      : tr("Not reached after %1 rounds, %2 elements: the last one still moved a hot spot by %3."))
          .arg(rounds)
          .arg(record.rounds.back().elements)
          .arg(QString::fromStdString(formatQuantity(record.rounds.back().moved, Quantity::TemperatureStep, {}, 2))));
}

/// Reads the file in a worker thread; the document takes it on the window's thread.
void SolverProcess::loadOutcome(const Job& job)
{
  // HDF5 shows a file that is still open as it was then: let go of the growing one first.
  if (const CaseState& state = document_.state(job.caseId); state.run.record)
    document_.setRun(job.caseId, {state.run.record, nullptr, state.run.interruptedAt});
  const std::filesystem::path folder = document_.resultsFolder();
  QThreadPool::globalInstance()->start([this, job, folder] {
    if (job.caseId.empty()) {
      auto stored = std::make_shared<Expected<StoredMesh>>(loadMesh(meshFile(folder)));
      QMetaObject::invokeMethod(this, [this, stored] {
        if (*stored)
          document_.setPreparedMesh(std::make_shared<Mesh>((*stored)->mesh), (*stored)->hash);
        startNext();
      });
      return;
    }
    Case solved;
    solved.id = job.caseId;
    solved.name = job.caseName;
    auto stored = std::make_shared<Expected<CaseResult>>(loadStored(folder, solved));
    auto run = std::make_shared<ShownRun>(loadShownRun(folder, job.caseId));
    auto sure = std::make_shared<Expected<SureRecord>>(loadSure(sureFile(folder, job.caseId)));
    std::shared_ptr<Expected<RefineRecord>> refined;
    if (job.kind == Job::Kind::Refine)
      refined = std::make_shared<Expected<RefineRecord>>(loadRefine(refineFile(folder, job.caseId)));
    QMetaObject::invokeMethod(this, [this, job, stored, run, sure, refined] {
      if (refined && *refined)
        takeRefinement(**refined);
      if (*sure)
        document_.setSure(job.caseId, **sure);
      if (*stored && (*stored)->transient)
        document_.setRun(job.caseId, std::move(*run));
      if (*stored)
        document_.setResult(job.caseId, std::make_shared<CaseResult>(std::move(**stored)));
      else
        document_.setFailed(job.caseId, QString::fromStdString(stored->error().sentence()));
      startNext();
    });
  });
}

} // namespace kiln
