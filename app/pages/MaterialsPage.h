// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "document/Document.h"
#include "look/Preferences.h"

#include <QWidget>

class QLabel;
class QLineEdit;
class QTreeWidget;
class QFormLayout;
class QVBoxLayout;

namespace kiln
{

class CurveView;
class QuantityField;

/// Materials of the project, of the user's library and of the built-in one: searched by name and by conductivity, with
/// the values of the chosen one beside the list.
class MaterialsPage : public QWidget
{
  Q_OBJECT

public:
  MaterialsPage(Document& document, Preferences& preferences, QWidget* parent = nullptr);

public slots:
  void addMaterial();
  void askForCavity();
  void takeIn();
  void takeFrom(const QString& file);
  /// Takes a table of materials from the clipboard, as a spreadsheet copies it.
  void paste();

protected:
  void showEvent(QShowEvent* event) override;
  void keyPressEvent(QKeyEvent* event) override;

private:
  enum class Origin { Project, Mine, BuiltIn };
  struct Choice {
    Origin origin = Origin::Project;
    Material material;
  };

  void take(const Expected<std::vector<Material>>& materials);
  QWidget* makeList();
  void refreshList();
  void writeOut(const std::vector<Material>& materials);
  void showChoice();
  [[nodiscard]] std::string standsForOf(const std::string& id) const;
  void addStandIn(const std::string& id, QFormLayout& form);
  void showValues(const Choice& choice, QVBoxLayout& layout);
  void showActions(const Choice& choice, QVBoxLayout& layout);
  [[nodiscard]] bool wanted(const Material& material) const;
  [[nodiscard]] std::optional<Choice> choice() const;
  void say(const QString& sentence, bool wrong);

  Document& document_;
  Preferences& preferences_;
  QLineEdit* search_;
  QuantityField* lowest_;
  QuantityField* highest_;
  QTreeWidget* list_;
  QWidget* detail_ = nullptr;
  QVBoxLayout* right_;
  QLabel* message_;
  std::vector<Choice> choices_;
  std::string shown_; ///< what the detail was built for
};

} // namespace kiln
