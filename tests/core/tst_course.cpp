// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
//
// Courses in time against answers worked out here: quenched cylinder and sphere by their series, and a manufactured
// course with conduction, storage, a source by place and time, a contact, convection and radiation together.
#include "TransientProjects.h"

#include <QTest>
#include <cmath>
#include <functional>
#include <numbers>

using namespace kiln;
using namespace kiln::test;

namespace
{

constexpr double pi = std::numbers::pi;
constexpr double radius = 0.02;    // m
constexpr double conduction = 2;   // W/(m·K)
constexpr double diffusion = 1e-6; // m²/s
constexpr double film = 150;       // W/(m²·K)

/// The root of f between two places where it changes sign.
double rootOf(const std::function<double(double)>& f, double low, double high)
{
  const bool rising = f(low) < f(high);
  for (int i = 0; i < 100; ++i) {
    const double middle = (low + high) / 2;
    ((f(middle) < 0) == rising ? low : high) = middle;
  }
  return (low + high) / 2;
}

/// Share of the first temperature difference left in a long cylinder; r of its radius.
double cylinderSeries(double r, double time)
{
  const double biot = film * radius / conduction;
  const auto balance = [&](double z) { return z * std::cyl_bessel_j(1, z) - biot * std::cyl_bessel_j(0, z); };
  double sum = 0;
  double from = 1e-6;
  for (int n = 0; n < 12; ++n) {
    double to = from + 0.1;
    while (balance(from) * balance(to) > 0)
      to += 0.1;
    const double z = rootOf(balance, to - 0.1 > from ? to - 0.1 : from, to);
    const double j0 = std::cyl_bessel_j(0, z);
    const double j1 = std::cyl_bessel_j(1, z);
    sum += 2 / z * j1 / (j0 * j0 + j1 * j1) * std::exp(-z * z * diffusion * time / (radius * radius)) *
           std::cyl_bessel_j(0, z * r);
    from = to;
  }
  return sum;
}

/// The same in a sphere: 1 − ζ cot ζ = Bi.
double sphereSeries(double r, double time)
{
  const double biot = film * radius / conduction;
  double sum = 0;
  for (int n = 0; n < 12; ++n) {
    const double z = rootOf([&](double s) { return s * std::cos(s) + (biot - 1) * std::sin(s); }, n * pi + 1e-9,
                            (n + 1) * pi - 1e-9);
    const double shape = r < 1e-9 ? 1 : std::sin(z * r) / (z * r);
    sum += 4 * (std::sin(z) - z * std::cos(z)) / (2 * z - std::sin(2 * z)) *
           std::exp(-z * z * diffusion * time / (radius * radius)) * shape;
  }
  return sum;
}

/// A body of one form quenched from 500 K by air at 300 K, in the middle and at the skin; the largest error, K.
double quenched(Form form, const char* skin, double height, double (*series)(double, double), double size,
                double tolerance)
{
  Project p = projectWith(size);
  p.materials = {heavy("clay", conduction, 1000, conduction / diffusion / 1000)};
  p.parts = {part("body", "clay", std::move(form))};
  p.surfaces = {surface("skin", {skin})};
  p.boundaries = {boundary("air", Convection{"skin", Property{film, ""}, Property{300, ""}})};
  p.watches = {watch("middle", PointFigure{{number(0), number(0), number(height)}}),
               watch("skin", SurfaceFigure{PartFigure::Kind::Mean, "skin"})};
  inTime(p, 500, 600).tolerance = number(tolerance);
  const Ran ran = run(p);
  double worst = 0;
  for (const double time : {60.0, 100.0, 160.0, 250.0, 400.0, 600.0}) {
    worst = std::max(worst, std::abs(valueAt(ran.record, "middle", time) - 300 - 200 * series(0, time)));
    worst = std::max(worst, std::abs(valueAt(ran.record, "skin", time) - 300 - 200 * series(1, time)));
  }
  return worst;
}

Parameter course(const std::string& id, Quantity quantity, double first, double last, double until)
{
  Parameter own;
  own.id = own.name = id;
  own.quantity = quantity;
  own.value = number(first);
  own.schedule = Schedule{};
  own.schedule->points = {{number(0), number(first)}, {number(until), number(last)}};
  return own;
}

/// T = 300 K + a(t) g(x), a = 0.1 K/s · t, g = cos(20 x/m), lower by the contact's jump in the second half.
/// \return the largest error of the means of both ends after 1000 s, K
double manufactured(double size)
{
  constexpr double beta = 20;
  constexpr double half = 0.05;
  constexpr double contact = 200; // W/(m²·K)
  constexpr double air = 50;      // W/(m²·K)
  constexpr double rate = 0.1;    // K/s
  constexpr double until = 1000;  // s
  constexpr double k = 2;
  constexpr double store = 5e5; // J/(m³·K)
  const double jump = -k * beta * std::sin(beta * half) / contact;
  const double end = std::cos(2 * beta * half) + jump;
  const double ambient = end - k * beta * std::sin(2 * beta * half) / air;
  Project p = projectWith(size);
  p.materials = {heavy("stuff", k, 1000, store / 1000)};
  p.parts = {part("first", "stuff", block(half, 0.0125, 0.0125), {half / 2, 0, 0}),
             part("second", "stuff", block(half, 0.0125, 0.0125), {3 * half / 2, 0, 0})};
  p.surfaces = {surface("left", {"first.left"}), surface("right", {"second.right"})};
  Contact joint;
  joint.id = joint.name = "joint";
  joint.partA = "first";
  joint.partB = "second";
  joint.exchange = AreaConductance{number(contact)};
  p.contacts = {joint};
  Finish black;
  black.id = black.name = "black";
  black.emissivity = number(0.8);
  black.surfaces = {"left"};
  p.finishes = {black};
  p.parameters = {
      course("q", Quantity::HeatDensity, store * rate, store * rate + k * beta * beta * rate * until, until),
      course("room", Quantity::Temperature, 300, 300 + rate * until * ambient, until),
      course("walls", Quantity::Temperature, 300, 300 + rate * until, until)};
  const auto density = [&](const std::string& id, const std::string& formula) {
    Property heat{1, formula};
    heat.formula = true;
    return source("in-" + id, PartDensity{{id}, heat});
  };
  p.sources = {density("first", "q*cos(20*x/(1 [m]))"),
               density("second", "q*cos(20*x/(1 [m])) + " + plainNumber(store * rate * jump) + " [W/m³]")};
  Property room{300, "room"};
  room.formula = true;
  p.boundaries = {boundary("air", Convection{"right", Property{air, ""}, room}),
                  boundary("walls", Radiation{"left", Number{300, "walls", true}})};
  p.watches = {watch("left", SurfaceFigure{PartFigure::Kind::Mean, "left"}),
               watch("right", SurfaceFigure{PartFigure::Kind::Mean, "right"})};
  inTime(p, 300, until);
  const Ran ran = run(p);
  const double a = rate * until;
  return std::max(std::abs(valueAt(ran.record, "left", until) - 300 - a),
                  std::abs(valueAt(ran.record, "right", until) - 300 - a * end));
}

} // namespace

