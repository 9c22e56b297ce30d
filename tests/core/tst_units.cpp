// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "units/DecimalSign.h"
#include "units/Quantity.h"
#include "units/UnitSet.h"

#include <QScopeGuard>
#include <QTest>
#include <cmath>

using namespace kiln;

class UnitsTest : public QObject
{
  Q_OBJECT

private slots:
  /// Where the user's language has a decimal comma, numbers are read with either sign; elsewhere a comma is refused.
  void decimalCommas()
  {
    QVERIFY(!parseQuantity("1,5 kW", Quantity::Power));
    setDecimalComma(true);
    const auto back = qScopeGuard([] { setDecimalComma(false); });
    const auto si = [](const char* text, Quantity quantity) {
      const auto read = parseQuantity(text, quantity);
      return read ? read->si : std::nan("");
    };
    QCOMPARE(si("1,5 kW", Quantity::Power), 1500.0);
    QCOMPARE(si("1.5 kW", Quantity::Power), 1500.0);
    QCOMPARE(si("−0,25", Quantity::Plain), -0.25);
    QCOMPARE(si("12,5e-3 m", Quantity::Length), 0.0125);
    QVERIFY(std::abs(si("20,5 °C", Quantity::Temperature) - 293.65) < 1e-9);
    QVERIFY(!parseQuantity("1.234,5 W", Quantity::Power)); // which of both is meant?
    QVERIFY(!parseQuantity("1,2,3 W", Quantity::Power));
    QVERIFY(!parseQuantity("1, W", Quantity::Power));
  }

  void convertsWhatPeopleType_data()
  {
    QTest::addColumn<QString>("text");
    QTest::addColumn<int>("quantity");
    QTest::addColumn<double>("si");
    const auto row = [](const char* text, Quantity quantity, double si) {
      QTest::newRow(text) << QString(text) << static_cast<int>(quantity) << si;
    };
    row("1490 K", Quantity::Temperature, 1490);
    row("25", Quantity::Temperature, 298.15);
    row("25 °C", Quantity::Temperature, 298.15);
    row("25 C", Quantity::Temperature, 298.15);
    row("95 degF", Quantity::Temperature, (95 - 32) / 1.8 + 273.15);
    row("-40 °F", Quantity::Temperature, 233.15);
    row("−40 °C", Quantity::Temperature, 233.15);
    row("1.6 mm", Quantity::Length, 0.0016);
    row("12", Quantity::Length, 0.012);
    row("2 in", Quantity::Length, 0.0508);
    row("1.3 kW", Quantity::Power, 1300);
    row("1e5", Quantity::HeatFlux, 1e5);
    row("0.5 W/cm2", Quantity::HeatFlux, 5000);
    row("0.31 W/(m·K)", Quantity::Conductivity, 0.31);
    row("0.31 W/m/K", Quantity::Conductivity, 0.31);
    row("7.85 g/cm3", Quantity::Density, 7850);
    row("10 W/(m²·K)", Quantity::AreaConductance, 10);
    row("0.002 m²·K/W", Quantity::AreaResistance, 0.002);
    row("0.5 K/W", Quantity::Resistance, 0.5);
    row("90 deg", Quantity::Angle, 3.14159265358979323846 / 2);
    row("90°", Quantity::Angle, 3.14159265358979323846 / 2);
    row("85 %", Quantity::Plain, 0.85);
    row("1 degF", Quantity::TemperatureStep, 1 / 1.8);
    row("5 degC", Quantity::TemperatureStep, 5);
    row("5", Quantity::TemperatureStep, 5);
  }
  void convertsWhatPeopleType()
  {
    QFETCH(QString, text);
    QFETCH(int, quantity);
    QFETCH(double, si);
    const auto parsed = parseQuantity(text.toStdString(), static_cast<Quantity>(quantity));
    QVERIFY2(parsed, parsed ? "" : parsed.error().sentence().c_str());
    QVERIFY2(std::abs(parsed->si - si) <= 1e-9 * std::max(1.0, std::abs(si)),
             qPrintable(QString::number(parsed->si, 'g', 12)));
  }

  /// Every quantity in every set of units: what is shown reads back to what it was, and one of its unit is what the
  /// library of units says.
  void everySetReadsBack()
  {
    for (const UnitSet set : {UnitSet::Prefixed, UnitSet::Plain, UnitSet::InchPound}) {
      setUnitSet(set);
      for (int i = 0; i <= static_cast<int>(Quantity::TemperatureGradient); ++i) {
        const auto quantity = static_cast<Quantity>(i);
        const std::string unit = displayUnit(quantity);
        if (quantity == Quantity::Plain || quantity == Quantity::Temperature)
          continue;
        const auto one = parseQuantity("1 " + unit, quantity);
        QVERIFY2(one, (unit + ": " + (one ? "" : one.error().sentence())).c_str());
        QVERIFY2(std::abs(one->si - fromDisplay(1, quantity)) < 1e-6 * one->si, unit.c_str());
        const auto bare = parseQuantity("1", quantity); // a bare number is of the shown unit
        QVERIFY2(bare && std::abs(bare->si - one->si) < 1e-6 * one->si, unit.c_str());
        if (quantity == Quantity::Time)
          continue; // "20 min 34 s" is for reading
        const double value = 1234.5 * one->si;
        const std::string text = formatQuantity(value, quantity, {}, 7);
        const auto back = parseQuantity(text.starts_with("−") ? "-" + text.substr(3) : text, quantity);
        QVERIFY2(back, text.c_str());
        QVERIFY2(std::abs(back->si - value) < 1e-5 * value, text.c_str());
      }
    }
    setUnitSet(UnitSet::Prefixed);
  }

