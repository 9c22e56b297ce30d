// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include <QDirIterator>
#include <QRegularExpression>
#include <QTest>

/// The flow of the core is one way: a folder includes only folders before it, and never Qt.
class IncludesTest : public QObject
{
  Q_OBJECT

private slots:
  void foldersIncludeOnlyWhatComesBeforeThem()
  {
    const QStringList flow{"base", "units", "model", "geometry", "mesh", "heat", "solve", "results", "io"};
    static const QRegularExpression include("^#include \"([a-z]+)/");
    QDirIterator files(QString(KILN_SOURCE_DIR) + "/core", {"*.h", "*.cpp"}, QDir::Files, QDirIterator::Subdirectories);
    int checked = 0;
    while (files.hasNext()) {
      QFile file(files.next());
      const auto own = flow.indexOf(QFileInfo(file).dir().dirName());
      QVERIFY2(own >= 0, qPrintable(file.fileName()));
      QVERIFY(file.open(QIODevice::ReadOnly));
      for (const QString& line : QString::fromUtf8(file.readAll()).split('\n')) {
        const bool qt = line.startsWith("#include <Q") && !line.contains(".hxx"); // the kernel has a Quantity, too
        QVERIFY2(!qt, qPrintable(file.fileName() + ": " + line));
        if (const auto match = include.match(line); match.hasMatch()) {
          const auto other = flow.indexOf(match.captured(1));
          QVERIFY2(other >= 0 && other <= own, qPrintable(file.fileName() + ": " + line));
          ++checked;
        }
      }
    }
    QVERIFY(checked > 50);
  }
};

QTEST_APPLESS_MAIN(IncludesTest)
#include "tst_includes.moc"
