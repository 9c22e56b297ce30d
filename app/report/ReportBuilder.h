// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "document/Answers.h"
#include "report/CaseTeller.h"
#include "report/ReportRecord.h"
#include "run/Comparison.h"

namespace kiln
{

/// A report as it would be now, and what it was made of.
struct BuiltReport {
  ReportContent content;
  ReportRecord record;
  std::vector<std::string> unknown; ///< placeholders that stand for nothing
};

/// Cases that a report tells of, in their order: those that it names, else the shown one.
[[nodiscard]] std::vector<std::string> casesOf(const Document& document, const Report& report);

/// What a report would be made of now, without making it: enough to see whether one is out of date.
[[nodiscard]] ReportRecord recordNow(const Document& document, const Report& report);

/// Builds reports. Each case is shown by the document while it is told of; then the one that was shown before is again.
class ReportBuilder
{
public:
  /// Told how far it is, 0 … 1. \return false: give up
  using Progress = std::function<bool(double, const QString&)>;

  /// \param scene  may be nullptr: there are no pictures of the model then
  ReportBuilder(Document& document, Preferences& preferences, ScenePanel* scene)
      : document_(document), preferences_(preferences), scene_(scene)
  {
  }

  /// Nothing where it was given up.
  [[nodiscard]] std::optional<BuiltReport> build(const Report& report, const Progress& progress);

private:
  /// What was told of a case, and what others ask for afterwards.
  struct Told {
    std::string id, name;
    std::string outOfDate;            ///< empty: it is current
    std::vector<ReportBlocks> blocks; ///< by section
    std::vector<WatchFigure> watches;
    Compared compared;
  };
  [[nodiscard]] Told tellCase(const Report& report, const std::string& caseId, const ReportPictures& pictures);
  void assemble(const Report& report, BuiltReport& built);
  [[nodiscard]] ReportBlocks differences() const;
  [[nodiscard]] ReportBlocks compared() const;
  [[nodiscard]] ReportBlocks questions(const Report& report, const ReportPictures& pictures) const;
  [[nodiscard]] std::optional<std::string> placeholder(const Report& report, const std::string& name) const;
  [[nodiscard]] std::string filled(const Report& report, const std::string& text, BuiltReport& built) const;

  Document& document_;
  Preferences& preferences_;
  ScenePanel* scene_;
  std::vector<Told> told_;
  ReportBlocks asked_; ///< of questions
};

} // namespace kiln
