// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "document/Document.h"
#include "geometry/BoltedJoint.h"

#include <QDialog>
#include <array>
#include <optional>

class QLabel;
class QLineEdit;
class QPushButton;

namespace kiln
{

class QuantityField;

/// Asks for a bolt's force and what it presses on, says the conductance that follows, and makes both contacts.
class BoltedJointDialog : public QDialog
{
  Q_OBJECT

public:
  BoltedJointDialog(Document& document, std::string partA, std::string partB, QWidget* parent);

private:
  /// As it is entered; nothing while something is missing.
  [[nodiscard]] std::optional<BoltedJoint> joint() const;
  void refresh();
  void apply();

  Document& document_;
  std::string partA_, partB_;
  QLineEdit* force_;
  std::array<QuantityField*, 3> centre_{};
  QuantityField *reach_, *hole_, *roughness_, *slope_, *hardness_, *elsewhere_;
  QLabel* message_;
  QPushButton* use_ = nullptr;
};

} // namespace kiln
