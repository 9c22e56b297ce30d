// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "RoomsDriver.h"
#include "scene/SceneCanvas.h"
#include "scene/SceneDrawing.h"
#include "scene/ScenePanel.h"
#include "strip/StripPanel.h"

#include <QLabel>
#include <QTabBar>

namespace kiln::test
{

/// A bar from 300 K at its left to 400 K at its right, of two halves.
inline Project bar()
{
  Project p = projectWith(0.008);
  p.name = "bar";
  p.materials = {material("metal", 10)};
  p.parts = {part("cool", "metal", block(0.05, 0.02, 0.02), Vec3(-0.025, 0, 0)),
             part("warm", "metal", block(0.05, 0.02, 0.02), Vec3(0.025, 0, 0))};
  p.surfaces = {surface("left", {"cool.left"}), surface("right", {"warm.right"})};
  p.boundaries = {boundary("cold", FixedSurface{"left", {300, "26.85 °C"}}),
                  boundary("hot", FixedSurface{"right", {400, "126.85 °C"}})};
  p.watches = {watch("hottest", PartFigure{PartFigure::Kind::Hottest, {"warm"}})};
  return p;
}

inline constexpr double watts = 10 * 0.0004 * 100 / 0.1; // k A ΔT / L

/// Looks at the solved bar.
class BarDriver : protected RoomsDriver
{
protected:
  SceneCanvas& canvas() { return window_->scene().canvas(); }
  SceneDrawing& drawing() { return window_->scene().drawing(); }

  void solved()
  {
    start(bar(), "bar");
    window_->solver().solve({"steady"});
    waitForQueue();
    QTRY_VERIFY(document().shownState().result != nullptr);
  }
  void openPanel()
  {
    if (!find<QWidget>("lookPanel")->isVisible())
      QTest::keyClick(window_.get(), Qt::Key_L, Qt::ControlModifier);
    QTRY_VERIFY(find<QWidget>("lookPanel")->isVisible());
  }
  void choose(const QString& box, int index)
  {
    auto* combo = find<QComboBox>(box);
    combo->setCurrentIndex(index);
    emit combo->activated(index);
  }
  void showPage(int page) { window_->strip().setPage(page); }
  void type(const QString& field, const QString& text)
  {
    auto* line = find<QLineEdit>(field);
    line->setFocus();
    line->selectAll();
    QTest::keyClicks(line, text);
    QTest::keyClick(line, Qt::Key_Return);
  }
  QString words() { return find<QLabel>("lookLevelWords")->text(); }
};

} // namespace kiln::test
