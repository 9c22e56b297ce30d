// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
//
// Whole path (project → fuse → mesh → split nodes → solve → figures) against answers computed here from formulas.
// Each case prints its line of docs/verification.md.
#include "TestProjects.h"
#include "heat/ThermalSystem.h"
#include "io/AtomicFile.h"
#include "io/ProjectFile.h"
#include "io/RunFile.h"
#include "mesh/VolumeMesh.h"
#include "model/OwnValues.h"
#include "solve/SteadySolver.h"

#include <QTest>
#include <cmath>
#include <cstdio>
#include <nlohmann/json.hpp>
#include <numbers>

using namespace kiln;
using namespace kiln::test;

namespace
{

constexpr double pi = std::numbers::pi;

void record(const char* name, double expected, double obtained, const char* unit, double order = 0)
{
  std::printf("VERIFY %s: expected %.6g %s, obtained %.6g, error %.2g%s\n", name, expected, unit, obtained,
              obtained - expected, order > 0 ? (", order " + std::to_string(order).substr(0, 4)).c_str() : "");
  std::fflush(stdout);
}

/// Slope of log(error) over log(size), least squares.
double observedOrder(const std::vector<double>& sizes, const std::vector<double>& errors)
{
  double sx = 0, sy = 0, sxx = 0, sxy = 0;
  const auto n = static_cast<double>(sizes.size());
  for (std::size_t i = 0; i < sizes.size(); ++i) {
    const double x = std::log(sizes[i]);
    const double y = std::log(errors[i]);
    sx += x;
    sy += y;
    sxx += x * x;
    sxy += x * y;
  }
  return (n * sxy - sx * sy) / (n * sxx - sx * sx);
}

/// Root of an increasing function between two places, by bisection.
template <class Function>
double root(Function&& f, double low, double high)
{
  for (int i = 0; i < 200; ++i) {
    const double middle = (low + high) / 2;
    (f(middle) < 0 ? low : high) = middle;
  }
  return (low + high) / 2;
}

Project slab(double size, double thickness, double conductivity)
{
  Project project = projectWith(size);
  project.materials = {material("m", conductivity)};
  project.parts = {part("slab", "m", block(0.02, 0.02, thickness))};
  project.surfaces = {surface("bottom", {"slab.bottom"}), surface("top", {"slab.top"})};
  return project;
}

/// Steady heat of a cube with an inclusion by cell-centred finite volumes and conjugate gradients: an independent
/// discretisation, W. The cube has edge L, the inclusion L/2 in its middle; top and bottom are held, sides insulated.
double inclusionHeatByCells(int n, double edge, double outside, double inside, double warm)
{
  const auto at = [n](int i, int j, int k) { return static_cast<std::size_t>((k * n + j) * n + i); };
  const auto k = [&](int a, int b, int c) {
    const auto in = [n](int x) { return x >= n / 4 && x < 3 * n / 4; };
    return in(a) && in(b) && in(c) ? inside : outside;
  };
  const double h = edge / n;
  const auto face = [&](double ka, double kb) { return 2 * ka * kb / (ka + kb) * h; };
  const std::size_t cells = static_cast<std::size_t>(n) * static_cast<std::size_t>(n) * static_cast<std::size_t>(n);
  std::vector<double> b(cells, 0.0), diagonal(cells, 0.0);
  const auto apply = [&](const std::vector<double>& x, std::vector<double>& y) {
    for (int c = 0; c < n; ++c)
      for (int j = 0; j < n; ++j)
        for (int i = 0; i < n; ++i) {
          const std::size_t me = at(i, j, c);
          double sum = 0;
          const auto toward = [&](int a, int d, int e) {
            if (a < 0 || a >= n || d < 0 || d >= n)
              return;
            if (e < 0 || e >= n) {
              sum += 2 * k(i, j, c) * h * x[me];
              return;
            }
            sum += face(k(i, j, c), k(a, d, e)) * (x[me] - x[at(a, d, e)]);
          };
          toward(i + 1, j, c);
          toward(i - 1, j, c);
          toward(i, j + 1, c);
          toward(i, j - 1, c);
          toward(i, j, c + 1);
          toward(i, j, c - 1);
          y[me] = sum;
        }
  };
  for (int j = 0; j < n; ++j)
    for (int i = 0; i < n; ++i)
      b[at(i, j, n - 1)] = 2 * k(i, j, n - 1) * h * warm;
  std::vector<double> x(cells, warm / 2), r(cells), p, q(cells);
  apply(x, q);
  for (std::size_t i = 0; i < cells; ++i)
    r[i] = b[i] - q[i];
  p = r;
  const auto dot = [](const std::vector<double>& u, const std::vector<double>& v) {
    double sum = 0;
    for (std::size_t i = 0; i < u.size(); ++i)
      sum += u[i] * v[i];
    return sum;
  };
  double rr = dot(r, r);
  const double start = rr;
  for (int iteration = 0; iteration < 5000 && rr > 1e-20 * start; ++iteration) {
    apply(p, q);
    const double alpha = rr / dot(p, q);
    for (std::size_t i = 0; i < cells; ++i) {
      x[i] += alpha * p[i];
      r[i] -= alpha * q[i];
    }
    const double before = rr;
    rr = dot(r, r);
    for (std::size_t i = 0; i < cells; ++i)
      p[i] = r[i] + rr / before * p[i];
  }
  double heat = 0;
  for (int j = 0; j < n; ++j)
    for (int i = 0; i < n; ++i)
      heat += 2 * k(i, j, n - 1) * h * (warm - x[at(i, j, n - 1)]);
  return heat;
}

} // namespace

