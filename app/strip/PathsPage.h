// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "document/Document.h"
#include "look/Preferences.h"
#include "results/HeatPaths.h"

#include <QPainterPath>
#include <QWidget>
#include <vector>

class QToolButton;

namespace kiln
{

/// The picture of the ways of the heat: blocks from where it enters to where it leaves, joined by bands as wide as
/// their watts. Follows the playhead.
class PathsCanvas : public QWidget
{
  Q_OBJECT

public:
  PathsCanvas(Document& document, Preferences& preferences, QWidget* parent = nullptr);

  void setPaths(HeatPaths paths);
  void setResistances(bool shown);
  [[nodiscard]] const HeatPaths& paths() const { return paths_; }
  /// Draws it all, in any size.
  void draw(QPainter& painter, const QSizeF& size) const;
  /// What is read at a pixel: "Coils → Lining: 1.52 kW".
  [[nodiscard]] QString textAt(const QPointF& pixel) const;
  /// Pixels of a block, of the middle of a band.
  [[nodiscard]] QRectF blockBox(std::size_t block) const;
  [[nodiscard]] QPointF bandMiddle(std::size_t band) const;

signals:
  void pointed(const std::string& id); ///< an object under the pointer; empty: none
  void chosen(const std::string& id);

protected:
  void paintEvent(QPaintEvent* event) override;
  void mouseMoveEvent(QMouseEvent* event) override;
  void mousePressEvent(QMouseEvent* event) override;
  void leaveEvent(QEvent* event) override;

private:
  struct Placed {
    std::vector<QRectF> blocks;
    std::vector<QPainterPath> bands;
    std::vector<QPointF> middles;
    double perWatt = 0; ///< px
  };
  [[nodiscard]] Placed place(const QSizeF& size) const;
  [[nodiscard]] int bandAt(const QPointF& pixel) const;
  [[nodiscard]] int blockAt(const QPointF& pixel) const;
  [[nodiscard]] QString bandText(const PathBand& band) const;
  [[nodiscard]] std::optional<double> kelvinOf(const PathBlock& block) const;
  [[nodiscard]] std::string objectAt(const QPointF& pixel) const;

  Document& document_;
  Preferences& preferences_;
  HeatPaths paths_;
  bool resistances_ = false;
  std::optional<QPointF> pointer_;
};

/// The strip's page Heat paths.
class PathsPage : public QWidget
{
  Q_OBJECT

public:
  PathsPage(Document& document, Preferences& preferences, QWidget* parent = nullptr);

  [[nodiscard]] PathsCanvas& canvas() { return *canvas_; }

protected:
  void showEvent(QShowEvent* event) override;

private:
  void refresh();
  void copyPicture();
  void savePicture();

  Document& document_;
  PathsCanvas* canvas_;
  QToolButton *folded_, *resistances_;
};

} // namespace kiln
