// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "TestProjects.h"
#include "base/PackedText.h"
#include "io/ProjectFile.h"
#include "model/Edit.h"
#include "report/FilledText.h"
#include "report/ReportHtml.h"
#include "report/ReportRecord.h"
#include "report/ReportTemplate.h"

#include <QTemporaryDir>
#include <QTest>
#include <QXmlStreamReader>
#include <fstream>

using namespace kiln;
using namespace kiln::test;

namespace
{

const std::string awkward = "Kiln & \"co\" <b>/x\\ ä ß € 🔥 שלום";

/// A page as its reader sees it: what stands in it by element, links and their aims, pictures.
struct Page {
  QStringList headings, cells, paragraphs, pictures, links, ids;
  QString title, error;
};

Page pageOf(const std::string& html)
{
  Page page;
  QXmlStreamReader xml(QByteArray::fromStdString(html));
  while (!xml.atEnd()) {
    if (xml.readNext() != QXmlStreamReader::StartElement)
      continue;
    const QString name = xml.name().toString();
    if (xml.attributes().hasAttribute("id"))
      page.ids << xml.attributes().value("id").toString();
    if (name == QLatin1String("img"))
      page.pictures << xml.attributes().value("src").toString();
    if (name == QLatin1String("a"))
      page.links << xml.attributes().value("href").toString();
    const auto take = [&](QStringList& into) { into << xml.readElementText(QXmlStreamReader::IncludeChildElements); };
    if (name == QLatin1String("h2") || name == QLatin1String("h3"))
      take(page.headings);
    else if (name == QLatin1String("td") || name == QLatin1String("th"))
      take(page.cells);
    else if (name == QLatin1String("p"))
      take(page.paragraphs);
    else if (name == QLatin1String("h1"))
      page.title = xml.readElementText();
  }
  page.error = xml.hasError() ? xml.errorString() : QString();
  return page;
}

Project told()
{
  Project p = projectWith(0.01);
  p.name = "Bench";
  p.cases = {Case{}, Case{}};
  p.cases[0].id = "day";
  p.cases[0].name = "Day";
  p.cases[1].id = "night";
  p.cases[1].name = "Night";
  View view;
  view.id = "front";
  view.name = "From the front";
  view.towards = {{0, {}}, {0, {}}, {0, {}}};
  p.views = {view};
  Report report;
  report.id = "report";
  report.name = "Shell";
  report.author = awkward;
  report.cases = {"day", "night"};
  report.sections = usualSections();
  report.sections[2].views = {"front"};
  p.reports = {report};
  return p;
}

} // namespace

class ReportsTest : public QObject
{
  Q_OBJECT

private slots:
  void usualSectionsTellEveryTopicOnce()
  {
    std::map<ReportTopic, int> count;
    std::set<std::string> ids;
    for (const ReportSection& section : usualSections()) {
      ++count[section.topic];
      ids.insert(section.id);
    }
    QCOMPARE(ids.size(), usualSections().size());
    for (std::size_t i = 0; i < describing::reportTopics.size(); ++i)
      QCOMPARE(count[static_cast<ReportTopic>(i)], i == 0 ? 2 : 1); // own words before and after
  }

  void placeholders_data()
  {
    QTest::addColumn<QString>("text");
    QTest::addColumn<QString>("filled");
    QTest::addColumn<int>("unknown");
    QTest::newRow("known") << "at {Shell, hottest}."
                           << "at 104.2 °C." << 0;
    QTest::newRow("none") << "nothing here"
                          << "nothing here" << 0;
    QTest::newRow("two") << "{Shell, hottest}{Shell, hottest}"
                         << "104.2 °C104.2 °C" << 0;
    QTest::newRow("unknown") << "{Shel}"
                             << "[not known: Shel]" << 1;
    QTest::newRow("open") << "at {Shell, hottest"
                          << "at [not known: Shell, hottest]" << 1;
    QTest::newRow("a brace") << "{{a} b"
                             << "{a} b" << 0;
    QTest::newRow("empty") << "{}"
                           << "[not known: ]" << 1;
  }
  void placeholders()
  {
    QFETCH(QString, text);
    QFETCH(QString, filled);
    QFETCH(int, unknown);
    const FilledText now = filledText(text.toStdString(), [](const std::string& name) {
      return name == "Shell, hottest" ? std::optional<std::string>("104.2 °C") : std::nullopt;
    });
    QCOMPARE(QString::fromStdString(now.text), filled);
    QCOMPARE(static_cast<int>(now.unknown.size()), unknown);
  }

