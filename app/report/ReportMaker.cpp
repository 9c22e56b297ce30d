// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "report/ReportMaker.h"

#include "io/AtomicFile.h"
#include "model/Edit.h"
#include "report/ReportPaper.h"

namespace kiln
{

ReportMaker::ReportMaker(Document& document, Preferences& preferences, ScenePanel* scene, QObject* parent)
    : QObject(parent), document_(document), preferences_(preferences), scene_(scene)
{
}

std::optional<BuiltReport> ReportMaker::build(const std::string& reportId)
{
  const Report* report = findById(document_.project().reports, reportId);
  if (report == nullptr)
    return std::nullopt;
  const Report now = *report; // what it tells of is shown meanwhile
  return ReportBuilder(document_, preferences_, scene_).build(now, progress_);
}

Expected<BuiltReport> ReportMaker::make(const std::string& reportId, const QStringList& files)
{
  std::optional<BuiltReport> built = build(reportId);
  if (!built)
    return failure(Failure::Kind::NotReady, "report", "It was not made.", "Make it again.");
  built->record.files = files.join('\n').toStdString();
  for (const QString& file : files)
    if (auto written = writeReport(built->content, file.toStdString()); !written)
      return tl::unexpected(written.error());
  std::error_code ignored; // what cannot be made is said by who writes into it
  std::filesystem::create_directories(document_.resultsFolder(), ignored);
  if (!document_.file().empty())
    if (auto kept = saveReportRecord(built->record, reportRecordFile(document_.resultsFolder(), reportId)); !kept)
      return tl::unexpected(kept.error());
  return std::move(*built);
}

std::optional<ReportRecord> ReportMaker::lastMade(const std::string& reportId) const
{
  if (document_.file().empty())
    return std::nullopt;
  auto record = loadReportRecord(reportRecordFile(document_.resultsFolder(), reportId));
  return record ? std::optional(std::move(*record)) : std::nullopt;
}

std::vector<std::string> ReportMaker::outOfDate(const std::string& reportId) const
{
  const Report* report = findById(document_.project().reports, reportId);
  const auto made = lastMade(reportId);
  return report == nullptr || !made ? std::vector<std::string>{}
                                    : kiln::outOfDate(*made, recordNow(document_, *report));
}

std::vector<std::string> ReportMaker::casesToSolve(const Report& report) const
{
  std::vector<std::string> cases;
  for (const std::string& id : casesOf(document_, report))
    if (const CaseState& state = document_.state(id); !state.solved() || !state.outOfDate.isEmpty())
      cases.push_back(id);
  return cases;
}

std::vector<std::string> ReportMaker::questionsToAsk(const Report& report) const
{
  std::vector<std::string> questions;
  for (const std::string& id : report.questions)
    if (const Question* question = findById(document_.project().questions, id)) {
      const auto answer = loadAnswer(answerFile(document_.resultsFolder(), id));
      if (!answer || answer->hash != questionHash(document_.project(), *question))
        questions.push_back(id);
    }
  return questions;
}

Expected<TakenReport> reportFromTemplate(Document& document, const QString& file)
{
  const auto text = readWhole(file.toStdString());
  if (!text)
    return tl::unexpected(text.error());
  Expected<TakenReport> taken;
  document.edit(QObject::tr("Report from a template"),
                [&](Project& project) { taken = takeTemplate(project, *text, file.toStdString()); });
  return taken;
}

std::string reportOfCases(Document& document, const std::string& reportId, const QStringList& cases)
{
  std::string id;
  document.edit(QObject::tr("Report of other cases"), [&](Project& project) {
    Report copy = *findById(project.reports, reportId);
    copy.cases.clear();
    for (const QString& one : cases)
      copy.cases.push_back(one.toStdString());
    const std::string name = copy.name;
    id = addObject(project, project.reports, std::move(copy), freeName(project, name));
  });
  return id;
}

} // namespace kiln
