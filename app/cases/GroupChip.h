// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "document/Document.h"
#include "look/Preferences.h"

#include <QToolButton>

namespace kiln
{

/// The head of a group of cases: its name, how many it has, and its worst margin. A click folds it; cases dropped on it
/// join it.
class GroupChip : public QToolButton
{
  Q_OBJECT

public:
  GroupChip(Document& document, Preferences& preferences, std::string group, QWidget* parent = nullptr);

  [[nodiscard]] const std::string& group() const { return group_; }
  /// \param shown  how many of its cases fit the filter
  void refresh(bool folded, std::size_t shown);

signals:
  void foldWanted(const std::string& group);
  void solveWanted(const std::vector<std::string>& caseIds);

protected:
  void contextMenuEvent(QContextMenuEvent* event) override;
  void dragEnterEvent(QDragEnterEvent* event) override;
  void dropEvent(QDropEvent* event) override;

private:
  [[nodiscard]] std::vector<std::string> caseIds() const;
  void rename();

  Document& document_;
  Preferences& preferences_;
  std::string group_;
};

/// Cases on their way from one place in the row to another.
inline constexpr const char* draggedCases = "application/x-usual-kiln-cases";

} // namespace kiln
