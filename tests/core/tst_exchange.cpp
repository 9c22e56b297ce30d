// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
//
// What is written for other programs, read again as they would read it.
#include "NetworkProjects.h"
#include "TestProjects.h"
#include "base/PackedText.h"
#include "geometry/GeometryImport.h"
#include "io/ExportTables.h"
#include "io/NetworkFile.h"
#include "io/PackedProject.h"
#include "io/ProjectFile.h"
#include "io/ProjectPicture.h"

#include <Eigen/Dense>
#include <QFile>
#include <QTemporaryDir>
#include <QTest>
#include <cmath>
#include <fstream>
#include <map>
#include <nlohmann/json.hpp>
#include <sstream>

using namespace kiln;
using namespace kiln::test;

namespace
{

/// A netlist solved as a circuit simulator finds its operating point: nodal analysis with the sources of voltage as
/// unknowns of their own. Knows R, I, V, G, and takes a C as open.
class Circuit
{
public:
  explicit Circuit(const std::string& netlist)
  {
    std::istringstream lines(netlist);
    std::string line;
    std::getline(lines, line); // a netlist's first line is its title, whatever it says
    while (std::getline(lines, line)) {
      if (line.empty() || line[0] == '*' || line[0] == '.' || line[0] == '+')
        continue;
      std::istringstream words(line);
      std::vector<std::string> own;
      for (std::string word; words >> word;)
        own.push_back(word);
      elements_.push_back(own);
      const std::size_t ends = own[0][0] == 'G' ? 4 : 2;
      for (std::size_t i = 1; i <= ends; ++i)
        if (own[i] != "0")
          nodes_.emplace(own[i], nodes_.size());
    }
  }

  /// Volts by node.
  [[nodiscard]] std::map<std::string, double> operatingPoint() const
  {
    const auto n = static_cast<Eigen::Index>(nodes_.size());
    const auto sources =
        std::count_if(elements_.begin(), elements_.end(), [](const auto& e) { return e[0][0] == 'V'; });
    Eigen::MatrixXd a = Eigen::MatrixXd::Zero(n + sources, n + sources);
    Eigen::VectorXd b = Eigen::VectorXd::Zero(n + sources);
    Eigen::Index source = n;
    const auto at = [&](const std::string& name) {
      return name == "0" ? Eigen::Index(-1) : static_cast<Eigen::Index>(nodes_.at(name));
    };
    const auto add = [&](Eigen::Index row, Eigen::Index column, double value) {
      if (row >= 0 && column >= 0)
        a(row, column) += value;
    };
    for (const auto& e : elements_) {
      const Eigen::Index p = at(e[1]);
      const Eigen::Index m = at(e[2]);
      const double value = e[0][0] == 'C' ? 0 : std::stod(e.back()); // its end is its initial condition
      switch (e[0][0]) {
      case 'R':
        add(p, p, 1 / value), add(m, m, 1 / value), add(p, m, -1 / value), add(m, p, -1 / value);
        break;
      case 'I': // through the source from the first to the second
        if (p >= 0)
          b[p] -= value;
        if (m >= 0)
          b[m] += value;
        break;
      case 'G': {
        const Eigen::Index cp = at(e[3]);
        const Eigen::Index cm = at(e[4]);
        add(p, cp, value), add(p, cm, -value), add(m, cp, -value), add(m, cm, value);
        break;
      }
      case 'V':
        add(p, source, 1), add(m, source, -1), add(source, p, 1), add(source, m, -1);
        b[source++] = value;
        break;
      default:
        break;
      }
    }
    const Eigen::VectorXd x = a.fullPivLu().solve(b);
    std::map<std::string, double> volts;
    for (const auto& [name, index] : nodes_)
      volts[name] = x[static_cast<Eigen::Index>(index)];
    return volts;
  }

