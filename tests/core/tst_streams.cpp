// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
//
// Fields of heat flux: components and gradients of exact fields, ways of the heat, heat through faces.
#include "FlowKinds.h"
#include "heat/elements/Location.h"
#include "results/FaceFlows.h"
#include "results/ResultFields.h"
#include "results/Streamlines.h"

#include <QTest>
#include <algorithm>
#include <cmath>

using namespace kiln;
using namespace kiln::test;

namespace
{

/// A bar from 300 K at its left to 400 K at its right, whose material conducts along its own axes, turned about z.
Project turnedBar(double degrees)
{
  Project p = projectWith(0.006);
  p.materials = {material("m", 10)};
  p.materials.front().conductivityY = Property{10, ""};
  p.materials.front().conductivityZ = Property{10, ""};
  p.parts = {part("bar", "m", block(0.06, 0.02, 0.02))};
  p.parts.front().materialAxes = Number3{number(0), number(0), number(degrees * pi / 180)};
  p.surfaces = {surface("left", {"bar.left"}), surface("right", {"bar.right"})};
  p.boundaries = {boundary("cold", FixedSurface{"left", number(300)}),
                  boundary("warm", FixedSurface{"right", number(400)})};
  return p;
}

FluxField fluxOf(const CaseResult& result, bool raw = false)
{
  std::vector<char> passes;
  for (std::size_t f = 0; f < result.faceHeat.size(); ++f)
    passes.push_back(std::abs(result.faceHeat[f]) > result.heatFloor ? 1 : 0);
  return {std::make_shared<Mesh>(result.mesh), result.unknowns, result.flux, std::move(passes), raw};
}

bool isNamed(const CaseResult& result, FaceId face, const char* name)
{
  if (face < 0)
    return false;
  const std::vector<std::string>& names = result.mesh.geometry.faces[static_cast<std::size_t>(face)].names;
  return std::find(names.begin(), names.end(), name) != names.end();
}

} // namespace

class StreamsTest : public QObject
{
  Q_OBJECT
private slots:
  void components_data()
  {
    QTest::addColumn<double>("degrees");
    for (const double degrees : {0.0, 30.0, 90.0})
      QTest::addRow("%g degrees", degrees) << degrees;
  }
  /// Given a flux of −10·100/0.06 W/m² along x, then its components in the part's own axes turn with them.
  void components()
  {
    QFETCH(const double, degrees);
    const Project p = turnedBar(degrees);
    const CaseResult result = solve(p);
    const double along = -10 * 100 / 0.06;
    const auto check = [&](Shown shown, bool own, double expected) {
      const PartwiseField field = fieldValues(p, result, result.temperature, shown, own);
      double worst = 0;
      for (std::size_t u = 0; u < result.unknowns.node.size(); ++u)
        worst = std::max(worst, std::abs(field.at(UnknownId(u), PartId(0)) - expected));
      QVERIFY2(worst < 1e-4 * std::abs(along), qPrintable(QString::number(worst)));
    };
    check(Shown::FluxX, false, along);
    check(Shown::FluxY, false, 0);
    check(Shown::FluxZ, false, 0);
    check(Shown::HeatFlux, false, -along);
    check(Shown::Gradient, false, 100 / 0.06);
    const double turned = degrees * pi / 180;
    check(Shown::FluxX, true, along * std::cos(turned));
    check(Shown::FluxY, true, -along * std::sin(turned));
    check(Shown::FluxZ, true, 0);
  }

  void straightWays_data()
  {
    QTest::addColumn<bool>("raw");
    QTest::newRow("recovered") << false;
    QTest::newRow("raw") << true;
  }
  /// Given a uniform flux, then a streamline is straight, and goes from the warm end to the cold one.
  void straightWays()
  {
    QFETCH(const bool, raw);
    const CaseResult result = solve(turnedBar(0));
    const FluxField field = fluxOf(result, raw);
    const Vec3 place(0.004, 0.0031, 0.0123);
    const Streamline line = field.through(place, locate(result.mesh, place).tet);
    QVERIFY(line.points.size() > 5);
    QVERIFY(isNamed(result, line.begins, "bar.right") && isNamed(result, line.ends, "bar.left"));
    QVERIFY(std::abs(line.points.front().x() - 0.03) < 1e-9 && std::abs(line.points.back().x() + 0.03) < 1e-9);
    for (const Vec3& point : line.points)
      QVERIFY(std::hypot(point.y() - place.y(), point.z() - place.z()) < 1e-6);
    for (std::size_t i = 1; i < line.points.size(); ++i)
      QVERIFY(line.points[i].x() <= line.points[i - 1].x() + 1e-9);
  }

