// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
//
// What the import dialog is made of: the list of bodies with what was chosen, and the picture beside it.
#include "TestProjects.h"
#include "look/Theme.h"
#include "window/Application.h"
#include "window/ImportBodies.h"
#include "window/RayPicture.h"

#include <QApplication>
#include <QJsonArray>
#include <QSignalSpy>
#include <QTableWidget>
#include <QTest>
#include <QToolButton>
#include <numeric>

using namespace kiln;
using namespace kiln::test;

namespace
{

QJsonObject body(const QString& id, const QString& name, const QString& sameAs = {}, const QString& problem = {})
{
  return {{"id", id},
          {"name", name},
          {"faces", 6},
          {"volume", 2e-5},
          {"low", QJsonArray{0.0, 0.0, 0.0}},
          {"high", QJsonArray{0.1, 0.02, 0.01}},
          {"note", ""},
          {"problem", problem},
          {"sameAs", sameAs}};
}

} // namespace

class BodiesTest : public QObject
{
  Q_OBJECT

  static QTableWidget* table(const ImportBodies& bodies) { return bodies.findChild<QTableWidget*>("bodies"); }
  static void press(const ImportBodies& bodies, const char* name)
  {
    auto* button = bodies.findChild<QToolButton*>(name);
    QVERIFY2(button->isEnabled(), name);
    QTest::mouseClick(button, Qt::LeftButton);
  }
  static void selectRows(const ImportBodies& bodies, const QList<int>& rows)
  {
    table(bodies)->clearSelection();
    for (const int row : rows)
      for (int column = 0; column < table(bodies)->columnCount(); ++column)
        table(bodies)->item(row, column)->setSelected(true);
  }
  static void fill(ImportBodies& bodies)
  {
    bodies.add(body("b1", "Plate"));
    bodies.add(body("b2", "Pin"));
    bodies.add(body("b3", "Pin 2", "b2"));
    bodies.add(body("b4", "Torn", {}, "Its skin leaks at 3 edges"));
    bodies.add(body("b5", "Pin 3", "b2"));
  }

private slots:
  void bodiesAreListedWithWhatIsKnown()
  {
    ImportBodies bodies(true);
    fill(bodies);
    QCOMPARE(table(bodies)->rowCount(), 5);
    QCOMPARE(table(bodies)->item(0, 1)->text(), QString("100 mm × 20 mm × 10 mm"));
    QCOMPARE(table(bodies)->item(0, 2)->text(), QString("20 cm³"));
    QCOMPARE(table(bodies)->item(2, 4)->text(), QString("the same body as Pin"));
    QCOMPARE(table(bodies)->item(3, 4)->text(), QString("skipped: Its skin leaks at 3 edges"));
    QCOMPARE(table(bodies)->item(3, 2)->text(), QString());
    const auto choices = bodies.choices(); // the torn one is none
    QCOMPARE(choices.size(), 4U);
    QVERIFY(std::all_of(choices.begin(), choices.end(), [](const auto& one) { return one.taken && one.into.empty(); }));
  }

  /// The first of the selected takes the others, with all that was joined to them; taken apart each stands alone.
  void bodiesAreJoinedAndTakenApart()
  {
    ImportBodies bodies(true);
    fill(bodies);
    QVERIFY(!bodies.findChild<QToolButton*>("joinSelected")->isEnabled());
    selectRows(bodies, {2, 4});
    press(bodies, "joinSelected");
    QCOMPARE(bodies.choices()[3].into, std::string("b3"));
    selectRows(bodies, {0, 2});
    press(bodies, "joinSelected");
    QCOMPARE(bodies.choices()[2].into, std::string("b1"));
    QCOMPARE(bodies.choices()[3].into, std::string("b1")); // came along
    QVERIFY(table(bodies)->item(4, 4)->text().contains("one part with Plate"));
    selectRows(bodies, {4});
    press(bodies, "takeApart");
    QCOMPARE(bodies.choices()[3].into, std::string());
    QCOMPARE(bodies.choices()[2].into, std::string("b1"));
    selectRows(bodies, {0}); // what others are joined to
    press(bodies, "takeApart");
    for (const auto& choice : bodies.choices())
      QVERIFY(choice.into.empty());
  }