  [[nodiscard]] double valueOf(char kind) const
  {
    for (const auto& e : elements_)
      if (e[0][0] == kind)
        return std::stod(e[3]);
    return std::nan("");
  }

private:
  std::vector<std::vector<std::string>> elements_;
  std::map<std::string, std::size_t> nodes_;
};

std::vector<std::vector<std::string>> rowsOf(const std::string& csv)
{
  std::vector<std::vector<std::string>> rows;
  std::istringstream lines(csv);
  for (std::string line; std::getline(lines, line);) {
    auto& cells = rows.emplace_back();
    std::string cell;
    bool quoted = false;
    for (const char c : line)
      if (c == '"')
        quoted = !quoted;
      else if (c == ',' && !quoted)
        cells.push_back(std::exchange(cell, {}));
      else
        cell += c;
    cells.push_back(cell);
  }
  return rows;
}

/// A bar of two blocks along x with a resistance between: heat enters at the left, leaves at the right.
Project bar()
{
  Project p = projectWith(0.01);
  p.materials = {material("metal", 20)};
  p.materials[0].density = number(8000);
  p.materials[0].specificHeat = Property{500, ""};
  p.parts = {part("hot", "metal", block(0.05, 0.02, 0.02)),
             part("cold", "metal", block(0.05, 0.02, 0.02), {0.05, 0, 0})};
  p.parts[0].name = "Hot, “left” half";
  p.surfaces = {surface("left", {"hot.left"}), surface("right", {"cold.right"})};
  p.sources = {source("heat", SurfacePower{"left", Property{8, ""}})};
  p.boundaries = {boundary("air", Convection{"right", Property{100, ""}, Property{300, ""}, {}, {}})};
  p.contacts = {contact("hot", "cold", AreaConductance{number(1000)})};
  return p;
}

} // namespace

class ExchangeTest : public QObject
{
  Q_OBJECT

private slots:
  /// Its operating point is what was solved: parts by their mean temperatures.
  void aNetlistHasTheSolvedTemperatures()
  {
    const Project p = bar();
    const CaseResult result = solve(p);
    const ThermalNetwork network = thermalNetwork(p, result);
    QCOMPARE(network.nodes.size(), 3U); // and the air
    const std::string netlist = networkNetlist(network, p, result);
    const auto volts = Circuit(netlist).operatingPoint();
    // By hand: right face 300 + 8/(100 A); half a block's mean is 0.025 m of metal further, and so on.
    constexpr double area = 4e-4;
    const double cold = 300 + 8 / (100 * area) + 8 * 0.025 / (20 * area);
    const double hot = cold + 8 * 0.025 / (20 * area) + 8 / (1000 * area) + 8 * 0.025 / (20 * area);
    QVERIFY(std::abs(volts.at("cold") - cold) < 1e-5 * cold);
    QVERIFY(std::abs(volts.at("hot") - hot) < 1e-5 * hot);
    QVERIFY(std::abs(Circuit(netlist).valueOf('C') - 8000 * 500 * 0.05 * area) < 1e-6);
    QVERIFY(netlist.find("IC=") != std::string::npos);
    QVERIFY(netlist.ends_with(".END\n"));
  }

  /// Links of every kind between lumped nodes; the radiating one as it was solved.
  void lumpedNodesAsTheyAre()
  {
    Project p = projectWith(0.01);
    p.nodes = {node("chip", {}, 10), node("case"), node("air", 300), node("inlet", 290), node("water")};
    p.nodes[0].storage = CapacityStore{number(12)};
    p.links = {link("paste", Conductor{"chip", "case", number(2)}), link("film", Conductor{"case", "air", number(0.5)}),
               link("rays", RadiationLink{"case", "air", number(0.03)}),
               link("to water", Conductor{"case", "water", number(1)}),
               link("stream", FlowLink{"inlet", "water", number(0.001), number(4180)})};
    const CaseResult result = solve(p);
    const ThermalNetwork network = thermalNetwork(p, result);
    const auto volts = Circuit(networkNetlist(network, p, result)).operatingPoint();
    for (const NodeState& state : result.nodes)
      QVERIFY2(std::abs(volts.at(state.id) - state.temperature) < 1e-6, state.id.c_str());
    QVERIFY(std::abs(Circuit(networkNetlist(network, p, result)).valueOf('C') - 12) < 1e-12);
    const auto rest = std::count_if(network.branches.begin(), network.branches.end(), [](const NetworkBranch& one) {
      return one.id.starts_with("rest:") && std::abs(one.watts) > 1e-6;
    });
    QCOMPARE(rest, 0); // its links say all
  }