  /// Given heat that enters at one end's face and leaves at another one round a corner, through a contact, then every
  /// streamline begins where it enters and ends where it leaves, and temperatures fall all along.
  void roundACorner()
  {
    Project p = projectWith(0.005);
    p.materials = {material("m", 20)};
    p.parts = {part("arm", "m", block(0.06, 0.02, 0.02)), part("leg", "m", block(0.02, 0.02, 0.05), Vec3(0.04, 0, 0))};
    p.surfaces = {surface("in", {"arm.left"}), surface("out", {"leg.top"})};
    p.contacts = {contact("arm", "leg", AreaConductance{number(3000)})};
    p.sources = {source("heat", SurfacePower{"in", plain(5)})};
    p.boundaries = {boundary("air", Convection{"out", plain(50), plain(300)})};
    const CaseResult result = solve(p);
    const FluxField field = fluxOf(result);
    int followed = 0;
    for (const double y : {-0.006, 0.0, 0.007})
      for (const double z : {0.004, 0.009, 0.016}) {
        const Vec3 place(-0.02, y, z);
        const Streamline line = field.through(place, locate(result.mesh, place).tet);
        QVERIFY2(isNamed(result, line.begins, "arm.left"), qPrintable(QString("%1 %2").arg(y).arg(z)));
        QVERIFY2(isNamed(result, line.ends, "leg.top"), qPrintable(QString("%1 %2").arg(y).arg(z)));
        const auto kelvin = [&](const Vec3& at) {
          const Location there = locate(result.mesh, at);
          double value = 0;
          for (std::size_t i = 0; i < 4; ++i)
            value += there.weights[static_cast<Eigen::Index>(i)] *
                     result.temperature[static_cast<std::size_t>(result.unknowns.ofTet[there.tet][i])];
          return value;
        };
        double before = kelvin(line.points.front());
        for (std::size_t i = 4; i < line.points.size(); i += 4) {
          const double here = kelvin(line.points[i]);
          QVERIFY(here < before + 0.05);
          before = here;
        }
        ++followed;
      }
    QCOMPARE(followed, 9);
  }

  void noFluxNoLine()
  {
    Project p = turnedBar(0);
    std::get<FixedSurface>(p.boundaries[1].condition).temperature = number(300);
    const CaseResult result = solve(p);
    const FluxField field(std::make_shared<Mesh>(result.mesh), result.unknowns,
                          std::vector<Vec3>(result.mesh.tets.size(), Vec3::Zero()), {});
    QVERIFY(field.through(Vec3(0, 0, 0.01), 0).points.empty());
  }

