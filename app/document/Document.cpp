// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "document/Document.h"

#include "io/LinkedFiles.h"
#include "io/ProjectFile.h"
#include "io/ResultFile.h"
#include "model/Edit.h"
#include "model/Fields.h"
#include "model/Formula.h"
#include "run/ResultIdentity.h"

#include <QCoreApplication>
#include <QStandardPaths>
#include <QUndoCommand>
#include <algorithm>
#include <utility>

namespace kiln
{

/// Swaps the whole project: values are small, and nothing can be forgotten.
class ProjectEdit : public QUndoCommand
{
public:
  ProjectEdit(Document& document, const QString& name, Project before, Project after)
      : QUndoCommand(name), document_(document), before_(std::move(before)), after_(std::move(after))
  {
  }
  void undo() override { document_.setProject(before_); }
  void redo() override { document_.setProject(after_); }

private:
  Document& document_;
  Project before_, after_;
};

Document::Document(QObject* parent) : QObject(parent)
{
  connect(&undo_, &QUndoStack::cleanChanged, this, &Document::fileChanged);
  rest_.setSingleShot(true);
  constexpr int resting = 120; // ms
  rest_.setInterval(resting);
  connect(&rest_, &QTimer::timeout, this, [this] {
    forgetFigures();
    emit resultChanged();
  });
  startEmpty();
}

Document::~Document()
{
  if (file_.empty()) { // nobody will look for the results of a project that was never saved
    std::error_code ignored;
    std::filesystem::remove_all(resultsFolder(), ignored);
  }
}

QString Document::title() const
{
  const QString name = QString::fromStdString(project_.name.empty() ? "Untitled" : project_.name);
  return isUnsaved() ? name + " •" : name;
}

std::filesystem::path Document::resultsFolder() const
{
  if (!file_.empty())
    return std::filesystem::path(file_).replace_extension(".results");
  const QString cache = QStandardPaths::writableLocation(QStandardPaths::CacheLocation);
  return std::filesystem::path(cache.toStdString()) /
         ("untitled-" + std::to_string(QCoreApplication::applicationPid()) + ".results");
}

const Case* Document::shownCaseObject() const { return findById(project_.cases, shownCase_); }

const CaseState& Document::state(const std::string& caseId) const
{
  static const CaseState none;
  const auto found = states_.find(caseId);
  return found != states_.end() ? found->second : none;
}

std::shared_ptr<const Mesh> Document::shownMesh() const
{
  const CaseState& shown = shownState();
  if (shown.result && shown.result->meshHash == hashes_.mesh)
    return {shown.result, &shown.result->mesh};
  if (preparedMesh_ && preparedHash_ == hashes_.mesh)
    return preparedMesh_;
  if (draft_ && draftHash_ == hashes_.geometry && hashes_.geometry != meshedGeometryHash_)
    return draft_;
  if (meshed_ && hashes_.geometry == meshedGeometryHash_)
    return meshed_;
  if (shown.result)
    return {shown.result, &shown.result->mesh};
  return preparedMesh_ ? preparedMesh_ : draft_;
}

bool Document::wantsDraft() const
{
  const bool drawn = draft_ && draftFused_ && draftHash_ == hashes_.geometry;
  return !project_.parts.empty() && hashes_.geometry != meshedGeometryHash_ && !drawn;
}

bool Document::geometryIsCurrent() const
{
  const CaseState& shown = shownState();
  return (shown.result && shown.result->meshHash == hashes_.mesh) || (preparedMesh_ && preparedHash_ == hashes_.mesh) ||
         (draft_ && draftFused_ && draftHash_ == hashes_.geometry) || hashes_.geometry == meshedGeometryHash_;
}

void Document::startEmpty()
{
  Project empty;
  empty.name = "Untitled";
  Case steady;
  steady.id = "steady";
  steady.name = "Steady";
  empty.cases.push_back(steady);
  empty.mesh.secondOrder = true; // a quick look is asked for
  file_.clear();
  take(std::move(empty));
}

Expected<void> Document::open(const std::filesystem::path& file)
{
  Expected<Project> project = loadProject(file);
  if (!project)
    return tl::unexpected(project.error());
  file_ = std::filesystem::absolute(file);
  take(std::move(*project));
  return {};
}

void Document::take(Project project)
{
  states_.clear();
  playheads_.clear();
  preparedMesh_.reset();
  preparedHash_.clear();
  draft_.reset();
  draftHash_.clear();
  draftProblem_.reset();
  meshedGeometryHash_.clear();
  meshed_.reset();
  selectedId_.clear();
  litFaces_.clear();
  litParts_.clear();
  shownCase_ = project.cases.empty() ? std::string() : project.cases.front().id;
  undo_.clear();
  project_ = std::move(project);
  loadStoredResults();
  refresh();
  emit fileChanged();
  emit shownCaseChanged();
}

void Document::loadStoredResults()
{
  if (file_.empty())
    return;
  std::error_code ignored;
  for (const Case& one : project_.cases) {
    if (!std::filesystem::exists(manifestFile(resultsFolder(), one.id), ignored) && one.kind != Case::Kind::Transient)
      continue;
    CaseState& state = states_[one.id];
    if (Expected<CaseResult> stored = loadStored(resultsFolder(), one)) {
      state.result = std::make_shared<CaseResult>(std::move(*stored));
    } else if (std::filesystem::exists(manifestFile(resultsFolder(), one.id), ignored)) {
      state.stage = CaseState::Stage::Failed; // damaged: its case says so
      state.message = QString::fromStdString(stored.error().sentence());
    }
    if (auto sure = loadSure(sureFile(resultsFolder(), one.id)))
      state.sure = std::move(*sure);
    if (one.kind == Case::Kind::Transient)
      state.run = loadShownRun(resultsFolder(), one.id);
  }
  if (std::none_of(states_.begin(), states_.end(), [](const auto& one) { return one.second.result != nullptr; }))
    if (Expected<StoredMesh> stored = loadMesh(meshFile(resultsFolder()))) {
      preparedHash_ = stored->hash;
      preparedMesh_ = std::make_shared<Mesh>(std::move(stored->mesh));
    }
}

Expected<void> Document::save() { return saveAs(file_); }

Expected<void> Document::saveAs(const std::filesystem::path& file)
{
  if (auto saved = saveProject(project_, file); !saved)
    return saved;
  file_ = std::filesystem::absolute(file);
  undo_.setClean();
  emit fileChanged();
  return {};
}

void Document::edit(const QString& name, const std::function<void(Project&)>& change)
{
  Project after = project_;
  change(after);
  applyParameters(after);
  if (after == project_)
    return;
  undo_.push(new ProjectEdit(*this, name, project_, std::move(after))); // the stack owns and runs it
}

void Document::setProject(Project project)
{
  project_ = std::move(project);
  if (findById(project_.cases, shownCase_) == nullptr)
    shownCase_ = project_.cases.empty() ? std::string() : project_.cases.front().id;
  refresh();
}

bool Document::caseChanges(const std::string& path) const
{
  const Case* shown = shownCaseObject();
  return shown != nullptr && std::any_of(shown->changes.begin(), shown->changes.end(),
                                         [&](const Change& change) { return change.field == path; });
}

void Document::setNumber(const std::string& path, const Number& value)
{
  const QString name = tr("Set %1").arg(QString::fromStdString(path));
  if (caseChanges(path)) {
    edit(name, [&](Project& project) {
      for (Change& change : findById(project.cases, shownCase_)->changes)
        if (change.field == path)
          change.value = value;
    });
    return;
  }
  // The same number of every selected object, when the edited one is among them.
  std::set<std::string> paths{path};
  const std::string object = path.substr(0, path.find('.'));
  if (std::find(selectedIds_.begin(), selectedIds_.end(), object) != selectedIds_.end())
    for (const std::string& other : selectedIds_)
      paths.insert(other + path.substr(object.size()));
  edit(name, [&](Project& project) {
    for (const Field& field : fields(project))
      if (paths.contains(field.path))
        field.assign(value);
  });
}

void Document::showCase(const std::string& caseId)
{
  if (caseId == shownCase_ || findById(project_.cases, caseId) == nullptr)
    return;
  shownCase_ = caseId;
  refresh();
  emit shownCaseChanged();
}

void Document::refresh()
{
  const Case* shown = shownCaseObject();
  const Expected<Project> own = shown != nullptr ? projectForCase(project_, *shown) : Expected<Project>(project_);
  shownProject_ = own ? *own : project_;
  numbers_.reset();
  forgetFigures();
  fillLaterWatches();
  hashes_ = inputHashes(shownProject_);
  if (shown != nullptr)
    hashes_.solution = solutionHash(shownProject_, *shown);
  noteMeshed();
  for (const Case& one : project_.cases)
    refreshState(one.id);
  refreshFindings();
  emit projectChanged();
  emit resultChanged();
  relight();
}

/// A result or mesh of the present inputs shows the present shapes.
void Document::noteMeshed()
{
  const CaseState& shown = shownState();
  if ((shown.result && shown.result->meshHash == hashes_.mesh) || (preparedMesh_ && preparedHash_ == hashes_.mesh)) {
    meshedGeometryHash_ = hashes_.geometry;
    meshed_ = shownMesh();
  }
}

void Document::refreshState(const std::string& caseId)
{
  CaseState& state = states_[caseId];
  const Case* own = findById(project_.cases, caseId);
  if (!state.result || caseId == shownCase_) {
    judge(own, state, shownProject_, hashes_);
  } else if (const auto project = own != nullptr ? projectForCase(project_, *own) : Expected<Project>(project_)) {
    InputHashes now = inputHashes(*project);
    if (own != nullptr)
      now.solution = solutionHash(*project, *own);
    judge(own, state, *project, now);
  }
  judgeStart(own, state);
  emit caseStateChanged(caseId);
}

/// A run is as current as what it started from.
void Document::judgeStart(const Case* own, CaseState& state) const
{
  if (own == nullptr || !state.result || !state.outOfDate.isEmpty())
    return;
  const auto start = currentStartIdentity(project_, *own, resultsFolder());
  if (start && *start == state.result->startIdentity)
    return;
  state.outOfDate = tr("what it starts from");
  if (state.stage == CaseState::Stage::Solved)
    state.stage = CaseState::Stage::OutOfDate;
}

/// Is a result still that of its inputs? And what do the present watches say of it?
void Document::judge(const Case* own, CaseState& state, const Project& project, const InputHashes& now)
{
  if (state.stage != CaseState::Stage::Running && state.stage != CaseState::Stage::Failed)
    state.stage = state.result ? CaseState::Stage::Solved : CaseState::Stage::NeverRun;
  if (!state.result)
    return;
  state.outOfDate = state.result->meshHash != now.mesh           ? tr("mesh and solution")
                    : state.result->solutionHash != now.solution ? tr("solution")
                                                                 : QString();
  if (!state.outOfDate.isEmpty() && state.stage == CaseState::Stage::Solved)
    state.stage = CaseState::Stage::OutOfDate;
  state.watches = readWatches(project, *state.result);
  if (own == nullptr || own->kind != Case::Kind::Transient || !state.run.record)
    return;
  for (WatchFigure& figure : state.watches) { // what counts of a run is its worst instant
    const Watch* watch = findById(project.watches, figure.id);
    const auto answers = watch != nullptr ? answersOf(*state.run.record, *watch) : std::nullopt;
    if (!answers)
      continue;
    figure.margin.reset();
    if (watch->upper)
      figure.margin = watch->upper->si - answers->peak.value;
    // What starts below its lower limit has to get there: then its end counts.
    const double least = watch->lower && answers->start < watch->lower->si ? answers->end : answers->trough.value;
    if (watch->lower)
      figure.margin = std::min(figure.margin.value_or(1e300), least - watch->lower->si);
  }
}

const Field* Document::shownField(const std::string& path) const
{
  if (!numbers_) {
    numbers_ = std::make_unique<Numbers>();
    numbers_->walked = shownProject_;
    numbers_->fields = fields(numbers_->walked);
    for (std::size_t i = 0; i < numbers_->fields.size(); ++i)
      numbers_->byPath.emplace(numbers_->fields[i].path, i);
  }
  const auto found = numbers_->byPath.find(path);
  return found != numbers_->byPath.end() ? &numbers_->fields[found->second] : nullptr;
}

void Document::refreshFindings()
{
  findings_ = checkModel(shownProject_);
  if (draftProblem_ && draftProblem_->first == hashes_.geometry) {
    findings_.push_back(findingOf(shownProject_, draftProblem_->second));
  } else if (geometryIsCurrent()) {
    const std::vector<Finding> more = checkOnGeometry(shownProject_, shownMesh()->geometry);
    findings_.insert(findings_.end(), more.begin(), more.end());
    const std::vector<Finding> voids = checkVoids(shownProject_, *shownMesh());
    findings_.insert(findings_.end(), voids.begin(), voids.end());
    const std::vector<Finding> held = checkHeldMeeting(shownProject_, *shownMesh());
    findings_.insert(findings_.end(), held.begin(), held.end());
  }
  for (Finding& finding : checkLinked(shownProject_, file_.parent_path()))
    findings_.push_back(std::move(finding));
  std::stable_partition(findings_.begin(), findings_.end(), // what stands in the way comes first
                        [](const Finding& finding) { return finding.severity == Finding::Severity::Error; });
  emit findingsChanged();
}

void Document::setRunning(const std::string& caseId, double fraction, const QString& message)
{
  CaseState& state = states_[caseId];
  state.stage = CaseState::Stage::Running;
  state.fraction = fraction;
  state.message = message;
  emit caseStateChanged(caseId);
}

void Document::setFailed(const std::string& caseId, const QString& message)
{
  CaseState& state = states_[caseId];
  state.stage = CaseState::Stage::Failed;
  state.message = message;
  emit caseStateChanged(caseId);
}

void Document::setIdle(const std::string& caseId)
{
  states_[caseId].stage = CaseState::Stage::NeverRun;
  states_[caseId].message.clear();
  refreshState(caseId);
}

void Document::setResult(const std::string& caseId, std::shared_ptr<const CaseResult> result)
{
  CaseState& state = states_[caseId];
  state.result = std::move(result);
  playheads_.erase(caseId);
  forgetFigures();
  state.stage = CaseState::Stage::Solved;
  state.message.clear();
  noteMeshed();
  refreshState(caseId);
  refreshFindings();
  emit resultChanged();
  relight();
}

void Document::setPreparedMesh(std::shared_ptr<const Mesh> mesh, const std::string& hash)
{
  preparedMesh_ = std::move(mesh);
  preparedHash_ = hash;
  noteMeshed();
  refreshFindings();
  emit projectChanged();
  emit resultChanged();
}

void Document::setDraft(std::shared_ptr<const Mesh> mesh, const std::string& geometryHash, bool fused)
{
  draft_ = std::move(mesh);
  draftHash_ = geometryHash;
  draftFused_ = fused;
  draftProblem_.reset();
  refreshFindings();
  emit resultChanged();
  relight();
}

void Document::setDraftProblem(const Failure& problem)
{
  draftProblem_ = {hashes_.geometry, problem};
  refreshFindings();
}

} // namespace kiln
