// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
//
// Reports from the window: made, found out of date, brought up to date; charts and tables taken along.
#include "BarDriver.h"
#include "base/PackedText.h"
#include "io/ProjectPicture.h"
#include "look/DrawnWidget.h"
#include "report/ReportEditor.h"
#include "report/ReportPage.h"
#include "report/ReportPaper.h"
#include "strip/TableText.h"

#include <QFile>
#include <QImage>
#include <QLabel>
#include <QListWidget>
#include <QPlainTextEdit>
#include <QSvgRenderer>
#include <QTabWidget>
#include <QTableView>
#include <QTextBrowser>
#include <QXmlStreamReader>

using namespace kiln;
using namespace kiln::test;

class ReportTest : public QObject, private BarDriver
{
  Q_OBJECT

private:
  ReportPage& page() { return window_->report(); }
  QListWidget& sections() { return *find<QListWidget>("reportSections"); }
  QString status() { return find<QLabel>("reportStatus")->text(); }
  QString path(const QString& name) const { return folder_.filePath(name); }
  const Report& report() { return project().reports.front(); }

  /// A solved bar that is heated at its right by 4 W: 400 K there, where 420 K are allowed.
  void solvedBar()
  {
    Project p = bar();
    p.boundaries.pop_back();
    p.sources = {source("heater", SurfacePower{"right", Property{4, "4 W"}})};
    p.watches[0].upper = Number{420, "146.85 °C"};
    static int count = 0; // a folder of its own each
    start(p, qPrintable(QString("report-%1").arg(++count)));
    solve();
    find<QTabWidget>("centre")->setCurrentWidget(&page());
    QCoreApplication::processEvents();
  }
  void addReport()
  {
    QTest::mouseClick(find<QToolButton>("reportAdd"), Qt::LeftButton);
    QCOMPARE(project().reports.size(), 1U);
    QTRY_VERIFY(sections().count() > 10);
  }
  static QStringList texts(const QString& file, const QString& element)
  {
    QFile in(file);
    QStringList found;
    if (!in.open(QIODevice::ReadOnly))
      return found;
    QXmlStreamReader xml(in.readAll());
    while (!xml.atEnd())
      if (xml.readNext() == QXmlStreamReader::StartElement && xml.name() == element)
        found << xml.readElementText(QXmlStreamReader::IncludeChildElements);
    return xml.hasError() ? QStringList("not XML: " + xml.errorString()) : found;
  }

  /// Of the watch, as it reads.
  QString figure() { return QString::fromStdString(formatQuantity(hottest("steady"), Quantity::Temperature)); }

private slots:
  void cleanupTestCase() { window_.reset(); }

  void whatItTellsIsChosenByHand()
  {
    solvedBar();
    QVERIFY(status().contains("+"));
    addReport();
    type("reportTitle", "Shell of the bar");
    QCOMPARE(report().title, std::string("Shell of the bar"));
    sections().setCurrentRow(0);
    QVERIFY(find<QPlainTextEdit>("sectionText")->isEnabled());
    find<QPlainTextEdit>("sectionText")->setFocus();
    QTest::keyClicks(find<QPlainTextEdit>("sectionText"), "Is it cool enough?");
    QTRY_COMPARE(report().sections[0].text, std::string("Is it cool enough?"));
    // What is typed stays with its section, however quickly another one is chosen.
    QTest::keyClicks(find<QPlainTextEdit>("sectionText"), " Yes.");
    sections().setCurrentRow(1);
    QTRY_COMPARE(report().sections[0].text, std::string("Is it cool enough? Yes."));
    QVERIFY(report().sections[1].text.empty());
    // A section switched off, one moved up, one added, all undone.
    const std::vector<ReportSection> before = report().sections;
    sections().item(3)->setCheckState(Qt::Unchecked);
    QTRY_VERIFY(report().sections[3].off);
    QTRY_COMPARE(sections().item(3)->checkState(), Qt::Unchecked);
    sections().setCurrentRow(2);
    QTest::mouseClick(find<QToolButton>("sectionUp"), Qt::LeftButton);
    QTRY_COMPARE(report().sections[1].id, before[2].id);
    QTRY_COMPARE(sections().currentRow(), 1);
    QTest::mouseClick(find<QToolButton>("sectionAdd"), Qt::LeftButton);
    QTRY_COMPARE(report().sections.size(), before.size() + 1);
    for (int i = 0; i < 3; ++i)
      document().undoStack().undo();
    QVERIFY(report().sections == before);
    QTRY_COMPARE(sections().item(3)->checkState(), Qt::Checked);
  }