  void facesOfEveryKind_data()
  {
    QTest::addColumn<int>("kind");
    const std::vector<Named> kinds = allKinds();
    for (std::size_t k = 0; k < kinds.size(); ++k)
      QTest::addRow("%s", qPrintable(kinds[k].name)) << static_cast<int>(k);
  }
  /// Given any kind of flow, then what passes the faces sums to what the ledger says enters and leaves, and an
  /// insulated face has nothing of it.
  void facesOfEveryKind()
  {
    QFETCH(const int, kind);
    const Body body{false};
    const Patch patch = allKinds()[static_cast<std::size_t>(kind)].make(slab(body, 1), body);
    const CaseResult result = solve(patch.project);
    double in = 0;
    double out = 0;
    for (const FaceFlow& flow : faceFlows(result.mesh, result.faceHeat, result.contactHeat, result.flux)) {
      const Face& face = result.mesh.geometry.faces[static_cast<std::size_t>(flow.face)];
      QVERIFY(std::abs(flow.area - face.area) < 1e-6 * face.area + 1e-12);
      const double entering = face.contact() ? flow.besides : flow.ledger;
      (entering > 0 ? in : out) += std::abs(entering);
      if (flow.insulated)
        QCOMPARE(flow.ledger, 0.0);
    }
    for (const HeatToPart& path : result.paths) // what arises within parts comes through no face
      if (const HeatSource* source = findById(patch.project.sources, path.of);
          path.of == electricHeat ||
          (source != nullptr && !std::holds_alternative<SurfacePower>(source->heat) &&
           !std::holds_alternative<SurfaceFlux>(source->heat) && !std::holds_alternative<Beam>(source->heat)))
        in += path.watts;
      else if (const Boundary* held = findById(patch.project.boundaries, path.of);
               held != nullptr && (std::holds_alternative<FixedPart>(held->condition) ||
                                   std::holds_alternative<FixedPoint>(held->condition)))
        (path.watts > 0 ? in : out) += std::abs(path.watts);
    const double size = std::max(result.heatIn, 1e-9);
    const bool passage =
        std::any_of(patch.project.boundaries.begin(), patch.project.boundaries.end(),
                    [](const Boundary& b) { return std::holds_alternative<FlowPassage>(b.condition); });
    const double exactly = (passage ? 1e-8 : 1e-9) * size; // 4 MW/K of a stream leave eight digits
    const bool netOnly =
        !patch.project.contacts.empty() && std::holds_alternative<NoContact>(patch.project.contacts.front().exchange);
    if (netOnly) // its source and its boundary stand on one face
      QVERIFY(std::abs(in - out - result.heatIn + result.heatOut) < exactly);
    else
      QVERIFY2(std::abs(in - result.heatIn) < exactly && std::abs(out - result.heatOut) < exactly,
               qPrintable(QString("in %1 of %2, out %3 of %4")
                              .arg(in, 0, 'g', 12)
                              .arg(result.heatIn, 0, 'g', 12)
                              .arg(out, 0, 'g', 12)
                              .arg(result.heatOut, 0, 'g', 12)));
  }

  /// Given air let in between two parts that touch without exchanging heat, then what it takes at their common face is
  /// listed besides what passes from part to part.
  void airBetweenTwoParts()
  {
    Project p = projectWith(0.006);
    p.materials = {material("m", 20)};
    p.parts = {part("low", "m", block(0.02, 0.02, 0.01)), part("high", "m", block(0.02, 0.02, 0.01), Vec3(0, 0, 0.01))};
    p.contacts = {contact("low", "high", NoContact{})};
    p.surfaces = {surface("under", {"low.bottom"}), surface("between", {"low.top"}), surface("over", {"high.top"})};
    p.sources = {source("heat", SurfacePower{"under", plain(3)})};
    p.boundaries = {boundary("air", Convection{"between", plain(50), plain(300)}),
                    boundary("held", FixedSurface{"over", number(300)})};
    const CaseResult result = solve(p);
    for (const FaceFlow& flow : faceFlows(result.mesh, result.faceHeat, result.contactHeat, result.flux))
      if (isNamed(result, flow.face, "low.top")) {
        QVERIFY2(std::abs(flow.besides + 3) < 1e-9, qPrintable(QString::number(flow.besides)));
        QVERIFY(std::abs(flow.ledger) < 1e-9 && !flow.insulated);
      }
  }

  /// Given a bar with a flux through its ends alone, then both ways of reckoning agree, and nothing is left over at its
  /// sides.
  void heatThroughFaces()
  {
    const CaseResult result = solve(turnedBar(0));
    int ends = 0;
    double sum = 0;
    for (const FaceFlow& flow : faceFlows(result.mesh, result.faceHeat, result.contactHeat, result.flux)) {
      const bool end = isNamed(result, flow.face, "bar.left") || isNamed(result, flow.face, "bar.right");
      QCOMPARE(flow.insulated, !end);
      const double expected = 10 * 100 / 0.06 * 0.0004;
      if (end) {
        QVERIFY(std::abs(std::abs(flow.ledger) - expected) < 1e-6 * expected);
        QVERIFY(std::abs(flow.byFlux - flow.ledger) < 1e-6 * expected);
        ++ends;
      } else {
        QVERIFY(std::abs(flow.byFlux) < 1e-6 * expected);
      }
      sum += flow.ledger;
    }
    QCOMPARE(ends, 2);
    QVERIFY(std::abs(sum) < 1e-9);
  }
};

QTEST_APPLESS_MAIN(StreamsTest)
#include "tst_streams.moc"
