// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
//
// What the pointer does in the scene: reading, picking faces, asking for places and edges, the menu under it.
#include "mesh/FaceNeighbours.h"
#include "mesh/RoundEdge.h"
#include "results/EdgeProfile.h"
#include "scene/FaceDrawing.h"
#include "scene/SceneOverlay.h"
#include "scene/ScenePanel.h"

#include <QKeyEvent>
#include <QMenu>
#include <algorithm>
#include <set>

namespace kiln
{

void ScenePanel::hover(const std::optional<PickedPoint>& picked)
{
  hovered_ = picked;
  if (faceDrawing_->isOn())
    return overlay_->setHover(faceDrawing_->words());
  if (asking_ == Asking::Label)
    return overlay_->setHover(tr("Click where the label goes (Esc gives up)"));
  if (asking_ == Asking::Edge)
    return overlay_->setHover(tr("Click near the edge, on one of its faces (Esc gives up)"));
  if (asking_ == Asking::Place)
    return overlay_->setHover(tr("Click the place to watch (Esc gives up)"));
  if (asking_ == Asking::Arc)
    return overlay_->setHover(tr("Click near an edge that is an arc (Esc gives up)"));
  if (asking_ == Asking::TwoPlaces)
    return overlay_->setHover(firstEnd_ ? tr("Click where the line ends (Esc gives up)")
                                        : tr("Click where the line begins (Esc gives up)"));
  if (!picked) {
    overlay_->setHover({});
    return;
  }
  const auto& geometry = canvas_->model().source().mesh->geometry;
  QStringList words{partName(picked->part)};
  if (picked->face >= 0) {
    const std::string prefix = geometry.parts[static_cast<std::size_t>(picked->part)].id + ".";
    for (const std::string& name : geometry.faces[static_cast<std::size_t>(picked->face)].names)
      if (name.starts_with(prefix)) {
        words << QString::fromStdString(name);
        break;
      }
  } else {
    words << tr("section");
  }
  if (const QString text = shownText(*picked); !text.isEmpty())
    words << text;
  overlay_->setHover(words.join("  ·  "));
}

/// Of what is shown at a picked place.
QString ScenePanel::shownText(const PickedPoint& picked) const
{
  const Shown by = colorBy();
  const auto text = [this](double value, Quantity quantity) {
    return QString::fromStdString(formatQuantity(value, quantity, preferences_.temperatureUnit()));
  };
  if (by == Shown::Temperature || !quantityOf(by)) {
    const QString kelvin = picked.temperature ? text(*picked.temperature, Quantity::Temperature) : QString();
    if (by != Shown::Material && by != Shown::Conductivity)
      return kelvin;
    const auto& parts = canvas_->model().source().mesh->geometry.parts;
    const Part* part = findById(document_.shownProject().parts, parts[static_cast<std::size_t>(picked.part)].id);
    const Material* material = part != nullptr ? findById(document_.shownProject().materials, part->material) : nullptr;
    return material != nullptr ? QString::fromStdString(material->name) : tr("no material");
  }
  const std::vector<double>& byTet = coloringNow_.tetValue;
  const std::vector<double>& byFace = coloringNow_.faceValue;
  if (by == Shown::FaceFlow && picked.face >= 0 && static_cast<std::size_t>(picked.face) < byFace.size())
    return text(byFace[static_cast<std::size_t>(picked.face)], Quantity::Power);
  if (picked.tet >= 0 && static_cast<std::size_t>(picked.tet) < byTet.size())
    return text(byTet[static_cast<std::size_t>(picked.tet)], *quantityOf(by));
  return picked.value ? text(*picked.value, *quantityOf(by)) : QString();
}

void ScenePanel::askForPlace() { startAsking(Asking::Place); }

void ScenePanel::askForArc() { startAsking(Asking::Arc); }

void ScenePanel::askForTwoPlaces() { startAsking(Asking::TwoPlaces); }

void ScenePanel::askForEdge() { startAsking(Asking::Edge); }

void ScenePanel::startAsking(Asking what)
{
  faceDrawing_->stop();
  asking_ = what;
  firstEnd_.reset();
  overlay_->setPointer(std::nullopt);
  hover(std::nullopt);
  canvas_->setCursor(Qt::CrossCursor);
  canvas_->setFocus();
}

void ScenePanel::stopAsking()
{
  asking_ = Asking::Nothing;
  firstEnd_.reset();
  overlay_->setPointer(std::nullopt);
  overlay_->setHover({});
  canvas_->unsetCursor();
}

void ScenePanel::pickPlace(const std::optional<PickedPoint>& picked)
{
  if (!picked)
    return stopAsking();
  if (asking_ == Asking::Edge) {
    stopAsking();
    const auto mesh = canvas_->model().source().mesh;
    if (mesh && picked->face >= 0)
      emit edgePicked(edgeNear(*mesh, picked->face, picked->place), picked->place);
    return;
  }
  if (asking_ == Asking::Label) {
    stopAsking();
    return addLabel(*picked);
  }
  if (asking_ == Asking::Place) {
    stopAsking();
    emit placePicked(picked->place);
    return;
  }
  if (asking_ == Asking::Arc) {
    const auto mesh = canvas_->model().source().mesh;
    const auto edge =
        mesh && picked->face >= 0 ? roundEdgeNear(*mesh, picked->face, picked->place) : std::optional<RoundEdge>();
    if (!edge)
      return overlay_->setHover(tr("That edge is no arc: click near another one (Esc gives up)"));
    stopAsking();
    emit placePicked(edge->centre);
    return;
  }
  if (!firstEnd_) {
    firstEnd_ = picked->place;
    overlay_->setPointer(Flag{picked->place, tr("from here"), false, false});
    return hover(std::nullopt);
  }
  const Vec3 from = *firstEnd_;
  stopAsking();
  emit twoPlacesPicked(from, picked->place);
}

void ScenePanel::keyPressEvent(QKeyEvent* event)
{
  if (asking_ != Asking::Nothing && event->key() == Qt::Key_Escape)
    return stopAsking();
  QWidget::keyPressEvent(event);
}

void ScenePanel::pick(const std::optional<PickedPoint>& picked, Qt::KeyboardModifiers modifiers)
{
  if (asking_ != Asking::Nothing)
    return pickPlace(picked);
  const auto mesh = canvas_->model().source().mesh;
  const bool adding = modifiers.testFlag(Qt::ControlModifier);
  if (!picked || !mesh) {
    if (!adding) {
      document_.pickFaces({});
      document_.select({});
    }
    return;
  }
  const std::string name = faceName(*picked);
  std::vector<std::string> faces = adding ? document_.pickedFaces() : std::vector<std::string>{};
  if (!name.empty() && std::erase(faces, name) == 0)
    faces.push_back(name);
  if (!adding)
    document_.select(mesh->geometry.parts[static_cast<std::size_t>(picked->part)].id);
  document_.pickFaces(faces);
}

/// Adds every face that shows within the box.
void ScenePanel::pickBox(const QRect& box)
{
  constexpr int step = 4; // px between probes
  std::vector<std::string> faces = document_.pickedFaces();
  std::set<FaceId> seen;
  for (int x = box.left(); x <= box.right(); x += step)
    for (int y = box.top(); y <= box.bottom(); y += step)
      if (const auto hit = canvas_->pickAt(QPointF(x, y)); hit && hit->face >= 0 && seen.insert(hit->face).second)
        if (const std::string name = faceName(*hit); std::find(faces.begin(), faces.end(), name) == faces.end())
          faces.push_back(name);
  document_.pickFaces(faces);
}

/// What lies under the pointer, also behind; and wider picks from there.
void ScenePanel::showMenu(const QPoint& at)
{
  const std::vector<PickedPoint> under = canvas_->pickThrough(at);
  const auto mesh = canvas_->model().source().mesh;
  if (under.empty() || !mesh)
    return;
  QMenu menu(this);
  menu.setObjectName("sceneMenu");
  const std::set<FaceId> start{under.front().face};
  const auto pickAll = [this, mesh](const std::set<FaceId>& faces, PartId part) {
    std::vector<std::string> names;
    for (const FaceId face : faces)
      names.push_back(faceName(PickedPoint{Vec3::Zero(), 0, part, face, {}}));
    document_.pickFaces(names);
  };
  const PartId part = under.front().part;
  if (const auto here = canvas_->pickAt(at))
    menu.addAction(tr("Pin a label here"), this, [this, here] { addLabel(*here); });
  if (canvas_->model().source().temperature && !canvas_->isFlat()) {
    const PickedPoint& near = under.front();
    menu.addAction(tr("Streamlines through here"), this,
                   [=, this] { streamFrom(near.place - canvas_->model().offset(near.part)); });
    menu.addAction(tr("Streamlines from the hottest place"), this, &ScenePanel::streamFromHottest);
  }
  menu.addAction(tr("Pick this face and its smooth neighbours"), this, [=] {
    constexpr double contactAngle = 0.44; // rad, 25°: faces flatter than this count as one
    pickAll(grownSmoothly(*mesh, start, contactAngle), part);
  });
  menu.addAction(tr("Pick all exposed faces of %1").arg(partName(part)), this, [=] {
    std::set<FaceId> all;
    for (std::size_t f = 0; f < mesh->geometry.faces.size(); ++f)
      if (const Face& face = mesh->geometry.faces[f]; face.exposed() && !face.aside && face.parts[0] == part)
        all.insert(FaceId(f));
    pickAll(all, part);
  });
  menu.addAction(tr("Hide %1").arg(partName(part)), this,
                 [=, this] { setPartLook(mesh->geometry.parts[static_cast<std::size_t>(part)].id, PartLook::Hidden); });
  menu.addSection(tr("Under the pointer"));
  for (const PickedPoint& one : under)
    menu.addAction(partName(one.part) + "   " + QString::fromStdString(faceName(one)), this, [=, this] {
      document_.select(mesh->geometry.parts[static_cast<std::size_t>(one.part)].id);
      document_.pickFaces({faceName(one)});
    });
  menu.exec(canvas_->mapToGlobal(at));
}

std::optional<Vec3> ScenePanel::hottestPlace() const
{
  const auto figures = document_.shownFigures();
  std::optional<PlacedValue> hottest;
  for (const PartFigures& part : figures ? figures->parts : std::vector<PartFigures>{})
    if (!hottest || part.hottest.value > hottest->value)
      hottest = part.hottest;
  return hottest ? std::optional(hottest->place) : std::nullopt;
}

/// The most particular name of a picked face: that of one copy rather than of all.
std::string ScenePanel::faceName(const PickedPoint& picked) const
{
  if (picked.face < 0)
    return {};
  const auto& geometry = canvas_->model().source().mesh->geometry;
  const std::string part = geometry.parts[static_cast<std::size_t>(picked.part)].id;
  std::string best;
  for (const std::string& name : geometry.faces[static_cast<std::size_t>(picked.face)].names)
    if ((name.starts_with(part + ".") || name.starts_with(part + "#")) &&
        (best.empty() || name.find('#') != std::string::npos || name.size() > best.size()))
      best = name;
  return best;
}

} // namespace kiln