class VerificationTest : public QObject
{
  Q_OBJECT

private slots:
  void slabWithFixedSides()
  {
    Project project = slab(0.005, 0.03, 1.7);
    project.boundaries = {boundary("cold", FixedSurface{"bottom", number(290)}),
                          boundary("warm", FixedSurface{"top", number(350)})};
    const CaseResult result = solve(project);
    const double error = largestError(result, [](const Vec3& p) { return 290 + 60 * p.z() / 0.03; });
    record("slab, fixed sides: largest nodal error", 0, error, "K");
    QVERIFY(error < 1e-8); // linear: exact for linear elements
    const double heat = 1.7 * 4e-4 * 60 / 0.03;
    record("slab, fixed sides: reaction heat", heat, wattsOf(result.boundaries, "warm"), "W");
    QVERIFY(std::abs(wattsOf(result.boundaries, "warm") - heat) < 1e-8 * heat);
    QVERIFY(std::abs(wattsOf(result.boundaries, "cold") + heat) < 1e-8 * heat);
  }

  void slabWithSourceAndConvection()
  {
    // k T'' = −q, insulated at z = 0, convection at z = L: T = Ta + qL/h + q (L² − z²) / (2k).
    constexpr double k = 2, q = 4e5, h = 150, ambient = 300, length = 0.03;
    const auto exact = [&](const Vec3& p) {
      return ambient + q * length / h + q * (length * length - p.z() * p.z()) / (2 * k);
    };
    std::vector<double> sizes, errors; // sizes as meshed: the cube root of the volume of a mean tet
    for (const double size : {0.008, 0.004, 0.002}) {
      Project project = slab(size, length, k);
      project.sources = {source("q", PartDensity{{"slab"}, number(q)})};
      project.boundaries = {boundary("air", Convection{"top", number(h), number(ambient)})};
      const CaseResult result = solve(project);
      // Volume-weighted mean square error, with the exact values at the nodes.
      double sum = 0, volume = 0;
      for (std::size_t t = 0; t < result.mesh.tets.size(); ++t)
        for (std::size_t i = 0; i < 4; ++i) {
          const double d = result.temperature[static_cast<std::size_t>(result.unknowns.ofTet[t][i])] -
                           exact(result.mesh.nodes[static_cast<std::size_t>(result.mesh.tets[t][i])]);
          sum += d * d * tetVolume(result.mesh, t) / 4;
          volume += tetVolume(result.mesh, t) / 4;
        }
      errors.push_back(std::sqrt(sum / volume));
      sizes.push_back(std::cbrt(volume / static_cast<double>(result.mesh.tets.size())));
      QVERIFY(result.relativeImbalance() < 1e-6);
    }
    const double order = observedOrder(sizes, errors);
    record("slab, source and convection: root mean square error on the finest mesh", 0, errors.back(), "K", order);
    QVERIFY2(order > 1.7, qPrintable(QString::number(order)));
    QVERIFY(errors.back() < 0.005 * q * length * length / (2 * k));
  }