  void setsAsPeopleReadThem()
  {
    setUnitSet(UnitSet::InchPound);
    QCOMPARE(formatQuantity(0.0254, Quantity::Length), std::string("1 in"));
    QCOMPARE(formatQuantity(293.0710702, Quantity::Power), std::string("1000 Btu/h"));
    QCOMPARE(formatQuantity(3154.5907, Quantity::HeatFlux), std::string("1000 Btu/(h·ft²)"));
    QCOMPARE(formatQuantity(1.7307347, Quantity::Conductivity), std::string("1 Btu/(h·ft·°F)"));
    setUnitSet(UnitSet::Plain);
    QCOMPARE(formatQuantity(0.0254, Quantity::Length), std::string("0.0254 m"));
    QCOMPARE(formatQuantity(12345, Quantity::Power), std::string("12345 W"));
    QCOMPARE(formatQuantity(7200, Quantity::Time), std::string("7200 s"));
    setUnitSet(UnitSet::Prefixed);
    QCOMPARE(formatQuantity(0.0254, Quantity::Length), std::string("25.4 mm"));
    QCOMPARE(formatQuantity(12345, Quantity::HeatFlux), std::string("12.35 kW/m²"));
    QCOMPARE(formatQuantity(9000, Quantity::HeatFlux), std::string("9000 W/m²"));
    QCOMPARE(formatQuantity(7200, Quantity::Time), std::string("2 h"));
  }

  void refusesTheWrongKindWithASentence_data()
  {
    QTest::addColumn<QString>("text");
    QTest::addColumn<int>("quantity");
    QTest::addColumn<QString>("says");
    const auto row = [](const char* text, Quantity quantity, const char* says) {
      QTest::newRow(text) << QString(text) << static_cast<int>(quantity) << QString(says);
    };
    row("50 W", Quantity::HeatFlux, "is a power, but this field takes a heat flux");
    row("50 W/m2", Quantity::Power, "is a heat flux, but this field takes a power");
    row("3 mm", Quantity::Temperature, "is a length");
    row("5 K", Quantity::Plain, "is a temperature");
    row("abc", Quantity::Power, "does not start with a number");
    row("", Quantity::Power, "holds no number");
    row("1,5 kW", Quantity::Power, "comma");
    row("12 blorg", Quantity::Length, "not known");
    row("nan", Quantity::Power, "not a finite number");
    row("1e999", Quantity::Power, "too large");
    row("-300 °C", Quantity::Temperature, "below absolute zero");
  }
  void refusesTheWrongKindWithASentence()
  {
    QFETCH(QString, text);
    QFETCH(int, quantity);
    QFETCH(QString, says);
    const auto parsed = parseQuantity(text.toStdString(), static_cast<Quantity>(quantity));
    QVERIFY(!parsed);
    const QString sentence = QString::fromStdString(parsed.error().sentence());
    QVERIFY2(sentence.contains(says), qPrintable(sentence));
    QVERIFY2(sentence.contains("Enter "), qPrintable(sentence)); // and how to mend it
  }

  void aBareNumberFollowsTheDisplayUnit()
  {
    QCOMPARE(parseQuantity("68", Quantity::Temperature, TemperatureUnit::Fahrenheit)->si, 293.15);
    QCOMPARE(parseQuantity("300", Quantity::Temperature, TemperatureUnit::Kelvin)->si, 300.0);
    QCOMPARE(parseQuantity("9", Quantity::TemperatureStep, TemperatureUnit::Fahrenheit)->si, 5.0);
  }

  void readsBackInWords()
  {
    QCOMPARE(QString::fromStdString(parseQuantity("1.3 kW", Quantity::Power)->readBack), QString("1.3 kW = 1300 W"));
    QCOMPARE(QString::fromStdString(parseQuantity("95 degF", Quantity::Temperature)->readBack),
             QString("95 degF = 35.0 °C"));
    QCOMPARE(QString::fromStdString(parseQuantity("1e5", Quantity::HeatFlux)->readBack), QString("1e5 = 100 000 W/m²"));
  }

  void formatsForReading()
  {
    const auto text = [](double si, Quantity quantity, TemperatureUnit unit = TemperatureUnit::Celsius) {
      return QString::fromStdString(formatQuantity(si, quantity, unit));
    };
    QCOMPARE(text(377.35, Quantity::Temperature), QString("104.2 °C"));
    QCOMPARE(text(377.35, Quantity::Temperature, TemperatureUnit::Kelvin), QString("377.4 K"));
    QCOMPARE(text(273.15, Quantity::Temperature, TemperatureUnit::Fahrenheit), QString("32.0 °F"));
    QCOMPARE(text(1520, Quantity::Power), QString("1.52 kW"));
    QCOMPARE(text(-600, Quantity::Power), QString("−600 W"));
    QCOMPARE(text(0.0016, Quantity::Length), QString("1.6 mm"));
    QCOMPARE(text(-12, Quantity::TemperatureStep), QString("−12 K"));
    QCOMPARE(text(1e-14, Quantity::Power), QString("0 W"));
  }
};

QTEST_APPLESS_MAIN(UnitsTest)
#include "tst_units.moc"