  void anEnclosureIsPartOfIt()
  {
    Project p = projectWith(0.008);
    p.materials = {material("metal", 50)};
    p.materials[0].emissivity = number(0.8);
    p.parts = {part("lower", "metal", block(0.04, 0.04, 0.004)),
               part("upper", "metal", block(0.04, 0.04, 0.004), {0, 0, 0.014})};
    p.surfaces = {surface("a", {"lower.top"}), surface("b", {"upper.bottom"}), surface("below", {"lower.bottom"}),
                  surface("above", {"upper.top"})};
    p.sources = {source("heat", SurfacePower{"below", Property{1, ""}})};
    p.boundaries = {boundary("air", Convection{"above", Property{20, ""}, Property{300, ""}, {}, {}})};
    Enclosure gap;
    gap.id = gap.name = "gap";
    gap.surfaces = {"a", "b"};
    gap.opening = number(310);
    p.enclosures = {gap};
    const CaseResult result = solve(p);
    const ThermalNetwork network = thermalNetwork(p, result);
    const auto volts = Circuit(networkNetlist(network, p, result)).operatingPoint();
    for (const PartFigures& figure : partFigures(result))
      QVERIFY2(std::abs(volts.at(figure.id) - figure.mean) < 1e-3, figure.id.c_str());
    const bool radiates = std::any_of(network.branches.begin(), network.branches.end(), [](const NetworkBranch& one) {
      return one.id == "gap" && one.kind == NetworkBranch::Kind::Resistance;
    });
    QVERIFY(radiates);
  }

  void theJsonSaysWhatEachNumberIs()
  {
    const Project p = bar();
    const CaseResult result = solve(p);
    const auto json = nlohmann::json::parse(networkJson(thermalNetwork(p, result), p, result));
    QCOMPARE(json.at("nodes").size(), 3U);
    QCOMPARE(json.at("nodes")[0].at("name").get<std::string>(), p.parts[0].name);
    QVERIFY(json.at("what").at("resistance") == "K/W");
    double in = 0;
    for (const auto& branch : json.at("branches"))
      if (branch.at("kind") == "heat")
        in += branch.at("heat").get<double>();
    QVERIFY(std::abs(in - 8) < 1e-6);
  }

  void awkwardNamesMakeNoOtherLines()
  {
    Project p = bar();
    p.name = "Kiln\n.END\nR9 a b 1 ä 🔥";
    p.parts[0].name = "two\nlines";
    const CaseResult result = solve(p);
    const std::string netlist = networkNetlist(thermalNetwork(p, result), p, result);
    const auto volts = Circuit(netlist).operatingPoint();
    QVERIFY(!volts.contains("a"));
    QCOMPARE(netlist.find(".END\n"), netlist.size() - 5);
  }

  void facesWithTheirTemperatures()
  {
    const Project p = bar();
    const CaseResult result = solve(p);
    const auto rows = rowsOf(facesCsv(p, result));
    QCOMPARE(rows.size(), 1U + 11U); // two blocks, the shared face once
    std::map<std::string, std::vector<std::string>> byName;
    for (std::size_t i = 1; i < rows.size(); ++i) {
      QCOMPARE(rows[i].size(), rows[0].size());
      byName[rows[i][0]] = rows[i];
    }
    constexpr double area = 4e-4;
    const auto& right = byName.at("cold.right");
    QVERIFY(std::abs(std::stod(right[3]) - area) < 1e-12);
    QVERIFY(std::abs(std::stod(right[4]) - 0.075) < 1e-9); // its middle
    QVERIFY(std::abs(std::stod(right[7]) - (300 + 8 / (100 * area) - 273.15)) < 1e-4);
    QVERIFY(std::abs(std::stod(right[10]) + 8) < 1e-6); // out of the part
    QVERIFY(std::abs(std::stod(right[11]) + 8 / area) < 0.01);
    QCOMPARE(byName.at("hot.left")[1], p.parts[0].name); // a comma and quotes in it
  }