  /// Names of any kind come through, links lead somewhere, pictures are the very bytes.
  void aPageThatStandsAlone()
  {
    ReportContent content;
    content.title = awkward;
    content.author = "\x01 control";
    content.warnings = {"Day is out of date: solution."};
    content.logo = "not really a picture";
    ReportTable table;
    table.addColumn("Watch");
    table.addColumn("Value", true);
    table.rows = {{{awkward}, {"✗ 104.2 °C", ReportMark::Bad}}};
    table.caption = "Day, steady";
    const std::string png = "\x89PNG\r\n\x1a\n";
    for (const char* heading : {"Purpose", "Figures and limits", "Pictures"})
      content.blocks.emplace_back(ReportHeading{heading, 1});
    content.blocks.emplace_back(ReportHeading{"Day", 2});
    content.blocks.emplace_back(ReportWords{"First.\nLine.\n\nSecond.", ReportMark::None});
    content.blocks.emplace_back(table);
    content.blocks.emplace_back(ReportPicture{png, {}, 10, 20, "a scene"});
    content.blocks.emplace_back(ReportPicture{png, "<svg/>", 10, 20, "a chart"});
    const std::string html = reportHtml(content);
    const Page page = pageOf(html);
    QCOMPARE(page.error, QString());
    QCOMPARE(page.title, QString::fromStdString(awkward));
    QCOMPARE(page.headings, (QStringList{"Purpose", "Figures and limits", "Pictures", "Day"}));
    QVERIFY(page.cells.contains(QString::fromStdString(awkward)));
    QVERIFY(page.cells.contains("✗ 104.2 °C"));
    QCOMPARE(page.paragraphs, (QStringList{"Day is out of date: solution.", "First.Line.", "Second."}));
    QCOMPARE(page.links.size(), 3);
    for (const QString& link : page.links)
      QVERIFY2(page.ids.contains(link.mid(1)), qPrintable(link));
    QCOMPARE(page.pictures.size(), 3); // the logo is one
    for (const QString& picture : page.pictures) {
      QVERIFY(picture.startsWith("data:image/"));
      QVERIFY(!QByteArray::fromBase64(picture.section(',', 1).toLatin1()).isEmpty());
    }
    QCOMPARE(QByteArray::fromBase64(page.pictures[1].section(',', 1).toLatin1()).toStdString(), png);
    QVERIFY(page.pictures[2].startsWith("data:image/svg+xml"));
    QVERIFY(html.find("http://") == html.find("http://www.w3.org")); // nothing is fetched
    QVERIFY(html.find("https://") == std::string::npos);
  }

  void aReportComesBackFromItsFile()
  {
    Project p = told();
    p.reports[0].logo = SharedText(packedText("some bytes"));
    p.reports[0].sections[0].text = "Line one\nline “two” {Shell, hottest}";
    p.reports[0].sections[3].off = true;
    const auto back = readProject(writeProject(p), "test");
    QVERIFY2(back, back ? "" : back.error().sentence().c_str());
    QVERIFY(back->reports == p.reports);
    QCOMPARE(*unpackedText(back->reports[0].logo.text()), std::string("some bytes"));
  }

  void whatItToldOfIsForgottenWithIt()
  {
    Project p = told();
    QVERIFY(removeObject(p, "night"));
    QCOMPARE(p.reports[0].cases, std::vector<std::string>{"day"});
    QVERIFY(removeObject(p, "front"));
    QVERIFY(p.reports[0].sections[2].views.empty());
  }

