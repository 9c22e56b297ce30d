// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
//
// Parameters and formulas: values, units, names, rings, places.
#include "TestProjects.h"
#include "io/ProjectFile.h"
#include "model/Edit.h"
#include "model/OwnValues.h"
#include "model/Parameters.h"
#include "model/Settings.h"

#include <QTest>
#include <cmath>

using namespace kiln;
using namespace kiln::test;

namespace
{

Parameter parameter(const std::string& name, Quantity quantity, double si)
{
  Parameter p;
  p.id = name;
  p.name = name;
  p.quantity = quantity;
  p.value = {si, {}};
  return p;
}

Parameter formula(const std::string& name, Quantity quantity, const std::string& text)
{
  Parameter p = parameter(name, quantity, 0);
  p.value = {0, text, true};
  return p;
}

/// Wall 58 mm, width 0.5 m, heat 1440 W, ratio 2, warm 353.15 K.
Project sample()
{
  Project project = projectWith(0.1);
  project.parameters = {parameter("wall", Quantity::Length, 0.058), parameter("width", Quantity::Length, 0.5),
                        parameter("heat", Quantity::Power, 1440), parameter("ratio", Quantity::Plain, 2),
                        parameter("warm", Quantity::Temperature, 353.15)};
  return project;
}

} // namespace

class FormulasTest : public QObject
{
  Q_OBJECT

private slots:
  void valuesAndUnits_data()
  {
    QTest::addColumn<QString>("text");
    QTest::addColumn<int>("quantity");
    QTest::addColumn<double>("si");
    const auto row = [](const char* text, Quantity quantity, double si) {
      QTest::newRow(text) << text << static_cast<int>(quantity) << si;
    };
    row("2*wall", Quantity::Length, 0.116);
    row("wall + 5 mm", Quantity::Length, 0.063);
    row("width/2 − wall", Quantity::Length, 0.192);
    row("wall·width", Quantity::Area, 0.029);
    row("wall²", Quantity::Area, 0.003364);
    row("sqrt(wall*width)", Quantity::Length, std::sqrt(0.029));
    row("max(wall, 70 mm)", Quantity::Length, 0.07);
    row("heat/(wall*width)", Quantity::HeatFlux, 1440 / 0.029);
    row("heat/ratio", Quantity::Power, 720);
    row("warm + 10 K", Quantity::Temperature, 363.15);
    row("20 °C + ratio*1 K", Quantity::Temperature, 295.15);
    row("warm − 20 °C", Quantity::TemperatureStep, 60);
    row("0.5 W/(m·K) / wall", Quantity::AreaConductance, 0.5 / 0.058);
    row("0.5 [W/(m·K)] / wall", Quantity::AreaConductance, 0.5 / 0.058); // as older files have it
    row("0.5 W/(m·K)/wall", Quantity::AreaConductance, 0.5 / 0.058);     // the longest unit; wall is none
    row("(0.5 W/(m·K))/(wall)", Quantity::AreaConductance, 0.5 / 0.058);
    row("12 W/(m²·K)*ratio", Quantity::AreaConductance, 24);
    row("6 W/m²·wall", Quantity::PowerPerLength, 0.348);
    row("wall/2 m", Quantity::Plain, 0.029);
    row("3 kg/m³ * 0 + 5 kg/m³", Quantity::Density, 5);
    row("sigma*warm^4", Quantity::HeatFlux, 5.670374419e-8 * std::pow(353.15, 4));
    row("σ*warm^3*4", Quantity::AreaConductance, 4 * 5.670374419e-8 * std::pow(353.15, 3));
    row("pi*width", Quantity::Length, M_PI * 0.5);
    row("width*sin(30 deg)", Quantity::Length, 0.25);
    row("ratio^3 + 10 %", Quantity::Plain, 8.1);
    row("wall > 50 mm ? 1 mm : 2 mm", Quantity::Length, 0.001);
  }
  void valuesAndUnits()
  {
    QFETCH(QString, text);
    QFETCH(int, quantity);
    QFETCH(double, si);
    const Project project = sample();
    const auto value = Formulas(project).evaluate(text.toStdString(), static_cast<Quantity>(quantity));
    QVERIFY2(value, value ? "" : value.error().sentence().c_str());
    QVERIFY2(std::abs(*value - si) <= 1e-12 * std::abs(si), qPrintable(QString::number(*value, 'g', 15)));
  }

