// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "document/Document.h"
#include "io/PointFile.h"
#include "look/Preferences.h"

#include <QWidget>

class QGridLayout;
class QMenu;
class QLabel;

namespace kiln
{

/// The project's parameters: name, kind, value or formula, where used, a slider for quick what-if.
class ParametersPage : public QWidget
{
  Q_OBJECT

public:
  ParametersPage(Document& document, Preferences& preferences, QWidget* parent = nullptr);

public slots:
  void addParameter();
  void askForPoints();
  /// Takes a table from the clipboard: names and values, or points with a head that names their units.
  void paste();

public:
  /// Takes a table of points from a file as a new parameter that varies in place.
  void addPoints(const QString& file);

protected:
  void showEvent(QShowEvent* event) override;
  void keyPressEvent(QKeyEvent* event) override;

signals:
  /// Leads to an object that uses a parameter.
  void objectWanted(const QString& id);

private:
  void takePoints(const PointTable& table, const QString& from);
  void refresh();
  void rebuild();
  void addRow(int row, const Parameter& parameter);
  void rename(const std::string& id, const QString& name);
  [[nodiscard]] QWidget* takenButton(const Parameter& parameter);
  void fillTakenMenu(QMenu& menu, const std::string& id);
  void take(const std::string& id, const std::optional<TakenFigure>& taken);
  void slide(const std::string& id, double share);
  void say(const QString& sentence, bool wrong);

  Document& document_;
  Preferences& preferences_;
  QWidget* body_ = nullptr;
  QGridLayout* grid_ = nullptr;
  QLabel* message_;
  std::string structure_;
};

/// Everything that uses a parameter: id and what to call it ("part Shell, Size x").
[[nodiscard]] std::vector<std::pair<std::string, QString>> usesOf(const Project& project, const std::string& name);

} // namespace kiln
