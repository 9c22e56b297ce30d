// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "document/CaseState.h"
#include "document/ComparedWith.h"
#include "document/Lighting.h"
#include "document/OtherCase.h"
#include "document/Selection.h"
#include "document/ShownDifference.h"
#include "document/ShownInstant.h"
#include "document/ShownShapes.h"
#include "model/Project.h"
#include "model/Settings.h"
#include "readiness/Readiness.h"
#include "results/CaseResult.h"
#include "results/Figures.h"
#include "run/InputHash.h"

#include <QObject>
#include <QString>
#include <QTimer>
#include <QUndoStack>
#include <filesystem>
#include <functional>
#include <map>
#include <memory>
#include <set>
#include <unordered_map>
#include <vector>

namespace kiln
{

/// The open project with its edits, results and selection: what every page of the window shows.
/// Pages listen to its signals and call its edits; they never talk to each other.
class Document : public QObject
{
  Q_OBJECT

public:
  explicit Document(QObject* parent = nullptr);
  ~Document() override;

  [[nodiscard]] const Project& project() const { return project_; }
  /// The project as the shown case sees it.
  [[nodiscard]] const Project& shownProject() const { return shownProject_; }
  [[nodiscard]] QUndoStack& undoStack() { return undo_; }
  [[nodiscard]] std::filesystem::path file() const { return file_; }
  [[nodiscard]] QString title() const;
  [[nodiscard]] bool isUnsaved() const { return !undo_.isClean() || file_.empty(); }
  [[nodiscard]] std::filesystem::path resultsFolder() const;

  [[nodiscard]] const std::string& shownCase() const { return shownCase_; }
  [[nodiscard]] const Case* shownCaseObject() const;
  /// Where a case stands; found out now where that was put off.
  [[nodiscard]] const CaseState& state(const std::string& caseId) const;
  /// The same as it was last found out, at no cost: for what is drawn of many cases. A change is told.
  [[nodiscard]] const CaseState& knownState(const std::string& caseId) const;
  [[nodiscard]] const CaseState& shownState() const { return wholeState(shownCase_); }
  /// The same with its result, which is read now where it only lay on the disk.
  [[nodiscard]] const CaseState& wholeState(const std::string& caseId) const;
  /// Results that are neither shown nor compared stay in memory up to this size of their files; others are read again
  /// when they are asked for. B
  void keepInMemory(std::uintmax_t bytes);
  /// Figures of the shown case where the playhead stands; nullptr without a result.
  [[nodiscard]] const ShownFigures* shownFigures() const;
  /// Only its temperatures, quickly.
  [[nodiscard]] std::shared_ptr<const std::vector<double>> shownTemperature() const;
  /// Where the playhead of the shown case stands, s; nothing without a run.
  [[nodiscard]] std::optional<double> playhead() const;
  /// "steady", or "at 3 h 20 min": which instant of the shown case is shown.
  [[nodiscard]] QString instantText() const;
  /// "Firing, at 2 h": the shown case and instant; "Steady" where both are one word.
  [[nodiscard]] QString caseAndInstant() const;
  /// " · quick look" where the shown figures come from elements of first order; else nothing.
  [[nodiscard]] QString quickLookText() const;
  /// What the shown case is compared with, kept with it: another case, of this or of another project, or an instant of
  /// its own run.
  [[nodiscard]] ComparedChoice comparedChoice() const;
  /// The same with its result, which is read where it only lay on the disk.
  [[nodiscard]] ComparedWith compared() const;
  void compareWith(const ComparedChoice& choice);
  /// As its case sees it. Fails where there is none, or not yet.
  [[nodiscard]] Expected<Project> comparedProject() const;
  /// Its result, with temperatures at its instant, or at the playhead of the shown case where both run in time, else at
  /// their end.
  [[nodiscard]] DifferentSide comparedSide() const;
  /// How much hotter the compared case is than the shown one; nullptr where that is not to be had.
  [[nodiscard]] std::shared_ptr<const DifferenceField> difference() const;
  /// "Winter − Summer, at 3 h", and what else has to be known of the difference; why there is none.
  [[nodiscard]] QString differenceText() const;
  /// Moves it: the scene follows at once, the figures as soon as it rests.
  void setPlayhead(double time);
  /// Geometry and mesh to show: of the shown result, or the prepared one; may be empty.
  [[nodiscard]] std::shared_ptr<const Mesh> shownMesh() const;
  /// The shapes changed since there was a mesh of them, and nothing shows them yet.
  [[nodiscard]] bool wantsDraft() const;
  [[nodiscard]] const std::string& geometryHash() const { return hashes_.geometry; }
  /// True when the shown mesh was made from the present shapes.
  [[nodiscard]] bool geometryIsCurrent() const;
  /// What is missing or doubtful, found when it is first asked for after an edit.
  [[nodiscard]] const std::vector<Finding>& findings() const;

