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
  /// Does it show a section model? Then it has heights, and nothing that needs a solid.
  void setFlat(bool flat);
  /// Another section at the end.
  void addSection(QWidget* section);

signals:
  void changed();      ///< palette, lines, heat flux, lines of the mesh
  void levelChanged(); ///< the level alone
  void apartChanged();
  void heightChanged();
  void watchWanted(); ///< of the volume above the level
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
  QCheckBox* addFlag(QFormLayout& form, bool View::*flag, const char* name, const QString& label, const QString& tip);
  QSlider* addShare(QFormLayout& form, std::optional<Number> View::*share, const char* name, const QString& label,
                    int usually, void (LookPanel::*told)());
  void takeSlider();
  void showLevel();

  View& look_;
  bool filling_ = false;
  std::optional<std::pair<double, double>> span_;
  QVBoxLayout* rows_;
  QComboBox *palette_, *levelLook_, *flux_, *apartAlong_;
  QSpinBox *steps_, *digits_, *lines_;
  QCheckBox* withLevel_;
  QSlider *level_, *density_, *apart_, *height_ = nullptr;
  QFormLayout* rest_ = nullptr;
  std::vector<std::pair<QCheckBox*, bool View::*>> flags_;
  struct Share {
    QSlider* slider;
    std::optional<Number> View::*of;
    int usually; ///< %
  };
  std::vector<Share> shares_;
  QuantityField* levelAt_;
  QLabel* levelWords_;
  QPushButton* watch_;
};

} // namespace kiln
