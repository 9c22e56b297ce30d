// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "report/ReportBuilder.h"

#include "base/PackedText.h"
#include "io/ProjectFile.h"
#include "look/Language.h"
#include "model/OwnValues.h"
#include "report/FilledText.h"
#include "report/ReportWords.h"
#include "strip/AnswerTable.h"

#include <QDateTime>
#include <algorithm>

namespace kiln
{

using namespace telling;

namespace
{

/// As the table of the window shows it, up to so many rows.
ReportTable tableOf(const QTableWidget& table, int most)
{
  ReportTable told;
  for (int column = 0; column < table.columnCount(); ++column)
    told.addColumn(table.model()->headerData(column, Qt::Horizontal).toString().toStdString(),
                   table.rowCount() > 0 && table.item(0, column) != nullptr &&
                       (table.item(0, column)->textAlignment() & Qt::AlignRight) != 0);
  for (int row = 0; row < std::min(most, table.rowCount()); ++row) {
    auto& cells = told.rows.emplace_back();
    for (int column = 0; column < table.columnCount(); ++column)
      cells.push_back({table.item(row, column) != nullptr ? table.item(row, column)->text().toStdString() : ""});
  }
  return told;
}

std::string hashOfAnswer(const Project& project, const std::string& questionId)
{
  const Question* question = findById(project.questions, questionId);
  return question != nullptr ? questionHash(project, *question) : std::string();
}

} // namespace

std::vector<std::string> casesOf(const Document& document, const Report& report)
{
  std::vector<std::string> cases;
  for (const std::string& id : report.cases)
    if (findById(document.project().cases, id) != nullptr)
      cases.push_back(id);
  if (cases.empty() && document.shownCaseObject() != nullptr)
    cases.push_back(document.shownCase());
  return cases;
}

ReportRecord recordNow(const Document& document, const Report& report)
{
  ReportRecord record;
  record.own = ownHash(document.project(), report);
  for (const std::string& id : casesOf(document, report)) {
    const Case& own = *findById(document.project().cases, id);
    const CaseState& state = document.state(id);
    const std::string result = state.result   ? state.result->solutionHash + state.result->startIdentity
                               : state.onDisk ? state.onDisk->solutionHash + state.onDisk->startIdentity
                                              : std::string();
    const auto seen = projectForCase(document.project(), own);
    record.cases.push_back({id, own.name, seen ? toldHash(*seen, own, result) : std::string()});
  }
  for (const std::string& id : report.questions)
    if (const Question* question = findById(document.project().questions, id)) {
      const auto answer = loadAnswer(answerFile(document.resultsFolder(), id));
      record.questions.push_back(
          {id, question->name, hashOfAnswer(document.project(), id) + (answer ? answer->hash : std::string())});
    }
  return record;
}

ReportBuilder::Told ReportBuilder::tellCase(const Report& report, const std::string& caseId,
                                            const ReportPictures& pictures)
{
  document_.showCase(caseId);
  const Case& own = *document_.shownCaseObject();
  const CaseState& state = document_.shownState();
  Told told{caseId, own.name, {}, {}, {}, {}};
  if (!state.result)
    told.outOfDate = tr("%1 is not solved.").arg(QString::fromStdString(own.name)).toStdString();
  else if (!state.outOfDate.isEmpty())
    told.outOfDate = tr("%1 is out of date: %2.").arg(QString::fromStdString(own.name), state.outOfDate).toStdString();
  if (document_.shownFigures() != nullptr)
    told.watches = document_.shownFigures()->watches;
  told.compared = {own.name,     document_.shownProject(), caseId,
                   state.result, state.run.record,         state.outOfDate.isEmpty()};
  const CaseTeller teller(document_, preferences_, pictures);
  for (const ReportSection& section : report.sections)
    told.blocks.push_back(section.off || !CaseTeller::tells(section.topic) ? ReportBlocks{} : teller.tell(section));
  return told;
}

std::optional<BuiltReport> ReportBuilder::build(const Report& report, const Progress& progress)
{
  const std::vector<std::string> cases = casesOf(document_, report);
  const std::string shown = document_.shownCase();
  const std::vector<std::string> selected = document_.selectedCases();
  const View look = scene_ != nullptr ? scene_->currentView() : View{};
  const ReportPictures pictures(document_, preferences_, scene_);
  BuiltReport built;
  built.record = recordNow(document_, report);
  told_.clear();
  bool goesOn = true;
  for (const std::string& id : cases) {
    const double share = double(told_.size()) / double(cases.size() + 1);
    goesOn =
        goesOn && (!progress || progress(share, QString::fromStdString(findById(document_.project().cases, id)->name)));
    if (goesOn)
      told_.push_back(tellCase(report, id, pictures));
  }
  if (goesOn)
    asked_ = questions(report, pictures);
  document_.showCase(shown);
  document_.selectCases(selected);
  if (scene_ != nullptr)
    scene_->show(look);
  if (!goesOn)
    return std::nullopt;
  assemble(report, built);
  return built;
}

/// Title block, warnings, and the sections in their order.
void ReportBuilder::assemble(const Report& report, BuiltReport& built)
{
  ReportContent& content = built.content;
  const Project& project = document_.project();
  content.title = filled(report, report.title.empty() ? project.name : report.title, built);
  content.project = project.name;
  content.language = spokenLanguage().toStdString();
  content.author = report.author;
  content.organisation = report.organisation;
  content.number = report.number;
  content.date = QLocale::c().toString(QDateTime::currentDateTime(), "d MMMM yyyy, hh:mm").toStdString();
  content.logo = unpackedText(report.logo.text()).value_or(std::string());
  built.record.made = content.date;
  for (const Told& one : told_)
    if (!one.outOfDate.empty())
      content.warnings.push_back(one.outOfDate);
  for (const std::string& id : report.questions)
    if (const Question* question = findById(project.questions, id))
      if (const auto answer = loadAnswer(answerFile(document_.resultsFolder(), id));
          !answer || answer->hash != hashOfAnswer(project, id))
        content.warnings.push_back(tr("The answer to “%1” is out of date, or was not asked for.")
                                       .arg(QString::fromStdString(question->name))
                                       .toStdString());
  for (std::size_t i = 0; i < report.sections.size(); ++i) {
    const ReportSection& section = report.sections[i];
    if (section.off)
      continue;
    ReportBlocks blocks;
    if (!section.text.empty())
      blocks.emplace_back(ReportWords{filled(report, section.text, built)});
    const auto add = [&](const ReportBlocks& more) { blocks.insert(blocks.end(), more.begin(), more.end()); };
    if (section.topic == ReportTopic::Differences)
      add(differences());
    else if (section.topic == ReportTopic::Compared)
      add(compared());
    else if (section.topic == ReportTopic::Questions)
      add(asked_);
    for (const Told& one : told_) {
      if (one.blocks[i].empty())
        continue;
      if (told_.size() > 1)
        blocks.emplace_back(ReportHeading{one.name, 2});
      add(one.blocks[i]);
    }
    if (blocks.empty())
      continue; // there is nothing of this kind
    const KindSpec& topic = describing::reportTopics[static_cast<std::size_t>(section.topic)];
    content.blocks.emplace_back(
        ReportHeading{section.title.empty() ? inWords(topic.label).toStdString() : section.title, 1});
    content.blocks.insert(content.blocks.end(), blocks.begin(), blocks.end());
  }
}

/// Fields that are not the same in all cases.
ReportBlocks ReportBuilder::differences() const
{
  if (told_.size() < 2)
    return {};
  ReportTable table;
  table.addColumn(words("Field"));
  std::map<std::string, std::vector<std::string>> rows; // by label: what each case has
  for (std::size_t i = 0; i < told_.size(); ++i) {
    table.addColumn(told_[i].name);
    if (i > 0)
      for (const ComparedInput& input :
           compareInputs(told_.front().compared, told_[i].compared, preferences_.temperatureUnit()))
        // What only one of both has (a run's settings beside a steady case) is no difference of values.
        if (input.differs() && (told_.size() > 2 || (!input.a.empty() && !input.b.empty()))) {
          auto& row = rows.emplace(input.label, std::vector<std::string>(told_.size(), input.a)).first->second;
          row[i] = input.b;
        }
  }
  for (const auto& [label, values] : rows) {
    auto& cells = table.rows.emplace_back();
    cells.push_back({label});
    for (const std::string& value : values)
      cells.push_back({value.empty() ? "–" : value});
  }
  if (table.rows.empty())
    return {ReportWords{words("Nothing that is set differs.")}};
  return {table};
}

/// Every watch of every case, with its verdict in a sign; of two cases the difference too.
ReportBlocks ReportBuilder::compared() const
{
  if (told_.size() < 2)
    return {};
  ReportTable table;
  table.addColumn(words("Watch"));
  for (const Told& one : told_)
    table.addColumn(one.name, true);
  if (told_.size() == 2)
    table.addColumn(words("Difference"), true);
  const TemperatureUnit unit = preferences_.temperatureUnit();
  for (const Watch& watch : document_.project().watches) {
    std::vector<ReportCell> cells{{watch.name}};
    std::vector<WatchFigure> figures;
    for (const Told& one : told_) {
      const WatchFigure* own = findById(one.watches, watch.id);
      figures.push_back(own != nullptr ? *own : WatchFigure{});
      const WatchFigure& figure = figures.back();
      const bool limited = figure.margin.has_value();
      const bool kept = limited && *figure.margin >= 0;
      const std::string sign = limited ? (kept ? "✓ " : "✗ ") : "";
      cells.push_back({figure.value ? sign + formatQuantity(*figure.value, figure.quantity, unit) : "–",
                       limited && !kept ? ReportMark::Bad : ReportMark::None});
    }
    if (figures.size() == 2) {
      const bool both = figures[0].value && figures[1].value;
      const Quantity step =
          figures[0].quantity == Quantity::Temperature ? Quantity::TemperatureStep : figures[0].quantity;
      cells.push_back({both ? formatQuantity(*figures[1].value - *figures[0].value, step, unit, 3) : "–"});
    }
    table.rows.push_back(std::move(cells));
  }
  table.caption = words("✓ within its limit, ✗ beyond it.");
  return {table};
}

ReportBlocks ReportBuilder::questions(const Report& report, const ReportPictures& pictures) const
{
  constexpr int mostRows = 60;
  ReportBlocks blocks;
  for (const std::string& id : report.questions) {
    const Question* question = findById(document_.project().questions, id);
    if (question == nullptr)
      continue;
    blocks.emplace_back(ReportHeading{question->name, 2});
    const auto answer = loadAnswer(answerFile(document_.resultsFolder(), id));
    if (!answer) {
      blocks.emplace_back(ReportWords{words("It was not asked yet."), ReportMark::Doubt});
      continue;
    }
    blocks.emplace_back(ReportWords{answer->summary});
    const Case* base = findById(document_.project().cases, question->base);
    const auto seen = base != nullptr ? projectForCase(document_.project(), *base) : document_.project();
    if (!seen)
      continue;
    if (auto picture = pictures.answer(*question, *answer, *seen))
      blocks.emplace_back(std::move(*picture));
    QTableWidget points;
    fillPoints(points, *question, *answer, *seen, preferences_.temperatureUnit());
    ReportTable table = tableOf(points, mostRows);
    table.caption = points.rowCount() > mostRows
                        ? tr("The first %1 of %2 points.").arg(mostRows).arg(points.rowCount()).toStdString()
                        : tr("%1, of case %2")
                              .arg(QString::fromStdString(question->name),
                                   QString::fromStdString(base != nullptr ? base->name : question->base))
                              .toStdString();
    blocks.emplace_back(std::move(table));
  }
  return blocks;
}

/// “Shell, hottest”, “Shell, hottest | margin”, “Shell, hottest | Hold”; case, project, date, author; a parameter.
std::optional<std::string> ReportBuilder::placeholder(const Report& report, const std::string& name) const
{
  const QStringList parts = QString::fromStdString(name).split('|');
  const QString what = parts.front().trimmed();
  const TemperatureUnit unit = preferences_.temperatureUnit();
  if (what == "project")
    return document_.project().name;
  if (what == "author")
    return report.author;
  if (what == "date")
    return QLocale::c().toString(QDate::currentDate(), "d MMMM yyyy").toStdString();
  if (what == "case" && !told_.empty())
    return told_.front().name;
  for (const Parameter& parameter : document_.project().parameters)
    if (parameter.name == what.toStdString())
      return formatQuantity(parameter.value.si, parameter.quantity, unit);
  const Told* of = told_.empty() ? nullptr : &told_.front();
  bool margin = false;
  for (qsizetype i = 1; i < parts.size(); ++i) {
    const std::string word = parts[i].trimmed().toStdString();
    const auto named = std::find_if(told_.begin(), told_.end(), [&](const Told& one) { return one.name == word; });
    if (named != told_.end())
      of = &*named;
    else if (word == "margin")
      margin = true;
    else
      return std::nullopt;
  }
  if (of == nullptr)
    return std::nullopt;
  for (const WatchFigure& figure : of->watches)
    if (figure.name == what.toStdString() && figure.value) {
      if (!margin)
        return formatQuantity(*figure.value, figure.quantity, unit);
      return figure.margin ? std::optional(formatMargin(*figure.margin, figure.quantity, unit)) : std::nullopt;
    }
  return std::nullopt;
}

std::string ReportBuilder::filled(const Report& report, const std::string& text, BuiltReport& built) const
{
  FilledText filled = filledText(text, [&](const std::string& name) { return placeholder(report, name); });
  built.unknown.insert(built.unknown.end(), filled.unknown.begin(), filled.unknown.end());
  return filled.text;
}

} // namespace kiln
