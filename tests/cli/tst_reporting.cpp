// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
//
// Reports and exports from the command line, without a display, read again as their readers do.
#include "TestProjects.h"
#include "Ukiln.h"
#include "io/CaseStore.h"
#include "io/ProjectFile.h"
#include "report/ReportTemplate.h"

#include <QDir>
#include <QFile>
#include <QFileInfo>
#include <QJsonDocument>
#include <QJsonObject>
#include <QTemporaryDir>
#include <QTest>
#include <QXmlStreamReader>
#include <filesystem>

using namespace kiln;
using namespace kiln::test;

namespace
{

/// A warm bar with a watch that keeps its limit and one that does not, a line, and a report with words.
Project bar()
{
  Project p = projectWith(0.01);
  p.name = "Bar & <co>";
  p.materials = {material("metal", 20)};
  p.parts = {part("bar", "metal", block(0.1, 0.02, 0.02))};
  p.surfaces = {surface("left", {"bar.left"}), surface("right", {"bar.right"})};
  p.sources = {source("heat", SurfacePower{"left", Property{8, ""}})};
  p.boundaries = {boundary("air", Convection{"right", Property{100, ""}, Property{300, ""}, {}, {}})};
  p.watches = {watch("hot", SurfaceFigure{Extreme::Hottest, "left"}),
               watch("cold", SurfaceFigure{Extreme::Mean, "right"})};
  p.watches[0].name = "Hottest “left”";
  p.watches[0].upper = number(400);
  p.watches[1].upper = number(600);
  Line along;
  along.id = along.name = "along";
  along.from = {number(-0.05), number(0), number(0.01)};
  along.to = {number(0.05), number(0), number(0.01)};
  p.lines = {along};
  Report report;
  report.id = "report";
  report.name = "Our report";
  report.author = "ä ß 🔥";
  report.sections = usualSections();
  report.sections[0].text = "It is {Hottest “left”} hot, {none}.";
  p.reports = {report};
  return p;
}

/// Text of all elements of a page, by name.
QStringList textsOf(const QByteArray& html, const QString& element, QString& error)
{
  QStringList texts;
  QXmlStreamReader xml(html);
  while (!xml.atEnd())
    if (xml.readNext() == QXmlStreamReader::StartElement && xml.name() == element)
      texts << xml.readElementText(QXmlStreamReader::IncludeChildElements);
  error = xml.hasError() ? xml.errorString() : QString();
  return texts;
}

QString outputOf(const QString& program, const QStringList& arguments)
{
  QProcess process;
  process.start(program, arguments);
  process.waitForFinished();
  return QString::fromUtf8(process.readAllStandardOutput());
}

} // namespace

class ReportingTest : public QObject
{
  Q_OBJECT

private:
  QTemporaryDir folder_;
  QString project() const { return folder_.filePath("bar.kiln"); }
  QString path(const QString& name) const { return folder_.filePath(name); }
  static QByteArray read(const QString& name)
  {
    QFile file(name);
    return file.open(QIODevice::ReadOnly) ? file.readAll() : QByteArray();
  }

private slots:
  void initTestCase()
  {
    qunsetenv("DISPLAY"); // there is none
    qputenv("HOME", folder_.path().toUtf8());
    QVERIFY(saveProject(bar(), project().toStdString()));
    QCOMPARE(run({"solve", project()}).code, 0);
  }

  /// Every figure of the page is the result's.
  void aPage()
  {
    const Outcome made = run({"report", project(), "--to", path("bar.html")});
    QVERIFY2(made.code == 0, qPrintable(made.error));
    QVERIFY2(made.error.contains("{none}"), qPrintable(made.error)); // what is not known is said
    const QByteArray html = read(path("bar.html"));
    QString error;
    const QStringList cells = textsOf(html, "td", error);
    QCOMPARE(error, QString());
    const auto result = loadStored(path("bar.results").toStdString(), bar().cases[0]);
    QVERIFY(result);
    for (const WatchFigure& figure : readWatches(bar(), *result))
      QVERIFY2(cells.contains(QString::fromStdString(formatQuantity(*figure.value, figure.quantity))),
               figure.name.c_str());
    QVERIFY(!cells.filter(QRegularExpression("^✗ fails")).isEmpty()); // 475 K where 400 K is allowed
    QVERIFY(!cells.filter(QRegularExpression("^✓ passes")).isEmpty());
    QVERIFY(cells.contains(QString::fromStdString(result->solutionHash)));
    QVERIFY(textsOf(html, "p", error).join(' ').contains("[not known: none]"));
    QCOMPARE(textsOf(html, "h1", error), QStringList{"Bar & <co>"});
    QVERIFY(html.count("data:image/") >= 3); // the scene, along the line, paths
    QVERIFY(!QFile::exists(path("bar.kiln.lock")));
  }

