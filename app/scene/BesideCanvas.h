// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "document/Document.h"
#include "scene/SceneColoring.h"

#include <QWidget>
#include <map>

class QLabel;
class QToolButton;

namespace kiln
{

class WipeLine;

/// The compared case beside the shown one: drawn the same way, with the same camera (unless it is let loose) and the
/// same scale, at the same instant.
class BesideCanvas : public QWidget
{
  Q_OBJECT

public:
  BesideCanvas(Document& document, SceneCanvas& main, QWidget* parent = nullptr);

  [[nodiscard]] SceneCanvas& canvas() { return *canvas_; }
  /// What is drawn, without its colours.
  /// \param looks  by id of part
  void refreshSource(Shown by, const std::map<std::string, PartLook>& looks);
  /// \param ofDifference  the other view shows what differs: this one stays as it is
  void refreshColors(const Coloring& main, bool ofDifference);
  /// Lines of equal value where those of the main one are.
  void drawLines(const std::vector<double>& levels);
  /// Stands over the right part of the main view and looks at the same, instead of beside it; nullptr: not any more.
  void wipe(const WipeLine* line);
  /// Lowest and highest value of what is drawn; nothing without a result.
  [[nodiscard]] std::optional<std::pair<double, double>> range() const { return canvas_->drawnRange(); }

signals:
  /// The other one is to look from where this one does.
  void cameraGiven();

private:
  void takeCamera();
  [[nodiscard]] bool isTied() const;
  void refreshCaption();

  Document& document_;
  SceneCanvas& main_;
  SceneCanvas* canvas_;
  QLabel* caption_;
  QToolButton* tied_;
  const WipeLine* line_ = nullptr; ///< that it stands right of; nullptr: beside the main view
  bool following_ = false;
};

} // namespace kiln
