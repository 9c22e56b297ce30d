// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
//
// The manual in its window: a page for every task, an index that leads, a search that goes from page to page.
#include "window/Application.h"
#include "window/Manual.h"

#include <QApplication>
#include <QFile>
#include <QLineEdit>
#include <QListWidget>
#include <QRegularExpression>
#include <QScrollBar>
#include <QSet>
#include <QTextBlock>
#include <QTextBrowser>

using namespace kiln;

class ManualTest : public QObject
{
  Q_OBJECT

private slots:
  /// A page is one chapter, begins at its top, and its pictures are there.
  void aPageForEveryChapter()
  {
    Manual manual(manualFile(), nullptr);
    manual.QDialog::show();
    auto* text = manual.findChild<QTextBrowser*>("manualText");
    auto* list = manual.findChild<QListWidget*>("manualChapters");
    QVERIFY(text->toPlainText().startsWith("Manual\n")); // the first one
    int pictures = 0;
    for (const QString& chapter : manual.chapters()) {
      QVERIFY(manual.show(chapter));
      QCOMPARE(list->currentItem()->text(), chapter);
      QCOMPARE(text->verticalScrollBar()->value(), 0);
      int headings = 0;
      for (QTextBlock block = text->document()->begin(); block.isValid(); block = block.next()) {
        headings += block.blockFormat().headingLevel() == 2 ? 1 : 0;
        for (auto part = block.begin(); !part.atEnd(); ++part)
          if (const QTextImageFormat format = part.fragment().charFormat().toImageFormat(); format.isValid()) {
            QVERIFY2(!text->document()->resource(QTextDocument::ImageResource, QUrl(format.name())).isNull(),
                     qPrintable(format.name()));
            ++pictures;
          }
      }
      QCOMPARE(headings, 1);
    }
    QVERIFY(pictures > 10);
    QVERIFY(!manual.show("No such chapter"));
    QCOMPARE(list->currentItem()->text(), manual.chapters().back());
  }

  /// Every word of the index leads to a chapter that tells of it, by a click.
  void theIndexLeads()
  {
    Manual manual(manualFile(), nullptr);
    manual.QDialog::show();
    QFile file(manualFile());
    QVERIFY(file.open(QIODevice::ReadOnly));
    const QString whole = QString::fromUtf8(file.readAll());
    const QString index = whole.mid(whole.indexOf("\n## Index\n"));
    static const QRegularExpression entry("^([^:\n]+): \\[([^\\]]+)\\]\\((#[^)]+)\\)",
                                          QRegularExpression::MultilineOption);
    int entries = 0;
    for (auto each = entry.globalMatch(index); each.hasNext(); ++entries) {
      const auto match = each.next();
      manual.follow(QUrl(match.captured(3)));
      auto* list = manual.findChild<QListWidget*>("manualChapters");
      QVERIFY2(list->currentItem() != nullptr, qPrintable(match.captured(0)));
      QCOMPARE(list->currentItem()->text(), match.captured(2));
      const qsizetype begin = whole.indexOf("\n## " + match.captured(2) + "\n");
      const QString chapter = whole.mid(begin, whole.indexOf("\n## ", begin + 4) - begin);
      const QString word = match.captured(1).section(' ', 0, 0).remove(',').left(6);
      QVERIFY2(chapter.contains(word, Qt::CaseInsensitive), qPrintable(match.captured(0)));
    }
    QVERIFY(entries > 80);
  }

  /// Only the chapters that hold what is searched for are listed; Enter goes from place to place.
  void theManualIsSearched()
  {
    Manual manual(manualFile(), nullptr);
    const QStringList all = manual.chapters();
    manual.QDialog::show();
    auto* search = manual.findChild<QLineEdit*>("manualSearch");
    QTest::keyClicks(search, "netlist");
    const QStringList found = manual.chapters();
    QVERIFY(found.contains("Take results along"));
    QVERIFY(found.size() < all.size() / 2);
    auto* text = manual.findChild<QTextBrowser*>("manualText");
    QVERIFY(!text->extraSelections().isEmpty());
    QVERIFY(text->toPlainText().contains("netlist", Qt::CaseInsensitive)); // the shown page is one that has it
    auto* list = manual.findChild<QListWidget*>("manualChapters");
    QSet<QString> seen; // from place to place, through every chapter that is listed, and round to the first
    for (int i = 0; i < 40; ++i) {
      QTest::keyClick(search, Qt::Key_Return);
      QCOMPARE(text->textCursor().selectedText().toLower(), QString("netlist"));
      seen << list->currentItem()->text();
    }
    QCOMPARE(seen, QSet<QString>(found.begin(), found.end()));
    search->clear();
    QCOMPARE(manual.chapters(), all);
    QTest::keyClicks(search, "no such words anywhere");
    QVERIFY(manual.chapters().isEmpty());
  }
};

int main(int argc, char** argv)
{
  prepareApplication();
  QApplication application(argc, argv);
  ManualTest test;
  return QTest::qExec(&test, argc, argv);
}

#include "tst_manual.moc"
