// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "model/Views.h"

#include <QScrollArea>

class QCheckBox;
class QComboBox;
class QFormLayout;
class QLabel;
class QPushButton;
class QSlider;
class QSpinBox;
class QVBoxLayout;

namespace kiln
{

class QuantityField;

/// How the picture is drawn, beside the scene: palette, lines of equal value, a level, heat flux, lines of the mesh,
/// parts pulled apart. Changes a view that it is given, and says so; what else belongs to a view stands beneath.
class LookPanel : public QScrollArea
{
  Q_OBJECT

public:
  LookPanel(View& look, QWidget* parent);

  /// The view was changed by another way.
  void refresh();
  /// Ends of the slider of the level, SI; nothing where no field is shown.
  void setLevelSpan(std::optional<std::pair<double, double>> span, TemperatureUnit unit);
  void setLevelWords(const QString& words);
  /// Another section at the end.
  void addSection(QWidget* section);

signals:
  void changed();      ///< palette, lines, heat flux, lines of the mesh
  void levelChanged(); ///< the level alone
  void apartChanged();
  void densityChanged(int density); ///< of arrows and streamlines
  void watchWanted();               ///< of the volume above the level
  void closeWanted();

protected:
  void resizeEvent(QResizeEvent* event) override;

private:
  void addColors();
  void addLines();
  void addLevel();
  void addFlux();
  void addRest();
  QFormLayout* addForm(const QString& title);
  void takeSlider();
  void showLevel();

  View& look_;
  bool filling_ = false;
  std::optional<std::pair<double, double>> span_;
  QVBoxLayout* rows_;
  QComboBox *palette_, *levelLook_, *flux_, *apartAlong_;
  QSpinBox *steps_, *digits_, *lines_;
  QCheckBox *logarithmic_, *withLevel_, *elementLines_;
  QSlider *level_, *density_, *apart_;
  QuantityField* levelAt_;
  QLabel* levelWords_;
  QPushButton* watch_;
};

} // namespace kiln
