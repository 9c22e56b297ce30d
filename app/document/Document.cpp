// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "document/Document.h"

#include "base/PackedText.h"
#include "io/LinkedFiles.h"
#include "io/ProjectFile.h"
#include "io/ResultFile.h"
#include "model/Edit.h"
#include "model/OwnValues.h"
#include "model/Parameters.h"
#include "run/ResultIdentity.h"
#include "run/TakenFigures.h"

#include <QCoreApplication>
#include <QElapsedTimer>
#include <QStandardPaths>
#include <QUndoCommand>
#include <algorithm>
#include <iterator>
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
  connect(&selection_, &Selection::changed, this, &Document::light);
  connect(&selection_, &Selection::pickedFacesChanged, this, &Document::pickedFacesChanged);
  connect(&selection_, &Selection::foldingChanged, this, &Document::foldingChanged);
  connect(&selection_, &Selection::stepsChanged, this, &Document::projectChanged); // opened rows build themselves anew
  rest_.setSingleShot(true);
  constexpr int resting = 120; // ms
  rest_.setInterval(resting);
  connect(&rest_, &QTimer::timeout, this, [this] {
    instant_.forgetFigures();
    emit resultChanged();
  });
  connect(&otherCase_, &OtherCase::arrived, this, &Document::comparedCaseChanged);
  afterPicture_.setSingleShot(true);
  constexpr int aPicture = 25; // ms
  afterPicture_.setInterval(aPicture);
  connect(&afterPicture_, &QTimer::timeout, this, [this] {
    emit findingsChanged();
    if (!pending_.empty())
      idle_.start();
  });
  idle_.setInterval(0);
  connect(&idle_, &QTimer::timeout, this, &Document::refreshPending);
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
  if (std::find(pending_.begin(), pending_.end(), caseId) != pending_.end())
    const_cast<Document*>(this)->refreshState(caseId); // only what was put off
  return knownState(caseId);
}

const CaseState& Document::wholeState(const std::string& caseId) const
{
  if (const CaseState& known = state(caseId); !known.result && known.onDisk)
    const_cast<Document*>(this)->readResult(caseId);
  return knownState(caseId);
}

void Document::readResult(const std::string& caseId)
{
  const Case* own = findById(project_.cases, caseId);
  if (own == nullptr)
    return;
  readWhole(states_[caseId], *own);
  std::erase(asked_, caseId);
  asked_.push_back(caseId);
}

void Document::keepInMemory(std::uintmax_t bytes)
{
  mostKept_ = bytes;
  dropUnused();
}

/// Those that were asked for the longest ago go first.
void Document::dropUnused()
{
  std::uintmax_t kept = 0;
  const ComparedChoice compared = comparedChoice();
  for (std::size_t i = asked_.size(); i-- > 0;) {
    CaseState& state = states_[asked_[i]];
    const bool needed = asked_[i] == shownCase_ || compared.is(asked_[i]);
    if (!state.result || !state.onDisk) {
      asked_.erase(asked_.begin() + static_cast<std::ptrdiff_t>(i));
      continue;
    }
    kept += state.onDisk->bytes;
    if (needed || kept <= mostKept_)
      continue;
    state.result.reset();
    asked_.erase(asked_.begin() + static_cast<std::ptrdiff_t>(i));
  }
}

const CaseState& Document::knownState(const std::string& caseId) const
{
  static const CaseState none;
  const auto found = states_.find(caseId);
  return found != states_.end() ? found->second : none;
}

std::shared_ptr<const Mesh> Document::shownMesh() const { return shapes_.shown(shownState().result, hashes_); }

bool Document::wantsDraft() const { return !project_.parts.empty() && shapes_.wantDraft(hashes_); }