  void placesOfATable_data()
  {
    QTest::addColumn<QString>("text");
    QTest::newRow("commas") << "x [mm],y [mm],z [mm]\n50,0,10\n500,0,0\n";
    QTest::newRow("decimal commas") << "x [mm]; y [mm]; z [mm]\n50,0;0;10,0\n500;0;0\n";
    QTest::newRow("in metres, with more columns") << "x [m]\ty [m]\tz [m]\tname\n0.05\t0\t0.01\ta\n0.5\t0\t0\tb\n";
  }
  void placesOfATable()
  {
    QFETCH(QString, text);
    const Project p = bar();
    const CaseResult result = solve(p);
    const auto places = readPlaces(text.toStdString(), "t.csv");
    QVERIFY2(places, places ? "" : places.error().sentence().c_str());
    QCOMPARE(places->size(), 2U);
    std::size_t outside = 0;
    const auto rows = rowsOf(placesCsv(p, result, *places, outside));
    QCOMPARE(outside, 1U);
    constexpr double area = 4e-4;
    const double middle = 300 + 8 / (100 * area) + 8 * 0.025 / (20 * area) - 273.15; // of the cold block
    QCOMPARE(rows[1][3], p.parts[1].name);
    QVERIFY(std::abs(std::stod(rows[1][4]) - middle) < 1e-3);
    QVERIFY(std::abs(std::stod(rows[1][5]) - 8 / area) < 1); // along x
    QVERIFY(rows[2][4].empty());
    QVERIFY(std::abs(std::stod(rows[2][8]) - 0.425) < 1e-6);
  }

  void tablesOfPlacesThatAreNone_data()
  {
    QTest::addColumn<QString>("text");
    QTest::addColumn<QString>("line");
    QTest::newRow("nothing") << ""
                             << "line 1";
    QTest::newRow("no units") << "x,y,z\n1,2,3\n"
                              << "line 1";
    QTest::newRow("of another kind") << "x [mm],y [mm],z [K]\n1,2,3\n"
                                     << "line 1";
    QTest::newRow("words") << "x [mm],y [mm],z [mm]\n1,2,3\none,2,3\n"
                           << "line 3";
    QTest::newRow("too few") << "x [mm],y [mm],z [mm]\n1,2\n"
                             << "line 2";
    QTest::newRow("no rows") << "x [mm],y [mm],z [mm]\n\n"
                             << "no places";
  }
  void tablesOfPlacesThatAreNone()
  {
    QFETCH(QString, text);
    QFETCH(QString, line);
    const auto places = readPlaces(text.toStdString(), "t.csv");
    QVERIFY(!places);
    QVERIFY2(places.error().sentence().find(line.toStdString()) != std::string::npos,
             places.error().sentence().c_str());
    QVERIFY(!places.error().remedy.empty());
  }

  /// It says who wrote it, not what the kernel calls itself.
  void aStepFileIsSigned()
  {
    QTemporaryDir folder;
    const std::string path = folder.filePath("Bar.step").toStdString();
    QVERIFY(writeGeometry(bar(), path));
    QFile file(QString::fromStdString(path));
    QVERIFY(file.open(QIODevice::ReadOnly));
    const QString head = QString::fromUtf8(file.readAll()).section("ENDSEC", 0, 0);
    QVERIFY2(head.contains("'Usual Kiln"), qPrintable(head));
    QVERIFY2(head.contains("'Bar.step'"), qPrintable(head));
    QVERIFY2(!head.contains("Open CASCADE", Qt::CaseInsensitive), qPrintable(head));
  }