  [[nodiscard]] const std::string& selectedId() const { return selection_.id(); }
  /// Every selected object, the primary one first; edits of a number act on all that have it.
  [[nodiscard]] const std::vector<std::string>& selectedIds() const { return selection_.ids(); }
  /// Lasting names of the faces clicked in the scene.
  [[nodiscard]] const std::vector<std::string>& pickedFaces() const { return selection_.pickedFaces(); }
  /// Steps whose fields are unfolded in the ledger: "part.step".
  [[nodiscard]] const std::set<std::string>& openSteps() const { return selection_.openSteps(); }
  void toggleStep(const std::string& step) { selection_.toggleStep(step); }
  [[nodiscard]] const std::set<std::string>& foldedGroups() const { return selection_.foldedGroups(); }
  void toggleGroup(const std::string& groupId) { selection_.toggleGroup(groupId); }
  [[nodiscard]] const std::set<FaceId>& litFaces() const { return lit_.faces; }
  [[nodiscard]] const std::set<PartId>& litParts() const { return lit_.parts; }

  /// Fails with the reader's sentence; the present project stays.
  [[nodiscard]] Expected<void> open(const std::filesystem::path& file);
  [[nodiscard]] Expected<void> save();
  [[nodiscard]] Expected<void> saveAs(const std::filesystem::path& file);
  void startEmpty();
  /// What is saved with the project as its picture: bytes of a PNG. It is no edit.
  void setPicture(const std::string& png);

  /// One undoable edit. \p change works on a copy; nothing happens when it changes nothing.
  void edit(const QString& name, const std::function<void(Project&)>& change);
  /// Parameters that are figures of cases get those of the results that are current, as one edit.
  void takeFigures();
  /// Sets one number; in a case that has its own value for it, that value.
  void setNumber(const std::string& path, const Number& value);
  /// Sets a field of any kind likewise, of every selected object that has it. Where edits count in the shown case only,
  /// it gets a value of its own.
  /// \param name  of the undo step; empty: "Set PATH"
  void set(const std::string& path, const OwnValue& value, const QString& name = {});
  /// Do edits of fields count in the shown case (and those selected with it) only? Remembered by case.
  [[nodiscard]] bool editsCaseOnly() const { return caseOnly_.contains(shownCase_); }
  void editCaseOnly(bool only);
  /// Adds a step to a part. Where edits count in the shown case only, the project has it switched off and the case on,
  /// so that results of other cases stay valid.
  /// \return its id
  std::string addStep(const std::string& partId, const std::function<ShapeStep(const Part&)>& make);
  /// The shown case takes the project's value again.
  void takeProjectValue(const std::string& path);
  /// What the shown case has of its own becomes the project's, and no case's own.
  void giveToProject(const std::string& path);
  /// Edits that work on whole rows: the selected ones, or one of them.
  void removeSelected();
  void duplicateSelected();
  /// A JSON text of the selected rows; empty when nothing is selected.
  [[nodiscard]] std::string copySelected() const;
  [[nodiscard]] Expected<void> paste(const std::string& text);
  void moveBefore(const std::string& objectId, const std::string& before);
  [[nodiscard]] bool caseChanges(const std::string& path) const;
  /// A field of the shown project by its path; nullptr when there is none. Good until the next edit.
  [[nodiscard]] const Field* shownField(const std::string& path) const;

