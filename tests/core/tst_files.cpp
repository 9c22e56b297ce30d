// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
//
// What lies on disk: JSON text and its lines, HDF5 arrays, results, figures, exports.
#include "TestProjects.h"
#include "io/AtomicFile.h"
#include "io/Export.h"
#include "io/FiguresFile.h"
#include "io/Hdf5.h"
#include "io/JsonText.h"

#include <QDir>
#include <QTest>
#include <cmath>
#include <functional>
#include <random>

using namespace kiln;
using namespace kiln::test;

namespace
{

/// A small solved model with a jump, a void, a boundary of each kind and names that need quoting.
const Project& smallProject()
{
  static const Project project = [] {
    Project p = projectWith(0.012);
    p.name = "files";
    p.materials = {material("metal", 30)};
    p.materials[0].emissivity = number(0.5);
    Part hollow = part("hollow", "metal", block(0.06, 0.06, 0.06));
    hollow.name = "Hollow, \"big\"";
    hollow.steps.push_back(cut("inside", block(0.02, 0.02, 0.02), {0, 0, 0.02}));
    p.parts = {hollow, part("cap", "metal", block(0.04, 0.04, 0.01), Vec3(0, 0, 0.06))};
    p.surfaces = {surface("under", {"hollow.bottom"}), surface("over", {"cap.top"})};
    p.sources = {source("heater", SurfacePower{"over", number(20)})};
    p.boundaries = {boundary("plate", FixedSurface{"under", number(310)}),
                    boundary("room", Radiation{"over", number(295), number(1)})};
    p.contacts = {contact("hollow", "cap", AreaConductance{number(400)})};
    p.watches = {watch("peak", PartFigure{PartFigure::Kind::Hottest, {"cap"}}),
                 watch("flow", ContactHeat{"cap", "hollow"})};
    p.watches[0].upper = number(400);
    p.watches[0].lower = number(300);
    return p;
  }();
  return project;
}

const CaseResult& smallResult()
{
  static const CaseResult result = solve(smallProject());
  return result;
}

} // namespace

class FilesTest : public QObject
{
  Q_OBJECT

private slots:
  void linesOfValuesAreKnown()
  {
    const LineMap lines = linesOf("{\n \"a\": 1,\n \"b\": [\n  {\"c\": \"x\"},\n  2\n ]\n}\n");
    QCOMPARE(lines.at("/a"), 2);
    QCOMPARE(lines.at("/b"), 3);
    QCOMPARE(lines.at("/b/0"), 4);
    QCOMPARE(lines.at("/b/0/c"), 4);
    QCOMPARE(lines.at("/b/1"), 5);
  }

  void prettyJsonKeepsShortThingsOnOneLineAndReadsBack()
  {
    const Json json =
        Json::parse(R"({"id":"a","n":{"si":1.5,"text":"1.5 m"},"list":[1,2,3],"deep":[{"id":"x","k":1}],"e":{}})");
    const std::string text = prettyJson(json);
    QVERIFY(text.find("\"n\": {\"si\":1.5,\"text\":\"1.5 m\"}") != std::string::npos);
    QVERIFY(text.find("\"list\": [1,2,3]") != std::string::npos);
    QVERIFY(text.find("    {\n      \"id\": \"x\"") != std::string::npos); // an object with an id gets lines of its own
    QVERIFY(Json::parse(text) == json);
  }

  void randomJsonSurvivesPrinting()
  {
    std::mt19937 random(11);
    const std::function<Json(int)> make = [&](int depth) -> Json {
      switch (random() % (depth > 4 ? 4 : 6)) {
      case 0:
        return static_cast<int>(random()) % 1000;
      case 1:
        return static_cast<double>(random()) / 7.0;
      case 2:
        return "text \"" + std::to_string(random() % 100) + "\" °\n";
      case 3:
        return nullptr;
      case 4: {
        Json list = Json::array();
        for (unsigned i = random() % 5; i > 0; --i)
          list.push_back(make(depth + 1));
        return list;
      }
      default: {
        Json object = Json::object();
        for (unsigned i = random() % 5; i > 0; --i)
          object["key" + std::to_string(random() % 50)] = make(depth + 1);
        return object;
      }
      }
    };
    for (int i = 0; i < 300; ++i) {
      const Json json = make(0);
      QVERIFY(Json::parse(prettyJson(json)) == json);
      QVERIFY(!linesOf(prettyJson(json)).empty());
    }
  }

