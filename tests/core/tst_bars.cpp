// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
//
// How sure: the bars of three meshes against closed forms, over forms, orders, meshes and kinds of watch. They must
// cover the true error in at least 95 of 100.
#include "TransientProjects.h"
#include "heat/ThermalSystem.h"
#include "io/SureText.h"
#include "run/SureRun.h"

#include <QTest>
#include <cmath>
#include <cstdio>
#include <numbers>

using namespace kiln;
using namespace kiln::test;

namespace
{

constexpr double pi = std::numbers::pi;

/// A model and what is known of it.
struct KnownForm {
  QString name;
  Project project;
  std::vector<std::pair<std::string, double>> exact; // watch, SI
};

Property plain(double value) { return Property{value, ""}; }

Watch hottest(const std::string& part) { return watch("hottest", PartFigure{PartFigure::Kind::Hottest, {part}}); }
Watch coldest(const std::string& part) { return watch("coldest", PartFigure{PartFigure::Kind::Coldest, {part}}); }
Watch mean(const std::string& part) { return watch("mean", PartFigure{PartFigure::Kind::Mean, {part}}); }
Watch pointAt(double x, double y, double z) { return watch("point", PointFigure{{number(x), number(y), number(z)}}); }

/// Slab heated inside, one side held, the other convecting.
KnownForm heatedSlab(double size)
{
  constexpr double length = 0.03, k = 2, q = 2e5, h = 40, cold = 300, air = 320;
  Project p = projectWith(size * length);
  p.materials = {material("stuff", k)};
  p.parts = {part("slab", "stuff", block(0.02, 0.02, length))};
  p.surfaces = {surface("top", {"slab.top"}), surface("bottom", {"slab.bottom"})};
  p.sources = {source("heat", PartDensity{{"slab"}, plain(q)})};
  p.boundaries = {boundary("cold", FixedSurface{"bottom", number(cold)}),
                  boundary("air", Convection{"top", plain(h), plain(air)})};
  p.watches = {hottest("slab"), mean("slab"), watch("heat", SurfaceHeat{"bottom"}), pointAt(0.003, 0.004, 0.012)};
  // T = cold + a z − q z²/2k,  −k T'(L) = h (T(L) − air)
  const double a = (q * length + h * q * length * length / (2 * k) - h * (cold - air)) / (k + h * length);
  const auto at = [&](double z) { return cold + a * z - q * z * z / (2 * k); };
  const double top = std::min(a * k / q, length);
  return {"heated slab",
          p,
          {{"hottest", at(top)},
           {"mean", cold + a * length / 2 - q * length * length / (6 * k)},
           {"heat", -k * a * 0.02 * 0.02},
           {"point", at(0.012)}}};
}

/// Hollow cylinder, both sides held.
KnownForm hollowCylinder(double size)
{
  constexpr double inner = 0.01, outer = 0.03, length = 0.02, k = 1.5, hot = 500, cold = 300;
  Project p = projectWith(size * (outer - inner));
  p.materials = {material("stuff", k)};
  p.parts = {part("pipe", "stuff", Tube{number(outer), number(inner), number(length)})};
  p.surfaces = {surface("in", {"pipe.inside"}), surface("out", {"pipe.outside"})};
  p.boundaries = {boundary("hot", FixedSurface{"in", number(hot)}),
                  boundary("cold", FixedSurface{"out", number(cold)})};
  p.watches = {watch("heat", SurfaceHeat{"in"}), pointAt(0.02, 0, 0.01), mean("pipe")};
  const double ratio = std::log(outer / inner);
  // mean of ln r by area between the radii
  const double square = outer * outer - inner * inner;
  const double meanLog = (outer * outer * std::log(outer) - inner * inner * std::log(inner)) / square - 0.5;
  return {"hollow cylinder",
          p,
          {{"heat", 2 * pi * k * length * (hot - cold) / ratio},
           {"point", hot - (hot - cold) * std::log(0.02 / inner) / ratio},
           {"mean", hot - (hot - cold) * (meanLog - std::log(inner)) / ratio}}};
}

/// Cylinder and sphere heated inside, convecting outside.
KnownForm heatedRound(double size, bool sphere)
{
  constexpr double radius = 0.02, k = 1, q = 3e5, h = 60, air = 300;
  Project p = projectWith(size * radius);
  p.materials = {material("stuff", k)};
  p.parts = {
      part("body", "stuff", sphere ? Form(Sphere{number(radius)}) : Form(Cylinder{number(radius), number(0.02)}))};
  p.surfaces = {surface("skin", {sphere ? "body.outside" : "body.side"})};
  p.sources = {source("heat", PartDensity{{"body"}, plain(q)})};
  p.boundaries = {boundary("air", Convection{"skin", plain(h), plain(air)})};
  p.watches = {hottest("body"), coldest("body"), mean("body")};
  const double n = sphere ? 3 : 2; // T = T_s + q (R² − r²)/2nk, T_s = air + q R/n h
  const double skin = air + q * radius / (n * h);
  const double rise = q * radius * radius / (2 * n * k);
  return {sphere ? "heated sphere" : "heated cylinder",
          p,
          {{"hottest", skin + rise}, {"coldest", skin}, {"mean", skin + rise * (sphere ? 0.4 : 0.5)}}};
}

/// Bar held at one end that radiates from the other: quartic root.
KnownForm radiatingBar(double size)
{
  constexpr double length = 0.05, k = 5, hot = 1200, around = 300, emissivity = 0.8;
  Project p = projectWith(size * length);
  p.materials = {material("stuff", k)};
  p.materials.front().emissivity = number(emissivity);
  p.parts = {part("bar", "stuff", block(0.02, 0.02, length))};
  p.surfaces = {surface("top", {"bar.top"}), surface("bottom", {"bar.bottom"})};
  p.boundaries = {boundary("hot", FixedSurface{"bottom", number(hot)}),
                  boundary("glow", Radiation{"top", number(around)})};
  p.watches = {coldest("bar"), watch("heat", SurfaceHeat{"bottom"})};
  double low = around, high = hot;
  for (int i = 0; i < 100; ++i) {
    const double t = (low + high) / 2;
    const double out = emissivity * stefanBoltzmann * (std::pow(t, 4) - std::pow(around, 4));
    (out > k * (hot - t) / length ? high : low) = t;
  }
  return {"radiating bar", p, {{"coldest", low}, {"heat", k * (hot - low) / length * 4e-4}}};
}

/// k rises by a line with T, both ends held: Kirchhoff's transform.
KnownForm kirchhoff(double size)
{
  constexpr double length = 0.04, cold = 300, hot = 700, k0 = 0.5, k1 = 3;
  Project p = projectWith(size * length);
  Material m = material("stuff", k0);
  m.conductivity = table({{cold, k0}, {hot, k1}});
  p.materials = {m};
  p.parts = {part("slab", "stuff", block(0.02, 0.02, length))};
  p.surfaces = {surface("top", {"slab.top"}), surface("bottom", {"slab.bottom"})};
  p.boundaries = {boundary("hot", FixedSurface{"top", number(hot)}),
                  boundary("cold", FixedSurface{"bottom", number(cold)})};
  p.watches = {pointAt(0, 0, length / 2), watch("heat", SurfaceHeat{"top"})};
  const double slope = (k1 - k0) / (hot - cold);
  const double all = k0 * (hot - cold) + slope / 2 * (hot - cold) * (hot - cold);
  const double middle = (-k0 + std::sqrt(k0 * k0 + slope * all)) / slope; // half of the integral
  return {"k of T", p, {{"point", cold + middle}, {"heat", all / length * 4e-4}}};
}

/// Plate whose upper edge is held at a sine: T = T₀ + A sin(πx/a) sinh(πy/a)/sinh(πb/a).
KnownForm sinePlate(double size)
{
  constexpr double a = 0.1, b = 0.08;
  Project p = projectWith(size * b);
  p.materials = {material("stuff", 5)};
  p.parts = {part("plate", "stuff", block(a, b, 0.01), Vec3(a / 2, b / 2, 0))};
  p.surfaces = {surface("cold", {"plate.left", "plate.right", "plate.front"}), surface("warm", {"plate.back"})};
  Boundary warm = boundary("warm", FixedSurface{"warm", number(300)});
  std::get<FixedSurface>(warm.condition).temperature = {300, "300 + 100*sin(pi*x/0.1)", true};
  p.boundaries = {warm, boundary("cold", FixedSurface{"cold", number(300)})};
  p.watches = {pointAt(0.05, 0.05, 0.005), mean("plate")};
  const double at = 300 + 100 * std::sinh(pi * 0.05 / a) / std::sinh(pi * b / a);
  const double average = 300 + 100 * (2 / pi) * (std::cosh(pi * b / a) - 1) / (pi * b / a) / std::sinh(pi * b / a);
  return {"sine plate", p, {{"point", at}, {"mean", average}}};
}

/// Two slabs with a contact resistance between.
KnownForm contactSlabs(double size)
{
  constexpr double half = 0.015, k = 3, h = 200, hot = 500, cold = 300;
  Project p = projectWith(size * half);
  p.materials = {material("stuff", k)};
  p.parts = {part("a", "stuff", block(0.02, 0.02, half)),
             part("b", "stuff", block(0.02, 0.02, half), Vec3(0, 0, half))};
  p.surfaces = {surface("top", {"b.top"}), surface("bottom", {"a.bottom"})};
  p.contacts = {contact("a", "b", AreaConductance{number(h)})};
  p.boundaries = {boundary("hot", FixedSurface{"top", number(hot)}),
                  boundary("cold", FixedSurface{"bottom", number(cold)})};
  p.watches = {watch("heat", ContactHeat{"b", "a"}), hottest("a")};
  const double flux = (hot - cold) / (2 * half / k + 1 / h);
  return {"contact", p, {{"heat", flux * 4e-4}, {"hottest", cold + flux * half / k}}};
}

/// Pipe in a pipe that radiate to each other as an enclosure: conduction, grey exchange, conduction in series.
KnownForm coaxialCylinders(double size)
{
  constexpr double bore = 0.01, inner = 0.02, outer = 0.05, skin = 0.06, k = 2, hot = 900, cold = 350, emissivity = 0.7;
  Project p = projectWith(size * (inner - bore));
  p.materials = {material("stuff", k)};
  p.materials.front().emissivity = number(emissivity);
  Section section;
  section.cut = PlaneSection{Across::Y, number(0), {}};
  p.section = section;
  p.parts = {part("core", "stuff", Disc{number(inner), number(bore)}),
             part("mantle", "stuff", Disc{number(skin), number(outer)})};
  p.surfaces = {surface("bore", {"core.inside"}), surface("in", {"core.outside"}), surface("out", {"mantle.inside"}),
                surface("skin", {"mantle.outside"})};
  p.boundaries = {boundary("hot", FixedSurface{"bore", number(hot)}),
                  boundary("cold", FixedSurface{"skin", number(cold)})};
  Enclosure space;
  space.id = space.name = "space";
  space.surfaces = {"in", "out"};
  p.enclosures = {space};
  p.watches = {watch("heat", SurfaceHeat{"bore"}), watch("warm", SurfaceFigure{PartFigure::Kind::Mean, "in"}),
               watch("cool", SurfaceFigure{PartFigure::Kind::Mean, "out"})};
  const double grey = 2 * pi * inner * stefanBoltzmann / (1 / emissivity + inner / outer * (1 / emissivity - 1));
  const auto warm = [&](double heat) { return hot - heat * std::log(inner / bore) / (2 * pi * k); };
  const auto cool = [&](double heat) { return cold + heat * std::log(skin / outer) / (2 * pi * k); };
  double low = 0, high = 1e5; // W/m
  for (int i = 0; i < 200; ++i) {
    const double heat = (low + high) / 2;
    (grey * (std::pow(warm(heat), 4) - std::pow(cool(heat), 4)) > heat ? low : high) = heat;
  }
  return {"coaxial cylinders", p, {{"heat", low}, {"warm", warm(low)}, {"cool", cool(low)}}};
}

/// Current from the bore of a pipe to its skin, both held: T = T₀ + C/2k (ln r/a)(ln b/r), C = σ (V/ln b/a)².
KnownForm heatedByCurrent(double size)
{
  constexpr double bore = 0.01, skin = 0.03, k = 1.5, sigma = 100, volts = 5, around = 300;
  Project p = projectWith(size * (skin - bore));
  Material stuff = material("stuff", k);
  stuff.electricConductivity = plain(sigma);
  p.materials = {stuff};
  p.parts = {part("pipe", "stuff", Tube{number(skin), number(bore), number(0.02)})};
  p.surfaces = {surface("in", {"pipe.inside"}), surface("out", {"pipe.outside"})};
  p.boundaries = {
      boundary("live", FixedVoltage{"in", number(volts)}), boundary("earth", FixedVoltage{"out", number(0)}),
      boundary("holdIn", FixedSurface{"in", number(around)}), boundary("holdOut", FixedSurface{"out", number(around)})};
  p.watches = {hottest("pipe"), watch("heat", SurfaceHeat{"out"}), pointAt(0.02, 0, 0.01)};
  const double all = std::log(skin / bore);
  const double strength = sigma * volts * volts / (all * all);
  const double watts = 2 * pi * 0.02 * sigma * volts * volts / all;
  const double at = std::log(0.02 / bore) * std::log(skin / 0.02);
  return {"heated by current",
          p,
          {{"hottest", around + strength / (8 * k) * all * all},
           {"heat", -watts / 2},
           {"point", around + strength / (2 * k) * at}}};
}

/// Slab lit from above, half of it caught, held below and cooled above.
KnownForm litSlab(double size)
{
  constexpr double length = 0.03, k = 0.5, flux = 900, absorbed = 0.5, h = 15, cold = 290, air = 300;
  Project p = projectWith(size * length);
  p.materials = {material("stuff", k)};
  Finish grey;
  grey.id = grey.name = "grey";
  grey.emissivity = number(0.5);
  grey.solarAbsorptance = number(absorbed);
  grey.surfaces = {"top"};
  p.finishes = {grey};
  p.parts = {part("slab", "stuff", block(0.02, 0.02, length))};
  p.surfaces = {surface("top", {"slab.top"}), surface("bottom", {"slab.bottom"})};
  p.sources = {source("lamp", Beam{{"top"}, {number(0), number(0), number(1)}, number(flux)})};
  p.boundaries = {boundary("cold", FixedSurface{"bottom", number(cold)}),
                  boundary("air", Convection{"top", plain(h), plain(air)})};
  p.watches = {hottest("slab"), watch("heat", SurfaceHeat{"bottom"})};
  const double through = (absorbed * flux + h * (air - cold)) / (1 + h * length / k); // W/m² down
  return {"lit slab", p, {{"hottest", cold + through * length / k}, {"heat", -through * 4e-4}}};
}

std::vector<KnownForm> formsAt(double size)
{
  return {heatedSlab(size),        hollowCylinder(size), heatedRound(size, false),
          heatedRound(size, true), radiatingBar(size),   kirchhoff(size),
          sinePlate(size),         contactSlabs(size),   coaxialCylinders(size),
          heatedByCurrent(size),   litSlab(size)};
}

/// Slab of 50 mm, a = 1e-6 m²/s, one end of which is changed at once, for so short that the other does not feel it.
KnownForm stepSlab(double size, const char* name, Boundary left, std::vector<std::pair<double, double>> exact)
{
  Project p = slab(0.05, size);
  p.boundaries = {std::move(left)};
  p.watches.clear();
  KnownForm form{name, p, {}};
  for (const auto& [depth, kelvin] : exact) {
    const std::string id = "at " + std::to_string(depth);
    form.project.watches.push_back(watch(id, PointFigure{{number(depth - 0.025), number(0), number(0.001)}}));
    form.exact.emplace_back(id, kelvin);
  }
  return form;
}

/// What is known of runs in time: Carslaw and Jaeger (1959), 2.5 and 2.7; a lump.
std::vector<KnownForm> runsAt(double size)
{
  constexpr double a = 1e-6, k = 2, until = 200;
  const double reach = 2 * std::sqrt(a * until);
  const auto inside = [&](double x) { return std::erfc(x / reach); };
  std::vector<KnownForm> forms;
  forms.push_back(stepSlab(size, "held at once", boundary("hot", FixedSurface{"left", number(400)}),
                           {{0.01, 300 + 100 * inside(0.01)}, {0.025, 300 + 100 * inside(0.025)}}));
  constexpr double h = 150;
  const auto cooled = [&](double x) {
    const double b = h / k;
    return std::erfc(x / reach) - std::exp(b * x + b * b * a * until) * std::erfc(x / reach + b * std::sqrt(a * until));
  };
  forms.push_back(stepSlab(size, "dipped", boundary("bath", Convection{"left", plain(h), plain(400)}),
                           {{0.0, 300 + 100 * cooled(0)}, {0.012, 300 + 100 * cooled(0.012)}}));
  for (KnownForm& form : forms)
    inTime(form.project, 300, until);
  KnownForm small{"lump", lump(400, 150), {{"t", 300 + 100 * std::exp(-1.5)}}};
  small.project.mesh.size = number(size);
  forms.push_back(small);
  return forms;
}

} // namespace

