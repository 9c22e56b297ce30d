// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "document/SolverQueue.h"
#include "report/ReportBuilder.h"
#include "report/ReportTemplate.h"

#include <QObject>
#include <QStringList>

class QPagedPaintDevice;

namespace kiln
{

/// Makes reports into files, remembers what each was made of, and brings one up to date: solves what is needed, then
/// makes it again where it was.
class ReportMaker : public QObject
{
  Q_OBJECT

public:
  /// \param scene  may be nullptr: there are no pictures of the model then
  ReportMaker(Document& document, Preferences& preferences, ScenePanel* scene, QObject* parent = nullptr);

  /// Told how far it is; false gives up.
  void setProgress(ReportBuilder::Progress progress) { progress_ = std::move(progress); }

  /// nothing: it was given up, or there is no such report.
  [[nodiscard]] std::optional<BuiltReport> build(const std::string& reportId);
  /// Builds it and writes every file. Fails at the first that cannot be written.
  [[nodiscard]] Expected<BuiltReport> make(const std::string& reportId, const QStringList& files);
  /// What was made of it last; nothing: nothing was, or that is not known.
  [[nodiscard]] std::optional<ReportRecord> lastMade(const std::string& reportId) const;
  /// Why what was made last is not what it would be now; empty also where nothing was made.
  [[nodiscard]] std::vector<std::string> outOfDate(const std::string& reportId) const;
  /// Cases and questions that it tells of and whose results are missing or old.
  [[nodiscard]] std::vector<std::string> casesToSolve(const Report& report) const;
  [[nodiscard]] std::vector<std::string> questionsToAsk(const Report& report) const;

private:
  Document& document_;
  Preferences& preferences_;
  ScenePanel* scene_;
  ReportBuilder::Progress progress_;
};

/// Adds the report of a template to the opened project. Fails where it cannot be read.
[[nodiscard]] Expected<TakenReport> reportFromTemplate(Document& document, const QString& file);
/// Adds a copy of a report that tells of these cases. \return its id
std::string reportOfCases(Document& document, const std::string& reportId, const QStringList& cases);

} // namespace kiln
