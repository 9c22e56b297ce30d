// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include <QObject>
#include <QTextFormat>
#include <QTextObjectInterface>

namespace kiln
{

/// A picture of lines and letters within a text: a letter of its own kind, its format has the size and the SVG text.
class DrawingObject : public QObject, public QTextObjectInterface
{
  Q_OBJECT
  Q_INTERFACES(QTextObjectInterface)

public:
  static constexpr int type = QTextFormat::UserObject + 1;
  static constexpr int svg = QTextFormat::UserProperty + 1;

  using QObject::QObject;
  /// In the pixels of the device: the layout does not bring it there.
  QSizeF intrinsicSize(QTextDocument* document, int position, const QTextFormat& format) override;
  void drawObject(QPainter* painter, const QRectF& rect, QTextDocument* document, int position,
                  const QTextFormat& format) override;
};

} // namespace kiln