  void twoSlabsWithContactResistance()
  {
    constexpr double k1 = 1.5, k2 = 40, contactR = 0.004, warm = 400, cold = 300, l1 = 0.01, l2 = 0.02;
    Project project = projectWith(0.004);
    project.materials = {material("a", k1), material("b", k2)};
    project.parts = {part("one", "a", block(0.02, 0.02, l1)), part("two", "b", block(0.02, 0.02, l2), Vec3(0, 0, l1))};
    project.surfaces = {surface("bottom", {"one.bottom"}), surface("top", {"two.top"}), surface("below", {"one.top"}),
                        surface("above", {"two.bottom"})};
    project.boundaries = {boundary("cold", FixedSurface{"bottom", number(cold)}),
                          boundary("warm", FixedSurface{"top", number(warm)})};
    project.contacts = {contact("one", "two", AreaResistance{number(contactR)})};
    project.watches = {watch("belowMean", SurfaceFigure{PartFigure::Kind::Mean, "below"}),
                       watch("aboveMean", SurfaceFigure{PartFigure::Kind::Mean, "above"}),
                       watch("heat", ContactHeat{"two", "one"})};
    // Through the file as well.
    const auto read = readProject(writeProject(project), "memory");
    QVERIFY(read);
    const CaseResult result = solve(*read);
    const double flux = (warm - cold) / (l1 / k1 + contactR + l2 / k2);
    const double jump = valueOf(*read, result, "aboveMean") - valueOf(*read, result, "belowMean");
    record("two slabs, contact resistance: jump", flux * contactR, jump, "K");
    record("two slabs, contact resistance: heat", flux * 4e-4, valueOf(*read, result, "heat"), "W");
    QVERIFY(std::abs(jump - flux * contactR) < 1e-7);
    QVERIFY(std::abs(valueOf(*read, result, "heat") - flux * 4e-4) < 1e-8);
    QVERIFY(std::abs(valueOf(*read, result, "belowMean") - (cold + flux * l1 / k1)) < 1e-7);
  }

  void hollowCylinderAndSphere()
  {
    constexpr double k = 3, inner = 0.02, outer = 0.05, height = 0.02, warm = 380, cold = 300;
    const auto heatOf = [&](const Form& form, const std::vector<ShapeStep>& steps, const std::string& in, double size) {
      Project project = projectWith(size);
      project.materials = {material("m", k)};
      project.parts = {part("body", "m", form)};
      project.parts[0].steps = steps;
      project.surfaces = {surface("in", {in}), surface("out", {"body.outside"})};
      project.boundaries = {boundary("warm", FixedSurface{"in", number(warm)}),
                            boundary("cold", FixedSurface{"out", number(cold)})};
      return wattsOf(solve(project).boundaries, "warm");
    };
    const double cylinder = 2 * pi * k * height * (warm - cold) / std::log(outer / inner);
    std::vector<double> sizes{0.008, 0.004, 0.002}, errors;
    double heat = 0;
    for (const double size : sizes) {
      heat = heatOf(Tube{number(outer), number(inner), number(height)}, {}, "body.inside", size);
      errors.push_back(std::abs(heat - cylinder));
    }
    record("hollow cylinder: heat, first order", cylinder, heat, "W", observedOrder(sizes, errors));
    QVERIFY(errors.back() < 0.01 * cylinder);
    QVERIFY(errors.back() < errors.front());
    const ShapeStep hole = cut("hole", Sphere{number(inner)});
    const double sphere = 4 * pi * k * (warm - cold) / (1 / inner - 1 / outer);
    const double coarse = heatOf(Sphere{number(outer)}, {hole}, "body.hole.outside", 0.008);
    const double fine = heatOf(Sphere{number(outer)}, {hole}, "body.hole.outside", 0.004);
    record("hollow sphere: heat, first order", sphere, fine, "W");
    QVERIFY2(std::abs(fine - sphere) < 0.02 * sphere, qPrintable(QString::number(fine / sphere)));
    QVERIFY(std::abs(fine - sphere) < std::abs(coarse - sphere));
  }

