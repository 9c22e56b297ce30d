// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "document/Document.h"
#include "look/Preferences.h"

#include <QFrame>

class QVBoxLayout;
class QLabel;

namespace kiln
{

class MarginBar;
class QuantityField;

/// One watch: its figure, its limits as editable fields, how far the nearer limit is, and where the figure stands.
class WatchCard : public QFrame
{
  Q_OBJECT

public:
  WatchCard(Document& document, Preferences& preferences, std::string watchId, QWidget* parent = nullptr);

  [[nodiscard]] const std::string& watchId() const { return watchId_; }
  void refresh();

protected:
  void mousePressEvent(QMouseEvent* event) override;

private:
  [[nodiscard]] QuantityField* makeLimitField(const char* which, const QString& name);
  [[nodiscard]] QString placeText(const WatchFigure& figure) const;
  void addFigureFields(QVBoxLayout& layout);
  void addBetween(QVBoxLayout& layout, const BetweenWatches& between);
  [[nodiscard]] QString timesText(const Watch& watch) const;

  Document& document_;
  Preferences& preferences_;
  std::string watchId_;
  QLabel* name_;
  QLabel* figure_;
  QLabel* margin_;
  QLabel* place_;
  QLabel* times_;
  MarginBar* bar_;
  QuantityField* lower_;
  QuantityField* upper_;
};

} // namespace kiln