  /// One file holds all of it; nothing is replaced and nothing leaves the folder.
  void aPackedProject()
  {
    QTemporaryDir folder;
    const std::filesystem::path at = folder.path().toStdString();
    const Project p = bar();
    QVERIFY(saveProject(p, at / "bär.kiln"));
    std::filesystem::create_directories(at / "bär.results");
    const std::string bytes(3'000'000, 'x');
    std::ofstream(at / "bär.results" / "steady.h5") << bytes;
    std::ofstream(at / "bär.results" / ".draft.kiln") << "not packed";
    QVERIFY(packProject(at / "bär.kiln", at / "bär.results", at / "all.kilnpack", noProgress));
    QVERIFY(std::filesystem::file_size(at / "all.kilnpack") < bytes.size() / 10);
    std::filesystem::create_directories(at / "there");
    const auto back = unpackProject(at / "all.kilnpack", at / "there", noProgress);
    QVERIFY2(back, back ? "" : back.error().sentence().c_str());
    const auto read = loadProject(*back);
    QVERIFY(read && *read == p);
    QCOMPARE(std::filesystem::file_size(at / "there" / "bär.results" / "steady.h5"), bytes.size());
    QVERIFY(!std::filesystem::exists(at / "there" / "bär.results" / ".draft.kiln"));
    // Again: it is there already, and stays as it is.
    const auto again = unpackProject(at / "all.kilnpack", at / "there", noProgress);
    QVERIFY(!again && again.error().sentence().find("already") != std::string::npos);
    QCOMPARE(std::distance(std::filesystem::directory_iterator(at / "there"), std::filesystem::directory_iterator()),
             2);
    QVERIFY(!packProject(at / "bär.kiln", at / "bär.results", at / "no" / "all.kilnpack", noProgress));
    QVERIFY(!packProject(at / "none.kiln", at / "bär.results", at / "none.kilnpack", noProgress));
    QVERIFY(!std::filesystem::exists(at / "none.kilnpack"));
  }

  void packedProjectsThatAreNone_data()
  {
    QTest::addColumn<QByteArray>("from");
    QTest::addColumn<QByteArray>("to");
    QTest::newRow("a name that leads out") << QByteArray("bar.results/") << QByteArray("../../../xx/");
    QTest::newRow("an absolute name") << QByteArray("bar.results/") << QByteArray("/tmp/results");
    QTest::newRow("no project in it") << QByteArray("bar.kiln") << QByteArray("bar.text");
    QTest::newRow("no zip") << QByteArray("PK") << QByteArray("KP");
  }
  void packedProjectsThatAreNone()
  {
    QFETCH(QByteArray, from);
    QFETCH(QByteArray, to);
    QTemporaryDir folder;
    const std::filesystem::path at = folder.path().toStdString();
    QVERIFY(saveProject(bar(), at / "bar.kiln"));
    std::filesystem::create_directories(at / "bar.results");
    std::ofstream(at / "bar.results" / "steady.h5") << "figures";
    QVERIFY(packProject(at / "bar.kiln", at / "bar.results", at / "all.kilnpack", noProgress));
    QFile file(folder.filePath("all.kilnpack"));
    QVERIFY(file.open(QIODevice::ReadWrite));
    QByteArray bytes = file.readAll();
    QVERIFY(bytes.count(from) >= 2);
    file.seek(0);
    file.write(bytes.replace(from, to));
    file.close();
    std::filesystem::create_directories(at / "there");
    const auto back = unpackProject(at / "all.kilnpack", at / "there", noProgress);
    QVERIFY(!back);
    QVERIFY2(back.error().sentence().find("all.kilnpack") != std::string::npos, back.error().sentence().c_str());
    QVERIFY(std::filesystem::is_empty(at / "there")); // nothing is left behind
    QVERIFY(!std::filesystem::exists(at / "xx"));
  }

  void thePictureOfAProject()
  {
    QTemporaryDir folder;
    const std::filesystem::path file = folder.filePath("p.kiln").toStdString();
    Project p = bar();
    QVERIFY(saveProject(p, file));
    QVERIFY(!storedPicture(file));
    const std::string png = "\x89PNG\r\n\x1a\n and more";
    p.picture = SharedText(packedText(png));
    QVERIFY(saveProject(p, file));
    QCOMPARE(storedPicture(file).value_or("none"), png);
    const auto back = loadProject(file);
    QVERIFY(back && *back == p);
    p.picture = SharedText(packedText("no picture at all"));
    QVERIFY(saveProject(p, file));
    QVERIFY(!storedPicture(file));
    QVERIFY(!storedPicture(folder.filePath("none.kiln").toStdString()));
  }
};

QTEST_APPLESS_MAIN(ExchangeTest)
#include "tst_exchange.moc"
