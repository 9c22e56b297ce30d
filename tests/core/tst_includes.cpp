// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include <QDirIterator>
#include <QRegularExpression>
#include <QTest>

/// What depends on what goes one way: a folder includes only folders before it, and the core never Qt.
class IncludesTest : public QObject
{
  Q_OBJECT

private slots:
  void foldersIncludeOnlyWhatComesBeforeThem_data()
  {
    QTest::addColumn<QString>("house");
    QTest::addColumn<QStringList>("rooms");
    QTest::addColumn<QStringList>("beneath");
    const QStringList core{"base",      "units", "model",   "geometry", "mesh", "heat",
                           "readiness", "solve", "results", "io",       "run"};
    QTest::newRow("core") << "core" << core << QStringList{};
    QTest::newRow("cli") << "cli" << QStringList{"cli"} << core;
    QTest::newRow("app") << "app" << QStringList{"look",  "document", "fields", "scene", "ledger",
                                                 "pages", "watches",  "cases",  "strip", "window"}
                         << core;
  }
  void foldersIncludeOnlyWhatComesBeforeThem()
  {
    QFETCH(QString, house);
    QFETCH(QStringList, rooms);
    QFETCH(QStringList, beneath);
    static const QRegularExpression include("^#include \"([a-z]+)/");
    QDirIterator files(QString(KILN_SOURCE_DIR) + "/" + house, {"*.h", "*.cpp"}, QDir::Files,
                       QDirIterator::Subdirectories);
    int checked = 0;
    while (files.hasNext()) {
      QFile file(files.next());
      const QString room = QFileInfo(file).dir().dirName();
      const auto own = room == house ? rooms.size() : rooms.indexOf(room); // where a house begins, it sees all
      QVERIFY2(own >= 0, qPrintable(file.fileName()));
      QVERIFY(file.open(QIODevice::ReadOnly));
      for (const QString& line : QString::fromUtf8(file.readAll()).split('\n')) {
        const bool qt = line.startsWith("#include <Q") && !line.contains(".hxx"); // the kernel has a Quantity, too
        QVERIFY2(!qt || house == "app", qPrintable(file.fileName() + ": " + line));
        if (const auto match = include.match(line); match.hasMatch()) {
          const auto other = rooms.indexOf(match.captured(1));
          QVERIFY2((other >= 0 && other <= own) || beneath.contains(match.captured(1)),
                   qPrintable(file.fileName() + ": " + line));
          ++checked;
        }
      }
    }
    QVERIFY(checked > 20);
  }

  void everyRoomSaysWhatItIsFor_data()
  {
    QTest::addColumn<QString>("house");
    for (const char* house : {"core", "app"})
      QTest::newRow(house) << house;
  }
  void everyRoomSaysWhatItIsFor()
  {
    QFETCH(QString, house);
    const QDir top(QString(KILN_SOURCE_DIR) + "/" + house);
    const QStringList rooms = top.entryList(QDir::Dirs | QDir::NoDotAndDotDot);
    QVERIFY(rooms.size() > 8);
    for (const QString& room : rooms) {
      QFile words(top.filePath(room + "/README.md"));
      QVERIFY2(words.open(QIODevice::ReadOnly) && words.readAll().contains("May include:"), qPrintable(room));
    }
  }
};

QTEST_APPLESS_MAIN(IncludesTest)
#include "tst_includes.moc"