class TestBars : public QObject
{
  Q_OBJECT
private slots:
  void barsCoverTheError()
  {
    int all = 0;
    int covered = 0;
    QStringList missed;
    for (const int order : {1, 2})
      for (const double size : {0.6, 0.4, 0.28})
        for (KnownForm& form : formsAt(size)) {
          form.project.mesh.secondOrder = order == 2;
          const QTemporaryDir folder;
          const auto record =
              runSure(form.project, form.project.cases.front(), folder.path().toStdString(), noProgress);
          if (!record)
            continue; // so coarse that the sizes do not fall: refused in words
          for (const auto& [id, exact] : form.exact) {
            const SureRecord::OfWatch* own = record->find(id);
            QVERIFY(own != nullptr);
            const double error = std::abs(own->values[1] - exact);
            constexpr double solver = 2e-6; // of the value: where the solver stops
            const bool in = error <= own->convergence.bar + solver * std::abs(exact);
            ++all;
            covered += in ? 1 : 0;
            std::printf("| %s, %s | %d | %.2f | %.3g | %.3g | %s |\n", qPrintable(form.name), id.c_str(), order, size,
                        error, own->convergence.bar, in ? "yes" : "NO");
            if (!in)
              missed << QString("%1 %2, order %3, size %4: error %5, bar %6")
                            .arg(form.name, QString::fromStdString(id))
                            .arg(order)
                            .arg(size)
                            .arg(error)
                            .arg(own->convergence.bar);
          }
        }
    std::printf("covered %d of %d\n", covered, all);
    QVERIFY(all > 100);
    QVERIFY2(covered >= 0.95 * all, qPrintable(missed.join("\n")));
  }

