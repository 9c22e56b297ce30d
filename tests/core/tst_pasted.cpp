// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
//
// Parameters as a table that a spreadsheet copied.
#include "TestProjects.h"
#include "io/ParameterTable.h"
#include "model/Parameters.h"

#include <QTest>
#include <cmath>

using namespace kiln;
using namespace kiln::test;

namespace
{

Project withWall()
{
  Project p = projectWith(0.01);
  Parameter wall;
  wall.quantity = Quantity::Length;
  wall.value = number(0.05);
  wall.comment = "of fibre";
  wall.id = wall.name = "wall";
  p.parameters = {wall};
  return p;
}

const Parameter& named(const Project& project, const std::string& name)
{
  for (const Parameter& parameter : project.parameters)
    if (parameter.name == name)
      return parameter;
  throw std::runtime_error("no parameter " + name);
}

} // namespace

class PastedTest : public QObject
{
  Q_OBJECT

private slots:
  void namesAndValues_data()
  {
    QTest::addColumn<QString>("text");
    QTest::newRow("tabs") << "load\t1.5 kW\nlid\t25 mm\nloss\t8 W/(m²·K)\nshare\t0.5\n";
    QTest::newRow("a head, decimal commas")
        << "Name\tValue\r\nload\t1,5 kW\r\nlid\t25 mm\r\nloss\t8 W/(m²·K)\r\nshare\t0,5\r\n";
    QTest::newRow("units in a column") << "load\t1.5\tkW\nlid\t25\tmm\nloss\t8\tW/(m²·K)\nshare\t0.5\n";
    QTest::newRow("semicolons, empty lines") << "load;1,5 kW\n\nlid;25 mm\n\nloss;8 W/(m²·K)\nshare;0,5";
    QTest::newRow("commas") << "load,1.5 kW\nlid,25 mm\nloss,8 W/(m²·K)\nshare,0.5\n";
  }
  void namesAndValues()
  {
    QFETCH(QString, text);
    Project p = withWall();
    const auto ids = takeParameters(p, text.toStdString());
    QVERIFY2(ids, ids ? "" : ids.error().sentence().c_str());
    QCOMPARE(ids->size(), 4U);
    QCOMPARE(p.parameters.size(), 5U);
    QVERIFY(named(p, "load").quantity == Quantity::Power && named(p, "lid").quantity == Quantity::Length);
    QVERIFY(named(p, "share").quantity == Quantity::Plain);
    QCOMPARE(named(p, "load").value.si, 1500.0);
    QVERIFY(std::abs(named(p, "lid").value.si - 0.025) < 1e-15);
    QCOMPARE(named(p, "loss").value.si, 8.0);
    QCOMPARE(named(p, "share").value.si, 0.5);
    QCOMPARE(named(p, "wall").value.si, 0.05);
  }

  /// A known name gets the value, in the kind it has; formulas know what came before them.
  void knownNamesNotesAndFormulas()
  {
    Project p = withWall();
    QVERIFY(takeParameters(p, "wall\t60 mm\nair\t35\t°C\tin summer\ntwice\t2*wall\t\tboth sides\n"));
    QCOMPARE(p.parameters.size(), 3U);
    QVERIFY(std::abs(named(p, "wall").value.si - 0.06) < 1e-15);
    QVERIFY(named(p, "wall").comment == "of fibre"); // none was given
    QCOMPARE(named(p, "air").value.si, 308.15);
    QVERIFY(named(p, "air").comment == "in summer");
    QVERIFY(named(p, "twice").value.formula);
    (void)applyParameters(p);
    QVERIFY(std::abs(named(p, "twice").value.si - 0.12) < 1e-12);
  }

  /// What is wrong is told by its line, and nothing is taken.
  void badTables_data()
  {
    QTest::addColumn<QString>("text");
    QTest::addColumn<QString>("says");
    QTest::newRow("nothing") << ""
                             << "holds no table";
    QTest::newRow("one column") << "load\t1.5 kW\nlid\n"
                                << "line 2";
    QTest::newRow("another kind") << "load\t1.5 kW\nwall\t3 kg\n"
                                  << "line 2";
    QTest::newRow("no value") << "load\t1.5 kW\nlid\twide\nloss\t8\n"
                              << "line 2";
    QTest::newRow("no name") << "load\t1.5 kW\n5\t8\n"
                             << "line 2";
    QTest::newRow("a constant's name") << "load\t1.5 kW\nsigma\t8\n"
                                       << "line 2";
  }
  void badTables()
  {
    QFETCH(QString, text);
    QFETCH(QString, says);
    Project p = withWall();
    const Project before = p;
    const auto ids = takeParameters(p, text.toStdString());
    QVERIFY(!ids);
    const QString sentence = QString::fromStdString(ids.error().sentence());
    QVERIFY2(sentence.contains(says), qPrintable(sentence));
    QVERIFY(!ids.error().remedy.empty());
    QVERIFY(p == before);
  }
};

QTEST_APPLESS_MAIN(PastedTest)
#include "tst_pasted.moc"
