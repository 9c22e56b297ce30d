// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "document/Document.h"
#include "heat/boundaries/Correlations.h"
#include "look/Preferences.h"

#include <QWidget>

class QLabel;

namespace kiln
{

/// Helps to a convection coefficient: shows what a correlation gives for the surface's size, with its numbers, range
/// and source, or puts a number in; lists usual coefficients by situation.
class CoefficientHelper : public QWidget
{
  Q_OBJECT

public:
  CoefficientHelper(Document& document, Preferences& preferences, std::string boundaryId, QWidget* parent = nullptr);

private:
  [[nodiscard]] const Boundary* boundary() const;
  void buildForNumber();
  void addSituation();
  void buildForCorrelation(const CorrelatedConvection& flow);
  void refresh();
  void attach(std::optional<FlowSituation> situation);
  void askEnvironment();
  void putNumber();

  Document& document_;
  Preferences& preferences_;
  std::string id_;
  QLabel* reading_ = nullptr;
};

/// Mean surface temperature of a boundary in the shown result, K; a guess of 40 K above its ambient without one.
[[nodiscard]] double surfaceTemperatureOf(const Document& document, const Boundary& boundary, double ambient);

/// Usual values of contacts, put in by choosing one.
[[nodiscard]] QWidget* makeContactHelper(Document& document, const std::string& partA, const std::string& partB);

/// Turns the total power on a surface into a flux with the present area, and back.
[[nodiscard]] QWidget* makeFluxConverter(Document& document, const std::string& sourceId);

/// Gives a finish of the library to a surface.
[[nodiscard]] QWidget* makeFinishChoice(Document& document, const std::string& surfaceId);

} // namespace kiln