  void copiesAreJoinedAtOnce()
  {
    ImportBodies bodies(true);
    fill(bodies);
    press(bodies, "joinAlike");
    const auto choices = bodies.choices();
    QCOMPARE(choices[1].into, std::string());
    QCOMPARE(choices[2].into, std::string("b2"));
    QCOMPARE(choices[3].into, std::string("b2"));
    QVERIFY(!bodies.findChild<QToolButton*>("joinAlike")->isEnabled()); // nothing is left to join
  }

  /// Names, ticks and joins outlive another reading of the file; new bodies come as they are.
  void whatWasChosenOutlivesAnotherReading()
  {
    ImportBodies bodies(true);
    fill(bodies);
    table(bodies)->item(0, 0)->setText("Shelf");
    table(bodies)->item(1, 0)->setCheckState(Qt::Unchecked);
    press(bodies, "joinAlike");
    const auto before = bodies.choices();
    bodies.clear();
    QVERIFY(bodies.choices().empty());
    fill(bodies);
    bodies.add(body("b6", "New"));
    auto after = bodies.choices();
    QCOMPARE(after.back().name, std::string("New"));
    after.pop_back();
    QVERIFY(after == before);
  }

  void bodiesThatAreOnlyListedHaveNoTicks()
  {
    ImportBodies bodies(false);
    fill(bodies);
    QVERIFY(bodies.findChild<QToolButton*>("joinSelected") == nullptr);
    QVERIFY((table(bodies)->item(0, 0)->flags() & Qt::ItemIsUserCheckable) == 0);
    const auto choices = bodies.choices();
    QVERIFY(std::all_of(choices.begin(), choices.end(), [](const auto& one) { return one.taken; }));
    QSignalSpy told(&bodies, &ImportBodies::selectionChanged);
    selectRows(bodies, {1});
    QVERIFY(!told.isEmpty());
    QCOMPARE(bodies.selected(), std::set<std::string>{"b2"});
  }

  /// What stands in the middle has the colour of its face; what is lit stands out; turned to the top, the top shows.
  void aPictureByRays()
  {
    Project project = projectWith(0.02);
    project.materials = {material("m", 1)};
    project.parts = {part("p", "m", block(0.1, 0.1, 0.1))};
    const auto mesh = std::make_shared<const Mesh>(meshOf(project));
    RayPicture picture;
    picture.resize(120, 100);
    QCOMPARE(picture.cast({20, 20}).pixel(10, 10), theme().scene.rgb()); // nothing yet
    std::vector<QColor> colors;
    std::vector<int> groups(mesh->geometry.faces.size());
    std::iota(groups.begin(), groups.end(), 0);
    for (const Face& face : mesh->geometry.faces)
      colors.push_back(face.normal.z() > 0.9 ? QColor(0, 0, 250) : QColor(250, 0, 0));
    picture.setMesh(mesh);
    picture.setColors(colors, groups);
    const auto middle = [&] { return QColor(picture.cast({120, 100}).pixel(60, 55)); };
    QVERIFY(middle().red() > 130 && middle().blue() == 0);
    QCOMPARE(picture.cast({120, 100}).pixel(0, 0), theme().scene.rgb());
    for (int i = 0; i < 10; ++i)
      QTest::keyClick(&picture, Qt::Key_Up);
    QVERIFY(middle().blue() > 130 && middle().red() == 0);
    const QColor plain = middle();
    picture.setLit({0});
    QVERIFY(middle() != plain);
    picture.setLit({});
    QCOMPARE(middle(), plain);
    // Dragged down by half its height it is seen from lower again.
    picture.show();
    QVERIFY(QTest::qWaitForWindowExposed(&picture));
    for (int i = 0; i < 20; ++i)
      QTest::keyClick(&picture, Qt::Key_Down);
    QVERIFY(middle().blue() == 0);
  }
};

int main(int argc, char** argv)
{
  kiln::prepareApplication();
  QApplication application(argc, argv);
  BodiesTest test;
  return QTest::qExec(&test, argc, argv);
}
#include "tst_bodies.moc"