  void wrongOnesAreExplained_data()
  {
    QTest::addColumn<QString>("text");
    QTest::addColumn<int>("quantity");
    QTest::addColumn<QString>("says");
    const auto row = [](const char* text, Quantity quantity, const char* says) {
      QTest::newRow(text) << text << static_cast<int>(quantity) << says;
    };
    row("heat", Quantity::Length, "gives a power, but this field takes a length");
    row("wall + heat", Quantity::Length, "different kinds");
    row("wall + 1", Quantity::Length, "different kinds");
    row("ratio", Quantity::Length, "a pure number");
    row("wal", Quantity::Length, "Did you mean “wall”?");
    row("nothing_like_it", Quantity::Length, "no parameter");
    row("wall*", Quantity::Length, "not a complete formula");
    row("wall/(ratio-2)", Quantity::Length, "no finite value");
    row("sqroot(wall)", Quantity::Length, "not a function");
    row("x + wall", Quantity::Length, "no parameter “x”");
    row("3 [W/(m·K", Quantity::Conductivity, "not closed");
    row("3 W/(m·K", Quantity::Conductivity, "no parameter “m”"); // no unit, as it is not closed
    row("warm - 400 K", Quantity::Temperature, "below absolute zero");
  }
  void wrongOnesAreExplained()
  {
    QFETCH(QString, text);
    QFETCH(int, quantity);
    QFETCH(QString, says);
    const Project project = sample();
    const auto value = Formulas(project).evaluate(text.toStdString(), static_cast<Quantity>(quantity));
    QVERIFY(!value);
    QVERIFY2(QString::fromStdString(value.error().sentence()).contains(says), value.error().sentence().c_str());
    QVERIFY(!value.error().remedy.empty());
  }

  void parametersMayUseEachOtherButNotInARing()
  {
    Project project = sample();
    project.parameters.push_back(formula("outer", Quantity::Length, "inner + 2*wall"));
    project.parameters.push_back(formula("inner", Quantity::Length, "width/ratio"));
    QVERIFY(applyParameters(project).empty());
    QCOMPARE(findById(project.parameters, "outer")->value.si, 0.25 + 0.116);
    findById(project.parameters, "inner")->value.text = "outer - wall";
    const std::vector<FormulaProblem> problems = applyParameters(project);
    QCOMPARE(problems.size(), std::size_t{2});
    QVERIFY2(problems.front().failure.sentence().find("comes back to itself: inner → outer → inner") !=
                 std::string::npos,
             problems.front().failure.sentence().c_str());
    QVERIFY(mentions(checkModel(project), Finding::Severity::Error, {"comes back to itself"}));
  }

  void aChangedParameterChangesEverythingWrittenWithIt()
  {
    Project project = sample();
    project.parts = {part("brick", "", block(1, 1, 1))};
    QVERIFY(setField(project, "brick.sizeX", "2*wall"));
    QVERIFY(setField(project, "brick.sizeY", "width"));
    QCOMPARE(std::get<Block>(project.parts[0].shape.form).sizeX.si, 0.116);
    QVERIFY(setField(project, "wall.value", "60 mm"));
    QCOMPARE(std::get<Block>(project.parts[0].shape.form).sizeX.si, 0.12);
    // A case may give the parameter another value.
    Case thick = project.cases.front();
    thick.changes = {{"wall.value", Property{0.1, "100 mm"}}};
    const auto own = projectForCase(project, thick);
    QVERIFY(own);
    QCOMPARE(std::get<Block>(own->parts[0].shape.form).sizeX.si, 0.2);
  }