  void itKnowsWhatHasChanged()
  {
    const Project p = told();
    const auto recordOf = [](const Project& project, const std::string& result) {
      ReportRecord record;
      record.own = ownHash(project, project.reports[0]);
      for (const Case& one : project.cases)
        record.cases.push_back({one.id, one.name, toldHash(project, one, result)});
      return record;
    };
    const ReportRecord made = recordOf(p, "r1");
    QVERIFY(outOfDate(made, recordOf(p, "r1")).empty());
    QCOMPARE(outOfDate(made, recordOf(p, "r2")).size(), 2U); // both were solved again
    Project words = p;
    words.reports[0].sections[0].text = "Other words";
    QCOMPARE(outOfDate(made, recordOf(words, "r1")).size(), 1U);
    Project looked = p;
    looked.views[0].eye.x.si = 3;
    QCOMPARE(outOfDate(made, recordOf(looked, "r1")).size(), 1U);
    Project moved = p;
    moved.network = {}; // and a second report of its own, which is of no concern
    moved.reports.push_back(p.reports[0]);
    moved.reports[1].id = "other";
    QVERIFY(outOfDate(made, recordOf(moved, "r1")).empty());
    Project hotter = p;
    hotter.cases[1].comment = "as measured";
    const auto why = outOfDate(made, recordOf(hotter, "r1"));
    QCOMPARE(why, std::vector<std::string>{"Case Night has changed since."});
    Project fewer = p;
    fewer.cases.pop_back();
    QCOMPARE(outOfDate(made, recordOf(fewer, "r1")), std::vector<std::string>{"Case Night is no longer told of."});
  }

  void recordsComeBack()
  {
    QTemporaryDir folder;
    const auto file = reportRecordFile(folder.path().toStdString(), "Shell / lid");
    QCOMPARE(file.parent_path(), std::filesystem::path(folder.path().toStdString())); // no folder of its own
    const ReportRecord record{"a.html\nb.pdf", "now", "h", {{"day", awkward, "x"}}, {{"q", "Q", "y"}}};
    QVERIFY(saveReportRecord(record, file));
    const auto back = loadReportRecord(file);
    QVERIFY(back && *back == record);
    std::ofstream(file) << "{\"layout\": 2}";
    QVERIFY(!loadReportRecord(file));
    std::ofstream(file) << "{";
    QVERIFY(!loadReportRecord(file));
    QVERIFY(!loadReportRecord(file.parent_path() / "none.report.json"));
  }

  void templatesServeOtherProjects()
  {
    const Project p = told();
    const std::string text = reportTemplate(p, p.reports[0]);
    Project other = projectWith(0.02);
    other.cases = {Case{}};
    other.cases[0].id = "night"; // another case under this id: names count
    other.cases[0].name = "Day";
    View view = p.views[0];
    view.id = "my-front";
    other.views = {view};
    const auto taken = takeTemplate(other, text, "t");
    QVERIFY2(taken, taken ? "" : taken.error().sentence().c_str());
    const Report& report = other.reports[0];
    QCOMPARE(report.id, taken->id);
    QCOMPARE(report.cases, std::vector<std::string>{"night"});
    QCOMPARE(report.sections[2].views, std::vector<std::string>{"my-front"});
    QCOMPARE(report.author, awkward);
    QCOMPARE(taken->unmatched.size(), 1U);
    QVERIFY(taken->unmatched[0].find("case “Night”") != std::string::npos);
    QVERIFY(takeTemplate(other, text, "t")); // a second one has a name of its own
    QVERIFY(other.reports[1].name != other.reports[0].name);
  }

  void whatIsNoTemplateIsRefused_data()
  {
    QTest::addColumn<QString>("text");
    QTest::newRow("a project") << QString::fromStdString(writeProject(told()));
    QTest::newRow("no text") << "";
    QTest::newRow("damaged") << "{ \"version\": 1, ";
    const Project p = told();
    QString newer = QString::fromStdString(reportTemplate(p, p.reports[0]));
    QVERIFY(newer.contains("\"version\": 1"));
    QTest::newRow("of a newer version") << newer.replace("\"version\": 1", "\"version\": 99");
  }
  void whatIsNoTemplateIsRefused()
  {
    QFETCH(QString, text);
    Project p = told();
    const Project before = p;
    const auto taken = takeTemplate(p, text.toStdString(), "file.kiln-report");
    QVERIFY(!taken);
    QVERIFY(taken.error().sentence().find("file.kiln-report") != std::string::npos);
    QVERIFY(!taken.error().remedy.empty());
    QVERIFY(p == before);
  }
};

QTEST_APPLESS_MAIN(ReportsTest)
#include "tst_reports.moc"
