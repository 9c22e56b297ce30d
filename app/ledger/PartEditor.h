// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "document/Document.h"
#include "look/Preferences.h"
#include "model/Fields.h"

#include <QWidget>

class QFormLayout;
class QMenu;
class QToolButton;

namespace kiln
{

class MoreRows;

/// What a part is made of and how its shape is built: material, group, form, place, steps, repeats.
class PartEditor : public QWidget
{
  Q_OBJECT

public:
  PartEditor(Document& document, Preferences& preferences, std::string partId, QWidget* parent = nullptr);

  /// Rows of the part that are seldom needed.
  [[nodiscard]] QFormLayout& more();

signals:
  void said(const QString& sentence, bool wrong);

private:
  [[nodiscard]] const Part& part() const { return *findById(document_.project().parts, id_); }
  void editPart(const QString& name, const std::function<void(Part&)>& change);
  void addMaterial();
  void addGroup();
  void addForm();
  void addRepeat(const std::string& under, const Repeat& repeat,
                 const std::function<void(Part&, const Repeat&)>& apply);
  void addYields();
  void addSteps();
  void addStep(const ShapeStep& step);
  void addStepTools(const ShapeStep& step);
  void addStepFaces(const ShapeStep& step);
  void addStepMenu();
  void addColour();
  void addElements();
  void addUpTo(const std::string& stepId, const std::string& face);
  void addPlaceMenu();
  /// Every number under a path; three that belong together stand in one line.
  void addFields(const std::string& under, const std::vector<std::string>& except = {});
  QWidget* boundField(const Field& field);
  void addSheetButton();
  QToolButton* menuButton(const QString& text, const char* name, QMenu*& menu);

  Document& document_;
  Preferences& preferences_;
  std::string id_;
  QFormLayout* form_; ///< that rows are added to
  MoreRows* more_;
};

} // namespace kiln
