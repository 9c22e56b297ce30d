// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "scene/SceneModel.h"
#include "scene/SurfacePicker.h"
#include "scene/VtkView.h"

#include <QColor>
#include <QPoint>
#include <optional>
#include <set>
#include <vector>

class QRubberBand;

namespace kiln
{

class SceneExtras;

/// How the scene is coloured.
struct Coloring {
  bool byValue = true; ///< a field, mapped to colours
  Palette palette = Palette::Glow;
  int steps = 0;                 ///< so many colours; 0: smooth
  bool logarithmic = false;      ///< equal ratios take equal room; both ends are positive
  double low = 293, high = 294;  ///< ends of the colour map
  std::vector<QColor> partColor; ///< by part, when not by temperature
  std::vector<QColor> faceColor; ///< by face, wins over the part's where valid
  std::vector<QColor> skinColor; ///< by triangle of the mesh, wins over the face's where valid
  std::vector<double> tetValue;  ///< by element, each with a colour of its own from the map
  std::vector<double> faceValue; ///< by face, likewise

  /// Where a value lies between the ends, 0…1.
  [[nodiscard]] double shareOf(double value) const;
  [[nodiscard]] QColor colorAt(double value) const;
  bool operator==(const Coloring&) const = default;
};

/// Draws a SceneModel and turns the pointer into camera moves and picks.
/// Left drag orbits, middle drag (or Shift with left) pans, the wheel zooms towards the middle.
class SceneCanvas : public VtkView
{
  Q_OBJECT

public:
  explicit SceneCanvas(QWidget* parent = nullptr);
  ~SceneCanvas() override;

  void setSource(SceneModel::Source source);
  /// Other temperatures on the same mesh, or another field: values are mapped, nothing is built anew.
  void setTemperature(std::shared_ptr<const std::vector<double>> temperature,
                      std::shared_ptr<const PartwiseField> field);
  void setLooks(std::vector<PartLook> looks);
  void setSections(SectionPlanes sections);
  /// Parts drawn away from where they are, m by part; empty: where they are.
  void setOffsets(std::vector<Vec3> offsets);
  /// The skin as glass, so that what is inside can be seen.
  void setGlass(bool glass);
  [[nodiscard]] bool isGlass() const { return glass_; }
  /// How clear parts are that are seen through: 0 as the others, 1 not to be seen.
  void setClear(double share);
  /// Stands the values of a section model up over it, the largest by this share of its size; 0: it is flat.
  void setHeight(double share);
  [[nodiscard]] bool looksStraightAtSection() const;
  [[nodiscard]] double raised() const { return height_; }
  [[nodiscard]] SceneExtras& extras() { return *extras_; }
  void setColoring(Coloring coloring);
  [[nodiscard]] const Coloring& coloring() const { return coloring_; }
  void setHighlight(const std::set<FaceId>& faces, const std::set<PartId>& parts);
  void setBackground(const QColor& background, const QColor& lines);

  [[nodiscard]] const SceneModel& model() const { return model_; }
  [[nodiscard]] const std::vector<PartLook>& looks() const { return looks_; }
  [[nodiscard]] const SectionPlanes& sections() const { return sections_; }
  [[nodiscard]] const DrawnSurface& drawnSkin() const { return shown_; }
  [[nodiscard]] const DrawnSurface& drawnCuts() const { return cut_; }
  /// Lowest and highest value of what is drawn; nothing without a result.
  [[nodiscard]] std::optional<std::pair<double, double>> drawnRange() const;

  /// Does it show a section model?
  [[nodiscard]] bool isFlat() const;
  void lookAtSection();
  [[nodiscard]] std::optional<PickedPoint> pickAt(const QPointF& pixel) const;
  /// Everything under a pixel, the nearest first, each face once.
  [[nodiscard]] std::vector<PickedPoint> pickThrough(const QPointF& pixel) const;
  /// Pixel of a place, and whether something drawn stands before it.
  [[nodiscard]] QPointF pixelOf(const Vec3& place) const;
  [[nodiscard]] bool isCovered(const Vec3& place) const;
  [[nodiscard]] Vec3 eye() const;
  /// Where it looks from, what at, and which way is up.
  struct Camera {
    Vec3 eye, towards, up;
  };
  [[nodiscard]] Camera camera() const;
  void setCamera(const Camera& camera);
  /// Length of a pixel at what it looks at, m.
  [[nodiscard]] double pixelLength() const;
  /// Looks as another canvas does.
  void followCamera(const SceneCanvas& other);
  /// It is the right part of a view whose left part is as wide as this many of its own widths: 0, it is a whole one.
  void setLeftPart(double widths);
  /// So many pixels at its sides are covered by something else: the model keeps clear of them.
  void setCovered(int left, int right);
  [[nodiscard]] int covered() const { return covered_; } ///< at its left
  [[nodiscard]] int coveredRight() const { return coveredRight_; }

public slots:
  void fit();
  /// Looks along a direction with another one up.
  void lookAlong(const Vec3& direction, const Vec3& up);
  void lookFromCorner();
  void orbit(double azimuthDegrees, double elevationDegrees);
  void zoom(double factor);

signals:
  /// Other triangles or values are drawn.
  void redrawn();
  void hovered(const std::optional<kiln::PickedPoint>& picked);
  void picked(const std::optional<kiln::PickedPoint>& picked, Qt::KeyboardModifiers modifiers);
  void boxed(const QRect& box); ///< pixels, drawn with Alt and the left button
  void cameraMoved();

protected:
  void mousePressEvent(QMouseEvent* event) override;
  void mouseMoveEvent(QMouseEvent* event) override;
  void mouseReleaseEvent(QMouseEvent* event) override;
  void wheelEvent(QWheelEvent* event) override;
  void leaveEvent(QEvent* event) override;
  void resizeEvent(QResizeEvent* event) override;

public:
  /// Two places of the line that a pixel shows, from the eye on.
  [[nodiscard]] std::pair<Vec3, Vec3> rayAt(const QPointF& pixel) const;

private:
  struct Layer;
  void snapToBorder(PickedPoint& hit, const QPointF& pixel) const;
  void rebuild();
  void redraw();
  void raise(DrawnSurface& surface) const;
  void rebuildCuts();
  void clip(double size);
  void recolor();
  void color(Layer& layer, const DrawnSurface& surface) const;
  [[nodiscard]] QColor ownColor(const DrawnSurface& surface, std::size_t triangle) const;
  void rebuildHighlight();
  void pan(const QPointF& delta);
  void placeCentre();
  void moved();
  void fillTable();

  struct Actors;
  std::unique_ptr<Actors> actors_;
  SceneModel model_;
  std::vector<PartLook> looks_;
  SectionPlanes sections_;
  std::unique_ptr<SceneExtras> extras_;
  bool glass_ = false;
  Coloring coloring_;
  std::set<FaceId> litFaces_;
  std::set<PartId> litParts_;
  DrawnSurface shown_, seeThrough_, cut_;
  SurfacePicker shownPicker_, cutPicker_;
  QPointF pressedAt_, lastAt_;
  QRubberBand* band_ = nullptr;
  bool dragging_ = false;
  double height_ = 0; ///< of the model's size
  double leftPart_ = 0;
  int covered_ = 0, coveredRight_ = 0; ///< px
  bool placed_ = false;                ///< the camera was placed before there was a model
  bool framed_ = true;                 ///< the whole model is in view until the user moves the camera
};

} // namespace kiln