bool Document::geometryIsCurrent() const { return shapes_.areCurrent(shownState().result, hashes_); }

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
  asked_.clear();
  instant_ = {};
  shapes_ = {};
  selection_.forget();
  caseOnly_.clear();
  lit_ = {};
  shownCase_ = project.cases.empty() ? std::string() : project.cases.front().id;
  selectedCases_ = {shownCase_};
  undo_.clear();
  project_ = std::move(project);
  loadStoredResults();
  refresh();
  emit fileChanged();
  emit shownCaseChanged();
  takeFigures();
}

void Document::loadStoredResults()
{
  if (file_.empty())
    return;
  for (const Case& one : project_.cases) // what is shown is read when it is asked for
    states_[one.id] = storedState(resultsFolder(), one, 0);
  if (std::none_of(states_.begin(), states_.end(), [](const auto& one) { return one.second.solved(); }))
    if (Expected<StoredMesh> stored = loadMesh(meshFile(resultsFolder())))
      shapes_.setPrepared(std::make_shared<Mesh>(std::move(stored->mesh)), stored->hash);
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

void Document::setPicture(const std::string& png) { project_.picture = SharedText(packedText(png)); }

void Document::edit(const QString& name, const std::function<void(Project&)>& change)
{
  Project after = project_;
  change(after);
  applyParameters(after);
  if (after == project_)
    return;
  undo_.push(new ProjectEdit(*this, name, project_, std::move(after))); // the stack owns and runs it
}

void Document::takeFigures()
{
  if (file_.empty())
    return;
  edit(tr("Take figures of cases"), [this](Project& project) { kiln::takeFigures(project, resultsFolder()); });
}

void Document::setProject(Project project)
{
  project_ = std::move(project);
  if (findById(project_.cases, shownCase_) == nullptr)
    shownCase_ = project_.cases.empty() ? std::string() : project_.cases.front().id;
  std::erase_if(selectedCases_,
                [this](const std::string& id) { return id == shownCase_ || findById(project_.cases, id) == nullptr; });
  selectedCases_.insert(selectedCases_.begin(), shownCase_);
  refresh();
}

void Document::showCase(const std::string& caseId)
{
  if (caseId == shownCase_ && selectedCases_.size() > 1)
    selectCases({});
  if (caseId == shownCase_ || findById(project_.cases, caseId) == nullptr)
    return;
  shownCase_ = caseId;
  selectedCases_ = {caseId};
  refreshShown();
  emit shownCaseChanged();
}

/// What is shown is brought up to date at once, where other cases stand when there is time.
void Document::refresh()
{
  pending_.clear();
  for (const Case& one : project_.cases)
    if (one.id != shownCase_)
      pending_.push_back(one.id);
  refreshShown();
}

void Document::refreshShown()
{
  const Case* shown = shownCaseObject();
  const Expected<Project> own = shown != nullptr ? projectForCase(project_, *shown) : Expected<Project>(project_);
  shownProject_ = own ? *own : project_;
  numbers_.reset();
  instant_.forget();
  fillLaterWatches();
  hashes_ = inputHashes(shownProject_);
  if (shown != nullptr)
    hashes_.solution = solutionHash(shownProject_, *shown);
  shapes_.note(shownState().result, hashes_);
  if (shown != nullptr)
    refreshState(shownCase_);
  refreshFindings();
  emit projectChanged();
  emit resultChanged();
  followCompared();
  dropUnused();
  light();
}

/// A few at a time, so that the window answers meanwhile.
void Document::refreshPending()
{
  constexpr int atATime = 8; // ms
  for (QElapsedTimer since = {}; !pending_.empty();) {
    if (!since.isValid())
      since.start();
    refreshState(std::string(pending_.front())); // a copy: it is struck off the list meanwhile
    if (since.elapsed() >= atATime)
      break;
  }
  if (pending_.empty())
    idle_.stop();
}

void Document::refreshState(const std::string& caseId)
{
  std::erase(pending_, caseId);
  CaseState& state = states_[caseId];
  const Case* own = findById(project_.cases, caseId);
  if (!state.solved() || caseId == shownCase_) {
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
  if (own == nullptr || !state.solved() || !state.outOfDate.isEmpty())
    return;
  const std::string& from = state.result ? state.result->startIdentity : state.onDisk->startIdentity;
  const auto start = currentStartIdentity(project_, *own, resultsFolder());
  if (start && *start == from)
    return;
  state.becomeOutOfDate(tr("what it starts from"));
}

const Field* Document::shownField(const std::string& path) const
{
  if (!numbers_) {
    numbers_ = std::make_unique<Numbers>();
    numbers_->walked = shownProject_;
    numbers_->fields = settings(numbers_->walked);
    for (std::size_t i = 0; i < numbers_->fields.size(); ++i)
      numbers_->byPath.emplace(numbers_->fields[i].path, i);
  }
  const auto found = numbers_->byPath.find(path);
  return found != numbers_->byPath.end() ? &numbers_->fields[found->second] : nullptr;
}

/// Told after the picture: what was edited is seen first.
void Document::refreshFindings()
{
  findings_.reset();
  afterPicture_.start();
}

const std::vector<Finding>& Document::findings() const
{
  if (findings_)
    return *findings_;
  std::vector<Finding> all = checkModel(shownProject_);
  const auto add = [&](std::vector<Finding> more) { std::move(more.begin(), more.end(), std::back_inserter(all)); };
  if (const Failure* problem = shapes_.problem(hashes_)) {
    all.push_back(findingOf(shownProject_, *problem));
  } else if (geometryIsCurrent()) {
    add(checkOnGeometry(shownProject_, shownMesh()->geometry));
    add(checkVoids(shownProject_, *shownMesh()));
    add(checkHeldMeeting(shownProject_, *shownMesh()));
  }
  add(checkLinked(shownProject_, file_.parent_path()));
  std::stable_partition(all.begin(), all.end(), // what stands in the way comes first
                        [](const Finding& finding) { return finding.severity == Finding::Severity::Error; });
  return findings_.emplace(std::move(all));
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
  state.onDisk = loadHead(resultsFolder(), caseId);
  std::erase(asked_, caseId);
  asked_.push_back(caseId);
  instant_.toEnd(caseId); // and no estimate any more
  state.stage = CaseState::Stage::Solved;
  state.message.clear();
  shapes_.note(shownState().result, hashes_);
  refreshState(caseId);
  refreshFindings();
  emit resultChanged();
  dropUnused();
  light();
}

void Document::setPreparedMesh(std::shared_ptr<const Mesh> mesh, const std::string& hash)
{
  shapes_.setPrepared(std::move(mesh), hash);
  shapes_.note(shownState().result, hashes_);
  refreshFindings();
  emit projectChanged();
  emit resultChanged();
}

void Document::setDraft(std::shared_ptr<const Mesh> mesh, const std::string& geometryHash, bool fused)
{
  shapes_.setDraft(std::move(mesh), geometryHash, fused);
  refreshFindings();
  emit resultChanged();
  light();
}

void Document::setDraftProblem(const Failure& problem)
{
  shapes_.setProblem(hashes_.geometry, problem);
  refreshFindings();
}

/// What belongs to what is picked or selected lights up, on whatever mesh is shown.
void Document::light()
{
  pointed_.clear();
  const std::shared_ptr<const Mesh> mesh = shownMesh();
  if (!mesh)
    lit_ = {};
  else if (!selection_.pickedFaces().empty())
    lit_ = kiln::litFaces(shownProject_, *mesh, selection_.pickedFaces());
  else
    lit_ = litBy(shownProject_, *mesh, selection_.id());
  emit selectionChanged();
}

void Document::lightObject(const std::string& id)
{
  pointed_ = id;
  if (id.empty())
    return light();
  if (const std::shared_ptr<const Mesh> mesh = shownMesh()) {
    lit_ = litBy(shownProject_, *mesh, id);
    emit selectionChanged();
  }
}

void Document::lightFaces(const std::vector<FaceId>& faces)
{
  lit_ = {{faces.begin(), faces.end()}, {}};
  emit selectionChanged();
}

} // namespace kiln
