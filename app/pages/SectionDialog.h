// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "document/Document.h"

#include <QDialog>
#include <functional>

class QComboBox;
class QFormLayout;
class QLabel;
class QPushButton;

namespace kiln
{

class QuantityField;

/// Makes the project a section model, or cuts a solid one into a section model of its own, beside it.
class SectionDialog : public QDialog
{
  Q_OBJECT

public:
  /// \param open  shows the project of a section that was cut, by its file
  SectionDialog(Document& document, std::function<void(const QString& file)> open, QWidget* parent = nullptr);

private:
  [[nodiscard]] std::optional<Section> chosen() const;
  void refresh();
  void apply();
  void cut();
  [[nodiscard]] double middle(int axis) const;
  void say(const QString& sentence, bool wrong);

  Document& document_;
  std::function<void(const QString&)> open_;
  QFormLayout* form_;
  QComboBox* kind_;
  QComboBox* across_;
  QuantityField* at_;
  QuantityField* depth_;
  QuantityField* axisX_;
  QuantityField* axisY_;
  QLabel* message_;
  QPushButton* cut_;
};

} // namespace kiln
