// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "heat/boundaries/AirCavity.h"
#include "units/Quantity.h"

#include <QDialog>
#include <functional>

class QComboBox;
class QLabel;

namespace kiln
{

class QuantityField;

/// Asks for the size, the way of the heat and the emissivities of a cavity of still air, shows what it conducts, and
/// hands its material over.
class CavityDialog : public QDialog
{
  Q_OBJECT

public:
  using Use = std::function<void(const Material&)>;
  /// \param thickness, width  first guesses, m; 0: not known
  CavityDialog(double thickness, double width, Use use, QWidget* parent = nullptr);

private:
  [[nodiscard]] AirCavity cavity() const;
  void refresh();

  QComboBox* flow_;
  QuantityField* thickness_;
  QuantityField* width_;
  QuantityField* emissivityA_;
  QuantityField* emissivityB_;
  QuantityField* difference_;
  QLabel* message_;
};

} // namespace kiln