class CourseTest : public QObject
{
  Q_OBJECT

private slots:
  /// A quenched slab.
  void quenchedCylinderFollowsItsSeries()
  {
    const auto error = [](double size, double tolerance) {
      return quenched(Cylinder{number(radius), number(0.008)}, "body.side", 0.004, cylinderSeries, size, tolerance);
    };
    const double coarse = error(0.004, 0.02);
    const double fine = error(0.002, 0.02);
    qInfo("cylinder: worst %.3f K and %.3f K of 200 at half the size", coarse, fine);
    QVERIFY(fine < 0.5);
    QVERIFY(coarse / fine > 2.5);
  }
  void quenchedSphereFollowsItsSeries()
  {
    const auto error = [](double size) {
      return quenched(Sphere{number(radius)}, "body.outside", 0, sphereSeries, size, 0.02);
    };
    const double coarse = error(0.005);
    const double fine = error(0.0025);
    qInfo("sphere: worst %.3f K and %.3f K of 200 at half the size", coarse, fine);
    QVERIFY(fine < 1);
    QVERIFY(coarse / fine > 2.5);
  }
  /// A manufactured course with all terms.
  void aManufacturedCourseWithAllTerms()
  {
    const double coarse = manufactured(0.00625);
    const double middle = manufactured(0.003125);
    const double fine = manufactured(0.0015625);
    qInfo("manufactured: %.4f, %.4f, %.4f K of 100; orders %.2f, %.2f", coarse, middle, fine,
          std::log2(coarse / middle), std::log2(middle / fine));
    QVERIFY(fine < 0.1);
    QVERIFY(std::log2(coarse / fine) / 2 > 1.7);
  }
  void aRunLongerThanItsScheduleIsHinted()
  {
    Project p = lump(400, 2000);
    p.parameters = {course("room", Quantity::Temperature, 300, 320, 1000)};
    QVERIFY(mentions(checkModel(p), Finding::Severity::Hint, {"ends at", "room", "holds from there"}));
    p.parameters[0].schedule->beyond = Schedule::Beyond::Refused;
    QVERIFY(mentions(checkModel(p), Finding::Severity::Error, {"nothing may follow"}));
    p.parameters[0].schedule->beyond = Schedule::Beyond::Repeats;
    QVERIFY(!mentions(checkModel(p), Finding::Severity::Hint, {"ends at", "room"}));
  }
};

QTEST_APPLESS_MAIN(CourseTest)
#include "tst_course.moc"
