// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "document/LedgerRows.h"
#include "look/Preferences.h"

#include <QWidget>

namespace kiln
{

class RowEditor;
class SwitchButton;

/// One line of the ledger. Click selects, double click or Enter opens it in place, Space or the switch turns it off,
/// up and down move on.
class LedgerRowView : public QWidget
{
  Q_OBJECT

public:
  LedgerRowView(Document& document, Preferences& preferences, LedgerRow row, QWidget* parent = nullptr);

  [[nodiscard]] const LedgerRow& row() const { return row_; }
  void setRow(LedgerRow row, bool outOfDate);
  void setSelected(bool selected);
  /// The pointer is at it in some other picture.
  void setPointed(bool pointed);
  void setOpen(bool open);
  [[nodiscard]] bool isOpen() const { return editor_ != nullptr; }
  [[nodiscard]] QString figureText() const;

signals:
  void movedTo(int direction);
  void reorderWanted(int direction);

protected:
  void paintEvent(QPaintEvent* event) override;
  void resizeEvent(QResizeEvent* event) override;
  void mousePressEvent(QMouseEvent* event) override;
  void mouseMoveEvent(QMouseEvent* event) override;
  void dragEnterEvent(QDragEnterEvent* event) override;
  void dropEvent(QDropEvent* event) override;
  void mouseDoubleClickEvent(QMouseEvent* event) override;
  void keyPressEvent(QKeyEvent* event) override;
  void focusInEvent(QFocusEvent* event) override;

private:
  void toggleMuted();
  void paintGlyph(QPainter& painter, const QRectF& box) const;
  [[nodiscard]] QRect foldBox() const;
  void paintFold(QPainter& painter) const;
  [[nodiscard]] int headHeight() const;

  Document& document_;
  Preferences& preferences_;
  LedgerRow row_;
  RowEditor* editor_ = nullptr;
  SwitchButton* mute_;
  bool selected_ = false, pointed_ = false;
  QPoint pressedAt_;
  bool outOfDate_ = false;
};

} // namespace kiln
