// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "document/Document.h"
#include "look/Preferences.h"

#include <QWidget>
#include <unordered_map>

class QLabel;
class QTableWidget;

namespace kiln
{

class QuantityField;

/// The strip's page How long: for the whole model, every part and every watched temperature of the shown run its peak
/// and when, how soon it has done 63 and 95 % of its change, when it has settled within a band, its fastest heating and
/// cooling with their place, and the largest spread within a part. A click on an instant moves the playhead there.
class TimesPage : public QWidget
{
  Q_OBJECT

public:
  TimesPage(Document& document, Preferences& preferences, QWidget* parent = nullptr);

protected:
  void showEvent(QShowEvent* event) override;

private:
  void refresh();
  void fill();
  void addWhole(const RunRecord& run, const std::vector<PartInTime>& parts);
  void addAnswers(int row, const RunAnswers& answers);
  void addRate(int row, int column, const TimedValue& rate, const QString& place);
  int addRow(const QString& name, const QString& kind);
  void set(int row, int column, const QString& text, std::optional<double> instant = std::nullopt);
  [[nodiscard]] QString temperature(double kelvin) const;
  [[nodiscard]] QString placeIn(const std::string& part, NodeId node) const;
  [[nodiscard]] QString placeOf(NodeId node) const;
  void locatePlaces(const RunRecord& run);
  void setBand(const Number& band);

  Document& document_;
  Preferences& preferences_;
  QTableWidget* table_;
  QuantityField* band_;
  QLabel* empty_;
  std::unordered_map<NodeId, PartId> partOfNode_; ///< of places that are shown
};

} // namespace kiln
