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
    const QStringList core{"base",  "units",   "model", "geometry", "mesh",      "heat",  "readiness",
                           "solve", "results", "io",    "run",      "questions", "report"};
    QTest::newRow("core") << "core" << core << QStringList{};
    QTest::newRow("heat") << "core/heat" << QStringList{"elements", "watches", "boundaries", "radiation", "network"}
                          << QStringList{"base", "units", "model", "geometry", "mesh"};
    QTest::newRow("cli") << "cli" << QStringList{"cli"} << core;
    QTest::newRow("app") << "app" << QStringList{"look",    "document", "fields", "scene",  "ledger", "pages",
                                                 "watches", "cases",    "strip",  "report", "window"}
                         << core;
  }
  void foldersIncludeOnlyWhatComesBeforeThem()
  {
    QFETCH(QString, house);
    QFETCH(QStringList, rooms);
    QFETCH(QStringList, beneath);
    const QString inner = house.section('/', 1); // a room with rooms of its own
    const QRegularExpression include("^#include \"" + (inner.isEmpty() ? "" : "(?:" + inner + "/)?") + "([a-z]+)/");
    const QDir top(QString(KILN_SOURCE_DIR) + "/" + house);
    QDirIterator files(top.path(), {"*.h", "*.cpp"}, QDir::Files, QDirIterator::Subdirectories);
    int checked = 0;
    while (files.hasNext()) {
      QFile file(files.next());
      const QString within = top.relativeFilePath(file.fileName());
      // Where a house begins, it sees all.
      const auto own = within.contains('/') ? rooms.indexOf(within.section('/', 0, 0)) : rooms.size();
      QVERIFY2(own >= 0, qPrintable(file.fileName()));
      QVERIFY(file.open(QIODevice::ReadOnly));
      for (const QString& line : QString::fromUtf8(file.readAll()).split('\n')) {
        const bool qt = line.startsWith("#include <Q") && !line.contains(".hxx"); // the kernel has a Quantity, too
        QVERIFY2(!qt || house == "app", qPrintable(file.fileName() + ": " + line));
        if (const auto match = include.match(line); match.hasMatch()) {
          const auto other = match.captured(1) == inner ? rooms.size() : rooms.indexOf(match.captured(1));
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
    for (const char* house : {"core", "core/heat", "app"})
      QTest::newRow(house) << house;
  }
  void everyRoomSaysWhatItIsFor()
  {
    QFETCH(QString, house);
    const QDir top(QString(KILN_SOURCE_DIR) + "/" + house);
    const QStringList rooms = top.entryList(QDir::Dirs | QDir::NoDotAndDotDot);
    QVERIFY(rooms.size() > 3);
    for (const QString& room : rooms) {
      QFile words(top.filePath(room + "/README.md"));
      QVERIFY2(words.open(QIODevice::ReadOnly) && words.readAll().contains("May include:"), qPrintable(room));
    }
  }
};

QTEST_APPLESS_MAIN(IncludesTest)
#include "tst_includes.moc"