  void renamingRenamesTheUses()
  {
    Project project = sample();
    project.parts = {part("brick", "", block(1, 1, 1))};
    QVERIFY(setField(project, "brick.sizeX", "2*wall + max(wall,width)"));
    project.parameters.push_back(formula("half", Quantity::Length, "wall/2"));
    Case one = project.cases.front();
    one.id = "other";
    one.changes = {{"brick.sizeY", Property{Number{0.058, "wall", true}}}};
    project.cases.push_back(one);
    renameParameter(project, "wall", "brickwork");
    QCOMPARE(std::get<Block>(project.parts[0].shape.form).sizeX.text,
             std::string("2*brickwork + max(brickwork,width)"));
    QCOMPARE(findById(project.parameters, "half")->value.text, std::string("brickwork/2"));
    QCOMPARE(project.cases[1].changes[0].number()->text, std::string("brickwork"));
    QVERIFY(applyParameters(project).empty());
    QVERIFY(badParameterName(project, "wall", "width") && badParameterName(project, "wall", "g") &&
            badParameterName(project, "wall", "5a") && !badParameterName(project, "wall", "a5"));
  }

  void whatIsTypedBecomesANumberOrAFormula()
  {
    const Project project = sample();
    const auto plain = readEntry(project, "12 mm", Quantity::Length);
    QVERIFY(plain && !plain->number.formula && plain->number.si == 0.012);
    const auto arithmetic = readEntry(project, "2*30", Quantity::Length); // in the unit shown
    QVERIFY(arithmetic && !arithmetic->number.formula);
    QCOMPARE(arithmetic->number.si, 0.06);
    QCOMPARE(arithmetic->number.text, std::string("60 mm"));
    const auto written = readEntry(project, "wall*2", Quantity::Length);
    QVERIFY(written && written->number.formula);
    QCOMPARE(written->readBack, std::string("wall*2 = 116 mm"));
  }

  void placesVary()
  {
    const Project project = sample();
    const Formulas formulas(project);
    const auto h = formulas.atPlaces("10 [W/(m²·K)] * (1 + z/width)", Quantity::AreaConductance);
    QVERIFY(h);
    QCOMPARE((*h)(Vec3(0, 0, 0)), 10.0);
    QCOMPARE((*h)(Vec3(7, -3, 0.25)), 15.0);
    QVERIFY(!formulas.atPlaces("10 [W/(m²·K)] + z", Quantity::AreaConductance));
  }

  void theFileKeepsFormulasAndTables()
  {
    Project project = sample();
    project.materials = {material("brick", 1)};
    project.materials[0].conductivity.table = {{{300, "300 K"}, {0.3, {}}}, {{900, {}}, {0.5, {}}}};
    project.parts = {part("p", "brick", block(1, 1, 1))};
    QVERIFY(setField(project, "p.sizeX", "2*wall"));
    project.materials[0].conductivity.si = 0.3;
    const std::string text = writeProject(project);
    const auto again = readProject(text, "x");
    QVERIFY2(again, again ? "" : again.error().sentence().c_str());
    QVERIFY(*again == project);
    QCOMPARE(writeProject(*again), text);
  }

  void aTableIsHeldBeyondItsEnds()
  {
    Property k;
    k.table = {{{300, {}}, {1, {}}}, {{400, {}}, {3, {}}}, {{500, {}}, {4, {}}}};
    QCOMPARE(valueAt(k, 200).value, 1.0);
    QCOMPARE(valueAt(k, 200).slope, 0.0);
    QCOMPARE(valueAt(k, 350).value, 2.0);
    QCOMPARE(valueAt(k, 350).slope, 0.02);
    QCOMPARE(valueAt(k, 450).value, 3.5);
    QCOMPARE(valueAt(k, 900).value, 4.0);
  }
};

QTEST_APPLESS_MAIN(FormulasTest)
#include "tst_formulas.moc"