  void straightFinWithConvectiveTip()
  {
    constexpr double k = 200, h = 40, length = 0.08, width = 0.02, thickness = 0.002, base = 373.15, ambient = 293.15;
    Project project = projectWith(0.002);
    project.materials = {material("metal", k)};
    project.parts = {part("fin", "metal", block(width, thickness, length))};
    project.surfaces = {surface("root", {"fin.bottom"}), exposedOf("skin", {"fin"}, {"root"}),
                        surface("tip", {"fin.top"})};
    project.boundaries = {boundary("base", FixedSurface{"root", number(base)}),
                          boundary("air", Convection{"skin", number(h), number(ambient)})};
    project.watches = {watch("tip", SurfaceFigure{PartFigure::Kind::Mean, "tip"})};
    const CaseResult result = solve(project);
    const double perimeter = 2 * (width + thickness);
    const double section = width * thickness;
    const double m = std::sqrt(h * perimeter / (k * section));
    const double ratio = h / (m * k);
    const double tip = ambient + (base - ambient) / (std::cosh(m * length) + ratio * std::sinh(m * length));
    const double heat = std::sqrt(h * perimeter * k * section) * (base - ambient) *
                        (std::sinh(m * length) + ratio * std::cosh(m * length)) /
                        (std::cosh(m * length) + ratio * std::sinh(m * length));
    record("straight fin: tip temperature", tip, valueOf(project, result, "tip"), "K");
    record("straight fin: heat at the base", heat, wattsOf(result.boundaries, "base"), "W");
    QVERIFY(std::abs(valueOf(project, result, "tip") - tip) < 0.1);
    QVERIFY(std::abs(wattsOf(result.boundaries, "base") - heat) < 0.005 * heat);
  }

  void barRadiatingFromOneEnd()
  {
    constexpr double k = 15, length = 0.05, emissivity = 0.8, base = 1200, surroundings = 300;
    Project project = slab(0.006, length, k);
    project.materials[0].emissivity = number(emissivity);
    project.boundaries = {boundary("base", FixedSurface{"bottom", number(base)}),
                          boundary("room", Radiation{"top", number(surroundings), number(1)})};
    project.watches = {watch("end", SurfaceFigure{PartFigure::Kind::Hottest, "top"})};
    const CaseResult result = solve(project);
    const double end = root(
        [&](double t) {
          return emissivity * stefanBoltzmann * (std::pow(t, 4) - std::pow(surroundings, 4)) - k * (base - t) / length;
        },
        surroundings, base);
    record("bar radiating from one end: end temperature", end, valueOf(project, result, "end"), "K");
    QVERIFY(std::abs(valueOf(project, result, "end") - end) < 1e-5);
    QVERIFY(result.info.newtonSteps < 12);
    QVERIFY(result.relativeImbalance() < 1e-6);
  }

  void tangentIsTheDerivativeOfTheBalance()
  {
    Project project = slab(0.01, 0.03, 2);
    project.materials[0].emissivity = number(0.9);
    project.boundaries = {boundary("room", Radiation{"top", number(300), number(1)}),
                          boundary("air", Convection{"bottom", number(10), number(300)})};
    const auto geometry = buildGeometry(project);
    const auto mesh = buildMesh(project, *geometry, noProgress);
    const auto conditions = resolveConditions(project, *mesh);
    const ThermalSystem system(*mesh, *conditions);
    std::vector<double> temperature(static_cast<std::size_t>(system.unknowns()));
    for (std::size_t i = 0; i < temperature.size(); ++i)
      temperature[i] = 700 + 40 * std::sin(1.3 * static_cast<double>(i));
    const SparseMatrix tangent = system.tangent(temperature);
    for (std::size_t column = 0; column < temperature.size(); column += 7) {
      constexpr double step = 1e-2; // K
      auto up = temperature, down = temperature;
      up[column] += step;
      down[column] -= step;
      const auto high = system.balance(up), low = system.balance(down);
      for (Index row = 0; row < system.unknowns(); ++row) {
        const double slope = (low[static_cast<std::size_t>(row)] - high[static_cast<std::size_t>(row)]) / (2 * step);
        const Index position = tangent.position(row, static_cast<Index>(column));
        QVERIFY(std::abs(slope - (position >= 0 ? tangent.values[static_cast<std::size_t>(position)] : 0)) < 1e-6);
      }
    }
  }

