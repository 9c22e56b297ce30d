// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
//
// Materials as tables, out and in again.
#include "TestProjects.h"
#include "io/Library.h"
#include "io/MaterialTable.h"
#include "model/Fields.h"

#include <QTest>
#include <algorithm>
#include <cmath>

using namespace kiln;
using namespace kiln::test;

class MaterialsTest : public QObject
{
  Q_OBJECT

private slots:
  /// The whole library, with its tables and sources, comes back from a table.
  void theLibraryAsATable()
  {
    const std::vector<Material>& all = builtInLibrary().materials;
    const std::string csv = materialsCsv(all);
    const auto back = readMaterials(csv, "library.csv");
    QVERIFY2(back, back ? "" : back.error().sentence().c_str());
    QCOMPARE(back->size(), all.size());
    const auto near = [](double a, double b) { return std::abs(a - b) <= 1e-12 * std::abs(b); };
    for (std::size_t i = 0; i < all.size(); ++i) {
      Project there, here;
      there.materials = {all[i]};
      here.materials = {(*back)[i]};
      here.materials[0].id = all[i].id;
      const std::vector<Field> a = settingsOf(there, all[i].id);
      const std::vector<Field> b = settingsOf(here, all[i].id);
      QCOMPARE(a.size(), b.size());
      for (std::size_t f = 0; f < a.size(); ++f) { // every field there is
        if (a[f].kind == Field::Kind::Text)
          QCOMPARE(*a[f].text, *b[f].text);
        if (a[f].kind != Field::Kind::Number)
          continue;
        QCOMPARE(a[f].value() == nullptr, b[f].value() == nullptr);
        if (a[f].value() != nullptr)
          QVERIFY2(near(a[f].value()->si, b[f].value()->si), a[f].path.c_str());
        QCOMPARE(a[f].table() == nullptr, b[f].table() == nullptr);
        for (std::size_t p = 0; a[f].table() != nullptr && p < a[f].table()->size(); ++p) {
          QVERIFY(near((*a[f].table())[p].at.si, (*b[f].table())[p].at.si));
          QVERIFY(near((*a[f].table())[p].value.si, (*b[f].table())[p].value.si));
        }
      }
    }
    QVERIFY(std::all_of(all.begin(), all.end(), [](const Material& one) { return !one.source.empty(); }));
  }

  void aTableOfASpreadsheet()
  {
    const auto back = readMaterials("name;conductivity [W/(m·K)];density [kg/m³];source\r\n"
                                    "\"Brick; light\";0,35;800;\"as \"\"measured\"\"\"\r\n"
                                    "Fibre;20: 0,1 | 500: 0,25;;\r\n",
                                    "t.csv");
    QVERIFY2(back, back ? "" : back.error().sentence().c_str());
    QCOMPARE((*back)[0].name, std::string("Brick; light"));
    QCOMPARE((*back)[0].conductivity.si, 0.35);
    QCOMPARE((*back)[0].source, std::string("as \"measured\""));
    QCOMPARE((*back)[1].conductivity.table.size(), 2U);
    QCOMPARE((*back)[1].conductivity.table[1].value.si, 0.25);
    QVERIFY(std::abs((*back)[1].conductivity.table[1].at.si - 773.15) < 1e-9);
    QVERIFY(!(*back)[1].density);
    Project p;
    QCOMPARE(takeMaterials(p, *back).size(), 2U);
    QCOMPARE(takeMaterials(p, *back)[0], p.materials[0].id); // they are there already
    QCOMPARE(p.materials.size(), 2U);
  }

  void tablesOfMaterialsThatAreNone_data()
  {
    QTest::addColumn<QString>("text");
    QTest::addColumn<QString>("said");
    QTest::newRow("nothing") << ""
                             << "line 1";
    QTest::newRow("no names") << "density [kg/m³]\n1\n"
                              << "name";
    QTest::newRow("no field") << "name,colour\na,red\n"
                              << "colour";
    QTest::newRow("no number") << "name,density [kg/m³]\na,heavy\n"
                               << "density";
    QTest::newRow("of another kind") << "name,density [K]\na,20\n"
                                     << "density";
    QTest::newRow("below zero") << "name,conductivity [W/(m·K)]\na,2\nb,-3\n"
                                << "line 3";
    QTest::newRow("no name") << "name,density [kg/m³]\n,20\n"
                             << "line 2";
    QTest::newRow("no rows") << "name\n\n"
                             << "no materials";
  }
  void tablesOfMaterialsThatAreNone()
  {
    QFETCH(QString, text);
    QFETCH(QString, said);
    const auto back = readMaterials(text.toStdString(), "t.csv");
    QVERIFY(!back);
    QVERIFY2(back.error().sentence().find(said.toStdString()) != std::string::npos, back.error().sentence().c_str());
  }

  /// By the ending of the file: a table, or a project file with nothing else.
  void filesOfEitherKind_data()
  {
    QTest::addColumn<QString>("name");
    for (const char* name : {"m.csv", "m.json", "m.kiln"})
      QTest::newRow(name) << name;
  }
  void filesOfEitherKind()
  {
    QFETCH(QString, name);
    QTemporaryDir folder;
    const std::filesystem::path file = folder.filePath(name).toStdString();
    std::vector<Material> own{material("brick", 0.5), material("fibre", 0.1)};
    own[0].source = "measured, with “quotes”, commas\nand two lines";
    QVERIFY(saveMaterials(own, file));
    const auto back = loadMaterials(file);
    QVERIFY2(back, back ? "" : back.error().sentence().c_str());
    QCOMPARE(back->size(), own.size());
    QCOMPARE((*back)[0].source, own[0].source);
    QCOMPARE((*back)[1].conductivity.si, own[1].conductivity.si);
    QVERIFY(!loadMaterials(file.parent_path() / ("none" + file.extension().string())));
    QVERIFY(!saveMaterials(own, file.parent_path() / "no" / file.filename()));
  }
};

QTEST_APPLESS_MAIN(MaterialsTest)
#include "tst_materials.moc"
