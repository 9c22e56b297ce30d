// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include "document/Document.h"
#include "look/Preferences.h"

#include <QAbstractButton>

namespace kiln
{

/// A case as a chip: name, worst margin, state.
class CaseChip : public QAbstractButton
{
  Q_OBJECT

public:
  CaseChip(Document& document, Preferences& preferences, std::string caseId, QWidget* parent = nullptr);

  [[nodiscard]] const std::string& caseId() const { return caseId_; }
  void refresh();
  [[nodiscard]] QSize sizeHint() const override;

protected:
  void paintEvent(QPaintEvent* event) override;
  void mouseDoubleClickEvent(QMouseEvent* event) override;
  void contextMenuEvent(QContextMenuEvent* event) override;

private:
  void paintState(QPainter& painter, const QRectF& box, CaseState::Stage stage) const;

  Document& document_;
  Preferences& preferences_;
  std::string caseId_;
  QString name_, margin_;
  bool bad_ = false;
};

} // namespace kiln
