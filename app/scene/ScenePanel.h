// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "document/Document.h"
#include "look/Preferences.h"
#include "scene/SceneCanvas.h"
#include "scene/SceneColoring.h"

#include <QWidget>

class QComboBox;
class QHBoxLayout;
class QSlider;
class QSplitter;
class QToolButton;

namespace kiln
{

class AxisCross;
class BesideCanvas;
class CutHandles;
class CutList;
class FaceDrawing;
class Legend;
class LabelHandles;
class LookPanel;
class PlaceHandles;
class SceneDrawing;
class SceneLabels;
struct Flag;
class SceneOverlay;
class WipeLine;

/// The centre of the window: the canvas with its tools, legend, flags and read-out, fed from the document.
class ScenePanel : public QWidget
{
  Q_OBJECT

public:
  /// The compared case beside the shown one, or behind a line across it that is moved.
  enum class Compare { Alone, Beside, Wipe };

  ScenePanel(Document& document, Preferences& preferences, QWidget* parent = nullptr);
  ~ScenePanel() override;

  [[nodiscard]] SceneCanvas& canvas() { return *canvas_; }
  [[nodiscard]] const PlaceHandles& handles() const { return *handles_; }
  [[nodiscard]] SceneOverlay& overlay() { return *overlay_; }
  [[nodiscard]] Compare comparing() const { return how_; }
  [[nodiscard]] SceneDrawing& drawing() { return *drawing_; }
  [[nodiscard]] FaceDrawing& faceDrawing() { return *faceDrawing_; }
  [[nodiscard]] const AxisCross& cross() const { return *cross_; }
  [[nodiscard]] const CutHandles& cutHandles() const { return *cutHandles_; }
  /// What is seen now, as a view without a name.
  [[nodiscard]] View currentView() const;

  /// "Studio kiln · Hold, steady · Temperature, °C"
  [[nodiscard]] QString pictureCaption() const;
  /// The scene with legend and caption, as pixels. \param finer  pixels for each of \p size
  [[nodiscard]] QImage picture(const QSize& size, const QColor& background, int finer = 1);
  /// A PNG or, by its ending, an SVG of the scene with legend and caption. \return whether it was written
  bool savePicture(const QString& file, const QSize& size, const QColor& background);

public slots:
  /// Asks for size, background and file.
  void askForPicture();
  void applyTheme();
  void setPartLook(const std::string& partId, kiln::PartLook look);
  void showAllParts();
  void isolateSelected();
  /// Cuts the model open along an axis (0 x, 1 y, 2 z; -1 closes it) at a share of its extent.
  void setSection(int axis, double share);
  /// Points at a place with a few words, until the model changes.
  void pointAt(const kiln::Vec3& place, const QString& text);
  /// The next two clicks in the scene give the ends of a line; Esc or a click beside the model gives it up.
  void askForTwoPlaces();
  /// By the order of the tools: rectangle, circle, outline, push a face.
  void drawOnFace(int tool, bool divides);
  /// The next click gives a place.
  void askForPlace();
  /// The next click near an edge that is an arc gives its centre as a place.
  void askForArc();
  /// The next click in the scene gives the nearest edge of the face there.
  void askForEdge();
  void compare(Compare how);
  /// By the order of Shown.
  void setColorBy(int index);
  void show(const kiln::View& view);
  /// A view of the project, by its place there.
  void showView(int index);
  void keepView(const QString& name);
  /// What a project that was opened is seen by at first: its first view, or nothing of the one before.
  void beginAnew();
  void toggleLook();
  /// A label where the pointer is, or is asked for.
  void pinLabel();
  /// The arrows that move the selected part.
  void toggleHandles();
  void streamFromHottest();
  /// The next click pins a label.
  void askForLabel();

signals:
  /// A step was drawn in the scene.
  void stepDrawn(const std::string& part, const std::string& step);
  void compareChanged();
  void twoPlacesPicked(const kiln::Vec3& from, const kiln::Vec3& to);
  void placePicked(const kiln::Vec3& place);
  /// Names of the two faces that meet there.
  void edgePicked(const std::vector<std::string>& faces, const kiln::Vec3& near);

protected:
  void keyPressEvent(QKeyEvent* event) override;

private:
  static constexpr int ownCuts = 4; ///< in the box of section planes
  enum class Asking { Nothing, Place, Arc, TwoPlaces, Edge, Label };
  void startAsking(Asking what);
  void pickPlace(const std::optional<PickedPoint>& picked);
  void stopAsking();
  QWidget* makeTools();
  void refreshSource();
  void showInstant();
  void refreshColors();
  void refreshFlags();
  [[nodiscard]] std::optional<Flag> largestFlux() const;
  void refreshCaption();
  void refreshLooks();
  void refreshBeside();
  void showSelection();
  void showSides();
  void hover(const std::optional<PickedPoint>& picked);
  void pick(const std::optional<PickedPoint>& picked, Qt::KeyboardModifiers modifiers);
  void pickBox(const QRect& box);
  void showMenu(const QPoint& at);
  [[nodiscard]] QString shownText(const PickedPoint& picked) const;
  [[nodiscard]] std::string faceName(const PickedPoint& picked) const;
  void placeOverlays();
  void changeField();
  void paintPicture(QPainter& painter, const QSize& size, const QColor& background);
  void makeLook();
  void placeLook();
  void addSides(QToolButton& tool);
  void addDrawing(QHBoxLayout& row);
  void takeCuts();
  void takeOwnCuts();
  void takeApart();
  void takeHeight();
  void streamFrom(const Vec3& place);
  [[nodiscard]] std::optional<Vec3> hottestPlace() const;
  void refreshLabels();
  void refreshLook();
  void watchAbove();
  void addLabel(const PickedPoint& picked);
  [[nodiscard]] Shown colorBy() const;
  [[nodiscard]] QString partName(PartId part) const;

  Document& document_;
  Preferences& preferences_;
  SceneCanvas* canvas_;
  SceneOverlay* overlay_;
  PlaceHandles* handles_;
  QToolButton* move_ = nullptr; ///< whether the handles show
  SceneColoring coloring_;
  BesideCanvas* beside_;
  QSplitter* both_;
  WipeLine* wipeLine_;
  Compare how_ = Compare::Alone;
  int coveredRight_ = 0;                                    ///< px of the scene, by its scale
  QToolButton *besideTool_ = nullptr, *wipeTool_ = nullptr; ///< whether it shows, and how
  QWidget* legendRoom_; ///< where the legend stands beside two views: on one it would hide a third of it
  Legend* legend_;
  QComboBox* colorBy_;
  QComboBox* sectionAxis_;
  QSlider* sectionAt_;
  View look_; ///< how it is drawn; its camera and parts are asked for when it is kept
  LookPanel* lookPanel_;
  QToolButton* lookTool_ = nullptr;
  CutList* cutList_;
  CutHandles* cutHandles_;
  LabelHandles* labelHandles_;
  FaceDrawing* faceDrawing_;
  AxisCross* cross_;
  SceneDrawing* drawing_;
  std::unique_ptr<SceneLabels> labels_;
  std::optional<PickedPoint> hovered_;
  Coloring coloringNow_;
  std::map<std::string, PartLook> looks_;
  std::pair<double, double> pinnedRange_{293, 294};
  Asking asking_ = Asking::Nothing; ///< what the next clicks are for
  std::optional<Vec3> firstEnd_;    ///< of it
};

} // namespace kiln
