// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "document/Document.h"
#include "look/Preferences.h"

#include <QWidget>

class QLabel;
class QTreeWidget;
class QVBoxLayout;

namespace kiln
{

/// All surfaces with their faces, area and uses, and all finishes with the surfaces they lie on: to rename, change and
/// remove them, and to see what is left over.
class SurfacesPage : public QWidget
{
  Q_OBJECT

public:
  SurfacesPage(Document& document, Preferences& preferences, QWidget* parent = nullptr);

protected:
  void showEvent(QShowEvent* event) override;

signals:
  /// Leads to an object that uses a surface.
  void objectWanted(const QString& id);

private:
  QWidget* makeList();
  void refresh();
  void showChoice();
  void addName(QVBoxLayout& layout, const Object& object);
  void showSurface(QVBoxLayout& layout, const Surface& surface);
  void showFinish(QVBoxLayout& layout, const Finish& finish);
  void addRemove(QVBoxLayout& layout, const std::string& id);
  void addSurface();
  void addFinish();
  void choose(const std::string& id);
  [[nodiscard]] std::string chosen() const;
  /// Sources, boundaries and watches on a surface.
  [[nodiscard]] std::vector<const Object*> usersOf(const std::string& surfaceId) const;

  Document& document_;
  Preferences& preferences_;
  QTreeWidget* list_;
  QVBoxLayout* right_;
  QWidget* detail_ = nullptr;
  QLabel* message_;
  std::string shown_; ///< what the detail was built for
};

} // namespace kiln