  /// Made, then a power is changed: it is out of date and says so; then it is brought up to date with the same words.
  void outOfDateAndBack()
  {
    solvedBar();
    addReport();
    find<QPlainTextEdit>("sectionText")->setFocus();
    QTest::keyClicks(find<QPlainTextEdit>("sectionText"), "It is {hottest} hot, {hottest | margin}.");
    QVERIFY(page().makeInto({path("r.html"), path("r.pdf")})); // what was typed just now counts
    QVERIFY2(status().startsWith("✓ Up to date"), qPrintable(status()));
    QVERIFY(!find<QPushButton>("reportUpdate")->isVisible());
    QVERIFY2(texts(path("r.html"), "p").join('|').contains("It is " + figure() + " hot, +20 K"),
             qPrintable(texts(path("r.html"), "p").join('|')));
    QVERIFY(texts(path("r.html"), "td").contains(figure()));
    QVERIFY(find<QTextBrowser>("reportView")->toPlainText().contains("Figures and limits"));

    document().set("heater.power", Property{6, "6 W"});
    QTRY_VERIFY2(status().startsWith("✗ Out of date"), qPrintable(status()));
    QVERIFY(status().contains("Steady"));
    QVERIFY(page().makeInto({path("old.html")})); // made all the same: marked
    QVERIFY(texts(path("old.html"), "p").join('|').contains("out of date"));
    QVERIFY(page().makeInto({path("r.html"), path("r.pdf")}));

    // The mark of old pages goes once it is solved again, by the button.
    document().set("heater.power", Property{5, "5 W"});
    QTRY_VERIFY(find<QPushButton>("reportUpdate")->isVisible());
    QTest::mouseClick(find<QPushButton>("reportUpdate"), Qt::LeftButton);
    QTRY_VERIFY_WITH_TIMEOUT(status().startsWith("✓ Up to date"), childTime);
    const QString words = texts(path("r.html"), "p").join('|');
    QVERIFY2(words.contains("It is " + figure() + " hot, −5"), qPrintable(words)); // the same words, the new figure
    QVERIFY(figure().startsWith("151."));
    QVERIFY(!words.contains("out of date"));
    QVERIFY(!texts(path("r.html"), "td").filter("✗ fails").isEmpty()); // 5 W are too much
    QVERIFY(QFile(path("r.pdf")).size() > 10'000);
  }

  void theWindowIsAsItWasBefore()
  {
    solvedBar();
    addReport();
    document().edit("Another case", [](Project& project) {
      Case other = project.cases.front();
      other.id = "other";
      other.name = "Other";
      project.cases.push_back(other);
      project.reports.front().cases = {"steady", "other"};
    });
    document().showCase("other");
    const View look = window_->scene().currentView();
    QVERIFY(page().makeInto({path("two.html")}));
    QCOMPARE(document().shownCase(), std::string("other"));
    QVERIFY(window_->scene().currentView() == look);
    QVERIFY(window_->updatesEnabled());
    QVERIFY(texts(path("two.html"), "h3").contains("Other"));
    QVERIFY(texts(path("two.html"), "p").join('|').contains("Other is not solved")); // and the other is told of
    QVERIFY(texts(path("two.html"), "th").contains("Steady"));
  }

  void whatIsNotKnownIsSaid()
  {
    solvedBar();
    addReport();
    find<QPlainTextEdit>("sectionText")->setFocus();
    QTest::keyClicks(find<QPlainTextEdit>("sectionText"), "{hottt}");
    QVERIFY(page().makeInto({path("u.html")}));
    QVERIFY(find<QLabel>("reportSaid")->text().contains("{hottt}"));
    QVERIFY(!page().makeInto({path("no/folder/u.html")}));
    QVERIFY(find<QLabel>("reportSaid")->text().contains("u.html"));
    QVERIFY(!page().makeInto({path("u.doc")}));
  }

  /// What goes on elsewhere does not take away what is typed and not entered yet.
  void typingIsLeftAlone()
  {
    solvedBar();
    addReport();
    auto* title = find<QLineEdit>("reportTitle");
    title->setFocus();
    QTest::keyClicks(title, "Half a ti");
    document().edit("Another case", [](Project& project) {
      Case other = project.cases.front();
      other.id = "other";
      other.name = "Other";
      project.cases.push_back(other);
    });
    auto* subjects = find<QListWidget>("reportSubjects");
    QTRY_COMPARE(subjects->count(), 2); // the page has seen it
    QCOMPARE(title->text(), QString("Half a ti"));
    QTest::keyClicks(title, "tle\r");
    QCOMPARE(report().title, std::string("Half a title"));
  }

  void logos()
  {
    solvedBar();
    addReport();
    QImage logo(1600, 900, QImage::Format_RGB32);
    logo.fill(Qt::darkCyan);
    QVERIFY(logo.save(path("logo ä.png")));
    QVERIFY(page().editor().takeLogo(path("logo ä.png")));
    QImage kept;
    kept.loadFromData(QByteArray::fromStdString(*unpackedText(report().logo.text())), "PNG");
    QVERIFY(kept.width() <= 800 && kept.width() > 100); // no larger than it is shown
    QFile none(path("none.png"));
    QVERIFY(none.open(QIODevice::WriteOnly));
    none.write("this is no picture");
    none.close();
    const auto refused = page().editor().takeLogo(none.fileName());
    QVERIFY(!refused && refused.error().sentence().find("no picture") != std::string::npos);
    // 200 megapixels, as the head of a PNG says; nobody reads them.
    QFile huge(path("huge.png"));
    QVERIFY(huge.open(QIODevice::WriteOnly));
    huge.write(QByteArray::fromHex("89504e470d0a1a0a0000000d49484452"
                                   "00004e20000027100802000000"
                                   "00000000"));
    huge.close();
    const auto large = page().editor().takeLogo(huge.fileName());
    QVERIFY(!large);
    QVERIFY(page().makeInto({path("logo.pdf"), path("logo.odt")}));
  }

  /// Pages of paper: the text and the drawings are lines and letters, the mark stands on each page.
  void paperSaysWhatIsOld()
  {
    ReportContent content;
    content.title = "Old";
    content.warnings = {"Steady is out of date."};
    for (int i = 0; i < 100; ++i)
      content.blocks.emplace_back(ReportWords{"Line " + std::to_string(i), ReportMark::None});
    ReportTable table; // goes over pages; nothing of what follows is lost
    table.addColumn("Point");
    for (int i = 0; i < 120; ++i)
      table.rows.push_back({{"Row " + std::to_string(i)}});
    table.caption = "The caption";
    content.blocks.emplace_back(table);
    content.blocks.emplace_back(ReportHeading{"After the table", 1});
    content.blocks.emplace_back(ReportHeading{"And within", 2});
    for (int i = 100; i < 200; ++i)
      content.blocks.emplace_back(ReportWords{"Line " + std::to_string(i), ReportMark::None});
    QVERIFY(writeReport(content, path("old.pdf").toStdString()));
    QProcess process;
    process.start("pdftotext", {path("old.pdf"), "-"});
    QVERIFY(process.waitForFinished());
    const QString text = QString::fromUtf8(process.readAllStandardOutput());
    QVERIFY(text.count("OUT OF DATE") >= 3);
    QCOMPARE(text.count(QRegularExpression("\\d of \\d")), text.count("OUT OF DATE"));
    for (int i = 0; i < 200; ++i)
      QVERIFY2(text.contains(QString("Line %1\n").arg(i)), qPrintable(QString::number(i)));
    for (int i = 0; i < 120; ++i)
      QVERIFY2(text.contains(QString("Row %1\n").arg(i)), qPrintable(QString::number(i)));
    for (const char* said : {"The caption", "After the table", "And within"})
      QVERIFY2(text.contains(said), said);
    QVERIFY(text.indexOf("Row 119\n") < text.indexOf("After the table"));
    QVERIFY(!writeReport(content, path("old.txt").toStdString()));
  }

  /// Wherever headings have to move to the next page, all that follows is there, in its order.
  void nothingIsLostBetweenPages_data()
  {
    QTest::addColumn<int>("before");
    for (int before = 0; before < 45; before += 4)
      QTest::newRow(qPrintable(QString::number(before))) << before;
  }
  void nothingIsLostBetweenPages()
  {
    QFETCH(int, before);
    ReportContent content;
    content.title = "Order";
    QStringList wanted;
    int number = 0;
    const auto mark = [&] {
      wanted << QString("mark%1x").arg(++number);
      return wanted.back().toStdString();
    };
    for (int i = 0; i < before; ++i)
      content.blocks.emplace_back(ReportWords{mark(), ReportMark::None});
    for (int round = 0; round < 3; ++round) {
      content.blocks.emplace_back(ReportHeading{mark(), 1});
      content.blocks.emplace_back(ReportHeading{mark(), 2});
      ReportTable table;
      table.addColumn("");
      for (int i = 0; i < 50; ++i)
        table.rows.push_back({{mark()}});
      table.caption = mark();
      content.blocks.emplace_back(table);
      content.blocks.emplace_back(ReportHeading{mark(), 2});
      content.blocks.emplace_back(ReportWords{mark(), ReportMark::None});
    }
    QVERIFY(writeReport(content, path("order.pdf").toStdString()));
    QProcess process;
    process.start("pdftotext", {path("order.pdf"), "-"});
    QVERIFY(process.waitForFinished());
    const QString text = QString::fromUtf8(process.readAllStandardOutput());
    qsizetype at = -1;
    for (const QString& one : wanted) {
      const qsizetype next = text.indexOf(one);
      QVERIFY2(next > at, qPrintable(one));
      QVERIFY(text.count(one) <= 2); // a line that ends where its page does is in the next one too, cut away
      at = next;
    }
  }

  void tablesAndChartsGoAlong()
  {
    solvedBar();
    auto* take = find<QToolButton>("stripTake");
    const auto entries = [&] {
      QStringList names;
      emit take->menu()->aboutToShow();
      for (const QAction* action : take->menu()->actions())
        names << action->text();
      return names.join('|');
    };
    showPage(StripPanel::numbersPage);
    QVERIFY(entries().contains("CSV"));
    QVERIFY(!entries().contains("chart"));
    showPage(StripPanel::pathsPage);
    QVERIFY(entries().contains("chart"));
    const std::vector<QWidget*> charts = chartsOn(window_->strip());
    QVERIFY(!charts.empty());
    // As a drawing with letters in it, and as pixels.
    QVERIFY(saveDrawn(*charts.front(), "Paths", path("paths.svg")));
    QFile svg(path("paths.svg"));
    QVERIFY(svg.open(QIODevice::ReadOnly));
    const QByteArray drawing = svg.readAll();
    QVERIFY(QSvgRenderer(drawing).isValid());
    QVERIFY(drawing.contains("<text") && drawing.contains("<path"));
    QVERIFY(saveDrawn(*charts.front(), "Paths", path("paths.png")));
    QCOMPARE(QImage(path("paths.png")).width(), 2 * charts.front()->width());
    QVERIFY(!saveDrawn(*charts.front(), "Paths", path("no/paths.png")));
    showPage(StripPanel::labelsPage);
  }

  void aProjectIsSavedWithItsPicture()
  {
    solvedBar();
    document().edit("Comment", [](Project& project) { project.comment = "more"; });
    QTest::keySequence(window_.get(), QKeySequence::Save);
    QTRY_VERIFY(!document().isUnsaved());
    const auto picture = storedPicture(document().file());
    QVERIFY(picture);
    QImage shown;
    QVERIFY(shown.loadFromData(QByteArray::fromStdString(*picture), "PNG"));
    QCOMPARE(shown.width(), 256);
    std::set<QRgb> colors;
    for (int x = 0; x < shown.width(); x += 4)
      for (int y = 0; y < shown.height(); y += 4)
        colors.insert(shown.pixel(x, y));
    QVERIFY(colors.size() > 8); // the model, not an empty scene
    QVERIFY(window_->updatesEnabled());
  }
};

int main(int argc, char** argv) { return runWindowTests<ReportTest>(argc, argv); }
#include "tst_report.moc"