  /// A figure shows a digit more than its bar.
  void aFigureShowsADigitMoreThanItsBar()
  {
    SureRecord::OfWatch own;
    own.values = {377, 377.38123, 377.4};
    own.convergence.bar = 0.0213;
    QCOMPARE(figureText(own, Quantity::Temperature, TemperatureUnit::Celsius), std::string("104.231 °C"));
    own.convergence.bar = 3;
    QCOMPARE(figureText(own, Quantity::Temperature, TemperatureUnit::Celsius), std::string("104.2 °C"));
  }
  /// Differences below what the solver leaves are none.
  void noiseIsNoError()
  {
    const Convergence found = convergenceOf({{{3, 300.000003}, {2, 300.0000005}, {1, 300.000002}}}, 2e-4);
    QCOMPARE(found.verdict, Convergence::Verdict::Equal);
    QCOMPARE(found.bar, 0.0);
  }
  /// A fine difference that is small by chance does not make a small bar.
  void aLuckyDifferenceIsNotTrusted()
  {
    const Convergence found = convergenceOf({{{2.25, 310}, {1.5, 300.01}, {1, 300}}}, 0, 2);
    QVERIFY(found.bar > 5);
  }
  /// Runs in time have bars, too, from a coarser twin.
  void barsOfRunsCoverTheError()
  {
    int all = 0;
    int covered = 0;
    QStringList missed;
    for (const int order : {1, 2})
      for (const double size : {0.006, 0.004, 0.0025})
        for (KnownForm& form : runsAt(size)) {
          form.project.mesh.secondOrder = order == 2;
          const QTemporaryDir folder;
          const Case& one = form.project.cases.front();
          const auto record = runSure(form.project, one, folder.path().toStdString(), noProgress);
          QVERIFY2(record.has_value(), record ? "" : wordsOf(record.error()).c_str());
          const auto stored = loadSure(sureFile(folder.path().toStdString(), one.id));
          QVERIFY(stored && stored->watches.size() == record->watches.size());
          for (const auto& [id, exact] : form.exact) {
            const SureRecord::OfWatch* own = record->find(id);
            QVERIFY(own != nullptr);
            QCOMPARE(own->convergence.verdict, Convergence::Verdict::Twin);
            const double error = std::abs(own->values[1] - exact);
            const bool in = error <= own->convergence.bar;
            ++all;
            covered += in ? 1 : 0;
            std::printf("| %s, %s | %d | %.4f | %.3g | %.3g | %s |\n", qPrintable(form.name), id.c_str(), order, size,
                        error, own->convergence.bar, in ? "yes" : "NO");
            if (!in)
              missed << QString("%1 %2, order %3, size %4").arg(form.name, id.c_str()).arg(order).arg(size);
          }
        }
    std::printf("covered %d of %d runs\n", covered, all);
    QVERIFY(all >= 30);
    QVERIFY2(covered >= 0.95 * all, qPrintable(missed.join("\n")));
  }
};

QTEST_GUILESS_MAIN(TestBars)
#include "tst_bars.moc"