  void blockWithInclusionAgainstCells()
  {
    constexpr double edge = 0.04, outside = 1, inside = 20, warm = 80;
    Project project = projectWith(0.002);
    project.materials = {material("m", outside), material("i", inside)};
    Part matrix = part("matrix", "m", block(edge, edge, edge));
    matrix.steps.push_back(cut("hole", block(edge / 2, edge / 2, edge / 2), {0, 0, edge / 4}));
    project.parts = {matrix, part("inclusion", "i", block(edge / 2, edge / 2, edge / 2), Vec3(0, 0, edge / 4))};
    project.surfaces = {surface("bottom", {"matrix.bottom"}), surface("top", {"matrix.top"})};
    project.boundaries = {boundary("cold", FixedSurface{"bottom", number(300)}),
                          boundary("warm", FixedSurface{"top", number(300 + warm)})};
    const double heat = wattsOf(solve(project).boundaries, "warm");
    const double coarse = inclusionHeatByCells(32, edge, outside, inside, warm);
    const double fine = inclusionHeatByCells(64, edge, outside, inside, warm);
    const double limit = fine + (fine - coarse); // first order at the corners of the inclusion
    record("block with inclusion: heat, against finite volumes", limit, heat, "W");
    QVERIFY2(std::abs(heat - limit) < 0.01 * limit, qPrintable(QString("%1 %2 %3").arg(heat).arg(coarse).arg(fine)));
  }

  void moreThanOneBackendGivesTheSameAnswer()
  {
    const auto project = loadProject(std::string(KILN_SOURCE_DIR) + "/demo/studio-kiln.kiln");
    Project coarse = *project;
    coarse.mesh = {};
    coarse.mesh.size = number(0.06);
    const auto geometry = buildGeometry(coarse);
    const auto mesh = buildMesh(coarse, *geometry, noProgress);
    const auto conditions = resolveConditions(coarse, *mesh);
    SteadyOptions direct, multigrid;
    direct.backend = LinearBackend::Direct;
    multigrid.backend = LinearBackend::Multigrid;
    const auto a = solveSteady(*mesh, *conditions, direct, noProgress);
    const auto b = solveSteady(*mesh, *conditions, multigrid, noProgress);
    QVERIFY(a && b);
    double worst = 0;
    for (std::size_t i = 0; i < a->temperature.size(); ++i)
      worst = std::max(worst, std::abs(a->temperature[i] - b->temperature[i]));
    record("kiln: direct against multigrid, largest difference", 0, worst, "K");
    QVERIFY2(worst < 1e-4, qPrintable(QString::number(worst)));
  }

