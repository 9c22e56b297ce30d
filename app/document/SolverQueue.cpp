// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "document/SolverQueue.h"

#include "base/ProcessMemory.h"
#include "document/SolverProgram.h"
#include "io/AtomicFile.h"
#include "io/LinkedFiles.h"
#include "io/ProjectFile.h"
#include "io/ResultFile.h"
#include "look/Language.h"
#include "run/InputHash.h"
#include "run/RefineRun.h"
#include "run/ResultIdentity.h"
#include "run/TransientCase.h"

#include <QDir>
#include <QFile>
#include <QThreadPool>
#include <algorithm>

namespace kiln
{

SolverQueue::SolverQueue(Document& document, QObject* parent) : QObject(parent), document_(document)
{
  manner_.program = solverProgram();
  constexpr int often = 1500;  // ms
  constexpr int closely = 300; // ms
  grow_.setInterval(often);
  connect(&grow_, &QTimer::timeout, this, &SolverQueue::readRuns);
  watch_.setInterval(closely);
  connect(&watch_, &QTimer::timeout, this, &SolverQueue::measure);
  connect(&document, &Document::projectChanged, this, &SolverQueue::sendLimits);
}

SolverQueue::~SolverQueue()
{
  for (auto& [id, job] : jobs_)
    job->disconnect(this);
}

void SolverQueue::setAtATime(int most)
{
  manner_.atATime = std::max(1, most);
  startMore();
}

qint64 SolverQueue::processId() const { return jobs_.empty() ? 0 : jobs_.begin()->second->processId(); }

void SolverQueue::setCluster(bool cluster)
{
  manner_.cluster = cluster;
  emit queueChanged();
}

QStringList SolverQueue::handedIn() const
{
  QStringList names;
  QDir folder(QString::fromStdString(document_.resultsFolder().string()));
  for (const QString& one : folder.entryList({".cluster-cases-*"}, QDir::Dirs | QDir::Hidden)) {
    QFile cases(folder.filePath(one + "/cases"));
    if (QFile::exists(folder.filePath(one + "/job")) && cases.open(QIODevice::ReadOnly))
      names << QString::fromUtf8(cases.readAll()).split('\n', Qt::SkipEmptyParts);
  }
  return names;
}

const SolverWork* SolverQueue::work(const std::string& jobId) const
{
  const auto found = works_.find(jobId);
  return found != works_.end() ? &found->second : nullptr;
}

SolverJob* SolverQueue::running(const std::string& jobId) const
{
  const auto found = jobs_.find(jobId);
  return found != jobs_.end() ? found->second.get() : nullptr;
}

std::optional<double> SolverQueue::lasted(const std::string& jobId) const
{
  const auto found = lasted_.find(jobId);
  return found != lasted_.end() ? std::optional(found->second) : std::nullopt;
}

void SolverQueue::solve(const std::vector<std::string>& caseIds)
{
  std::vector<Case> asked;
  for (const std::string& id : caseIds)
    if (const Case* one = findById(document_.project().cases, id))
      asked.push_back(*one);
  const auto ordered = inOrder(document_.project(), asked); // what others wait for comes before them
  if (!ordered) {
    emit failed(inWords(ordered.error()));
    return;
  }
  for (const Case& one : *ordered)
    if (findById(asked, one.id) != nullptr || document_.state(one.id).stage != CaseState::Stage::Solved)
      add({SolverWork::Kind::Solve, one.id, one.name}, waitsFor(document_.project(), one));
  startMore();
}

void SolverQueue::add(SolverWork work, std::vector<std::string> after)
{
  const std::string id = work.id();
  if (!queue_.isBusy()) // what was over was of an earlier round
    queue_.clearOver();
  if (const QueuedJob* known = queue_.find(id); known == nullptr || known->state != QueuedJob::State::Running)
    works_.insert_or_assign(id, std::move(work));
  queue_.add({id, std::move(after), QueuedJob::State::Waiting, 0, {}});
  emit queueChanged();
}

namespace
{

std::optional<SolverWork> workOn(const Document& document, const std::string& caseId, SolverWork::Kind kind,
                                 const QString& within = {})
{
  const Case* one = findById(document.project().cases, caseId);
  return one != nullptr ? std::optional(SolverWork{kind, one->id, one->name, within}) : std::nullopt;
}

} // namespace

void SolverQueue::goOn(const std::string& caseId)
{
  if (auto work = workOn(document_, caseId, SolverWork::Kind::GoOn))
    add(*work), startMore();
}

void SolverQueue::askHowSure(const std::string& caseId)
{
  if (auto work = workOn(document_, caseId, SolverWork::Kind::Sure))
    add(*work), startMore();
}

void SolverQueue::ask(const std::string& questionId, bool cluster)
{
  const Question* question = findById(document_.project().questions, questionId);
  if (question == nullptr)
    return;
  SolverWork work{SolverWork::Kind::Ask, {}, question->name};
  work.questionId = questionId;
  work.cluster = cluster;
  add(std::move(work));
  startMore();
}

void SolverQueue::refine(const std::string& caseId, const QString& within)
{
  if (auto work = workOn(document_, caseId, SolverWork::Kind::Refine, within))
    add(*work), startMore();
}

void SolverQueue::prepare()
{
  if (document_.project().parts.empty())
    return;
  add({});
  startMore();
}

void SolverQueue::doLarge()
{
  if (!refused_)
    return;
  SolverWork again = *refused_;
  again.large = true;
  refused_.reset();
  add(std::move(again));
  startMore();
}

void SolverQueue::cancel()
{
  queue_.clearWaiting();
  for (auto& [id, job] : jobs_)
    job->cancel();
  emit queueChanged();
}

void SolverQueue::letGo()
{
  queue_.clearWaiting();
  for (auto& [id, job] : jobs_)
    job->letGo();
  emit queueChanged();
}

void SolverQueue::cancelOne(const std::string& jobId)
{
  if (SolverJob* job = running(jobId))
    job->cancel();
  else
    queue_.remove(jobId);
  emit queueChanged();
}

void SolverQueue::moveBefore(const std::string& jobId, const std::string& before)
{
  if (queue_.moveBefore(jobId, before))
    emit queueChanged();
  else
    emit told(tr("It must come after what it starts from."));
}

void SolverQueue::pause(bool paused)
{
  queue_.pause(paused);
  emit queueChanged();
  startMore();
}

void SolverQueue::stopAfterThis()
{
  queue_.clearWaiting();
  emit queueChanged();
}

void SolverQueue::clearOver()
{
  queue_.clearOver();
  emit queueChanged();
}

SolverJob* SolverQueue::runningTransient() const
{
  SolverJob* found = nullptr;
  for (const auto& [id, job] : jobs_)
    if (const Case* own = findById(document_.project().cases, job->work().caseId);
        own != nullptr && own->kind == Case::Kind::Transient)
      if (found == nullptr || own->id == document_.shownCase())
        found = job.get();
  return found;
}

void SolverQueue::endRun()
{
  const SolverJob* job = runningTransient();
  if (job == nullptr)
    return;
  if (auto asked = writeAtomically(controlFiles(document_.resultsFolder(), job->work().caseId).stop, ""); !asked)
    emit failed(inWords(asked.error()));
}

/// End rules, tolerances and storing may be changed while a case runs: the child looks at every step.
void SolverQueue::sendLimits()
{
  for (auto& [caseId, known] : limits_) {
    const Case* own = findById(document_.project().cases, caseId);
    if (own == nullptr || !own->run || *own->run == known)
      continue;
    known = *own->run;
    Project carrier;
    carrier.cases = {*own};
    if (auto sent = saveProject(carrier, controlFiles(document_.resultsFolder(), caseId).limits); !sent)
      emit failed(inWords(sent.error()));
  }
}

Expected<std::filesystem::path> SolverQueue::writeSnapshot(const std::string& jobId)
{
  std::error_code error;
  std::filesystem::create_directories(document_.resultsFolder(), error);
  const std::filesystem::path file = document_.resultsFolder() / (".snapshot-" + safeFileName(jobId) + ".kiln");
  const auto saved = saveProject(withAbsoluteLinks(document_.project(), document_.file().parent_path()), file);
  return saved ? Expected<std::filesystem::path>(file) : tl::unexpected(saved.error());
}

void SolverQueue::startMore()
{
  bool any = false;
  constexpr int mostHandedIn = 64; // they only wait here
  while (const auto id = queue_.startNext({manner_.cluster ? mostHandedIn : manner_.atATime, availableMemory()})) {
    begin(*id);
    any = true;
  }
  const bool running = isRunning();
  for (QTimer* timer : {&grow_, &watch_})
    if (!running)
      timer->stop();
    else if (!timer->isActive())
      timer->start();
  if (any)
    emit queueChanged();
  if (std::exchange(wasRunning_, running) != running)
    emit runningChanged();
}

void SolverQueue::begin(const std::string& jobId)
{
  SolverWork work = works_.at(jobId);
  work.cluster = work.cluster || (manner_.cluster && work.kind == SolverWork::Kind::Solve);
  const auto snapshot = writeSnapshot(jobId);
  if (!snapshot) {
    const QString sentence = inWords(snapshot.error());
    queue_.clearWaiting(); // a full disk is full for all
    queue_.fail(jobId, sentence.toStdString(), work.caseName);
    if (!work.caseId.empty())
      document_.setFailed(work.caseId, sentence);
    emit failed(sentence);
    return;
  }
  auto job = std::make_unique<SolverJob>(work, *snapshot, document_.resultsFolder());
  SolverJob* started = job.get();
  jobs_[jobId] = std::move(job);
  const Case* own = findById(document_.project().cases, work.caseId);
  if (own != nullptr && own->run)
    limits_[work.caseId] = *own->run;
  if (!work.caseId.empty())
    document_.setRunning(work.caseId, 0, tr("starting"));
  connect(started, &SolverJob::progressed, this, [this, started] {
    if (const std::string& id = started->work().caseId; !id.empty())
      document_.setRunning(id, started->fraction(), started->message());
    emit progressed();
  });
  connect(started, &SolverJob::ended, this, [this, started](bool good) { ended(*started, good); });
  started->start(manner_);
}

void SolverQueue::measure()
{
  for (auto& [id, job] : jobs_)
    queue_.measure(id, job->peak());
  emit progressed();
  startMore();
}

void SolverQueue::ended(SolverJob& job, bool good)
{
  const SolverWork work = job.work();
  limits_.erase(work.caseId);
  emit jobEnded(QString::fromStdString(work.caseName), good, job.seconds());
  if (good)
    return loadOutcome(work);
  if (job.wasCancelled()) {
    if (!work.caseId.empty()) {
      document_.setIdle(work.caseId);
      showStoredRun(work.caseId);
    }
    leave(work.id(), false, tr("cancelled"));
    if (work.kind == SolverWork::Kind::Ask) // the points that were solved are there
      emit asked(work.questionId);
    return;
  }
  takeFailure(job);
}

void SolverQueue::takeFailure(SolverJob& job)
{
  const SolverWork& work = job.work();
  const QString& reason = job.failure();
  if (work.kind == SolverWork::Kind::Solve || work.kind == SolverWork::Kind::GoOn) {
    document_.setFailed(work.caseId, reason);
    showStoredRun(work.caseId);
  } else if (!work.caseId.empty())
    document_.setIdle(work.caseId); // the case's own result is as good as before
  if (job.isTooLarge()) {
    refused_ = work;
    emit tooLarge(reason);
  } else
    emit failed(reason);
  if (job.isTooLarge() || job.neverStarted()) // it is asked about; it would fail again
    queue_.clearWaiting();
  leave(work.id(), false, reason);
}

void SolverQueue::leave(const std::string& jobId, bool good, const QString& reason)
{
  if (const auto job = jobs_.find(jobId); job != jobs_.end()) {
    queue_.measure(jobId, job->second->peak());
    lasted_[jobId] = job->second->seconds();
    job->second.release()->deleteLater(); // it may be the one that is telling
    jobs_.erase(job);
  }
  if (good)
    queue_.finish(jobId);
  else
    queue_.fail(jobId, reason.toStdString(), works_.at(jobId).caseName);
  for (const QueuedJob& left : queue_.jobs())
    if (left.state == QueuedJob::State::LeftOut)
      if (const SolverWork* own = work(left.id);
          own != nullptr && document_.state(own->caseId).stage != CaseState::Stage::Failed)
        document_.setFailed(own->caseId, tr("It was skipped: %1.").arg(inWords(left.reason)));
  emit queueChanged();
  startMore();
}

/// What running transient cases have stored so far.
void SolverQueue::readRuns()
{
  for (const auto& [id, job] : jobs_) {
    const Case* own = findById(document_.project().cases, job->work().caseId);
    if (own == nullptr || own->kind != Case::Kind::Transient)
      continue;
    ShownRun run = loadGrowingRun(document_.resultsFolder(), own->id);
    if (run.record && !run.record->times.empty() && !run.record->finished)
      document_.setRun(own->id, std::move(run));
  }
}

/// The run of the current result again, after one that did not come to its end.
void SolverQueue::showStoredRun(const std::string& caseId)
{
  const Case* own = findById(document_.project().cases, caseId);
  if (own != nullptr && own->kind == Case::Kind::Transient)
    document_.setRun(caseId, loadShownRun(document_.resultsFolder(), caseId));
}

/// The project asks for the mesh that was found, so that the result belongs to it.
void SolverQueue::takeRefinement(const RefineRecord& record)
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
void SolverQueue::loadOutcome(const SolverWork& work)
{
  if (work.kind == SolverWork::Kind::Ask) {
    leave(work.id(), true, {});
    emit asked(work.questionId);
    return;
  }
  // HDF5 shows a file that is still open as it was then: let go of the growing one first.
  if (const CaseState& state = document_.state(work.caseId); state.run.record)
    document_.setRun(work.caseId, {state.run.record, nullptr, state.run.interruptedAt});
  const std::filesystem::path folder = document_.resultsFolder();
  QThreadPool::globalInstance()->start([this, work, folder] {
    if (work.caseId.empty()) {
      auto stored = std::make_shared<Expected<StoredMesh>>(loadMesh(meshFile(folder)));
      QMetaObject::invokeMethod(this, [this, work, stored] {
        if (*stored)
          document_.setPreparedMesh(std::make_shared<Mesh>((*stored)->mesh), (*stored)->hash);
        leave(work.id(), true, {});
      });
      return;
    }
    Case solved;
    solved.id = work.caseId;
    solved.name = work.caseName;
    auto stored = std::make_shared<Expected<CaseResult>>(loadStored(folder, solved));
    auto run = std::make_shared<ShownRun>(loadShownRun(folder, work.caseId));
    auto sure = std::make_shared<Expected<SureRecord>>(loadSure(sureFile(folder, work.caseId)));
    std::shared_ptr<Expected<RefineRecord>> refined;
    if (work.kind == SolverWork::Kind::Refine)
      refined = std::make_shared<Expected<RefineRecord>>(loadRefine(refineFile(folder, work.caseId)));
    QMetaObject::invokeMethod(this, [this, work, stored, run, sure, refined] {
      if (refined && *refined)
        takeRefinement(**refined);
      if (*sure)
        document_.setSure(work.caseId, **sure);
      if (*stored && (*stored)->transient)
        document_.setRun(work.caseId, std::move(*run));
      if (*stored)
        document_.setResult(work.caseId, std::make_shared<CaseResult>(std::move(**stored)));
      if (*stored)
        document_.takeFigures(); // what waits for it starts with them
      else
        document_.setFailed(work.caseId, inWords(stored->error()));
      leave(work.id(), stored->has_value(), stored->has_value() ? QString() : document_.state(work.caseId).message);
    });
  });
}

} // namespace kiln
