// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "../TestProjects.h"
#include "WindowDriver.h"
#include "cases/CaseChip.h"
#include "io/ProjectFile.h"

namespace kiln::test
{

/// A heated plate in air, radiating; rooms of different temperature as cases.
inline Project plateInRooms(int rooms)
{
  Project p = projectWith(0.02);
  p.name = "plate";
  p.materials = {material("metal", 40)};
  p.materials[0].emissivity = Number{0.9, "0.9"};
  p.parts = {part("plate", "metal", block(0.06, 0.06, 0.01))};
  p.surfaces = {surface("top", {"plate.top"})};
  p.sources = {source("heater", PartPower{{"plate"}, {3, "3 W"}})};
  p.boundaries = {boundary("air", Convection{"top", Property{10, "10 W/(m²·K)"}, Property{293.15, "20 °C"}}),
                  boundary("glow", Radiation{"top", {293.15, "20 °C"}, {1, "1"}})};
  p.watches = {watch("hot", PartFigure{PartFigure::Kind::Hottest, {"plate"}}),
               watch("cold", PartFigure{PartFigure::Kind::Coldest, {"plate"}})};
  p.watches[0].upper = Number{400, "126.85 °C"};
  for (int i = 0; i < rooms; ++i) {
    Case room;
    room.id = "room-" + std::to_string(i);
    room.name = "Room " + std::to_string(i);
    room.group = i % 2 == 0 ? "Even" : "Odd";
    room.changes = {{"air.ambient", Property{{280.15 + i, {}}, {}}}};
    p.cases.push_back(std::move(room));
  }
  return p;
}

/// Works the window on a project with many cases.
class RoomsDriver : protected WindowDriver
{
protected:
  std::string save(const Project& p, const char* name)
  {
    std::string file = folder_.filePath(QString(name) + ".kiln").toStdString();
    if (!saveProject(p, file))
      qFatal("not written: %s", file.c_str());
    return file;
  }
  void start(const Project& p, const char* name)
  {
    window_.reset();
    const std::string file = save(p, name);
    open();
    window_->openFile(QString::fromStdString(file));
    waitForShapes();
  }
  CaseChip* chip(const std::string& id) { return find<CaseChip>("case:" + QString::fromStdString(id)); }
  void click(const std::string& id, Qt::KeyboardModifiers keys = Qt::NoModifier)
  {
    QTest::mouseClick(chip(id), Qt::LeftButton, keys);
  }
  void waitForQueue()
  {
    QTRY_VERIFY_WITH_TIMEOUT(!window_->solver().isRunning() && !window_->solver().queue().isBusy(), childTime);
  }
  double hottest(const std::string& id) { return *document().state(id).watches[0].value; }
};

} // namespace kiln::test