  void arraysComeBackFromTheFile()
  {
    const QTemporaryDir folder;
    const std::string file = folder.filePath("a.h5").toStdString();
    const std::vector<double> values{1.5, -2, 1e300, 0, 5, 6};
    const std::vector<std::int32_t> numbers{3, 1, 2};
    {
      Hdf5Writer writer;
      writer.write("/deep/er/values", values, 3);
      writer.write("/numbers", numbers);
      writer.write("/empty", std::vector<double>{});
      writer.writeText("/words", "Grüße °C");
      QVERIFY(writeAtomically(file, writer.finish()));
    }
    auto reader = Hdf5Reader::open(file);
    QVERIFY(reader);
    QVERIFY(reader->doubles("/deep/er/values") == values);
    QVERIFY(reader->integers("/numbers") == numbers);
    QVERIFY(reader->doubles("/empty").empty());
    QCOMPARE(reader->text("/words"), std::string("Grüße °C"));
    QVERIFY(!reader->failed());
    QVERIFY(reader->doubles("/absent").empty());
    QVERIFY(reader->failed());
  }

  void longArraysComeBackFromTheFile_data()
  {
    QTest::addColumn<int>("rows");
    QTest::addColumn<int>("columns");
    for (const int rows : {1, 32767, 32768, 32769, 100'000}) // a chunk has 32768
      for (const int columns : {1, 3, 4})
        QTest::addRow("%d x %d", rows, columns) << rows << columns;
  }
  /// Packed side by side, and read by the library's own filters.
  void longArraysComeBackFromTheFile()
  {
    QFETCH(int, rows);
    QFETCH(int, columns);
    const auto count = static_cast<std::size_t>(rows * columns);
    std::vector<double> values(count);
    std::vector<std::int32_t> numbers(count);
    std::vector<float> halves(static_cast<std::size_t>(rows));
    std::vector<std::uint8_t> bytes(static_cast<std::size_t>(rows));
    for (std::size_t i = 0; i < count; ++i) {
      values[i] = std::sin(0.1 * static_cast<double>(i));
      numbers[i] = static_cast<std::int32_t>(i * i % 7919) - 4000;
    }
    for (std::size_t i = 0; i < halves.size(); ++i) {
      halves[i] = static_cast<float>(i) / 3;
      bytes[i] = static_cast<std::uint8_t>(i * 31);
    }
    const QTemporaryDir folder;
    const std::string file = folder.filePath("long.h5").toStdString();
    {
      Hdf5Writer writer;
      writer.write("/values", values, static_cast<std::size_t>(columns));
      writer.write("/numbers", numbers, static_cast<std::size_t>(columns));
      writer.write("/halves", halves);
      writer.write("/bytes", bytes);
      QVERIFY(writeAtomically(file, writer.finish()));
    }
    auto reader = Hdf5Reader::open(file);
    QVERIFY(reader);
    QVERIFY(reader->doubles("/values") == values);
    QVERIFY(reader->integers("/numbers") == numbers);
    QVERIFY(reader->floats("/halves") == halves);
    QVERIFY(reader->bytes("/bytes") == bytes);
    QVERIFY(!reader->failed());
  }

  void aResultComesBackWhole()
  {
    const QTemporaryDir folder;
    const std::string file = folder.filePath("r.h5").toStdString();
    const CaseResult& before = smallResult();
    QVERIFY(saveResult(before, file));
    const auto after = loadResult(file);
    QVERIFY(after);
    QVERIFY(after->temperature == before.temperature && after->faceHeat == before.faceHeat &&
            after->contactHeat == before.contactHeat);
    QVERIFY(after->mesh.tets == before.mesh.tets && after->mesh.nodes == before.mesh.nodes &&
            after->mesh.triangleTets == before.mesh.triangleTets);
    QVERIFY(after->unknowns.ofTet == before.unknowns.ofTet && after->jump == before.jump);
    QVERIFY(after->flux == before.flux);
    QCOMPARE(after->mesh.voids.size(), std::size_t{1});
    QCOMPARE(after->mesh.geometry.faces.size(), before.mesh.geometry.faces.size());
    QVERIFY(after->mesh.geometry.faces[3].names == before.mesh.geometry.faces[3].names);
    QCOMPARE(after->solutionHash, before.solutionHash);
    QCOMPARE(after->info.solver, before.info.solver);
    QVERIFY(std::abs(after->imbalance - before.imbalance) < 1e-18);
    QCOMPARE(figuresText(smallProject(), *after), figuresText(smallProject(), before));
  }

  void aCutOrSpoiltResultIsRefusedNotRead()
  {
    const QTemporaryDir folder;
    const std::string file = folder.filePath("r.h5").toStdString();
    QVERIFY(saveResult(smallResult(), file));
    const std::string whole = *readWhole(file);
    for (const double share : {0.0, 0.1, 0.5, 0.9, 0.999}) {
      QVERIFY(
          writeAtomically(file, whole.substr(0, static_cast<std::size_t>(share * static_cast<double>(whole.size())))));
      const auto cut = loadResult(file);
      QVERIFY(!cut);
      QCOMPARE(cut.error().kind, Failure::Kind::Unreadable);
      QVERIFY(!cut.error().remedy.empty());
    }
    // Bytes changed anywhere: refused before the library sees them.
    std::mt19937 random(5);
    for (int i = 0; i < 60; ++i) {
      std::string spoilt = whole;
      for (int k = 0; k < 20; ++k)
        spoilt[random() % spoilt.size()] = static_cast<char>(random());
      QVERIFY(writeAtomically(file, spoilt));
      QVERIFY(spoilt == whole || !loadResult(file));
    }
    QVERIFY(!loadResult(folder.filePath("absent.h5").toStdString()));
  }

  void figuresHoldWhatAScriptNeeds()
  {
    const Json json = Json::parse(figuresText(smallProject(), smallResult()));
    QCOMPARE(json["case"].get<std::string>(), std::string("Steady"));
    QCOMPARE(json["parts"].size(), std::size_t{2});
    QVERIFY(json["parts"][0]["hottest"]["value"] >= json["parts"][0]["mean"]);
    QVERIFY(json["parts"][0]["mean"] >= json["parts"][0]["coldest"]["value"]);
    QCOMPARE(json["parts"][0]["hottest"]["place"].size(), std::size_t{3});
    const Json& peak = json["watches"][0];
    const double value = peak["value"];
    QVERIFY(std::abs(peak["margin"].get<double>() - std::min(400 - value, value - 300)) < 1e-9);
    QCOMPARE(peak["unit"].get<std::string>(), std::string("K"));
    QCOMPARE(json["watches"][1]["unit"].get<std::string>(), std::string("W"));
    QVERIFY(json["watches"][1]["upper"].is_null());
    QCOMPARE(json["ledger"]["contacts"].size(), std::size_t{1});
    QVERIFY(json["ledger"]["contacts"][0]["set"].get<bool>());
    QCOMPARE(json["mesh"]["voids"].size(), std::size_t{1});
    QVERIFY(std::abs(json["mesh"]["voids"][0]["volume"].get<double>() - 8e-6) < 1e-12);
    for (const char* stage : {"geometry", "mesh", "solve", "figures"})
      QVERIFY(json["seconds"].contains(stage));
    // What leaves: the plate and the room; what enters: the heater.
    const double plate = json["ledger"]["boundaries"][0]["watts"];
    const double room = json["ledger"]["boundaries"][1]["watts"];
    QVERIFY(plate < 0 && room < 0 && std::abs(plate + room + 20) < 1e-5);
  }

  void commaSeparatedTextQuotesNames()
  {
    QCOMPARE(csvField("plain"), std::string("plain"));
    QCOMPARE(csvField("a,b"), std::string("\"a,b\""));
    QCOMPARE(csvField("say \"x\""), std::string("\"say \"\"x\"\"\""));
    const QString csv = QString::fromStdString(figuresCsv(smallProject(), smallResult()));
    QVERIFY(csv.contains("\"Hollow, \"\"big\"\"\","));
    QVERIFY(csv.contains("contact,hollow | cap,"));
    QVERIFY(csv.contains(
        "watch,value,unit,lower limit,upper limit,margin,reference,tolerance,agrees,reference from\npeak,"));
    QVERIFY(csv.contains(",°C,26.85,126.85,")); // limits 300 K and 400 K
  }

  void writingKeepsModeAndFollowsLinksWhereAsked()
  {
    const QTemporaryDir folder;
    const QString file = folder.filePath("real.txt");
    QVERIFY(writeAtomically(file.toStdString(), "one"));
    QVERIFY(QFile::setPermissions(file, QFile::ReadOwner | QFile::WriteOwner));
    QVERIFY(QFile::link(file, folder.filePath("link.txt")));
    const std::string link = folder.filePath("link.txt").toStdString();
    QVERIFY(writeAtomically(link, "two", Links::Follow));
    QCOMPARE(*readWhole(file.toStdString()), std::string("two"));
    QVERIFY(QFileInfo(folder.filePath("link.txt")).isSymLink());
    QVERIFY(!(QFile::permissions(file) & QFile::ReadOther));
    QVERIFY(writeAtomically(link, "three")); // else the link is replaced, and what it pointed to left alone
    QCOMPARE(*readWhole(link), std::string("three"));
    QVERIFY(!QFileInfo(folder.filePath("link.txt")).isSymLink());
    QCOMPARE(*readWhole(file.toStdString()), std::string("two"));
  }

  void unwritablePlacesAreNamed()
  {
    const auto written = writeAtomically("/nowhere/at/all.txt", "x");
    QVERIFY(!written && written.error().kind == Failure::Kind::Unwritable);
    QVERIFY(written.error().sentence().find("/nowhere/at/all.txt") != std::string::npos);
    QVERIFY(!readWhole("/nowhere/at/all.txt"));
    QVERIFY(!readWhole("/tmp")); // a folder
  }
};

QTEST_APPLESS_MAIN(FilesTest)
#include "tst_files.moc"
