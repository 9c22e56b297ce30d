// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "document/Document.h"
#include "look/Preferences.h"

#include <QAbstractButton>

class QMenu;

namespace kiln
{

/// A case as a chip: name, worst margin, state. Ctrl and Shift add others to it; they can be dragged to another place.
class CaseChip : public QAbstractButton
{
  Q_OBJECT

public:
  CaseChip(Document& document, Preferences& preferences, std::string caseId, QWidget* parent = nullptr);

  [[nodiscard]] const std::string& caseId() const { return caseId_; }
  void refresh();
  [[nodiscard]] QSize sizeHint() const override;

signals:
  void solveWanted(const std::vector<std::string>& caseIds);
  /// Everything from the shown case to this one is meant.
  void rangeWanted(const std::string& caseId);
  void moveWanted(const std::string& caseId, int places);

protected:
  void paintEvent(QPaintEvent* event) override;
  void mousePressEvent(QMouseEvent* event) override;
  void mouseMoveEvent(QMouseEvent* event) override;
  void mouseReleaseEvent(QMouseEvent* event) override;
  void mouseDoubleClickEvent(QMouseEvent* event) override;
  void keyPressEvent(QKeyEvent* event) override;
  void contextMenuEvent(QContextMenuEvent* event) override;
  void dragEnterEvent(QDragEnterEvent* event) override;
  void dropEvent(QDropEvent* event) override;

private:
  void paintState(QPainter& painter, const QRectF& box, CaseState::Stage stage) const;
  /// This case, or all that are selected with it.
  [[nodiscard]] std::vector<std::string> meant() const;
  void addForMany(QMenu& menu, const std::vector<std::string>& ids);
  void addShares(QMenu& menu, const std::vector<std::string>& ids);
  void askForGroup(const std::vector<std::string>& ids);
  void startDrag();

  Document& document_;
  Preferences& preferences_;
  std::string caseId_;
  QString name_, margin_;
  QPoint pressed_;
  bool bad_ = false, selected_ = false, toggling_ = false;
};

} // namespace kiln