  void paper()
  {
    const Outcome made = run({"report", project(), "--report", "Our report", "--to", path("bar.pdf")});
    QVERIFY2(made.code == 0, qPrintable(made.error));
    const QString info = outputOf("pdfinfo", {path("bar.pdf")});
    const int pages = info.section("Pages:", 1).section('\n', 0, 0).trimmed().toInt();
    QVERIFY2(pages >= 2 && pages < 12, qPrintable(info));
    QVERIFY(info.contains("Bar & <co>"));
    const QString text = outputOf("pdftotext", {"-layout", path("bar.pdf"), "-"});
    for (const char* said : {"Figures and limits", "Heat balance", "To compute it again", "Hottest “left”"})
      QVERIFY2(text.contains(said), said);
    QVERIFY(text.contains(QString("1 of %1").arg(pages)));
    QVERIFY(!text.contains("OUT OF DATE"));
    QVERIFY(read(path("bar.pdf")).size() < 5'000'000);
  }

  void aTextToGoOnWriting()
  {
    QCOMPARE(run({"report", project(), "--to", path("bar.odt")}).code, 0);
    const QByteArray bytes = read(path("bar.odt"));
    QVERIFY(bytes.startsWith("PK"));
    QVERIFY(bytes.contains("mimetypeapplication/vnd.oasis.opendocument.text"));
    QVERIFY(bytes.contains("content.xml") && bytes.contains("Pictures/"));
  }

  /// Marked on its pages; solved first where that is asked for.
  void outOfDate()
  {
    Project warmer = bar();
    std::get<SurfacePower>(warmer.sources[0].heat).power = Property{9, ""};
    QVERIFY(saveProject(warmer, project().toStdString()));
    const Outcome old = run({"report", project(), "--to", path("old.html")});
    QCOMPARE(old.code, 0);
    QVERIFY2(old.error.contains("out of date"), qPrintable(old.error));
    QString error;
    QVERIFY(textsOf(read(path("old.html")), "p", error).join(' ').contains("out of date"));
    const Outcome now = run({"report", project(), "--to", path("now.html"), "--bring-up-to-date"});
    QVERIFY2(now.code == 0, qPrintable(now.error));
    QVERIFY(!textsOf(read(path("now.html")), "p", error).join(' ').contains("out of date"));
    QVERIFY(saveProject(bar(), project().toStdString()));
    QCOMPARE(run({"solve", project(), "--if-needed"}).code, 0);
  }

  void byATemplate()
  {
    Project other = bar();
    other.reports[0].title = "By the template";
    other.reports[0].cases = {"steady"};
    QFile file(path("own.kiln-report"));
    QVERIFY(file.open(QIODevice::WriteOnly));
    file.write(QByteArray::fromStdString(reportTemplate(other, other.reports[0])));
    file.close();
    const Outcome made =
        run({"report", project(), "--template", file.fileName(), "--case", "Steady", "--to", path("t.html")});
    QVERIFY2(made.code == 0, qPrintable(made.error));
    QString error;
    QCOMPARE(textsOf(read(path("t.html")), "h1", error), QStringList{"By the template"});
  }

  void whatCannotBe_data()
  {
    QTest::addColumn<QStringList>("options");
    QTest::addColumn<int>("code");
    QTest::addColumn<QString>("said");
    const QString page = folder_.filePath("x.html");
    QTest::newRow("no such report") << QStringList{"--report", "none", "--to", page} << 1 << "none";
    QTest::newRow("no such case") << QStringList{"--case", "none", "--to", page} << 1 << "none";
    QTest::newRow("of no kind") << QStringList{"--to", folder_.filePath("x.doc")} << 4 << ".html, .pdf or .odt";
    QTest::newRow("no such folder") << QStringList{"--to", folder_.filePath("no/x.pdf")} << 4 << "x.pdf";
    QTest::newRow("no template") << QStringList{"--template", folder_.filePath("bar.kiln"), "--to", page} << 2
                                 << "bar.kiln";
  }
  void whatCannotBe()
  {
    QFETCH(QStringList, options);
    QFETCH(int, code);
    QFETCH(QString, said);
    const Outcome made = run(QStringList{"report", project()} + options);
    QCOMPARE(made.code, code);
    QVERIFY2((made.error + made.out).contains(said), qPrintable(made.error + made.out));
    QVERIFY(!made.crashed);
  }

  void aFolderThatIsReadOnly()
  {
    if (::geteuid() == 0)
      QSKIP("root may write everywhere");
    QVERIFY(QDir(folder_.path()).mkdir("locked"));
    QFile::setPermissions(path("locked"), QFile::ReadOwner | QFile::ExeOwner);
    QCOMPARE(run({"report", project(), "--to", path("locked/x.pdf")}).code, 4);
  }

