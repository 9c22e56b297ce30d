// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "document/Document.h"
#include "look/Preferences.h"

#include <QWidget>

class QLabel;
class QToolButton;

namespace kiln
{

class FlowLayout;

/// A surface's rule as a sentence of chips: "faces of [Shell, Lid] that are exposed and [facing up ±20°], except
/// [Vent]". Every chip opens what it says; below stand the live count and area.
class SurfaceSentence : public QWidget
{
  Q_OBJECT

public:
  SurfaceSentence(Document& document, Preferences& preferences, std::string surfaceId, QWidget* parent = nullptr);

signals:
  void said(const QString& sentence, bool wrong);

private:
  [[nodiscard]] const Surface* surface() const;
  void rebuild();
  void refreshCount();
  void word(const QString& text);
  QToolButton* chip(const QString& text, const char* name);
  void addOfChip();
  void addFacingChip();
  void addWithinChip();
  void addNearChip();
  void addExceptChip();
  void addPickedChips();
  void addConditionMenu();
  void addFields(const std::string& under);
  void edit(const QString& name, const std::function<void(Surface&)>& change);
  void checkList(QToolButton& chip, const std::vector<std::pair<std::string, QString>>& entries,
                 std::vector<std::string> Surface::*list);

  Document& document_;
  Preferences& preferences_;
  std::string id_;
  QWidget* words_ = nullptr;
  FlowLayout* flow_ = nullptr;
  QWidget* numbers_ = nullptr;
  QLabel* count_;
};

} // namespace kiln