  void showCase(const std::string& caseId);
  /// Cases that are dealt with together, the shown one first.
  [[nodiscard]] const std::vector<std::string>& selectedCases() const { return selectedCases_; }
  /// Adds a case to them, or takes it out; the shown one stays.
  void toggleCase(const std::string& caseId);
  void selectCases(const std::vector<std::string>& caseIds);
  /// Selects an object by id ("shell", "outer-air", "shell|fibre") and lights its faces.
  void select(const std::string& objectId) { selection_.select(objectId); }
  /// Adds an object to the selection, or takes it out.
  void toggleSelected(const std::string& objectId) { selection_.toggle(objectId); }
  void pickFaces(std::vector<std::string> faces) { selection_.pickFaces(std::move(faces)); }
  void lightFaces(const std::vector<FaceId>& faces);
  /// What belongs to an object, while it is pointed at; empty: what is selected again.
  void lightObject(const std::string& id);
  /// The object that the pointer is at in some other picture; empty: none.
  [[nodiscard]] const std::string& pointedId() const { return pointed_; }

  void setRunning(const std::string& caseId, double fraction, const QString& message);
  void setFailed(const std::string& caseId, const QString& message);
  void setIdle(const std::string& caseId);
  void setResult(const std::string& caseId, std::shared_ptr<const CaseResult> result);
  void setRun(const std::string& caseId, ShownRun run);
  void setSure(const std::string& caseId, SureRecord record);
  /// What the shown case would be with other values, until the next edit or result.
  /// \param words  how sure it is: "estimate, within 3 K"
  void setEstimate(std::shared_ptr<const CaseResult> estimate, const QString& words);
  /// Empty: what is shown was solved.
  [[nodiscard]] QString estimateWords() const { return instant_.isEstimate() ? estimateWords_ : QString(); }
  void setPreparedMesh(std::shared_ptr<const Mesh> mesh, const std::string& hash);
  /// Faces of the present shapes, fused or still part by part.
  void setDraft(std::shared_ptr<const Mesh> mesh, const std::string& geometryHash, bool fused);
  void setDraftProblem(const Failure& problem);

signals:
  void projectChanged();
  void caseStateChanged(const std::string& caseId);
  void shownCaseChanged();
  void resultChanged();   ///< what the scene and figures show has changed; after every edit too
  void instantMoved();    ///< the playhead moved: only temperatures have changed
  void estimateChanged(); ///< likewise by other values, with all figures
  void runChanged();      ///< the shown case's run has grown or is another
  void selectionChanged();
  void pickedFacesChanged();
  void findingsChanged();
  void foldingChanged(); ///< of part groups
  void editScopeChanged();
  void selectedCasesChanged();
  void comparedCaseChanged();
  void fileChanged();

private:
  friend class ProjectEdit;
  void take(Project project);
  void setProject(Project project);
  void refresh();
  void refreshState(const std::string& caseId);
  void refreshShown();
  void refreshPending();
  void fillLaterWatches();
  void judgeStart(const Case* own, CaseState& state) const;
  void refreshFindings();
  void light();
  void loadStoredResults();
  void followCompared();
  void readResult(const std::string& caseId);
  void dropUnused();

  /// The numbers of the shown project, found once an edit.
  struct Numbers {
    Project walked;
    std::vector<Field> fields;
    std::unordered_map<std::string, std::size_t> byPath;
  };
  mutable std::unique_ptr<Numbers> numbers_;
  ShownInstant instant_;
  QString estimateWords_;
  mutable ShownDifference difference_;
  mutable DifferentSide comparedAt_; ///< the compared case at an instant, while both stay
  mutable std::optional<double> comparedTime_;
  OtherCase otherCase_;
  ComparedChoice comparedNow_;
  QTimer rest_; ///< since the playhead moved
  Project project_, shownProject_;
  std::filesystem::path file_;
  QUndoStack undo_;
  std::string shownCase_;
  std::vector<std::string> selectedCases_;
  std::set<std::string> caseOnly_; ///< cases in which edits of fields are their own
  Selection selection_;
  Lit lit_;
  std::string pointed_;
  std::map<std::string, CaseState> states_;
  std::vector<std::string> pending_; ///< cases whose state is to be found out, when there is time
  QTimer idle_, afterPicture_;
  std::uintmax_t mostKept_ = 64'000'000;
  std::vector<std::string> asked_; ///< cases whose results were read, the one that was asked for last at the end
  ShownShapes shapes_;
  InputHashes hashes_;                                   // of the shown case
  mutable std::optional<std::vector<Finding>> findings_; // nothing: not asked for yet
};

} // namespace kiln
