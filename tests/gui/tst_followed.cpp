// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
//
// What if: sliders that scene, watches and ledger follow, and the solve that takes the estimate's place.
#include "BarDriver.h"
#include "document/WhatIfRun.h"
#include "strip/WhatIfPage.h"

#include <QCheckBox>
#include <QLabel>
#include <QSlider>

using namespace kiln;
using namespace kiln::test;

class FollowedTest : public QObject, private BarDriver
{
  Q_OBJECT

private:
  QString said() { return find<QLabel>("whatIfSaid")->text(); }
  double end() { return *document().shownFigures()->watches[0].value; }

  /// A bar that is heated at its right by 4 W: 400 K there.
  void heatedBar(bool glows = false)
  {
    Project p = bar();
    p.boundaries.pop_back();
    p.sources = {source("heater", SurfacePower{"right", Property{4, "4 W"}})};
    if (glows) {
      p.materials[0].emissivity = Number{0.9, "0.9"};
      p.boundaries.push_back(boundary("glow", Radiation{"right", {300, "26.85 °C"}, {1, "1"}}));
    }
    start(p, "followed");
    window_->solver().solve({"steady"});
    waitForQueue();
    QTRY_VERIFY(document().shownState().result != nullptr);
    showPage(StripPanel::whatIfPage);
  }
  /// Held by the mouse and moved to a share of its way, not let go.
  QSlider* dragTo(const QString& name, double share)
  {
    auto* slider = find<QSlider>("whatIf:" + name);
    slider->setSliderDown(true);
    slider->setSliderPosition(slider->minimum() + static_cast<int>(share * (slider->maximum() - slider->minimum())));
    return slider;
  }

private slots:
  /// From half to one and a half of 4 W: at the end, 6 W are 450 K, exactly, and it is called an estimate.
  void aPowerIsFollowed()
  {
    heatedBar();
    QSlider* slider = dragTo("heater.power", 1.0);
    QTRY_VERIFY2(said().startsWith("estimate, exact"), qPrintable(said()));
    QVERIFY(std::abs(end() - 450) < 1e-6);
    QVERIFY2(document().instantText().startsWith("estimate"), qPrintable(document().instantText()));
    QVERIFY(document().caseAndInstant().contains("estimate"));
    const auto shown = document().shownTemperature();
    QVERIFY(std::abs(*std::max_element(shown->begin(), shown->end()) - 450) < 1e-6);
    QCOMPARE(document().shownFigures()->heatIn, 6.0);                                             // the ledger, too
    QVERIFY(project().sources[0] == project().sources[0] && document().undoStack().count() == 0); // nothing is set yet
    dragTo("heater.power", 0.5);
    QTRY_VERIFY(std::abs(end() - 400) < 1e-6);
    dragTo("heater.power", 0.75);
    QTRY_VERIFY(std::abs(end() - 425) < 0.5);
    slider->setSliderDown(false); // let go
    emit slider->sliderReleased();
    QCOMPARE(document().undoStack().count(), 1);
    waitForQueue();
    QTRY_VERIFY(document().estimateWords().isEmpty() && document().shownState().outOfDate.isEmpty());
    QVERIFY2(std::abs(end() - 425) < 0.5, qPrintable(QString::number(end())));
    QVERIFY(!document().instantText().contains("estimate"));
  }

  /// What is not linear says within how many kelvin.
  void whatGlowsIsCorrected()
  {
    heatedBar(true);
    const double before = end();
    dragTo("heater.power", 0.9);
    QTRY_VERIFY2(said().startsWith("estimate, within"), qPrintable(said()));
    QVERIFY(end() > before + 5);
    document().setNumber("heater.power", {4.5, "4.5 W", false}); // an edit puts it away
    QVERIFY(document().estimateWords().isEmpty());
  }

  /// A slider for another number; a dimension cannot be followed, and says so.
  void aDimensionIsNotFollowed()
  {
    heatedBar();
    auto* more = find<QComboBox>("whatIfMore");
    const int index = more->findText("part warm, Size y", Qt::MatchContains);
    QVERIFY(index >= 0);
    more->setCurrentIndex(index);
    emit more->activated(index);
    find<QCheckBox>("whatIfSolve")->setChecked(false);
    dragTo("warm.sizeY", 0.8);
    QTRY_VERIFY2(said().contains("changes the mesh"), qPrintable(said()));
    QVERIFY(document().estimateWords().isEmpty());
  }

  /// Without a result there is nothing to follow.
  void nothingToFollow()
  {
    Project p = bar();
    p.sources = {source("heater", PartPower{{"warm"}, {4, "4 W"}})};
    start(p, "unsolved");
    showPage(StripPanel::whatIfPage);
    dragTo("heater.power", 0.8);
    QTRY_VERIFY2(said().contains("Solve the case first"), qPrintable(said()));
  }

  /// In a case that has its own value, that is what moves.
  void ownValuesMove()
  {
    Project p = bar();
    p.sources = {source("heater", PartPower{{"warm"}, {4, "4 W"}})};
    p.cases[0].changes = {{"heater.power", Property{{2, "2 W"}, {}}}};
    const Project other = withValues(p, "steady", {{"heater.power", 3.0}});
    QCOMPARE(other.cases[0].changes[0].number()->si, 3.0);
    QVERIFY(other.sources == p.sources);
    const Project further = withValues(p, "steady", {{"metal.conductivity", 30.0}});
    QCOMPARE(further.materials[0].conductivity.si, 30.0);
  }
};

QTEST_MAIN(FollowedTest)
#include "tst_followed.moc"
