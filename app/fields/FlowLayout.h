// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include <QLayout>
#include <QList>

namespace kiln
{

/// Lays widgets out like words of a text: side by side, then on the next line.
class FlowLayout : public QLayout
{
public:
  explicit FlowLayout(QWidget* parent = nullptr);
  ~FlowLayout() override;

  void addItem(QLayoutItem* item) override { items_.append(item); }
  [[nodiscard]] int count() const override { return static_cast<int>(items_.size()); }
  [[nodiscard]] QLayoutItem* itemAt(int index) const override { return items_.value(index); }
  QLayoutItem* takeAt(int index) override;
  [[nodiscard]] Qt::Orientations expandingDirections() const override { return {}; }
  [[nodiscard]] bool hasHeightForWidth() const override { return true; }
  [[nodiscard]] int heightForWidth(int width) const override { return place({0, 0, width, 0}, true); }
  [[nodiscard]] QSize sizeHint() const override { return minimumSize(); }
  [[nodiscard]] QSize minimumSize() const override;
  void setGeometry(const QRect& box) override;

private:
  [[nodiscard]] int place(const QRect& box, bool onlyMeasure) const;

  QList<QLayoutItem*> items_;
};

} // namespace kiln