  void aDiskThatFillsUp_data()
  {
    QTest::addColumn<QString>("format");
    QTest::addColumn<int>("at");
    for (const char* format : {"html", "pdf", "odt"})
      for (const int at : {1, 2, 3})
        QTest::addRow("%s, at change %d", format, at) << format << at;
  }
  /// While it is written: it is said which file, what was there before is there still, and no half of a report.
  void aDiskThatFillsUp()
  {
    QFETCH(QString, format);
    QFETCH(int, at);
    const QString folder = path("full-" + format + QString::number(at));
    QVERIFY(QDir().mkpath(folder));
    const QString to = folder + "/before." + format;
    QFile before(to);
    QVERIFY(before.open(QIODevice::WriteOnly) && before.write("what was there") > 0);
    before.close();
    const std::vector<std::pair<const char*, QByteArray>> faults{{"LD_PRELOAD", KILN_FAULT_SHIM},
                                                                 {"KILN_FAULT_FOLDER", folder.toUtf8()},
                                                                 {"KILN_FAULT_MODE", "full"},
                                                                 {"KILN_FAULT_AT", QByteArray::number(at)}};
    for (const auto& [name, value] : faults)
      qputenv(name, value);
    const Outcome made = run({"report", project(), "--to", to});
    for (const auto& [name, value] : faults)
      qunsetenv(name);
    QVERIFY2(!made.crashed, qPrintable(made.error));
    if (made.code == 0) { // it had been written by then
      QVERIFY(at > 1 && read(to) != "what was there" && QFileInfo(to).size() > 1000);
      return;
    }
    QVERIFY2(made.code == 4 && made.error.contains("before." + format),
             qPrintable(QString("%1 %2").arg(made.code).arg(made.error)));
    QCOMPARE(read(to), QByteArray("what was there"));
  }

  void exports_data()
  {
    QTest::addColumn<QString>("format");
    QTest::addColumn<QString>("begins");
    QTest::newRow("faces") << "faces"
                           << "face,part,touches";
    QTest::newRow("network") << "network"
                             << "{";
    QTest::newRow("netlist") << "netlist"
                             << "* Bar & <co>";
  }
  void exports()
  {
    QFETCH(QString, format);
    QFETCH(QString, begins);
    const QString file = path("out-" + format);
    const Outcome made = run({"export", project(), "--case", "Steady", "--format", format, "--to", file});
    QVERIFY2(made.code == 0, qPrintable(made.error));
    QVERIFY2(read(file).startsWith(begins.toUtf8()), read(file).left(60).constData());
  }

  void placesOutsideAreSaid()
  {
    QFile table(path("places.csv"));
    QVERIFY(table.open(QIODevice::WriteOnly));
    table.write("x [mm],y [mm],z [mm]\n0,0,10\n900,0,0\n");
    table.close();
    const QStringList asked{"export", project(), "--case", "Steady", "--format", "places", "--to", path("values.csv")};
    const Outcome made = run(asked + QStringList{"--places", table.fileName()});
    QCOMPARE(made.code, 0);
    QVERIFY((made.error + made.out).contains("1 of 2 places lie outside"));
    QVERIFY(read(path("values.csv")).count('\n') == 3);
    QCOMPARE(run(asked).code, 1); // which places?
    QCOMPARE(run(asked + QStringList{"--places", path("none.csv")}).code, 2);
  }

  void aCaseWithoutAResult()
  {
    const QString file = folder_.filePath("fresh.kiln");
    QVERIFY(saveProject(bar(), file.toStdString()));
    const Outcome made = run({"export", file, "--case", "Steady", "--format", "faces"});
    QVERIFY(made.code != 0);
    QVERIFY((made.error + made.out).contains("Steady") || (made.error + made.out).contains("steady"));
    const Outcome report = run({"report", file, "--to", path("fresh.html")}); // it says so on its pages
    QCOMPARE(report.code, 0);
    QVERIFY(report.error.contains("not solved"));
  }

  /// What is said after a solve goes by the limits that the case has, not those of the project.
  void limitsOfTheCase()
  {
    Project p = bar();
    Case strict = p.cases[0];
    strict.id = "strict";
    strict.name = "Strict";
    strict.changes = {{"cold.upper", Property{310, "36.85 °C"}}};
    p.cases.push_back(strict);
    const QString file = folder_.filePath("strict.kiln");
    QVERIFY(saveProject(p, file.toStdString()));
    const auto lineOf = [&](const QString& oneCase) {
      const Outcome solved = run({"solve", file, "--case", oneCase});
      const QStringList lines = (solved.out + solved.error).split('\n').filter("cold ");
      return lines.isEmpty() ? QString() : lines.first();
    };
    QVERIFY2(lineOf("Steady").contains("margin +"), qPrintable(lineOf("Steady")));
    QVERIFY2(lineOf("Strict").contains("margin −"), qPrintable(lineOf("Strict")));
  }

  void noPictureYet()
  {
    const Outcome made = run({"picture", project(), "--to", path("p.png")});
    QCOMPARE(made.code, 2);
    QVERIFY((made.error + made.out).contains("no picture"));
  }
};

QTEST_GUILESS_MAIN(ReportingTest)
#include "tst_reporting.moc"