  void rigidMotionAndOrderChangeNothing() // mirrors and units: tst_frames
  {
    const auto peak = [](bool turned, bool swapped) {
      Project project = projectWith(0.006);
      project.materials = {material("a", 5), material("b", 50)};
      project.parts = {part("low", "a", block(0.03, 0.02, 0.01)),
                       part("high", "b", block(0.01, 0.02, 0.02), Vec3(0.01, 0, 0.01))};
      project.surfaces = {surface("bottom", {"low.bottom"}), surface("top", {"high.top"})};
      project.sources = {source("q", SurfacePower{"top", number(10)})};
      project.boundaries = {boundary("cold", FixedSurface{"bottom", number(300)})};
      if (turned)
        for (Part& p : project.parts) { // a quarter turn about x, then moved
          const double y = p.shape.placement.position.z.si;
          p.shape.placement.rotation.x = number(-pi / 2);
          p.shape.placement.position = {number(p.shape.placement.position.x.si + 0.3), number(y - 0.1), number(0.2)};
        }
      if (swapped)
        std::swap(project.parts[0], project.parts[1]);
      const CaseResult result = solve(project);
      double mean = 0;
      for (const PartFigures& figure : partFigures(result))
        if (figure.id == "high")
          mean = figure.mean;
      return mean;
    };
    const double plain = peak(false, false);
    // The mesh itself differs after a motion; the answer must agree within the discretisation.
    record("rigid motion: mean temperature of a part", plain, peak(true, false), "K");
    QVERIFY(std::abs(peak(true, false) - plain) < 0.01 * (plain - 300));
    QVERIFY(std::abs(peak(false, true) - plain) < 0.01 * (plain - 300));
  }

  void everyDemoClosesAndGivesItsFigures_data()
  {
    QTest::addColumn<QString>("demo");
    for (const std::string folder : {"", "examples/"})
      for (const auto& entry : std::filesystem::directory_iterator(std::string(KILN_SOURCE_DIR) + "/demo/" + folder))
        if (entry.path().extension() == ".kiln")
          QTest::newRow(entry.path().stem().c_str()) << QString::fromStdString(folder + entry.path().stem().string());
  }
  /// Energy at the end, and for runs at every step and in all; watches as they were found when the demo was made. The
  /// kiln's own runs take minutes and its states are held by the test of `ukiln`.
  void everyDemoClosesAndGivesItsFigures()
  {
    QFETCH(QString, demo);
    const std::string file = std::string(KILN_SOURCE_DIR) + "/demo/" + demo.toStdString();
    auto project = loadProject(file + ".kiln");
    QVERIFY(project);
    const auto expected = nlohmann::json::parse(*readWhole(file + ".expected.json"));
    if (expected.contains("fineness")) // a coarser mesh is enough
      project->mesh.fineness = number(expected["fineness"].get<double>());
    const QTemporaryDir folder;
    int checked = 0;
    int byHand = 0; // figures that were estimated by hand
    for (const Case& one : project->cases) {
      if (one.kind == Case::Kind::Transient && demo == "studio-kiln")
        continue;
      const auto result = runCase(*project, one, folder.path().toStdString(), noProgress);
      QVERIFY2(result, one.name.c_str());
      record((project->name + ", " + one.name + ": energy imbalance").c_str(), 0, result->relativeImbalance(),
             "of the throughput");
      QVERIFY(result->relativeImbalance() < 1e-6);
      const auto own = projectForCase(*project, one);
      for (const auto& wanted : expected["cases"].value(one.id, nlohmann::json::array())) {
        const double value = valueOf(*own, *result, wanted["id"].get<std::string>());
        QVERIFY2(std::abs(value - wanted["value"].get<double>()) < wanted["within"].get<double>(),
                 qPrintable(QString::fromStdString(one.name + ", " + wanted["id"].get<std::string>() + ": ") +
                            QString::number(value)));
        ++checked;
      }
      for (const WatchFigure& figure : readWatches(*own, *result))
        if (const auto agreed = agrees(figure)) {
          QVERIFY2(*agreed,
                   qPrintable(QString::fromStdString(one.name + ", " + figure.name + ": " + referenceWords(figure))));
          ++byHand;
        }
      if (one.kind != Case::Kind::Transient)
        continue;
      const auto run = loadRun(runFile(folder.path().toStdString(), one.id));
      QVERIFY(run && run->finished);
      record((project->name + ", " + one.name + ": energy imbalance of the worst step").c_str(), 0, run->worstImbalance,
             "of the largest flow");
      QVERIFY(run->worstImbalance < 1e-6 && run->imbalance < 1e-6);
    }
    QVERIFY(checked >= (demo.startsWith("examples/") ? 2 : 3));
    QVERIFY(byHand > 0 || !demo.startsWith("examples/"));
  }
};

QTEST_APPLESS_MAIN(VerificationTest)
#include "tst_verification.moc"
