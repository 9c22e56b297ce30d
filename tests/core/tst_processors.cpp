// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
//
// One processor or several: of every demo the mesh, its system and what is solved with it are the same to the last bit.
#include "TestProjects.h"
#include "base/Processors.h"
#include "io/ProjectFile.h"
#include "model/OwnValues.h"
#include "run/SteadyModel.h"
#include "solve/SteadySolver.h"

#include <QTest>
#include <cstring>
#include <filesystem>

using namespace kiln;
using namespace kiln::test;

namespace
{

template <class List>
bool sameBits(const List& a, const List& b)
{
  return a.size() == b.size() &&
         (a.empty() || std::memcmp(a.data(), b.data(), a.size() * sizeof(typename List::value_type)) == 0);
}

struct Solved {
  Mesh mesh;
  SparseMatrix matrix;
  std::vector<double> temperature;
};

/// The first steady case, or the network as it is at the start of its first run.
Solved solvedOn(int processors, const Project& project)
{
  limitProcessors(processors);
  Solved solved;
  solved.mesh = project.parts.empty() ? Mesh{} : meshOf(project); // a network of nodes has none
  auto conditions = resolveConditions(project, solved.mesh);
  if (!conditions)
    throw std::runtime_error(conditions.error().sentence());
  const ThermalSystem system(solved.mesh, *conditions);
  const std::vector<double> warm(static_cast<std::size_t>(system.unknowns()), 350.0);
  solved.matrix = system.tangent(warm);
  auto solution = solveSteady(solved.mesh, *conditions, {}, noProgress);
  if (solution)
    solved.temperature = std::move(solution->temperature);
  return solved;
}

} // namespace

class ProcessorsTest : public QObject
{
  Q_OBJECT

private slots:
  void cleanup() { limitProcessors(2); }

  void theSameToTheLastBit_data()
  {
    QTest::addColumn<QString>("file");
    QTest::addColumn<bool>("second");
    for (const std::string folder : {"demo", "demo/examples"})
      for (const auto& entry : std::filesystem::directory_iterator(std::string(KILN_SOURCE_DIR) + "/" + folder))
        if (entry.path().extension() == ".kiln")
          for (const bool second : {false, true})
            QTest::addRow("%s, order %d", entry.path().stem().c_str(), second ? 2 : 1)
                << QString::fromStdString(entry.path().string()) << second;
  }
  void theSameToTheLastBit()
  {
    QFETCH(QString, file);
    QFETCH(bool, second);
    const auto loaded = loadProject(file.toStdString());
    QVERIFY(loaded);
    const auto steady = std::find_if(loaded->cases.begin(), loaded->cases.end(),
                                     [](const Case& one) { return one.kind == Case::Kind::Steady; });
    const auto own = projectForCase(*loaded, steady != loaded->cases.end() ? *steady : loaded->cases.front());
    QVERIFY(own);
    Project project = *own;
    project.mesh.secondOrder = second;
    project.mesh.fineness = number(0.4); // a few thousand elements say as much
    Solved one, several;
    try {
      one = solvedOn(1, project);
      several = solvedOn(3, project);
    } catch (const std::exception& error) {
      QFAIL(error.what());
    }
    QVERIFY(sameBits(one.mesh.nodes, several.mesh.nodes));
    QVERIFY(sameBits(one.mesh.tets, several.mesh.tets));
    QVERIFY(sameBits(one.mesh.triangles, several.mesh.triangles));
    QVERIFY(sameBits(one.matrix.columns, several.matrix.columns));
    QVERIFY(sameBits(one.matrix.values, several.matrix.values));
    QVERIFY(sameBits(one.temperature, several.temperature));
    QVERIFY(!one.temperature.empty() || steady == loaded->cases.end());
  }
};

QTEST_APPLESS_MAIN(ProcessorsTest)
#include "tst_processors.moc"
