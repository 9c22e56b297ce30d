// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "report/ReportRecord.h"

#include "base/TextHash.h"
#include "io/AtomicFile.h"
#include "io/DescribeResult.h"
#include "io/ProjectFile.h"

#include <algorithm>
#include <fstream>
#include <iterator>

namespace kiln
{

template <class A>
void describe(A& a, ReportRecord::Told& t)
{
  a.text({"id"}, t.id);
  a.text({"name"}, t.name);
  a.text({"hash"}, t.hash);
}
template <class A>
void describe(A& a, ReportRecord& r)
{
  a.text({"files"}, r.files);
  a.text({"made"}, r.made);
  a.text({"own"}, r.own);
  a.list({"cases"}, r.cases);
  a.list({"questions"}, r.questions);
}

std::string ownHash(const Project& project, const Report& report)
{
  Project told;
  told.name = project.name;
  told.reports = {report};
  told.views = project.views;
  told.lines = project.lines;
  told.labels = project.labels;
  return textHash(writeProject(told));
}

std::string toldHash(const Project& seen, const Case& own, const std::string& result)
{
  Project told = seen;
  told.cases = {own};
  told.questions.clear();
  told.reports.clear();
  told.network.clear();
  told.views.clear();
  told.lines.clear();
  told.labels.clear();
  told.picture = {};
  return textHash(writeProject(told) + result);
}

namespace
{

void compare(const std::vector<ReportRecord::Told>& made, const std::vector<ReportRecord::Told>& now,
             const std::string& kind, std::vector<std::string>& why)
{
  for (const ReportRecord::Told& one : now) {
    const ReportRecord::Told* before = findById(made, one.id);
    if (before == nullptr)
      why.push_back(kind + " " + one.name + " is not in it yet.");
    else if (before->hash != one.hash)
      why.push_back(kind + " " + one.name + " has changed since.");
  }
  for (const ReportRecord::Told& one : made)
    if (findById(now, one.id) == nullptr)
      why.push_back(kind + " " + one.name + " is no longer told of.");
}

} // namespace

std::vector<std::string> outOfDate(const ReportRecord& made, const ReportRecord& now)
{
  std::vector<std::string> why;
  compare(made.cases, now.cases, "Case", why);
  compare(made.questions, now.questions, "Question", why);
  if (made.own != now.own)
    why.emplace_back("Its own words, its order or what its pictures show have changed since.");
  return why;
}

std::filesystem::path reportRecordFile(const std::filesystem::path& folder, const std::string& reportId)
{
  return folder / (safeFileName(reportId) + ".report.json");
}

Expected<void> saveReportRecord(const ReportRecord& record, const std::filesystem::path& file)
{
  JsonWriter writer;
  writer.json["layout"] = 1;
  describe(writer, const_cast<ReportRecord&>(record)); // a writer changes nothing
  return writeAtomically(file, writer.json.dump(1) + "\n");
}

Expected<ReportRecord> loadReportRecord(const std::filesystem::path& file)
{
  std::ifstream in(file);
  const std::string text((std::istreambuf_iterator<char>(in)), std::istreambuf_iterator<char>());
  try {
    const Json json = Json::parse(text);
    ReportRecord record;
    RecordReader reader(json);
    describe(reader, record);
    if (!reader.failed() && json.at("layout") == 1)
      return record;
  } catch (const std::exception&) {
    // said below
  }
  return failure(Failure::Kind::Unreadable, "file " + file.string(), "It does not say what a report was made of.",
                 "Make the report again.");
}

} // namespace kiln
